"""Figures of a trial with water: what a day gave it, what a night took."""

from __future__ import annotations

from collections.abc import Callable
from math import hypot, log
from typing import cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.kept.figures.draw_off import draw_off
from drylamp.core.loads.common.kept.spec import KeptWater
from drylamp.core.text import kilowatt_hours
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.figure import Figure, Found

LEAST_APART_K, LEAST_HOURS = 3.0, 2.0
"""Less than this between water and air, or of time, tells nothing of a loss."""


def _water(found: Found) -> tuple[ChannelFacts, KeptWater] | None:
    load, channel = found.at.facts.load, found.at.facts.of_node(TOP, "temperature")
    if channel is None or load is None or load.filling is None or len(channel.values) < 2:
        return None
    return channel, cast(KeptWater, load)


def day_gain(found: Found) -> Figure | None:
    """Heat that the water took up from the first reading to its warmest (the form of ISO 9459-2's day test)."""
    read = _water(found)
    if read is None:
        return None
    channel, load = read
    mass = load.fill_l * CP_WATER_J_KGK / KWH_J
    warmest = int(np.argmax(channel.values))
    if warmest == 0:
        return None
    gain = mass * (channel.values[warmest] - channel.values[0])
    at = channel.seconds[[0, warmest]]
    low, twin, high = (
        float(mass * np.diff(run.at(TOP, at))[0]) for run in (found.at.low, found.at.likely, found.at.high)
    )
    doubt = mass * hypot(channel.doubt, channel.doubt)
    words = f"The water took up {kilowatt_hours(gain, doubt)}; the twin says {kilowatt_hours(twin)} ({kilowatt_hours(low)} to {kilowatt_hours(high)} by the sun's doubt)."
    return Figure(
        name="day-gain", title="Day's heat in the water", value=gain, doubt=doubt, quantity="energy", twin=round(twin, 3), grade="", words=words, digits=2,
    )  # fmt: skip


def _loss_w_k(litres: float, hours: float, begun_k: float, ended_k: float) -> float:
    """m cp / Δt · ln(ΔT₀ / ΔT₁)."""
    return litres * CP_WATER_J_KGK / (3600.0 * hours) * log(begun_k / ended_k)


def night_loss(found: Found) -> Figure | None:
    """Watts that the water loses for each kelvin over the air, from the logarithm of how it cools (ISO 9459-2's night test)."""
    read = _water(found)
    if read is None:
        return None
    channel, load = read
    at = channel.seconds[[0, -1]]
    hours = float(at[1] - at[0]) / 3600.0
    weather = found.at.likely.weather
    inside = (weather.sun.time_s >= at[0]) & (weather.sun.time_s <= at[1])
    outside = found.at.facts.of_node("air", "temperature")
    air = (
        float(np.mean(outside.values))
        if outside is not None and len(outside.values) > 1
        else float(weather.air_c[inside].mean())
    )
    begun, ended = channel.values[0] - air, channel.values[-1] - air
    if hours < LEAST_HOURS or ended < LEAST_APART_K or begun <= ended:
        return None
    loss = _loss_w_k(load.fill_l, hours, begun, ended)
    doubt = load.fill_l * CP_WATER_J_KGK / (3600.0 * hours) * hypot(channel.doubt / begun, channel.doubt / ended)
    first, last = (float(value) - air for value in found.at.likely.at(TOP, at))
    twin = _loss_w_k(load.fill_l, hours, first, last) if first > last > 0 else None
    beside = "" if twin is None else f"; the twin says {twin:.1f}"
    return Figure(
        name="night-loss", title="Night loss", value=loss, doubt=doubt, quantity="plain", unit="W/K", twin=None if twin is None else round(twin, 2),
        grade="", words=f"It loses {loss:.1f} ± {doubt:.1f} W for each kelvin over the air{beside}.", digits=1,
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {
    "day-gain": day_gain,
    "night-loss": night_loss,
    "draw-off": draw_off,
}
