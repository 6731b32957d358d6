"""Which network is marched from which step to which: loads go in and out as their calendar says, over midnight where it does."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta

import numpy as np

from drylamp.core.loads.calendar import Calendar, Visit
from drylamp.core.loads.load import Load
from drylamp.core.sky.clock import instant_s, local_day
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.twin.light import LitNetwork


@dataclass(frozen=True)
class Filled:
    """A build with what is in it from an hour of the day on; of a batch, so many days after the first."""

    goes_in: str
    load: Load
    lit: LitNetwork
    day: int = 0


@dataclass(frozen=True)
class Phase:
    """Steps [first, last) with one network.

    Attributes:
        fresh_c: nodes that begin at a temperature of their own
        fresh_kg: nodes whose melting mass begins anew; the others go on with what they had
        load: what is in the build, if anything
        until_done: whether the phase falls away once the load is done; ``empty`` is marched in its place
        visit: what is done to the load at the beginning
    """

    first: int
    last: int
    lit: LitNetwork
    fresh_c: dict[str, float] = field(default_factory=dict)
    fresh_kg: frozenset[str] = frozenset()
    load: Load | None = None
    empty: LitNetwork | None = None
    until_done: bool = False
    visit: Visit | None = None


@dataclass(frozen=True)
class _Filling:
    """What goes into an empty build: its stages, and where other temperatures are known at the start than those of fresh goods."""

    empty: LitNetwork
    stages: Sequence[Filled]
    first_c: dict[str, float]

    def over(self, first: int, puts: Sequence[int], end: int) -> list[Phase]:
        """Phases from ``first`` to ``end``; what was in before keeps its temperature when more goes in."""
        phases = [Phase(first, puts[0], self.empty)] if puts[0] > first else []
        before: set[str] = set()
        for stage, put, until in zip(self.stages, puts, [*puts[1:], end], strict=True):
            new = {n: self.first_c.get(n, c) for n, c in stage.load.fresh_c.items() if n not in before}
            before |= set(stage.load.fresh_c)
            if until > max(put, first):
                phases.append(Phase(max(put, first), until, stage.lit, new, frozenset(new), stage.load, self.empty))
        return phases


def phases_of(
    site: Site, weather: Weather, empty: LitNetwork, stages: Sequence[Filled], first_c: dict[str, float],
    put_s: float | None = None,
) -> list[Phase]:  # fmt: skip
    """Phases of a run, in order.

    Parameters
    ----------
    first_c
        temperatures that are known at the start, by node
    put_s
        when the load goes in once for all, as in a trial; by its calendar where not given
    """
    if not stages:
        return [Phase(0, weather.steps, empty)]
    filling = _Filling(empty, stages, first_c)
    if put_s is not None:
        return _put_once(site, weather, filling, put_s)
    calendar = stages[0].load.calendar
    made = {"daily": _daily, "batch": _batch, "standing": _standing, "charge": _charge}[calendar.kind](
        site, weather, filling, calendar
    )
    return _visited(site, weather, made, calendar)


def step_at(weather: Weather, instant: float) -> int:
    """Step that begins nearest to an instant."""
    return int(np.clip(round((instant - weather.start_s) / weather.dt_s), 0, weather.steps))


def _step(site: Site, weather: Weather, day: date, hour: str) -> int:
    return step_at(weather, instant_s(site.zone, day, hour))


def _days(site: Site, weather: Weather) -> list[date]:
    first = local_day(site.zone, weather.start_s)
    last = local_day(site.zone, weather.start_s + weather.steps * weather.dt_s - 1.0)
    return [first + timedelta(days=k) for k in range((last - first).days + 1)]


def _put_once(site: Site, weather: Weather, filling: _Filling, put_s: float) -> list[Phase]:
    """The first part goes in at an instant, the others as long after it as their hours say, and all stay."""
    minute = [1440.0 * s.day + 60.0 * int(s.goes_in[:2]) + int(s.goes_in[3:]) for s in filling.stages]
    puts = [step_at(weather, put_s + 60.0 * (m - minute[0])) for m in minute]
    phases = filling.over(0, puts, weather.steps)
    return _over_nights(site, weather, phases, filling.stages[0].load.calendar)


def _over_nights(site: Site, weather: Weather, phases: list[Phase], calendar: Calendar) -> list[Phase]:
    """With the nights cut out for which a load is taken in."""
    for day in _days(site, weather) if calendar.sleeps_indoors else []:
        away = _step(site, weather, day, str(calendar.taken_in))
        back = _step(site, weather, day + timedelta(days=1), str(calendar.put_back))
        phases = [part for phase in phases for part in _night(phase, away, back, calendar)]
    return phases


def _daily(site: Site, weather: Weather, filling: _Filling, calendar: Calendar) -> list[Phase]:
    """Each day anew: empty until the first goes in, then stage by stage to midnight."""
    phases: list[Phase] = []
    done = 0
    for day in _days(site, weather):
        puts = [_step(site, weather, day, stage.goes_in) for stage in filling.stages]
        end = _step(site, weather, day + timedelta(days=1), "00:00")
        phases += _Filling(filling.empty, filling.stages, {}).over(done, puts, end)
        done = max(end, done + 1)
    return phases


def _standing(site: Site, weather: Weather, filling: _Filling, calendar: Calendar) -> list[Phase]:
    """There from the start to the end, or from the hour of the first day on at which it is filled."""
    whole = filling.stages[-1]
    put = (
        0
        if calendar.from_hour is None
        else _step(site, weather, local_day(site.zone, weather.start_s), calendar.from_hour)
    )
    if 0 < put < weather.steps:
        return replace(filling, stages=filling.stages[-1:]).over(0, [put], weather.steps)
    fresh = {name: filling.first_c.get(name, celsius) for name, celsius in whole.load.fresh_c.items()}
    return [Phase(0, weather.steps, whole.lit, fresh, frozenset(fresh), whole.load)]


def _batch(site: Site, weather: Weather, filling: _Filling, calendar: Calendar) -> list[Phase]:
    """In on the first day, out on the midnight after all of it is done; indoors for the night where somebody takes it in."""
    days = _days(site, weather)
    puts = [_step(site, weather, days[0] + timedelta(days=stage.day), stage.goes_in) for stage in filling.stages]
    whole = _with_nothing_to_come([stage.load for stage in filling.stages])
    phases = [
        replace(phase, until_done=any(phase.load is load for load in whole))
        for phase in filling.over(0, puts, weather.steps)
    ]
    phases = _over_nights(site, weather, phases, calendar)
    for day in days[1:]:
        phases = [part for phase in phases for part in _cut(phase, _step(site, weather, day, "00:00"), None)]
    return phases


def _charge(site: Site, weather: Weather, filling: _Filling, calendar: Calendar) -> list[Phase]:
    """In and out on days of its own."""
    first = local_day(site.zone, weather.start_s)
    puts = [_step(site, weather, first + timedelta(days=stage.day), stage.goes_in) for stage in filling.stages]
    return filling.over(0, puts, weather.steps)


def _with_nothing_to_come(loads: list[Load]) -> list[Load]:
    """Stages after which nothing goes in that was not in before: only those can be done as a batch."""
    return [load for k, load in enumerate(loads) if all(later.goods <= load.goods for later in loads[k + 1 :])]


def _night(phase: Phase, away: int, back: int, calendar: Calendar) -> list[Phase]:
    """A phase with a night cut out of it: before, the empty build, and after, at the temperature of indoors."""
    if phase.load is None or phase.empty is None or away >= phase.last or back <= phase.first:
        return [phase]
    out = []
    if away > phase.first:
        out.append(replace(phase, last=away))
    taken = Visit(str(calendar.taken_in), "taken-in")
    out.append(Phase(max(away, phase.first), min(back, phase.last), phase.empty, visit=taken))
    if back < phase.last:
        indoors = dict.fromkeys(phase.load.fresh_c, calendar.indoors_c)
        kept = frozenset() if away > phase.first else phase.fresh_kg
        put_back = Visit(str(calendar.put_back), "put-back")
        out.append(replace(phase, first=back, fresh_c=indoors, fresh_kg=kept, visit=put_back))
    return out


def _visited(site: Site, weather: Weather, phases: list[Phase], calendar: Calendar) -> list[Phase]:
    """Phases cut wherever somebody comes to the load."""
    for visit in calendar.visits:
        for day in _days(site, weather):
            step = _step(site, weather, day, visit.hour)
            phases = [part for phase in phases for part in _cut(phase, step, visit)]
    return phases


def _cut(phase: Phase, step: int, visit: Visit | None) -> list[Phase]:
    if phase.load is None or not phase.first < step < phase.last:
        return [phase]
    return [replace(phase, last=step), replace(phase, first=step, fresh_c={}, fresh_kg=frozenset(), visit=visit)]
