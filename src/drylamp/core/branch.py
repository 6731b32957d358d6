"""A variant taken over: what it changed since it branched off is laid onto the build as it is by now."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, cast

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BUILD, kind_of
from drylamp.core.checks import InputProblem, Model
from drylamp.core.forms import form_of
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LOAD


@dataclass(frozen=True)
class Branch:
    """A build and what is in it, at one of the three: where they branched off, as it is, and the variant."""

    build: Build
    load: Load | None


@dataclass(frozen=True)
class TakenOver:
    """What came of it, and which fields both sides had changed to something else since."""

    build: Build
    load: Load | None
    both: list[str]


def taken_over(base: Branch, mine: Branch, variant: Branch) -> TakenOver:
    """Lay a variant's changes onto a build, field by field; where both changed one, the variant's counts and the field is named.

    Raises
    ------
    InputProblem
        the two together cannot be built.
    """
    both: list[str] = []
    build = cast(Build, _merged(base.build, mine.build, variant.build, "the build", both))
    load = cast(Load | None, _merged(base.load, mine.load, variant.load, "what is in it", both))
    try:
        made = BUILD.validate_python(build.model_dump())
        goods = None if load is None else LOAD.validate_python(load.model_dump())
        kind_of(made).check_fit(made, goods)
    except ValueError as problem:
        raise InputProblem(
            "variant", f"what it changed does not fit to what was changed here since ({_first_words(problem)}); make the two alike there first"
        ) from problem  # fmt: skip
    return TakenOver(made, goods, both)


def _first_words(problem: ValueError) -> str:
    return problem.message if isinstance(problem, InputProblem) else str(problem).splitlines()[0]


def _merged(base: Model | None, mine: Model | None, variant: Model | None, what: str, both: list[str]) -> Model | None:
    """Three records as one; of another sort, or put in or taken out, they are taken whole."""
    if variant in (base, mine):
        return mine
    if base is None or mine is None or variant is None or not type(base) is type(mine) is type(variant):
        if mine != base:
            both.append(what)
        return variant
    change: dict[str, Any] = {}
    for name in type(base).model_fields:
        was, here, there = (getattr(one, name) for one in (base, mine, variant))
        if there in (was, here):
            continue
        change[name] = there
        if here != was:
            both.append(_title(type(base), name))
    return mine.model_copy(update=change)


def _title(model: type[Model], name: str) -> str:
    return next((field.title.lower() for field in form_of(model) if field.name == name), name)
