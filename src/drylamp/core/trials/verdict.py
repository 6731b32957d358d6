"""The verdict: readings beside the twin, what they say in figures with doubt, and in plain words."""

from __future__ import annotations

from datetime import datetime

import numpy as np
from pydantic import Field

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.doubt import Doubtful
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, Model, require
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, capital, counted, kelvin
from drylamp.core.trials.beside import Beside, ChannelVerdict, beside, channel_verdict
from drylamp.core.trials.compare import Comparison, Rise, TrialComparison, compare_channels, compare_rises, rise_of
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.finishes import FinishEstimate, WallLine, estimate_finishes, wall_of
from drylamp.core.trials.fit import Fit, fit
from drylamp.core.trials.own_weather import LONG_S, sky_notes, sun_was_measured
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.rounds import Fading, Ranking, fading, rank
from drylamp.core.trials.suspicions import Suspicion, suspicions
from drylamp.core.trials.yields import figures_of

CURVE_POINTS = 700


class TwinCurve(Model):
    """The twin over the trial, with the band that the sun's doubt leaves open."""

    node: str
    title: str
    temperature_c: list[float | None]
    low_c: list[float | None]
    high_c: list[float | None]


class Verdict(Model):
    """A page to read."""

    trial: str
    headline: Sentence
    brief: Sentence = Field(description="The same at a glance")
    main: str = Field(description="The channel that the headline speaks of")
    sentences: list[Sentence]
    figures: list[Figure]
    channels: list[ChannelVerdict]
    control: Comparison | None
    comparisons: list[Comparison] = Field(description="Every inside channel against the control")
    control_beside: ChannelVerdict | None = Field(
        description="The control beside a twin of its own; none where the twin knows no such thing"
    )
    ranking: Ranking | None
    finishes: list[FinishEstimate]
    walls: list[WallLine]
    fadings: list[Fading]
    fit: Fit | None
    suspicions: list[Suspicion]
    times: list[datetime]
    curves: list[TwinCurve]
    level_sun_w_m2: list[float]
    air_c: list[float]
    weather: Sentence
    likely_cause: str
    how_sure: Sentence
    energy_closure: float


def judge(site: Site, build: Build, facts: TrialFacts, wall_m2: float = 1.0) -> Verdict:
    """Judge a trial; blocks are scaled to a wall of ``wall_m2``.

    Raises
    ------
    InputProblem
        there is no reading to judge, or the load does not fit the build.
    """
    require(
        bool(facts.telling()) or facts.told_by_sheets,
        "readings",
        "this trial has no reading inside the build yet; take at least one",
    )
    at = beside(site, build, facts)
    channels = [
        channel_verdict(channel, at) for channel in at.facts.inside() if channel.node in at.likely.temperature_c
    ]
    require(
        bool(channels) or not at.facts.inside(), "channels",
        f"no channel names a part that the twin knows; set one to {', '.join(list(at.likely.temperature_c)[:4])}",
    )  # fmt: skip
    found, finishes, fitted = _found(at, wall_m2)
    comparisons = _comparisons(at.facts) if at.build.side_by_side is None else []
    beside_control = None if at.build.side_by_side is not None else _control_beside(at)
    figures = figures_of(found)
    fault = _fault(figures)
    return Verdict(
        trial=facts.name,
        main=_spoken_of(at, channels),
        headline=_headline(at, channels, found, fitted, figures),
        brief=_brief(channels, found, figures),
        sentences=[
            *_sentences(at, channels, found, finishes, fitted, fault),
            *_of_controls(comparisons, beside_control),
        ],
        figures=figures,
        channels=channels,
        control=found.control,
        comparisons=comparisons,
        control_beside=beside_control,
        ranking=found.ranking,
        finishes=finishes,
        walls=found.walls,
        fadings=found.fadings,
        fit=fitted,
        suspicions=suspicions(at),
        **_series(at),
        weather=at.likely.weather.origin,
        likely_cause="" if fault is not None or fitted is None or not any(c.real for c in channels) else fitted.cause,
        how_sure=_how_sure(at, channels),
        energy_closure=at.likely.energy_closure,
    )


