"""A run boiled down to what is shown: curves, ledger, days, and what became of the load."""

from __future__ import annotations

from datetime import date, datetime

import numpy as np
from pydantic import Field

from drylamp.core.air.moist import boiling_c
from drylamp.core.arrays import Array
from drylamp.core.builds.registry import accounts_of, kind_of
from drylamp.core.checks import Model, YesNo
from drylamp.core.common.look import CurveLook, looks_of
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.ledger import Ledger, sunlit_ledger
from drylamp.core.outcome.of_load import HELD_SLACK_K, Headline, Held, reached
from drylamp.core.outcome.registry import Results, outcome_of, results_of
from drylamp.core.sky.clock import days_of, instant_s, local_day, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence
from drylamp.core.twin.case import Case
from drylamp.core.twin.run import Run

WARMED_K = 0.5


class Curve(Model):
    """Temperature of one node at the outcome's times; None while it is not in the box."""

    node: str
    title: str
    temperature_c: list[float | None]
    look: CurveLook


class WetCurve(Model):
    """Water in something that dries, at the outcome's times; None while it is not in.

    Attributes:
        water_wb: as a share of its weight
        told: the share that one speaks of: of the weight, or, of wood, of the dry weight; ``of_dry`` says which
    """

    node: str
    title: str
    water_wb: list[float | None]
    told: list[float | None]
    of_dry: YesNo


class DayOutcome(Model):
    """One day of a run."""

    day: date
    sun_kwh_m2: float
    peak_c: float
    peak_at: datetime
    target_reached_at: datetime | None
    minutes_to_target: float | None
    held_minutes: float
    enough: YesNo | None
    warmed: YesNo = Field(default=True, description="It gets warmer than it went in; else its peak is its start")
    peak_doubt_k: float | None = Field(
        default=None, description="What rough months leave open of the peak; none where the weather is known"
    )
    target_doubt_minutes: float | None = Field(default=None, description="The same of the time to the target")


class Outcome(Model):
    """The outcome of a run; series share ``times``, means of the step before each for the ledger's accounts."""

    name: str
    weather: Sentence
    step_s: float
    times: list[datetime]
    curves: list[Curve]
    wet: list[WetCurve]
    air_c: list[float]
    level_sun_w_m2: list[float]
    opening_w: list[float]
    accounts_w: dict[str, list[float]]
    of_hundred: dict[str, list[float]]
    account_titles: dict[str, str]
    useful_account: str
    running: dict[str, list[float]] = Field(
        description="Share of the time that each fan or pump runs, at its speed, by its path"
    )
    target_c: float | None
    boiling_c: float
    judged: str
    days: list[DayOutcome]
    stagnation_c: float | None
    stagnation_at: datetime | None
    ledger: Ledger
    flags: list[Flag]
    results: Results
    said: Sentence | None = Field(description="What became of the load, where that says more than a temperature")
    brief: Sentence | None = Field(description="The same in three words")
    energy_closure: float
    water_closure: float | None = Field(
        description="Water unaccounted for, as a share of what moved; none where nothing is damp"
    )


def summarise(case: Case, run: Run, empty: Run | None = None, every_s: float = 300.0) -> Outcome:
    """Boil a run down to what is shown.

    Parameters
    ----------
    empty
        a run of the same days without a load, for the stagnation temperature
    every_s
        spacing of the series
    """
    site, load, kind = case.site, case.load, kind_of(case.build)
    stride = max(1, round(every_s / run.weather.dt_s))
    kept = np.arange(0, len(run.edge_s), stride)
    judged = kind.judged(case.build, load)
    results = results_of(site, load, run)
    headline = _headline(case, run, results)
    looks = looks_of({node: run.roles[node] for node in run.temperature_c})
    stagnation = _stagnation(case, empty or (run if load is None else None))
    return Outcome(
        name=case.name,
        weather=run.weather.origin,
        step_s=stride * run.weather.dt_s,
        times=[local_time(site.zone, run.edge_s[i]) for i in kept],
        curves=[
            Curve(node=node, title=run.titles[node], temperature_c=_numbers(series[kept]), look=looks[node])
            for node, series in run.temperature_c.items()
        ],
        wet=_wet(run, kept),
        air_c=_means(run.weather.air_c, kept),
        level_sun_w_m2=_means(run.plane_w_m2, kept),
        opening_w=_means(run.opening_w, kept),
        accounts_w={account: _means(watts, kept) for account, watts in run.account_w.items()},
        of_hundred=_of_hundred(run, kept),
        account_titles={name: line.title for name, line in accounts_of(case.build, load).items()},
        useful_account=kind.useful_account,
        running={path: _means(ran / run.weather.dt_s, kept) for path, ran in run.ran_s.items()},
        target_c=None if load is None or not load.has_target else load.wanted_where(run.boils_c).celsius,
        boiling_c=boiling_c(run.weather.pressure_pa),
        judged=judged,
        days=_days(site, load, run, judged),
        stagnation_c=None if stagnation is None else stagnation[0],
        stagnation_at=None if stagnation is None else stagnation[1],
        ledger=sunlit_ledger(case, run),
        flags=[],
        results=results,
        said=None if headline is None else headline.said,
        brief=None if headline is None else headline.brief,
        energy_closure=run.energy_closure,
        water_closure=None if run.damp is None else run.damp.closure,
    )


