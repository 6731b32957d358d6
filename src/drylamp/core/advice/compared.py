"""Up to four builds, variants or trials side by side on the same sun: curves, figures, what they cost, what differs in what they are.

What all share (the sun, the wind, the doubtful numbers of one name) is moved for all of them at once, so it drops out of a difference as far as it is shared.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from drylamp.core.advice.context import AdviceContext, Score, doubt_of, score_of
from drylamp.core.advice.made_of import MadeOf, made_of
from drylamp.core.advice.season import useful_w
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, Model, YesNo, require
from drylamp.core.common.drawing import Section
from drylamp.core.common.lasting import price_over
from drylamp.core.common.look import Ink
from drylamp.core.differences import described
from drylamp.core.loads.load import Load
from drylamp.core.outcome.of_load import KELVIN, Measure, Way
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.quantities import Quantity
from drylamp.core.sky.clock import local_time
from drylamp.core.text import Sentence, amount, capital
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.run import Run

MOST, YEARS = 4, 5.0
MOST_POINTS, MOST_LINES = 400, 60
INKS: tuple[Ink, ...] = ("rust", "water", "plum", "twin")
"""Of the columns' curves, in their order."""


@dataclass(frozen=True)
class Abreast:
    """One of those that are held side by side: its name, its day, and what was read of it, by seconds since local midnight of its own day, °C."""

    name: str
    context: AdviceContext
    read: Sequence[tuple[float, float]] = ()


class ReadPoint(Model):
    """A reading at the same time of day on the curves' own day."""

    time: datetime
    celsius: float


class Column(Model):
    """One of them.

    Attributes:
        judged: what its curve is of
        celsius: at the comparison's times; none while nothing is in it
        useful_kwh: heat that it brought where it is wanted, over all days
    """

    name: str
    kind: str
    made: Sentence
    judged: str
    celsius: list[float | None]
    ink: Ink
    read: list[ReadPoint]
    section: Section
    useful_kwh: float
    said: Sentence


class Gap(Model):
    """What one has over the first, its doubt, and whether it is more than that."""

    value: float
    doubt: float
    real: YesNo


class ComparedFigure(Model):
    """A figure of each of them, and each one's gap to the first; none where it has no such figure."""

    title: str
    quantity: Quantity
    values: list[float | None]
    doubts: list[float | None]
    gaps: list[Gap | None]


class SpecLine(Model):
    """Something in which they differ, as each of them has it; nothing where it does not arise."""

    title: str
    values: list[Sentence]


class Compared(Model):
    """All of it."""

    times: list[datetime]
    air_c: list[float]
    columns: list[Column]
    figures: list[ComparedFigure]
    lines: list[SpecLine]
    more_lines: int
    words: list[Sentence]


@dataclass(frozen=True)
class _Tried:
    """One of them, run: under its own calibration, and scored with each doubtful parameter moved, by that parameter's name."""

    one: Abreast
    run: Run
    scores: Mapping[str, Score]
    made: MadeOf


