"""The box oven: its typed spec."""

from __future__ import annotations

from typing import ClassVar, Literal, Self

from pydantic import Field

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.box.spec import INSIDE, Box
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps
from drylamp.core.builds.common.vent.spec import Vented
from drylamp.core.checks import Azimuth, Tilt
from drylamp.core.forms import asked


class BoxOven(Vented, Box):
    """A box, black tray below, glazed above, up to four mirrors; sizes are inside the box."""

    unnamed_in_old_files: ClassVar[bool] = True

    kind: Literal["box-oven"] = "box-oven"
    shape: Literal["box", "wedge"] = Field(
        default="box",
        description="A wedge stands level, only its opening slopes",
        json_schema_extra=asked("box", options={"box": "box that tilts whole", "wedge": "wedge, stands level"}),
    )
    shelf: Literal["fixed", "level"] = Field(
        default="fixed",
        description="A swinging shelf keeps the pot upright",
        json_schema_extra=asked("box", options={"fixed": "fixed, leans with the box", "level": "swings level"}),
    )
    facing_deg: Azimuth = faces("The way the opening looks")
    tilt_deg: Tilt = Field(
        default=30, title="Tilt of the opening", description="From level", json_schema_extra=asked("aim")
    )
    height_m: INSIDE = Field(
        default=0.25,
        title="Height, tray to cover",
        description="Of a wedge, its low side",
        json_schema_extra=asked("box"),
    )
    mirror: FlapMirror | None = Field(
        default=FlapMirror(),
        title="Upper edge",
        description="Hinged on the upper edge",
        json_schema_extra=asked("mirror"),
    )
    flaps: MoreFlaps = Field(
        default=MoreFlaps(),
        title="Other edges",
        description="Left and right as seen from the lower edge",
        json_schema_extra=asked("mirror"),
    )

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
