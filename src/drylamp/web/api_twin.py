"""The twin over the wire: a day, the drawing, the months, the aim."""

from __future__ import annotations

from datetime import date
from functools import lru_cache

import numpy as np
from flask import Response
from flask_openapi3 import APIBlueprint

from drylamp.core.advice.aiming import TiltSchools, aim_view, tilt_schools
from drylamp.core.advice.patch import BrightPatch, bright_patch
from drylamp.core.builds.drawing import Section
from drylamp.core.builds.kinds import kind_of
from drylamp.core.case import climate_day
from drylamp.core.engine import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import sun_path
from drylamp.core.sky.weather import Span
from drylamp.core.twin import Adjustments, between_turns
from drylamp.store import calibrations, sites
from drylamp.web import context
from drylamp.web.api_sites import PLAIN_DAY
from drylamp.web.models import (
    AimAnswer,
    AimRequest,
    DayAnswer,
    MonthLine,
    MonthsAnswer,
    SectionRequest,
    TwinRequest,
)
from drylamp.web.twin_runs import day_answer

api = APIBlueprint("twin", __name__, url_prefix="/api/twin")


def _site(site_id: int) -> Site:
    with context.database() as db:
        return sites.get_site(db, site_id).site


def _calibration(calibration_id: int | None) -> Adjustments | None:
    if calibration_id is None:
        return None
    with context.database() as db:
        return calibrations.get_calibration(db, calibration_id).adjustments


@api.post("/day", responses={200: DayAnswer})
def day(body: TwinRequest) -> Response:
    """What a build does on a day."""
    site, tune = _site(body.site_id), _calibration(body.calibration)
    return context.answer(day_answer(site, body.spot, body.spec, body.load, body.day, body.sky, body.weather, tune))


@api.post("/months", responses={200: MonthsAnswer})
def months(body: TwinRequest) -> Response:
    """The middle of each month under a usual clear sky."""
    site, tune = _site(body.site_id), _calibration(body.calibration)
    lines = []
    for month in range(1, 13):
        middle = date(body.day.year, month, 15)
        done = day_answer(site, body.spot, body.spec, body.load, middle, body.sky, None, tune).outcome.days[0]
        lines.append(
            MonthLine(
                month=month,
                day=middle,
                peak_c=done.peak_c,
                minutes_to_target=done.minutes_to_target,
                enough=done.enough,
                sun_kwh_m2=done.sun_kwh_m2,
            )
        )
    return context.answer(MonthsAnswer(months=lines))


@api.post("/section", responses={200: Section})
def section(body: SectionRequest) -> Response:
    """The drawing with the rays of an instant."""
    site = _site(body.site_id)
    sun = sun_path(np.array([body.at.timestamp()]), site.latitude_deg, site.longitude_deg, site.elevation_m)
    kind_of(body.spec).check_fit(body.spec, body.load)
    spec = between_turns(site, body.spec, body.at.timestamp())
    sheet = kind_of(spec).section(spec, body.load, sun.direction[0])
    if spec.tilt_deg != body.spec.tilt_deg:  # it leans after the sun: nothing to drag
        sheet = sheet.model_copy(update={"handles": [h for h in sheet.handles if h.field != "tilt_deg"]})
    return context.answer(sheet)


@api.post("/patch", responses={200: BrightPatch})
def patch(body: SectionRequest) -> Response:
    """Where the beam lands on the tray at an instant, the spot's skyline left out."""
    site = _site(body.site_id)
    sun = sun_path(np.array([body.at.timestamp()]), site.latitude_deg, site.longitude_deg, site.elevation_m)
    kind_of(body.spec).check_fit(body.spec, body.load)
    spec = between_turns(site, body.spec, body.at.timestamp())
    return context.answer(bright_patch(spec, body.load, sun.direction[0]))


@lru_cache(maxsize=32)
def _schools(latitude_deg: float, longitude_deg: float, elevation_m: float) -> TiltSchools:
    return tilt_schools(latitude_deg, longitude_deg, elevation_m)


@api.post("/aim", responses={200: AimAnswer})
def aim(body: AimRequest) -> Response:
    """Sun's path over a spot's skyline, the spots by the hour, and the schools of tilt."""
    site = _site(body.site_id)
    source = PLAIN_DAY if site.climate is None else climate_day(site, body.day)
    weather = weather_of(site, source, Span(start=body.day))
    view = aim_view(site, body.spot, body.tilt_deg, body.facing_deg, weather)
    schools = _schools(site.latitude_deg, site.longitude_deg, site.elevation_m)
    return context.answer(AimAnswer(view=view, schools=schools))
