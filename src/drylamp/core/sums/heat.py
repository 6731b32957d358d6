"""Sums about heat: keeping it, storing it, paying for it."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core.air.constants import STEFAN_BOLTZMANN
from drylamp.core.checks import (
    Celsius,
    Count,
    Fraction,
    InputProblem,
    Model,
    NotNegative,
    Number,
    Positive,
    Tilt,
    require,
)
from drylamp.core.heat.laws import cavity_w_k
from drylamp.core.sums.registry import quick_sum

R_US_PER_SI = 5.678263
"""1 m²K/W in h·ft²·°F/Btu."""
CP = Annotated[Number, Field(gt=0, le=20000)]


class TopLossIn(Model):
    """Plate, covers and surroundings."""

    plate_c: Celsius
    ambient_c: Celsius
    wind_m_s: Annotated[Number, Field(ge=0, le=60)] | None = None
    wind_w_m2k: Positive | None = None
    covers: Annotated[Count, Field(ge=1, le=5)]
    plate_emittance: Annotated[Fraction, Field(gt=0)]
    cover_emittance: Annotated[Fraction, Field(gt=0)] = 0.88
    gap_m: Annotated[Number, Field(ge=0.003, le=0.2)] = 0.025
    tilt_deg: Tilt = 45.0
    sky_c: Celsius | None = None

    @model_validator(mode="after")
    def _one_wind(self) -> TopLossIn:
        if (self.wind_m_s is None) == (self.wind_w_m2k is None):
            raise ValueError("give either wind_m_s or wind_w_m2k, one of the two")
        if self.plate_c <= self.ambient_c:
            raise ValueError(f"plate_c {self.plate_c:g} must be above ambient_c {self.ambient_c:g}")
        return self


class TopLoss(Model):
    """Loss coefficient."""

    u_top_w_m2k: float


@quick_sum(
    "top-loss", "What a plate loses through its covers", "top loss cover glass plate collector coefficient",
    "Layer by layer: cavity convection (Hollands), grey radiation, wind h = 5.7 + 3.8 V; balance solved",
    "Duffie & Beckman ch. 6 (method of example 6.4.1); Hollands et al. 1976; McAdams 1954 (wind)", TopLossIn, TopLoss,
)  # fmt: skip
def top_loss(given: TopLossIn) -> TopLoss:
    """Balance the covers' temperatures until the same heat passes every layer."""
    wind = given.wind_w_m2k if given.wind_w_m2k is not None else 5.7 + 3.8 * float(given.wind_m_s or 0.0)
    sky = given.ambient_c if given.sky_c is None else given.sky_c
    from scipy.optimize import fsolve

    def flows(covers_c: list[float]) -> list[float]:
        chain = [given.plate_c, *covers_c]
        flux = []
        for k in range(given.covers):
            below = given.plate_emittance if k == 0 else given.cover_emittance
            flux.append(_gap_flux(given, chain[k], chain[k + 1], below))
        flux.append(_outside_flux(given, chain[-1], wind, sky))
        return flux

    def imbalance(covers_c: list[float]) -> list[float]:
        flux = flows(list(covers_c))
        return [flux[k] - flux[k + 1] for k in range(given.covers)]

    step = (given.plate_c - given.ambient_c) / (given.covers + 1)
    guess = [given.plate_c - step * (k + 1) for k in range(given.covers)]
    found, _, flag, _ = fsolve(imbalance, guess, full_output=True)
    require(flag == 1, "plate_c", "the balance of the covers was not found; check gap and temperatures")
    return TopLoss(u_top_w_m2k=float(flows([float(v) for v in found])[0] / (given.plate_c - given.ambient_c)))


def _gap_flux(given: TopLossIn, hot_c: float, cold_c: float, emittance: float) -> float:
    convection = cavity_w_k(1.0, given.gap_m, given.tilt_deg, hot_c, cold_c, 101325.0) * (hot_c - cold_c)
    pair = 1.0 / (1.0 / emittance + 1.0 / given.cover_emittance - 1.0)
    return float(convection) + STEFAN_BOLTZMANN * pair * ((hot_c + 273.15) ** 4 - (cold_c + 273.15) ** 4)


def _outside_flux(given: TopLossIn, cover_c: float, wind_w_m2k: float, sky_c: float) -> float:
    radiation = STEFAN_BOLTZMANN * given.cover_emittance * ((cover_c + 273.15) ** 4 - (sky_c + 273.15) ** 4)
    return wind_w_m2k * (cover_c - given.ambient_c) + radiation


class WallIn(Model):
    """Layers of a wall as text, and the films on its sides."""

    layers: Annotated[str, Field(min_length=3, max_length=400, description="thickness_m:conductivity, comma between")]
    inside_w_m2k: Positive = 8.0
    outside_w_m2k: Positive = 20.0


