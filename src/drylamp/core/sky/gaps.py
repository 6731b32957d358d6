"""Holes in a weather file, said when it comes in: a forecast that meets one says so too, but then it is too late to bring another file."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np

from drylamp.core.sky.weather import Records

SLACK = 1.5
"""A pause between two intervals is a gap where it is so many times as long as they are."""


def said_gaps(records: Records) -> list[str]:
    """A sentence on the gaps of a file, or none; typical years have none."""
    pauses = np.diff(records.time_s)
    wide = np.flatnonzero(pauses > SLACK * records.step_s)
    if records.typical_year or not len(wide):
        return []
    lost_s = float((pauses[wide] - records.step_s).sum())
    longest = int(wide[np.argmax(pauses[wide])])
    since = datetime.fromtimestamp(float(records.time_s[longest]) + records.step_s, UTC)
    hours = (float(pauses[longest]) - records.step_s) / 3600.0
    many = f"{len(wide)} gaps" if len(wide) > 1 else "1 gap"
    return [
        f"{many} in this file, {lost_s / 3600.0:.1f} h in all, the longest of {hours:.1f} h from {since:%Y-%m-%d %H:%M} UTC. "
        "Nothing is filled in: days with a gap cannot be forecast from it."
    ]
