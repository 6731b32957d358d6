"""The same wood left to dry outside: each group as it would be in a stack in the open, in the run's own weather."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT
from drylamp.core.arrays import Array
from drylamp.core.heat import boards
from drylamp.core.heat.cells import BLOWN_POWER, CELLS, SHARES
from drylamp.core.heat.drying import KELVIN
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.spec import BLOWN_W_M2K, LumberCharge
from drylamp.core.sky.of_span import spells
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather, saturation_pressures

THROUGH, SINKS_W_M2K = 0.3, 0.6
"""Share of the wind at a stack that blows between its layers, and film of the air that cools and sinks through it in a calm; so that pine takes weeks and not days, from memory (FPL-GTR-117)."""
AIR_KG_M3 = 1.2
DAMP_UNDER_M, DAMP_MORE = 0.5, 0.25
"""Under this height air over the ground is damper: at the ground by so much of what it lacks to being full. From memory."""
WOOD_TAKES = 0.55
RAINS_MM_H = 0.1
OLDEST_DAYS = 3 * 366
"""A stack that has stood for longer is not reckoned from its sawing."""
SEED = 41
"""Usual weather of a stack, as for a charge that has stood."""
SOAKED = {"open": (0.30, 0.05), "roof": (0.05, 0.02), "shed": (0.0, 0.0)}
"""Share of the faces that rain wets, bare and covered; from memory."""


@dataclass(frozen=True)
class Outside:
    """A group in its stack outside.

    Attributes:
        cells: from core to face at the run's edges, shape (steps + 1, CELLS); NaN before it was stacked
        celsius: shape (steps + 1,)
    """

    cells: Array
    celsius: Array

    @property
    def mean_mc(self) -> Array:
        """Shape (steps + 1,)."""
        return np.asarray(self.cells @ SHARES)


def dried_outside(load: LumberCharge, group: BoardGroup, weather: Weather, first: int) -> Outside:
    """March it from a step on."""
    made, rows = load.outside, slice(first, weather.steps)
    wind, air = weather.wind_m_s[rows] * made.wind_share, weather.air_c[rows]
    film = _film_w_m2k(load, wind) if made.film_w_m2k is None else np.full(len(wind), made.film_w_m2k)
    full = saturation_pressures(air)
    damper = DAMP_MORE * max(1.0 - made.high_m / DAMP_UNDER_M, 0.0)
    vapour = full * (weather.rh[rows] + damper * (1.0 - weather.rh[rows])) / (VAPOUR_GAS_CONSTANT * (air + KELVIN))
    sun = made.sun_share * WOOD_TAKES * weather.ghi_w_m2[rows] * load.top_share
    series = np.empty((len(air), CELLS + 1))
    board = (*group.board[:-1], load.wets_by)
    boards.dried_in_air(
        group.outside_cells.reshape(1, -1).copy(), board, load.start_c, np.ascontiguousarray(air), np.ascontiguousarray(vapour), np.ascontiguousarray(film), np.ascontiguousarray(sun),
        _soaked(load, weather, rows), weather.dt_s, series,
    )  # fmt: skip
    cells, celsius = np.full((weather.steps + 1, CELLS), np.nan), np.full(weather.steps + 1, np.nan)
    cells[first], cells[first + 1 :] = group.outside_cells, series[:, :CELLS]
    celsius[first], celsius[first + 1 :] = load.start_c, series[:, CELLS]
    return Outside(cells, celsius)


def usually_outside(site: Site, load: LumberCharge, since: date, until: date) -> float:
    """Mean moisture of a stack of one group after days as they usually come."""
    return float(SHARES @ left_outside(site, load, since, until))


def left_outside(site: Site, load: LumberCharge, since: date, until: date) -> Array:
    """Its cells from core to face then, shape (CELLS,)."""
    cells = load.numbered[0].outside_cells
    for _, weather in spells(site, since, until, SEED):
        group = load.numbered[0].model_copy(update={"outside_as_left": cells.tolist()})
        cells = dried_outside(load, group, weather, 0).cells[-1]
    return np.asarray(cells)


def _film_w_m2k(load: LumberCharge, wind_m_s: Array) -> Array:
    """Film of a stack in the wind: h (1 − e^−NTU)/NTU, as air that goes through it slowly is soon spent; by cubes with what sinks in a calm."""
    through = THROUGH * np.maximum(wind_m_s, 1e-3)
    film = BLOWN_W_M2K * through**BLOWN_POWER
    stack = load.stacked()
    assert stack is not None
    units = film * stack.faces_m2 / (AIR_KG_M3 * CP_AIR * through * stack.open_m2)
    return np.asarray(np.cbrt(SINKS_W_M2K**3 + (film * -np.expm1(-units) / units) ** 3))


def _soaked(load: LumberCharge, weather: Weather, rows: slice) -> Array:
    """Share of the faces that rain wets, step by step."""
    rain = np.zeros(weather.steps) if weather.rain_mm_h is None else weather.rain_mm_h
    bare, covered = SOAKED[load.outside.shelter]
    return np.where(rain[rows] > RAINS_MM_H, covered if load.outside.covered else bare, 0.0)
