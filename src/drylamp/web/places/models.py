"""Places on earth over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, RootModel

from drylamp.core.checks import Elevation, Latitude, Longitude, Model
from drylamp.core.text import Sentence


class PlaceQuery(Model):
    """A town's name, with its region or country behind a comma, or coordinates in any usual writing."""

    q: Annotated[str, Field(max_length=120)]


class Place(Model):
    """A place, with what follows from where it lies."""

    title: str
    name: str = Field(description="A name for a site there")
    latitude_deg: Latitude
    longitude_deg: Longitude
    elevation_m: Elevation
    elevation_doubt_m: float
    time_zone: str
    people: int | None = None
    rough: Sentence = Field(description="What is said of its usual weather until it is known better")


class PlaceList(RootModel[list[Place]]):
    """Places that may be meant, the likeliest first."""