def _found(at: Beside, wall_m2: float) -> tuple[Found, list[FinishEstimate], Fit | None]:
    beside_each_other = at.build.side_by_side
    if beside_each_other is not None:
        long = at.facts.last_s() - at.facts.started.timestamp() > LONG_S  # no sky was noted for the days between
        finishes, fitted = ([], None) if long else estimate_finishes(at)
        walls = [] if long else wall_of(at, fitted, wall_m2)
        ranking, fadings = rank(at.facts, beside_each_other), fading(at.facts, beside_each_other)
        return Found(at, None, ranking, fadings, walls), finishes, fitted
    return Found(at, _first_control(at.facts), None, [], []), [], _fitted(at)


def _fitted(at: Beside) -> Fit | None:
    names = [row.name for row in kind_of(at.build).doubtful(at.build)]
    chosen = names[1:3] if PROTOCOLS[at.facts.protocol].starts_hot else names[:3]  # no sun, nothing to say of its share
    try:
        return fit(at, chosen)
    except InputProblem:
        return None


def _first_control(facts: TrialFacts) -> Comparison | None:
    """The first inside channel against the first control."""
    return next(iter(_comparisons(facts)), None)


def _controls(facts: TrialFacts) -> list[ChannelFacts]:
    return [c for c in facts.channels if c.is_control and c.times and c.quantity == "temperature"]


def _comparisons(facts: TrialFacts) -> list[Comparison]:
    """Every inside channel against the first control; none of what cannot be paired with it."""
    out = list[Comparison]()
    for control in _controls(facts)[:1]:
        for channel in facts.inside():
            found = compare_channels(facts, channel, control)
            if found is not None:
                out.append(found)
    return out


def _control_beside(at: Beside) -> ChannelVerdict | None:
    """The control held against its own twin: the same load beside it, without what is tested."""
    load, made = at.facts.load, kind_of(at.build).control
    controls = _controls(at.facts)
    if load is None or made is None or not controls:
        return None
    stood = at.of(made(at.build))
    channel = controls[0].model_copy(update={"node": load.judged, "is_control": False})
    return channel_verdict(channel, stood) if load.judged in stood.likely.temperature_c else None


def compare_trials(site: Site, build: Build, tested: TrialFacts, control: TrialFacts, node: str) -> TrialComparison:
    """Two trials brought to the control's day by one and the same twin, so that sun, air and wind of their days drop out.

    Parameters
    ----------
    build
        the control's, which is the twin of both
    node
        the part to compare

    Raises
    ------
    InputProblem
        a trial has no reading of that part, or it never warms.
    """
    reference = beside(site, build, control)
    one, other = _rise(beside(site, build, tested), node), _rise(reference, node)
    day = control.started.astimezone(site.zone)
    top = float(np.nanmax(reference.likely.temperature_c[node][:-1] - reference.likely.weather.air_c))
    return compare_rises(one, other, (tested.name, control.name), top, f"{day:%d %B %Y}")


def _rise(at: Beside, node: str) -> Rise:
    channel = at.facts.of_node(node)
    if channel is None or node not in at.likely.temperature_c:
        raise InputProblem("node", f"“{at.facts.name}” has no reading of {node}; choose a part that both trials read")
    twin = at.twin_at(channel)
    air = at.air_at(channel.seconds)
    fair = ~np.isnan(twin) & np.array([not at.facts.disturbed(t) for t in channel.times])
    half = (at.spread[1] - at.spread[0]) / 2.0
    return rise_of(channel.title, np.array(channel.values)[fair], twin[fair], air[fair], channel.doubt, half)