def compared(abreast: Sequence[Abreast], pile: Sequence[Salvaged] = ()) -> Compared:
    """Hold some builds side by side; the first is what the others are held against.

    Raises
    ------
    InputProblem
        fewer than two or more than four are given, or one of them cannot be run.
    """
    require(2 <= len(abreast) <= MOST, "of", f"{len(abreast)} were given; two to four can stand side by side")
    way = _shared_way(abreast)
    tried = two_at_a_time(lambda one: _run(one, way, pile), abreast)
    figures = [figure for figure in _figures(tried, way) if any(value is not None for value in figure.values)]
    lines = _lines(tried)
    run = tried[0].run
    shown = np.arange(0, len(run.edge_s), max(1, -(-len(run.edge_s) // MOST_POINTS)))
    zone = abreast[0].context.case.site.zone
    return Compared(
        times=[local_time(zone, float(s)) for s in run.edge_s[shown]],
        air_c=[round(float(v), 2) for v in np.append(run.weather.air_c, run.weather.air_c[-1])[shown]],
        columns=[_column(one, ink, run.edge_s[shown]) for one, ink in zip(tried, INKS, strict=False)],
        figures=figures, lines=lines[:MOST_LINES], more_lines=max(len(lines) - MOST_LINES, 0), words=_words(tried, figures, way),
    )  # fmt: skip


def _shared_way(abreast: Sequence[Abreast]) -> Way[Load] | None:
    """How scores are counted where all are of one sort, as suits the first; none where their loads are of several."""
    return abreast[0].context.way if _of_one_sort([one.context.load for one in abreast]) else None


def _of_one_sort(loads: Sequence[Load | None]) -> bool:
    return len({type(load) for load in loads}) == 1


def _run(one: Abreast, way: Way[Load] | None, pile: Sequence[Salvaged]) -> _Tried:
    on, build, load = one.context, one.context.build, one.context.load
    try:
        ready = on.ready(build, load)
    except InputProblem as problem:
        raise InputProblem("of", f"{one.name}: {problem.message}") from problem
    runs = {name: ready.run(factors) for name, factors in on.doubtful_by_name().items()}
    counted = way or on.way
    scores = {name: score_of(on.case.site, on.build, on.load, run, counted) for name, run in runs.items()}
    return _Tried(one, runs[""], scores, made_of(build, pile))


def _column(tried: _Tried, ink: Ink, edge_s: np.ndarray) -> Column:
    on, run = tried.one.context, tried.run
    build, load, kind = on.build, on.load, kind_of(on.build)
    judged = kind.judged(build, load)
    series = np.interp(edge_s, run.edge_s, run.temperature_c[judged])
    begins, zone = float(run.edge_s[0]), on.case.site.zone
    headline = None if load is None else outcome_of(load).headline(outcome_of(load).results(on.case.site, load, run))
    return Column(
        name=tried.one.name, kind=kind.title, made=kind.made(build), judged=run.titles[judged],
        celsius=[None if np.isnan(v) else round(float(v), 2) for v in series], ink=ink,
        read=[ReadPoint(time=local_time(zone, begins + s), celsius=round(c, 2)) for s, c in tried.one.read],
        section=kind.section(build, load, None), useful_kwh=round(_useful_kwh(tried), 3), said="" if headline is None else headline.brief,
    )  # fmt: skip


def _useful_kwh(tried: _Tried) -> float:
    run, context = tried.run, tried.one.context
    won = useful_w(run.account_w[kind_of(context.build).useful_account], context.load)
    return float(won.sum() * run.weather.dt_s / 3.6e6)


def _days(tried: _Tried) -> float:
    return tried.run.weather.steps * tried.run.weather.dt_s / 86400.0


def _figures(tried: Sequence[_Tried], way: Way[Load] | None) -> list[ComparedFigure]:
    found = []
    if way is not None:
        found.append(
            _doubtful(tried, capital(way.counts), way.measure, way.measure.quantity, lambda score: score.value)
        )
    found.append(_doubtful(tried, "Hottest", KELVIN, "temperature", lambda score: score.peak_c))
    found.append(_plain(tried, "Until it is at its temperature", "minutes", lambda one: one.scores[""].minutes))
    found.append(_plain(tried, "Until it is done", "hours", _done_h))
    found.append(_plain(tried, "Heat where it is wanted, a day", "energy", lambda one: _useful_kwh(one) / _days(one)))
    found.append(_plain(tried, "Of the sun on its opening", "share", _efficiency))
    found.append(_plain(tried, "Price, all new", "price", lambda one: one.made.price))
    found.append(_plain(tried, "To buy, with the pile", "price", lambda one: one.made.pile.buy))
    found.append(
        _plain(
            tried,
            f"Price over {YEARS:.0f} years, what wears renewed",
            "price",
            lambda one: price_over(one.made.pieces, YEARS),
        )
    )
    found.append(_plain(tried, "Price for a kilowatt-hour a day", "price", _price_of_heat))
    found.append(_plain(tried, "Work", "hours", lambda one: one.made.hours))
    found.append(_plain(tried, "Weight", "mass", lambda one: one.made.kg))
    return found


def _done_h(one: _Tried) -> float | None:
    on = one.one.context
    done = None if on.load is None else outcome_of(on.load).done_at(on.load, one.run)
    return None if done is None else (done - on.put_in_s()) / 3600.0


def _efficiency(one: _Tried) -> float | None:
    met = float(one.run.opening_w.sum() * one.run.weather.dt_s / 3.6e6)
    return _useful_kwh(one) / met if met > 0 else None


def _price_of_heat(one: _Tried) -> float | None:
    a_day = _useful_kwh(one) / _days(one)
    return one.made.price / a_day if a_day > 0.01 else None


def _plain(
    tried: Sequence[_Tried], title: str, quantity: Quantity, of: Callable[[_Tried], float | None]
) -> ComparedFigure:
    """A figure that no doubt is reckoned of."""
    values = [None if (value := of(one)) is None else round(value, 3) for one in tried]
    return ComparedFigure(
        title=title, quantity=quantity, values=values, doubts=[None] * len(tried), gaps=[None] * len(tried)
    )


def _doubtful(
    tried: Sequence[_Tried], title: str, measure: Measure, quantity: Quantity, of: Callable[[Score], float]
) -> ComparedFigure:
    """A figure with its doubt, and its gap to the first with the doubt of that: what both share drops out."""
    each = [{name: of(score) for name, score in one.scores.items()} for one in tried]
    first = each[0]
    return ComparedFigure(
        title=title, quantity=quantity, values=[round(of_one[""], 3) for of_one in each],
        doubts=[round(_own_doubt(of_one, measure), 3) for of_one in each],
        gaps=[None, *(_gap(of_one, first, measure) for of_one in each[1:])],
    )  # fmt: skip


def _own_doubt(values: Mapping[str, float], measure: Measure) -> float:
    moved = [value - values[""] for value in values.values()]
    return float(np.sqrt(np.sum(np.square(moved)) + measure.ray_noise**2))


def _gap(one: Mapping[str, float], first: Mapping[str, float], measure: Measure) -> Gap:
    names = sorted({*one, *first})  # "" comes first
    gains = [one.get(name, one[""]) - first.get(name, first[""]) for name in names]
    doubt = doubt_of(gains, measure)
    return Gap(value=round(gains[0], 3), doubt=round(doubt, 3), real=abs(gains[0]) > measure.worth(doubt))


def _lines(tried: Sequence[_Tried]) -> list[SpecLine]:
    """What differs in what they are: all of it among builds of one kind, what has one name among several."""
    builds = [one.one.context.build for one in tried]
    of_builds = [described(build, kind_of(build).parts) for build in builds]
    of_loads = [described(one.one.context.load) for one in tried]
    kinds = [kind_of(build).title for build in builds]
    akin = all(build.is_kin_of(builds[0]) for build in builds)
    found = [] if akin else [SpecLine(title="Kind of build", values=list(kinds))]
    spots = [one.one.context.case.spot or "in the open" for one in tried]
    found += [] if len(set(spots)) == 1 else [SpecLine(title="Where it stands", values=list(spots))]
    found += _differing(of_builds, all_of_them=akin, within="")
    loads = [one.one.context.load for one in tried]
    alike = _of_one_sort(loads)
    if not alike:
        found.append(
            SpecLine(title="What is in it", values=["nothing" if load is None else load.called for load in loads])
        )
    return [*found, *_differing(of_loads, all_of_them=alike, within="What is in it, ")]


def _differing(each: Sequence[Mapping[str, str]], all_of_them: bool, within: str) -> list[SpecLine]:
    titles = dict.fromkeys(title for one in each for title in one)
    shown = [title for title in titles if all_of_them or all(title in one for one in each)]
    lines = [(title, [one.get(title, "") for one in each]) for title in shown]
    return [
        SpecLine(title=f"{within}{title[:1].lower() if within else title[:1]}{title[1:]}", values=list(values))
        for title, values in lines
        if len(set(values)) > 1
    ]


def _words(tried: Sequence[_Tried], figures: Sequence[ComparedFigure], way: Way[Load] | None) -> list[Sentence]:
    """Who does best, by how much and for how much more money; what cannot be told."""
    main, measure = figures[0], KELVIN if way is None else way.measure
    names = [one.one.name for one in tried]
    values = [-np.inf if value is None else value for value in main.values]
    best = int(np.argmax(values))
    out = []
    for k in range(1, len(tried)):
        gap = main.gaps[k]
        if gap is not None:
            out.append(_against_first(names, k, gap, measure, tried))
    said = amount(main.values[best], main.quantity, main.doubts[best])
    alone = all(gap is None or gap.real for gap in main.gaps)
    close = "" if alone else " Where the difference is smaller than its doubt, this day cannot tell them apart."
    counts = "how hot it gets" if way is None else way.counts
    return [f"{capital(names[best])} does best by {counts}: {said}.{close}", *out]


def _against_first(names: Sequence[str], k: int, gap: Gap, measure: Measure, tried: Sequence[_Tried]) -> Sentence:
    dearer = tried[k].made.price - tried[0].made.price
    money = (
        f", for {amount(float(round(abs(dearer))), 'price')} {'more' if dearer > 0 else 'less'}"
        if abs(dearer) >= 0.5
        else ""
    )
    told = measure.said(gap.value, gap.doubt, signed=True)
    return f"{names[k]} against {names[0]}: {told}{money}{'' if gap.real else '; too small to tell'}."
