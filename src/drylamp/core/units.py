"""Units of every quantity: what a person may type, what is shown, and with how many digits; one table for core and front end.

The front end reads it as ``units.json`` (written by ``make api``). A quantity's first unit is its base or the usual one of
the first preset; ``factor`` and ``offset`` bring what is typed to the base: base = (typed + offset) · factor.
"""

from __future__ import annotations

import math
from typing import Any

from drylamp.core.checks import Model, YesNo
from drylamp.core.quantities import Quantity


class Unit(Model):
    """A unit: how it is written, what may be typed for it, and how its numbers are rounded.

    Attributes:
        figures, decimals: a number is shown with so many figures, but never with more decimals; whole digits always stay
        close: written close behind its number, without a blank
        coins: where it is not whole, all its decimals are written, as in 0.50
    """

    symbol: str
    words: list[str]
    factor: float = 1.0
    offset: float = 0.0
    figures: int = 3
    decimals: int = 0
    close: YesNo = False
    coins: YesNo = False


def _unit(symbol: str, words: str, factor: float = 1.0, **rule: Any) -> Unit:
    return Unit(symbol=symbol, words=words.split(), factor=factor, **rule)


INCH_M, FOOT_M, POUND_KG, OUNCE_KG, BTU_WH = 0.0254, 0.3048, 0.45359237, 0.028349523125, 0.29307107
"""Exact by definition, the last the International Table's (NIST SP 811, appendix B)."""
GALLON_L, MPH_M_S, FOOT2_M2 = 3.785411784, 0.44704, 0.09290304
BOARD_FOOT_M3 = 144.0 * INCH_M**3

MILLIMETRE = _unit("mm", "mm", 0.001, figures=4, decimals=2)
INCH = _unit("in", 'in inch inches " ″', INCH_M, figures=4, decimals=2)
LENGTHS = [
    MILLIMETRE, _unit("cm", "cm", 0.01, figures=4, decimals=1), _unit("m", "m metre metres", figures=3, decimals=2),
    INCH, _unit("ft", "ft foot feet ' ′", FOOT_M, figures=3, decimals=2),
]  # fmt: skip
MINUTES = [
    _unit("min", "min minute minutes", figures=3, decimals=0), _unit("h", "h hour hours", 60.0, figures=3, decimals=1),
    _unit("weeks", "week weeks", 10080.0),
]  # fmt: skip

