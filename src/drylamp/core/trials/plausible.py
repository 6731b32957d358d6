"""Does a reading make sense? Odd ones are kept and flagged, never dropped."""

from __future__ import annotations

import math
from datetime import UTC, datetime

from drylamp.core.checks import Model
from drylamp.core.text import celsius, kelvin, kilograms, litres_a_minute
from drylamp.core.trials.instruments import Quantity

LOWEST_C, HIGHEST_C = -60.0, 400.0
STUCK_VALUES_C = {-127.0: "a cut lead", 85.0: "a probe that has not woken up", 2000.0: "an open input"}
"""Telltale values of common digital probes, from memory."""
FASTEST_K_MIN = 25.0
FAR_K = 25.0
NEAR_K = 12.0
RECENT_MINUTES = 10.0
"""A box cannot change so much in this time that the reading before no longer says what to expect."""


DEW_SHARE, DEW_KG = 0.02, 0.008
"""What a scale and a damp night may add to a tray that dries before it is asked about; from memory."""
FLOW_SLACK = 1.3
"""A flow read may be so much over what the head was worked out to drive."""

RANGES: dict[Quantity, tuple[float, float, str]] = {
    "temperature": (LOWEST_C, HIGHEST_C, "°C"),
    "sun": (-20.0, 1800.0, "W/m²"),
    "wind": (0.0, 80.0, "m/s"),
    "humidity": (0.0, 1.05, "(1 is 100 %)"),
    "mass": (0.0, 5000.0, "kg"),
    "moisture": (0.0, 3.0, "(1 is 100 %)"),
    "flow": (0.0, 3000.0, "l/min"),
    "hours": (0.0, 200000.0, "h"),
}
CLOCK_GRACE_S = 120.0
"""So far may a clock of somebody's device be off from this machine's."""
CLOCK_SLACK_S = 86400.0
"""A stamp a day before the start or a day ahead of the server comes from a clock that was never set."""


MOST_SPAN_S = 3.0 * 366.0 * 86400.0
"""A trial is over after so long, whatever a stamp says."""


class Plausibility(Model):
    """A flag on a reading: its code and a plain sentence; an empty code means nothing is odd."""

    code: str = ""
    text: str = ""


NO_FLAG = Plausibility()


def check_clock(at_s: float, started_s: float, now: datetime | None) -> Plausibility:
    """Judge a logger's stamp against the trial's start and the server's clock."""
    stamp = datetime.fromtimestamp(at_s, UTC)
    if abs(at_s - started_s) > MOST_SPAN_S:
        text = f"stamped {stamp:%Y-%m-%d %H:%M} UTC, years from the trial: the logger's clock was not set."
        return Plausibility(code="clock", text=text)
    if at_s < started_s - CLOCK_SLACK_S:
        text = f"stamped {stamp:%Y-%m-%d %H:%M} UTC, long before the trial began: the logger's clock was not set."
        return Plausibility(code="clock", text=text)
    if now is not None and at_s > now.timestamp() + CLOCK_SLACK_S:
        text = f"stamped {stamp:%Y-%m-%d %H:%M} UTC, long after now: the logger's clock was not set."
        return Plausibility(code="clock", text=text)
    return NO_FLAG


