"""One piece of food as it dries: water inside, water activity at its surface, and the air's film over it.

Moisture contents X are kg of water per kg of dry matter. A piece is a slab that is open on both sides, or is whole in a skin
that lets a share through; it shrinks by the water that it has lost.
Water comes to the surface by diffusion and leaves it by the vapour pressure over it:

    k (X − X_s) = a h_m (ρ_v(a_w(X_s), T) − ρ_v,air),   k = π² D(T) / (4 L²)

with L its thickness over its open sides. The surface's X_s is where both are equal. Wet, the right side rules (a wet
bulb); dry, the left (a falling rate).

References:
    First term of the slab's series (Crank 1975). Film: Lewis relation, h_m = h/(ρ c_p Le^⅔), Le^⅔ = 0.90 (Chilton & Colburn 1934). Isotherm: GAB (van den Berg 1984). Numbers of both by group of foods
    in ``GROUPS``, from memory; diffusivities calibrated by ``scripts/calibrate_drying`` against dehydrator hours.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, inlined
from drylamp.core.tables import Produce

GAS_CONSTANT, REFERENCE_C, KELVIN = 8.314, 60.0, 273.15
ACTIVATION_J_MOL, ACTIVATION_DOUBT_J_MOL = 30000.0, 10000.0
"""Of diffusion in food; its doubt is carried along."""
LE_SHARE, AIR_KG_M3 = 0.90, 1.10
LATENT_J_KG = 2.40e6
"""Of water at 45 °C (CoolProp: 2.394e6)."""
SOLIDS_KG_M3, WATER_KG_M3 = 1500.0, 1000.0
"""Dry matter of food, sugar and fibre alike; from memory."""
SKIN_SHARE = 0.3
"""What an uncut skin, dipped, lets through against a cut face; from memory."""
DRY_CP, WATER_CP = 1500.0, 4180.0


@dataclass(frozen=True)
class Stuff:
    """What foods of a group have in common.

    Attributes:
        diffusion_m2_s: of water at 60 °C
        monolayer, bound, multi: X_m, C and K of the GAB isotherm
    """

    diffusion_m2_s: float
    monolayer: float
    bound: float
    multi: float


GROUPS: dict[str, Stuff] = {
    "fruit": Stuff(4.9e-10, 0.130, 5.0, 0.98),
    "vegetable": Stuff(5.1e-10, 0.080, 8.0, 0.95),
    "leaf": Stuff(1.1e-11, 0.070, 12.0, 0.92),
    "mushroom": Stuff(4.7e-10, 0.075, 15.0, 0.95),
    "meat": Stuff(5.0e-10, 0.065, 12.0, 0.96),
}
"""Diffusivities as calibrated, meat's from memory; isotherms from memory (usual ranges of reviews at 30 °C)."""


def equilibrium(stuff: Stuff, activity: Array | float) -> Array:
    """Moisture content in balance with a water activity: X_m C K a / ((1 − K a)(1 − K a + C K a))."""
    wet = stuff.multi * np.asarray(activity, dtype=float)
    return np.asarray(stuff.monolayer * stuff.bound * wet / ((1.0 - wet) * (1.0 - wet + stuff.bound * wet)))


@inlined
def activity_of(moisture: float, monolayer: float, bound: float, multi: float) -> float:
    """Water activity of a moisture content: the isotherm turned round, a quadratic in K a; 1 at most."""
    if moisture <= 0.0:
        return 0.0
    share = monolayer / moisture
    a, b, c = 1.0 - bound, bound - 2.0 - bound * share, 1.0
    root = math.sqrt(max(b * b - 4.0 * a * c, 0.0))
    wet = (-b - root) / (2.0 * a) if a != 0.0 else -c / b
    return min(max(wet / multi, 0.0), 1.0)


@dataclass(frozen=True)
class Piece:
    """A piece of a food as it is cut.

    Attributes:
        stuff: its group's numbers
        fresh, safe: moisture contents fresh and dry enough to keep, kg/kg
        thick_m: fresh
        open_sides: 2; of what is whole in its skin, twice the share that a skin lets through
    """

    stuff: Stuff
    fresh: float
    safe: float
    thick_m: float
    open_sides: float

    @classmethod
    def of(cls, row: Produce, thick_m: float | None = None) -> Piece:
        """As its row says, or cut to another thickness."""
        return cls(
            GROUPS[row.group],
            dry_basis(row.fresh_wb),
            dry_basis(row.safe_wb),
            row.thick_m if thick_m is None else thick_m,
            row.open_sides,
        )

    @property
    def numbers(self) -> Array:
        """As the compiled code takes it: fresh, thickness, open sides, diffusivity, X_m, C, K."""
        made = self.stuff
        return np.array(
            [self.fresh, self.thick_m, self.open_sides, made.diffusion_m2_s, made.monolayer, made.bound, made.multi]
        )