UNITS: dict[Quantity, list[Unit]] = {
    "temperature": [
        _unit("°C", "°c c celsius"), _unit("°F", "°f f fahrenheit", 1 / 1.8, offset=-32.0),
    ],
    "difference": [_unit("K", "k kelvin °c c", figures=2, decimals=1), _unit("°F", "°f f", 1 / 1.8, figures=2, decimals=1)],
    "length": LENGTHS,
    "distance": [_unit("m", "m metre metres", figures=4, decimals=1), _unit("ft", "ft foot feet", FOOT_M, figures=4, decimals=1)],
    "length_mm": [unit.model_copy(update={"factor": unit.factor * 1000.0, "decimals": 3 if unit is INCH else unit.decimals}) for unit in LENGTHS],
    "area": [
        _unit("m²", "m² m2", figures=3, decimals=2), _unit("ft²", "ft² ft2", FOOT2_M2, figures=3, decimals=1),
        _unit("cm²", "cm² cm2", 1e-4), _unit("in²", "in² in2", INCH_M**2),
    ],
    "area_cm2": [
        _unit("cm²", "cm² cm2", figures=3, decimals=1), _unit("in²", "in² in2", (INCH_M * 100) ** 2, figures=3, decimals=1),
        _unit("m²", "m² m2", 1e4, figures=3, decimals=3),
    ],
    "volume": [
        _unit("L", "l litre litres liter liters", figures=3, decimals=1), _unit("gal", "gal gallon gallons", GALLON_L, figures=3, decimals=2),
        _unit("ml", "ml", 0.001), _unit("qt", "qt quart quarts", GALLON_L / 4, figures=3, decimals=1),
    ],
    "flow": [
        _unit("L/min", "l/min lpm", figures=3, decimals=2), _unit("gal/min", "gal/min gpm", GALLON_L, figures=3, decimals=2),
        _unit("L/h", "l/h", 1 / 60, figures=3, decimals=1), _unit("kg/s", "kg/s", 60.0),
    ],
    "mass": [
        _unit("kg", "kg", figures=3, decimals=3), _unit("lb", "lb lbs pound pounds", POUND_KG, figures=3, decimals=2),
        _unit("g", "g gram grams", 0.001), _unit("oz", "oz ounce ounces", OUNCE_KG, figures=3, decimals=1),
    ],
    "mass_rate": [_unit("kg/h", "kg/h", figures=2, decimals=2), _unit("lb/h", "lb/h", POUND_KG, figures=2, decimals=2)],
    "mass_area": [_unit("kg/m²", "kg/m²", figures=2, decimals=1), _unit("lb/ft²", "lb/ft²", POUND_KG / FOOT2_M2, figures=2, decimals=1)],
    "density": [_unit("kg/m³", "kg/m³ kg/m3", figures=4, decimals=1), _unit("lb/ft³", "lb/ft³ lb/ft3", POUND_KG / FOOT_M**3, figures=3, decimals=2)],
    "conductivity": [
        _unit("W/m·K", "w/m·k w/mk", figures=3, decimals=4), _unit("BTU/h·ft·°F", "btu/h·ft·°f", BTU_WH / FOOT_M * 1.8, figures=3, decimals=4),
    ],
    "specific_heat": [
        _unit("J/kg·K", "j/kg·k j/kgk", figures=4), _unit("BTU/lb·°F", "btu/lb·°f", BTU_WH * 3600.0 / POUND_KG * 1.8, figures=3, decimals=3),
    ],
    "loss": [_unit("W/K", "w/k", figures=2, decimals=3), _unit("BTU/h·°F", "btu/h·°f", BTU_WH * 1.8, figures=2, decimals=3)],
    "angle": [_unit("°", "° deg degree degrees", figures=3, decimals=0, close=True)],
    "minutes": MINUTES,
    "hours": [_unit("h", "h hour hours", figures=3, decimals=1), _unit("min", "min", 1 / 60)],
    "share": [_unit("%", "%", 0.01, figures=3, decimals=0)],
    "speed": [
        _unit("m/s", "m/s", figures=2, decimals=1), _unit("mph", "mph", MPH_M_S, figures=2, decimals=1),
        _unit("km/h", "km/h kmh", 1 / 3.6, figures=2, decimals=0),
    ],
    "power": [_unit("W", "w watt watts"), _unit("BTU/h", "btu/h btu", BTU_WH), _unit("kW", "kw", 1000.0, figures=3, decimals=2)],
    "irradiance": [_unit("W/m²", "w/m² w/m2"), _unit("BTU/h·ft²", "btu/h·ft² btu/hft2", BTU_WH / FOOT2_M2)],
    "energy": [_unit("kWh", "kwh", figures=3, decimals=2), _unit("BTU", "btu", BTU_WH / 1000.0), _unit("MJ", "mj", 1 / 3.6, figures=3, decimals=2)],
    "exposure": [_unit("kWh/m²", "kwh/m² kwh/m2", figures=3, decimals=2), _unit("BTU/ft²", "btu/ft² btu/ft2", BTU_WH / 1000.0 / FOOT2_M2)],
    "price": [
        _unit("€", "€ eur", figures=4, decimals=2, coins=True), _unit("$", "$ usd", figures=4, decimals=2, coins=True),
        _unit("£", "£ gbp", figures=4, decimals=2, coins=True),
    ],
    "timber": [
        _unit("m³", "m³ m3", figures=3, decimals=2), _unit("board feet", "bf board-feet fbm", BOARD_FOOT_M3, figures=3, decimals=0),
        _unit("L", "l litre litres", 0.001, figures=3, decimals=0), _unit("ft³", "ft³ ft3", FOOT_M**3, figures=3, decimals=1),
    ],
    "suns": [_unit("suns", "suns", figures=2, decimals=1)],
    "count": [_unit("", "")],
    "plain": [_unit("", "", figures=3, decimals=2)],
}  # fmt: skip
"""Money is typed and shown as it is; nobody's exchange rate is known here."""

