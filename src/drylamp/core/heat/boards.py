"""Boards as they dry: water on its way from the core to the face, and from the face into the air.

Moisture contents u are kg of water per kg of oven-dry wood. A board is its half thickness, cut into CELLS from the core to the face, the finer the nearer to the face. Water goes down the slope of u by

    D(u, T) = D₆₀ exp(−E/R (1/T − 1/T₆₀)) exp(b (min(u, u_f) − u_f)) · (free water's share above u_f)

and leaves the face by the vapour pressure over it, h(u_s, T) p_sat(T), h by the sorption isotherm. A step is implicit: cells are swept from core to face, which makes
the face's moisture a straight line in what leaves it, u_s = a − B J; that meets the film and the isotherm in one unknown, h. When the step is done, what really left is filled back into the cells, so
that water closes to rounding.

    core │  …  │     │   │  │ │ face → J
          0      CELLS − 1

References:
    Isotherm: Hailwood & Horrobin 1946 with the coefficients of the Wood Handbook, ch. 4, which lie midway between drying and wetting; the two apart by a ratio.
    Diffusion that grows with moisture and warmth: Simpson 1993 (FPL-RP-518) in form; numbers by ``scripts/calibrate_boards``. Heat of sorption: Stanish, Schajer & Kayihan 1986,
    0.4 L (1 − u/u_f)², from memory.
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, inlined, woven
from drylamp.core.heat.cells import (
    BLOWN_POWER,
    CELLS,
    FIBRE_SATURATION,
    FREED_OVER,
    WIDTHS,
    WOOD_CP,
    WOOD_CP_PER_K,
    Numbers,
)
from drylamp.core.heat.drying import GAS_CONSTANT, KELVIN, LATENT_J_KG, REFERENCE_C, WATER_CP, film_kg, saturated_kg_m3

SORPTION_SHARE = 0.4
LEAST_H, COLDEST_C, HOTTEST_C = 1e-4, -20.0, 132.0
SLOPE_K, CLOSE_ENOUGH, MOST_TRIES = 0.1, 1e-9, 40
FROZEN_SHARE, FREEZES_OVER_K = 0.15, 2.0
"""Of diffusion left where the water in wood is ice, and the kelvin below nothing over which it freezes; from memory."""
MOST_WET = 0.60
"""To which rain soaks a face; from memory."""


@inlined
def emc(h: float, celsius: float) -> tuple[float, float]:
    """Moisture that wood comes to at a relative humidity h (0–1), and its slope, midway between drying and wetting; below the freezing point as at it."""
    t = min(max(celsius, -1.0), HOTTEST_C)
    w = 349.0 + 1.29 * t + 0.0135 * t * t
    k = (0.805 + 0.000736 * t - 0.00000273 * t * t) * h
    k1 = 6.27 - 0.00938 * t - 0.000303 * t * t
    k12 = k1 * (1.91 + 0.0407 * t - 0.000293 * t * t)
    open_, below = 1.0 - k, 1.0 + k1 * k + k12 * k * k
    first, second = k1 * k + 2.0 * k12 * k * k, k1 + 2.0 * k12 * k
    loose, bound = k / open_, first / below
    slope = 1.0 / (open_ * open_) + ((k1 + 4.0 * k12 * k) * below - first * second) / (below * below)
    return 18.0 / w * (loose + bound), 18.0 / w * slope * k / max(h, LEAST_H)


@inlined
def diffusion_m2_s(moisture: float, warmed: float, board: Numbers) -> float:
    """Of water at a moisture content; ``warmed`` is the Arrhenius factor."""
    below = min(moisture, FIBRE_SATURATION) - FIBRE_SATURATION
    free = min(max((moisture - FIBRE_SATURATION) / FREED_OVER, 0.0), 1.0)
    return float(board[1] * warmed * math.exp(board[3] * below) * (1.0 + free * (board[4] - 1.0)))


@inlined
def arrhenius(celsius: float, activation_j_mol: float) -> float:
    """How much faster water goes at a temperature than at 60 °C; what freezes hardly goes at all."""
    kelvin = min(max(celsius, COLDEST_C), HOTTEST_C) + KELVIN
    frozen = min(max(-celsius / FREEZES_OVER_K, 0.0), 1.0)
    return float(
        math.exp(-activation_j_mol / GAS_CONSTANT * (1.0 / kelvin - 1.0 / (REFERENCE_C + KELVIN))) * (1.0 - (1.0 - FROZEN_SHARE) * frozen)
    )  # fmt: skip


@woven
def sweep(cells: Array, swept: Array, r: int, dry_kg: float, celsius: float, board: Numbers, h: float) -> tuple[float, float]:  # fmt: skip
    """Sweep from core to face over ``h`` seconds: the face's moisture is a − B J, J in kg/s of all boards; keeps what fills back.

    ``swept`` keeps α and β of u_i = α + β u_(i+1), of the last cell those of u = α − β J.
    """
    half = board[0]
    gain = arrhenius(celsius, board[2])
    scale = dry_kg / (half * half)  # k = ρ A D/dx, and ρ A = dry/half
    before, carried, come = 0.0, 0.0, 0.0
    here = diffusion_m2_s(cells[r, 0], gain, board)
    for i in range(CELLS - 1):
        there = diffusion_m2_s(cells[r, i + 1], gain, board)
        step = 0.5 * (WIDTHS[i] / here + WIDTHS[i + 1] / there)
        onward = scale / step
        held = dry_kg * WIDTHS[i] / h
        whole = held + onward + before * (1.0 - carried)
        swept[r, i] = (held * cells[r, i] + before * come) / whole
        swept[r, CELLS + i] = onward / whole
        before, come, carried, here = onward, swept[r, i], swept[r, CELLS + i], there
    held = dry_kg * WIDTHS[CELLS - 1] / h
    whole = held + before * (1.0 - carried)
    a, b = (held * cells[r, CELLS - 1] + before * come) / whole, 1.0 / whole
    swept[r, CELLS - 1], swept[r, 2 * CELLS - 1] = a, b
    return a, b + 0.5 * WIDTHS[CELLS - 1] / (scale * here)


@woven
def fill_back(cells: Array, swept: Array, r: int, dry_kg: float, kg_s: float) -> float:
    """Put what really left into the cells; returns the heat that loosening it took beside its latent heat, J (below nothing: it was set free)."""
    taken = 0.0
    at = swept[r, CELLS - 1] - swept[r, 2 * CELLS - 1] * kg_s
    for k in range(CELLS):
        i = CELLS - 1 - k
        if k > 0:
            at = swept[r, i] + swept[r, CELLS + i] * at
        taken += WIDTHS[i] * (_loosening_j_kg(cells[r, i]) - _loosening_j_kg(at))
        cells[r, i] = at
    return taken * dry_kg


@inlined
def _loosening_j_kg(moisture: float) -> float:
    """Heat that a kilogram of dry wood set free when it took up so much water from nothing, beside the vapour's latent heat: the integral of 0.4 L (1 − u/u_f)²."""
    left = 1.0 - min(max(moisture, 0.0), FIBRE_SATURATION) / FIBRE_SATURATION
    return SORPTION_SHARE * LATENT_J_KG * FIBRE_SATURATION / 3.0 * (1.0 - left * left * left)


