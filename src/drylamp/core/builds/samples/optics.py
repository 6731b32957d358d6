"""Watts of sun in each sample, in the bare board and in the cover, per watt of beam from any direction.

Samples lie flat and do not shade one another, nor do bowls over them. Under a cover or a bowl, light thrown back by a sample meets its
underside again: (τα) = τ α / [1 − (1 − α) ρd] (Duffie & Beckman 5.5.1).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.builds.samples.spec import Samples, bowl_of
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.load import Load
from drylamp.core.optics.bowl import bowl_light
from drylamp.core.optics.covers import DIFFUSE_INCIDENCE_DEG, stack
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over
from drylamp.core.sky.dome import plane_axes
from drylamp.core.tables import absorber


def lit_nodes(build: Samples, load: Load | None = None) -> list[str]:
    """Parts that take up sun, in the order of the absorbed areas; cover-1 is the innermost sheet."""
    names = [sample.node for sample in build.samples] + (["board"] if build.bare_board_m2 > 1e-6 else [])
    bowls = [] if build.over is None else [bowl_of(sample) for sample in build.samples]
    return names + [f"cover-{k + 1}" for k in range(len(build.skins))] + bowls


@dataclass(frozen=True)
class SamplesOptics:
    """Optics of one set of samples, ready for any direction."""

    build: Samples

    @classmethod
    def of(cls, build: Samples, load: Load | None) -> SamplesOptics:
        """Nothing needs to be worked out before."""
        return cls(build)

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting the board, per W/m² of beam from each direction.

        Parameters
        ----------
        toward_world
            unit vectors east, north, up towards the source, shape (n, 3)

        Returns
        -------
        Areas by part, shape (n, parts), and areas met, shape (n,), m².
        """
        build = self.build
        axes = plane_axes(build.tilt_deg, build.facing_deg)
        cosine = np.maximum(toward_world @ axes[2], 0.0)
        if build.over is not None:
            return self._under_bowls(build.over, toward_world @ axes.T, cosine)
        panes = panes_of(build.skins)
        over = stack(panes, cosine)
        back = float(stack(panes, np.cos(np.radians(DIFFUSE_INCIDENCE_DEG))).reflectance) if panes else 0.0
        columns = [
            cosine * over.transmittance * area * alpha / (1.0 - (1.0 - alpha) * back) for area, alpha in self._faces()
        ]
        intercepted = build.opening_m2 * cosine
        columns += [
            intercepted * soaked for soaked in over.absorptance[::-1]
        ]  # stacks count from outside, parts from inside
        return np.column_stack(columns), intercepted

    def _under_bowls(self, over: Envelope, toward: Array, cosine: Array) -> tuple[Array, Array]:
        """The same with a bowl over each sample; the board lies in part under them."""
        build = self.build
        back = float(stack([over.pane], np.cos(np.radians(DIFFUSE_INCIDENCE_DEG))).reflectance)
        light = bowl_light(over.pane, over.diameter_m, over.height_m, build.corner_m / 2, toward)

        def taken(area_m2: float, alpha: float) -> Array:
            return np.asarray(cosine * light.through * area_m2 * alpha / (1.0 - (1.0 - alpha) * back))

        columns = [taken(build.sample_m2, sample.row.absorptance) for sample in build.samples]
        if build.bare_board_m2 > 1e-6:
            alpha, under_m2 = absorber(build.board_finish).absorptance, build.bowled_board_m2
            columns.append(taken(under_m2, alpha) + cosine * (build.bare_board_m2 - under_m2) * alpha)
        columns += [light.soaked_m2] * len(build.samples)
        met = np.maximum(build.opening_m2 * cosine, np.sum(columns, axis=0))
        return np.column_stack(columns), met

    def _faces(self) -> list[tuple[float, float]]:
        """Area and absorptance of what lies in the sun."""
        build = self.build
        faces = [(build.sample_m2, sample.row.absorptance) for sample in build.samples]
        if build.bare_board_m2 > 1e-6:
            faces.append((build.bare_board_m2, absorber(build.board_finish).absorptance))
        return faces

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """The same along the sun's path."""
        return self.absorbed_m2(toward_world)

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_over(skyline_deg, self.absorbed_m2)
