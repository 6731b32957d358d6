"""One piece of food as it dries: what its group has in common, and a march of it in steady air; the rate stands in ``heat.drying``.

References:
    Isotherm: GAB (van den Berg 1984). Numbers of it by group of foods
    in ``GROUPS``, from memory; diffusivities calibrated by ``scripts/calibrate_drying`` against dehydrator hours.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled
from drylamp.core.heat.drying import KELVIN, LATENT_J_KG, WATER_CP, drying_terms, shown_m2
from drylamp.core.tables import Produce

ACTIVATION_J_MOL, ACTIVATION_DOUBT_J_MOL = 30000.0, 10000.0
"""Of diffusion in food; its doubt is carried along."""
DRY_CP = 1500.0


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


@compiled
def dried(
    piece: Array, air_c: float, air_kg_m3: float, film_w_m2k: float, activation_j_mol: float, dt_s: float, series: Array
) -> None:
    """March a piece in steady air from fresh at 20 °C; fills moisture and temperature at each step, shape (n, 2)."""
    moisture, celsius = piece[0], 20.0
    numbers = (piece[0], piece[1], piece[2], piece[3], piece[4], piece[5], piece[6])
    surface = moisture
    for n in range(series.shape[0]):
        series[n, 0], series[n, 1] = moisture, celsius
        rate, _, _, surface = drying_terms(moisture, celsius, numbers, air_kg_m3, film_w_m2k, activation_j_mol, surface)
        heat, film = DRY_CP + WATER_CP * moisture, shown_m2(moisture, numbers) * film_w_m2k
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
