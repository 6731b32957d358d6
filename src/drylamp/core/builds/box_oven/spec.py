"""The box oven: its typed spec."""

from __future__ import annotations

from typing import ClassVar, Literal, Self

from pydantic import Field

from drylamp.core.builds.common.box.spec import INSIDE, Box
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps
from drylamp.core.builds.common.vent.spec import Vented
from drylamp.core.checks import Azimuth, Tilt


class BoxOven(Vented, Box):
    """A box, black tray below, glazed above, up to four mirrors; sizes are inside the box."""

    unnamed_in_old_files: ClassVar[bool] = True

    kind: Literal["box-oven"] = "box-oven"
    shape: Literal["box", "wedge"] = Field(
        default="box", description="box: tilts whole; wedge: stands level, only its opening slopes"
    )
    shelf: Literal["fixed", "level"] = Field(
        default="fixed", description="level: a swinging shelf keeps the pot upright"
    )
    facing_deg: Azimuth = Field(description="The way the opening looks, clockwise from north")
    tilt_deg: Tilt = Field(default=30, description="Tilt of the opening from level")
    height_m: INSIDE = Field(default=0.25, description="Tray to opening; of a wedge, its low side")
    mirror: FlapMirror | None = Field(default=FlapMirror(), description="On the upper edge")
    flaps: MoreFlaps = MoreFlaps()

    @property
    def is_wedge(self) -> bool:
        """Whether it stands level and only its opening slopes."""
        return self.shape == "wedge"

    @property
    def has_level_shelf(self) -> bool:
        """Whether a swinging shelf keeps the pot upright."""
        return self.shelf == "level"

    @property
    def more_flaps(self) -> MoreFlaps:
        """Mirrors on the other three edges."""
        return self.flaps

    def with_flaps(self, mirror: FlapMirror | None, more: MoreFlaps) -> Self:
        """A copy with other mirrors."""
        return self.with_(mirror=mirror, flaps=more)

    def as_light_meets_it(self) -> Self:
        """The same with whatever light does not mind made alike."""
        return super().as_light_meets_it().with_(vent_cm2=0.0)
