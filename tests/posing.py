"""Cases as tests pose them: a build at a place, run on a weather that the test has at hand."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from drylamp.core.builds.build import Build
from drylamp.core.engine import forecast
from drylamp.core.loads.load import Load
from drylamp.core.outcome.summary import Outcome, summarise
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.twin.calibration import TEXTBOOK, Calibration
from drylamp.core.twin.case import Case, usual_case
from drylamp.core.twin.placements import Placement
from drylamp.core.twin.prepared import Prepared, prepare, simulate
from drylamp.core.twin.run import Run

DAY = date(2025, 6, 12)


def posed(
    site: Site, spot: str | None, build: Build, load: Load | None = None, calibration: Calibration = TEXTBOOK, day: date = DAY
) -> Case:  # fmt: skip
    """A case; the weather that it names is the usual one of a day."""
    return usual_case(site, spot, build, load, day).with_(calibration=calibration)


def simulated(
    site: Site, spot: str | None, build: Build, load: Load | None, weather: Weather, calibration: Calibration = TEXTBOOK
) -> Run:  # fmt: skip
    return simulate(posed(site, spot, build, load, calibration), weather)


def prepared(
    site: Site, placements: Sequence[Placement] | None, build: Build, load: Load | None, weather: Weather
) -> Prepared:  # fmt: skip
    return prepare(posed(site, None, build, load), weather, placements)


def forecasted(
    site: Site, spot: str | None, build: Build, load: Load | None, weather: Weather
) -> tuple[Outcome, Run]:  # fmt: skip
    return forecast(posed(site, spot, build, load), weather)


def summarised(site: Site, build: Build, load: Load | None, run: Run, empty: Run | None = None) -> Outcome:
    return summarise(posed(site, None, build, load), run, empty)
