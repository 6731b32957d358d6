"""The verdict: readings beside the twin, what they say in figures with doubt, and in plain words."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import datetime
from typing import Literal

import numpy as np
from scipy import stats

from drylamp.core.builds.kinds import BuildSpec, kind_of
from drylamp.core.checks import InputProblem, Model, require
from drylamp.core.loads.pot import PotLoad
from drylamp.core.outcome import reached
from drylamp.core.sky.clear import clear_sky
from drylamp.core.sky.measured import Measured, with_measured
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import Array
from drylamp.core.sky.weather import SKY_INDEX, ClearDay, Weather, clear_days
from drylamp.core.trials.figures import first_figure_m2k_w, grade_of, second_figure
from drylamp.core.trials.protocols import DISTURBED_MINUTES, EventKind
from drylamp.core.twin import Adjustments, Run, simulate

AIR_DOUBT_K = 1.5
STEP_S = 60.0
AFTER_S = 1800.0


class ChannelFacts(Model):
    """One channel of a trial and its readings, oldest first."""

    channel: str
    title: str
    node: str
    is_control: bool = False
    doubt_k: float
    times: list[datetime]
    values_c: list[float]


class EventFacts(Model):
    """Something that happened during the trial."""

    kind: EventKind
    time: datetime
    note: str = ""


class TrialFacts(Model):
    """Everything a verdict needs of a trial."""

    name: str
    protocol: str
    started: datetime
    spot: str | None
    weather: ClearDay
    load: PotLoad | None
    preheated: bool
    channels: list[ChannelFacts]
    events: list[EventFacts]


class Residual(Model):
    """One reading beside the twin; band is what the noted sky leaves open."""

    time: datetime
    minutes: float
    reading_c: float
    twin_c: float
    low_c: float
    high_c: float
    residual_k: float
    doubt_k: float
    disturbed: str


class ChannelVerdict(Model):
    """How one channel lies beside the twin."""

    channel: str
    title: str
    node: str
    doubt_k: float
    bias_k: float | None
    scatter_k: float | None
    bias_doubt_k: float | None
    real: bool
    residuals: list[Residual]
    words: str


class Figure(Model):
    """A figure with its doubt; ``twin`` is the same figure from the twin."""

    name: str
    title: str
    value: float | None
    doubt: float | None
    unit: str
    twin: float | None
    grade: str
    words: str


class TwinCurve(Model):
    """The twin over the trial, with the band that the noted sky leaves open."""

    node: str
    title: str
    temperature_c: list[float | None]
    low_c: list[float | None]
    high_c: list[float | None]


class Verdict(Model):
    """A page to read."""

    trial: str
    headline: str
    sentences: list[str]
    figures: list[Figure]
    channels: list[ChannelVerdict]
    control: ChannelVerdict | None
    times: list[datetime]
    curves: list[TwinCurve]
    level_sun_w_m2: list[float]
    air_c: list[float]
    weather: str
    likely_cause: Literal["", "optical", "loss", "leak"]
    how_sure: str
    energy_closure: float


CAUSES: dict[str, tuple[str, tuple[float, ...], str]] = {
    "optical": (
        "less sun gets in than the twin thinks",
        (0.6, 0.7, 0.8, 0.9, 1.1, 1.2),
        "wash cover and mirror, check aim and shade",
    ),
    "loss": (
        "cover and walls lose more than the twin thinks",
        (0.7, 0.85, 1.2, 1.5, 2.0),
        "add a cover layer or dry, thicker insulation",
    ),
    "leak": ("more air leaks than the twin thinks", (0.3, 2.0, 4.0, 8.0), "renew the seal round the cover"),
}
OPPOSITES = {
    "optical": "more sun gets in than the twin thinks",
    "loss": "cover and walls hold heat better than the twin thinks",
    "leak": "the seal is tighter than the twin thinks",
}


def trial_weather(site: Site, facts: TrialFacts, end_s: float, index: float | None = None) -> Weather:
    """The trial's own sky and air: clear sky scaled by the noted state, air from an ambient channel where there is one."""
    start = facts.started.timestamp() - facts.started.timestamp() % STEP_S
    steps = max(2, math.ceil((end_s - start) / STEP_S))
    weather = clear_days(site, facts.weather, start, start + steps * STEP_S, STEP_S)
    if index is not None:
        weather = _scaled(site, weather, index)
    ambient = [channel for channel in facts.channels if channel.node == "air" and len(channel.times) >= 2]
    if not ambient:
        return weather
    times, values = np.array([t.timestamp() for t in ambient[0].times]), np.array(ambient[0].values_c)
    sane = np.abs(values) < 60.0
    try:
        return with_measured(weather, air_c=Measured(times[sane], values[sane]))
    except InputProblem as problem:  # a gap, or too few sane readings: the day's numbers stand, and the origin says so
        return replace(weather, origin=f"{weather.origin}; measured air left out ({problem.message})")


