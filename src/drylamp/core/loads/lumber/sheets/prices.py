"""What boards, work and the kiln cost and fetch: typed once, the latest row holds."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Day, Fraction, Model, Number
from drylamp.core.text import amount
from drylamp.core.units import BOARD_FOOT_M3

Money = Annotated[Number, Field(ge=0, le=1e7)]


class Prices(Model):
    """Prices as a person knows them."""

    on: Day = Field(title="As of")
    kiln_price: Money = Field(title="Kiln, parts bought", description="What was salvaged counts as nothing, or as you choose")  # fmt: skip
    built_hours: Annotated[Number, Field(ge=0, le=20000)] = Field(default=60.0, title="Work to build it")
    lasts_years: Annotated[Number, Field(ge=1, le=60)] = Field(default=10.0, title="Lasts, years")
    wage_price: Money = Field(default=0.0, title="An hour is worth", description="0: your own time counts as nothing")
    green_price: Money = Field(title="Green wood, a cubic metre", description="Log and sawing")
    dry_price: Money = Field(title="Dry wood, a cubic metre", description="What you would pay, or get")
    kwh_price: Annotated[Number, Field(ge=0, le=10)] = Field(default=0.25, title="Electricity, a kWh")
    lost_share: Annotated[Fraction, Field(le=0.8)] = Field(default=0.05, title="Lost to checks and warp")
    charges: Annotated[Number, Field(gt=0, le=60)] | None = Field(
        default=None, title="Charges a year", description="Empty: as many as the twin has room for"
    )


def _page(rows: Sequence[Prices], around: Around) -> SheetPage:
    lines = [
        SheetLine(
            cells=[
                f"{row.on:%d %b %Y}", f"{amount(row.kiln_price, 'price')}, {amount(row.built_hours, 'hours')}", amount(row.wage_price, "price"), f"{amount(row.green_price, 'price')}, {amount(row.green_price * BOARD_FOOT_M3, 'price')} a board foot",
                f"{amount(row.dry_price, 'price')}, {amount(row.dry_price * BOARD_FOOT_M3, 'price')} a board foot",
            ]
        )
        for row in rows
    ]  # fmt: skip
    return SheetPage(columns=["as of", "kiln", "an hour", "green, a cubic metre", "dry, a cubic metre"], lines=lines)


PRICES: Sheet[Prices] = Sheet(
    "prices", "Prices", "build", "What the kiln, the wood and an hour cost; the last row counts.", Prices, _page,
    lambda rows, around: begin_with(Prices, around.today, rows[-1] if rows else None, *(name for name in Prices.model_fields if name != "on")),
)  # fmt: skip
