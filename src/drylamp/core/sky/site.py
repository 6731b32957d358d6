"""A site and its standing spots."""

from __future__ import annotations

from datetime import date
from typing import Annotated
from zoneinfo import ZoneInfo

from pydantic import Field, field_validator, model_validator

from drylamp.core.checks import (
    Azimuth,
    Celsius,
    Elevation,
    Fraction,
    InputProblem,
    Latitude,
    Longitude,
    Model,
    NotNegative,
    Number,
    Positive,
)

NAME = Annotated[str, Field(min_length=1, max_length=80)]


class HorizonPoint(Model):
    """The skyline in one direction, seen from the spot."""

    azimuth_deg: Azimuth
    altitude_deg: Annotated[Number, Field(ge=0, lt=90)]


class Obstacle(Model):
    """Something near that shades: a box standing on the ground, facing the spot."""

    name: NAME
    bearing_deg: Azimuth = Field(description="Direction of its middle, clockwise from north")
    distance_m: Annotated[Number, Field(gt=0, le=2000)]
    height_m: Annotated[Number, Field(gt=0, le=500)] = Field(description="Height above the build's opening")
    width_m: Annotated[Number, Field(gt=0, le=2000)]


class Spot(Model):
    """A place at the site where a build can stand, with its own skyline."""

    name: NAME
    horizon: list[HorizonPoint] = Field(default_factory=list, max_length=360)
    obstacles: list[Obstacle] = Field(default_factory=list, max_length=50)


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


class Site(Model):
    """Where builds stand: place on earth, clock, ground and spots."""

    name: NAME
    latitude_deg: Latitude
    longitude_deg: Longitude
    elevation_m: Elevation = 0.0
    time_zone: str = Field(description="IANA name, such as Europe/Madrid")
    albedo: Fraction = 0.2
    spots: list[Spot] = Field(default_factory=lambda: [Spot(name="open ground")], min_length=1, max_length=20)
    climate: list[ClimateMonth] | None = Field(
        default=None, min_length=12, max_length=12, description="January to December; for clear days by month"
    )
    linke_turbidity: list[Positive] | None = Field(
        default=None,
        min_length=12,
        max_length=12,
        description="January to December; default: pvlib's world map",
    )

    @field_validator("time_zone")
    @classmethod
    def _zone_exists(cls, name: str) -> str:
        try:
            ZoneInfo(name)
        except (KeyError, ValueError, OSError):
            raise ValueError(f"'{name}' is no IANA time zone; give one such as Europe/Madrid") from None
        return name

    @model_validator(mode="after")
    def _spots_differ(self) -> Site:
        names = [spot.name for spot in self.spots]
        if len(set(names)) < len(names):
            raise ValueError("two spots have the same name; give each its own")
        return self

    def spot(self, name: str | None) -> Spot:
        """Return the spot of that name; the first one when no name is given."""
        if name is None:
            return self.spots[0]
        for spot in self.spots:
            if spot.name == name:
                return spot
        raise InputProblem("spot", f"'{name}' is no spot here; known: {', '.join(s.name for s in self.spots)}")

    @property
    def zone(self) -> ZoneInfo:
        """The site's own clock."""
        return ZoneInfo(self.time_zone)

    @property
    def pressure_pa(self) -> float:
        """Standard-atmosphere pressure at this elevation."""
        return standard_pressure_pa(self.elevation_m)

    @property
    def equator_azimuth_deg(self) -> float:
        """The azimuth of noon: south in the northern half of the world, north in the southern."""
        return 180.0 if self.latitude_deg >= 0 else 0.0


def standard_pressure_pa(elevation_m: float) -> float:
    """Air pressure at an elevation, Pa.

    References:
        ASHRAE Handbook Fundamentals, standard atmosphere: p = 101325 (1 − 2.25577e-5 z)^5.2559, −5000…11000 m.
    """
    return float(101325.0 * (1.0 - 2.25577e-5 * elevation_m) ** 5.2559)
