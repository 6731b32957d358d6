"""From a request to the case that it asks for, and what cases gave, the last few kept in memory."""

from __future__ import annotations

import contextlib
from dataclasses import replace
from datetime import date
from typing import cast

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.plan import day_plan
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import GapInWeather
from drylamp.core.engine import forecast, weather_for
from drylamp.core.kept import Kept
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Records, Span, Weather, WeatherFile
from drylamp.core.sky.years import FromFile
from drylamp.core.tables import Absorber
from drylamp.core.twin.calibration import TEXTBOOK
from drylamp.core.twin.case import Case, usual_case
from drylamp.core.twin.stood import stood
from drylamp.formats.weather_file import read_weather
from drylamp.store import calibrations, materials, sites
from drylamp.store.sites import weather_text
from drylamp.web import context
from drylamp.web.twin.models import DayAnswer, StoredWeather, TwinRequest

ADVICE_STEP_S = 300
SEVERAL_YEARS = 2
FEWER_DAYS = (7, 3)
"""Days that advice is tried on where the weather reaches no farther."""
_DAYS: Kept[str, DayAnswer] = Kept(64)
_STOOD: Kept[str, Case] = Kept(64)


def case_of(body: TwinRequest, step_s: int | None = None, days: int = 1) -> tuple[Case, Records | None]:
    """The case that a request asks for, and the records of a stored weather file where it names one.

    Raises:
        NotFoundError: there is no such site, calibration or weather file.
        InputProblem: the load does not fit the build.
    """
    kind_of(body.spec).check_fit(body.spec, body.load)
    with context.database() as db:
        site = sites.get_site(db, body.site_id).site
        usual = sites.weather_on(db, body.site_id, site, body.day, body.sky)
        learnt = None if body.calibration is None else calibrations.get_calibration(db, body.calibration).factors
    records: Records | None = None
    weather: ClearDay | WeatherFile
    if isinstance(body.weather, StoredWeather):
        weather, records = _stored(body.weather)
    else:
        weather = body.weather or usual
    case = Case(
        site=site, spot=body.spot, build=body.spec, load=body.load, weather=weather,
        span=Span(start=body.day, days=days, step_s=step_s), calibration=learnt or TEXTBOOK,
    )  # fmt: skip
    return _STOOD.get(case.key, lambda: stood(case)), records


def _stored(weather: StoredWeather) -> tuple[WeatherFile, Records]:
    with context.database() as db:
        kind, text, name = weather_text(db, weather.id)
    return WeatherFile(kind=kind, path=name), read_weather(kind, text, name)


def site_of(site_id: int) -> Site:
    """A site by its number.

    Raises:
        NotFoundError: there is none.
    """
    with context.database() as db:
        return sites.get_site(db, site_id).site


def advice_context(body: TwinRequest) -> AdviceContext:
    """The day that advice is asked for."""
    return AdviceContext(*as_far_as_it_goes(body, 1 if body.load is None else body.load.looked_days, ADVICE_STEP_S))


def with_years(on: AdviceContext, body: TwinRequest) -> AdviceContext:
    """The same with the years of the stored file that is asked for, where it holds several."""
    if not isinstance(body.weather, StoredWeather):
        return on
    years = FromFile(on.case.site, _stored(body.weather)[1])
    return replace(on, measured=years) if len(years.whole) >= SEVERAL_YEARS else on


def as_far_as_it_goes(body: TwinRequest, most: int, step_s: int | None) -> tuple[Case, Weather]:
    """The case over so many days, or over fewer where the weather that was brought ends before."""
    for days in (days for days in (most, *FEWER_DAYS) if 1 < days <= most):
        with contextlib.suppress(GapInWeather):  # a forecast reaches no farther
            case, records = case_of(body, step_s, days)
            return case, weather_for(case, records)
    case, records = case_of(body, step_s)
    return case, weather_for(case, records)


def year_case(body: TwinRequest) -> Case:
    """The case of a year, which does not depend on the day and weather that the page shows."""
    case, _ = case_of(body)
    asked = usual_case(case.site, case.spot, case.build, case.load, date(case.span.start.year, 1, 1))
    return asked.with_(calibration=case.calibration)


def own_finishes() -> tuple[Absorber, ...]:
    """Finishes that the user has put on the shelf, as they came."""
    with context.database() as db:
        kept = [row.row for row in materials.list_materials(db) if row.family == "absorber"]
    return tuple(cast(list[Absorber], kept))


def day_answer(case: Case, records: Records | None = None) -> DayAnswer:
    """A day of a case; the same question again is answered from memory.

    Raises:
        InputProblem: the weather has a gap, or the load does not fit.
    """
    if records is not None:
        return _run(case, records)
    return _DAYS.get(case.key, lambda: _run(case, None))


def _run(case: Case, records: Records | None) -> DayAnswer:
    outcome, _ = forecast(case, weather_for(case, records))
    return DayAnswer(outcome=outcome, plan=day_plan(case.build, case.load, outcome))
