"""Figures that a trial yields, each with its doubt: one function per figure, named in the protocols."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from drylamp.core import builds, loads
from drylamp.core.arrays import Array
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.collect import module_if_any, modules, rooms
from drylamp.core.outcome.of_load import reached
from drylamp.core.sky.clock import day_edges_s, local_day
from drylamp.core.sky.weather import clear_days
from drylamp.core.text import celsius, kelvin, watts, watts_m2
from drylamp.core.trials.beside import Beside
from drylamp.core.trials.cooking_power import PowerLog, cooking_power, intervals
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.faults import what_broke
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.figures import F2_PASS, boil_minutes, first_figure_m2k_w, grade_of, second_figure
from drylamp.core.trials.finishes import dark_readings
from drylamp.core.trials.own_weather import STEP_S
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

AIR_DOUBT_K = 1.5
STEADY_K = 3.0


def figures_of(found: Found) -> list[Figure]:
    """The figures that the trial's protocol names, in its order, those that the readings allow."""
    named = PROTOCOLS[found.at.facts.protocol].figures
    mine = FIGURES | OF_BUILDS[found.at.build.kind]
    mine |= {} if found.at.facts.load is None else OF_LOADS[found.at.facts.load.kind]
    drawn = [mine[name](found) for name in named if name in mine]
    return [figure for figure in drawn if figure is not None]


def first_figure(found: Found) -> Figure | None:
    """F1 from the tray's hottest reading of an empty box near its plateau, else from the twin alone."""
    at = found.at
    if not kind_of(at.build).has_figures_of_merit:
        return None
    twin, node = _twin_f1(at), kind_of(at.build).stagnation_node(at.build)
    plain = Figure(
        name="f1", title="First figure of merit F1", value=None, doubt=None, quantity="plain", unit="m²K/W", twin=round(twin, 4), digits=3,
        grade=f"grade {grade_of(twin)}",
        words=f"The twin gives {twin:.3f} (grade {grade_of(twin)}) at noon of this day; an empty box with a probe on the tray, "
        "read until it is steady, would measure it.",
    )  # fmt: skip
    plate = at.facts.of_node(node)
    if at.facts.load is not None or plate is None:
        return plain
    values = np.array(plate.values)
    k = int(np.argmax(values))
    moment = plate.times[k].timestamp()
    sun, air, sun_doubt = _sun_and_air(at, moment)
    if sun < 100 or not _steady(at.likely, node, moment):
        text = f"The tray was still warming at its last reading ({celsius(values[k])}), so F1 is not measured yet. {plain.words}"
        return plain.model_copy(update={"words": text})
    f1 = first_figure_m2k_w(float(values[k]), air, sun)
    doubt = math.hypot(math.hypot(plate.doubt, AIR_DOUBT_K) / sun, f1 * sun_doubt)
    words = f"F1 = {f1:.3f} ± {doubt:.3f} m²K/W in {watts_m2(sun)} on level ground: grade {grade_of(f1)}; the twin gives {twin:.3f}."
    return plain.model_copy(
        update={
            "value": round(f1, 4), "doubt": round(doubt, 4), "grade": f"grade {grade_of(f1)}", "words": words,
            "passed": grade_of(f1) in ("A", "B"),
        }
    )  # fmt: skip


