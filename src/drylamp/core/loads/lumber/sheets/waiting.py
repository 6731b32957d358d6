"""Stacks of a site that wait: for the kiln, for their use, or in store after it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Day, Fraction, Model, Name, Number, require
from drylamp.core.forms import asked
from drylamp.core.heat.cells import SHARES
from drylamp.core.kept import Kept
from drylamp.core.loads.common.wood import WoodName
from drylamp.core.loads.lumber.group import GREEN, MC, BoardGroup, GreenStart, in_words
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.outside import OLDEST_DAYS, left_outside
from drylamp.core.loads.lumber.spec import SHELTERS, AirStack, LumberCharge, Shelter
from drylamp.core.sky.site import Site
from drylamp.core.tables import species
from drylamp.core.text import amount, capital, counted

Use = Literal["indoors", "unheated", "outdoors", "other"]
USES = {
    "indoors": "furniture, stairs, floors in a heated house", "unheated": "an unheated room, doors and windows", "outdoors": "a shed, a fence, a bench outside",
    "other": "something else",
}  # fmt: skip
USE_MC: dict[Use, float] = {"indoors": 0.08, "unheated": 0.12, "outdoors": 0.16}
"""Moisture that wood wants to have for its use: 6 to 8 % for indoors, 10 to 12 % where it is not heated, what air brings it to outdoors; Wood Handbook ch. 13, from memory, and common practice."""
STICKS_SHARE = 1.6
"""A stack with its sticks takes so many times the volume of its wood; common practice, no source."""


class Waiting(Model):
    """A stack."""

    name: Name = Field(title="Stack")
    species: WoodName = Field(default="poplar", title="Wood", json_schema_extra=asked(table="species"))
    thickness_mm: Annotated[Number, Field(ge=6, le=150)] = Field(default=27.0, title="Thick")
    width_mm: Annotated[Number, Field(ge=20, le=900)] = Field(default=180.0, title="Wide")
    length_m: Annotated[Number, Field(ge=0.2, le=15)] = Field(default=2.2, title="Long")
    wood_m3: Annotated[Number, Field(gt=0, le=200)] = Field(title="How much")
    sawn_on: Day = Field(title="Sawn on")
    start: GreenStart = Field(default="green-heart", title="Sawn", json_schema_extra=asked(options=GREEN))
    stands: Shelter = Field(default="roof", title="Stands", json_schema_extra=asked(options=SHELTERS))
    measured_mc: MC | None = Field(default=None, title="Meter says", description="Empty: as the twin has it")
    measured_on: Day | None = Field(default=None, title="Read on")
    use: Use = Field(default="indoors", title="For", json_schema_extra=asked(options=USES))
    target_mc: Annotated[Fraction, Field(ge=0.04, le=0.3)] | None = Field(
        default=None, title="Dried to", description="For something else", json_schema_extra=asked(only_with={"use": ["other"]})
    )  # fmt: skip
    wanted_by: Day | None = Field(default=None, title="Wanted by", description="Empty: when it comes")
    planed_thick_mm: Annotated[Number, Field(gt=0, le=150)] | None = Field(default=None, title="Planed to", description="Thickness of the finished piece")  # fmt: skip
    planed_wide_mm: Annotated[Number, Field(gt=0, le=900)] | None = Field(default=None, title="And wide")

    @model_validator(mode="after")
    def _whole(self) -> Waiting:
        require(
            self.use != "other" or self.target_mc is not None, "target_mc",
            "nothing was given; say to how much moisture it is to be dried, or choose a use",
        )  # fmt: skip
        require(
            (self.measured_mc is None) == (self.measured_on is None), "measured_on",
            "a reading without its day, or a day without a reading, was given; give both or none",
        )  # fmt: skip
        require(
            self.measured_on is None or self.measured_on >= self.sawn_on, "measured_on",
            f"{self.measured_on} is before {self.sawn_on}, when it was sawn",
        )  # fmt: skip
        return self

    @property
    def goal_mc(self) -> float:
        """To which it is dried."""
        return USE_MC.get(self.use, 0.10) if self.target_mc is None else self.target_mc

    @property
    def title(self) -> str:
        """Name, wood and thickness."""
        return f"{self.name} ({in_words(species()[self.species])} of {amount(self.thickness_mm, 'length_mm')})"

    @property
    def charge(self) -> LumberCharge:
        """All of it as a charge, as it was sawn, or as it was read."""
        measured = {} if self.measured_mc is None else {"start": "measured", "start_mc": self.measured_mc}
        boards = BoardGroup.model_validate(
            {
                "species": self.species, "thickness_mm": self.thickness_mm, "width_mm": self.width_mm, "length_m": self.length_m, "wood_m3": self.wood_m3, "start": self.start,
                "target_mc": self.goal_mc, **measured,
            }
        )  # fmt: skip
        return LumberCharge(groups=[boards], outside=AirStack(shelter=self.stands))

    @property
    def since(self) -> date:
        """Day from which the twin carries it."""
        return self.measured_on or self.sawn_on


_STOOD: Kept[tuple[str, str, date], tuple[float, ...]] = Kept(400)


def stands_at(site: Site, stack: Waiting, on: date) -> Array:
    """Its cells from core to face on a day, after usual weather outside, shape (CELLS,)."""
    key = (site.model_dump_json(), stack.model_dump_json(), on)
    return np.array(_STOOD.get(key, lambda: tuple(left_outside(site, stack.charge, stack.since, on).tolist())))


def stands_mc(site: Site, stack: Waiting, on: date) -> float:
    """Its mean."""
    return float(SHARES @ stands_at(site, stack, on))


def _page(rows: Sequence[Waiting], around: Around) -> SheetPage:
    lines = []
    for row in rows:
        mc = stands_mc(around.site, row, around.today)
        days = (around.today - row.sawn_on).days
        wanted = "" if row.wanted_by is None else f", by {row.wanted_by:%d %b %Y}"
        lines.append(
            SheetLine(
                cells=[
                    capital(row.title), amount(row.wood_m3, "timber"), f"{row.sawn_on:%d %b %Y}, {counted(days, 'day')} ago", f"{SHELTERS[row.stands]}: about {percent(mc)}",
                    f"{USES[row.use]}: {percent(row.goal_mc)}{wanted}",
                ],
                warning="it is there already" if mc <= row.goal_mc else "",
            )
        )  # fmt: skip
    space = sum(row.wood_m3 for row in rows) * STICKS_SHARE
    words = [f"{counted(len(rows), 'stack')} waiting: {amount(sum(row.wood_m3 for row in rows), 'timber')} of wood, about {amount(space, 'timber')} of room with their sticks (common practice, no source)."] if rows else []  # fmt: skip
    return SheetPage(columns=["stack", "how much", "sawn", "stands", "for"], lines=lines, words=words)


def _check(row: Waiting, rows: Sequence[Waiting], around: Around) -> None:
    require(all(other.name != row.name for other in rows), "name", f"there is a stack '{row.name}' already; give each its own name")  # fmt: skip
    require(row.sawn_on <= around.today, "sawn_on", f"{row.sawn_on} was given; a stack that waits was sawn by today, {around.today}")  # fmt: skip
    days = (around.today - row.since).days
    require(days <= OLDEST_DAYS, "sawn_on", f"{row.since} is {days} days ago; up to three years are reckoned: give what the meter says today instead")  # fmt: skip
    require(row.measured_on is None or row.measured_on <= around.today, "measured_on", f"{row.measured_on} is after today, {around.today}")  # fmt: skip


WAITING: Sheet[Waiting] = Sheet(
    "waiting", "Stacks that wait", "site", "Each stack with its wood, its sawing date, where it stands, and what it is for.", Waiting, _page,
    lambda rows, around: begin_with(Waiting, around.today), _check,
)  # fmt: skip
