"""Sensible single changes to a build and what is in it, as its kind, its parts and its load offer them."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import ValidationError

from drylamp.core.advice.entries import Change
from drylamp.core.advice.registry import advice_of, advice_of_load
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BUILD, kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LOAD


def changes_of(build: Build, load: Load | None) -> list[Change]:
    """Every change that makes sense for this build and load, those that do not fit left out."""
    return [made for change in _offered(build, load) if (made := _checked(change)) is not None]


def _offered(build: Build, load: Load | None) -> Iterator[Change]:
    for rule in advice_of(build).changes:
        yield from rule.changes(build, load)
    if load is not None:
        for more in advice_of_load(load).changes:
            yield from more.changes(build, load)


def _checked(change: Change) -> Change | None:
    try:
        made = BUILD.validate_python(change.build.model_dump())
        goods = None if change.load is None else LOAD.validate_python(change.load.model_dump())
        kind_of(made).check_fit(made, goods)
    except (ValidationError, InputProblem):
        return None
    return Change(change.title, change.part, made, goods, round(change.price, 2))
