"""The flow question: what comes out how warm, and how much heat with it, at every flow."""

from __future__ import annotations

import numpy as np
from pydantic import Field

from drylamp.core.advice.context import AdviceContext
from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.checks import InputProblem, Model
from drylamp.core.loads.load import Load
from drylamp.core.text import Sentence, amount, celsius, litres_a_minute, watts
from drylamp.core.threads import two_at_a_time

FLOWS_L_MIN = (0.1, 0.2, 0.3, 0.5, 0.8, 1.2, 2.0, 3.0, 5.0, 9.0)
MUCH_SHARE = 0.9
"""From this share of the most heat on, more flow is hardly worth more."""


class FlowPoint(Model):
    """One flow at the chosen hour, once it has run all day."""

    l_min: float
    out_c: float
    gain_w: float = Field(title="Heat", description="Above the water that came in")
    of_sun_share: float = Field(description="Of the sun that meets the coil")


class FlowCurve(Model):
    """Outlet and heat by flow; ``now`` is the flow that it runs at."""

    points: list[FlowPoint]
    now: FlowPoint | None
    enough_l_min: float
    words: Sentence


def flow_curve(context: AdviceContext, at_s: float) -> FlowCurve:
    """Run the day at each flow and read outlet and heat at an instant.

    Raises
    ------
    InputProblem
        nothing runs through this build.
    """
    load = context.load
    if load is None or load.at_flow(1.0) is None:
        raise InputProblem("load", "nothing runs through this; let water into it first")
    mine = load.flow_l_min
    tried = [*FLOWS_L_MIN, *([] if mine is None else [mine])]
    found = two_at_a_time(lambda l_min: _point(context, load, l_min, at_s), tried)
    points, now = found[: len(FLOWS_L_MIN)], None if mine is None else found[-1]
    most = max(point.gain_w for point in points)
    enough = next(point.l_min for point in points if point.gain_w >= MUCH_SHARE * most) if most > 0 else FLOWS_L_MIN[-1]
    return FlowCurve(points=points, now=now, enough_l_min=enough, words=_words(points, now, enough, most))


def _point(context: AdviceContext, load: Load, l_min: float, at_s: float) -> FlowPoint:
    running = load.at_flow(l_min)
    assert running is not None
    run = context.run(context.build, running)
    step = int(np.clip((at_s - run.weather.start_s) / run.weather.dt_s, 0, run.weather.steps - 1))
    out = run.drawn[load.judged]
    gain = float(out.over(run.cold_c)[step]) * CP_WATER_J_KGK / run.weather.dt_s
    met = float(run.opening_w[step])
    return FlowPoint(
        l_min=l_min, out_c=round(float(out.celsius[step]), 2), gain_w=round(gain, 1), of_sun_share=round(gain / met, 4) if met > 1 else 0.0
    )  # fmt: skip


def _words(points: list[FlowPoint], now: FlowPoint | None, enough: float, most: float) -> str:
    if most <= 0:
        return "At this hour it takes heat out of the water at every flow: let nothing run."
    slow, fast = points[0], next(point for point in points if point.l_min == enough)
    said = (
        f"A trickle of {litres_a_minute(slow.l_min)} comes out at {celsius(slow.out_c)} and carries off {watts(slow.gain_w)}; {litres_a_minute(fast.l_min)} come out at "
        f"{celsius(fast.out_c)} and carry off {watts(fast.gain_w)}. Hotter to the hand is less heat: what is hot loses more to the air."
    )
    if now is None:
        return said
    share = now.gain_w / most
    here = f" It runs at {litres_a_minute(now.l_min)}: {celsius(now.out_c)}, {watts(now.gain_w)}, {amount(share, 'share')} of the most there is to have."
    return said + here
