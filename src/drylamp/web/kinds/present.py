"""Rows of the registries turned into what goes over the wire."""

from __future__ import annotations

from collections.abc import Mapping

from drylamp.core.advice.registry import LOAD_ADVICE
from drylamp.core.builds.build import Build
from drylamp.core.builds.kind import Kind, Optics, nothing_folded
from drylamp.core.builds.registry import KINDS
from drylamp.core.common.look import Account
from drylamp.core.forms import form_of
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LOADS
from drylamp.web.kinds.models import AccountView, ActionView, Form, Forms, Kinds, KindView, LoadView, PartView


def all_kinds() -> Kinds:
    """Every kind of build and of load."""
    return Kinds(builds=[_kind(kind) for kind in KINDS.values()], loads=[_load(load) for load in LOADS.values()])


def all_forms() -> Forms:
    """What may be typed into each of them."""
    return Forms(
        builds=[Form(name=kind.name, fields=form_of(kind.spec)) for kind in KINDS.values()],
        loads=[Form(name=load.kind_name(), fields=form_of(load)) for load in LOADS.values()],
    )


def _kind(kind: Kind[Build, Optics]) -> KindView:
    asked = {field.part for field in form_of(kind.spec)} | ({"load"} if kind.offers else set())
    return KindView(
        name=kind.name,
        title=kind.title,
        wish=kind.wish,
        holds=list(kind.holds),
        accent=kind.accent,
        parts=[
            PartView(part=part, title=title, note=kind.notes.get(part, ""))
            for part, title in kind.parts.items()
            if part in asked
        ],
        loads=[load.kind_name() for load in LOADS.values() if load.sits in kind.offers],
        accounts=_accounts(kind.accounts),
        actions=[
            ActionView(name=name, part=action.part, title=action.title, why=action.why, note=action.note)
            for name, action in kind.actions.items()
        ],
        drawn=kind.drawn,
        opening=kind.opening,
        empty=kind.empty,
        has_patch=kind.patch is not None,
        has_pattern=kind.pattern is not nothing_folded,
        names_stagnation=kind.names_stagnation,
        side_by_side=kind.side_by_side,
    )


def _load(load: type[Load]) -> LoadView:
    return LoadView(
        name=load.kind_name(),
        door=load.door,
        planned=load.planned,
        wanted_by=load.wanted_by,
        is_stock=load.is_stock,
        begun=load.begun(),
        accounts=_accounts(load.begun().accounts),
        also_lit=load.also_lit,
        longer=list(LOAD_ADVICE[load.kind_name()].longer),
    )


def _accounts(lines: Mapping[str, Account]) -> list[AccountView]:
    return [
        AccountView(name=name, title=line.title, short=line.short, back=line.back, ink=line.ink)
        for name, line in lines.items()
    ]
