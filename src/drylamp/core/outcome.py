"""What a person, a screen or a program wants to know of a run."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

import numpy as np

from drylamp.core.air.moist import boiling_c
from drylamp.core.builds.kinds import BuildSpec, kind_of
from drylamp.core.checks import Model
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.wax import WaxBatch
from drylamp.core.results import ALL_RUN, Results, results_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import Array
from drylamp.core.twin import Run

HELD_SLACK_K = 1.0
"""Holding a temperature allows for the thermometer: this much below still counts."""


class Curve(Model):
    """Temperature of one node at the outcome's times; None while it is not in the box."""

    node: str
    title: str
    temperature_c: list[float | None]


class LedgerLine(Model):
    """One line of the ledger: watts as a mean, and its share of each 100 W of sun at the opening."""

    account: str
    title: str
    watts: float
    of_hundred: float


class Ledger(Model):
    """Where the sun at the opening went between two times."""

    start: datetime
    end: datetime
    opening_w: float
    opening_wh: float
    lines: list[LedgerLine]


class DayOutcome(Model):
    """One day of a run."""

    day: date
    sun_kwh_m2: float
    peak_c: float
    peak_at: datetime
    target_reached_at: datetime | None
    minutes_to_target: float | None
    held_minutes: float
    enough: bool | None


class Flag(Model):
    """Something a person must know, with what to do about it."""

    level: Literal["stop", "warn", "note"]
    part: str
    text: str


class Outcome(Model):
    """The outcome of a run; series share ``times``, means of the step before each for the ledger's accounts."""

    name: str
    weather: str
    step_s: float
    times: list[datetime]
    curves: list[Curve]
    air_c: list[float]
    level_sun_w_m2: list[float]
    opening_w: list[float]
    accounts_w: dict[str, list[float]]
    of_hundred: dict[str, list[float]]
    account_titles: dict[str, str]
    useful_account: str
    target_c: float | None
    boiling_c: float
    judged: str
    days: list[DayOutcome]
    stagnation_c: float | None
    stagnation_at: datetime | None
    ledger: Ledger
    flags: list[Flag]
    results: Results
    energy_closure: float


def summarise(
    site: Site,
    build: BuildSpec,
    load: AnyLoad | None,
    run: Run,
    empty: Run | None = None,
    flags: list[Flag] | None = None,
    name: str = "",
    every_s: float = 300.0,
) -> Outcome:
    """Boil a run down to what is shown.

    Args:
        empty: a run of the same days without a load, for the stagnation temperature
        every_s: spacing of the series
    """
    stride = max(1, round(every_s / run.weather.dt_s))
    kept = np.arange(0, len(run.edge_s), stride)
    judged = load.judged if load is not None else kind_of(build).hot_node(build)
    stagnation = _stagnation(site, build, empty or (run if load is None else None))
    return Outcome(
        name=name,
        weather=run.weather.origin,
        step_s=stride * run.weather.dt_s,
        times=[_local(site, run.edge_s[i]) for i in kept],
        curves=[
            Curve(node=node, title=run.titles[node], temperature_c=_numbers(series[kept]))
            for node, series in run.temperature_c.items()
        ],
        air_c=_means(run.weather.air_c, kept),
        level_sun_w_m2=_means(run.plane_w_m2, kept),
        opening_w=_means(run.opening_w, kept),
        accounts_w={account: _means(watts, kept) for account, watts in run.account_w.items()},
        of_hundred=_of_hundred(run, kept),
        account_titles=kind_of(build).accounts,
        useful_account=kind_of(build).useful_account,
        target_c=None if load is None else load.wanted_c,
        boiling_c=boiling_c(run.weather.pressure_pa),
        judged=judged,
        days=_days(site, load, run, judged),
        stagnation_c=None if stagnation is None else stagnation[0],
        stagnation_at=None if stagnation is None else stagnation[1],
        ledger=sunlit_ledger(site, build, run),
        flags=flags or [],
        results=results_of(site, load, run),
        energy_closure=run.energy_closure,
    )


def ledger_between(site: Site, build: BuildSpec, run: Run, start_s: float, end_s: float) -> Ledger:
    """Mean watts by account over a time, and of each hundred watts of sun at the opening."""
    dt = run.weather.dt_s
    first = int(np.clip(np.floor((start_s - run.weather.start_s) / dt), 0, run.weather.steps - 1))
    last = int(np.clip(np.ceil((end_s - run.weather.start_s) / dt), first + 1, run.weather.steps))
    opening = float(run.opening_w[first:last].mean())
    lines = []
    for account, title in kind_of(build).accounts.items():
        watts = float(run.account_w[account][first:last].mean())
        share = 100.0 * watts / opening if opening > 1.0 else 0.0
        lines.append(LedgerLine(account=account, title=title, watts=watts, of_hundred=share))
    return Ledger(
        start=_local(site, run.edge_s[first]),
        end=_local(site, run.edge_s[last]),
        opening_w=opening,
        opening_wh=opening * (last - first) * dt / 3600.0,
        lines=lines,
    )