@inlined
def _balanced(
    a: float, b: float, out: float, full: float, air_kg_m3: float, celsius: float, times: float, guess: float
) -> float:
    """Relative humidity over the face where what the wood brings is what the film takes: Newton's steps, halved where they would leave the bracket."""
    low, high = 0.0, 1.0
    at = min(max(guess, LEAST_H), 1.0)
    for _ in range(MOST_TRIES):
        moisture, slope = emc(at, celsius)
        over = a - b * out * (at * full - air_kg_m3) - times * moisture
        if over > 0.0:
            low = at
        else:
            high = at
        step = over / (b * out * full + times * slope)
        if not low < at + step < high:
            step = 0.5 * (low + high) - at
        at += step
        if abs(step) < CLOSE_ENOUGH:
            break
    return at


@inlined
def board_terms(
    a: float, b: float, out: float, celsius: float, air_kg_m3: float, ratio: float, guess: float
) -> tuple[float, float, float, float]:
    """Water that boards lose, kg/s; how that grows with their temperature and falls with the air's vapour (per kg/m³); relative humidity over their face.

    Parameters
    ----------
    a, b
        of the face's moisture a − b J
    out
        film times area, m³/s
    air_kg_m3
        vapour in the air
    ratio
        wetting isotherm over drying isotherm; between the two nothing moves
    guess
        about the humidity over the face
    """
    full = saturated_kg_m3(celsius)
    dries = 2.0 / (1.0 + ratio)
    here, _ = emc(min(air_kg_m3 / full, 1.0), celsius)
    wets = a < ratio * dries * here or air_kg_m3 > full
    if a <= dries * here and not wets:
        return 0.0, 0.0, 0.0, min(air_kg_m3 / full, 1.0)
    times = ratio * dries if wets else dries
    steeper = (saturated_kg_m3(celsius + SLOPE_K) - full) / SLOPE_K
    most, _ = emc(1.0, celsius)
    if a - b * out * (full - air_kg_m3) >= times * most:
        return out * (full - air_kg_m3), out * steeper, out, 1.0
    at = _balanced(a, b, out, full, air_kg_m3, celsius, times, guess)
    moisture, slope = emc(at, celsius)
    warmer, _ = emc(at, celsius + SLOPE_K)
    slope, drier = times * slope, times * (warmer - moisture) / SLOPE_K
    yields = 1.0 + out * full * b / slope
    by_warmth = out * (at * steeper - full * drier / slope) / yields
    return out * (at * full - air_kg_m3), by_warmth, out / yields, at


