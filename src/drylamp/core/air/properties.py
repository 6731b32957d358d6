"""Dry air at about sea-level pressure: straight lines through the tables, −20…200 °C (checked against CoolProp)."""

from __future__ import annotations

from drylamp.core.compiled import inlined


@inlined
def conductivity_w_mk(celsius: float) -> float:
    """Thermal conductivity of air, W/m·K; within 2 % over −20…200 °C."""
    return 0.02415 + 7.0e-5 * celsius


@inlined
def viscosity_m2_s(celsius: float, pressure_pa: float) -> float:
    """Kinematic viscosity of air, m²/s; within 3 % over −20…200 °C (thinner air: larger in proportion)."""
    return (1.33e-5 + 9.0e-8 * celsius + 9.0e-11 * celsius * celsius) * 101325.0 / pressure_pa


@inlined
def density_kg_m3(celsius: float, pressure_pa: float) -> float:
    """Density of dry air as an ideal gas, kg/m³."""
    return pressure_pa / (287.05 * (celsius + 273.15))
