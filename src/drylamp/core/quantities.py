"""Quantities that are shown: which one a field holds follows from the unit in its name."""

from __future__ import annotations

from typing import Literal

Quantity = Literal[
    "temperature", "difference", "length", "length_mm", "area", "area_cm2", "volume", "mass", "mass_rate", "mass_area", "angle",
    "minutes", "hours", "share", "speed", "power", "irradiance", "energy", "exposure", "price", "suns", "count", "plain",
]  # fmt: skip
"""Each in a base unit of its own: °C, K, m, mm, m², cm², litre, kg, kg/h, kg/m², °, min, h, 1, m/s, W, W/m², kWh, kWh/m², money, 1."""

BY_SUFFIX: tuple[tuple[str, Quantity], ...] = (
    ("_kwh_m2", "exposure"), ("_w_m2", "irradiance"), ("price_m2", "price"), ("_kg_h", "mass_rate"), ("_m_s", "speed"), ("_minutes", "minutes"),
    ("_share", "share"), ("_cm2", "area_cm2"), ("_m2", "area"), ("_mm", "length_mm"), ("_deg", "angle"), ("_kg", "mass"),
    ("_c", "temperature"), ("_k", "difference"), ("_m", "length"), ("_w", "power"), ("_h", "hours"), ("_kwh", "energy"),
)  # fmt: skip


def quantity_of(name: str) -> Quantity | None:
    """The quantity of a field by the unit in its name; None where it names none."""
    if name == "minutes":
        return "minutes"
    return next((quantity for suffix, quantity in BY_SUFFIX if name.endswith(suffix)), None)


def without_unit(name: str) -> str:
    """A field's name in words, its unit left out."""
    suffix = next((suffix for suffix, _ in BY_SUFFIX if name.endswith(suffix) and suffix.startswith("_")), "")
    words = name.removesuffix(suffix).replace("_", " ")
    return words[:1].upper() + words[1:]
