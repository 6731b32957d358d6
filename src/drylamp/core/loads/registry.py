"""Loads collected from their folders: the union that files and requests are read by, and its error text."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from pydantic import TypeAdapter

from drylamp.core import loads
from drylamp.core.checks import union_by_kind
from drylamp.core.collect import modules
from drylamp.core.loads.load import Load


def _collected() -> dict[str, type[Load]]:
    """Each folder's ``spec.LOAD``, by the name of its kind."""
    found = [cast(type[Load], spec.LOAD) for (spec,) in modules(loads, "spec")]
    return {made.kind_name(): made for made in found}


LOADS = _collected()
_UNNAMED = next(name for name, made in LOADS.items() if made.unnamed_in_old_files)


if TYPE_CHECKING:
    LoadSpec = Load
else:
    LoadSpec = union_by_kind(LOADS, "load", _UNNAMED)
LOAD: TypeAdapter[Load] = TypeAdapter(LoadSpec)


def read_load(text: str | None) -> Load | None:
    """A load from its JSON text; none from none."""
    return LOAD.validate_json(text) if text else None
