"""What reads a channel: quantities and their units, instruments and how far they may be off, words, and calibration.

A *doubt* is half the width of the range that holds the truth in 19 cases of 20. Doubts are from memory; a better-known
figure of one's own instrument replaces them on its channel.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.kind import Surface
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import MOST_VALUE, InputProblem, Model, Number, YesNo, require
from drylamp.core.units import GALLON_L

Quantity = Literal["temperature", "sun", "wind", "humidity", "mass", "moisture", "flow", "hours"]


class Unit(Model):
    """A unit a reading may come in: base = value × factor + offset."""

    name: str
    title: str
    quantity: Quantity
    factor: float
    offset: float = 0.0


UNITS: dict[str, Unit] = {
    unit.name: unit
    for unit in (
        Unit(name="C", title="°C", quantity="temperature", factor=1.0),
        Unit(name="F", title="°F", quantity="temperature", factor=1 / 1.8, offset=-32 / 1.8),
        Unit(name="W/m2", title="W/m²", quantity="sun", factor=1.0),
        Unit(name="m/s", title="m/s", quantity="wind", factor=1.0),
        Unit(name="km/h", title="km/h", quantity="wind", factor=1 / 3.6),
        Unit(name="mph", title="mph", quantity="wind", factor=0.44704),
        Unit(name="%", title="%", quantity="humidity", factor=0.01),
        Unit(name="kg", title="kg", quantity="mass", factor=1.0),
        Unit(name="g", title="g", quantity="mass", factor=0.001),
        Unit(name="lb", title="lb", quantity="mass", factor=0.45359237),
        Unit(name="% MC", title="% of dry weight", quantity="moisture", factor=0.01),
        Unit(name="l/min", title="l/min", quantity="flow", factor=1.0),
        Unit(name="kg/s", title="kg/s", quantity="flow", factor=60.0),
        Unit(name="gal/min", title="gal/min", quantity="flow", factor=GALLON_L),
        Unit(name="h", title="h", quantity="hours", factor=1.0),
        Unit(name="min", title="min", quantity="hours", factor=1 / 60.0),
    )
}
"""Flow counts a litre of water as a kilogram."""

BASE_UNIT: dict[Quantity, str] = {
    "temperature": "C", "sun": "W/m2", "wind": "m/s", "humidity": "%", "mass": "kg", "moisture": "% MC", "flow": "l/min", "hours": "h",
}  # fmt: skip
"""The unit a quantity is shown in where a person has said nothing."""


def in_base(value: float, unit: str, quantity: Quantity) -> float:
    """Turn a value into the base of its quantity (°C, W/m², m/s, kg, l/min, fractions).

    Raises
    ------
    InputProblem
        the unit is not one of this quantity.
    """
    known = [u.name for u in UNITS.values() if u.quantity == quantity]
    require(unit in known, "unit", f"'{unit}' is no unit of {quantity}; allowed: {', '.join(known)}")
    return value * UNITS[unit].factor + UNITS[unit].offset


def out_of_base(value: float, unit: str) -> float:
    """Turn a base value back into a unit."""
    return (value - UNITS[unit].offset) / UNITS[unit].factor


class Instrument(Model):
    """Something that reads: the quantity, its doubt, and whether the doubt is a share of the reading."""

    name: str
    title: str
    quantity: Quantity
    doubt: float
    relative: YesNo = False
    note: str = ""


INSTRUMENTS: dict[str, Instrument] = {
    row.name: row
    for row in (
        Instrument(name="probe", title="Kitchen probe", quantity="temperature", doubt=1.0),
        Instrument(name="dial", title="Dial thermometer", quantity="temperature", doubt=4.0),
        Instrument(name="glass", title="Glass thermometer", quantity="temperature", doubt=1.0),
        Instrument(name="wired-probe", title="Wired probe through the seal", quantity="temperature", doubt=0.7),
        Instrument(name="logger", title="Logger channel", quantity="temperature", doubt=0.7),
        Instrument(
            name="infrared", title="Infrared thermometer", quantity="temperature", doubt=3.0,
            note="Not on bare metal and not through glass; it needs the surface's emittance.",
        ),
        Instrument(
            name="words", title="By hand, in words", quantity="temperature", doubt=8.0,
            note="Cold, lukewarm, hand-hot, too hot to hold, or steam on a pane: a band each.",
        ),
        Instrument(name="pyranometer", title="Pyranometer, level", quantity="sun", doubt=0.05, relative=True),
        Instrument(name="anemometer", title="Wind meter", quantity="wind", doubt=0.3),
        Instrument(name="humidity-probe", title="Humidity probe", quantity="humidity", doubt=0.03),
        Instrument(name="scale", title="Kitchen or hanging scale", quantity="mass", doubt=0.005),
        Instrument(name="moisture-meter", title="Moisture meter", quantity="moisture", doubt=0.02),
        Instrument(
            name="bucket", title="Bucket and stopwatch", quantity="flow", doubt=0.04, relative=True,
            note="Fill at least for 30 seconds; litres by the scale, or a mark made with a measuring jug.",
        ),
        Instrument(
            name="hour-meter", title="Hour meter of a pump", quantity="hours", doubt=0.1, note="As it stands, not set back: it counts on from whatever it showed.",
        ),
        Instrument(name="flow-meter", title="Flow meter", quantity="flow", doubt=0.03, relative=True),
    )
}  # fmt: skip


RELATIVE: frozenset[Quantity] = frozenset(i.quantity for i in INSTRUMENTS.values() if i.relative)
"""Quantities whose doubt is a share of the reading."""


def find_instrument(name: str) -> Instrument:
    """Return the instrument of that name.

    Raises
    ------
    InputProblem
        there is none.
    """
    if name not in INSTRUMENTS:
        raise InputProblem("instrument", f"'{name}' is not known; known: {', '.join(INSTRUMENTS)}")
    return INSTRUMENTS[name]


class Word(Model):
    """A word for a temperature and the band it stands for."""

    word: str
    low_c: float
    high_c: float

    @property
    def middle_c(self) -> float:
        """What it counts as."""
        return (self.low_c + self.high_c) / 2

    @property
    def doubt_k(self) -> float:
        """Half the band."""
        return (self.high_c - self.low_c) / 2


BY_HAND: tuple[Word, ...] = (
    Word(word="cold", low_c=5, high_c=25),
    Word(word="lukewarm", low_c=25, high_c=38),
    Word(word="hand-hot", low_c=38, high_c=50),
    Word(word="too hot to hold", low_c=50, high_c=75),
)
"""Band after band. Common practice, no source; skin begins to hurt near 45 °C and a hand lets go of metal near 50 °C."""
WORDS: tuple[Word, ...] = (*BY_HAND, Word(word="steam on a pane", low_c=40, high_c=70))
"""And what a cold pane held over water says; from memory."""


def find_word(text: str) -> Word | None:
    """The word that a text is, if it is one."""
    plain = " ".join(text.lower().replace("_", " ").split())
    return next((word for word in WORDS if word.word == plain), None)


class ProbeCalibration(Model):
    """What a probe showed in melting ice, and in boiling water here if that was tried; both as read, °C."""

    ice_c: Annotated[Number, Field(ge=-15, le=15)] | None = None
    boil_c: Annotated[Number, Field(ge=70, le=120)] | None = None

    def corrected(self, read_c: float, boiling_c: float) -> float:
        """A reading put right: a straight line through both points, or a shift by the one that was tried."""
        if self.ice_c is not None and self.boil_c is not None:
            return (read_c - self.ice_c) * boiling_c / (self.boil_c - self.ice_c)
        if self.ice_c is not None:
            return read_c - self.ice_c
        if self.boil_c is not None:
            return read_c + boiling_c - self.boil_c
        return read_c

    def doubt_k(self, usual_k: float) -> float:
        """What stays in doubt: a third of the usual with two points, half with one, never under 0.3 K; from memory."""
        points = sum(value is not None for value in (self.ice_c, self.boil_c))
        return max(usual_k / (1, 2, 3)[points], min(0.3, usual_k))


HOTTEST_SEEN_C = 5000.0
"""Nothing that an infrared thermometer shows is hotter."""
BARE_METAL_BELOW = 0.6
"""Emittance under which a surface mirrors its surroundings too much for an infrared thermometer; common practice."""


def surface_seen(build: Build, node: str) -> Surface | None:
    """The surface that a node shows; None where nothing can be seen."""
    return kind_of(build).surfaces(build).get(node)


def check_infrared(build: Build, node: str) -> float:
    """Emittance to read a node with.

    Raises
    ------
    InputProblem
        there is no surface to see, it is bare metal, or glass or film lies in between.
    """
    seen = surface_seen(build, node)
    if seen is None:
        raise InputProblem("instrument", f"an infrared thermometer reads surfaces, and {node} is none; take a probe")
    emittance = seen.emittance
    require(
        not seen.behind_cover, "instrument", "an infrared thermometer reads the glass or film, not what is behind it; take a wired probe"
    )  # fmt: skip
    require(
        emittance >= BARE_METAL_BELOW, "instrument",
        f"this surface has an emittance of {emittance:.2f}: bare metal mirrors what stands around it, and the reading would be far too low; "
        "stick a patch of matt tape on it or take a probe",
    )  # fmt: skip
    return emittance


USUAL_SET_TO = 0.95
"""Emittance that an infrared thermometer is set to when it is bought."""


def put_right(
    values: Array,
    calibration: ProbeCalibration | None,
    seen: Surface | None,
    set_to: float | None,
    around_c: float,
    boiling: float,
) -> Array:
    """Values of a channel put right by ice and boiling point, and by the emittance of the surface that was seen.

    Parameters
    ----------
    values
        as read, °C, shape (n,)
    seen
        surface that an infrared thermometer was pointed at; none for what touches
    set_to
        emittance that it is set to, the usual one where not given
    around_c, boiling
        what the surface mirrors, and where water boils, °C
    """
    if calibration is not None:
        values = np.array([calibration.corrected(float(v), boiling) for v in values])
    if seen is not None:
        values = np.array([infrared_c(float(v), set_to or USUAL_SET_TO, seen.emittance, around_c) for v in values])
    return values


def infrared_c(read_c: float, set_to: float, emittance: float, around_c: float) -> float:
    """What a surface's temperature was, read with an instrument set to another emittance.

    The instrument takes ε_set σ T_read⁴ + (1 − ε_set) σ T_around⁴ for the light it gets, which is ε σ T⁴ + (1 − ε) σ T_around⁴.
    """
    around, seen = (around_c + 273.15) ** 4, min(max(read_c, -273.15), HOTTEST_SEEN_C) + 273.15
    own = around + set_to / emittance * (seen**4 - around)
    return math.sqrt(math.sqrt(max(own, 1.0))) - 273.15


NO_NUMBER = frozenset(("", "nan", "null", "none", "na", "n/a", "-", "--", "---", "inf", "-inf", "err", "error", "ovf"))
"""What loggers write when a sensor gives nothing."""


def number_in(text: str) -> float | None:
    """A number, or None for what sensors send when they have none.

    Raises
    ------
    InputProblem
        it is neither.
    """
    if text.strip().lower() in NO_NUMBER:
        return None
    try:
        value = float(text)
    except ValueError:
        raise InputProblem("value", f"'{text[:30]}' is no number") from None
    require(
        not math.isfinite(value) or abs(value) <= MOST_VALUE, "value",
        f"'{text[:30]}' was given; no sensor sends more than {MOST_VALUE:g}",
    )  # fmt: skip
    return value if math.isfinite(value) else None
