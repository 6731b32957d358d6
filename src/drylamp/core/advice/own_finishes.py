"""Finishes of the user's own shelf, tried wherever a build asks for a finish; their own doubt goes into the gain's."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core import tables
from drylamp.core.advice.entries import Change
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.forms import FieldForm, form_of
from drylamp.core.loads.load import Load
from drylamp.core.tables import Absorber

MOST = 6
"""So many of them are tried, the newest first: each costs two runs more."""


def own_finish_changes(build: Build, load: Load | None, finishes: tuple[Absorber, ...]) -> Iterator[Change]:
    """Each own finish on each surface that takes one and is not made of it."""
    asked = [field for field in form_of(type(build)) if field.sort == "material" and field.family == "absorber"]
    for row in finishes[-MOST:]:
        for field in asked:
            now = getattr(build, field.name)
            if now is None or tables.absorber(now).name == row.name:
                continue
            ends = tuple(
                build.with_(**{field.name: row.at(row.absorptance + sign * row.absorptance_doubt)}) for sign in (-1, 1)
            )
            title = f"{_where(build, field, asked)} in {row.title.lower()}"
            price = row.price_m2 * build.opening_m2
            spread = ends if row.absorptance_doubt > 0.0 else ()
            yield Change(title, field.part, build.with_(**{field.name: row}), load, price, spread)


def _where(build: Build, field: FieldForm, asked: list[FieldForm]) -> str:
    """The part in plain words, and the field's own name where the part has several finishes."""
    part = kind_of(build).parts.get(field.part, field.part)
    alone = sum(other.part == field.part for other in asked) == 1
    return part if alone else f"{part} ({field.title.lower()})"
