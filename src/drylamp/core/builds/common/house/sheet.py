"""Prices and hours of the house, as a site's sheet: the last row holds."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with, latest
from drylamp.core.checks import Day, Hour, Model, Number, require
from drylamp.core.text import amount

PRICE = Annotated[Number, Field(ge=0, le=100)]


class House(Model):
    """What holds from a day on."""

    on: Day = Field(title="From the day")
    away_from: Hour | None = Field(default=None, title="Nobody is there from", description="On working days; empty: somebody always is")  # fmt: skip
    away_until: Hour | None = Field(default=None, title="Until")
    electricity_price: PRICE = Field(default=0.30, title="Electricity, a kWh")
    gas_price: PRICE = Field(default=0.12, title="Gas, a kWh")
    wood_price: PRICE = Field(default=0.08, title="Bought firewood, a kWh", description="A stacked m³ of dry hardwood holds some 1,900 kWh")  # fmt: skip
    hour_price: PRICE = Field(default=0.0, title="An hour of own work", description="What it is worth to you; 0: it is a pleasure")  # fmt: skip

    @model_validator(mode="after")
    def _both_hours(self) -> House:
        both = (self.away_from is None) == (self.away_until is None)
        require(
            both, "away_until", "one hour of two was given; say from when and until when nobody is there, or neither"
        )
        ahead = self.away_from is None or self.away_until is None or self.away_from < self.away_until
        require(
            ahead, "away_until", f"{self.away_from} to {self.away_until} was given; allowed is an hour after the first"
        )
        return self

    def is_away(self, hour: str) -> bool:
        """Whether nobody is there at an hour, as 13:05."""
        if self.away_from is None or self.away_until is None:
            return False
        return self.away_from <= hour < self.away_until


def _page(rows: Sequence[House], around: Around) -> SheetPage:
    lines = [
        SheetLine(
            cells=[row.on.isoformat(), "–" if row.away_from is None else f"{row.away_from} to {row.away_until}", amount(row.electricity_price, "price"), amount(row.gas_price, "price"), amount(row.wood_price, "price"), amount(row.hour_price, "price")]
        )
        for row in rows
    ]  # fmt: skip
    words = ["The last row holds. Prices are yours to type: what stands here at first is an example."] if rows else []
    return SheetPage(
        columns=["from", "nobody there", "electricity", "gas", "firewood", "an hour"], lines=lines, words=words
    )


HOUSE: Sheet[House] = Sheet(
    "house", "The house: prices, and when somebody is there", "site", "What heat costs you otherwise, and the hours in which nobody can turn or vent anything.", House, _page,
    lambda rows, around: begin_with(House, around.today, latest(rows), *(name for name in House.model_fields if name != "on")),
)  # fmt: skip
