"""The twin over the wire: a day, the drawing, the months, the aim."""

from __future__ import annotations

from datetime import date, timedelta
from functools import lru_cache

import numpy as np
from flask import Response

from drylamp.core.advice.aiming import TiltSchools, aim_view, tilt_schools
from drylamp.core.advice.patch import bright_patch, patch_day
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.bright_patch import BrightPatch, PatchDay
from drylamp.core.builds.registry import kind_of
from drylamp.core.common.drawing import Section
from drylamp.core.engine import weather_for
from drylamp.core.long import Long, Step
from drylamp.core.outcome.ahead import USUAL_DAYS_AHEAD, Ahead, ahead
from drylamp.core.sky.clock import instant_s, local_time
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.sun import sun_over
from drylamp.core.sky.weather import SkyState, Span
from drylamp.core.twin.case import Case, climate_day
from drylamp.core.twin.placements import between_turns
from drylamp.web import context
from drylamp.web.cases import ADVICE_STEP_S, as_far_as_it_goes, case_of, day_answer, site_of, year_case
from drylamp.web.jobs.heavy import heavy, in_steps
from drylamp.web.routed import blueprint
from drylamp.web.twin.models import (
    AheadRequest,
    AimAnswer,
    AimRequest,
    DayAnswer,
    MonthLine,
    MonthsAnswer,
    SectionDay,
    SectionRequest,
    SectionStep,
    TwinRequest,
)

api = blueprint("twin", "/api/twin")
RAYS_EVERY_S = 1200.0
"""Between two of these the page draws what lies between."""


@api.post("/day", responses={200: DayAnswer})
def day(body: TwinRequest) -> Response:
    """What a build does on a day."""
    return context.answer(day_answer(*case_of(body)))


@api.post("/ahead", responses={200: Ahead})
@heavy()
def days_ahead(body: AheadRequest) -> Response:
    """Some days on end; where nothing is said how many, a week, or as many as its load is looked at, while the weather lasts."""
    if body.days is None:
        most = max(USUAL_DAYS_AHEAD, 1 if body.load is None else body.load.looked_days)
        return context.answer(ahead(*as_far_as_it_goes(body, most, ADVICE_STEP_S if most > USUAL_DAYS_AHEAD else None)))
    case, records = case_of(body, ADVICE_STEP_S if body.days > USUAL_DAYS_AHEAD else None, body.days)
    return context.answer(ahead(case, weather_for(case, records)))


@api.post("/months", responses={200: MonthsAnswer})
@heavy()
def months(body: TwinRequest) -> Response:
    """The middle of each month under a usual sky."""
    asked, sky = year_case(body.model_copy(update={"weather": None})), body.sky or "clear"
    return in_steps(f"months {asked.key} {sky}", lambda: _months(asked, sky))


def _months(asked: Case, sky: SkyState) -> Long[MonthsAnswer]:
    lines = list[MonthLine]()
    for month in range(1, 13):
        lines.append(_month(asked, month, sky))
        yield Step(month / 12.0, MonthsAnswer(months=list(lines)))


def _month(asked: Case, month: int, sky: SkyState) -> MonthLine:
    middle = date(asked.span.start.year, month, 15)
    case = asked.with_(weather=climate_day(asked.site, middle, sky), span=Span(start=middle))
    done = day_answer(case).outcome.days[0]
    return MonthLine(
        month=month,
        day=middle,
        peak_c=done.peak_c,
        minutes_to_target=done.minutes_to_target,
        enough=done.enough,
        sun_kwh_m2=done.sun_kwh_m2,
    )


def _standing(body: SectionRequest) -> tuple[Build, Array]:
    """The build as it stands at an instant, half-way between two turns, and the direction of the sun."""
    site, at = site_of(body.site_id), body.at.timestamp()
    kind_of(body.spec).check_fit(body.spec, body.load)
    sun = sun_over(site, np.array([at]))
    return between_turns(site, body.spec, at), sun.direction[0]


@api.post("/section", responses={200: Section})
def section(body: SectionRequest) -> Response:
    """The drawing with the rays of an instant."""
    spec, sun = _standing(body)
    return context.answer(_sheet(body, spec, sun))


def _sheet(body: TwinRequest, spec: Build, sun: Array) -> Section:
    sheet = kind_of(spec).section(spec, body.load, sun)
    if spec.tilt_deg == body.spec.tilt_deg:
        return sheet
    # It leans after the sun: nothing to drag.
    return sheet.model_copy(update={"handles": [h for h in sheet.handles if h.field != "tilt_deg"]})


@api.post("/section-day", responses={200: SectionDay})
def section_day(body: TwinRequest) -> Response:
    """The drawing with its rays every so many minutes of the day."""
    site = site_of(body.site_id)
    kind_of(body.spec).check_fit(body.spec, body.load)
    begin, end = (instant_s(site.zone, day, "00:00") for day in (body.day, body.day + timedelta(days=1)))
    at = np.arange(begin, end, RAYS_EVERY_S)
    sun = sun_over(site, at).direction
    up = np.flatnonzero(sun[:, 2] > 0.0)
    shown = range(max(up[0] - 1, 0), min(up[-1] + 2, len(at))) if up.size else range(0)
    steps, before = list[SectionStep](), None
    for k in shown:
        sheet = _sheet(body, between_turns(site, body.spec, float(at[k])), sun[k])
        still = sheet.model_copy(update={"rays": [], "sun_toward": None})
        steps.append(
            SectionStep(
                at=local_time(site.zone, float(at[k])), rays=sheet.rays, sheet=None if still == before else still
            )
        )
        before = still
    return context.answer(SectionDay(steps=steps))


@api.post("/patch", responses={200: BrightPatch})
def patch(body: SectionRequest) -> Response:
    """Where the beam lands on the tray at an instant, the spot's skyline left out."""
    spec, sun = _standing(body)
    return context.answer(bright_patch(spec, body.load, sun))


@api.post("/patch-day", responses={200: PatchDay})
def patch_by_hour(body: TwinRequest) -> Response:
    """Where it lands at every full hour of the day."""
    site = site_of(body.site_id)
    kind_of(body.spec).check_fit(body.spec, body.load)
    return context.answer(patch_day(site, body.spec, body.load, body.day))


@lru_cache(maxsize=32)
def _schools(latitude_deg: float, longitude_deg: float, elevation_m: float) -> TiltSchools:
    return tilt_schools(latitude_deg, longitude_deg, elevation_m)


@api.post("/aim", responses={200: AimAnswer})
def aim(body: AimRequest) -> Response:
    """Sun's path over a spot's skyline, the spots by the hour, and the schools of tilt."""
    site = site_of(body.site_id)
    weather = weather_of(site, climate_day(site, body.day), Span(start=body.day))
    view = aim_view(site, body.spot, body.tilt_deg, body.facing_deg, weather)
    schools = _schools(site.latitude_deg, site.longitude_deg, site.elevation_m)
    return context.answer(AimAnswer(view=view, schools=schools))
