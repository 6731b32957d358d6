"""Advice collected from the folders of kinds and loads: apart from the registry of their physics, which lies below the twin."""

from __future__ import annotations

from typing import cast

from drylamp.core import builds, loads
from drylamp.core.advice.entries import BuildAdvice, LoadAdvice
from drylamp.core.builds.build import Build
from drylamp.core.collect import modules
from drylamp.core.loads.load import Load

BUILD_ADVICE = {
    str(kind.KIND.name): cast(BuildAdvice[Build], advice.ADVICE) for kind, advice in modules(builds, "kind", "advice")
}
LOAD_ADVICE = {
    str(spec.LOAD.kind_name()): cast(LoadAdvice[Load | None], advice.ADVICE)
    for spec, advice in modules(loads, "spec", "advice")
}
_NOTHING: LoadAdvice[Load | None] = LoadAdvice()


def advice_of(build: Build) -> BuildAdvice[Build]:
    """What is said of a build's kind."""
    return BUILD_ADVICE[build.kind]


def advice_of_load(load: Load | None) -> LoadAdvice[Load | None]:
    """What is said of a load, to be asked of that load alone; nothing of none."""
    return _NOTHING if load is None else LOAD_ADVICE[load.kind]


def said_of(build: Build, load: Load | None) -> LoadAdvice[Load | None]:
    """All entries on a build and on what is in it, the build's own first."""
    mine, more = advice_of(build), advice_of_load(load)
    return LoadAdvice(
        changes=(*mine.changes, *more.changes),
        tuned=(*mine.tuned, *more.tuned),
        schools=(*mine.schools, *more.schools),
        sayings=(*mine.sayings, *more.sayings),
        cautions=(*mine.cautions, *more.cautions),
    )
