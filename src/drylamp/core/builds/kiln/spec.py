"""The lumber kiln: a chamber under a leaning glazed roof, a dark baffle below that, fans that send the warmed air through a stack of boards, vents.

::

            ridge ______
               /|   · air over the baffle → fan
        roof  / |  ·
             / ·|·    stack     back wall
      front | ·  |‾‾‾‾‾‾‾‾‾|    with its vents
            |____|_________|____
              floor
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field, model_validator

from drylamp.core.air.constants import OPENING_LOSS
from drylamp.core.arrays import Array
from drylamp.core.builds.build import faces
from drylamp.core.builds.common.air_way.spec import LOSS
from drylamp.core.builds.common.cover.spec import GlazedCover, Skin
from drylamp.core.builds.common.turning.spec import Turned
from drylamp.core.checks import Azimuth, Celsius, Count, Day, Fraction, Hour, Model, Number, Positive, Tilt, require
from drylamp.core.common.drive import Constant, FlowControl, Season, SunPanel, Timer, WithSun
from drylamp.core.common.wall import Wall, WallLayer, wall_j_m2k, wall_thickness_m, wall_w_m2k
from drylamp.core.forms import asked
from drylamp.core.loads.common.stacked import CHAMBER
from drylamp.core.sky.clock import days_of, instant_s
from drylamp.core.tables import Absorber, FinishChoice, absorber, named_in, timbers
from drylamp.core.text import square_metres

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

VENTS = "vents"
"""The way in and out by the vents; the other, round through roof and stack, is the stack's."""
ROOM_M3 = 1e5
LEAST_ROOM_M = 0.05
ALL_MONTHS = list(range(1, 13))


class Baffle(Model):
    """A dark sheet under the roof that takes up the sun and leads the air."""

    settling: ClassVar[frozenset[str]] = frozenset(("sheet",))

    share: Annotated[Fraction, Field(ge=0.05)] = Field(default=0.95, title="Covers of the roof")
    finish: FinishChoice = Field(default="flat-black-paint", title="Its upper side")
    under: FinishChoice = Field(default="bare-wood", title="Its lower side")
    sheet: WallLayer = Field(default=WallLayer(material="plywood", thickness_m=0.006), title="Made of")
    gap_m: Annotated[Number, Field(ge=0.02, le=1.5)] = Field(default=0.15, title="Under the roof by")
    heat_j_m2k: Annotated[Positive, Field(le=1e6)] | None = Field(
        default=None,
        description="Its heat capacity by area, where that is known better",
        json_schema_extra=asked(in_files_only=True),
    )

    @property
    def row(self) -> Absorber:
        """Its upper side."""
        return absorber(self.finish)


class VentSetting(Model):
    """How far the vents stand open from a day and an hour on."""

    from_day: Day | None = Field(default=None, title="From the day", description="Empty: from the first on")
    hour: Hour = Field(default="08:00", title="At")
    open_share: Fraction = Field(default=1.0, title="Open by")