class Wall(Model):
    """How well a wall insulates."""

    u_w_m2k: float
    r_m2k_w: float
    r_us: float


@quick_sum(
    "wall", "How well a wall insulates", "wall insulation layers u-value r-value foam board",
    "R = 1/h_in + Σ thickness/conductivity + 1/h_out; U = 1/R", "ISO 6946 (plain layers)", WallIn, Wall,
)  # fmt: skip
def wall(given: WallIn) -> Wall:
    """Resistance of layers and films in a row."""
    resistance = 1.0 / given.inside_w_m2k + 1.0 / given.outside_w_m2k
    for number, text in enumerate(given.layers.split(","), start=1):
        resistance += _layer_resistance(number, text)
    return Wall(u_w_m2k=1.0 / resistance, r_m2k_w=resistance, r_us=resistance * R_US_PER_SI)


def _layer_resistance(number: int, text: str) -> float:
    try:
        thickness, conductivity = (float(part) for part in text.split(":"))
    except ValueError:
        raise InputProblem(
            "layers", f"layer {number} is '{text.strip()}'; write thickness_m:conductivity, such as 0.05:0.04"
        ) from None
    good = math.isfinite(thickness) and math.isfinite(conductivity) and thickness >= 0 and conductivity > 0
    require(
        good,
        "layers",
        f"layer {number} is '{text.strip()}'; thickness must be 0 or more, conductivity above 0",
    )
    return thickness / conductivity


class HeatUpIn(Model):
    """What is warmed, and by how much power."""

    mass_kg: Positive
    cp_j_kgk: CP = 4186.0
    from_c: Celsius
    to_c: Celsius
    power_w: Positive | None = None


class HeatUp(Model):
    """Energy and time."""

    energy_mj: float
    energy_kwh: float
    hours: float | None


@quick_sum(
    "heat-up", "What warming takes", "heat energy warm water food stone mass time",
    "E = m cp (to − from); hours = E / power", "definition of specific heat", HeatUpIn, HeatUp,
)  # fmt: skip
def heat_up(given: HeatUpIn) -> HeatUp:
    """Energy to warm a mass, and the time at a given power (negative where it cools)."""
    energy = given.mass_kg * given.cp_j_kgk * (given.to_c - given.from_c)
    hours = None if given.power_w is None else energy / given.power_w / 3600.0
    return HeatUp(energy_mj=energy / 1e6, energy_kwh=energy / 3.6e6, hours=hours)


class CoolDownIn(Model):
    """A mass left to cool."""

    mass_kg: Positive
    cp_j_kgk: CP = 4186.0
    start_c: Celsius
    end_c: Celsius
    ambient_c: Celsius
    hours: Positive

    @model_validator(mode="after")
    def _cools(self) -> CoolDownIn:
        between = self.ambient_c < self.end_c < self.start_c or self.ambient_c > self.end_c > self.start_c
        if not between:
            raise ValueError("end_c must lie between start_c and ambient_c")
        return self


class CoolDown(Model):
    """Loss found from cooling."""

    ua_w_k: float
    time_constant_h: float


@quick_sum(
    "cool-down", "What a tank or box loses", "cool loss night tank insulation ua half-life",
    "UA = m cp ln[(start − ambient)/(end − ambient)] / time", "Newton's law of cooling; form of ISO 9459-2 night loss",
    CoolDownIn, CoolDown,
)  # fmt: skip
def cool_down(given: CoolDownIn) -> CoolDown:
    """Loss coefficient and time constant from a start and an end temperature."""
    ratio = (given.start_c - given.ambient_c) / (given.end_c - given.ambient_c)
    constant_h = given.hours / math.log(ratio)
    return CoolDown(ua_w_k=given.mass_kg * given.cp_j_kgk / (constant_h * 3600.0), time_constant_h=constant_h)


class SavingIn(Model):
    """What a use saves, how often, at what price."""

    energy_kwh_per_use: NotNegative
    uses_per_year: NotNegative
    price_per_kwh: NotNegative
    cost: NotNegative


class Saving(Model):
    """Money."""

    saved_per_year: float
    payback_years: float | None


@quick_sum(
    "saving", "When it has paid for itself", "saving money pay-back cost price",
    "saved = energy × uses × price; years = cost / saved", "definition (no interest)", SavingIn, Saving,
)  # fmt: skip
def saving(given: SavingIn) -> Saving:
    """Money saved in a year, and years until the cost is back (none when nothing is saved)."""
    saved = given.energy_kwh_per_use * given.uses_per_year * given.price_per_kwh
    return Saving(saved_per_year=saved, payback_years=given.cost / saved if saved > 0 else None)