def _scaled(site: Site, weather: Weather, index: float) -> Weather:
    ghi, _, _ = clear_sky(site, weather.sun)
    have = float(weather.ghi_w_m2.sum())
    scale = index * float(ghi.sum()) / have if have > 0 else 1.0
    return replace(
        weather,
        ghi_w_m2=weather.ghi_w_m2 * scale,
        dni_w_m2=weather.dni_w_m2 * scale,
        dhi_w_m2=weather.dhi_w_m2 * scale,
    )


def judge(site: Site, build: BuildSpec, facts: TrialFacts) -> Verdict:
    """Judge a trial.

    Raises:
        InputProblem: there is no reading to judge, or the load does not fit the build.
    """
    read = [channel for channel in facts.channels if channel.times and not channel.is_control and channel.node != "air"]
    require(bool(read), "readings", "this trial has no reading inside the build yet; take at least one")
    end_s = max(channel.times[-1].timestamp() for channel in facts.channels if channel.times) + AFTER_S
    likely, low, high = _runs(site, build, facts, end_s)
    channels = [_channel_verdict(channel, facts, likely, low, high) for channel in read if _known(channel, likely)]
    require(
        bool(channels),
        "channels",
        "no channel names a part that the twin knows; set one to tray, contents or inside-air",
    )
    control = _control_verdict(facts)
    figures = _figures(site, build, facts, likely, low, high)
    cause = _likely_cause(site, build, facts, end_s, channels)
    shown = slice(None, None, 5)
    return Verdict(
        trial=facts.name,
        headline=_headline(channels, cause),
        sentences=_sentences(channels, control, cause, facts),
        figures=figures,
        channels=channels,
        control=control,
        times=[datetime.fromtimestamp(float(s), site.zone) for s in likely.edge_s[shown]],
        curves=[_curve(node, likely, low, high, shown) for node in likely.temperature_c],
        level_sun_w_m2=[round(float(v), 1) for v in np.append(likely.plane_w_m2, likely.plane_w_m2[-1])[shown]],
        air_c=[round(float(v), 2) for v in np.append(likely.weather.air_c, likely.weather.air_c[-1])[shown]],
        weather=likely.weather.origin,
        likely_cause=cause,
        how_sure=_how_sure(facts, channels),
        energy_closure=likely.energy_closure,
    )


def _known(channel: ChannelFacts, run: Run) -> bool:
    return channel.node in run.temperature_c


def _runs(site: Site, build: BuildSpec, facts: TrialFacts, end_s: float) -> tuple[Run, Run, Run]:
    """The twin under the likely sky and under the two ends of what the noted state leaves open."""
    likely_index, low_index, high_index = SKY_INDEX[facts.weather.sky]
    runs = [
        _twin_run(site, build, facts, trial_weather(site, facts, end_s, index), Adjustments())
        for index in (likely_index, low_index, high_index)
    ]
    return runs[0], runs[1], runs[2]


