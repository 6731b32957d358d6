"""Sums about the sun: where it stands, how to face it, what a mirror adds."""

from __future__ import annotations

import math
from datetime import UTC, date, datetime
from typing import Annotated

import numpy as np
from pydantic import AwareDatetime, Field
from scipy.optimize import brentq

from drylamp.core.advice.aiming import TiltSchools, tilt_schools
from drylamp.core.checks import (
    Azimuth,
    Count,
    Elevation,
    InputProblem,
    Latitude,
    Longitude,
    Model,
    NotNegative,
    Number,
    Tilt,
)
from drylamp.core.optics.booster import HingedMirror, image, patch
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.sun import solar_position, unit_vectors
from drylamp.core.sums.registry import quick_sum

SPA = "Reda & Andreas 2004, NREL/TP-560-34302, by pvlib"


class Place(Model):
    """A place on earth at a moment."""

    latitude: Latitude
    longitude: Longitude
    time: AwareDatetime = Field(description="ISO 8601 with offset")


class SunPositionIn(Place):
    """Where and when."""

    elevation_m: Elevation = 0.0


class SunPosition(Model):
    """Geometric place of the sun."""

    altitude_deg: float
    azimuth_deg: float


def _sun(latitude: float, longitude: float, moment: datetime, elevation_m: float = 0.0) -> tuple[float, float]:
    table = solar_position(np.array([moment.timestamp()]), latitude, longitude, elevation_m)
    return float(table["elevation"].iloc[0]), float(table["azimuth"].iloc[0])


@quick_sum(
    "sun-position", "Where the sun stands", "sun position altitude azimuth height direction",
    "NREL solar position algorithm, without refraction", SPA, SunPositionIn, SunPosition,
)  # fmt: skip
def sun_position(given: SunPositionIn) -> SunPosition:
    """Altitude without refraction, and azimuth clockwise from north."""
    altitude, azimuth = _sun(given.latitude, given.longitude, given.time, given.elevation_m)
    return SunPosition(altitude_deg=altitude, azimuth_deg=azimuth)


class NoonIn(Model):
    """Where and on which day."""

    latitude: Latitude
    date: date


class Altitude(Model):
    """Height of the sun."""

    altitude_deg: float


@quick_sum(
    "noon-altitude", "How high the noon sun stands", "noon sun height latitude season",
    "90 − latitude + declination (180 − x where that is above 90)", SPA + " (declination at 12:00 UTC)", NoonIn, Altitude,
)  # fmt: skip
def noon_altitude(given: NoonIn) -> Altitude:
    """Altitude of the sun when it crosses the meridian; below zero in the polar night."""
    noon = datetime(given.date.year, given.date.month, given.date.day, 12, tzinfo=UTC)
    high = 90.0 - given.latitude + _declination_deg(noon)
    return Altitude(altitude_deg=180.0 - high if high > 90.0 else high)


def _declination_deg(moment: datetime) -> float:
    """Declination, read off the sun's altitude at the north pole (where both are the same)."""
    return _sun(89.999999, 0.0, moment)[0]


class IncidenceIn(Place):
    """Where, when and which plane."""

    tilt_deg: Tilt
    azimuth_deg: Azimuth


class Incidence(Model):
    """Angle between sun and the plane's normal."""

    incidence_deg: float


@quick_sum(
    "incidence", "How squarely the sun meets a plane", "incidence angle tilt facing plane",
    "arccos(sun · normal)", SPA, IncidenceIn, Incidence,
)  # fmt: skip
def incidence(given: IncidenceIn) -> Incidence:
    """Angle between the geometric sun and the plane's outward normal."""
    altitude, azimuth = _sun(given.latitude, given.longitude, given.time)
    toward = unit_vectors(np.array([altitude]), np.array([azimuth]))[0]
    normal = plane_axes(given.tilt_deg, given.azimuth_deg)[2]
    return Incidence(incidence_deg=math.degrees(math.acos(float(np.clip(toward @ normal, -1, 1)))))


class TiltIn(Model):
    """Where."""

    latitude: Latitude
    longitude: Longitude
    elevation_m: Elevation = 0.0


@quick_sum(
    "tilt-schools", "How steep to set it", "tilt angle latitude stock winter summer best roof",
    "latitude; 45; latitude ∓ 15 (0–90); best by clear-sky energy over a year",
    "Ineichen & Perez 2002 clear sky, Hay & Davies 1980 sky; schools: common practice, no source",
    TiltIn, TiltSchools,
)  # fmt: skip
def tilt(given: TiltIn) -> TiltSchools:
    """The schools of tilt side by side."""
    return tilt_schools(given.latitude, given.longitude, given.elevation_m)