def _sun_and_air(at: Beside, moment_s: float) -> tuple[float, float, float]:
    """Level sun and air at an instant, and the sun's doubt as a share."""
    weather = at.likely.weather
    step = int(np.clip((moment_s - weather.start_s) // weather.dt_s, 0, weather.steps - 1))
    return float(weather.ghi_w_m2[step]), float(weather.air_c[step]), (at.spread[1] - at.spread[0]) / 2.0


def _steady(run: Run, node: str, moment_s: float) -> bool:
    """The twin's tray moves little in the ten minutes before."""
    now, before = run.at(node, np.array([moment_s, moment_s - 600.0]))
    return bool(not math.isnan(now + before) and abs(now - before) < STEADY_K)


def _twin_f1(at: Beside) -> float:
    """F1 of the twin: the empty box on this day, clear, at its hottest."""
    zone = at.site.zone
    edges = day_edges_s(zone, local_day(zone, at.facts.started.timestamp()))
    weather = clear_days(at.site, at.facts.weather.model_copy(update={"sky": "clear"}), *edges, STEP_S)
    run = simulate(at.case.with_(load=None), weather)
    series = run.temperature_c[kind_of(at.build).stagnation_node(at.build)][:-1]
    k = int(np.argmax(series))
    if weather.ghi_w_m2[k] < 50:
        return 0.0
    return first_figure_m2k_w(float(series[k]), float(weather.air_c[k]), float(weather.ghi_w_m2[k]))


def minutes_to_target(found: Found) -> Figure | None:
    """How long the contents took to the load's own target."""
    at, load = found.at, found.at.facts.load
    if load is None:
        return None
    target, begun = load.wanted_where(at.likely.boils_c).celsius, at.facts.started.timestamp()

    def minutes(run: Run) -> float | None:
        when = reached(run.edge_s, run.temperature_c[load.judged], target)
        return None if when is None else (when - begun) / 60.0

    twin, early, late = minutes(at.likely), minutes(at.high), minutes(at.low)
    value, doubt = _minutes_read(at.facts.of_node(load.judged) or at.facts.of_node("contents"), target, begun)
    title = f"Time to {celsius(target)}"
    said = "not reached in this trial" if value is None else f"{value:.0f} min" + (f" ± {doubt:.0f}" if doubt else "")
    if twin is None:
        beside = "the twin does not reach it in this time"
    else:
        spread = "" if early is None or late is None else f" ({early:.0f} to {late:.0f} by the sun's doubt)"
        beside = f"the twin says {twin:.0f} min{spread}"
    return Figure(
        name="minutes-to-target", title=title, value=value, doubt=doubt, quantity="minutes", twin=twin, grade="",
        words=f"{title}: {said}; {beside}.",
    )  # fmt: skip


def _minutes_read(channel: ChannelFacts | None, target_c: float, begun_s: float) -> tuple[float | None, float | None]:
    """Minutes until a channel met a temperature, and what its doubt makes of that time."""
    if channel is None:
        return None, None
    seconds, values = channel.seconds, np.array(channel.values)
    when = reached(seconds, values, target_c)
    if when is None:
        return None, None
    k = max(int(np.argmax(values >= target_c)), 1)
    slope = float((values[k] - values[k - 1]) / (seconds[k] - seconds[k - 1]) * 60.0) if len(values) > k else 0.0
    return (when - begun_s) / 60.0, channel.doubt / slope if slope > 0 else None


def second_figure_of(found: Found) -> Figure | None:
    """F2 from water heated between two undisturbed readings between 60 and 95 °C."""
    at, load = found.at, found.at.facts.load
    channel = at.facts.of_node("contents")
    water_kg = None if load is None else load.water_kg
    if channel is None or water_kg is None or not kind_of(at.build).has_figures_of_merit:
        return None
    pairs = [(t.timestamp(), v) for t, v in zip(channel.times, channel.values, strict=True) if 55 <= v <= 96]
    if len(pairs) < 2 or pairs[-1][1] - pairs[0][1] < 10:
        return None
    (begin, cool), (end, warm) = pairs[0], pairs[-1]
    inside = (at.likely.weather.sun.time_s >= begin) & (at.likely.weather.sun.time_s <= end)
    sun, air = float(at.likely.plane_w_m2[inside].mean()), float(at.likely.weather.air_c[inside].mean())
    f1 = _twin_f1(at)
    if f1 <= 0 or (warm - air) / (f1 * sun) >= 1:
        return None
    f2 = second_figure(f1, water_kg, at.build.opening_m2, cool, warm, end - begin, air, sun)
    doubt = f2 * math.hypot(1.4 * channel.doubt / (warm - cool), (at.spread[1] - at.spread[0]) / 2.0)
    grade = "meets the standard" if f2 >= F2_PASS else f"below the standard's {F2_PASS:.2f}"
    return Figure(
        name="f2", title="Second figure of merit F2", value=round(f2, 3), doubt=round(doubt, 3), quantity="plain", twin=None, digits=2,
        grade=grade, passed=f2 >= F2_PASS, words=f"F2 = {f2:.2f} ± {doubt:.2f} between {celsius(cool)} and {celsius(warm)}: {grade}.",
    )  # fmt: skip


def boil_time(found: Found) -> Figure | None:
    """Minutes to boil the load in 800 W/m² and 25 °C, from F1 of the twin and F2 as measured."""
    second, load = second_figure_of(found), found.at.facts.load
    if second is None or second.value is None or load is None or load.water_kg is None:
        return None
    minutes = boil_minutes(_twin_f1(found.at), second.value, load.water_kg, found.at.build.opening_m2, 25.0, 800.0)
    if minutes is None:
        return None
    share = (second.doubt or 0.0) / second.value
    return Figure(
        name="boil-minutes", title=f"Time to boil in {watts_m2(800)}", value=round(minutes), doubt=round(minutes * share), quantity="minutes",
        twin=None, grade="", words=f"From {celsius(25)} to boiling in a steady {watts_m2(800)}: {minutes:.0f} ± {minutes * share:.0f} min.",
    )  # fmt: skip


def cooking_power_of(found: Found) -> Figure | None:
    """Standardised cooking power from the water's readings, with sun, air and wind of the trial."""
    at, load, channel = found.at, found.at.facts.load, found.at.facts.of_node("contents")
    if load is None or load.water_kg is None or channel is None or len(channel.times) < 4:
        return None
    seconds, weather = channel.seconds, at.likely.weather

    def then(values: Array) -> Array:
        return np.interp(seconds, weather.sun.time_s, values)

    log = PowerLog(
        seconds - seconds[0],
        np.array(channel.values),
        then(weather.air_c),
        then(weather.ghi_w_m2),
        then(weather.wind_m_s),
    )
    title = f"Cooking power at {kelvin(50)}, {watts_m2(700)}"
    try:
        power = cooking_power(intervals(log, load.water_kg), load.water_kg, at.build.opening_m2)
    except InputProblem as problem:
        return Figure(
            name="cooking-power", title=title, value=None, doubt=None, quantity="power", twin=None, grade="",
            words=f"Cooking power: {problem.message}.",
        )  # fmt: skip
    doubt = (power.ci_high_w - power.ci_low_w) / 2
    grade = "valid by the standard" if power.valid else "not valid: " + "; ".join(power.reasons)
    return Figure(
        name="cooking-power", title=title, value=round(power.standard_power_w, 1), doubt=round(doubt, 1), quantity="power", twin=None,
        grade=grade, passed=power.valid,
        words=f"Cooking power {watts(power.standard_power_w, doubt)} from {power.points} intervals, r² {power.r2:.2f}; {grade}.",
    )  # fmt: skip


def hottest(found: Found) -> Figure | None:
    """The hottest reading of any part, and the twin there and then."""
    at = found.at
    inside = [c for c in at.facts.inside() if c.node in at.likely.temperature_c]
    if not inside:
        return None
    top = max(inside, key=lambda c: max(c.values))
    k = int(np.argmax(top.values))
    value, doubt = top.values[k], top.doubt_at(k)
    twin = float(at.twin_at(top)[k])
    known = None if math.isnan(twin) else round(twin, 1)
    return Figure(
        name="hottest", title=f"Hottest {top.title}", value=value, doubt=doubt, quantity="temperature", twin=known, grade="",
        words=f"Hottest reading of {top.title}: {celsius(value, doubt)}" + (f"; the twin {celsius(known)} then." if known else "."),
    )  # fmt: skip


def over_control(found: Found) -> Figure | None:
    """How far the first channel stood over its control."""
    if found.control is None:
        return None
    control = found.control
    return Figure(
        name="over-control", title=f"{control.tested} over {control.control}", value=control.difference_k, doubt=control.doubt_k,
        quantity="difference", twin=None, digits=1, grade="real" if control.real else "too small to tell", words=control.words,
    )  # fmt: skip


def goal(found: Found) -> Figure | None:
    """Whether the trial met what it was meant to show."""
    at, aim = found.at, found.at.facts.goal
    if aim is None:
        return None
    channel = at.facts.of_node(aim.node)
    if channel is None:
        return None
    minutes, doubt = _minutes_read(channel, aim.at_least_c, at.facts.started.timestamp())
    limit = aim.within_minutes
    passed = minutes is not None and (limit is None or minutes <= limit)
    asked = f"{channel.title} at {celsius(aim.at_least_c)}" + ("" if limit is None else f" within {limit:.0f} min")
    close = minutes is not None and limit is not None and doubt is not None and abs(minutes - limit) < doubt
    said = f"best {celsius(max(channel.values))}" if minutes is None else f"after {minutes:.0f} min"
    verdict = ("met" if passed else "missed") + (", within the doubt of the other answer" if close else "")
    return Figure(
        name="goal", title=f"Goal: {asked}", value=minutes, doubt=doubt, quantity="minutes", twin=None, grade=verdict, passed=passed,
        words=f"Goal {verdict}: {asked}; {said}.",
    )  # fmt: skip


def cooling_hours(found: Found) -> Figure | None:
    """Time constant of cooling after the sun is gone: ln of the rise over the air against time."""
    at = found.at
    best: tuple[float, float, ChannelFacts] | None = None
    for channel in at.facts.inside():
        fitted = _time_constant(at, channel, np.array(channel.values))
        if fitted is not None and (best is None or len(channel.times) > len(best[2].times)):
            best = (*fitted, channel)
    if best is None:
        return None
    hours, doubt, channel = best
    twin_values = at.twin_at(channel) if channel.node in at.likely.temperature_c else None
    twin = None if twin_values is None or np.isnan(twin_values).any() else _time_constant(at, channel, twin_values)
    beside = "" if twin is None else f"; the twin {twin[0]:.1f} h"
    return Figure(
        name="cooling-hours", title=f"Cooling of {channel.title}", value=round(hours, 2), doubt=round(doubt, 2), quantity="hours", digits=1,
        twin=None if twin is None else round(twin[0], 2), grade="",
        words=f"{channel.title} loses two thirds of its rise over the air in {hours:.1f} ± {doubt:.1f} h{beside}.",
    )  # fmt: skip


def _time_constant(at: Beside, channel: ChannelFacts, values: Array) -> tuple[float, float] | None:
    """Hours, and their doubt, from the readings after dark (or under the cloth); None with fewer than four of them."""
    air = at.air_at(channel.seconds)
    rise = values - air
    dark = dark_readings(at, channel) & (rise > 2.0)
    if int(dark.sum()) < 4:
        return None
    hours = (channel.seconds[dark] - channel.seconds[dark][0]) / 3600.0
    weight = rise[dark]
    line, covariance = np.polyfit(hours, np.log(weight), 1, w=weight, cov="unscaled")
    if line[0] >= 0:
        return None
    left = np.log(weight) - np.polyval(line, hours)
    spread = max(float(np.sqrt(np.sum((weight * left) ** 2) / max(len(hours) - 2, 1))), channel.doubt / 2)
    sd = spread * math.sqrt(float(covariance[0, 0]))
    constant = -1.0 / float(line[0])
    return constant, 2.0 * constant**2 * sd


def best_sample(found: Found) -> Figure | None:
    """The hottest sample's lead over the control."""
    ranking = found.ranking
    if ranking is None:
        return None
    lines = [line for line in ranking.lines if line.over_control_k is not None]
    top = lines[0]
    return Figure(
        name="best-sample", title=f"{top.title} over the control", value=top.over_control_k, doubt=top.doubt_k, quantity="difference", twin=None,
        digits=1, grade="real" if top.real else "too small to tell", words=ranking.words,
    )  # fmt: skip


def ranking_doubt(found: Found) -> Figure | None:
    """What differences this trial can tell at all."""
    ranking = found.ranking
    doubts = [] if ranking is None else [line.doubt_k for line in ranking.lines if line.doubt_k is not None]
    if ranking is None or not doubts:
        return None
    least = max(doubts)
    return Figure(
        name="ranking-doubt", title="Smallest difference it can tell", value=round(least, 2), doubt=None, quantity="difference", twin=None, digits=1,
        grade=f"{ranking.rounds_used} rounds counted", words=f"Differences under {kelvin(least)} are too small to tell in this trial.",
    )  # fmt: skip


def endurance(found: Found) -> Figure | None:
    """The worst change of lead from week to week."""
    if not found.fadings:
        return None
    worst = min(found.fadings, key=lambda f: f.per_week_k)
    return Figure(
        name="endurance", title=f"{worst.title}, change a week", value=worst.per_week_k, doubt=worst.doubt_per_week_k, quantity="difference",
        twin=None, digits=2, grade="real" if worst.real else "no change shown", passed=not (worst.real and worst.per_week_k < 0),
        words=worst.words,
    )  # fmt: skip


def wall(found: Found) -> Figure | None:
    """What the best wall of these blocks gives back in the evening."""
    if not found.walls:
        return None
    top = max(found.walls, key=lambda w: w.given_kwh_m2)
    return Figure(
        name="wall", title=f"Wall of {top.title}, given back after dusk", value=top.given_kwh_m2, doubt=top.doubt_kwh_m2,
        quantity="exposure", twin=None, digits=2, grade="", words=top.words,
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {
    "f1": first_figure,
    "f2": second_figure_of,
    "boil-minutes": boil_time,
    "minutes-to-target": minutes_to_target,
    "cooking-power": cooking_power_of,
    "hottest": hottest,
    "over-control": over_control,
    "goal": goal,
    "cooling-hours": cooling_hours,
    "best-sample": best_sample,
    "ranking-doubt": ranking_doubt,
    "endurance": endurance,
    "wall": wall,
    "what-broke": what_broke,
}


def _of_loads() -> dict[str, dict[str, Callable[[Found], Figure | None]]]:
    """Figures that only trials with one kind of load yield, from the loads' folders, by the kind of load."""
    out: dict[str, dict[str, Callable[[Found], Figure | None]]] = {}
    for room, (spec,) in zip(rooms(loads), modules(loads, "spec"), strict=True):
        own = module_if_any(room, "figures")
        out[spec.LOAD.kind_name()] = {} if own is None else own.FIGURES
    return out


def _of_builds() -> dict[str, dict[str, Callable[[Found], Figure | None]]]:
    """Figures that only trials of one kind of build yield, from the kinds' folders, by kind."""
    out: dict[str, dict[str, Callable[[Found], Figure | None]]] = {}
    for room, (kind,) in zip(rooms(builds), modules(builds, "kind"), strict=True):
        own = module_if_any(room, "figures")
        out[kind.KIND.name] = {} if own is None else own.FIGURES
    return out


OF_LOADS, OF_BUILDS = _of_loads(), _of_builds()