def trial_twin(site: Site, build: BuildSpec, facts: TrialFacts, end_s: float, tune: Adjustments) -> Run:
    """The twin under the trial's likely sky, from its start (or the hour of preheating before) to an instant."""
    weather = trial_weather(site, facts, end_s, SKY_INDEX[facts.weather.sky][0])
    return _twin_run(site, build, facts, weather, tune)


def _twin_run(site: Site, build: BuildSpec, facts: TrialFacts, weather: Weather, tune: Adjustments) -> Run:
    load = facts.load
    if load is not None:  # the clock starts with the pot in the box
        begun = datetime.fromtimestamp(weather.start_s, site.zone)
        load = load.model_copy(update={"goes_in": begun.strftime("%H:%M")})
    if not facts.preheated:
        return simulate(site, facts.spot, build, load, weather, tune)
    return _with_preheat(site, build, facts, load, weather, tune)


def _with_preheat(
    site: Site, build: BuildSpec, facts: TrialFacts, load: PotLoad | None, weather: Weather, tune: Adjustments
) -> Run:
    """Run the empty box for the hour before, under the same day's numbers, then the trial."""
    before_s = 3600.0
    early = clear_days(site, facts.weather, weather.start_s - before_s, weather.start_s, STEP_S)
    joined = Weather(
        start_s=early.start_s,
        dt_s=STEP_S,
        sun=type(weather.sun)(
            *(
                np.concatenate([getattr(early.sun, f), getattr(weather.sun, f)])
                for f in weather.sun.__dataclass_fields__
            )
        ),
        pressure_pa=weather.pressure_pa,
        origin=weather.origin,
        **{
            name: np.concatenate([getattr(early, name), getattr(weather, name)])
            for name in ("ghi_w_m2", "dni_w_m2", "dhi_w_m2", "air_c", "rh", "wind_m_s")
        },
    )
    return simulate(site, facts.spot, build, load, joined, tune)


def _disturbed(facts: TrialFacts, time: datetime) -> str:
    for event in facts.events:
        since = (time - event.time).total_seconds() / 60.0
        if 0 <= since <= DISTURBED_MINUTES[event.kind] and DISTURBED_MINUTES[event.kind] > 0:
            return event.kind
    return ""


def _channel_verdict(channel: ChannelFacts, facts: TrialFacts, likely: Run, low: Run, high: Run) -> ChannelVerdict:
    seconds = np.array([t.timestamp() for t in channel.times])
    twin, cold, hot = (run.at(channel.node, seconds) for run in (likely, low, high))
    rows = []
    for k, time in enumerate(channel.times):
        if np.isnan(twin[k]):
            continue
        band = abs(float(hot[k] - cold[k])) / 2.0
        rows.append(
            Residual(
                time=time,
                minutes=(time - facts.started).total_seconds() / 60.0,
                reading_c=channel.values_c[k],
                twin_c=round(float(twin[k]), 2),
                low_c=round(float(min(cold[k], hot[k])), 2),
                high_c=round(float(max(cold[k], hot[k])), 2),
                residual_k=round(channel.values_c[k] - float(twin[k]), 2),
                doubt_k=round(math.hypot(channel.doubt_k, band), 2),
                disturbed=_disturbed(facts, time),
            )
        )
    return _judged(channel, rows)


