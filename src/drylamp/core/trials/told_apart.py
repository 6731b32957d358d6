"""Two trials between which several things changed: the part of each, and what was read beyond what the twin makes of them."""

from __future__ import annotations

from math import hypot

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.explained import Explained, Rest, State, explained
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.engine import weather_for
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span
from drylamp.core.trials.beside import beside, case_of, channel_verdict
from drylamp.core.trials.facts import TrialFacts

STEP_S, FIRST_HOUR_S = 300, 3600.0


def trials_apart(site: Site, tested: tuple[Build, TrialFacts], before: tuple[Build, TrialFacts]) -> Explained:
    """Share out what lies between an earlier trial and this one: changes to the build and what is in it, and each day's own sun, air, wind and dampness.

    Raises
    ------
    InputProblem
        the two are of different kinds, or nothing differs.
    """
    context, other = (_day_of(site, *trial) for trial in (tested, before))
    return explained(context, State.of(other), _rest(site, tested, before))


def _day_of(site: Site, build: Build, facts: TrialFacts) -> AdviceContext:
    """A trial's own days, as many as its load is looked at over."""
    case = case_of(site, build, facts, min(facts.last_s(), facts.started.timestamp() + FIRST_HOUR_S))
    days = 1 if facts.load is None else facts.load.looked_days
    case = case.with_(span=Span(start=case.span.start, days=days, step_s=STEP_S))
    return AdviceContext(case, weather_for(case))


def _rest(site: Site, tested: tuple[Build, TrialFacts], before: tuple[Build, TrialFacts]) -> Rest | None:
    """How much farther above its own twin this trial lay than the other; none where the two read no part in common."""
    node = next((n for n in _read_of(*tested) if n in _read_of(*before)), None)
    if node is None:
        return None
    lies = [_bias(site, build, facts, node) for build, facts in (tested, before)]
    if lies[0] is None or lies[1] is None:
        return None
    return Rest(lies[0][0] - lies[1][0], hypot(lies[0][1], lies[1][1]))


def _read_of(build: Build, facts: TrialFacts) -> list[str]:
    """Nodes that were read as temperatures, what is judged first."""
    judged = kind_of(build).judged(build, facts.load)
    read = [c.node for c in facts.channels if not c.is_control and c.quantity == "temperature" and c.values]
    return sorted(read, key=lambda node: node != judged)


def _bias(site: Site, build: Build, facts: TrialFacts, node: str) -> tuple[float, float] | None:
    """How far a part lay above its twin on the trial's own day, and the doubt of that, K."""
    at = beside(site, build, facts)
    channel = at.facts.of_node(node)
    if channel is None or node not in at.likely.temperature_c:
        return None
    found = channel_verdict(channel, at)
    return None if found.bias_k is None or found.bias_doubt_k is None else (found.bias_k, found.bias_doubt_k)