class KilnVents(Model):
    """Vents low and high in the back wall, and how far they stand open by day and hour."""

    low_cm2: Annotated[Number, Field(ge=0, le=50000)] = Field(default=300.0, title="Low vents")
    high_cm2: Annotated[Number, Field(ge=0, le=50000)] = Field(default=300.0, title="High vents")
    apart_m: Annotated[Number, Field(ge=0, le=8)] = Field(default=1.2, title="One over the other by")
    loss: LOSS = Field(
        default=OPENING_LOSS,
        title="Their resistance",
        description="ζ on their own area: 2.8 open, 4.5 with insect screen",
    )
    open_share: Fraction = Field(default=0.3, title="Open by", description="Where no day or hour says otherwise")
    wind_share: Annotated[Number, Field(ge=-1, le=1)] = Field(
        default=0.2, title="Wind at them", description="How much of the wind's own pressure draws at them"
    )
    settings: list[VentSetting] = Field(
        default_factory=list,
        max_length=60,
        title="By day and hour",
        description="Those of the latest day that has begun hold, each hour until the next; the last of the evening over night",
    )

    @model_validator(mode="after")
    def _in_order(self) -> KilnVents:
        named = [(str(setting.from_day or ""), setting.hour) for setting in self.settings]
        if named != sorted(set(named)):
            said = ", ".join(f"{day} {hour}".strip() for day, hour in named)
            raise ValueError(
                f"{said} were given; give each day and hour once, the earliest first, those without a day before all others"
            )
        return self

    @property
    def most_open(self) -> float:
        """The farthest that they are ever opened."""
        return max((setting.open_share for setting in self.settings), default=self.open_share)

    def fresh(self, field: str) -> VentSetting:
        """Another hour, later than the last."""
        if not self.settings:
            return VentSetting()
        last = self.settings[-1]
        return VentSetting(
            from_day=last.from_day, hour=f"{min(int(last.hour[:2]) + 4, 23):02d}:00", open_share=1.0 - last.open_share
        )

    def opened(self, share: float) -> KilnVents:
        """The same open by so much at every hour."""
        return self.model_copy(update={"open_share": share, "settings": []})

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """How far they stand open by step, 0–1, shape (steps,)."""
        middle, out = weather.sun.time_s, np.full(weather.steps, self.open_share)
        held = self.open_share
        for day, begin, end in (
            days_of(site.zone, weather.start_s, weather.start_s + weather.steps * weather.dt_s) if self.settings else []
        ):
            begun = [
                setting.from_day
                for setting in self.settings
                if setting.from_day is not None and setting.from_day <= day
            ]
            now = [setting for setting in self.settings if setting.from_day == max(begun, default=None)]
            held = now[-1].open_share if now and (now[0].from_day is None or now[0].from_day < day) else held
            today = slice(*np.searchsorted(middle, (begin, end)))
            out[today] = held
            for setting in now:
                out[today][middle[today] >= instant_s(site.zone, day, setting.hour)] = setting.open_share
                held = setting.open_share
        return out


class KilnFan(Model):
    """Fans that send the warmed air through the stack, and what drives them."""

    count: Annotated[Count, Field(ge=1, le=20)] = Field(default=1, title="Fans")
    shut_off_pa: Annotated[Positive, Field(le=1000)] = Field(
        default=40.0, title="Shut off, Pa", description="What one holds against a closed door"
    )
    free_m3_h: Annotated[Positive, Field(le=50000)] = Field(default=2500.0, title="Free delivery of one, m³/h")
    power_w: Annotated[Number, Field(gt=0, le=3000)] = Field(default=60.0, title="One takes")
    driven: Literal["sun", "panel", "timer", "mains"] = Field(
        default="panel", title="Driven",
        json_schema_extra=asked(options={"panel": "by a panel, with the sun", "sun": "as strong as the sun is", "timer": "by a timer", "mains": "day and night"}),
    )  # fmt: skip
    panel_w: Annotated[Number, Field(gt=0, le=5000)] = Field(
        default=100.0,
        title="Panel's best",
        description="It looks as the roof does",
        json_schema_extra=asked(only_with={"driven": ["panel"]}),
    )
    full_w_m2: Annotated[Number, Field(gt=0, le=1400)] = Field(
        default=600.0,
        title="At full from",
        description="Sun on the roof",
        json_schema_extra=asked(only_with={"driven": ["sun"]}),
    )
    on: Hour = Field(default="09:00", title="On", json_schema_extra=asked(only_with={"driven": ["timer"]}))
    off: Hour = Field(default="19:00", title="Off", json_schema_extra=asked(only_with={"driven": ["timer"]}))
    stack_m_s: Annotated[Number, Field(gt=0, le=8)] | None = Field(
        default=None,
        description="Air between the boards when it is at full, whatever its curve says",
        json_schema_extra=asked(in_files_only=True),
    )
    by: FlowControl | None = Field(
        default=None, description="In place of that", json_schema_extra=asked(in_files_only=True)
    )

    def control(self, facing_deg: float, tilt_deg: float) -> FlowControl:
        """What drives them, under a roof that looks some way."""
        if self.by is not None:
            return self.by
        made: dict[str, FlowControl] = {
            "panel": SunPanel(peak_w=self.panel_w, motor_w=self.power_w * self.count, facing_deg=facing_deg, tilt_deg=tilt_deg),
            "sun": WithSun(full_w_m2=self.full_w_m2, facing_deg=facing_deg, tilt_deg=tilt_deg), "mains": Constant(),
            "timer": Timer(seasons=[Season(months=ALL_MONTHS, on=self.on, off=self.off)]),
        }  # fmt: skip
        return made[self.driven]