def _judged(channel: ChannelFacts, rows: list[Residual]) -> ChannelVerdict:
    fair = [row for row in rows if not row.disturbed and row.minutes >= 3.0]
    if not fair:
        words = f"{channel.title}: no undisturbed reading after the start, so nothing can be said yet."
        return ChannelVerdict(
            channel=channel.channel, title=channel.title, node=channel.node, doubt_k=channel.doubt_k, bias_k=None,
            scatter_k=None, bias_doubt_k=None, real=False, residuals=rows, words=words,
        )  # fmt: skip
    residual = np.array([row.residual_k for row in fair])
    bias, scatter = float(residual.mean()), float(residual.std(ddof=1)) if len(fair) > 1 else 0.0
    shared = float(np.mean([row.doubt_k for row in fair]))
    doubt = math.hypot(shared, scatter / math.sqrt(len(fair)))
    real = abs(bias) > doubt
    side = "over" if bias > 0 else "under"
    if real:
        words = f"{channel.title} runs {abs(bias):.0f} K {side} the twin (± {doubt:.0f} K): a real difference."
    else:
        words = f"{channel.title} lies {abs(bias):.0f} K {side} the twin, within the doubt of ± {doubt:.0f} K: no difference shown."
    return ChannelVerdict(
        channel=channel.channel, title=channel.title, node=channel.node, doubt_k=channel.doubt_k, bias_k=round(bias, 2),
        scatter_k=round(scatter, 2), bias_doubt_k=round(doubt, 2), real=real, residuals=rows, words=words,
    )  # fmt: skip


def _control_verdict(facts: TrialFacts) -> ChannelVerdict | None:
    """The first inside channel against the control, paired in time, with a 95 % interval."""
    controls = [channel for channel in facts.channels if channel.is_control and channel.times]
    inside = [
        channel for channel in facts.channels if not channel.is_control and channel.node != "air" and channel.times
    ]
    if not controls or not inside:
        return None
    control, tested = controls[0], inside[0]
    stamps = np.array([t.timestamp() for t in control.times])
    rows, gaps = [], []
    for time, value in zip(tested.times, tested.values_c, strict=True):
        k = int(np.argmin(np.abs(stamps - time.timestamp())))
        if abs(stamps[k] - time.timestamp()) > 180.0:
            continue
        beside, away = control.values_c[k], _disturbed(facts, time)
        gap = value - beside
        doubt = math.hypot(control.doubt_k, tested.doubt_k)
        rows.append(
            Residual(
                time=time, minutes=(time - facts.started).total_seconds() / 60.0, reading_c=value, twin_c=beside,
                low_c=beside - control.doubt_k, high_c=beside + control.doubt_k, residual_k=round(gap, 2),
                doubt_k=round(doubt, 2), disturbed=away,
            )
        )  # fmt: skip
        if not away:
            gaps.append(gap)
    if not gaps:
        return None
    mean = float(np.mean(gaps))
    spread = float(np.std(gaps, ddof=1)) if len(gaps) > 1 else 0.0
    student = float(stats.t.ppf(0.975, len(gaps) - 1)) if len(gaps) > 1 else 0.0
    doubt = math.hypot(math.hypot(control.doubt_k, tested.doubt_k), student * spread / math.sqrt(len(gaps)))
    real = abs(mean) > doubt
    verdict = "real" if real else "too small to tell"
    side = "over" if mean > 0 else "under"
    words = f"{tested.title} was {abs(mean):.0f} K {side} {control.title} on the mean of {len(gaps)} pairs (± {doubt:.0f} K): {verdict}."
    return ChannelVerdict(
        channel=control.channel, title=control.title, node=control.node, doubt_k=control.doubt_k, bias_k=round(mean, 2),
        scatter_k=round(spread, 2), bias_doubt_k=round(doubt, 2), real=real, residuals=rows, words=words,
    )  # fmt: skip


def _figures(site: Site, build: BuildSpec, facts: TrialFacts, likely: Run, low: Run, high: Run) -> list[Figure]:
    found = [_first_figure(site, build, facts, likely, low, high)]
    if facts.load is not None:
        found.append(_time_figure(facts, likely, low, high))
        second = _second_figure(build, facts, likely, found[0])
        if second is not None:
            found.append(second)
    hottest = _hottest_figure(facts, likely)
    return [*found, hottest] if hottest is not None else found


