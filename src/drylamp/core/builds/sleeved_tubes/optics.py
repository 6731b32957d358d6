"""Watts of sun in tubes, card, sleeves and the bare coil before them, per watt of beam from any direction.

A tube is a cylinder in a wider, clear one. Of a beam at an angle Ω to their axis it meets D L sin Ω; the bottles it has to come through stand
at sin Ω √(1 − (y/R)²) for a ray that goes past the axis at y, averaged over the tube. What passes the tube lands on the card behind it, and
what that throws back meets the tube by the view of an inner from an outer cylinder, D/Dₛ. Rows shade one another where their bottles overlap
as the sun sees them; then all share what comes down between them.

References:
    Views of concentric cylinders: Incropera & DeWitt, F₂₁ = D₁/D₂. Sheets by ``optics.covers``.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.sleeved_tubes.spec import SleevedTubes
from drylamp.core.loads.load import Load
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over
from drylamp.core.sky.dome import plane_axes
from drylamp.core.tables import absorber

PIECES, PRE_PIECES = 12, 4
ACROSS = 7
"""Rays over the half width of what they meet."""


def tube_nodes() -> list[str]:
    """Pieces of the tubes' wall from the inlet on."""
    return [f"tube-{k + 1}" for k in range(PIECES)]


def pre_nodes(build: SleevedTubes) -> list[str]:
    """Pieces of the coil before them; none without one."""
    return [] if build.pre_heat is None else [f"pre-{k + 1}" for k in range(PRE_PIECES)]


def lit_nodes(build: SleevedTubes, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the areas."""
    card = [] if build.bottles.card is None else ["card"]
    return [*pre_nodes(build), *tube_nodes(), *card, "sleeve"]


@dataclass(frozen=True)
class SleeveOptics:
    """Optics of sleeved tubes, ready for any direction."""

    build: SleevedTubes

    @classmethod
    def of(cls, build: SleevedTubes, load: Load | None) -> SleeveOptics:
        """Nothing needs to be worked out before."""
        return cls(build)

    def _through(self, sine: Array, half_share: float) -> tuple[Array, Array]:
        """Let through by a sleeve, and soaked up, of a beam at an angle to the axis, over rays that pass the axis within a share of the radius."""
        bottles = self.build.bottles
        pane = [Pane(bottles.row.index, bottles.row.extinction_per_m, bottles.wall_mm / 1000.0)]
        offsets = (np.arange(ACROSS) + 0.5) / ACROSS * half_share
        over = stack(pane, sine[:, None] * np.sqrt(1.0 - offsets**2))
        return over.transmittance.mean(axis=1), over.absorptance[0].mean(axis=1)

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting bottles and bare coil, per W/m² of beam from each direction; areas in m²."""
        build = self.build
        toward = toward_world @ plane_axes(build.tilt_deg, build.facing_deg).T
        axis, side = (1, 0) if build.joined == "parallel" else (0, 1)
        above = (toward[:, 2] > 0.0).astype(float)
        sine = np.sqrt(np.clip(1.0 - toward[:, axis] ** 2, 0.0, 1.0))
        apart = build.pitch_m * np.abs(toward[:, 2]) / np.maximum(np.hypot(toward[:, 2], toward[:, side]), 1e-9)
        seen = above * np.minimum(1.0, ((build.rows - 1) * apart / build.sleeve_m + 1.0) / build.rows)
        ratio = build.diameter_m / build.sleeve_m
        on_tube, _ = self._through(sine, ratio)
        past, soaked = self._through(sine, 1.0)
        whole = seen * build.rows * build.lit_m * build.sleeve_m * sine
        parts = self._shared(whole * ratio * on_tube, whole * (1.0 - ratio) * past, ratio)
        bare = np.zeros(len(toward_world))
        columns: list[Array] = []
        if build.pre_heat is not None:
            coil = build.pre_heat.coil
            bare = coil.pipe_m * coil.outer_mm / 1000.0 * np.sqrt(np.clip(toward_world[:, 2], 0.0, 1.0))
            columns += [bare * coil.row.absorptance / PRE_PIECES] * PRE_PIECES
        columns += [parts[0] / PIECES] * PIECES
        columns += [] if build.bottles.card is None else [parts[1]]
        columns.append(whole * soaked)
        return np.column_stack(columns), whole + bare

    def _shared(self, first: Array, past: Array, ratio: float) -> tuple[Array, Array]:
        """Taken up by tube and card of what meets either first: what the card throws back goes to and fro."""
        card, alpha = self.build.bottles.card, self.build.row.absorptance
        if card is None:
            return alpha * first, np.zeros_like(past)
        rho = 1.0 - absorber(card).absorptance
        to_tube = rho * ratio
        tube = alpha * first + alpha * to_tube * past / (1.0 - (1.0 - alpha) * to_tube)
        return tube, (1.0 - rho) * (past + (1.0 - alpha) * first)

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """The same along the sun's path."""
        return self.absorbed_m2(toward_world)

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_over(skyline_deg, self.absorbed_m2)