class AirChanges(Model):
    """Air that is changed through gaps, as it was measured."""

    calm_per_h: Annotated[Number, Field(ge=0, le=200)]
    per_m_s: Annotated[Number, Field(ge=0, le=100)] = 0.0


class Heater(Model):
    """A coil and its fan that help out."""

    power_w: Annotated[Number, Field(gt=0, le=50000)] = Field(default=1500.0, title="Gives")
    until_c: Annotated[Celsius, Field(ge=-10, le=90)] = Field(default=35.0, title="Until the chamber is at")


HOURS_M3 = {"rear-wall": 4.0, "end-door": 6.0, "lifting-roof": 4.5, "forks": 2.5}
"""To lay boards on sticks in and take them out again, people's hours for each m³; with forks they are stacked outside first. From memory."""
Way = Literal["rear-wall", "end-door", "lifting-roof", "forks"]
WAYS = {
    "rear-wall": "by its rear wall, by hand", "end-door": "by a door in its end", "lifting-roof": "from above, its roof lifted",
    "forks": "by forks, through its rear wall",
}  # fmt: skip
GROUNDS = {"soil": "in the soil", "stones": "on stones, rained on", "concrete": "on concrete, under a membrane"}


class Door(Model):
    """How boards get in."""

    way: Way = Field(default="rear-wall", title="Boards come in", json_schema_extra=asked(options=WAYS))
    wide_m: Annotated[Number, Field(ge=0.3, le=30)] | None = Field(
        default=None, title="Opening wide", description="Empty: all of its wall"
    )
    high_m: Annotated[Number, Field(ge=0.3, le=6)] | None = Field(
        default=None, title="Opening high", description="Empty: all of its wall"
    )

    @property
    def takes_lengthways(self) -> bool:
        """Whether boards go in end first, so that their length meets no frame."""
        return self.way in ("end-door", "lifting-roof")


class Frame(Model):
    """What it stands on."""

    timber: Annotated[str, named_in(timbers, "timber")] = Field(
        default="pine", title="Sills and posts", json_schema_extra=asked(table="timbers")
    )
    treated: Literal["none", "brushed", "pressure"] = Field(
        default="none", title="Treated", json_schema_extra=asked(options={"none": "not at all", "brushed": "brushed with a preservative", "pressure": "under pressure"})
    )  # fmt: skip
    stands: Literal["soil", "stones", "concrete"] = Field(
        default="stones", title="Stands", json_schema_extra=asked(options=GROUNDS)
    )


class Measured(Model):
    """What is known better than it follows from sizes and layers; each is left as it follows where it is not given."""

    roof_m2: Annotated[Positive, Field(le=2000)] | None = None
    walls_m2: Annotated[Positive, Field(le=5000)] | None = None
    floor_m2: Annotated[Positive, Field(le=2000)] | None = None
    chamber_m3: Annotated[Positive, Field(le=ROOM_M3)] | None = None
    walls_u_w_m2k: Annotated[Positive, Field(le=50)] | None = Field(default=None, description="Films left out")
    walls_j_m2k: Annotated[Positive, Field(le=1e7)] | None = Field(
        default=None, description="Heat capacity that takes part, all of it"
    )
    floor_u_w_m2k: Annotated[Positive, Field(le=50)] | None = None
    floor_j_m2k: Annotated[Positive, Field(le=1e7)] | None = None
    stored_j_k: Annotated[Number, Field(ge=0, le=1e8)] = Field(
        default=0.0, description="Heat capacity of anything else in it"
    )


