"""Figures of a trial with a tub or pool; a season afterwards: days that a loop won in fact, by what was logged, against the same weather without it."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from math import hypot
from typing import cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.arrays import Array
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop.figures import pump_hours
from drylamp.core.loads.common.tap.figures import tap_power
from drylamp.core.loads.pool.spec import Pool
from drylamp.core.sky.clock import instant_s, local_day
from drylamp.core.text import celsius, counted, kelvin, kilowatt_hours
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.twin.prepared import prepare

NEAR_S = 3.0 * 3600.0
"""A reading so near an evening stands for it."""
LEAST_DAYS = 5
"""Fewer evenings say nothing of a season."""
TWIN_K = 0.5
"""How far the difference of two runs of the twin may be off; from memory."""


def tub_gain(found: Found) -> Figure | None:
    """Heat that all the water took up from the first reading to its warmest, and how far it had cooled by the last."""
    load, channel = found.at.facts.load, found.at.facts.of_node(TOP)
    if channel is None or load is None or len(channel.values) < 2:
        return None
    held = cast(Pool, load).fill_l * CP_WATER_J_KGK / KWH_J
    warmest = int(np.argmax(channel.values))
    if warmest == 0:
        return None
    at, values = channel.seconds, channel.values
    gain, doubt = held * (values[warmest] - values[0]), held * hypot(channel.doubt, channel.doubt)
    twin = held * float(np.diff(found.at.likely.at(TOP, at[[0, warmest]]))[0])
    fell = values[warmest] - values[-1]
    after = "" if warmest == len(values) - 1 else f" By the last reading it had cooled by {kelvin(fell)}."
    return Figure(
        name="tub-gain", title="Heat into the water", value=round(gain, 2), doubt=round(doubt, 2), quantity="energy", twin=round(twin, 2), digits=1, grade="",
        words=f"The water took up {kilowatt_hours(gain, doubt)}, {kelvin(values[warmest] - values[0])}; the twin says {kilowatt_hours(twin)}.{after}",
    )  # fmt: skip


def days_won(found: Found) -> Figure | None:
    """Evenings on which the water was warm enough, less those on which it would have been without the loop.

    What the twin with the loop is off by lies in the loop or in the pool: half of it is taken to be there without the loop, too, half is doubt.
    """
    load, channel = found.at.facts.load, found.at.facts.of_node(TOP)
    if channel is None or load is None:
        return None
    pool, evenings = cast(Pool, load), _evenings(found, channel, cast(Pool, load))
    if len(evenings) < LEAST_DAYS:
        return None
    logged = np.interp(evenings, channel.seconds, channel.values)
    half_off = float(np.mean(np.array(channel.values) - found.at.likely.at(TOP, channel.seconds))) / 2.0
    without = _without(found, channel, pool, evenings) + half_off

    def warm_days(series: Array, by_k: float) -> int:
        return int((series + by_k >= pool.warm_c).sum())

    def won_if(probe_k: float, twin_k: float) -> int:
        """Days won were the probe off by so much, which moves both series, and the twin without the loop besides."""
        return warm_days(logged, probe_k) - warm_days(without, probe_k + twin_k)

    warm, bare, won = warm_days(logged, 0.0), warm_days(without, 0.0), won_if(0.0, 0.0)
    by_probe = max(abs(won_if(side * channel.doubt, 0.0) - won) for side in (-1.0, 1.0))
    by_twin = max(abs(won_if(0.0, side * hypot(TWIN_K, half_off)) - won) for side in (-1.0, 1.0))
    doubt = hypot(by_probe, by_twin)
    words = (
        f"On {warm} of {counted(len(evenings), 'evening')} it was {celsius(pool.warm_c)} or more; on the same weather without the loop it would have been on {bare}: "
        f"{counted(won, 'day')} won (± {doubt:.0f})."
    )
    return Figure(
        name="days-won", needs_words=True, title="Days that the loop won", value=float(won), doubt=doubt, quantity="count", twin=float(_twin(found, evenings, pool) - bare), digits=0, grade="",
        words=words, passed=won > doubt,
    )  # fmt: skip


def _evenings(found: Found, channel: ChannelFacts, pool: Pool) -> Array:
    """Wanted hours of the days that have a reading near them."""
    zone, at = found.at.site.zone, channel.seconds
    first, last = local_day(zone, at[0]), local_day(zone, at[-1])
    every = [instant_s(zone, first + timedelta(days=k), pool.want_at) for k in range((last - first).days + 1)]
    return np.array([when for when in every if at[0] <= when <= at[-1] + NEAR_S and np.abs(at - when).min() <= NEAR_S])


def _without(found: Found, channel: ChannelFacts, pool: Pool, evenings: Array) -> Array:
    """The twin on the trial's own weather with the loop standing still, from the first reading on, °C."""
    still = pool.standing().model_copy(update={"start_c": channel.values[0]})
    ready = prepare(found.at.case.with_(load=still), found.at.ready.weather)
    return ready.run(put_s=float(channel.seconds[0])).at(TOP, evenings)


def _twin(found: Found, evenings: Array, pool: Pool) -> int:
    return int((found.at.likely.at(TOP, evenings) >= pool.warm_c).sum())


FIGURES: dict[str, Callable[[Found], Figure | None]] = {
    "tap-power": tap_power,
    "pump-hours": pump_hours,
    "days-won": days_won,
    "tub-gain": tub_gain,
}
