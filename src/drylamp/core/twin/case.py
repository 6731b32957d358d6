"""A case: everything one run of the twin needs, as one typed record that is also the file format."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Celsius, Model
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.sky.months import between_months
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, SkyState, Span, WeatherFile
from drylamp.core.twin.calibration import Calibration

FORMAT = 1
"""Version of the files that hold cases and builds."""


class Case(Model):
    """Site, spot, build, load, weather, span and calibration.

    The weather here is what was asked for; a run also needs it laid out step by step, which is handed along beside the case:
    one case may be run on many weathers that could equally well be.
    """

    format: Literal[1] = 1
    name: str = ""
    site: Site
    spot: str | None = None
    build: BuildSpec
    load: LoadSpec | None = None
    weather: Annotated[ClearDay | WeatherFile, Field(discriminator="kind")]
    span: Span
    calibration: Calibration = Calibration()
    ground_c: Celsius | None = Field(
        default=None, description="Of the ground below, all through; as the season has it where nothing is said"
    )
    first_c: dict[str, Celsius] = Field(
        default_factory=dict,
        max_length=200,
        description="Temperatures at the start by node; the air's where nothing is said",
    )

    def with_(self, **fields: object) -> Case:
        """A copy with other values in some fields."""
        return self.model_copy(update=fields)

    @property
    def key(self) -> str:
        """Text that two cases share only when they are alike: to keep results by."""
        return self.model_dump_json()


def climate_day(site: Site, day: date, sky: SkyState = "clear") -> ClearDay:
    """A usual day of the season from the site's months, own or rough, read between mid-months."""
    usual = between_months(site.months, day)
    return ClearDay(
        tmin_c=usual.tmin_c, tmax_c=usual.tmax_c, rh=max(usual.rh, 0.01), wind_m_s=usual.wind_m_s, sky=sky,
        rough=site.climate_is_rough,
    )  # fmt: skip


def usual_case(site: Site, spot: str | None, build: BuildSpec, load: LoadSpec | None, day: date) -> Case:
    """A build on a usual clear day of the season."""
    return Case(site=site, spot=spot, build=build, load=load, weather=climate_day(site, day), span=Span(start=day))
