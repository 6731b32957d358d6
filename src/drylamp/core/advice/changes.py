"""Sensible single changes to a build and what is in it, as its kind, its parts and its load offer them."""

from __future__ import annotations

from itertools import chain

from pydantic import ValidationError

from drylamp.core.advice.entries import Change
from drylamp.core.advice.own_finishes import own_finish_changes
from drylamp.core.advice.registry import said_of
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BUILD, kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LOAD
from drylamp.core.tables import Absorber


def changes_of(build: Build, load: Load | None, finishes: tuple[Absorber, ...] = ()) -> list[Change]:
    """Every change that makes sense for this build and load, the user's own finishes among them, those that do not fit left out."""
    offered = (change for rule in said_of(build, load).changes for change in rule.changes(build, load))
    own = own_finish_changes(build, load, finishes)
    return [made for change in chain(offered, own) if (made := _checked(change)) is not None]


def _checked(change: Change) -> Change | None:
    try:
        made = BUILD.validate_python(change.build.model_dump())
        goods = None if change.load is None else LOAD.validate_python(change.load.model_dump())
        kind_of(made).check_fit(made, goods)
    except (ValidationError, InputProblem):
        return None
    return Change(change.title, change.part, made, goods, round(change.price, 2), change.spread)