def _first_figure(site: Site, build: BuildSpec, facts: TrialFacts, likely: Run, low: Run, high: Run) -> Figure:
    """F1 from the tray's hottest reading of an empty box near its plateau, else from the twin alone."""
    node = kind_of(build).hot_node
    twin = _twin_f1(site, build, facts)
    plate = [c for c in facts.channels if c.node == node and not c.is_control and c.times]
    plain = Figure(
        name="f1", title="First figure of merit F1", value=None, doubt=None, unit="m²K/W", twin=round(twin, 4),
        grade=grade_of(twin),
        words=f"The twin gives {twin:.3f} (grade {grade_of(twin)}) at noon of this day; an empty box with a probe on the tray, "
        "read until it is steady, would measure it.",
    )  # fmt: skip
    if facts.load is not None or not plate:
        return plain
    values = np.array(plate[0].values_c)
    k = int(np.argmax(values))
    moment = plate[0].times[k].timestamp()
    step = int(np.clip((moment - likely.weather.start_s) // STEP_S, 0, likely.weather.steps - 1))
    sun, air = float(likely.plane_w_m2[step]), float(likely.weather.air_c[step])
    if sun < 100 or not _steady(likely, node, moment):
        text = f"The tray was still warming at its last reading ({values[k]:.0f} °C), so F1 is not measured yet. {plain.words}"
        return plain.model_copy(update={"words": text})
    f1 = first_figure_m2k_w(float(values[k]), air, sun)
    sun_doubt = abs(float(high.plane_w_m2[step] - low.plane_w_m2[step])) / 2 / sun
    doubt = math.hypot(math.hypot(plate[0].doubt_k, AIR_DOUBT_K) / sun, f1 * sun_doubt)
    words = f"F1 = {f1:.3f} ± {doubt:.3f} m²K/W in {sun:.0f} W/m² on level ground: grade {grade_of(f1)}; the twin gives {twin:.3f}."
    return plain.model_copy(
        update={"value": round(f1, 4), "doubt": round(doubt, 4), "grade": grade_of(f1), "words": words}
    )


def _steady(run: Run, node: str, moment_s: float) -> bool:
    """The twin's tray moves less than 3 K in the ten minutes before."""
    now, before = run.at(node, np.array([moment_s, moment_s - 600.0]))
    return bool(not math.isnan(now + before) and abs(now - before) < 3.0)


def _twin_f1(site: Site, build: BuildSpec, facts: TrialFacts) -> float:
    """F1 of the twin: the empty box on this day at its hottest."""
    begun = facts.started.astimezone(site.zone)
    start = begun.replace(hour=0, minute=0, second=0, microsecond=0).timestamp()
    weather = clear_days(site, facts.weather.model_copy(update={"sky": "clear"}), start, start + 86400.0, STEP_S)
    run = simulate(site, facts.spot, build, None, weather)
    series = run.temperature_c[kind_of(build).hot_node][:-1]
    k = int(np.argmax(series))
    if weather.ghi_w_m2[k] < 50:
        return 0.0
    return first_figure_m2k_w(float(series[k]), float(weather.air_c[k]), float(weather.ghi_w_m2[k]))


def _contents(facts: TrialFacts) -> ChannelFacts | None:
    found = [c for c in facts.channels if c.node == "contents" and not c.is_control and c.times]
    return found[0] if found else None


def _time_figure(facts: TrialFacts, likely: Run, low: Run, high: Run) -> Figure:
    assert facts.load is not None
    target, begun = facts.load.wanted_c, facts.started.timestamp()

    def minutes(run: Run) -> float | None:
        when = reached(run.edge_s, run.temperature_c["contents"], target)
        return None if when is None else (when - begun) / 60.0

    twin, early, late = minutes(likely), minutes(high), minutes(low)
    channel = _contents(facts)
    value = doubt = None
    if channel is not None:
        seconds = np.array([t.timestamp() for t in channel.times])
        when = reached(seconds, np.array(channel.values_c), target)
        value = None if when is None else (when - begun) / 60.0
        slope = np.gradient(channel.values_c, seconds / 60.0).mean() if len(seconds) > 1 else 0.0
        doubt = None if value is None or slope <= 0 else float(channel.doubt_k / slope)
    title = f"Time to {target:.0f} °C"
    said = "not reached in this trial" if value is None else f"{value:.0f} min" + (f" ± {doubt:.0f}" if doubt else "")
    if twin is None:
        beside = "the twin does not reach it in this time"
    else:
        spread = "" if early is None or late is None else f" ({early:.0f} to {late:.0f} by the noted sky)"
        beside = f"the twin says {twin:.0f} min{spread}"
    return Figure(
        name="minutes-to-target", title=title, value=value, doubt=doubt, unit="min", twin=twin, grade="",
        words=f"{title}: {said}; {beside}.",
    )  # fmt: skip


def _second_figure(build: BuildSpec, facts: TrialFacts, likely: Run, first: Figure) -> Figure | None:
    """F2 from a water load heated between two undisturbed readings between 60 and 95 °C."""
    channel, load = _contents(facts), facts.load
    if channel is None or load is None or load.food != "water" or first.twin is None:
        return None
    pairs = [(t.timestamp(), v) for t, v in zip(channel.times, channel.values_c, strict=True) if 55 <= v <= 96]
    if len(pairs) < 2 or pairs[-1][1] - pairs[0][1] < 10:
        return None
    (begin, cool), (end, warm) = pairs[0], pairs[-1]
    inside = (likely.weather.sun.time_s >= begin) & (likely.weather.sun.time_s <= end)
    sun, air = float(likely.plane_w_m2[inside].mean()), float(likely.weather.air_c[inside].mean())
    f1 = first.value or first.twin
    if (warm - air) / (f1 * sun) >= 1:
        return None
    f2 = second_figure(f1, load.food_kg, build.opening_m2, cool, warm, end - begin, air, sun)
    doubt = f2 * math.hypot(1.4 * channel.doubt_k / (warm - cool), 0.07)
    grade = "meets the standard" if f2 >= 0.40 else "below the standard's 0.40"
    return Figure(
        name="f2", title="Second figure of merit F2", value=round(f2, 3), doubt=round(doubt, 3), unit="", twin=None,
        grade=grade, words=f"F2 = {f2:.2f} ± {doubt:.2f} between {cool:.0f} and {warm:.0f} °C: {grade}.",
    )  # fmt: skip


def _hottest_figure(facts: TrialFacts, likely: Run) -> Figure | None:
    inside = [c for c in facts.channels if not c.is_control and c.node in likely.temperature_c and c.times]
    if not inside:
        return None
    top = max(inside, key=lambda c: max(c.values_c))
    value = max(top.values_c)
    when = top.times[int(np.argmax(top.values_c))]
    twin = float(likely.at(top.node, np.array([when.timestamp()]))[0])
    known = None if math.isnan(twin) else round(twin, 1)
    return Figure(
        name="hottest", title=f"Hottest {top.title}", value=value, doubt=top.doubt_k, unit="°C", twin=known, grade="",
        words=f"Hottest reading of {top.title}: {value:.0f} ± {top.doubt_k:.0f} °C" + (f"; the twin {known:.0f} °C then." if known else "."),
    )  # fmt: skip


def _likely_cause(site: Site, build: BuildSpec, facts: TrialFacts, end_s: float, channels: list[ChannelVerdict]) -> str:
    """Which single change of the twin brings it closest to the readings, if any does so clearly."""
    if not any(channel.real for channel in channels):
        return ""
    weather = trial_weather(site, facts, end_s, SKY_INDEX[facts.weather.sky][0])
    base = _misfit(channels, None)
    best, name = 0.75 * base, ""
    for cause, (_, factors, _) in CAUSES.items():
        for factor in factors:
            run = _twin_run(site, build, facts, weather, Adjustments(**{cause: factor}))
            misfit = _misfit(channels, run)
            if misfit < best:
                best, name = misfit, cause
    return name


def _misfit(channels: list[ChannelVerdict], run: Run | None) -> float:
    """Root mean square of undisturbed residuals, against another run when one is given."""
    total = []
    for channel in channels:
        fair = [row for row in channel.residuals if not row.disturbed and row.minutes >= 3.0]
        if not fair:
            continue
        times = np.array([row.time.timestamp() for row in fair])
        twin: Array = np.array([row.twin_c for row in fair]) if run is None else run.at(channel.node, times)
        total.append((np.array([row.reading_c for row in fair]) - twin) ** 2)
    return float(np.sqrt(np.nanmean(np.concatenate(total)))) if total else 0.0


def _main(channels: list[ChannelVerdict]) -> ChannelVerdict:
    """The channel a headline speaks of: the contents where read, else the one with most readings."""
    by_node = {channel.node: channel for channel in channels}
    return by_node.get("contents") or max(channels, key=lambda c: len(c.residuals))


def _headline(channels: list[ChannelVerdict], cause: str) -> str:
    main = _main(channels)
    if main.bias_k is None:
        return "Not enough undisturbed readings for a verdict yet."
    if not main.real:
        return f"As good as its twin: {main.title} within ± {main.bias_doubt_k:.0f} K."
    side = "over" if main.bias_k > 0 else "under"
    words = f"{main.title} runs {abs(main.bias_k):.0f} K {side} the twin"
    if not cause:
        return words + "; no single cause stands out."
    return f"{words}; likeliest: {CAUSES[cause][0] if _worse(main) else OPPOSITES[cause]}."


def _worse(main: ChannelVerdict) -> bool:
    return (main.bias_k or 0.0) < 0


def _sentences(
    channels: list[ChannelVerdict], control: ChannelVerdict | None, cause: str, facts: TrialFacts
) -> list[str]:
    out = [channel.words for channel in channels]
    if control is not None:
        out.append(control.words)
    away = sum(1 for channel in channels for row in channel.residuals if row.disturbed)
    if away:
        kinds = sorted({row.disturbed for channel in channels for row in channel.residuals if row.disturbed})
        out.append(
            f"{away} reading{'s' if away > 1 else ''} after {', '.join(kinds)} shown but not held against the twin."
        )
    main = _main(channels)
    if cause and _worse(main):
        out.append(f"To change: {CAUSES[cause][2]}, then repeat the trial on a day like this one.")
    elif cause:
        out.append(f"Likeliest: {OPPOSITES[cause]}; nothing needs changing.")
    return out


def _how_sure(facts: TrialFacts, channels: list[ChannelVerdict]) -> str:
    main = _main(channels)
    likely, low, high = SKY_INDEX[facts.weather.sky]
    sky = f"The sky was noted by eye as {facts.weather.sky}: the sun may have been {100 * (low / likely - 1):+.0f} to {100 * (high / likely - 1):+.0f} %"
    probe = f"the instrument may be off by ± {main.doubt_k:g} K"
    count = sum(1 for row in main.residuals if not row.disturbed)
    return f"{sky}; {probe}; {count} undisturbed reading{'s' if count != 1 else ''} of {main.title}. A measured sun would narrow this most."


def _curve(node: str, likely: Run, low: Run, high: Run, shown: slice) -> TwinCurve:
    def numbers(values: Array) -> list[float | None]:
        return [None if np.isnan(v) else round(float(v), 2) for v in values[shown]]

    cold, hot = low.temperature_c[node], high.temperature_c[node]
    return TwinCurve(
        node=node,
        title=likely.titles[node],
        temperature_c=numbers(likely.temperature_c[node]),
        low_c=numbers(np.minimum(cold, hot)),
        high_c=numbers(np.maximum(cold, hot)),
    )
