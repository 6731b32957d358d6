"""A site and its standing spots."""

from __future__ import annotations

from typing import Annotated, Literal
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
    Number,
    Positive,
)
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.rough_climate import rough_climate

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


class Surroundings(Model):
    """A greenhouse or a room that builds stand in; its numbers are common practice, no source, until they are measured."""

    kind: Literal["greenhouse", "room"] = "greenhouse"
    sun_share: Annotated[Fraction, Field(gt=0)] = Field(
        default=0.7, description="Share of the sun that its glass lets in"
    )
    warmer_k: Annotated[Number, Field(ge=0, le=40)] = Field(
        default=10.0, description="A greenhouse over outside, in full sun"
    )
    kept_c: Annotated[Celsius, Field(ge=-20, le=50)] = Field(default=20.0, description="A room, all day")
    window_deg: Azimuth = Field(default=180.0, description="The way a room's window looks")


class Spot(Model):
    """A place at the site where a build can stand, with its own skyline."""

    name: NAME
    horizon: list[HorizonPoint] = Field(default_factory=list, max_length=360)
    obstacles: list[Obstacle] = Field(default_factory=list, max_length=50)
    around: Surroundings | None = Field(default=None, description="What it stands in; none in the open")


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
    def months(self) -> list[ClimateMonth]:
        """Usual weather of January to December: what was given for the site, else rough means from latitude, height and the way to the sea."""
        if self.climate is not None:
            return self.climate
        return rough_climate(self.latitude_deg, self.longitude_deg, self.elevation_m)

    @property
    def climate_is_rough(self) -> bool:
        """Whether the months are guessed from where it lies."""
        return self.climate is None

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

    References
    ----------
    ASHRAE Handbook Fundamentals, standard atmosphere: p = 101325 (1 − 2.25577e-5 z)^5.2559, −5000…11000 m.
    """
    return float(101325.0 * (1.0 - 2.25577e-5 * elevation_m) ** 5.2559)
