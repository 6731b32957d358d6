"""Advice over the wire, beside the core's own models."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, RootModel

from drylamp.core.advice.chance import MOST_YEARS, YEARS
from drylamp.core.advice.flap import FlapAngles
from drylamp.core.advice.pointing import Pointing
from drylamp.core.advice.sayings import SayingLine
from drylamp.core.advice.schools import SchoolAnswer
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Celsius, Count, Day, Hour, Model, Moment, Number, Positive, RowId, YesNo
from drylamp.core.text import Sentence
from drylamp.web.twin.models import TwinRequest


class MomentRequest(TwinRequest):
    """A build at an instant of a day."""

    at: Moment


class RepairsRequest(TwinRequest):
    """The build whose book of upkeep is read."""

    build_id: RowId


class SeasonRequest(TwinRequest):
    """The build whose use is read, with the house and the pile of its site; it may be looked at elsewhere than it stands."""

    build_id: RowId


class TwoPlacesRequest(SeasonRequest):
    """The same, and the other place."""

    there: RowId


class MoneyRequest(TwinRequest):
    """The build whose prices are read."""

    build_id: RowId


class BackupRequest(TwinRequest):
    """A heater, and what a kilowatt-hour costs."""

    power_w: Annotated[Number, Field(ge=50, le=50000)] = 1500.0
    until_c: Annotated[Celsius, Field(ge=0, le=90)] = 35.0
    kwh_price: Annotated[Number, Field(ge=0, le=10)] = 0.25


class BuildingRequest(TwinRequest):
    """A build, and panes that are at hand; without them nothing is said of panes."""

    pane_wide_m: Annotated[Number, Field(ge=0.1, le=6)] | None = None
    pane_high_m: Annotated[Number, Field(ge=0.1, le=6)] | None = None


class ChanceRequest(TwinRequest):
    """A build on a day, and how many made-up years."""

    years: Annotated[Count, Field(ge=1, le=MOST_YEARS)] = YEARS


class MealRequest(TwinRequest):
    """A build on a day, and the hour it is wanted by."""

    wanted: Hour = "13:30"


class HeaterRequest(TwinRequest):
    """A loop on a day, and the heater that would do it instead."""

    heater_kw: Positive = Field(default=6.0, le=100)
    price_kwh: Annotated[Number, Field(ge=0, le=100)] = Field(
        default=0.25, description="Of a kilowatt-hour, in the user's money"
    )


class HowManyRequest(TwinRequest):
    """A loop on a day, and how much warmer the water is to be after how many weeks."""

    rise_k: Annotated[Number, Field(gt=0, le=40)] = 3.0
    weeks: Annotated[Count, Field(ge=1, le=16)] = 3


class StockRequest(TwinRequest):
    """A melter and all that is to be melted in it, between two dates."""

    stock_kg: Positive = Field(description="Clean wax that the whole stock could give")
    until: Day


class StockAnswer(Model):
    """Clean wax that can be had from a stock between two dates."""

    kg: float
    days: float
    enough: YesNo
    words: Sentence


class WeeklyRequest(TwinRequest):
    """A batch, how much is wanted a week, and in which month."""

    wanted_kg: Annotated[Positive, Field(le=2000)] = 10.0
    month: Annotated[Count, Field(ge=1, le=12)] = 9


class BasketRequest(TwinRequest):
    """A dryer and a basket: a food by name, in litres of bucket or kilograms as picked."""

    food: str
    litres: Annotated[Positive, Field(le=5000)] | None = None
    kg: Annotated[Positive, Field(le=5000)] | None = None


class ApartRequest(TwinRequest):
    """A build and what it is held against: another build, or area and absorber as typed, and a promised temperature."""

    other: BuildSpec | None = None
    area_m2: Annotated[Positive, Field(le=40)] | None = None
    absorber: Literal["plate", "mesh", "screens", "ducts"] | None = None
    promised_c: Annotated[Celsius, Field(ge=0, le=200)] | None = None


class Aimed(Model):
    """How a build stands against the sun, and its flap's angles where it has one."""

    pointing: Pointing
    flap: FlapAngles | None


class SchoolList(RootModel[list[SchoolAnswer]]):
    """Every school that concerns a build."""


class SayingList(RootModel[list[SayingLine]]):
    """Every saying that is said of a build."""