def _series(at: Beside) -> dict[str, list]:  # type: ignore[type-arg]
    steps = len(at.likely.edge_s)
    shown = slice(None, None, max(1, -(-steps // CURVE_POINTS), 5 if steps > 150 else 1))
    read = {channel.node for channel in at.facts.channels}
    nodes = [n for n in at.likely.temperature_c if n in read] or list(at.likely.temperature_c)
    weather = at.likely.weather
    return {
        "times": [datetime.fromtimestamp(float(s), at.site.zone) for s in at.likely.edge_s[shown]],
        "curves": [_curve(node, at, shown) for node in nodes],
        "level_sun_w_m2": _rounded(np.append(weather.ghi_w_m2, weather.ghi_w_m2[-1])[shown], 1),
        "air_c": _rounded(np.append(weather.air_c, weather.air_c[-1])[shown], 2),
    }


def _rounded(values: Array, digits: int) -> list[float]:
    return [round(float(v), digits) for v in values]


def _curve(node: str, at: Beside, shown: slice) -> TwinCurve:
    def numbers(values: Array) -> list[float | None]:
        return [None if np.isnan(v) else round(float(v), 2) for v in values[shown]]

    cold, hot = at.low.temperature_c[node], at.high.temperature_c[node]
    return TwinCurve(
        node=node,
        title=at.likely.titles[node],
        temperature_c=numbers(at.likely.temperature_c[node]),
        low_c=numbers(np.minimum(cold, hot)),
        high_c=numbers(np.maximum(cold, hot)),
    )


def _main(channels: list[ChannelVerdict]) -> ChannelVerdict | None:
    """The channel a headline speaks of: the contents where read, else the one with most readings; none where no thermometer was."""
    by_node = {channel.node: channel for channel in channels}
    return by_node.get("contents") or max(channels, key=lambda c: len(c.residuals), default=None)


def _spoken_of(at: Beside, channels: list[ChannelVerdict]) -> str:
    main = _main(channels)
    if main is not None:
        return main.channel
    told = at.facts.telling()
    return told[0].channel if told else ""


def _fault(figures: list[Figure]) -> Figure | None:
    return next((figure for figure in figures if figure.fault), None)


def _by_figures(figures: list[Figure]) -> Figure | None:
    """What speaks for a trial that no thermometer was in."""
    return next((figure for figure in figures if figure.words), None)


def _headline(
    at: Beside, channels: list[ChannelVerdict], found: Found, fitted: Fit | None, figures: list[Figure]
) -> str:
    main, fault = _main(channels), _fault(figures)
    if found.ranking is not None:
        return found.ranking.words
    if fault is not None:
        return f"{capital(fault.fault)}."
    if main is None or main.bias_k is None:
        told = _by_figures(figures) if main is None else None
        return "Not enough undisturbed readings for a verdict yet." if told is None else told.words
    if not main.real:
        return f"As good as its twin: {main.title} within ± {kelvin(main.bias_doubt_k)}."
    side = "over" if main.bias_k > 0 else "under"
    words = f"{main.title} runs {kelvin(abs(main.bias_k))} {side} the twin"
    if fitted is None or not fitted.cause:
        return words + "; no single cause stands out."
    return f"{words}; likeliest: {_cause_words(at, fitted)}."


def _brief(channels: list[ChannelVerdict], found: Found, figures: list[Figure]) -> str:
    main, fault = _main(channels), _fault(figures)
    if found.ranking is not None:
        top = next((line for line in found.ranking.lines if line.over_control_k is not None), None)
        return "none really hotter" if top is None or not top.real else f"{top.title} +{kelvin(top.over_control_k)}"
    if fault is not None:
        return fault.brief or fault.grade
    if main is None:
        told = _by_figures(figures)
        return "too early" if told is None else told.brief or told.title
    if main.bias_k is None:
        return "too early"
    return (
        f"{kelvin(abs(main.bias_k))} {'over' if main.bias_k > 0 else 'under'} the twin" if main.real else "as its twin"
    )


def _cause(at: Beside, fitted: Fit) -> Doubtful:
    return next(r for r in kind_of(at.build).doubtful(at.build) if r.name == fitted.cause)


def _cause_words(at: Beside, fitted: Fit) -> str:
    row = _cause(at, fitted)
    return row.more if fitted.of(fitted.cause).value > 1 else row.less


def _sentences(
    at: Beside, channels: list[ChannelVerdict], found: Found, finishes: list[FinishEstimate], fitted: Fit | None, fault: Figure | None
) -> list[str]:  # fmt: skip
    out = [] if found.ranking is not None else [channel.words for channel in channels]
    if found.control is not None:
        out += [found.control.words, found.control.to_tell]
    if found.ranking is not None:
        out.append(found.ranking.pays)
    out += [fade.words for fade in found.fadings] + _finish_words(finishes)
    out += [line.words for line in found.walls]
    away = [row.disturbed for channel in channels for row in channel.residuals if row.disturbed]
    if away:
        kinds = ", ".join(sorted(set(away)))
        out.append(
            f"{len(away)} reading{'s' if len(away) > 1 else ''} after {kinds} shown but not held against the twin."
        )
    if fault is not None:
        out += [fault.words, f"To change: {fault.cure}, then repeat the trial."]
    elif found.ranking is None and fitted is not None and any(c.real for c in channels):
        out.append(_advice(at, fitted))
    return [sentence for sentence in out if sentence]


def _of_controls(comparisons: list[Comparison], beside_control: ChannelVerdict | None) -> list[str]:
    """What the other inside channels are against the control, and the control against its own twin."""
    own = [] if beside_control is None else [f"The control beside a twin of its own: {beside_control.words}"]
    return [*(found.words for found in comparisons[1:]), *own]


def _finish_words(finishes: list[FinishEstimate]) -> list[str]:
    """Finishes that are not what their list says, and what these readings cannot tell of the others."""
    out = [f.words for f in finishes if not f.absorptance.low <= f.absorptance.listed <= f.absorptance.high]
    told = [f for f in finishes if f.emittance is not None and f.emittance.told]
    if finishes and not out:
        out.append("Every finish takes up what is listed for it, within the doubt.")
    if finishes and not told:
        out.append("Emittances are held at what is listed: only readings of warm samples after dark would tell them.")
    return out


def _advice(at: Beside, fitted: Fit) -> str:
    """What to change, from the parameter that departs most."""
    if not fitted.cause:
        return ""
    row = _cause(at, fitted)
    if (fitted.of(row.name).value > 1) == row.bad_above:
        return f"To change: {row.cure}, then repeat the trial on a day like this one."
    return f"Likeliest: {_cause_words(at, fitted)}; nothing needs changing."


def _how_sure(at: Beside, channels: list[ChannelVerdict]) -> str:
    low, high = (100 * (share - 1) for share in at.spread)
    measured = sun_was_measured(at.likely.weather)
    if measured:
        sky = f"The sun was measured: it may have been {low:+.0f} to {high:+.0f} %"
    else:
        states = " then ".join(state for _, state in sky_notes(at.facts))
        sky = f"The sky was noted by eye as {states}: the sun may have been {low:+.0f} to {high:+.0f} %"
    more = "" if measured else " A measured sun would narrow this most."
    return f"{sky}; {_readings_said(at, _main(channels))}.{more}"


def _readings_said(at: Beside, main: ChannelVerdict | None) -> str:
    if main is None:
        count = sum(len(channel.times) for channel in at.facts.telling())
        count += sum(len(rows) for rows in at.facts.sheets.values())
        return f"{counted(count, 'reading')}, none of them by a thermometer inside"
    count = sum(1 for row in main.residuals if not row.disturbed)
    return f"the instrument may be off by ± {kelvin(main.doubt_k)}; {counted(count, 'undisturbed reading')} of {main.title}"
