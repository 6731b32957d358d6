"""How a build is used, and what one like it costs bought: its sheet; the last row holds."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with, latest
from drylamp.core.checks import Day, Model, Number
from drylamp.core.forms import asked
from drylamp.core.text import amount

Instead = Literal["electricity", "gas", "wood"]
INSTEAD: dict[str, str] = {"electricity": "electricity", "gas": "gas", "wood": "bought firewood"}
BETTER: dict[Instead, float] = {"electricity": 0.75, "gas": 0.45, "wood": 0.30}
"""Of the heat that is paid for, what gets to where it is wanted on a hob, a gas ring, in a stove; from memory."""


class Use(Model):
    """How often, and instead of what."""

    on: Day = Field(title="From the day")
    week_days: Annotated[Number, Field(gt=0, le=7)] = Field(default=3.0, title="Used on days a week", description="When the sun allows")  # fmt: skip
    instead: Instead = Field(default="electricity", title="Otherwise by", json_schema_extra=asked(options=INSTEAD))
    bought_price: Annotated[Number, Field(ge=0, le=1e6)] = Field(default=0.0, title="A bought one costs", description="One that does the same; 0: none is to be had")  # fmt: skip
    spent_price: Annotated[Number, Field(ge=0, le=1e6)] | None = Field(default=None, title="It has cost", description="Empty: what the bill says is left to buy")  # fmt: skip
    upkeep_price: Annotated[Number, Field(ge=0, le=1e5)] = Field(default=5.0, title="Upkeep a year", description="Paint, seals, film")  # fmt: skip
    lasts_years: Annotated[Number, Field(gt=0, le=60)] = Field(default=8.0, title="Lasts, years")


def _page(rows: Sequence[Use], around: Around) -> SheetPage:
    lines = [
        SheetLine(
            cells=[row.on.isoformat(), f"{row.week_days:g}", INSTEAD[row.instead], amount(row.bought_price, "price") if row.bought_price else "–", "as billed" if row.spent_price is None else amount(row.spent_price, "price"), amount(row.upkeep_price, "price"), f"{row.lasts_years:g}"]
        )
        for row in rows
    ]  # fmt: skip
    return SheetPage(
        columns=["from", "days a week", "otherwise", "bought one", "has cost", "upkeep", "years"], lines=lines
    )


USE: Sheet[Use] = Sheet(
    "use", "How it is used, and what it replaces", "build", "For what it wins in a year: how often, instead of what, what a bought one costs.", Use, _page,
    lambda rows, around: begin_with(Use, around.today, latest(rows), *(name for name in Use.model_fields if name != "on")),
)  # fmt: skip
