"""The food dryer: trays in a cabinet that warm air rises through, with a collector below it, glass over it, a chimney on it, or all of them."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Chimney, Fan, Inlet, RoundDuct, Vent
from drylamp.core.builds.common.cover.spec import GlazedCover, Skin
from drylamp.core.builds.common.turning.spec import Turned
from drylamp.core.checks import Azimuth, Count, Fraction, Model, Number, Tilt, YesNo, require
from drylamp.core.common.wall import Wall, WallLayer, wall_thickness_m
from drylamp.core.forms import asked
from drylamp.core.loads.load import Reader
from drylamp.core.tables import FinishChoice
from drylamp.core.text import counted

MOST_TRAYS = 16
DRAUGHT, OVER_TRAYS = "draught", "over-trays"
"""The way of its air, and the air that leaves it."""


class Trays(Model):
    """The trays: how many, how far apart, how open."""

    count: Annotated[Count, Field(ge=1, le=MOST_TRAYS)] = Field(default=6, title="Trays")
    spacing_m: Annotated[Number, Field(ge=0.03, le=0.6)] = Field(default=0.10, title="From tray to tray")
    open_share: Annotated[Number, Field(ge=0.05, le=0.95)] = Field(default=0.6, title="Open share of the mesh")
    mesh: Literal["stainless", "food-plastic", "cotton", "glass-fibre", "galvanised"] = Field(
        default="stainless", title="Mesh of",
        json_schema_extra=asked(options={"stainless": "stainless steel", "food-plastic": "food-grade plastic", "cotton": "cotton net", "glass-fibre": "glass-fibre fly screen", "galvanised": "galvanised wire"}),
    )  # fmt: skip
    loss: Annotated[Number, Field(ge=0, le=500)] = Field(
        default=8.0, title="Its resistance", description="ζ of one laid tray on the tray's area; from memory 4 to 20"
    )
    bypass_share: Annotated[Fraction, Field(le=0.9)] = Field(default=0.3, title="Air past them", description="Share that goes up beside the trays; 20 to 50 % where they do not fill the cabinet (from memory)")  # fmt: skip


class Joint(RoundDuct):
    """A duct between collector and cabinet, where they stand apart."""

    length_m: Annotated[Number, Field(ge=0.05, le=20)] = Field(default=0.8, title="Duct")
    rises_m: Annotated[Number, Field(ge=-3, le=6)] = Field(default=0.0, title="It rises")
    bends: Annotated[Count, Field(ge=0, le=12)] = Field(default=1, title="Bends")

    @property
    def run_m(self) -> float:
        """Its length."""
        return self.length_m


class Wheels(Model):
    """Wheels that it is turned and pushed on."""

    track_m: Annotated[Number, Field(ge=0.1, le=4)] = Field(default=0.5, title="Wheels apart")
    folds: YesNo = Field(default=False, title="its legs fold")


class FoodDryer(Turned):
    """A food dryer; sizes are inside."""

    kind: Literal["food-dryer"] = "food-dryer"
    axis_leans: ClassVar[bool] = False

    facing_deg: Azimuth = faces("The way collector and glass look")
    tilt_deg: Tilt = Field(default=35.0, title="Tilt of the collector", description="From level; of the glass over the trays where there is no collector", json_schema_extra=asked("aim"))  # fmt: skip
    collector: AirCollector | None = Field(default=AirCollector(), title="Collector", description="None: the sun comes in over the trays", json_schema_extra=asked("collector"))  # fmt: skip
    joint: Joint | None = Field(
        default=None,
        title="Duct to the cabinet",
        description="None: it opens into the cabinet",
        json_schema_extra=asked("collector"),
    )
    width_m: Annotated[Number, Field(ge=0.1, le=4)] = Field(
        default=0.6, title="Cabinet wide", json_schema_extra=asked("cabinet")
    )
    depth_m: Annotated[Number, Field(ge=0.1, le=4)] = Field(
        default=0.5, title="Front to back", json_schema_extra=asked("cabinet")
    )
    under_m: Annotated[Number, Field(ge=0.02, le=2)] = Field(
        default=0.15, title="Room under the trays", json_schema_extra=asked("cabinet")
    )
    over_m: Annotated[Number, Field(ge=0.02, le=2)] = Field(
        default=0.15, title="Room over them", json_schema_extra=asked("cabinet")
    )
    wall: Wall = Field(
        default=[WallLayer(material="plywood", thickness_m=0.012)],
        title="Walls",
        description="From the inside out",
        json_schema_extra=asked("wall"),
    )
    lining: FinishChoice = Field(default="bare-wood", title="Inside", json_schema_extra=asked("wall"))
    stored_j_k: Annotated[Number, Field(ge=0, le=1e7)] = Field(
        default=0.0,
        description="Heat capacity of anything else in it, J/K",
        json_schema_extra=asked(in_files_only=True),
    )
    cover: GlazedCover | None = Field(
        default=None, title="Glass over the trays", description="None: a shut lid", json_schema_extra=asked("cover")
    )
    glass_tilt_deg: Annotated[Tilt, Field(le=75)] = Field(default=15.0, title="It leans", description="The glass over the trays, where there is a collector too", json_schema_extra=asked("cover"))  # fmt: skip
    shaded: YesNo = Field(
        default=False,
        title="covered with a cloth",
        description="The glass over the trays, by day too",
        json_schema_extra=asked("cover"),
    )
    trays: Trays = Field(default=Trays(), title="Trays", json_schema_extra=asked("trays"))
    inlet: Inlet = Field(default=Inlet(), title="Inlet", json_schema_extra=asked("inlet"))
    vent: Vent = Field(default=Vent(), title="Vent", json_schema_extra=asked("vent"))
    wind_share: Annotated[Number, Field(ge=-1, le=1)] = Field(default=0.2, title="Wind at the vent", description="How much of the wind's own pressure draws at it; 0: none, below nothing: it blows in", json_schema_extra=asked("vent"))  # fmt: skip
    chimney: Chimney | None = Field(default=None, title="Chimney", json_schema_extra=asked("chimney"))
    fan: Fan | None = Field(default=None, title="Fan", json_schema_extra=asked("fan"))
    leak_cm2: Annotated[Number, Field(ge=0, le=2000)] = Field(
        default=15.0, title="Gaps at door and lid", json_schema_extra=asked("seal")
    )
    wheels: Wheels | None = Field(default=None, title="Wheels", json_schema_extra=asked("aim"))
    stands_m: Annotated[Number, Field(ge=0, le=3)] = Field(
        default=0.4, title="Inlet over the ground", json_schema_extra=asked("aim")
    )
    breathes: YesNo = Field(
        default=True,
        title="air may sink out of it at night",
        description="Off: flaps keep it from running backwards",
        json_schema_extra=asked("vent"),
    )

    @model_validator(mode="after")
    def _can_be(self) -> FoodDryer:
        require(
            self.collector is not None or self.cover is not None, "collector",
            "neither a collector nor glass over the trays was given; the sun gets in nowhere, so give one of them",
        )  # fmt: skip
        shut = self.vent.area_cm2 * max((s.open_share for s in self.vent.hours), default=self.vent.open_share) <= 0.0
        require(
            self.fan is None or not shut, "vent.area_cm2",
            "a fan was given and a vent that never opens; air that cannot get out does not come in, so open the vent or leave out the fan",
        )  # fmt: skip
        return self

    def fresh(self, field: str) -> BaseModel:
        """What comes in when a part is added."""
        usual: dict[str, type[BaseModel]] = {
            "collector": AirCollector, "joint": Joint, "cover": GlazedCover, "chimney": Chimney, "fan": Fan, "wheels": Wheels,
        }  # fmt: skip
        if field == "wall":
            return WallLayer(material="eps-foam", thickness_m=0.02)
        return usual[field]() if field in usual else super().fresh(field)

    @property
    def skins(self) -> list[Skin]:
        """Of the glass over the trays, from the innermost out; the collector's where there is none."""
        if self.cover is not None:
            return self.cover.skins
        return [] if self.collector is None else self.collector.skins

    @property
    def lit_lid_deg(self) -> float:
        """How far the glass over the trays leans."""
        return self.tilt_deg if self.collector is None else self.glass_tilt_deg

    @property
    def floor_m2(self) -> float:
        """Of a tray."""
        return self.width_m * self.depth_m

    @property
    def blown_m2(self) -> dict[str, tuple[str, float]]:
        """The vent, as it stands open."""
        return {OVER_TRAYS: (DRAUGHT, self.vent.area_cm2 * self.vent.open_share / 1e4)}

    @property
    def shelves_m2(self) -> list[float]:
        """Its trays."""
        return [self.floor_m2] * self.trays.count

    @property
    def across_m(self) -> float:
        """Cabinet or collector, whichever is wider."""
        return max(self.width_m, 0.0 if self.collector is None else self.collector.width_m)

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and depth of a tray."""
        return self.width_m, self.depth_m

    @property
    def lid_m2(self) -> float:
        """Of the glass over the trays, which leans."""
        return self.floor_m2 / math.cos(math.radians(self.lit_lid_deg))

    @property
    def opening_m2(self) -> float:
        """Glass that the sun meets."""
        return (0.0 if self.collector is None else self.collector.area_m2) + (
            0.0 if self.cover is None else self.lid_m2
        )

    @property
    def stack_m(self) -> float:
        """From the lowest tray to the highest."""
        return self.trays.spacing_m * (self.trays.count - 1)

    @property
    def cabinet_m(self) -> float:
        """Height of the cabinet inside."""
        return self.under_m + self.stack_m + self.over_m

    @property
    def sides_m2(self) -> float:
        """Inside of walls and floor, and of the lid where it is shut."""
        lid = self.floor_m2 if self.cover is None else 0.0
        return 2.0 * (self.width_m + self.depth_m) * self.cabinet_m + self.floor_m2 + lid

    @property
    def rise_m(self) -> float:
        """Height of the collector from its foot to its head."""
        return 0.0 if self.collector is None else self.collector.length_m * math.sin(math.radians(self.tilt_deg))

    @property
    def foot_m(self) -> float:
        """Height of the cabinet's foot over the ground."""
        return self.stands_m + self.rise_m

    @property
    def lid_rise_m(self) -> float:
        """By how much the glass over the trays is higher at the back than in front; nothing where the lid is shut."""
        return 0.0 if self.cover is None else self.depth_m * math.tan(math.radians(self.lit_lid_deg))

    def glazed_with(self, material: str, layers: int) -> Self | None:
        """The collector's glass, or what lies over the trays."""
        if self.collector is None:
            assert self.cover is not None
            return self.with_(cover=self.cover.made_of(material, layers))
        glass = self.collector.cover
        if glass is None:
            return None
        other = self.collector.model_copy(update={"cover": glass.made_of(material, layers), "panes": None})
        return self.with_(collector=other)

    @property
    def glazed_m(self) -> tuple[float, float] | None:
        """The collector's glass, or what lies over the trays."""
        if self.collector is not None:
            return None if self.collector.cover is None else (self.collector.width_m, self.collector.length_m)
        return self.width_m, self.depth_m / math.cos(math.radians(self.tilt_deg))

    def stretched(self, wide: float, long: float) -> Self | None:
        """Collector and cabinet wider, the collector longer and the trays deeper; openings as much larger."""
        by = wide * long
        return self.resized(
            width_m=round(self.width_m * wide, 3), depth_m=round(self.depth_m * long, 3),
            collector=None if self.collector is None else self.collector.stretched(wide, long).model_dump(),
            inlet=self.inlet.model_dump() | {"area_cm2": self.inlet.area_cm2 * by},
            vent=self.vent.model_dump() | {"area_cm2": self.vent.area_cm2 * by},
        )  # fmt: skip

    def opened(self, share: float) -> Self:
        """The same with its vent open by so much at every hour."""
        return self.with_(vent=self.vent.model_copy(update={"open_share": share, "hours": []}))

    @property
    def draught_m(self) -> float:
        """From inlet to outlet."""
        joint = 0.0 if self.joint is None or self.collector is None else self.joint.rises_m
        chimney = 0.0 if self.chimney is None else self.chimney.height_m
        return self.rise_m + joint + self.cabinet_m + chimney

    @property
    def wall_m(self) -> float:
        """Thickness of its walls."""
        return wall_thickness_m(self.wall)

    def larger(self) -> Self | None:
        """A tray more."""
        count = self.trays.count + 1
        return None if count > MOST_TRAYS else self.with_(trays=self.trays.model_copy(update={"count": count}))

    def fewest(self) -> Self:
        """One tray."""
        return self.with_(trays=self.trays.model_copy(update={"count": 1}))

    @property
    def amount(self) -> str:
        """Its trays."""
        return counted(self.trays.count, "tray")

    def readers(self) -> dict[str, list[Reader]]:
        """Trays are read one by one."""
        return {"tray": [Reader(f"tray-{k + 1}", f"tray {k + 1}", f"tray-{k + 1}") for k in range(self.trays.count)]}
