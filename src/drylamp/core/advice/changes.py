"""Sensible single changes to a build and what is in it, as its kind, its parts and its load offer them."""

from __future__ import annotations

from dataclasses import replace
from itertools import chain

from pydantic import ValidationError

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Change
from drylamp.core.advice.own_finishes import own_finish_changes
from drylamp.core.advice.registry import said_of
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BUILD, kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LOAD
from drylamp.core.tables import Absorber


def changes_of(
    build: Build, load: Load | None, finishes: tuple[Absorber, ...] = (), context: AdviceContext | None = None
) -> list[Change]:
    """Every change that makes sense for this build and load, the user's own finishes among them, those that do not fit left out; with a day, its best settings too."""
    said = said_of(build, load)
    offered = (replace(change, hours=rule.hours) for rule in said.changes for change in rule.changes(build, load))
    own = own_finish_changes(build, load, finishes)
    tuned = (
        replace(change, hours=tuned.hours)
        for tuned in (said.tuned if context is not None else ())
        for change in tuned.changes(context, build, load)  # type: ignore[arg-type]
    )
    return [made for change in chain(tuned, offered, own) if (made := _checked(change)) is not None]


def _checked(change: Change) -> Change | None:
    try:
        made = BUILD.validate_python(change.build.model_dump())
        goods = None if change.load is None else LOAD.validate_python(change.load.model_dump())
        kind_of(made).check_fit(made, goods)
    except (ValidationError, InputProblem):
        return None
    return replace(change, build=made, load=goods, price=round(change.price, 2))
