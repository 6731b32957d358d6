"""Every protocol by its name, collected from the kinds' folders."""

from __future__ import annotations

from collections.abc import Iterator
from graphlib import TopologicalSorter
from itertools import pairwise
from typing import Any

from drylamp.core import builds, loads
from drylamp.core.builds import registry
from drylamp.core.builds.kind import Kind
from drylamp.core.builds.protocol import ProtocolRow
from drylamp.core.checks import InputProblem
from drylamp.core.collect import modules


class Protocol(ProtocolRow):
    """How to run one sort of trial, with the kinds of build that it is for."""

    kinds: list[str]


def _collected() -> dict[str, Protocol]:
    """Each protocol once, with the kinds that name it or take the load that does; each kind's own order is kept."""
    rows = {kind: _of_kind(registry.KINDS[kind], own) for kind, own in _own()}
    kinds: dict[str, list[str]] = {}
    for kind, its in rows.items():
        for row in its:
            kinds.setdefault(row.name, []).append(kind)
    order: TopologicalSorter[str] = TopologicalSorter()
    for its in rows.values():  # what is for every kind comes last
        names = sorted((row.name for row in its), key=lambda name: len(kinds[name]) == len(registry.KINDS))
        order.add(names[0])
        for before, after in pairwise(names):
            order.add(after, before)
    found = {row.name: row for its in rows.values() for row in its}
    return {name: Protocol(**dict(found[name]), kinds=kinds[name]) for name in order.static_order()}


def _own() -> Iterator[tuple[str, tuple[ProtocolRow, ...]]]:
    for module, protocols in modules(builds, "kind", "protocols"):
        yield module.KIND.name, protocols.PROTOCOLS


def _of_kind(kind: Kind[Any, Any], own: tuple[ProtocolRow, ...]) -> list[ProtocolRow]:
    rows = sorted(modules(loads, "spec", "protocols"), key=lambda pair: not pair[0].LOAD.unnamed_in_old_files)
    taken = [row for spec, protocols in rows if spec.LOAD.sits in kind.offers for row in protocols.PROTOCOLS]
    fitting = [*own, *(row for row in taken if row.for_concentrators or not kind.concentrates)]
    return list({row.name: row for row in fitting}.values())


PROTOCOLS = _collected()


def find_protocol(name: str, kind: str | None = None) -> Protocol:
    """Return the protocol of that name.

    Raises
    ------
    InputProblem
        there is none, or it is not for this kind of build.
    """
    fitting = [row.name for row in PROTOCOLS.values() if kind is None or kind in row.kinds]
    if name not in PROTOCOLS:
        raise InputProblem("protocol", f"'{name}' is not known; known: {', '.join(fitting)}")
    if name not in fitting:
        raise InputProblem("protocol", f"'{name}' is not for this kind of build; allowed: {', '.join(fitting)}")
    return PROTOCOLS[name]