def check_reading(
    quantity: Quantity,
    value: float,
    expected_c: float | None,
    last: float | None,
    minutes_since_last: float | None,
    digital: bool = False,
    most: float = math.inf,
    laid_kg: float | None = None,
) -> Plausibility:
    """Judge one value of any quantity, in its base; ``most`` is what can be at all, as the flow that a hose lets through; ``laid_kg`` is what something that only gets lighter weighed at first."""
    if quantity == "temperature":
        return check_temperature(value, expected_c, last, minutes_since_last, digital)
    low, high, unit = RANGES[quantity]
    if not low <= value <= high:
        text = f"{value:g} {unit} is outside {low:g} to {high:g}; check the sensor, its unit and the decimal point."
        return Plausibility(code="impossible", text=text)
    if quantity == "hours" and last is not None and value < last:
        text = f"{value:g} h is less than the {last:g} h before, and an hour meter only counts on; was it set back, or two digits changed places?"
        return Plausibility(code="jump", text=text)
    if laid_kg is not None:
        return _check_losing(value, laid_kg, last)
    if value > FLOW_SLACK * most:
        text = (
            f"{litres_a_minute(value)} cannot pass: with the head that was given at most {litres_a_minute(most)} do; was the bucket timed in seconds, "
            "or a gallon read as litres?"
        )
        return Plausibility(code="impossible", text=text)
    return NO_FLAG


def _check_losing(value: float, laid_kg: float, last: float | None) -> Plausibility:
    """Judge a weight of something that only gets lighter, kg."""
    if value > _with_dew(laid_kg):
        text = (
            f"{kilograms(value)} is more than the {kilograms(laid_kg)} that were laid in: was the tray weighed with it, or another one? "
            "It is kept beside the others; say which."
        )
        return Plausibility(code="impossible", text=text)
    if last is not None and value > _with_dew(last):
        text = (
            f"{kilograms(value)} is more than the {kilograms(last)} before, and food in the sun loses water: dew or rain on it, two trays mixed up, or a slip of the keys? "
            "It is kept beside the others; say which."
        )
        return Plausibility(code="jump", text=text)
    return NO_FLAG


def _with_dew(kg: float) -> float:
    """The most that it may weigh without a question."""
    return kg * (1.0 + DEW_SHARE) + DEW_KG


def check_temperature(
    value_c: float,
    expected_c: float | None,
    last_c: float | None,
    minutes_since_last: float | None,
    digital: bool = False,
) -> Plausibility:
    """Judge one temperature against what the twin expects and what was read before.

    Parameters
    ----------
    value_c
        the reading as it would be in °C
    expected_c
        the twin's temperature there and then, if known
    last_c, minutes_since_last
        the reading before on this channel, if any
    digital
        the reading came from a logger, whose faults have telltale values
    """
    if digital and value_c in STUCK_VALUES_C and value_c != last_c:
        return Plausibility(
            code="stuck", text=f"{celsius(value_c)} is what {STUCK_VALUES_C[value_c]} shows; check the probe."
        )
    if not LOWEST_C <= value_c <= HIGHEST_C:
        text = f"{celsius(value_c)} is outside {celsius(LOWEST_C)} to {celsius(HIGHEST_C)}; check lead, unit and decimal point."
        return Plausibility(code="impossible", text=text)
    recent = last_c is not None and (minutes_since_last or 0.0) <= RECENT_MINUTES
    reference = last_c if recent else expected_c
    as_expected = expected_c is not None and abs(value_c - expected_c) <= FAR_K
    doubtful = not as_expected and not (digital and last_c is not None)  # a logger does not change its unit on its way
    if doubtful and reference is not None and _looks_fahrenheit(value_c, reference):
        as_c = (value_c - 32.0) / 1.8
        text = f"{celsius(value_c)} is far from the {celsius(reference)} expected, but {value_c:g} read as Fahrenheit ({celsius(as_c)}) would fit; is the unit right?"
        return Plausibility(code="unit", text=text)
    if (
        last_c is not None
        and minutes_since_last
        and abs(value_c - last_c) > FASTEST_K_MIN * max(minutes_since_last, 1.0)
    ):
        text = f"{kelvin(abs(value_c - last_c))} in {minutes_since_last:.1f} min is faster than a box can change; check the probe."
        return Plausibility(code="jump", text=text)
    return Plausibility()


def _looks_fahrenheit(value_c: float, reference_c: float) -> bool:
    as_c = (value_c - 32.0) / 1.8
    return abs(value_c - reference_c) > FAR_K and abs(as_c - reference_c) < NEAR_K
