"""Sums about a household's water: a draw that cools as it runs, what pre-heating spares, what rain off a roof spares."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.checks import Celsius, Model, NotNegative, Number, Positive, YesNo
from drylamp.core.sums.registry import quick_sum

Share = Annotated[Number, Field(gt=0, le=1)]
DAYS_MONTH = 30.4


class DrawIn(Model):
    """A draw whose warmth falls straight from the first litre to the last, and the warmth wanted at the tap."""

    drawn_l: Positive
    first_c: Celsius
    last_c: Celsius
    cold_c: Celsius
    want_c: Celsius

    @model_validator(mode="after")
    def _falls_from_over_what_is_wanted(self) -> DrawIn:
        if not self.cold_c < self.want_c <= self.first_c:
            raise ValueError(
                f"want_c {self.want_c:g} must lie above cold_c {self.cold_c:g} and up to first_c {self.first_c:g}"
            )
        if not self.cold_c <= self.last_c <= self.first_c:
            raise ValueError(
                f"last_c {self.last_c:g} must lie from cold_c {self.cold_c:g} to first_c {self.first_c:g}: a draw does not get warmer"
            )
        return self


class Draw(Model):
    """What comes of it."""

    total_l: float
    warm_l: float
    mean_c: float
    too_cool_l: float


@quick_sum(
    "draw-mix", "What a draw that cools makes at the tap", "draw fall mix shower litres tap store mean",
    "total = ∫ (T − cold)/(want − cold) dV while T ≥ want", "heat balance, 1 kg per litre, constant cp", DrawIn, Draw,
)  # fmt: skip
def draw_mix(given: DrawIn) -> Draw:
    """Litres at the wanted warmth, litres drawn that were warm enough for it, their mean, and litres that came too cool."""
    fall = given.first_c - given.last_c
    warm = given.drawn_l if given.last_c >= given.want_c else given.drawn_l * (given.first_c - given.want_c) / fall
    mean = (given.first_c + max(given.last_c, given.want_c)) / 2.0
    total = warm * (mean - given.cold_c) / (given.want_c - given.cold_c)
    return Draw(total_l=total, warm_l=warm, mean_c=mean, too_cool_l=given.drawn_l - warm)


class PreheatIn(Model):
    """Water that the sun warms before it goes into a heater that is there already."""

    litres_a_day: Positive
    mains_c: Celsius
    preheated_c: Celsius
    set_c: Celsius = Field(default=55.0, description="What the heater makes of it")
    heater_efficiency: Share = Field(default=0.85, description="Heat in the water over fuel or current paid for")
    price_per_kwh: NotNegative = 0.3
    days: Annotated[Number, Field(ge=0, le=366)] = Field(
        default=180.0, description="In a year on which it is like this"
    )

    @model_validator(mode="after")
    def _heats(self) -> PreheatIn:
        if self.set_c <= self.mains_c:
            raise ValueError(
                f"set_c {self.set_c:g} must lie above mains_c {self.mains_c:g}: else nothing is to be heated"
            )
        return self


class Preheat(Model):
    """What it spares."""

    delivered_kwh_a_day: float
    spared_share: float
    paid_kwh_a_year: float
    spared_a_year: float
    mix_down: YesNo


@quick_sum(
    "pre-heat", "What warming the water first spares the heater", "preheat heater boiler saving bill solar money kwh",
    "spared = litres cp (min(preheated, set) − mains)/efficiency", "heat balance, 1 kg per litre", PreheatIn, Preheat,
)  # fmt: skip
def pre_heat(given: PreheatIn) -> Preheat:
    """Heat handed over in a day, its share of what the heater would make, and energy and money not paid for in a year.

    Only heat that arrives counts, whatever a collector is rated for and however long the sun is out; over the heater's own setting it spares
    nothing more, and has to be mixed down.
    """
    per_k = given.litres_a_day * CP_WATER_J_KGK / KWH_J
    lifted = max(min(given.preheated_c, given.set_c) - given.mains_c, 0.0)
    paid = given.days * per_k * lifted / given.heater_efficiency
    return Preheat(
        delivered_kwh_a_day=per_k * lifted, spared_share=lifted / (given.set_c - given.mains_c), paid_kwh_a_year=paid,
        spared_a_year=paid * given.price_per_kwh, mix_down=given.preheated_c > given.set_c,
    )  # fmt: skip


class RainIn(Model):
    """A roof, a month's rain, a barrel, and what the water is wanted for."""

    roof_m2: Positive = Field(description="As seen from above")
    rain_mm: NotNegative = Field(description="In the month")
    barrel_l: Positive
    use_l: Positive = Field(description="A day")
    runoff_share: Share = Field(
        default=0.8, description="Tiles and sheet about 0.8–0.9, gravel and turf half; from memory"
    )
    dry_days: Annotated[Number, Field(ge=0, le=365)] = Field(
        default=10.0, description="Longest run of days without rain"
    )
    price_m3: NotNegative = Field(default=4.0, description="Of mains and sewer together")


