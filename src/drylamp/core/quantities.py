"""Quantities that are shown: which one a field holds follows from the unit in its name."""

from __future__ import annotations

from typing import Literal

Quantity = Literal[
    "temperature", "difference", "length", "distance", "length_mm", "area", "area_cm2", "volume", "flow", "mass", "mass_rate", "mass_area", "density", "conductivity", "specific_heat", "loss", "angle",
    "minutes", "hours", "share", "speed", "power", "irradiance", "energy", "exposure", "price", "suns", "timber", "count", "plain",
]  # fmt: skip
"""Each in a base unit of its own: °C, K, m, m, mm, m², cm², litre, litre/min, kg, kg/h, kg/m², kg/m³, W/m·K, J/kg·K, W/K, °, min, h, 1, m/s, W, W/m², kWh, kWh/m², money, 1; wood in m³."""

BY_SUFFIX: tuple[tuple[str, Quantity], ...] = (
    ("wood_m3", "timber"), ("_mc", "share"), ("_kg_m3", "density"), ("_w_mk", "conductivity"), ("_j_kgk", "specific_heat"), ("_w_k", "loss"), ("_kwh_m2", "exposure"), ("_w_m2", "irradiance"), ("price_m2", "price"), ("_kg_h", "mass_rate"), ("_m_s", "speed"), ("_minutes", "minutes"),
    ("_share", "share"), ("l_min", "flow"), ("_cm2", "area_cm2"), ("_kg_m2", "mass_area"), ("_m2", "area"), ("_mm", "length_mm"), ("_deg", "angle"), ("_kg", "mass"),
    ("_price", "price"), ("_hours", "hours"), ("_c", "temperature"), ("_k", "difference"), ("_m", "length"), ("_w", "power"), ("_kwh", "energy"), ("_h", "hours"), ("_l", "volume"),
)  # fmt: skip


WHOLE: dict[str, Quantity] = {
    "minutes": "minutes", "price": "price", "kg": "mass", "mc": "share", "elevation_m": "distance", "distance_m": "distance", "pipe_m": "distance",
}  # fmt: skip
"""Names that are a quantity by themselves, and lengths that nobody gives in millimetres."""
OF_ONE = ("absorptance", "emittance", "reflectance", "transmittance")
"""Shares that the field speaks of as parts of one, and nobody in per cent."""


def quantity_of(name: str) -> Quantity | None:
    """The quantity of a field by the unit in its name; None where it names none."""
    if name in WHOLE:
        return WHOLE[name]
    if name.endswith(OF_ONE):
        return "plain"
    return next((quantity for suffix, quantity in BY_SUFFIX if name.endswith(suffix)), None)


def said_field(path: str) -> str:
    """A field by its path, as a person would call it: *Altitude (spots 1, horizon 2)*."""
    parts = path.split(".")
    names = [k for k, part in enumerate(parts) if not part.isdigit()]
    if not names or not parts[names[-1]].replace("_", "").islower():
        return path
    where = [
        f"{parts[k].replace('_', ' ')} {int(parts[k + 1]) + 1}"
        for k in names
        if k + 1 < len(parts) and parts[k + 1].isdigit()
    ]
    last = parts[names[-1]]
    if where and names[-1] + 1 < len(parts):
        return ", ".join(where).capitalize()
    return without_unit(last) + (f" ({', '.join(where)})" if where else "")


def without_unit(name: str) -> str:
    """A field's name in words, its unit left out."""
    suffix = next((suffix for suffix, _ in BY_SUFFIX if name.endswith(suffix) and suffix.startswith("_")), "")
    words = name.removesuffix(suffix).replace("_", " ")
    return words[:1].upper() + words[1:]
