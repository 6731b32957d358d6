"""What is usual at a place, month by month."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core.checks import Celsius, Fraction, Model, NotNegative, Number


class ClimateMonth(Model):
    """What a usual clear day of one month is like."""

    tmin_c: Celsius
    tmax_c: Celsius
    rh: Fraction = Field(description="Mean relative humidity of the day")
    wind_m_s: NotNegative
    clearness: Annotated[Number, Field(gt=0, le=0.85)] | None = Field(
        default=None, description="Mean share of the sun outside the air that reaches level ground, all days"
    )

    @model_validator(mode="after")
    def _ordered(self) -> ClimateMonth:
        if self.tmax_c < self.tmin_c:
            raise ValueError(f"tmax_c {self.tmax_c:g} is below tmin_c {self.tmin_c:g}; swap the two")
        return self


def between_months(climate: list[ClimateMonth], day: date) -> ClimateMonth:
    """What is usual on a day, read between mid-months."""
    place = (day.month - 1) + (day.day - 15.0) / 30.4
    low, share = int(place // 1) % 12, place - place // 1
    first, second = climate[low], climate[(low + 1) % 12]

    def between(a: float, b: float) -> float:
        return a + (b - a) * share

    known = first.clearness is not None and second.clearness is not None
    return ClimateMonth(
        tmin_c=between(first.tmin_c, second.tmin_c),
        tmax_c=between(first.tmax_c, second.tmax_c),
        rh=between(first.rh, second.rh),
        wind_m_s=between(first.wind_m_s, second.wind_m_s),
        clearness=between(first.clearness or 0.0, second.clearness or 0.0) if known else None,
    )
