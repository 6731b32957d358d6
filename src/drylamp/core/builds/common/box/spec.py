"""The glazed box that several kinds are: black floor below, cover above, insulated walls, mirrors on its edges."""

from __future__ import annotations

import math
from typing import Annotated, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.common.box.frame import LidFrame
from drylamp.core.builds.common.cover.covered import Covered
from drylamp.core.builds.common.mirror.flapped import Flapped
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps, StandingMirror
from drylamp.core.builds.common.seal.spec import Sealed
from drylamp.core.builds.common.turning.spec import Turned
from drylamp.core.checks import Number
from drylamp.core.common.wall import Wall, WallLayer, wall_thickness_m
from drylamp.core.forms import asked
from drylamp.core.loads.common.places import DRAINING
from drylamp.core.loads.load import Load
from drylamp.core.tables import FinishChoice
from drylamp.core.text import degrees

SLIDES_DEG, FALLS_DEG = 25.0, 60.0
"""Where things slide on dry metal (friction of about 0.45), and where nothing stays; from memory."""
INSIDE = Annotated[Number, Field(ge=0.05, le=3)]
NO_FLAPS = MoreFlaps()


def _longer(flap: FlapMirror | None, times: float) -> FlapMirror | None:
    return None if flap is None else flap.longer(times)


