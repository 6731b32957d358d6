"""Sentences as words and quantities: a number that has a unit never stands in prose, so that everybody reads it in their own.

A sentence is made as any text is, with ``celsius(98.2)`` or ``metres(0.3)`` in place of a number and its unit. In memory it
is a text with marks; over the wire it is the list of its words and quantities (``Sentence``); where there is nobody to choose
a unit, on the command line and in files, ``plain`` writes it out in the first unit of each quantity (``units.py``).
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from datetime import date
from typing import Annotated, cast, get_args

from pydantic import BeforeValidator, PlainSerializer

from drylamp.core.checks import Model, YesNo
from drylamp.core.quantities import Quantity
from drylamp.core.units import shown

_NUMBER = r"-?\d+(?:\.\d+)?(?:e[+-]\d{2,3})?"
MARK = re.compile(
    rf"⦃(?P<value>{_NUMBER}) (?P<quantity>{'|'.join(get_args(Quantity))})(?: (?P<doubt>{_NUMBER}))?(?: (?P<signed>signed))?⦄"
)
"""Anything else between such brackets is words: a name may hold what its giver likes."""


class Amount(Model):
    """A quantity within a sentence, in its base unit; ``doubt`` is half the range that holds the truth in 19 cases of 20."""

    value: float
    quantity: Quantity
    doubt: float | None = None
    signed: YesNo = False


Piece = str | Amount


def amount(value: float | None, quantity: Quantity, doubt: float | None = None, *, signed: bool = False) -> str:
    """Mark a quantity for a sentence; a value that is no number is written as a dash."""
    if value is None or not math.isfinite(value):
        return "–"
    beside = "" if doubt is None or not math.isfinite(doubt) else f" {float(doubt):.6g}"
    return f"⦃{float(value):.6g} {quantity}{beside}{' signed' if signed else ''}⦄"


def celsius(value: float | None, doubt: float | None = None) -> str:
    """A temperature, °C."""
    return amount(value, "temperature", doubt)


def kelvin(value: float | None, doubt: float | None = None, *, signed: bool = False) -> str:
    """A difference of temperatures, K."""
    return amount(value, "difference", doubt, signed=signed)


def metres(value: float) -> str:
    """A length, m."""
    return amount(value, "length")


def square_metres(value: float) -> str:
    """An area, m²."""
    return amount(value, "area")


def kilograms(value: float, doubt: float | None = None) -> str:
    """A mass, kg."""
    return amount(value, "mass", doubt)


def litres(value: float) -> str:
    """A volume, L."""
    return amount(value, "volume")


def litres_a_minute(value: float, doubt: float | None = None) -> str:
    """A flow, L/min."""
    return amount(value, "flow", doubt)


def minutes(value: float, doubt: float | None = None) -> str:
    """A time, min."""
    return amount(value, "minutes", doubt)


def degrees(value: float) -> str:
    """An angle, °."""
    return amount(value, "angle")


def watts(value: float, doubt: float | None = None) -> str:
    """A power, W."""
    return amount(value, "power", doubt)


def watts_m2(value: float) -> str:
    """Sun on a square metre, W/m²."""
    return amount(value, "irradiance")


def metres_per_second(value: float) -> str:
    """A speed, m/s."""
    return amount(value, "speed")


def kilowatt_hours(value: float, doubt: float | None = None) -> str:
    """Energy, kWh."""
    return amount(value, "energy", doubt)


def pieces(sentence: str) -> list[Piece]:
    """A sentence as its words and quantities."""
    out: list[Piece] = []
    at = 0
    for found in MARK.finditer(sentence):
        if found.start() > at:
            out.append(sentence[at : found.start()])
        out.append(_amount(found))
        at = found.end()
    if at < len(sentence):
        out.append(sentence[at:])
    return out


def _amount(found: re.Match[str]) -> Amount:
    doubt = found["doubt"]
    return Amount(
        value=float(found["value"]),
        quantity=cast(Quantity, found["quantity"]),
        doubt=None if doubt is None else float(doubt),
        signed=found["signed"] is not None,
    )


def marked(given: str | Sequence[object]) -> str:
    """A sentence from what goes over the wire."""
    if isinstance(given, str):
        return given
    out = []
    for piece in given:
        one = piece if isinstance(piece, str | Amount) else Amount.model_validate(piece)
        out.append(one if isinstance(one, str) else amount(one.value, one.quantity, one.doubt, signed=one.signed))
    return "".join(out)


def plain(sentence: str) -> str:
    """A sentence written out, each quantity in its first unit."""
    return MARK.sub(lambda found: _written(_amount(found)), sentence)


def _written(part: Amount) -> str:
    return shown(part.value, part.quantity, doubt=part.doubt, signed=part.signed)


Sentence = Annotated[str, BeforeValidator(marked), PlainSerializer(pieces, return_type=list[Piece])]
"""Words with quantities; a list of them over the wire."""


def month_name(month: int) -> str:
    """Of a month, 1–12."""
    return f"{date(2000, month, 1):%B}"


def listed_months(months: Sequence[int]) -> str:
    """Months, 1–12, as a sentence lists them."""
    *first, last = (month_name(month) for month in months)
    return f"{', '.join(first)} and {last}" if first else last


def capital(words: str) -> str:
    """The same as a sentence begins."""
    return f"{words[:1].upper()}{words[1:]}"


def counted(number: int, thing: str) -> str:
    """A number of things in words."""
    return f"{number} {thing}{'' if number == 1 else 's'}"
