"""Builds with a place for a flat mirror on the upper edge of their opening, set by hand."""

from __future__ import annotations

from typing import Self

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.forms import asked
from drylamp.core.optics.booster import HingedMirror


class Flapped(Build):
    """A build whose upper edge may carry a mirror."""

    mirror: FlapMirror | None = Field(
        default=None, title="Upper edge", description="Hinged on the upper edge", json_schema_extra=asked("mirror")
    )

    @property
    def upper_mirror(self) -> HingedMirror | None:
        """The flap as optics sees it."""
        if self.mirror is None:
            return None
        return HingedMirror(self.mirror.length_m, self.mirror.angle_deg, self.mirror.row.reflectance)

    @property
    def flap_angle_deg(self) -> float | None:
        """Angle of the upper mirror."""
        return None if self.mirror is None else self.mirror.angle_deg

    @property
    def flap_path(self) -> str:
        """The upper mirror's angle."""
        return "mirror.angle_deg"

    def without_flap(self) -> Self:
        """A copy without the upper mirror."""
        return self.with_(mirror=None)

    def without_mirrors(self) -> Self:
        """A copy with none."""
        return self.without_flap()

    def with_flap_at(self, angle_deg: float) -> Self:
        """A copy with the upper mirror at another angle."""
        assert self.mirror is not None
        return self.with_(mirror=self.mirror.model_copy(update={"angle_deg": angle_deg}))
