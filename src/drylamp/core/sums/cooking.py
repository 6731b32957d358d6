"""Sums about solar cooking."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from drylamp.core.checks import Celsius, Model, Positive, require
from drylamp.core.sums.registry import quick_sum
from drylamp.core.tables import waxes
from drylamp.core.text import plain
from drylamp.core.trials.cooking_power import CookingPower, cooking_power, intervals, read_log
from drylamp.core.trials.figures import boil_minutes, first_figure_m2k_w, second_figure


class MeritIn(Model):
    """A stagnation test, and if done a water test."""

    plate_c: Celsius
    ambient_c: Celsius
    sun_w_m2: Positive
    mass_kg: Positive | None = None
    area_m2: Positive | None = None
    water_start_c: Celsius | None = None
    water_end_c: Celsius | None = None
    seconds: Positive | None = None
    test_ambient_c: Celsius | None = None
    test_sun_w_m2: Positive | None = None

    @model_validator(mode="after")
    def _sane(self) -> MeritIn:
        if self.plate_c <= self.ambient_c:
            raise ValueError(f"plate_c {self.plate_c:g} must be above ambient_c {self.ambient_c:g}")
        if self.water_start_c is not None and self.water_end_c is not None and self.water_end_c <= self.water_start_c:
            raise ValueError("water_end_c must be above water_start_c")
        return self


class Merit(Model):
    """The two figures of merit and the time to boil; None where inputs are absent."""

    f1_m2k_w: float
    f2: float | None
    boil_minutes: float | None


@quick_sum(
    "figures-of-merit", "How good a box oven is", "figure merit f1 f2 oven cooker stagnation grade",
    "F1 = (plate − ambient)/sun; F2 = F1 (m c)/(A t) ln[(1 − x₁)/(1 − x₂)], x = (T − Ta)/(F1 G)",
    "Mullick, Kandpal & Saxena 1987; IS 13429", MeritIn, Merit,
)  # fmt: skip
def figures_of_merit(given: MeritIn) -> Merit:
    """F1 from stagnation; F2 and boiling time from a water test."""
    f1 = first_figure_m2k_w(given.plate_c, given.ambient_c, given.sun_w_m2)
    water = (given.mass_kg, given.area_m2, given.water_start_c, given.water_end_c, given.seconds)
    if any(v is None for v in water) or given.test_ambient_c is None or given.test_sun_w_m2 is None:
        return Merit(f1_m2k_w=f1, f2=None, boil_minutes=None)
    mass, area, start, end, seconds = (float(v) for v in water if v is not None)
    f2 = second_figure(f1, mass, area, start, end, seconds, given.test_ambient_c, given.test_sun_w_m2)
    minutes = boil_minutes(f1, f2, mass, area, given.test_ambient_c, given.test_sun_w_m2)
    return Merit(f1_m2k_w=f1, f2=f2, boil_minutes=minutes)


class CookingPowerIn(Model):
    """A log of heating water, and the cooker."""

    file: str = Field(
        json_schema_extra={"format": "csv-file"}, description="CSV with time, water_c, ambient_c, sun_w_m2, wind_m_s"
    )
    mass_kg: Positive = Field(description="Water")
    area_m2: Positive = Field(description="Opening that catches the sun, mirrors included")


@quick_sum(
    "cooking-power", "Standard cooking power of a test", "cooking power standard test watts cooker asae",
    "P = m c ΔT/600 s × 700/sun for every ten minutes; straight line on water − air, read at 50 K",
    "ASAE/ASABE S580.1", CookingPowerIn, CookingPower,
)  # fmt: skip
def standard_cooking_power(given: CookingPowerIn) -> CookingPower:
    """Standardised cooking power at a difference of 50 K."""
    found = cooking_power(intervals(read_log(given.file), given.mass_kg), given.mass_kg, given.area_m2)
    return found.model_copy(update={"reasons": [plain(reason) for reason in found.reasons]})


class MeltIn(Model):
    """Wax to melt."""

    mass_kg: Positive
    material: Literal["beeswax", "paraffin"] = "beeswax"
    from_c: Celsius


class Melt(Model):
    """Heat it takes, and the properties used."""

    energy_mj: float
    cp_j_kgk: float
    melting_c: float
    latent_j_kg: float


@quick_sum(
    "melt", "What it takes to melt wax", "melt wax beeswax paraffin candle latent heat",
    "E = m [c (melting − from) + latent]", "heat balance; properties in tables/waxes.csv, from memory", MeltIn, Melt,
)  # fmt: skip
def melt(given: MeltIn) -> Melt:
    """Heat from a temperature to just melted.

    Raises
    ------
    InputProblem
        it starts above its melting point.
    """
    wax = waxes()[given.material]
    good = given.from_c <= wax.melting_c
    require(good, "from_c", f"{given.from_c:g} was given; {wax.name} melts at {wax.melting_c:g} °C, give less")
    energy = given.mass_kg * (wax.cp_j_kgk * (wax.melting_c - given.from_c) + wax.latent_j_kg)
    return Melt(energy_mj=energy / 1e6, cp_j_kgk=wax.cp_j_kgk, melting_c=wax.melting_c, latent_j_kg=wax.latent_j_kg)
