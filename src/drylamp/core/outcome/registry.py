"""What every load says of a run, collected from the loads' folders; and the wire's record of what became of them."""

from __future__ import annotations

from typing import TYPE_CHECKING, TypeVar, cast

from pydantic import create_model

from drylamp.core import loads
from drylamp.core.checks import Model
from drylamp.core.collect import modules
from drylamp.core.loads.load import Load
from drylamp.core.outcome.of_load import KELVIN, LoadOutcome, Measure
from drylamp.core.sky.site import Site
from drylamp.core.twin.run import Run

L = TypeVar("L", bound=Load)


def _collected() -> dict[str, LoadOutcome[Load]]:
    """Each folder's ``outcome.OUTCOME``, by the kind of its load."""
    found = modules(loads, "spec", "outcome")
    return {spec.LOAD.kind_name(): cast(LoadOutcome[Load], outcome.OUTCOME) for spec, outcome in found}


OUTCOMES = _collected()

if TYPE_CHECKING:
    Results = Model
else:
    _models = tuple(dict.fromkeys(row.results_model for row in OUTCOMES.values() if row.results_model.model_fields))
    Results = create_model(
        "Results", __base__=_models, __doc__="What became of a load; empty lists and none where it does not apply."
    )


def outcome_of(load: L) -> LoadOutcome[L]:
    """What a load says of a run it was in."""
    return cast(LoadOutcome[L], OUTCOMES[load.kind])


def measure_of(load: Load | None) -> Measure:
    """What a score is counted in; kelvin of an empty build."""
    return KELVIN if load is None else outcome_of(load).measure


def results_of(site: Site, load: Load | None, run: Run) -> Results:
    """Read a run for what its load became."""
    if load is None:
        return Results()
    return Results(**dict(outcome_of(load).results(site, load, run)))
