"""Dry boards in store: what they take up again, week by week."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

import numpy as np

from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT
from drylamp.core.heat import boards
from drylamp.core.heat.cells import CELLS, SHARES
from drylamp.core.heat.drying import KELVIN
from drylamp.core.loads.common.wood import equilibrium_mc
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.sky.months import between_months
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import saturation_pressures

STORES: tuple[tuple[str, float | None, float | None], ...] = (
    ("in a heated room", 20.0, 0.42),
    ("in an unheated room in winter", None, None),
)
"""Places with their warmth and humidity; where nothing is said, those of the site's dampest month. Heated rooms: common practice, no source."""
TIGHT_W_M2K = 1.5
"""Film of boards stacked with sticks in a still room; from memory."""
WEEKS, STEP_S = 26, 300.0


def regained(site: Site, start_mc: float) -> Iterator[tuple[str, float, float]]:
    """For each place what boards of an inch take up in the first week, and where they end."""
    for title, warm, damp in STORES:
        celsius, rh = _dampest(site) if warm is None or damp is None else (warm, damp)
        series = _kept(celsius, rh, start_mc)
        week = round(7 * 86400.0 / STEP_S)
        yield title, float(series[week] - start_mc), equilibrium_mc(celsius, rh)


def _dampest(site: Site) -> tuple[float, float]:
    months = [between_months(site.months, date(2001, month, 15)) for month in range(1, 13)]
    worst = max(months, key=lambda month: equilibrium_mc((month.tmin_c + month.tmax_c) / 2.0, min(month.rh, 0.98)))
    return (worst.tmin_c + worst.tmax_c) / 2.0, min(worst.rh, 0.98)


def _kept(celsius: float, rh: float, start_mc: float) -> np.ndarray:
    """Mean moisture by steps."""
    group = BoardGroup(start="measured", start_mc=start_mc)
    steps = round(WEEKS * 7 * 86400.0 / STEP_S)
    air = np.full(steps, celsius)
    vapour = saturation_pressures(air) * rh / (VAPOUR_GAS_CONSTANT * (air + KELVIN))
    series, nothing = np.empty((steps, CELLS + 1)), np.zeros(steps)
    boards.dried_in_air(
        group.cells.reshape(1, -1).copy(), group.board, celsius, air, vapour, np.full(steps, TIGHT_W_M2K), nothing, nothing, STEP_S, series
    )  # fmt: skip
    return np.asarray(series[:, :CELLS] @ SHARES)