CHOSEN: dict[Quantity, str] = {
    "temperature": "temperature", "length": "length", "volume": "volume", "mass": "mass", "speed": "wind", "power": "power",
    "irradiance": "sun", "energy": "energy", "timber": "boards", "price": "money",
}  # fmt: skip
"""Quantities whose unit a person sets, in words; the others follow one of them."""
PRESETS: dict[str, dict[Quantity, str]] = {
    "metric": {
        "temperature": "°C", "length": "mm", "volume": "L", "mass": "kg", "speed": "m/s", "power": "W", "irradiance": "W/m²",
        "energy": "kWh", "timber": "m³", "price": "€",
    },
    "inch-pound": {
        "temperature": "°F", "length": "in", "volume": "gal", "mass": "lb", "speed": "mph", "power": "BTU/h",
        "irradiance": "BTU/h·ft²", "energy": "BTU", "timber": "board feet", "price": "$",
    },
}  # fmt: skip
_POUNDS: dict[Quantity, str] = {"mass_rate": "lb/h", "mass_area": "lb/ft²", "density": "lb/ft³"}
_INCHES: dict[Quantity, str] = {"distance": "ft", "length_mm": "in", "area": "ft²", "area_cm2": "in²"}
FOLLOWED: dict[str, dict[Quantity, str]] = {
    "temperature °F": {"difference": "°F"},
    "length in": _INCHES,
    "length ft": _INCHES,
    "volume gal": {"flow": "gal/min"},
    "volume qt": {"flow": "gal/min"},
    "mass lb": _POUNDS,
    "mass oz": _POUNDS,
    "power BTU/h": {"conductivity": "BTU/h·ft·°F", "specific_heat": "BTU/lb·°F", "loss": "BTU/h·°F"},
    "irradiance BTU/h·ft²": {"exposure": "BTU/ft²"},
}
"""Units of other quantities that come with one that was set; where nothing is said, their first."""


def rounded(number: float, unit: Unit, doubt: float | None = None) -> tuple[str, str]:
    """A number of a unit, and its doubt, as digits: as many as the unit's rule gives the doubt, else the number itself."""
    if not doubt:
        return _short(_digits(number, _decimals(number, unit)), unit), "" if doubt is None else "0"
    decimals = _decimals(doubt, unit, 2)
    return _digits(number, decimals), _digits(max(doubt, 10.0**-decimals), decimals)


def _decimals(number: float, unit: Unit, figures: int | None = None) -> int:
    """Decimals that show so many figures: digits before the point, or noughts behind it, counted off."""
    before = math.floor(math.log10(abs(number))) + 1 if number else 0
    return max(0, min(unit.decimals, (figures or unit.figures) - before))


def _digits(number: float, decimals: int) -> str:
    text = f"{number:.{decimals}f}"
    return text.replace("-", "−") if float(text) else text.lstrip("-")


def _short(text: str, unit: Unit) -> str:
    """Without zeros at the end, save where coins are counted."""
    whole, _, rest = text.partition(".")
    if not rest.strip("0"):
        return whole
    return f"{whole}.{rest.rstrip('0').ljust(unit.decimals if unit.coins else 0, '0')}"


def shown(
    value: float, quantity: Quantity, unit: Unit | None = None, *, doubt: float | None = None, signed: bool = False
) -> str:
    """A base value with its unit, its doubt beside it.

    Parameters
    ----------
    value, doubt
        in the quantity's base
    unit
        the quantity's first where none is given
    signed
        with a plus sign where it is above nothing
    """
    by = unit or UNITS[quantity][0]
    number, beside = rounded(value / by.factor - by.offset, by, None if doubt is None else doubt / by.factor)
    sign = "+" if signed and not number.startswith("−") and number.strip("0.") else ""
    gap = "" if by.close or not by.symbol else " "
    with_doubt = f" ± {beside}" if beside else ""
    return f"{sign}{number}{with_doubt}{gap}{by.symbol}"


def as_json() -> dict[str, object]:
    """The whole table, for the front end."""
    return {
        "units": {quantity: [unit.model_dump() for unit in units] for quantity, units in UNITS.items()},
        "chosen": CHOSEN,
        "followed": FOLLOWED,
        "presets": PRESETS,
    }
