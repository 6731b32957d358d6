"""The dish: a paraboloid of mirror with a pot at its focus, turned after the sun by hand."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from drylamp.core.builds.build import Tracking, faces
from drylamp.core.builds.common.mirror.sheet import MirrorSheet
from drylamp.core.builds.common.turning.spec import MINUTES, Turned, turned_every
from drylamp.core.checks import Azimuth, Number, Tilt
from drylamp.core.forms import asked
from drylamp.core.tables import MirrorChoice

SURFACE_MRAD: dict[str, float] = {"smooth": 3.0, "fair": 8.0, "rough": 18.0}
"""How far the normal of a dish as built strays from the true one, beside its sheet's own error; from memory."""


class Dish(MirrorSheet, Turned):
    """A dish and the ring that holds the pot."""

    tracking: ClassVar[Tracking] = "both"
    axis_leans: ClassVar[bool] = True

    kind: Literal["dish"] = "dish"
    facing_deg: Azimuth = faces("Where it is left standing")
    tilt_deg: Tilt = Field(
        default=35,
        title="Axis leans from upright",
        description="Where it is left standing",
        json_schema_extra=asked("aim"),
    )
    diameter_m: Annotated[Number, Field(ge=0.3, le=5)] = Field(
        default=1.4, title="Across", json_schema_extra=asked("mirror")
    )
    focal_m: Annotated[Number, Field(ge=0.1, le=4)] = Field(
        default=0.6, title="Focal length", json_schema_extra=asked("mirror")
    )
    mirror: MirrorChoice = Field(
        default="anodised-sheet",
        json_schema_extra=asked("mirror"),
    )
    surface: Literal["smooth", "fair", "rough"] = Field(
        default="fair",
        title="Curve",
        description="How true it is",
        json_schema_extra=asked(
            "mirror",
            options={
                "smooth": "smooth, pressed or spun",
                "fair": "fair, petals on ribs",
                "rough": "rough, foil on card",
            },
        ),
    )
    pot_offset_m: Annotated[Number, Field(ge=-0.5, le=0.5)] = Field(
        default=0.0,
        title="Pot above the focus",
        description="Its middle, along the axis",
        json_schema_extra=asked("mirror"),
    )
    turned_minutes: MINUTES | None = turned_every(20.0)

    @model_validator(mode="after")
    def _holds_a_focus(self) -> Dish:
        if self.focal_m < self.diameter_m / 8:
            raise ValueError(
                f"focal_m {self.focal_m:g} is shorter than an eighth of the dish's {self.diameter_m:g} m; it would be deeper "
                "than it is wide, give a longer focus"
            )
        return self

    @property
    def has_mirror(self) -> bool:
        """It always is one."""
        return True

    @property
    def slope_error_mrad(self) -> float:
        """Of sheet and curve together."""
        return math.hypot(self.mirror_row.slope_error_mrad, SURFACE_MRAD[self.surface])

    def stretched(self, wide: float, long: float) -> Dish | None:
        """As round as before, its focus as far out against its width."""
        by = math.sqrt(wide * long)
        return self.resized(diameter_m=round(self.diameter_m * by, 3), focal_m=round(self.focal_m * by, 3))

    @property
    def opening_m2(self) -> float:
        """Area of its mouth."""
        return math.pi / 4 * self.diameter_m**2

    @property
    def depth_m(self) -> float:
        """From rim to lowest point."""
        return self.diameter_m**2 / (16 * self.focal_m)

    @property
    def across_m(self) -> float:
        """Its rim."""
        return self.diameter_m

    @property
    def is_round(self) -> bool:
        """A dish is."""
        return True

    @property
    def floor_m(self) -> tuple[float, float]:
        """Nothing lies in a dish."""
        return (0.3, 0.3)
