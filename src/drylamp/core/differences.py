"""What is different between two records that a form can be made of, in the form's own words."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, cast

from drylamp.core import tables
from drylamp.core.checks import Model
from drylamp.core.forms import FieldForm, form_of
from drylamp.core.text import amount, capital

MOST_TOLD = 12
"""So many changes are told one by one; the rest are counted."""
NOTHING = "nothing"


def differences(
    before: Model | None, after: Model | None, what: str, parts: Mapping[str, str] | None = None
) -> list[str]:
    """Each field that differs, as *Cover, layers: 1 → 2*.

    Parameters
    ----------
    before, after
        records of one kind, or of two; either may be missing
    what
        what they are, in a word, where there is only one of them or their kinds differ
    parts
        titles of the parts that fields belong to
    """
    if before is None or after is None:
        return [] if before is after else [f"{what} {'put in' if before is None else 'taken out'}"]
    if type(before) is not type(after):
        return [f"another {what}"]
    told = list(_walk(form_of(type(after)), before.model_dump(), after.model_dump(), "", parts or {}))
    return told if len(told) <= MOST_TOLD else [*told[:MOST_TOLD], f"and {len(told) - MOST_TOLD} more"]


def _walk(
    fields: Sequence[FieldForm],
    before: Mapping[str, Any],
    after: Mapping[str, Any],
    over: str,
    parts: Mapping[str, str] | None = None,
) -> Iterator[str]:
    for field in fields:
        was, now = before.get(field.name), after.get(field.name)
        if was != now:
            yield from _told(field, was, now, _title(field, over, parts))


def _told(field: FieldForm, was: Any, now: Any, title: str) -> Iterator[str]:
    if field.sort == "one" and isinstance(was, dict) and isinstance(now, dict):
        yield from _walk(field.fields, was, now, title)
    elif field.sort == "many" and len(was or ()) == len(now or ()):
        for number, (one, other) in enumerate(zip(was, now, strict=True), start=1):
            if field.fields and isinstance(one, dict):
                yield from _walk(field.fields, one, other, f"{title} {number}")
            elif one != other:
                yield f"{title} {number}: {_said(field, one)} → {_said(field, other)}"
    elif field.sort == "many":
        yield f"{title}: {len(was or ())} → {len(now or ())}"
    elif field.sort == "one":
        yield f"{title}: {'put on' if was is None else 'taken off'}"
    else:
        yield f"{title}: {_said(field, was)} → {_said(field, now)}"


def described(record: Model | None, parts: Mapping[str, str] | None = None) -> dict[str, str]:
    """Everything that is said of a record, field by field: *Cover, layers* to *2*; empty where there is none."""
    return {} if record is None else dict(_leaves(form_of(type(record)), record.model_dump(), "", parts or {}))


def _leaves(
    fields: Sequence[FieldForm], values: Mapping[str, Any], over: str, parts: Mapping[str, str] | None = None
) -> Iterator[tuple[str, str]]:
    for field in fields:
        value = values.get(field.name)
        title = _title(field, over, parts)
        if field.sort == "one" and isinstance(value, dict):
            yield from _leaves(field.fields, value, title)
        elif field.sort == "many" and field.fields:
            yield title, str(len(value or ()))
            for number, item in enumerate(value or (), start=1):
                yield from _leaves(field.fields, item, f"{title} {number}")
        else:
            yield title, _said(field, value)


def _title(field: FieldForm, over: str, parts: Mapping[str, str] | None) -> str:
    """A field by what it stands over it in, or by its part, unless that says the same."""
    part = over or capital((parts or {}).get(field.part, ""))
    alone = not part or part.lower() == field.title.lower()
    return field.title if alone else f"{part}, {field.title.lower()}"


def _said(field: FieldForm, value: Any) -> str:
    if value is None:
        return NOTHING
    if field.sort == "number" and isinstance(value, int | float):
        return amount(float(value), field.quantity)
    if field.sort == "yes":
        return "yes" if value else "no"
    if isinstance(value, dict):  # a row of the shelf that came along whole
        return str(value.get("title", value.get("name", "own")))
    if field.sort == "material" and field.family is not None:
        row = tables.FAMILIES[field.family].table().get(str(value))
        return str(cast(Any, row).title) if row is not None else str(value)
    return next((option.title for option in field.options if option.value == str(value)), str(value))