OUTSIDE_W_M2K = 15.0
"""Film and sky on the outside of walls, wind and all; from memory."""
INSIDE_SHARE = 1.0 / 3.0
"""Of the heat capacity of a wall that swings with the inside; from memory."""


class LumberKiln(Turned):
    """A kiln for boards; sizes are inside."""

    kind: Literal["lumber-kiln"] = "lumber-kiln"
    axis_leans: ClassVar[bool] = False

    form: Literal["shed", "lean-to", "trailer"] = Field(
        default="shed",
        title="It is",
        json_schema_extra=asked(
            "aim", options={"shed": "a shed of its own", "lean-to": "against a wall", "trailer": "on a trailer"}
        ),
    )
    facing_deg: Azimuth = faces("The way its roof looks")
    tilt_deg: Annotated[Tilt, Field(le=85)] = Field(
        default=40.0, title="Tilt of the roof", description="From level", json_schema_extra=asked("aim")
    )
    length_m: Annotated[Number, Field(ge=0.3, le=30)] = Field(
        default=3.0, title="Long inside", description="Boards lie along it", json_schema_extra=asked("chamber")
    )
    depth_m: Annotated[Number, Field(ge=0.3, le=12)] = Field(
        default=1.8, title="Front to back", json_schema_extra=asked("chamber")
    )
    front_m: Annotated[Number, Field(ge=0.1, le=5)] = Field(
        default=0.8, title="Front wall high", json_schema_extra=asked("chamber")
    )
    rear_m: Annotated[Number, Field(ge=0.2, le=9)] | None = Field(
        default=None, title="Rear wall high", description="Empty: as front wall, roof and tilt make it; a conflict is named", json_schema_extra=asked("chamber")
    )  # fmt: skip
    door: Door = Field(default=Door(), title="Filled", json_schema_extra=asked("chamber"))
    frame: Frame = Field(default=Frame(), title="At the ground", json_schema_extra=asked("aim"))
    roof_m: Annotated[Number, Field(ge=0.2, le=12)] = Field(
        default=2.2, title="Glazed roof along its slope", json_schema_extra=asked("cover")
    )
    cover: GlazedCover = Field(
        default=GlazedCover(material="window-glass", thickness_m=0.004, layers=2, gap_m=0.02),
        title="Roof",
        json_schema_extra=asked("cover"),
    )
    frame_share: Annotated[Fraction, Field(le=0.6)] = Field(
        default=0.08, title="Of it frame", json_schema_extra=asked("cover")
    )
    dirt_share: Annotated[Fraction, Field(le=0.6)] = Field(
        default=0.03, title="Dirt on it keeps out", json_schema_extra=asked("cover")
    )
    drips: Literal["out", "back"] = Field(
        default="out",
        title="Dew on the roof runs",
        json_schema_extra=asked("cover", options={"out": "out by a gutter", "back": "back on the floor"}),
    )
    baffle: Baffle | None = Field(
        default=Baffle(),
        title="Baffle",
        description="None: the sun falls on stack and walls",
        json_schema_extra=asked("baffle"),
    )
    wall: Wall = Field(
        default=[WallLayer(material="plywood", thickness_m=0.009), WallLayer(material="eps-foam", thickness_m=0.04), WallLayer(material="plywood", thickness_m=0.009)],
        title="Walls", description="From the inside out; with what the roof leaves opaque", json_schema_extra=asked("wall"),
    )  # fmt: skip
    lining: FinishChoice = Field(default="flat-black-paint", title="Inside", json_schema_extra=asked("wall"))
    outer: FinishChoice = Field(default="bare-wood", title="Outside", json_schema_extra=asked("wall"))
    floor: Wall = Field(
        default=[WallLayer(material="plywood", thickness_m=0.018), WallLayer(material="eps-foam", thickness_m=0.04)],
        title="Floor",
        json_schema_extra=asked("floor"),
    )
    leak_cm2: Annotated[Number, Field(ge=0, le=20000)] = Field(
        default=120.0, title="Gaps", description="At door, roof and between boards", json_schema_extra=asked("seal")
    )
    changes: AirChanges | None = Field(
        default=None,
        description="Air that is changed as it was measured, in place of gaps",
        json_schema_extra=asked(in_files_only=True),
    )
    vents: KilnVents = Field(default=KilnVents(), title="Vents", json_schema_extra=asked("vents"))
    fan: KilnFan | None = Field(default=KilnFan(), title="Fans", json_schema_extra=asked("fan"))
    heater: Heater | None = Field(default=None, title="Back-up heat", json_schema_extra=asked("heater"))
    measured: Measured = Field(
        default=Measured(),
        description="What is known better than it follows from sizes and layers",
        json_schema_extra=asked(in_files_only=True),
    )

    @model_validator(mode="after")
    def _can_be(self) -> LumberKiln:
        require(
            self.turned_minutes is None or self.form == "trailer", "turned_minutes",
            f"{self.turned_minutes or 0:g} min was given for what does not stand on wheels; leave it empty, or make it a trailer",
        )  # fmt: skip
        wall = self.length_m * self.back_m
        for name, cm2 in (("low_cm2", self.vents.low_cm2), ("high_cm2", self.vents.high_cm2)):
            require(
                cm2 / 1e4 <= 0.5 * wall, f"vents.{name}",
                f"{square_metres(cm2 / 1e4)} was given; the back wall is {square_metres(wall)}, so allowed is half of it, {square_metres(0.5 * wall)}",
            )  # fmt: skip
        return self

    def fresh(self, field: str) -> BaseModel:
        """What comes in when a part is added."""
        usual: dict[str, type[BaseModel]] = {"baffle": Baffle, "fan": KilnFan, "heater": Heater}
        if field in ("wall", "floor"):
            return WallLayer(material="eps-foam", thickness_m=0.04)
        return usual[field]() if field in usual else super().fresh(field)

    def stretched(self, wide: float, long: float) -> LumberKiln | None:
        """Longer, and deeper with its roof; vents and fans as much more."""
        by = wide * long
        vents = self.vents.model_dump() | {
            "low_cm2": self.vents.low_cm2 * by,
            "high_cm2": self.vents.high_cm2 * by,
        }
        fan = None if self.fan is None else self.fan.model_dump() | {"count": max(round(self.fan.count * by), 1), "panel_w": self.fan.panel_w * by}  # fmt: skip
        return self.resized(
            length_m=round(self.length_m * wide, 3), depth_m=round(self.depth_m * long, 3), roof_m=round(self.roof_m * long, 3), vents=vents, fan=fan,
        )  # fmt: skip

    def glazed_with(self, material: str, layers: int) -> LumberKiln | None:
        """Its roof."""
        return self.with_(cover=self.cover.made_of(material, layers))

    @property
    def glazed_m(self) -> tuple[float, float] | None:
        """Its roof."""
        return self.length_m, self.roof_m

    # --- sizes ---

    @property
    def skins(self) -> list[Skin]:
        """Of its roof, from the innermost out."""
        return self.cover.skins

    @property
    def rise_m(self) -> float:
        """By how much the ridge is higher than the front wall."""
        return self.roof_m * math.sin(math.radians(self.tilt_deg))

    @property
    def run_m(self) -> float:
        """How far back the roof reaches."""
        return self.roof_m * math.cos(math.radians(self.tilt_deg))

    @property
    def deep_m(self) -> float:
        """Front to back, no less than the roof reaches."""
        return max(self.depth_m, self.run_m)

    @property
    def back_m(self) -> float:
        """Height of the back wall."""
        return self.front_m + self.rise_m

    @property
    def hours_m3(self) -> float:
        """People's hours to fill and empty it, for each m³."""
        return HOURS_M3[self.door.way]

    @property
    def bought_w(self) -> float:
        """What its fans take from the mains."""
        return 0.0 if self.fan is None or self.fan.driven in ("panel", "sun") else self.fan.power_w * self.fan.count

    @property
    def tilt_by_walls_deg(self) -> float | None:
        """Slope that front wall, rear wall and the roof's reach make; none where no rear wall was typed."""
        return None if self.rear_m is None else math.degrees(math.atan2(self.rear_m - self.front_m, self.run_m))

    @property
    def roof_m2(self) -> float:
        """Glazed, frame and all."""
        return self.measured.roof_m2 or self.length_m * self.roof_m

    @property
    def opening_m2(self) -> float:
        """Glass that the sun meets."""
        return self.roof_m2

    @property
    def floor_m2(self) -> float:
        """Of its floor."""
        return self.measured.floor_m2 or self.length_m * self.deep_m

    @property
    def across_m(self) -> float:
        """Along its roof."""
        return self.length_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and depth of its floor."""
        return self.length_m, self.deep_m

    @property
    def _side_m2(self) -> float:
        """Of one end wall."""
        return self.deep_m * self.back_m - 0.5 * self.run_m * self.rise_m

    @property
    def walls_m2(self) -> float:
        """Inside of all walls, with the roof that is not glazed."""
        flat = max(self.deep_m - self.run_m, 0.0) * self.length_m
        return self.measured.walls_m2 or self.length_m * (self.front_m + self.back_m) + 2.0 * self._side_m2 + flat

    @property
    def chamber_m3(self) -> float:
        """All of its air."""
        return self.measured.chamber_m3 or self.length_m * self._side_m2

    @property
    def baffle_m2(self) -> float:
        """Of its baffle; 0 without."""
        return 0.0 if self.baffle is None else self.baffle.share * self.roof_m2

    def clear_m(self, deep_m: float) -> float:
        """Height that is free over a stack so deep that stands before the back wall."""
        under = 0.0 if self.baffle is None else self.baffle.gap_m / max(math.cos(math.radians(self.tilt_deg)), 0.2)
        front = max(self.deep_m - deep_m - LEAST_ROOM_M, 0.0)
        risen = self.rise_m * min(front / self.run_m, 1.0) if self.run_m > 1e-6 else self.rise_m
        return max(self.front_m + risen - min(under, self.rise_m), 0.0)

    @property
    def walls_u(self) -> float:
        """Films left out, W/m²K."""
        return self.measured.walls_u_w_m2k or wall_w_m2k(self.wall)

    @property
    def through_w_m2k(self) -> float:
        """Through walls to the outside, its film and all."""
        return 1.0 / (1.0 / self.walls_u + 1.0 / OUTSIDE_W_M2K)

    def outer_faces(self) -> list[tuple[float, float, float]]:
        """Walls as the sun meets them: m², and tilt and facing in degrees; scaled where their area was measured."""
        ends = self._side_m2
        made = [
            (self.length_m * self.front_m, 90.0, 0.0),
            (self.length_m * self.back_m, 90.0, 180.0),
            (ends, 90.0, 90.0),
            (ends, 90.0, 270.0),
            (max(self.deep_m - self.run_m, 0.0) * self.length_m, 0.0, 0.0),
        ]
        if self.form == "lean-to":
            made = [face for face in made if face[2] != 180.0]
        scale = self.walls_m2 / sum(m2 for m2, _, _ in made)
        return [(m2 * scale, tilt, (self.facing_deg + turn) % 360.0) for m2, tilt, turn in made if m2 > 0.0]

    @property
    def walls_j_m2k(self) -> float:
        """Heat capacity that swings with the inside."""
        return self.measured.walls_j_m2k or INSIDE_SHARE * wall_j_m2k(self.wall)

    @property
    def floor_u(self) -> float:
        """Films left out, W/m²K."""
        return self.measured.floor_u_w_m2k or wall_w_m2k(self.floor)

    @property
    def floor_j_m2k(self) -> float:
        """Heat capacity that swings with the inside."""
        return self.measured.floor_j_m2k or INSIDE_SHARE * wall_j_m2k(self.floor)

    @property
    def wall_m(self) -> float:
        """Thickness of its walls."""
        return wall_thickness_m(self.wall)

    @property
    def blown_m2(self) -> dict[str, tuple[str, float]]:
        """The high vents, as they stand open."""
        return {CHAMBER: (VENTS, self.vents.high_cm2 * self.vents.open_share / 1e4)}

    def opened(self, share: float) -> Self:
        """The same with its vents open by so much at every hour."""
        return self.with_(vents=self.vents.opened(share))
