"""Sites, their sun strip, their weather files and their yard."""

from __future__ import annotations

import sqlite3
from datetime import datetime, timedelta

import numpy as np
from flask import Response

from drylamp.core.builds.starters import cut_open, starters_at
from drylamp.core.checks import LAST_DAY, InputProblem
from drylamp.core.sky.gaps import said_gaps
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.skyline_view import SkylineView, skyline_view
from drylamp.core.sky.usual_months import months_from
from drylamp.core.sky.weather import ClearDay, Span, Weather
from drylamp.core.twin.case import climate_day
from drylamp.formats.weather_door import ask
from drylamp.formats.weather_file import read_weather
from drylamp.store import sites
from drylamp.store.database import NotFoundError
from drylamp.store.sites import SiteRow
from drylamp.web import context
from drylamp.web.routed import blueprint, needs_mark
from drylamp.web.shared import Id, PartPath
from drylamp.web.sites.models import (
    AddedWeather,
    DayPath,
    DayWeather,
    MonthList,
    ServiceQuestion,
    SiteList,
    SiteView,
    SkylineRequest,
    StarterList,
    StarterView,
    Strip,
    StripQuery,
    WeatherFileList,
    WeatherFileText,
    WeatherFileView,
)

api = blueprint("sites", "/api/sites")


def _view(row: SiteRow) -> SiteView:
    site = row.site
    return SiteView(
        id=row.id, revision=row.revision, site=site, climate=site.months, climate_is_rough=site.climate_is_rough
    )


@api.get("", responses={200: SiteList})
def list_all() -> Response:
    """List the sites."""
    with context.database() as db:
        return context.answer(SiteList([_view(row) for row in sites.list_sites(db)]))


@api.post("", responses={201: SiteView})
def add(body: Site) -> Response:
    """Add a site."""
    with context.writing() as db:
        row = sites.get_site(db, sites.add_site(db, body))
        return context.answer(_view(row), 201, row.revision)


@api.get("/<int:id>", responses={200: SiteView})
def get(path: Id) -> Response:
    """Show a site."""
    with context.database() as db:
        row = sites.get_site(db, path.id)
    return context.answer(_view(row), revision=row.revision)


@api.get("/<int:id>/starters", responses={200: StarterList})
def to_begin_with(path: Id) -> Response:
    """List builds to begin with, facing the noon sun of this place."""
    with context.database() as db:
        site = sites.get_site(db, path.id).site
    return context.answer(
        StarterList([StarterView(starter=one, drawn=cut_open(site, one.spec, one.load)) for one in starters_at(site)])
    )


@api.put("/<int:id>", responses={200: SiteView})
@needs_mark
def change(path: Id, body: Site) -> Response:
    """Change a site; needs If-Match."""
    with context.writing() as db:
        row = sites.change_site(db, path.id, body, context.seen_revision())
        return context.answer(_view(row), revision=row.revision)


@api.get("/<int:id>/days/<string:day>", responses={200: DayWeather})
def known_of_day(path: DayPath) -> Response:
    """Tell what is known of a day beforehand."""
    with context.database() as db:
        return _known(db, path)


@api.put("/<int:id>/days/<string:day>", responses={200: DayWeather})
def type_day(path: DayPath, body: ClearDay) -> Response:
    """Keep what somebody typed for a day."""
    with context.writing() as db:
        sites.type_day(db, path.id, path.day, body.model_copy(update={"rough": False}))
        return _known(db, path)


@api.delete("/<int:id>/days/<string:day>", responses={200: DayWeather})
def forget_day(path: DayPath) -> Response:
    """Let go what was typed for a day: it is a usual one again."""
    with context.writing() as db:
        sites.type_day(db, path.id, path.day, None)
        return _known(db, path)


def _known(db: sqlite3.Connection, path: DayPath) -> Response:
    site = sites.get_site(db, path.id).site
    return context.answer(
        DayWeather(typed=sites.day_typed(db, path.id, path.day), usual=_rounded(climate_day(site, path.day)))
    )


def _rounded(day: ClearDay) -> ClearDay:
    """As a person would type it."""
    return day.model_copy(update={name: round(getattr(day, name), 1) for name in ("tmin_c", "tmax_c", "wind_m_s")})


@api.post("/<int:id>/skyline", responses={200: SkylineView})
def draw_skyline(path: Id, body: SkylineRequest) -> Response:
    """Draw a spot's skyline with the sun's paths; nothing is changed."""
    with context.database() as db:
        site = sites.get_site(db, path.id).site
    return context.answer(skyline_view(site, body.spot, body.day.year, body.grip))


