"""The chamber's daily peaks as a charge dries: a wet one pulls them down, a dry one lets them climb back."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.loads.common.stacked import CHAMBER
from drylamp.core.sky.clock import days_of
from drylamp.core.text import celsius, kelvin
from drylamp.core.trials.days import climb_k, log_days
from drylamp.core.trials.figure import Figure, Found

PEAK_DOUBT_K = 4.0
"""Peaks of single days by the weather alone, over five of them; from memory."""
SHORT_K = 6.0
"""It climbs so much less than the twin before that is called so."""


def climb_back(found: Found) -> Figure | None:
    """How much its peaks climbed back, beside the twin on the same days."""
    at = found.at
    channel = at.facts.of_node(CHAMBER)
    if channel is None:
        return None
    days = log_days(at.site, None, [channel]).channels[0].days
    ends = climb_k(days)
    twin = _twin_peaks(found, [day.day for day in days])
    theirs = climb_k([day.model_copy(update={"high": peak}) for day, peak in zip(days, twin, strict=True)])
    if ends is None or theirs is None or not np.isfinite(twin).all():
        return None
    climbed, twins = ends[1] - ends[0], theirs[1] - theirs[0]
    doubt = float(np.hypot(PEAK_DOUBT_K, channel.doubt))
    short = twins - climbed > max(SHORT_K, doubt)
    words = f"Daily peaks went from {celsius(ends[0])} to {celsius(ends[1])}, the twin's from {celsius(theirs[0])} to {celsius(theirs[1])}"
    said = (
        f": it no longer climbs back as it should, {kelvin(twins - climbed)} short. A night's log tells film from fan."
        if short
        else "."
    )
    return Figure(
        name="climb-back", title="Peaks climbed back", value=round(climbed, 1), doubt=round(doubt, 1), quantity="difference", twin=round(twins, 1), digits=1, grade="does not climb" if short else "", passed=not short,
        words=words + said, needs_words=True,
    )  # fmt: skip


def _twin_peaks(found: Found, days: Sequence[date]) -> Array:
    """The twin's highest by the day; NaN where it was not run."""
    run = found.at.likely
    series, by_day = run.temperature_c[CHAMBER], dict[date, float]()
    for day, begin, end in days_of(found.at.site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        rows = (run.edge_s >= begin) & (run.edge_s < end)
        if rows.any():
            by_day[day] = float(np.nanmax(series[rows]))
    return np.array([by_day.get(day, np.nan) for day in days])
