"""A case: everything one run of the twin needs, as one typed record that is also the file format."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.checks import InputProblem, Model
from drylamp.core.loads.load import Load
from drylamp.core.sky.site import Site, between_months
from drylamp.core.sky.weather import ClearDay, SkyState, Span, WeatherFile

FORMAT = 1
"""Version of the files that hold cases and builds."""


class Case(Model):
    """Site, build, load, weather and span."""

    format: Literal[1] = 1
    name: str = ""
    site: Site
    spot: str | None = None
    build: BuildSpec
    load: Load | None = None
    weather: Annotated[ClearDay | WeatherFile, Field(discriminator="kind")]
    span: Span


def climate_day(site: Site, day: date, sky: SkyState = "clear") -> ClearDay:
    """A usual day of the season from the site's monthly means, read between mid-months.

    Raises:
        InputProblem: the site has no monthly means.
    """
    if site.climate is None:
        raise InputProblem("site.climate", "this site has no monthly means; give them, or a day by its four numbers")
    usual = between_months(site.climate, day)
    return ClearDay(tmin_c=usual.tmin_c, tmax_c=usual.tmax_c, rh=max(usual.rh, 0.01), wind_m_s=usual.wind_m_s, sky=sky)
