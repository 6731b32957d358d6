"""Kinds collected from their folders: the union that files and requests are read by, its error text, and each build's row."""

from __future__ import annotations

from typing import TYPE_CHECKING, TypeVar, cast

from pydantic import TypeAdapter

from drylamp.core import builds
from drylamp.core.builds.build import Build
from drylamp.core.builds.kind import Kind, Optics
from drylamp.core.checks import union_by_kind
from drylamp.core.collect import modules
from drylamp.core.common.look import Account
from drylamp.core.loads.load import Load

B = TypeVar("B", bound=Build)


def _collected() -> dict[str, Kind[Build, Optics]]:
    """Each folder's ``kind.KIND``, by its name."""
    found = [cast(Kind[Build, Optics], kind.KIND) for (kind,) in modules(builds, "kind")]
    return {made.name: made for made in found}


KINDS = _collected()
_FORMER = {old: name for name, kind in KINDS.items() for old in kind.spec.former_kinds}
_UNNAMED = next(name for name, kind in KINDS.items() if kind.spec.unnamed_in_old_files)


if TYPE_CHECKING:
    BuildSpec = Build
else:
    BuildSpec = union_by_kind({name: kind.spec for name, kind in KINDS.items()}, "kind", _UNNAMED, _FORMER)
BUILD: TypeAdapter[Build] = TypeAdapter(BuildSpec)


def accounts_of(build: Build, load: Load | None) -> dict[str, Account]:
    """Lines of the ledger of a build with a load, by name: the kind's, then the load's own."""
    return {**kind_of(build).accounts, **({} if load is None else load.accounts)}


def kind_of(build: B) -> Kind[B, Optics]:
    """Return the row of a build's kind."""
    return cast(Kind[B, Optics], KINDS[build.kind])
