"""Places on earth: what a person may mean by a name or by coordinates."""

from __future__ import annotations

from flask import Response

from drylamp.core.sky.coordinates import Coordinates, looks_like_coordinates, read_coordinates
from drylamp.core.sky.on_earth import HEIGHT_DOUBT_M, height_m, zone_at
from drylamp.core.sky.rough_climate import ROUGH_SAID
from drylamp.store import gazetteer
from drylamp.store.gazetteer import Town
from drylamp.web import context
from drylamp.web.places.models import Place, PlaceList, PlaceQuery
from drylamp.web.routed import blueprint

api = blueprint("places", "/api/places")


@api.get("", responses={200: PlaceList})
def find(query: PlaceQuery) -> Response:
    """Find a place by its name or its coordinates; nothing asked, nothing found."""
    if looks_like_coordinates(query.q):
        return context.answer(PlaceList([_at(read_coordinates(query.q))]))
    return context.answer(PlaceList([_place(town.title, town.name, town.latitude_deg, town.longitude_deg, town.people) for town in gazetteer.find(query.q)]))  # fmt: skip


def _at(here: Coordinates) -> Place:
    near = gazetteer.nearest(here.latitude_deg, here.longitude_deg)
    return _place(_written(here, near), "My yard" if near is None else f"near {near.name}", *here, None)


def _place(title: str, name: str, latitude_deg: float, longitude_deg: float, people: int | None) -> Place:
    return Place(
        title=title, name=name, latitude_deg=latitude_deg, longitude_deg=longitude_deg, elevation_m=height_m(latitude_deg, longitude_deg),
        elevation_doubt_m=HEIGHT_DOUBT_M, time_zone=zone_at(latitude_deg, longitude_deg), people=people, rough=ROUGH_SAID,
    )  # fmt: skip


def _written(here: Coordinates, near: Town | None) -> str:
    north = f"{abs(here.latitude_deg):.4g}° {'N' if here.latitude_deg >= 0 else 'S'}"
    east = f"{abs(here.longitude_deg):.4g}° {'E' if here.longitude_deg >= 0 else 'W'}"
    return f"{north}, {east}" + ("" if near is None else f", near {near.title}")
