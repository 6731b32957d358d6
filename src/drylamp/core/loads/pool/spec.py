"""A tub or pool: its water, its faces, what lies on it when, who bathes in it, and the loop that warms or cools it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import partial
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field, model_validator

from drylamp.core import tables
from drylamp.core.arrays import Array
from drylamp.core.checks import Celsius, Count, Fraction, Hour, Model, Number, Positive, YesNo
from drylamp.core.common.drawing import Beside, Point
from drylamp.core.common.drive import Season, Timer
from drylamp.core.common.look import Account
from drylamp.core.common.wall import Wall, WallLayer, wall_w_m2k
from drylamp.core.forms import asked
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.common.draws import add_between
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop.ends import LOOP, PIPES, PUMPED, StoreEnds
from drylamp.core.loads.common.loop.spec import OUTSIDE_W_M2K, Looped
from drylamp.core.loads.common.places import FLOWING
from drylamp.core.loads.common.plumbing import Plumbed
from drylamp.core.loads.common.sunlit import Sunlit
from drylamp.core.loads.common.tapped import Tapped
from drylamp.core.optics.water import taken_up
from drylamp.core.sky.clock import days_of, instant_s
from drylamp.core.sky.in_ground import floor_w_m2k, sunk_wall_w_m2k
from drylamp.core.tables import FinishChoice, PoolCover, PoolCoverChoice, absorber

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

RENEWED, OUTSIDE, COVERED, BATHERS = "renewed", "surface", "covered", "bathers"
TO_AIR, TO_SKY, AS_VAPOUR, TO_GROUND, NEW_WATER, BY_BATHERS = (
    "water-air",
    "water-sky",
    "water-vapour",
    "water-ground",
    "water-new",
    "water-bathers",
)
BARE_W_M2K = 500.0
"""From the water to its own skin while nothing lies on it: cooler than the bulk by some tenths of a kelvin; from memory."""
WATER_EMITTANCE = 0.95
SURFACE_J_M2K = 4000.0
"""A millimetre of water, or a cover."""
BATHER_W, SPLASH_L = 120.0, 4.0
"""Heat that somebody gives to warm water, and water that is carried out by each; from memory."""
HELD_J_K = 1e11
"""Of water that something else holds at its temperature: so much that a day moves it by hundredths of a kelvin."""
DAY_S = 86400.0


class OnWater(Model):
    """What lies on the water or over it, and when."""

    material: PoolCoverChoice = Field(default="bubble-film", title="Of", json_schema_extra=asked(table="pool_covers"))
    on_at: Hour = Field(default="20:00", title="Put on at")
    off_at: Hour = Field(default="09:00", title="Taken off at")
    all_day: YesNo = Field(default=False, title="Stays on all day", description="Off only while somebody bathes")

    @model_validator(mode="after")
    def _moves(self) -> Self:
        if not self.all_day and self.on_at == self.off_at:
            raise ValueError(f"on_at and off_at are both {self.on_at}; give two hours, or let it stay on all day")
        return self

    @property
    def row(self) -> PoolCover:
        """Its stuff."""
        return tables.pool_covers()[self.material] if isinstance(self.material, str) else self.material


class Bathing(Model):
    """Somebody in the water, each day."""

    at: Hour = Field(default="19:00", title="At")
    stay_minutes: Annotated[Number, Field(ge=5, le=600)] = Field(default=40.0, title="For")
    persons: Annotated[Count, Field(ge=1, le=60)] = Field(default=2, title="Persons")


class Pool(Looped, Tapped):
    """Open water on a loop."""

    called: ClassVar[str] = "a tub or pool on a loop"
    sits: ClassVar[str] = FLOWING
    spoken_of: ClassVar[frozenset[str]] = frozenset(("water", "pool", "tub"))
    door: ClassVar[str] = "Join it to a tub or pool"
    planned: ClassVar[str] = "bath"
    wanted_by: ClassVar[str] = "19:00"
    tap: ClassVar[str] = RENEWED
    also_lit: ClassVar[str] = "and the water"

    kind: Literal["pool"] = "pool"
    fill_l: Annotated[Positive, Field(le=400000)] = Field(default=700.0, title="Water in it")
    surface_m2: Annotated[Number, Field(gt=0, le=400)] = Field(default=1.3, title="Its surface")
    start_c: Annotated[Celsius, Field(ge=0, le=60)] = Field(default=18.0, title="Is now")
    warm_c: Annotated[Celsius, Field(ge=10, le=45)] = Field(default=34.0, title="Wanted")
    want_at: Hour = Field(default="19:00", title="By")
    on_water: OnWater | None = Field(default=OnWater(), title="Cover", description="None: open day and night")
    wall: Wall = Field(
        default=[WallLayer(material="pine-board", thickness_m=0.03)],
        title="Walls and floor",
        description="From the water out",
    )
    wall_w_m2k: Annotated[Number, Field(gt=0, le=200)] | None = Field(
        default=None, description="Their U value without films, where it is known better", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    rim_w_k: Annotated[Number, Field(ge=0, le=500)] = Field(
        default=0.0, description="What rim and fittings lose beside that, W/K", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    sunk_share: Fraction = Field(
        default=0.0, title="In the ground", description="Share of its depth; 0: it stands free, on the ground"
    )
    floor: FinishChoice = Field(
        default="bare-wood", title="Inside", description="Floor and walls, as the sun sees them"
    )
    shaded_share: Fraction = Field(default=0.0, title="In the shade", description="Share of the surface, all day")
    shelter_share: Fraction = Field(
        default=0.4, title="Sheltered", description="Share of the wind that hedge, wall or rim keep off"
    )
    bathing: list[Bathing] = Field(default_factory=list, max_length=8, title="Bathed in each day")
    renew_l: Annotated[Number, Field(ge=0, le=100000)] = Field(
        default=0.0, title="Renewed each day", description="Litres of fresh water, beside what splashes out"
    )
    mains_c: Annotated[Celsius, Field(ge=0, le=40)] | None = Field(
        default=None, title="Fresh water", description="Empty: the mains of the season"
    )
    held_at_c: Annotated[Celsius, Field(ge=1, le=60)] | None = Field(
        default=None,
        description="Held at a temperature by something else, whatever happens",
        json_schema_extra=asked(in_files_only=True),
    )

    @model_validator(mode="after")
    def _has_depth(self) -> Self:
        if not 0.05 <= self.depth_m <= 6.0:
            raise ValueError(
                f"{self.fill_l:g} litres under {self.surface_m2:g} m² stand {self.depth_m:.2f} m deep; allowed is 0.05 to 6 m, so look at both numbers again"
            )
        return self

    def fresh(self, field: str) -> BaseModel:
        """A pump and a cover as they usually are."""
        usual: dict[str, type[BaseModel]] = {**self.usual, "on_water": OnWater, "bathing": Bathing}
        if field in usual and not getattr(self, field):
            return usual[field]()
        return super().fresh(field)

    @property
    def title(self) -> str:
        """In words."""
        return "water of a tub or pool"

    @property
    def goods(self) -> frozenset[str]:
        """All of it."""
        return frozenset((TOP,))

    @property
    def amount_kg(self) -> float:
        """A kilogram a litre."""
        return self.fill_l

    @property
    def fresh_c(self) -> dict[str, float]:
        """As it is now; its skin too."""
        return {TOP: self.start_c if self.held_at_c is None else self.held_at_c}

    @property
    def depth_m(self) -> float:
        """How deep it is on the mean."""
        return self.fill_l / 1000.0 / self.surface_m2

    @property
    def foot_m(self) -> float:
        """What is sunk does not stand on the ground."""
        return max(-self.above_m - self.sunk_share * self.depth_m, 0.0)

    @property
    def round_m(self) -> float:
        """How far it is round it: of a circle."""
        return 2.0 * math.sqrt(math.pi * self.surface_m2)

    @property
    def ends(self) -> StoreEnds:
        """Taken out near its floor, back under its surface."""
        return StoreEnds((TOP,), self.depth_m, 0.1 * self.depth_m, 0.8 * self.depth_m)

    @property
    def _wall_m2k_w(self) -> float:
        return 1.0 / (wall_w_m2k(self.wall) if self.wall_w_m2k is None else self.wall_w_m2k)

    @property
    def loses_w_k(self) -> tuple[float, float]:
        """Through walls and floor into the air, and into the ground, W/K."""
        wall, sunk = self._wall_m2k_w, self.sunk_share * self.depth_m
        free = self.round_m * (self.depth_m - sunk) / (wall + 1.0 / OUTSIDE_W_M2K) + self.rim_w_k
        below = self.surface_m2 * floor_w_m2k(self.surface_m2, self.round_m, wall)
        return free, below + (self.round_m * sunk * sunk_wall_w_m2k(sunk, wall) if sunk > 0.0 else 0.0)

    @property
    def accounts(self) -> Mapping[str, Account]:
        """Where its heat goes."""
        return {
            AS_VAPOUR: Account("lost off the water as vapour", "vapour", "sky"),
            TO_SKY: Account("shone from the water to the sky", "shone", "soft"),
            TO_AIR: Account("lost by the water to the air", "air", "water", "the air"),
            TO_GROUND: Account("lost into the ground", "ground", "wood"),
            NEW_WATER: Account("carried out as water is renewed", "renewed", "plum"),
            PIPES: Account("lost by the pipes to it", "pipes", "rust"),
            PUMPED: Account("given by the pump", "pump", "rule", "the pump"),
            BY_BATHERS: Account("given by who bathes", "bathers", "honey", "who bathes"),
        }

    def sunlit(self) -> Sunlit:
        """Its surface."""
        share = partial(taken_up, depth_m=self.depth_m, floor_absorptance=absorber(self.floor).absorptance)
        return Sunlit(TOP, self.surface_m2 * (1.0 - self.shaded_share), share)

    def dims(self, site: Site, weather: Weather) -> dict[str, Array]:
        """What lies on it lets part of the sun through."""
        if self.on_water is None:
            return {}
        return {TOP: 1.0 - self._covered(site, weather) * (1.0 - self.on_water.row.light_share)}

    def _covered(self, site: Site, weather: Weather) -> Array:
        """Whether it is covered, 0–1, shape (steps,)."""
        on = self.on_water
        if on is None:
            return np.zeros(weather.steps)
        months = list(range(1, 13))
        hours = (
            np.ones(weather.steps)
            if on.all_day
            else Timer(seasons=[Season(months=months, on=on.on_at, off=on.off_at)]).ceiling(site, weather)
        )
        return np.where(self._persons(site, weather) > 0.0, 0.0, hours)

    def _persons(self, site: Site, weather: Weather) -> Array:
        """How many are in it, mean of each step, shape (steps,)."""
        out, end_s = np.zeros(weather.steps), weather.start_s + weather.dt_s * weather.steps
        for day, _, _ in days_of(site.zone, weather.start_s - DAY_S, end_s):
            for bath in self.bathing:
                begins = instant_s(site.zone, day, bath.at)
                add_between(out, weather, begins, begins + 60.0 * bath.stay_minutes, float(bath.persons))
        return out

    def flows(self, site: Site, weather: Weather) -> dict[str, Array]:
        """What lets the loop run, when it is covered, who is in it, how much is renewed."""
        return {
            **super().flows(site, weather), LOOP: self.loop_ceiling(site, weather), COVERED: 1.0 - self._covered(site, weather),
            BATHERS: self._persons(site, weather),
        }  # fmt: skip

    def planned_kg_s(self, site: Site, weather: Weather) -> Array:
        """Renewed evenly over the day; what bathers splash out comes in again while they are there."""
        stay_s = 60.0 * sum(bath.stay_minutes * bath.persons for bath in self.bathing)
        splashed = SPLASH_L * sum(bath.persons for bath in self.bathing) / stay_s if stay_s > 0.0 else 0.0
        return self.renew_l / DAY_S + splashed * self._persons(site, weather)

    def read_kg_s(self, read: Fed, weather: Weather) -> Array:
        """What was read is what goes round, and not what is renewed."""
        return np.zeros(weather.steps)

    def plumbed(self, stream: Stream) -> Plumbed:
        """Round through the water, which loses upward, through its walls, and into the ground."""
        from drylamp.core.loads.pool.recipe import plumbed  # brings the machinery that computes with it

        return plumbed(self, stream)

    def beside(self, inlet: Point, outlet: Point, left_m: float) -> Beside:
        """Drawn to the left of what warms it."""
        from drylamp.core.loads.pool.section import beside  # it knows this class

        return beside(self, inlet, outlet, left_m)


LOAD = Pool
