"""How fast a wet piece loses water: diffusion to its surface in a row with the air's film over it.

Moisture contents X are kg of water per kg of dry matter. A piece is a slab that is open on both sides, or is whole in a skin
that lets a share through; it shrinks by the water that it has lost.
Water comes to the surface by diffusion and leaves it by the vapour pressure over it:

    k (X − X_s) = a h_m (ρ_v(a_w(X_s), T) − ρ_v,air),   k = π² D(T) / (4 L²)

with L its thickness over its open sides. The surface's X_s is where both are equal. Wet, the right side rules (a wet
bulb); dry, the left (a falling rate). Where the air is damper than the surface, water goes in.

References:
    First term of the slab's series (Crank 1975). Film: Lewis relation, h_m = h/(ρ c_p Le^⅔), Le^⅔ = 0.90 (Chilton & Colburn 1934). Isotherm: GAB (van den Berg 1984).
"""

from __future__ import annotations

import math

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.compiled import inlined

GAS_CONSTANT, REFERENCE_C, KELVIN = 8.314, 60.0, 273.15
LE_SHARE, AIR_KG_M3 = 0.90, 1.10
LATENT_J_KG = 2.40e6
"""Of water at 45 °C (CoolProp: 2.394e6)."""
SOLIDS_KG_M3, WATER_KG_M3 = 1500.0, 1000.0
"""Dry matter of food, sugar and fibre alike; from memory."""
WATER_CP = 4180.0
PIECE_WIDTH = 7
"""Numbers of a piece: fresh moisture, thickness, open sides, diffusivity at 60 °C, and X_m, C, K of its isotherm."""
Numbers = tuple[float, float, float, float, float, float, float]
"""They are handed on one by one: an array would be counted at every call."""
SLOPE_K = 0.1
CLOSE_ENOUGH, MOST_TRIES = 1e-11, 40


@inlined
def wet_share(moisture: float, monolayer: float, bound: float, multi: float) -> tuple[float, float]:
    """Water activity of a moisture content, and its slope: the isotherm turned round, a quadratic in K a; 1 at most."""
    if moisture <= 0.0:
        return 0.0, 1.0 / (monolayer * bound * multi)
    share = monolayer / moisture
    a, b = 1.0 - bound, bound - 2.0 - bound * share
    root = math.sqrt(max(b * b - 4.0 * a, 1e-30))
    held = (-b - root) / (2.0 * a) if a != 0.0 else -1.0 / b
    activity = held / multi
    if activity >= 1.0:
        return 1.0, 0.0
    return max(activity, 0.0), max(held, 0.0) * bound * share / (moisture * root * multi)


@inlined
def saturated_kg_m3(celsius: float) -> float:
    """Vapour in saturated air."""
    return saturation_pressure_pa(celsius) / (VAPOUR_GAS_CONSTANT * (celsius + KELVIN))


@inlined
def film_kg(film_w_m2k: float) -> float:
    """Vapour that a film carries for a difference of 1 kg/m³, m/s."""
    return film_w_m2k / (AIR_KG_M3 * CP_AIR * LE_SHARE)


@inlined
def _volume_m3(moisture: float) -> float:
    """Of what holds a kilogram of dry matter."""
    return 1.0 / SOLIDS_KG_M3 + moisture / WATER_KG_M3


@inlined
def shown_m2(moisture: float, piece: Numbers) -> float:
    """Area that a kilogram of dry matter shows to the air, m²."""
    shrunk = _volume_m3(max(moisture, 0.0)) / _volume_m3(piece[0])
    return float(piece[2] * _volume_m3(piece[0]) / piece[1] * shrunk ** (2.0 / 3.0))


@inlined
def _inside_per_s(moisture: float, celsius: float, piece: Numbers, activation_j_mol: float) -> float:
    """How fast water comes to the surface for a difference of 1 kg/kg."""
    shrunk = _volume_m3(max(moisture, 0.0)) / _volume_m3(piece[0])
    deep = piece[1] * shrunk ** (1.0 / 3.0) / piece[2]
    arrhenius = math.exp(-activation_j_mol / GAS_CONSTANT * (1.0 / (celsius + KELVIN) - 1.0 / (REFERENCE_C + KELVIN)))
    return float(math.pi**2 * piece[3] * arrhenius / (4.0 * deep * deep))


@inlined
def _surface(moisture: float, inside: float, outside: float, full: float, air_kg_m3: float, piece: Numbers, guess: float) -> float:  # fmt: skip
    """Moisture at the surface where what comes is what leaves: Newton's steps, halved where they would leave the bracket."""
    low, high = 0.0, moisture + 2.0
    at = min(max(guess, low), high)
    for _ in range(MOST_TRIES):
        activity, slope = wet_share(at, piece[4], piece[5], piece[6])
        over = inside * (moisture - at) - outside * (activity * full - air_kg_m3)
        if over > 0.0:
            low = at
        else:
            high = at
        step = over / (inside + outside * slope * full)
        if not low < at + step < high:
            step = 0.5 * (low + high) - at
        at += step
        if abs(step) < CLOSE_ENOUGH * (1.0 + at):
            break
    return at


@inlined
def drying_terms(
    moisture: float, celsius: float, piece: Numbers, air_kg_m3: float, film_w_m2k: float, activation_j_mol: float, guess: float
) -> tuple[float, float, float, float]:  # fmt: skip
    """Water that a kilogram of dry matter loses, kg/s; how that grows with its temperature and falls with the air's vapour (per kg/m³); moisture of its surface.

    Parameters
    ----------
    moisture, celsius
        of the piece
    piece
        its PIECE_WIDTH numbers
    air_kg_m3
        vapour in the air round it
    film_w_m2k
        of the air on it
    guess
        about the surface's moisture
    """
    inside = _inside_per_s(moisture, celsius, piece, activation_j_mol)
    outside = shown_m2(moisture, piece) * film_kg(film_w_m2k)
    full = saturated_kg_m3(celsius)
    at = _surface(moisture, inside, outside, full, air_kg_m3, piece, guess)
    activity, slope = wet_share(at, piece[4], piece[5], piece[6])
    yields = inside + outside * slope * full
    kelvin = celsius + KELVIN
    quicker = inside * activation_j_mol / (GAS_CONSTANT * kelvin * kelvin) * (moisture - at)
    steeper = outside * activity * (saturated_kg_m3(celsius + SLOPE_K) - full) / SLOPE_K
    by_warmth = quicker - inside * (quicker - steeper) / yields
    return inside * (moisture - at), by_warmth, inside * outside / yields, at
