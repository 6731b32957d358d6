"""Cautions for one build, from its own numbers, each ending in what to do. None of them declares anything safe.

What concerns every build stands here; the rest lives with the kind, the part or the load that it is about.
"""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.entries import Burns, Caution, Seen, flag
from drylamp.core.advice.registry import advice_of, said_of
from drylamp.core.builds.build import Build
from drylamp.core.heat.parts import Role
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import celsius

BURN_C = 55.0
UNTOUCHED: frozenset[Role] = frozenset(("inner", "air", "core"))
"""Parts that nobody's skin meets, by what they are there for."""
FIRST = {"stop": 0, "warn": 1, "note": 2}


def _hot_parts(seen: Seen, burns: Burns) -> list[Flag]:
    hot: dict[str, float] = {}
    for run in (seen.empty, seen.run):
        for node, series in run.temperature_c.items():
            if run.roles[node] not in UNTOUCHED and np.nanmax(series) > BURN_C:
                hot[run.titles[node]] = max(hot.get(run.titles[node], 0.0), float(np.nanmax(series)))
    if not hot:
        return []
    (first, at), *rest = hot.items()
    parts = ", ".join([f"{first} gets to {celsius(at)}", *(f"{title} to {celsius(value)}" for title, value in rest)])
    return flag("warn", burns.part, f"Burns: on this day {parts}. {burns.advice}")


def _glass(seen: Seen, build: Build, load: Load | None) -> list[Flag]:
    panes = [skin.row.name for skin in build.skins]
    if load is not None and load.envelope is not None:
        panes.append(load.envelope.row.name)
    if not any("glass" in name for name in panes):
        return []
    return flag(
        "note", "cover",
        "Glass: no cold water on hot panes; tape or frame sharp edges; tempered glass where it can fall.",
    )  # fmt: skip


OF_EVERY_BUILD: tuple[Caution[Build, Load | None], ...] = (
    Caution("hot-parts", lambda seen, build, load: _hot_parts(seen, advice_of(build).burns)),
    Caution("glass", _glass),
)


def named(seen: Seen) -> list[tuple[str, Flag]]:
    """All cautions that apply to this build on this run, each with its entry's name."""
    build, load = seen.case.build, seen.case.load
    entries = (*OF_EVERY_BUILD, *said_of(build, load).cautions)
    return [(entry.name, made) for entry in entries for made in entry.test(seen, build, load)]


def cautions(seen: Seen) -> list[Flag]:
    """The same in order: what stops before what warns, what warns before what is noted."""
    return sorted((made for _, made in named(seen)), key=lambda one: FIRST[one.level])
