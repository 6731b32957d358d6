"""Runs of the twin on behalf of views, the last few kept in memory."""

from __future__ import annotations

from datetime import date
from functools import lru_cache

from drylamp.core.advice.plan import day_plan
from drylamp.core.builds.kinds import BUILD, BuildSpec
from drylamp.core.case import climate_day
from drylamp.core.engine import forecast, weather_of
from drylamp.core.loads.load import AnyLoad, read_load
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Records, SkyState, Span
from drylamp.core.twin import Adjustments
from drylamp.formats.weather_file import read_weather
from drylamp.store.sites import weather_text
from drylamp.web import context
from drylamp.web.models import DayAnswer, StoredWeather


def source_of(site: Site, day: date, sky: SkyState, weather: ClearDay | StoredWeather | None) -> ClearDay | Records:
    """The weather asked for: a day's numbers, a kept file, or the site's usual day."""
    if isinstance(weather, StoredWeather):
        with context.database() as db:
            kind, text, name = weather_text(db, weather.id)
        return read_weather(kind, text, name)
    return weather or climate_day(site, day, sky)


def day_answer(
    site: Site, spot: str | None, spec: BuildSpec, load: AnyLoad | None, day: date, sky: SkyState,
    weather: ClearDay | StoredWeather | None = None, adjustments: Adjustments | None = None,
) -> DayAnswer:  # fmt: skip
    """A day of a build under its calibration; the same question again is answered from memory.

    Raises:
        InputProblem: the site has no monthly means, the weather has a gap, or the load does not fit.
    """
    source = source_of(site, day, sky, weather)
    if isinstance(source, ClearDay):
        key = tuple("" if m is None else m.model_dump_json() for m in (site, spec, load, source, adjustments))
        return _kept(key[0], spot, key[1], key[2], key[3], key[4], day)
    return _run(site, spot, spec, load, source, day, adjustments)


@lru_cache(maxsize=64)
def _kept(site: str, spot: str | None, spec: str, load: str, source: str, adjustments: str, day: date) -> DayAnswer:
    return _run(
        Site.model_validate_json(site),
        spot,
        BUILD.validate_json(spec),
        read_load(load),
        ClearDay.model_validate_json(source),
        day,
        Adjustments.model_validate_json(adjustments) if adjustments else None,
    )


def _run(
    site: Site, spot: str | None, spec: BuildSpec, load: AnyLoad | None, source: ClearDay | Records, day: date,
    adjustments: Adjustments | None,
) -> DayAnswer:  # fmt: skip
    weather = weather_of(site, source, Span(start=day))
    outcome, _ = forecast(site, spot, spec, load, weather, adjustments=adjustments)
    return DayAnswer(outcome=outcome, plan=day_plan(spec, load, outcome))