class Box(Covered, Sealed, Turned, Flapped):
    """A box; sizes are inside. What only some boxes have (a wedge's shape, a level shelf, more flaps, a vent) stands still here."""

    width_m: INSIDE = Field(default=0.45, json_schema_extra=asked("box"))
    length_m: INSIDE = Field(default=0.45, title="Length up the slope", json_schema_extra=asked("box"))
    height_m: INSIDE = Field(default=0.25, title="Height, tray to cover", json_schema_extra=asked("box"))
    wall: Wall = Field(title="Layers", description="From the inside out", json_schema_extra=asked("wall"))
    outside: FinishChoice = Field(
        default="bare-wood",
        title="Outer face",
        description="What the sun meets on the walls",
        json_schema_extra=asked("wall"),
    )
    floor: list[WallLayer] = Field(
        default_factory=list,
        max_length=6,
        title="Floor",
        description="From the inside out; none: built as the walls",
        json_schema_extra=asked("floor"),
    )
    under_tray: list[WallLayer] = Field(
        default_factory=list,
        max_length=3,
        title="Under the tray",
        description="Laid between tray and floor",
        json_schema_extra=asked("floor"),
    )
    frame: LidFrame | None = Field(
        default=None,
        title="Frame of the lid",
        description="Strip round the pane that is the hollow's upper edge",
        json_schema_extra=asked("frame"),
    )
    lining: FinishChoice = Field(
        default="aluminium-foil", title="Finish", description="Of the inner walls", json_schema_extra=asked("lining")
    )
    tray: FinishChoice = Field(
        default="flat-black-paint", title="Finish", description="What the sun lands on", json_schema_extra=asked("tray")
    )
    tray_sheet: WallLayer = Field(
        default=WallLayer(material="sheet-steel", thickness_m=0.0007),
        title="Sheet",
        description="What the tray is made of",
        json_schema_extra=asked("tray"),
    )

    bridges_w_k: Annotated[Number, Field(ge=0, le=100)] = Field(
        default=0.0, description="Heat bridges from the floor to the outside, W/K: screws, rims, frames", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    def fresh(self, field: str) -> BaseModel:
        """One more layer of a wall is cork."""
        if field in ("wall", "under_tray"):
            return WallLayer(material="cork-board", thickness_m=0.02)
        if field == "floor":
            return self.floor[-1] if self.floor else self.wall[-1]
        return LidFrame() if field == "frame" else super().fresh(field)

    @model_validator(mode="after")
    def _framed(self) -> Self:
        if self.frame is not None and self.frame.height_m > self.height_m:
            raise ValueError(
                f"frame.height_m {self.frame.height_m:g} is more than the box is high inside, {self.height_m:g} m; give a lower frame or a deeper box"
            )
        return self

    @property
    def floor_layers(self) -> list[WallLayer]:
        """Everything under the tray, from it outward."""
        return [*self.under_tray, *(self.floor or self.wall)]

    @property
    def floor_thickness_m(self) -> float:
        """All that is under the tray."""
        return wall_thickness_m(self.floor_layers)

    @property
    def is_wedge(self) -> bool:
        """Whether it stands level and only its opening slopes."""
        return False

    @property
    def has_level_shelf(self) -> bool:
        """Whether a swinging shelf keeps a pot upright."""
        return False

    @property
    def more_flaps(self) -> MoreFlaps:
        """Mirrors on the other three edges."""
        return NO_FLAPS

    @property
    def mirror_behind(self) -> StandingMirror | None:
        """A mirror that stands behind it by itself."""
        return None

    @property
    def has_one_flap_at_most(self) -> bool:
        """Whether all its mirrors are the one on the upper edge, whose light has a closed form."""
        return not self.more_flaps.any and self.mirror_behind is None

    @property
    def vent_m2(self) -> float:
        """Open area of a vent."""
        return 0.0

    def with_flaps(self, mirror: FlapMirror | None, more: MoreFlaps) -> Self:
        """A copy with other mirrors, as far as it has edges for them."""
        return self.with_(mirror=mirror)

    def lets_go_of(self, load: Load | None) -> str:
        """A steep floor lets go of what stands or lies on it."""
        if load is None or self.pot_tilt_deg <= SLIDES_DEG or load.sits == DRAINING:
            return ""
        return f"{load.title} slides on a floor that leans {degrees(self.pot_tilt_deg)}, from about {degrees(SLIDES_DEG)} on bare metal; give it a ledge or a level shelf"

    def without_mirrors(self) -> Self:
        """A copy with none."""
        return self.with_flaps(None, NO_FLAPS)

    def as_light_meets_it(self) -> Self:
        """The same with whatever light does not mind made alike, in the opening's own axes where that is the whole story."""
        alike: dict[str, object] = {
            "facing_deg": 180.0, "wall": [WallLayer(material="plywood", thickness_m=0.01)], "seal_gap_mm": 0.0, "floor": [], "under_tray": [],
            "outside": "bare-wood",
        }  # fmt: skip
        own_axes = self.is_plain and self.mirror_behind is None
        return self.with_(**alike, **({"tilt_deg": 0.0} if own_axes else {}))

    @property
    def mirrors(self) -> dict[str, FlapMirror]:
        """Mirrors by the edge they hang on."""
        more = self.more_flaps
        edges = {"upper": self.mirror, "lower": more.lower, "left": more.left, "right": more.right}
        return {edge: flap for edge, flap in edges.items() if flap is not None}

    @property
    def largest_mirror_m2(self) -> float:
        """Area of the largest mirror; 0 without any."""
        along = {"upper": self.width_m, "lower": self.width_m, "left": self.length_m, "right": self.length_m}
        behind = self.mirror_behind
        areas = [along[edge] * flap.length_m for edge, flap in self.mirrors.items()]
        return max([*areas, 0.0 if behind is None else behind.width_m * behind.height_m])

    @property
    def opening_m2(self) -> float:
        """Area of the opening."""
        return self.width_m * self.length_m

    @property
    def glazed_m(self) -> tuple[float, float] | None:
        """All of its opening."""
        return self.width_m, self.length_m

    def stretched(self, wide: float, long: float) -> Self | None:
        """Width and length; mirrors on its edges are as long as before against what they shine on."""
        larger = self.with_flaps(_longer(self.mirror, long), self.more_flaps.stretched(wide, long))
        return larger.resized(width_m=round(self.width_m * wide, 3), length_m=round(self.length_m * long, 3))

    @property
    def is_plain(self) -> bool:
        """Whether floor and opening lie square to each other with a pot square on the floor."""
        return self.tilt_deg == 0 or not (self.is_wedge or self.has_level_shelf)

    @property
    def floor_length_m(self) -> float:
        """Length of the floor, front to back."""
        return self.length_m * math.cos(math.radians(self.tilt_deg)) if self.is_wedge else self.length_m

    @property
    def back_height_m(self) -> float:
        """Height of the back wall inside."""
        rise = self.length_m * math.sin(math.radians(self.tilt_deg)) if self.is_wedge else 0.0
        return self.height_m + rise

    @property
    def floor_tilt_deg(self) -> float:
        """Tilt of the floor from level."""
        return 0.0 if self.is_wedge else self.tilt_deg

    @property
    def pot_tilt_deg(self) -> float:
        """How far a pot on the shelf leans."""
        return 0.0 if self.has_level_shelf else self.floor_tilt_deg

    @property
    def across_m(self) -> float:
        """Outside, walls and all."""
        return self.width_m + 2.0 * self.wall_thickness_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and length of the floor."""
        return self.width_m, self.floor_length_m

    @property
    def floor_m2(self) -> float:
        """Area of the floor."""
        return self.width_m * self.floor_length_m

    @property
    def frame_m2(self) -> float:
        """Area of the lid frame's inner face."""
        return 0.0 if self.frame is None else self.rim_m * self.frame.height_m

    @property
    def sides_m2(self) -> float:
        """Area of the inner walls up to the lid's frame."""
        front_and_back = self.width_m * (self.height_m + self.back_height_m)
        return max(front_and_back + self.floor_length_m * (self.height_m + self.back_height_m) - self.frame_m2, 1e-4)

    @property
    def wall_thickness_m(self) -> float:
        """All layers together."""
        return wall_thickness_m(self.wall)

    @property
    def rim_m(self) -> float:
        """Length of the seal round the cover."""
        return 2 * (self.width_m + self.length_m)
