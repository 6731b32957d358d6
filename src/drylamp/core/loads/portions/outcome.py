"""What became of portions: how far each got, and when; the steps of their hour."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, cast

import numpy as np
from pydantic import Field

from drylamp.core.checks import Model
from drylamp.core.loads.portions.spec import Portions, State, melted_through_c, state_of
from drylamp.core.outcome.of_load import JUDGED_HOURS, KELVIN, LoadOutcome, PlanStep, mean_rise, moment
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.site import Site
from drylamp.core.tables import Sweet
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome


class PortionResult(Model):
    """How far a portion got, and when."""

    node: str
    title: str
    state: State
    hottest_c: float
    soft_at: datetime | None
    melted_at: datetime | None


class PortionsResults(Model):
    """What became of portions."""

    portions: list[PortionResult] = Field(default_factory=list)


def results(site: Site, load: Portions, run: Run) -> Model:
    """Each portion's end."""
    return PortionsResults(
        portions=[
            _layer(site, node, title, row, run) for portion in load.portions for node, title, row, _ in portion.stack
        ]
    )


def _layer(site: Site, node: str, title: str, row: Sweet, run: Run) -> PortionResult:
    series = run.temperature_c[node]
    with np.errstate(invalid="ignore"):
        soft, melted = series >= row.soft_c, series >= melted_through_c(row)

    def first(got: np.ndarray) -> datetime | None:
        return local_time(site.zone, run.edge_s[int(np.argmax(got))]) if got.any() else None

    return PortionResult(
        node=node, title=title, state=state_of(row, series), hottest_c=round(float(np.nanmax(series)), 1),
        soft_at=first(soft), melted_at=first(melted),
    )  # fmt: skip


def score(load: Portions, run: Run, begun_s: float) -> float | None:
    """Mean of all portions over the hours after the first went in, °C."""
    return mean_rise([portion.node for portion in load.portions], run, begun_s)


def steps(load: Portions, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Each in at its minute, and when it gives way."""
    out = [
        PlanStep(time=moment(outcome, p.goes_in), text=f"{p.title} in, {_place(p.across, p.up)}") for p in load.portions
    ]
    for result in cast(PortionsResults, outcome.results).portions:
        when = result.melted_at or result.soft_at
        if when is not None:
            got = "melted" if result.melted_at is not None else "soft"
            out.append(PlanStep(time=when, text=f"{result.title} {got}"))
    return out


SIDE_WORDS = {"left": "left", "right": "right", "middle": "in the middle"}


def _place(across: float, up: float) -> str:
    side = SIDE_WORDS["left" if across < 0.4 else "right" if across > 0.6 else "middle"]
    return f"{side}, {'at the back' if up > 0.6 else 'in front' if up < 0.4 else 'half-way back'}"


OUTCOME: LoadOutcome[Portions] = LoadOutcome(
    measure=KELVIN,
    steps=steps,
    results_model=PortionsResults,
    results=results,
    score=score,
    counts=f"mean of all portions over the {JUDGED_HOURS:.0f} hours after the first went in",
)