def _headline(case: Case, run: Run, results: Results) -> Headline | None:
    """What became of the load, or of a build that holds none."""
    if case.load is not None:
        return outcome_of(case.load).headline(results)
    said = kind_of(case.build).headline(case.build, run.temperature_c)
    return None if said is None else Headline(*said)


def _wet(run: Run, kept: np.ndarray) -> list[WetCurve]:
    if run.damp is None:
        return []
    out = []
    for node, kg in run.mass_kg.items():
        if node in run.damp.held_kg:
            held, whole, of_dry = run.damp.held_kg[node][kept], kg[kept], node in run.damp.cells
            told = held / (whole - held) if of_dry else held / whole
            out.append(
                WetCurve(
                    node=node,
                    title=run.titles[node],
                    water_wb=_numbers(held / whole),
                    told=_numbers(told),
                    of_dry=of_dry,
                )
            )
    return out


def _days(site: Site, load: Load | None, run: Run, judged: str) -> list[DayOutcome]:
    out, series = [], run.temperature_c[judged]
    for day, start, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        inside = np.flatnonzero((run.edge_s >= start) & (run.edge_s < end))
        steps = inside[inside < run.weather.steps]
        if len(steps) == 0 or np.isnan(series[inside]).all():
            continue
        out.append(_one_day(site, load, run, series, day, inside))
    return out


def _put_s(site: Site, load: Load, run: Run, day: date) -> float:
    """When what is in on a day went in: that day's hour, a batch's first, midnight for what is always there."""
    begins = {
        "daily": (day, load.first_in),
        "batch": (local_day(site.zone, run.edge_s[0]), load.first_in),
        "standing": (day, "00:00"),
        "charge": (day, "00:00"),
    }
    return instant_s(site.zone, *begins[load.calendar.kind])


def _one_day(site: Site, load: Load | None, run: Run, series: Array, day: date, inside: np.ndarray) -> DayOutcome:
    mine, times = series[inside].copy(), run.edge_s[inside]
    put = float(times[0])
    if load is not None:
        put = _put_s(site, load, run, day)
        mine[times < put - 1.0] = np.nan  # yesterday's stays until midnight; judge today's only
    if np.isnan(mine).all():
        mine, put = series[inside].copy(), float(times[0])
    peak, steps = int(np.nanargmax(mine)), inside[inside < run.weather.steps]
    when = enough = None
    held = 0.0
    if load is not None:
        wanted_c = load.wanted_where(run.boils_c).celsius
        when = reached(times, mine, wanted_c) if load.has_target else None
        held = float(np.nansum(mine >= wanted_c - HELD_SLACK_K) * run.weather.dt_s / 60.0) if load.has_target else 0.0
        enough = outcome_of(load).enough(load, run, Held(when is not None, held, inside))
    return DayOutcome(
        day=day,
        sun_kwh_m2=float(run.plane_w_m2[steps].sum() * run.weather.dt_s / 3.6e6),
        peak_c=float(mine[peak]),
        peak_at=local_time(site.zone, times[peak]),
        target_reached_at=None if when is None else local_time(site.zone, when),
        minutes_to_target=None if when is None or _always_in(load) else (when - put) / 60.0,
        held_minutes=held,
        enough=enough,
        warmed=bool(mine[peak] > mine[np.flatnonzero(~np.isnan(mine))[0]] + WARMED_K),
    )


def _always_in(load: Load | None) -> bool:
    return load is not None and load.calendar.always_in


def _stagnation(case: Case, empty: Run | None) -> tuple[float, datetime] | None:
    if empty is None:
        return None
    series = empty.temperature_c[kind_of(case.build).stagnation_node(case.build)]
    top = int(np.nanargmax(series))
    return float(series[top]), local_time(case.site.zone, empty.edge_s[top])


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
