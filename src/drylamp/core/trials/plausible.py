"""Does a typed temperature make sense? Odd readings are kept and flagged, never dropped."""

from __future__ import annotations

from drylamp.core.checks import Model

LOWEST_C, HIGHEST_C = -60.0, 400.0
STUCK_VALUES_C = {-127.0: "a cut lead", 85.0: "a probe that has not woken up", 2000.0: "an open input"}
"""Telltale values of common digital probes, from memory."""
FASTEST_K_MIN = 25.0
FAR_K = 25.0
NEAR_K = 12.0
RECENT_MINUTES = 10.0
"""A box cannot change so much in this time that the reading before no longer says what to expect."""


class Plausibility(Model):
    """A flag on a reading: its code and a plain sentence; an empty code means nothing is odd."""

    code: str = ""
    text: str = ""


def check_temperature(
    value_c: float,
    expected_c: float | None,
    last_c: float | None,
    minutes_since_last: float | None,
    digital: bool = False,
) -> Plausibility:
    """Judge one temperature against what the twin expects and what was read before.

    Args:
        value_c: the reading as it would be in °C
        expected_c: the twin's temperature there and then, if known
        last_c, minutes_since_last: the reading before on this channel, if any
        digital: the reading came from a logger, whose faults have telltale values
    """
    if not LOWEST_C <= value_c <= HIGHEST_C:
        text = f"{value_c:g} °C is outside {LOWEST_C:g} to {HIGHEST_C:g} °C; check lead, unit and decimal point."
        return Plausibility(code="impossible", text=text)
    if digital and value_c in STUCK_VALUES_C and value_c != last_c:
        return Plausibility(
            code="stuck", text=f"{value_c:g} °C is what {STUCK_VALUES_C[value_c]} shows; check the probe."
        )
    recent = last_c is not None and (minutes_since_last or 0.0) <= RECENT_MINUTES
    reference = last_c if recent else expected_c
    if reference is not None and _looks_fahrenheit(value_c, reference):
        as_c = (value_c - 32.0) / 1.8
        text = f"{value_c:g} °C is far from the {reference:.0f} °C expected, but {value_c:g} °F ({as_c:.0f} °C) would fit; is the unit right?"
        return Plausibility(code="unit", text=text)
    if (
        last_c is not None
        and minutes_since_last
        and abs(value_c - last_c) > FASTEST_K_MIN * max(minutes_since_last, 1.0)
    ):
        text = f"{abs(value_c - last_c):.0f} K in {minutes_since_last:.1f} min is faster than a box can change; check the probe."
        return Plausibility(code="jump", text=text)
    return Plausibility()


def _looks_fahrenheit(value_c: float, reference_c: float) -> bool:
    as_c = (value_c - 32.0) / 1.8
    return abs(value_c - reference_c) > FAR_K and abs(as_c - reference_c) < NEAR_K
