"""Fumes from what stands near food in the heat."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from drylamp.core.advice.entries import Caution, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.tables import Row

B = TypeVar("B", bound=Build)


def fumes(near_food: Callable[[B], list[Row]]) -> Caution[B, Load | None]:
    """A caution about the materials that a kind has near its food."""

    def test(seen: Seen, build: B, load: Load | None) -> list[Flag]:
        doubtful = list(dict.fromkeys(row.title for row in near_food(build) if not row.food_safe))
        if not doubtful:
            return flag("note", "lining", "Fumes: bake the empty oven in full sun for a day before food goes in.")
        return flag(
            "warn", "lining",
            f"Fumes: {', '.join(doubtful)} may give off fumes when hot or is not meant for food. "
            "Keep it behind foil or card, cure and air it out in the sun for days before food goes in.",
        )  # fmt: skip

    return Caution("fumes", test)
