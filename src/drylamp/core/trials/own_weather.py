"""A trial's own sun, air, humidity and wind: measured where it was measured, else the noted sky over the day's numbers."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import InputProblem
from drylamp.core.sky.clear import split_global
from drylamp.core.sky.indoors import surrounded
from drylamp.core.sky.measured import Measured, with_measured
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import SKY_INDEX, ClearDay, SkyState, Weather, clear_days
from drylamp.core.trials.facts import WEATHER_NODES, ChannelFacts, TrialFacts

STEP_S = 60.0
LONG_S, LONG_STEP_S = 3 * 86400.0, 300.0
"""Trials of weeks are run on coarser steps."""
SANE = {"temperature": (-60.0, 60.0), "sun": (-20.0, 1800.0), "wind": (0.0, 80.0), "humidity": (0.0, 1.0)}


def trial_weather(site: Site, facts: TrialFacts, start_s: float, end_s: float) -> Weather:
    """The likely weather of a trial from an instant to another, on steps of a minute (five in trials of weeks)."""
    step_s = STEP_S if end_s - start_s <= LONG_S else LONG_STEP_S
    begin = start_s - start_s % step_s
    steps = max(2, math.ceil((end_s - begin) / step_s))
    weather = _under_notes(site, facts, clear_days(site, _clear(facts.weather), begin, begin + steps * step_s, step_s))
    weather = surrounded(site.spot(facts.spot), weather)  # what is measured there is laid over it
    for channel in facts.channels:
        if not channel.is_control and channel.node in WEATHER_NODES and len(channel.times) >= 2:
            weather = _laid(weather, channel)
    return weather


def _clear(day: ClearDay) -> ClearDay:
    return day.model_copy(update={"sky": "clear"})


def sky_notes(facts: TrialFacts) -> list[tuple[float, SkyState]]:
    """The noted sky from each instant on, the first one from before the trial."""
    notes: list[tuple[float, SkyState]] = [(-math.inf, facts.weather.sky)]
    for event in sorted(facts.events, key=lambda e: e.time):
        word = event.note.strip().lower()
        if event.row.asks == "sky" and word in SKY_INDEX:
            notes.append((event.time.timestamp(), word))
    return notes


def _index(facts: TrialFacts, time_s: Array, which: int) -> Array:
    """Clear-sky index of the noted sky: likely, low or high."""
    out = np.empty(len(time_s))
    for since, state in sky_notes(facts):
        out[time_s >= since] = SKY_INDEX[state][which]
    return out


def _under_notes(site: Site, facts: TrialFacts, clear: Weather) -> Weather:
    states = {state for _, state in sky_notes(facts)}
    origin = clear.origin.replace(
        "clear sky", f"{' then '.join(state for _, state in sky_notes(facts))} sky as noted", 1
    )
    if states == {"clear"}:
        return replace(clear, origin=origin)
    index = _index(facts, clear.sun.time_s, 0)
    ghi = clear.ghi_w_m2 * index
    dni, dhi = split_global(ghi, clear.sun)
    as_clear = index == SKY_INDEX["clear"][0]
    return replace(
        clear,
        ghi_w_m2=ghi,
        dni_w_m2=np.where(as_clear, clear.dni_w_m2, dni),
        dhi_w_m2=np.where(as_clear, clear.dhi_w_m2, dhi),
        origin=origin,
    )


def _laid(weather: Weather, channel: ChannelFacts) -> Weather:
    """Lay one measured channel over the weather; what cannot be laid stays as it was, and the origin says why."""
    low, high = SANE.get(channel.quantity, (0.0, 0.0))
    values = np.array(channel.values)
    sane = (values >= low) & (values <= high)
    measured = Measured(channel.seconds[sane], values[sane])
    try:
        if channel.quantity == "sun":
            return with_measured(weather, level_sun_w_m2=Measured(measured.time_s, np.maximum(measured.value, 0.0)))
        if channel.quantity == "wind":
            return with_measured(weather, wind_m_s=measured)
        if channel.quantity == "humidity":
            return with_measured(weather, rh=measured)
        return with_measured(weather, air_c=measured)
    except InputProblem as problem:  # a gap, or too few sane readings: the day's numbers stand, and the origin says so
        return replace(weather, origin=f"{weather.origin}; measured {channel.title} left out ({problem.message})")


def sun_was_measured(weather: Weather) -> bool:
    """Whether a pyranometer's readings were laid over the noted sky."""
    return "sun as measured" in weather.origin


def sun_spread(facts: TrialFacts, weather: Weather) -> tuple[float, float]:
    """What the sun may have been as a share of the likely sun: by the pyranometer where there was one, else by the noted sky."""
    gauge = facts.of_node("sun", "sun")
    if gauge is not None and sun_was_measured(weather):
        return 1.0 - gauge.doubt, 1.0 + gauge.doubt
    lit = weather.ghi_w_m2
    total = float(lit.sum())
    if total <= 0:
        return 1.0, 1.0
    likely, low, high = (_index(facts, weather.sun.time_s, which) for which in range(3))
    return float((lit * low / likely).sum()) / total, float((lit * high / likely).sum()) / total
