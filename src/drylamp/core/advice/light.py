"""Light that reaches what is wanted hot: at instants, and over each month's middle day under a clear sky."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.load import Load
from drylamp.core.sky.clock import day_edges_s
from drylamp.core.sky.weather import Weather, clear_days
from drylamp.core.twin.case import climate_day
from drylamp.core.twin.light import SpotLight

LIT = 0.02
"""Sine of the sun's height under which nobody counts on it."""
STEP_S = 900.0
"""Between two instants that are tried."""
MONTHS = range(1, 13)


def beam_of(context: AdviceContext, weather: Weather) -> Array:
    """Beam at the spot by step, W/m²."""
    return SpotLight.of(context.case.site, context.case.spot, weather).plan.light.beam_w_m2


def month_sky(context: AdviceContext, month: int) -> tuple[Array, Array]:
    """Beam of a month's middle day, W/m², shape (n,), and the way it comes from, shape (n, 3)."""
    site, middle = context.case.site, date(context.case.span.start.year, month, 15)
    weather = clear_days(site, climate_day(site, middle), *day_edges_s(site.zone, middle), STEP_S)
    window = weather.sun.direction[:, 2] > LIT
    return beam_of(context, weather)[window], weather.sun.direction[window]


def light_by_sky(build: Build, load: Load | None, skies: list[tuple[Array, Array]]) -> list[float]:
    """Area that takes up beam, mean by the beam of each day, m²."""
    wanted = wanted_light(build, load)
    return [float(wanted(toward) @ beam / max(float(beam.sum()), 1e-9)) for beam, toward in skies]


def on_load(build: Build, load: Load | None, toward: Array) -> Array:
    """Area of beam in load and tray for each direction, m²."""
    return wanted_light(build, load)(toward)


def wanted_light(build: Build, load: Load | None) -> Callable[[Array], Array]:
    """Its bounces solved once: gives the area of beam in load and tray for directions, m²."""
    kind = kind_of(build)
    optics = kind.optics(build, load)
    wanted = kind.useful(build, load) | {kind.stagnation_node(build)}
    columns = [k for k, node in enumerate(kind.lit_nodes(build, load)) if node in wanted]
    return lambda toward: np.asarray(optics.along_path(toward)[0][:, columns].sum(axis=1))