@api.get("/<int:id>/weather-files", responses={200: WeatherFileList})
def weather_files(path: Id) -> Response:
    """List a site's weather files."""
    with context.database() as db:
        rows = sites.list_weather(db, path.id)
    return context.answer(WeatherFileList([WeatherFileView(id=r.id, name=r.name, kind=r.kind) for r in rows]))


@api.post("/<int:id>/weather-files", responses={201: AddedWeather})
def add_weather(path: Id, body: WeatherFileText) -> Response:
    """Keep a weather file; it is read whole first, so that a broken one is refused with its row."""
    text, note = body.read()
    notes = [*([note] if note else []), *said_gaps(read_weather(body.kind, text, body.name))]
    with context.writing() as db:
        new = sites.add_weather(db, path.id, body.name, body.kind, text, context.stamp())
        return context.answer(AddedWeather(id=new, name=body.name, kind=body.kind, notes=notes), 201)


@api.get("/<int:id>/weather-files/<int:part_id>/months", responses={200: MonthList})
def months_of_file(path: PartPath) -> Response:
    """Usual weather by month as a stored weather file has it; nothing is changed."""
    with context.database() as db:
        site = sites.get_site(db, path.id).site
        if path.part_id not in {row.id for row in sites.list_weather(db, path.id)}:
            raise NotFoundError(f"site {path.id} has no weather file {path.part_id}")
        kind, text, name = sites.weather_text(db, path.part_id)
    return context.answer(MonthList(months_from(site, read_weather(kind, text, name))))


@api.post("/<int:id>/weather-service", responses={201: AddedWeather})
def ask_service(path: Id, body: ServiceQuestion) -> Response:
    """Ask the weather service for days and keep its answer as a weather file of the site."""
    url = context.settings().weather_service
    if url is None:
        raise InputProblem(
            "weather", "no weather service was named; start the server with --weather http://127.0.0.1:PORT"
        )
    with context.database() as db:
        site = sites.get_site(db, path.id).site
    # a day of the site's clock reaches into the UTC days beside it
    text = ask(url, site, body.start - timedelta(days=1), body.days + 2, body.member)
    last = body.start + timedelta(days=body.days - 1)
    name = f"weather service {body.start:%d %b} – {last:%d %b %Y}" + (f", member {body.member}" if body.member else "")
    with context.writing() as db:
        new = sites.add_weather(db, path.id, name, "json", text, context.stamp())
        return context.answer(
            AddedWeather(id=new, name=name, kind="json", notes=said_gaps(read_weather("json", text, name))), 201
        )


@api.get("/<int:id>/strip", responses={200: Strip})
def strip(path: Id, query: StripQuery) -> Response:
    """The sun on level ground today and tomorrow."""
    days = (query.day, min(query.day + timedelta(days=1), LAST_DAY))
    with context.database() as db:
        site = sites.get_site(db, path.id).site
        known = [sites.weather_on(db, path.id, site, day, None) for day in days]
    today, tomorrow = (
        weather_of(site, of_day, Span(start=day, step_s=300)) for day, of_day in zip(days, known, strict=True)
    )
    return context.answer(_strip(site, query, today, tomorrow))


def _strip(site: Site, query: StripQuery, today: Weather, tomorrow: Weather) -> Strip:
    up = np.flatnonzero(today.sun.altitude_deg > -0.83)

    def local(second: float) -> datetime:
        return datetime.fromtimestamp(round(float(second)), site.zone)

    def numbers(values: np.ndarray) -> list[float]:
        return [round(float(v), 1) for v in values[::2]]

    begin, end = today.start_s, today.start_s + today.steps * today.dt_s
    if 0 < len(up) < today.steps:
        rise, fall = today.sun.time_s[up[0]], today.sun.time_s[up[-1]]
        begin, end = max(begin, rise - 3600.0), min(end, fall + 3600.0)
    return Strip(
        day=query.day,
        sunrise=local(today.sun.time_s[up[0]]) if len(up) else None,
        sunset=local(today.sun.time_s[up[-1]]) if len(up) else None,
        start=local(begin - begin % 1800),
        end=local(end - end % 1800 + 1800) if end % 1800 else local(end),
        times=[local(s) for s in today.sun.time_s[::2]],
        beam_w_m2=numbers(today.ghi_w_m2 - today.dhi_w_m2),
        sky_w_m2=numbers(today.dhi_w_m2),
        air_c=numbers(today.air_c),
        tomorrow_total_w_m2=numbers(tomorrow.ghi_w_m2)[: len(today.sun.time_s[::2])],
        wind_m_s=round(float(today.wind_m_s.mean()), 1),
    )
