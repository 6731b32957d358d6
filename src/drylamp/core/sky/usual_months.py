"""Usual weather by month out of a year of records."""

from __future__ import annotations

from collections import defaultdict
from datetime import UTC, datetime

import numpy as np

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import sun_over
from drylamp.core.sky.weather import Records
from drylamp.core.text import listed_months

FEWEST_DAYS = 15
"""So many whole days a month needs before it is called usual; common practice, no source."""
MOST_CLEARNESS, LEAST_CLEARNESS = 0.85, 0.05


def months_from(site: Site, records: Records) -> list[ClimateMonth]:
    """Means of each month: of the days' lowest and highest air, of humidity and wind, and of the share of the sun that came through.

    Parameters
    ----------
    site : Site
        Whose sun and clock count; months and days are by its clock.
    records : Records
        Of a year or more; whole days only are counted.

    Raises
    ------
    InputProblem
        a month has fewer than FEWEST_DAYS whole days; it names them.
    """
    days = _whole_days(site, records)
    lacking = [m for m in range(1, 13) if len(days[m]) < FEWEST_DAYS]
    if lacking:
        raise InputProblem("weather", f"{records.origin} has fewer than {FEWEST_DAYS} whole days of {listed_months(lacking)}; usual months need a year")  # fmt: skip
    return [_month(site, records, days[m]) for m in range(1, 13)]


def _whole_days(site: Site, records: Records) -> dict[int, list[np.ndarray]]:
    """Rows of each whole day, by month."""
    require(records.step_s <= 3600.0, "weather", f"records are {records.step_s:g} s apart; allowed are up to 3600 s")
    # a typical year stands for any year: its clock is the sun's, without summer time
    shift = round(site.longitude_deg / 15.0) * 3600.0 if records.typical_year else None
    by_day: dict[tuple[int, int, int], list[int]] = defaultdict(list)
    for row, second in enumerate(records.time_s):
        at = (
            datetime.fromtimestamp(second + shift, UTC)
            if shift is not None
            else datetime.fromtimestamp(second, site.zone)
        )
        by_day[(at.year, at.month, at.day)].append(row)
    whole = 0.95 * 86400.0 / records.step_s
    out: dict[int, list[np.ndarray]] = defaultdict(list)
    for (_, month, _), rows in by_day.items():
        if len(rows) >= whole:
            out[month].append(np.array(rows))
    return out


def _month(site: Site, records: Records, days: list[np.ndarray]) -> ClimateMonth:
    rows = np.concatenate(days)
    outside = _outside_w_m2(site, records.time_s[rows], records.step_s)
    share = records.ghi_w_m2[rows].sum() / max(outside.sum(), 1.0)
    return ClimateMonth(
        tmin_c=round(float(np.mean([records.air_c[day].min() for day in days])), 1),
        tmax_c=round(float(np.mean([records.air_c[day].max() for day in days])), 1),
        rh=round(float(records.rh[rows].mean()), 3),
        wind_m_s=round(float(records.wind_m_s[rows].mean()), 2),
        clearness=round(float(np.clip(share, LEAST_CLEARNESS, MOST_CLEARNESS)), 3),
    )


def _outside_w_m2(site: Site, start_s: np.ndarray, step_s: float) -> np.ndarray:
    """Sun outside the air on level ground, mean of each interval from its quarters."""
    quarters = (np.arange(4) + 0.5) / 4.0 * step_s
    sun = sun_over(site, (start_s[:, None] + quarters).ravel())
    return np.asarray((sun.extraterrestrial_w_m2 * np.maximum(sun.direction[:, 2], 0.0)).reshape(-1, 4).mean(axis=1))
