"""When a load is in its build: anew each day, once over several days, or always; and what is done to it at which hour."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

VisitKind = Literal["taken-in", "put-back", "turned", "weighed", "drawn", "opened"]
INDOORS_C = 18.0
"""Where a load spends the night that was taken in; common practice, no source."""


@dataclass(frozen=True)
class Visit:
    """Something done to a load at an hour of each day: what, and how much of it where that has an amount (litres drawn)."""

    hour: str
    kind: VisitKind
    amount: float = 0.0

    @property
    def changes_air(self) -> bool:
        """Whether what it is in stands open for it."""
        return self.kind == "opened"


@dataclass(frozen=True)
class Calendar:
    """When a load is in its build.

    Attributes:
        kind: ``daily``: fresh each day at its hour, gone at midnight; ``batch``: goes in once on the first day and stays over
            nights until it is done or the run ends; ``standing``: there from the start, as water in a tank; ``charge``: goes in and comes out on
            days of its own, and stays until then
        taken_in, put_back: hours between which a batch is taken indoors for the night; none: it stays out
        from_hour: of what stands, the hour of the first day until which it is not there; none: it always was
        indoors_c: what a batch comes to indoors
        visits: what else is done to it, each day
    """

    kind: Literal["daily", "batch", "standing", "charge"] = "daily"
    taken_in: str | None = None
    put_back: str | None = None
    indoors_c: float = INDOORS_C
    visits: tuple[Visit, ...] = ()
    from_hour: str | None = None

    @property
    def always_in(self) -> bool:
        """Whether it stays for longer than days."""
        return self.kind in ("standing", "charge")

    @property
    def for_weeks(self) -> bool:
        """Whether it goes in and comes out on days of its own, weeks apart: its days are told by chance, not by the month."""
        return self.kind == "charge"

    @property
    def daily(self) -> bool:
        """Whether it goes in afresh each day."""
        return self.kind == "daily"

    @property
    def stands(self) -> bool:
        """Whether it is there from the start to the end."""
        return self.kind == "standing"

    @property
    def sleeps_indoors(self) -> bool:
        """Whether it is taken in for the night."""
        return self.taken_in is not None and self.put_back is not None


DAILY = Calendar()
