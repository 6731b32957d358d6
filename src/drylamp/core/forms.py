"""What may be typed into a model, field by field, as a form can be made of it; and one field changed with all that follows.

A field says the rest of itself where it stands: ``title`` is its label, ``description`` its hint, and ``asked`` adds the part
of the drawing that it belongs to, the words of its choices, and when it is asked at all. Its quantity follows from the unit
in its name (``quantities.py``), its range from its type.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from datetime import date
from typing import Annotated, Any, Literal, TypeVar, cast, get_args, get_origin

from pydantic import Field, JsonValue, TypeAdapter, ValidationError
from pydantic.fields import FieldInfo

from drylamp.core import tables
from drylamp.core.checks import InputProblem, Model, YesNo
from drylamp.core.quantities import Quantity, quantity_of, without_unit
from drylamp.core.tables import FAMILIES, Row
from drylamp.languages import in_words

Sort = Literal["number", "choice", "text", "yes", "hour", "day", "material", "one", "many"]
PHOTOS = "photos"
"""Stands for a table where a photo of a trial is chosen."""
HOUR = "[01]\\d|2[0-3]"
"""What the pattern of an hour of the day holds."""
M = TypeVar("M", bound=Model)
Step = str | int
Path = Sequence[Step]


class Option(Model):
    """One of the values that a field may take, in words."""

    value: str
    title: str


class FieldForm(Model):
    """A field as a form asks for it.

    ``one`` is a record of its own with ``fields``, ``many`` a list of such; ``material`` is a row of a family of the
    shelf; a choice among the rows of a table names that table as its family. Numbers of items are letters where it is a text.
    """

    name: str
    part: str
    title: str
    hint: str
    sort: Sort
    quantity: Quantity
    whole: YesNo = False
    least: float | None = None
    most: float | None = None
    may_be_empty: YesNo = False
    family: str | None = None
    options: list[Option] = Field(default_factory=list)
    only_with: dict[str, list[JsonValue]] = Field(default_factory=dict)
    settles: YesNo = False
    least_items: int = 0
    most_items: int = 0
    fields: list[FieldForm] = Field(default_factory=list)


def asked(
    part: str = "",
    *,
    options: Mapping[str, str] | None = None,
    table: str | None = None,
    only_with: Mapping[str, Sequence[JsonValue]] | None = None,
    in_files_only: bool = False,
) -> dict[str, JsonValue]:
    """What a field's ``json_schema_extra`` says of how it is asked for.

    Parameters
    ----------
    part
        part of the drawing on whose card it stands
    options
        words of its choices, by value
    table
        table whose rows are its choices
    only_with
        values of its neighbours with which it is asked at all
    in_files_only
        whether it is for a case file, and no form asks for it
    """
    found: dict[str, JsonValue] = {"part": part}
    if in_files_only:
        found["in_files_only"] = True
    if options is not None:
        found["options"] = dict(options)
    if table is not None:
        found["table"] = table
    if only_with is not None:
        found["only_with"] = {name: list(values) for name, values in only_with.items()}
    return {"asked": found}


def form_of(model: type[Model]) -> list[FieldForm]:
    """The fields of a model that a person fills in, in their order; what it is (``kind``) is not asked."""
    return [
        _field(model, name, info)
        for name, info in model.model_fields.items()
        if name != "kind" and not is_for_files_only(info)
    ]


def is_for_files_only(info: FieldInfo) -> bool:
    """Whether a field is for a case file, and no form asks for it."""
    return bool(_asks(info).get("in_files_only"))


def _asks(info: FieldInfo) -> Mapping[str, Any]:
    """What a field says of how it is asked for."""
    extra = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
    return cast(Mapping[str, Any], extra.get("asked", {}))


def _field(model: type[Model], name: str, info: FieldInfo) -> FieldForm:
    bare, may_be_empty, notes = _bare(info.annotation, list(info.metadata))
    asks = _asks(info)
    found = _sorted_out(bare, notes, asks)
    shown = "share" if found["sort"] == "number" and _bound(notes, "ge") == 0 and _bound(notes, "le") == 1 else "plain"
    return FieldForm(
        name=name,
        part=asks.get("part", ""),
        title=info.title or in_words(without_unit(name)),
        hint=info.description or "",
        quantity=quantity_of(name) or ("count" if found.get("whole") else shown),
        may_be_empty=may_be_empty,
        only_with=asks.get("only_with", {}),
        settles=name in model.settling,
        least=_bound(notes, "ge", "gt"),
        most=_bound(notes, "le", "lt"),
        least_items=int(_bound(notes, "min_length") or 0),
        most_items=int(_bound(notes, "max_length") or 0),
        **found,
    )


def _bare(annotation: Any, notes: list[Any]) -> tuple[Any, bool, list[Any]]:
    """A type without ``None`` and without what is noted beside it."""
    if get_origin(annotation) is Annotated:
        inner, *more = get_args(annotation)
        return _bare(inner, [*notes, *_spread(more)])
    parts = get_args(annotation)
    if type(None) in parts and get_origin(annotation) is not Literal:
        left = [part for part in parts if part is not type(None)]
        if len(left) == 1:
            inner, _, found = _bare(left[0], notes)
            return inner, True, found
        return left, True, notes
    return annotation, False, notes


def _spread(notes: Sequence[Any]) -> list[Any]:
    return [n for note in notes for n in (note.metadata if isinstance(note, FieldInfo) else [note])]


def _bound(notes: Sequence[Any], *kinds: str) -> float | None:
    for note in reversed(notes):
        for kind in kinds:
            value = getattr(note, kind, None)
            if value is not None:
                return float(value)
    return None


def _sorted_out(bare: Any, notes: Sequence[Any], asks: Mapping[str, Any]) -> dict[str, Any]:
    if "table" in asks:
        return _plain(str, notes, asks)
    family = _family(bare)
    if family is not None:
        return {"sort": "material", "family": family}
    if get_origin(bare) is Literal:
        words = asks.get("options", {})
        values = [str(value) for value in get_args(bare)]
        return {"sort": "choice", "options": [Option(value=v, title=words.get(v) or in_words(v)) for v in values]}
    if get_origin(bare) is list:
        item, _, _ = _bare(get_args(bare)[0], [])
        return {"sort": "many", "fields": form_of(item)}
    if isinstance(bare, type):
        return _plain(bare, notes, asks)
    raise TypeError(f"a form knows no field of type {bare}")


def _plain(bare: type, notes: Sequence[Any], asks: Mapping[str, Any]) -> dict[str, Any]:
    if issubclass(bare, Model):
        return {"sort": "one", "fields": form_of(bare)}
    if bare is bool:
        return {"sort": "yes"}
    if "table" in asks:
        return _of_table(asks["table"])
    if bare in (int, float):
        return {"sort": "number", "whole": bare is int}
    if bare is date:
        return {"sort": "day"}
    pattern = next((str(note.pattern) for note in notes if getattr(note, "pattern", None)), "")
    return {"sort": "hour" if HOUR in pattern else "text"}


def _of_table(table: str) -> dict[str, Any]:
    if table == PHOTOS:
        return {"sort": "number", "whole": True, "family": PHOTOS}
    rows = getattr(tables, table)()
    options = [Option(value=row.name, title=row.title) for row in rows.values()]
    return {"sort": "choice", "family": table, "options": options}


def _family(bare: Any) -> str | None:
    """The family of materials that a choice of stuff is from."""
    for part in bare if isinstance(bare, list) else get_args(bare):
        inner, _, _ = _bare(part, [])
        if isinstance(inner, type) and issubclass(inner, Row):
            return next(name for name, family in FAMILIES.items() if family.model is inner)
    return None


def read_path(text: str) -> list[Step]:
    """The steps of a path such as ``wall.0.material``."""
    return [int(step) if re.fullmatch(r"\d{1,3}", step) else step for step in text.split(".") if step]


def changed(model: M, path: Path, value: JsonValue) -> M:
    """The model with one field set, and with what follows from that (``Model.settled``); checked as a whole.

    Raises
    ------
    InputProblem
        there is no such field.
    ValidationError
        the value, or the whole with it, cannot be.
    """
    return _checked(_with(model, path, lambda owner, field: _set(owner, field, value)))


def added(model: M, path: Path) -> M:
    """The model with one more in the list at a path, or with the record that may stand there."""
    return _checked(_with(model, path, lambda owner, field: _put(owner, field)))


def removed(model: M, path: Path) -> M:
    """The model without what stands at a path: an item of a list, or a record that need not be there."""
    if path and isinstance(path[-1], int):
        at = path[-1]
        return _checked(_with(model, path[:-1], lambda owner, field: _without(owner, field, at)))
    return _checked(_with(model, path, lambda owner, field: owner.model_copy(update={field: None})))


def _checked(model: M) -> M:
    return type(model).model_validate(model.model_dump())


def _with(model: M, path: Path, change: Callable[[Model, str], Model]) -> M:
    step, rest = (path[0], path[1:]) if path else ("", [])
    if not isinstance(step, str) or step not in type(model).model_fields:
        raise InputProblem(".".join(map(str, path)), "there is no such field")
    if not rest:
        return cast(M, change(model, step))
    inner = getattr(model, step)
    if isinstance(rest[0], int):
        if not isinstance(inner, list) or not 0 <= rest[0] < len(inner) or len(rest) == 1:
            raise InputProblem(".".join(map(str, path)), "there is no such entry")
        item = _with(inner[rest[0]], rest[1:], change)
        inner = [item if k == rest[0] else other for k, other in enumerate(inner)]
    elif isinstance(inner, Model):
        inner = _with(inner, rest, change)
    else:
        raise InputProblem(".".join(map(str, path)), "there is nothing there that has fields")
    return model.model_copy(update={step: inner}).settled(".".join(map(str, path)))


def _set(owner: Model, field: str, value: JsonValue) -> Model:
    """The owner with a field set, checked by itself: what else follows from it may still have to be put right."""
    info = type(owner).model_fields[field]
    whole: Any = Annotated[(info.annotation, *info.metadata, None)]
    typed: TypeAdapter[object] = TypeAdapter(whole)
    try:
        type(owner).model_validate({**owner.model_dump(), field: value})
    except ValidationError as error:
        if any(item["loc"][:1] == (field,) for item in error.errors(include_url=False)):
            raise
    return owner.model_copy(update={field: typed.validate_python(value)}).settled(field)


def _put(owner: Model, field: str) -> Model:
    form = _field(type(owner), field, type(owner).model_fields[field])
    if form.sort != "many" and not (form.sort == "one" and form.may_be_empty):
        raise InputProblem(field, "nothing can be added here: it is no list, and no part that may be missing")
    here = getattr(owner, field)
    fresh = owner.fresh(field)
    return owner.model_copy(update={field: [*here, fresh] if isinstance(here, list) else fresh}).settled(field)


def _without(owner: Model, field: str, at: int) -> Model:
    here = getattr(owner, field)
    if not isinstance(here, list) or not 0 <= at < len(here):
        raise InputProblem(f"{field}.{at}", "there is no such entry")
    return owner.model_copy(update={field: here[:at] + here[at + 1 :]})