def dry_basis(wet: float) -> float:
    """Kilograms of water per kilogram of dry matter, from the share of water that the kitchen speaks of."""
    return wet / (1.0 - wet)


def wet_basis(moisture: float) -> float:
    """The other way round."""
    return moisture / (1.0 + moisture)


@inlined
def _volume_m3(moisture: float) -> float:
    """Of what holds a kilogram of dry matter."""
    return 1.0 / SOLIDS_KG_M3 + moisture / WATER_KG_M3


@compiled
def drying_rate(
    moisture: float, celsius: float, piece: Array, air_kg_m3: float, film_w_m2k: float, activation_j_mol: float
) -> tuple[float, float]:
    """Water that a piece loses, kg/s per kg of dry matter, and the area that it shows, m² per kg of dry matter.

    Parameters
    ----------
    moisture, celsius
        of the piece
    piece
        as ``Piece.numbers``
    air_kg_m3
        vapour in the air round it
    film_w_m2k
        of the air on it
    """
    fresh, thick, sides, diffusion, monolayer, bound, multi = piece
    shrunk = _volume_m3(moisture) / _volume_m3(fresh)
    slab, area = thick * shrunk ** (1.0 / 3.0), sides * _volume_m3(fresh) / thick * shrunk ** (2.0 / 3.0)
    deep = slab / sides
    arrhenius = math.exp(-activation_j_mol / GAS_CONSTANT * (1.0 / (celsius + KELVIN) - 1.0 / (REFERENCE_C + KELVIN)))
    inside = math.pi**2 * diffusion * arrhenius / (4.0 * deep * deep)
    film = film_w_m2k / (AIR_KG_M3 * CP_AIR * LE_SHARE)
    full = saturation_pressure_pa(celsius) / (VAPOUR_GAS_CONSTANT * (celsius + KELVIN))
    low, high = 0.0, moisture + 2.0
    for _ in range(40):
        surface = 0.5 * (low + high)
        leaves = area * film * (activity_of(surface, monolayer, bound, multi) * full - air_kg_m3)
        if inside * (moisture - surface) > leaves:
            low = surface
        else:
            high = surface
    return inside * (moisture - 0.5 * (low + high)), area


@compiled
def dried(
    piece: Array, air_c: float, air_kg_m3: float, film_w_m2k: float, activation_j_mol: float, dt_s: float, series: Array
) -> None:
    """March a piece in steady air from fresh at 20 °C; fills moisture and temperature at each step, shape (n, 2)."""
    moisture, celsius = piece[0], 20.0
    for n in range(series.shape[0]):
        series[n, 0], series[n, 1] = moisture, celsius
        rate, area = drying_rate(moisture, celsius, piece, air_kg_m3, film_w_m2k, activation_j_mol)
        heat, film = DRY_CP + WATER_CP * moisture, area * film_w_m2k
        celsius = (heat * celsius + dt_s * (film * air_c - LATENT_J_KG * rate)) / (heat + dt_s * film)
        moisture = max(moisture - dt_s * rate, 0.0)


def hours_to(
    piece: Piece,
    target: float,
    air_c: float,
    rh: float,
    film_w_m2k: float,
    activation_j_mol: float = ACTIVATION_J_MOL,
    most_h: float = 96.0,
) -> float:
    """Hours in steady air until it is at a moisture content; infinite where it never is within ``most_h``."""
    dt_s = 60.0
    series = np.empty((round(most_h * 3600.0 / dt_s), 2))
    vapour = rh * saturation_pressure_pa(air_c) / (VAPOUR_GAS_CONSTANT * (air_c + KELVIN))
    dried(piece.numbers, air_c, vapour, film_w_m2k, activation_j_mol, dt_s, series)
    below = np.flatnonzero(series[:, 0] <= target)
    return float(below[0]) * dt_s / 3600.0 if len(below) else math.inf
