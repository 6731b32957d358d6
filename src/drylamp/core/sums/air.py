"""Sums about moist air and moisture in things."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core.air import moist
from drylamp.core.checks import Fraction, Model, NotNegative, Number, Positive, require
from drylamp.core.sums.registry import quick_sum


class MoistAirIn(Model):
    """Air as a thermometer and a humidity probe see it."""

    temperature_c: Annotated[Number, Field(ge=-60, le=150)]
    rh: Annotated[Fraction, Field(gt=0)]
    pressure_pa: Annotated[Number, Field(ge=30000, le=120000)] = 101325.0


class MoistAir(Model):
    """What that air holds."""

    dew_point_c: float
    wet_bulb_c: float
    humidity_ratio: float
    enthalpy_j_kg: float
    vapour_pressure_deficit_pa: float


@quick_sum(
    "moist-air", "What damp air holds", "moist air humidity dew point wet bulb enthalpy",
    "psychrometrics of moist air", "ASHRAE Handbook Fundamentals; Hyland & Wexler 1983", MoistAirIn, MoistAir,
)  # fmt: skip
def moist_air(given: MoistAirIn) -> MoistAir:
    """Dew point, wet bulb, humidity ratio, enthalpy and vapour-pressure deficit."""
    vapour = moist.vapour_pressure_pa(given.temperature_c, given.rh)
    ratio = moist.humidity_ratio(vapour, given.pressure_pa)
    return MoistAir(
        dew_point_c=moist.dew_point_c(vapour),
        wet_bulb_c=moist.wet_bulb_c(given.temperature_c, ratio, given.pressure_pa),
        humidity_ratio=ratio,
        enthalpy_j_kg=moist.enthalpy_j_kg(given.temperature_c, ratio),
        vapour_pressure_deficit_pa=vapour / given.rh - vapour,
    )


class BasisIn(Model):
    """A moisture content, on one basis."""

    mc_wet: Annotated[Number, Field(ge=0, lt=1)] | None = None
    mc_dry: NotNegative | None = None

    @model_validator(mode="after")
    def _one(self) -> BasisIn:
        if (self.mc_wet is None) == (self.mc_dry is None):
            raise ValueError("give either mc_wet or mc_dry, one of the two")
        return self


class Basis(Model):
    """The same moisture on both bases."""

    mc_wet: float
    mc_dry: float


@quick_sum(
    "moisture-basis", "Wet or dry basis", "moisture content wet dry basis",
    "dry = wet/(1 − wet)", "definition", BasisIn, Basis,
)  # fmt: skip
def moisture_basis(given: BasisIn) -> Basis:
    """Moisture content on wet and on dry basis."""
    wet = given.mc_wet if given.mc_wet is not None else float(given.mc_dry or 0) / (1 + float(given.mc_dry or 0))
    return Basis(mc_wet=wet, mc_dry=wet / (1 - wet))


class TargetIn(Model):
    """A tray as it stands and the moisture wanted."""

    weight_kg: Positive
    mc_wet: Annotated[Number, Field(ge=0, lt=1)]
    target_mc_wet: Annotated[Number, Field(ge=0, lt=1)]


class Target(Model):
    """What the scale shows when done."""

    target_weight_kg: float
    water_kg: float


@quick_sum(
    "target-weight", "What it weighs when dry enough", "target weight scale tray dry done",
    "target = weight (1 − mc)/(1 − target)", "definition; the dry matter stays", TargetIn, Target,
)  # fmt: skip
def target_weight(given: TargetIn) -> Target:
    """Weight at the wanted moisture, and the water to drive off (negative where it must be wetted)."""
    target = given.weight_kg * (1 - given.mc_wet) / (1 - given.target_mc_wet)
    return Target(target_weight_kg=target, water_kg=given.weight_kg - target)


class DryingAirIn(Model):
    """Water to carry off, the air at hand, and how warm the collector makes it."""

    water_kg: Positive
    hours: Positive
    in_c: Annotated[Number, Field(ge=-20, le=60)]
    in_rh: Annotated[Fraction, Field(gt=0)]
    heated_c: Annotated[Number, Field(ge=-20, le=120)]
    exit_rh: Annotated[Fraction, Field(gt=0)] = 0.8
    pressure_pa: Annotated[Number, Field(ge=30000, le=120000)] = 101325.0


class DryingAir(Model):
    """Air and heat for it."""

    air_kg: float
    air_m3_h: float
    heat_mj: float


@quick_sum(
    "drying-air", "How much air a dryer needs", "drying air flow heat water dryer fan vent",
    "air = water/(w_out − w_in); heated at constant humidity ratio, then along constant enthalpy to exit_rh",
    "psychrometrics, ASHRAE Handbook Fundamentals", DryingAirIn, DryingAir,
)  # fmt: skip
def drying_air(given: DryingAirIn) -> DryingAir:
    """Dry air in all, its flow at the inlet, and the heat to warm it.

    Raises
    ------
    InputProblem
        the heated air is no warmer, or already as damp as it should leave.
    """
    require(
        given.heated_c >= given.in_c, "heated_c", f"{given.heated_c:g} was given; must be at least in_c {given.in_c:g}"
    )
    ratio_in = moist.humidity_ratio(moist.vapour_pressure_pa(given.in_c, given.in_rh), given.pressure_pa)
    enthalpy = moist.enthalpy_j_kg(given.heated_c, ratio_in)
    leaving_c = moist.at_enthalpy_c(enthalpy, given.exit_rh, given.pressure_pa)
    ratio_out = moist.humidity_ratio(moist.vapour_pressure_pa(leaving_c, given.exit_rh), given.pressure_pa)
    require(
        ratio_out > ratio_in + 1e-9, "exit_rh",
        f"{given.exit_rh:g} was given; the heated air is already as damp, so it takes up nothing: heat it more",
    )  # fmt: skip
    air = given.water_kg / (ratio_out - ratio_in)
    volume = moist.volume_m3_kg(given.in_c, ratio_in, given.pressure_pa)
    return DryingAir(
        air_kg=air,
        air_m3_h=air * volume / given.hours,
        heat_mj=air * (enthalpy - moist.enthalpy_j_kg(given.in_c, ratio_in)) / 1e6,
    )
