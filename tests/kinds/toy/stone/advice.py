"""What is said of stones."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core.builds.stone.spec import Stone

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import (
    BuildAdvice,
    Burns,
    Caution,
    Change,
    LimitWords,
    Option,
    Rule,
    School,
    Seen,
    flag,
)
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.tables import absorbers


def _blacker(build: Stone, load: Load | None) -> Iterator[Change]:
    for name in ("super-black-paint", "pale-paint"):
        row = absorbers()[name]
        yield Change(
            f"stone in {row.title.lower()}", "stone", build.with_(finish=name), load, row.price_m2 * build.opening_m2
        )


def _sizes(context: AdviceContext, build: Stone, load: Load | None) -> list[Option]:
    return [Option(f"{d * 100:.0f} cm across", build.with_(diameter_m=d), load) for d in (0.3, 0.5)]


def _trip(seen: Seen, build: Stone, load: Load | None) -> list[Flag]:
    return flag("note", "stone", "It lies where people walk: mark it before you leave it.")


ADVICE: BuildAdvice[Stone] = BuildAdvice(
    burns=Burns("stone", "Lift what lies on it with a spatula."),
    limits=LimitWords("in this sun", "Look at it after the first hot day"),
    get_ready="sweep the stone",
    changes=(Rule("stone", _blacker),),
    schools=(School("size", "A small stone or a large one?", _sizes),),
    sayings=(heating.OUTSIDE,),
    cautions=(Caution("trip", _trip),),
)