def sunlit_ledger(site: Site, build: BuildSpec, run: Run) -> Ledger:
    """The ledger from the first sun on the opening to the last (the whole run when there is none)."""
    lit = np.flatnonzero(run.opening_w > 1.0)
    if len(lit) == 0:
        return ledger_between(site, build, run, run.edge_s[0], run.edge_s[-1])
    return ledger_between(site, build, run, run.edge_s[lit[0]], run.edge_s[lit[-1] + 1])


def reached(time_s: Array, series_c: Array, target_c: float) -> float | None:
    """First instant at which a rising series meets the target, between samples by a straight line."""
    above = series_c >= target_c
    if not above.any():
        return None
    i = int(np.argmax(above))
    if i == 0 or np.isnan(series_c[i - 1]):
        return float(time_s[i])
    share = (target_c - series_c[i - 1]) / (series_c[i] - series_c[i - 1])
    return float(time_s[i - 1] + share * (time_s[i] - time_s[i - 1]))


def _days(site: Site, load: AnyLoad | None, run: Run, judged: str) -> list[DayOutcome]:
    out, series = [], run.temperature_c[judged]
    days = [datetime.fromtimestamp(float(s), site.zone).date() for s in run.edge_s[:-1:60]]
    for day in dict.fromkeys(days):
        start = datetime(day.year, day.month, day.day, tzinfo=site.zone).timestamp()
        inside = np.flatnonzero((run.edge_s >= start) & (run.edge_s < start + 86400.0))
        steps = inside[inside < run.weather.steps]
        if len(steps) == 0 or np.isnan(series[inside]).all():
            continue
        out.append(_one_day(site, load, run, series, day, inside, steps))
    return out


def _one_day(
    site: Site,
    load: AnyLoad | None,
    run: Run,
    series: Array,
    day: date,
    inside: np.ndarray,
    steps: np.ndarray,
) -> DayOutcome:
    mine, times = series[inside].copy(), run.edge_s[inside]
    if load is not None:  # yesterday's pot stays until midnight; judge today's only
        hour, minute = (int(part) for part in load.goes_in.split(":"))
        put = datetime(day.year, day.month, day.day, hour, minute, tzinfo=site.zone).timestamp()
        mine[times < put - 1.0] = np.nan
    if np.isnan(mine).all():
        mine, put = series[inside].copy(), float(times[0])
    peak = int(np.nanargmax(mine))
    when = enough = minutes = None
    held = 0.0
    if load is not None:
        when = reached(times, mine, load.wanted_c)
        held = float(np.nansum(mine >= load.wanted_c - HELD_SLACK_K) * run.weather.dt_s / 60.0)
        enough = when is not None and held >= load.wanted_minutes
        if isinstance(load, WaxBatch):
            enough = bool(np.nan_to_num(run.mass_kg["catch"][inside][-1]) >= ALL_RUN * load.yield_kg)
        minutes = None if when is None else (when - put) / 60.0
    return DayOutcome(
        day=day,
        sun_kwh_m2=float(run.plane_w_m2[steps].sum() * run.weather.dt_s / 3.6e6),
        peak_c=float(mine[peak]),
        peak_at=_local(site, times[peak]),
        target_reached_at=None if when is None else _local(site, when),
        minutes_to_target=minutes,
        held_minutes=held,
        enough=enough,
    )


def _stagnation(site: Site, build: BuildSpec, empty: Run | None) -> tuple[float, datetime] | None:
    if empty is None:
        return None
    series = empty.temperature_c[kind_of(build).hot_node(build)]
    top = int(np.nanargmax(series))
    return float(series[top]), _local(site, empty.edge_s[top])


def _local(site: Site, second: float) -> datetime:
    return datetime.fromtimestamp(round(float(second)), site.zone)


def _numbers(values: Array) -> list[float | None]:
    return [None if np.isnan(v) else round(float(v), 3) for v in values]


def _of_hundred(run: Run, kept: np.ndarray) -> dict[str, list[float]]:
    """Each account's share of a hundred watts at the opening, over the steps before each kept edge; 0 in the dark."""
    opening = _means(run.opening_w, kept)
    return {
        account: [
            round(100.0 * watts / sun, 2) if sun > 1.0 else 0.0
            for watts, sun in zip(_means(series, kept), opening, strict=True)
        ]
        for account, series in run.account_w.items()
    }


def _means(values: Array, kept: np.ndarray) -> list[float]:
    """Mean over the steps before each kept edge; the first stands alone."""
    total = np.concatenate([[0.0], np.cumsum(values)])
    low = np.concatenate([[0], kept[:-1]])
    width = np.maximum(kept - low, 1)
    means = (total[kept] - total[low]) / width
    means[0] = values[0]
    return [round(float(v), 3) for v in means]