@inlined
def stack_film_w_m2k(still: float, blown: float, flow_share: float, area_m2: float, flow_w_k: float, spent: float) -> float:  # fmt: skip
    """Film of boards in a stack: still air's, and blown air's at a share of its full flow, by cubes; air that has passed much of the stack has less left to give.

    h (1 − e^(−NTU))/NTU with NTU = h A/(ṁ c_p) (Incropera & DeWitt 8.42 in form); ``spent`` 0 leaves that out.
    """
    film = blown * flow_share**BLOWN_POWER if flow_share > 0.0 else 0.0
    if spent > 0.0 and film > 0.0:
        units = film * area_m2 / max(flow_w_k, 1e-9)
        film *= (1.0 - math.exp(-units)) / units if units > 1e-6 else 1.0
    return float(np.cbrt(still * still * still + film * film * film))


@inlined
def wood_cp(celsius: float) -> float:
    """Heat capacity of dry wood, J/kgK."""
    return WOOD_CP + WOOD_CP_PER_K * celsius


@compiled
def dried_in_air(
    cells: Array, board: Numbers, start_c: float, air_c: Array, air_kg_m3: Array, film_w_m2k: Array, sun_w_m2: Array, soaked: Array, dt_s: float, series: Array
) -> float:  # fmt: skip
    """March boards in air that they do not change; ``cells`` (1, CELLS) are changed, ``series`` (n, CELLS + 1) gets each step's cells at its end and its warmth. Per square metre of face.

    Parameters
    ----------
    air_c, air_kg_m3, film_w_m2k, sun_w_m2 : array, shape (n,)
        Air, its vapour, film, and sun taken up by each square metre of face.
    soaked : array, shape (n,)
        Share of the faces that rain wets.

    Returns
    -------
    Temperature at the end.
    """
    dry_kg, celsius, over = board[0] * board[5], start_c, 1.0
    swept = np.empty((1, 2 * CELLS))
    for n in range(air_c.shape[0]):
        a, b = sweep(cells, swept, 0, dry_kg, celsius, board, dt_s)
        out = film_kg(film_w_m2k[n])
        rate, warmth, _, over = board_terms(a, b, out, celsius, air_kg_m3[n], board[6], over)
        water = 0.0
        for i in range(CELLS):
            water += WIDTHS[i] * cells[0, i]
        heat = dry_kg * (wood_cp(celsius) + WATER_CP * water)
        push = film_w_m2k[n] * (air_c[n] - celsius) + sun_w_m2[n] - LATENT_J_KG * rate
        rise = dt_s * push / (heat + dt_s * (film_w_m2k[n] + LATENT_J_KG * max(warmth, 0.0)))
        left = rate + warmth * rise
        if soaked[n] > 0.0:
            left = (1.0 - soaked[n]) * left + soaked[n] * (a - max(MOST_WET, a)) / b
        celsius += rise
        loosened = fill_back(cells, swept, 0, dry_kg, left)
        celsius -= loosened / heat
        for i in range(CELLS):
            series[n, i] = cells[0, i]
        series[n, CELLS] = celsius
    return celsius