class ShadowIn(Model):
    """Sun and stick."""

    altitude_deg: Annotated[Number, Field(gt=0, le=90)]
    height_m: NotNegative


class Length(Model):
    """A length."""

    length_m: float


@quick_sum(
    "shadow",
    "How long a shadow falls",
    "shadow stick pole height",
    "height / tan(altitude)",
    "geometry",
    ShadowIn,
    Length,
)
def shadow(given: ShadowIn) -> Length:
    """Length of the shadow of an upright stick on level ground."""
    return Length(length_m=given.height_m / math.tan(math.radians(given.altitude_deg)))


class MirrorTiltIn(Model):
    """Opening, sun in its meridian plane, mirror hinged at the upper edge."""

    opening_tilt_deg: Tilt
    sun_altitude_deg: Annotated[Number, Field(gt=0, le=180)]
    mirror_length_ratio: Annotated[Number, Field(gt=0, le=10)] = 1.0


class MirrorTilt(Model):
    """Best fixed angle of the mirror and its gain."""

    mirror_angle_deg: float
    gain_ratio: float


@quick_sum(
    "mirror-tilt", "How far to open a mirror flap", "mirror flap reflector angle prop bright patch",
    "angle ψ at which the tip's ray just reaches the far edge; gain = 1 + mirrored beam / direct beam", "geometry",
    MirrorTiltIn, MirrorTilt,
)  # fmt: skip
def mirror_tilt(given: MirrorTiltIn) -> MirrorTilt:
    """Angle between opening and mirror at which the whole opening is lit by the mirror and no light is thrown past it."""
    above = math.radians(given.sun_altitude_deg + given.opening_tilt_deg - 90.0)
    toward = np.array([[0.0, math.sin(above), math.cos(above)]])
    if toward[0, 2] <= 1e-6:
        raise InputProblem(
            "sun_altitude_deg",
            f"{given.sun_altitude_deg:g} was given: the sun stands behind the opening; "
            f"allowed are altitudes between {-given.opening_tilt_deg:g} and {180 - given.opening_tilt_deg:g}",
        )
    ratio = given.mirror_length_ratio

    def lit(angle_deg: float) -> tuple[float, float]:
        mirror = HingedMirror(ratio, angle_deg, 1.0)
        seen = image(mirror, toward)
        spot = patch(mirror, 1.0, 1.0, seen)
        return float(spot.reach[0]) * ratio, float(seen[0, 2])

    # The patch grows from nothing (mirror edge-on to the sun) without end (image at the horizon).
    edge_on = 90.0 + math.degrees(above)
    level = 135.0 + math.degrees(above) / 2.0
    if level <= edge_on + 1e-9:
        raise InputProblem(
            "sun_altitude_deg", f"{given.sun_altitude_deg:g} was given: no mirror angle lights the opening"
        )
    angle = float(brentq(lambda a: lit(a)[0] - 1.0, edge_on + 1e-9, level - 1e-3, xtol=1e-10))
    return MirrorTilt(mirror_angle_deg=angle, gain_ratio=1.0 + lit(angle)[1] / float(toward[0, 2]))


class CoverIn(Model):
    """Sheets and incidence."""

    layers: Annotated[Count, Field(ge=0, le=5)]
    index: Annotated[Number, Field(ge=1, le=3)] = 1.526
    extinction_per_m: NotNegative
    thickness_m: Annotated[Number, Field(ge=0, le=0.05)]
    incidence_deg: Annotated[Number, Field(ge=0, lt=90)]


class Transmittance(Model):
    """Share let through."""

    transmittance: float


@quick_sum(
    "cover-transmittance", "How much sun a cover lets in", "cover glass pane film sheet transmittance glazing",
    "Fresnel for both polarisations and Bouguer, all passes between sheets",
    "Duffie & Beckman, Solar Engineering of Thermal Processes, ch. 5", CoverIn, Transmittance,
)  # fmt: skip
def cover_transmittance(given: CoverIn) -> Transmittance:
    """Transmittance of like sheets for beam sun at an incidence."""
    pane = Pane(given.index, given.extinction_per_m, given.thickness_m)
    optics = stack([pane] * given.layers, math.cos(math.radians(given.incidence_deg)))
    return Transmittance(transmittance=float(optics.transmittance))