class Rain(Model):
    """What it brings in the month."""

    caught_l: float
    used_l: float
    covered_share: float
    barrel_days: float
    spared_a_month: float


@quick_sum(
    "rain-water", "What rain off a roof spares", "rain roof barrel butt bill litres garden month mains",
    "caught = roof rain runoff; used ≤ need, less days that the barrel runs dry", "1 mm on 1 m² is 1 litre; runoff from memory", RainIn, Rain,
)  # fmt: skip
def rain_water(given: RainIn) -> Rain:
    """Litres caught and used in a month, the share of the need, how long a full barrel lasts, and money not paid."""
    caught = given.roof_m2 * given.rain_mm * given.runoff_share
    lasts = given.barrel_l / given.use_l
    wet_days = DAYS_MONTH - max(min(given.dry_days, DAYS_MONTH) - lasts, 0.0)
    used = min(caught, wet_days * given.use_l)
    return Rain(
        caught_l=caught, used_l=used, covered_share=used / (DAYS_MONTH * given.use_l), barrel_days=lasts,
        spared_a_month=used / 1000.0 * given.price_m3,
    )  # fmt: skip


class PeopleIn(Model):
    """Who washes in a day, and how warm the store is."""

    persons: NotNegative
    showers_each: NotNegative = 1.0
    shower_l: Positive = Field(
        default=25.0, description="At want_c; a short one 25, a long one 60; common practice, no source"
    )
    baths: NotNegative = 0.0
    bath_l: Positive = Field(default=120.0, description="At want_c; common practice, no source")
    basin_l: NotNegative = Field(
        default=10.0, description="Hands and dishes, each person, at want_c; common practice, no source"
    )
    want_c: Celsius = 40.0
    store_c: Celsius = Field(default=55.0, description="What the store is at in the evening")
    cold_c: Celsius = 12.0

    @model_validator(mode="after")
    def _warmer_than_cold(self) -> PeopleIn:
        if not self.cold_c < self.want_c <= self.store_c:
            raise ValueError(
                f"want_c {self.want_c:g} must lie above cold_c {self.cold_c:g} and up to store_c {self.store_c:g}: "
                "a cooler store makes none of it"
            )
        return self


class People(Model):
    """What they use."""

    warm_l: float
    store_l: float
    heat_kwh: float


@quick_sum(
    "people-water", "How much warm water so many people use", "people persons family shower bath litres store size tank",
    "warm = persons (showers + basin) + baths; store = warm (want − cold)/(store − cold)", "heat balance, 1 kg per litre; litres from common practice",
    PeopleIn, People,
)  # fmt: skip
def people_water(given: PeopleIn) -> People:
    """Litres at the wanted warmth in a day, litres of the store that make them when mixed, and their heat."""
    warm = given.persons * (given.showers_each * given.shower_l + given.basin_l) + given.baths * given.bath_l
    lifted = given.want_c - given.cold_c
    return People(
        warm_l=warm, store_l=warm * lifted / (given.store_c - given.cold_c), heat_kwh=warm * CP_WATER_J_KGK * lifted / KWH_J
    )  # fmt: skip
