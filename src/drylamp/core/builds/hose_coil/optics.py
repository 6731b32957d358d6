"""Watts of sun in the hose, its bed and its cover, per watt of beam from any direction.

Turns of a coil are a row of cylinders over a bed. A beam at an angle ψ to the normal, in the plane across them, meets min(1, D/(P cos ψ)) of
them first; turns lie all ways, so this is averaged over the directions of a turn. Even light that comes off the bed meets the share of the
row that a plane sees of it. What hose and bed throw back to and fro is summed.

References:
    Share of an endless row of cylinders in the view of a plane: Hottel (as in Incropera & DeWitt, table of view factors):
    F = 1 − √(1 − (D/P)²) + (D/P) arctan √(P²/D² − 1).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.builds.hose_coil.spec import HoseCoil, Mesh
from drylamp.core.loads.load import Load
from drylamp.core.optics.booster import both_lights
from drylamp.core.optics.covers import DIFFUSE_INCIDENCE_DEG, stack
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over
from drylamp.core.sky.dome import plane_axes
from drylamp.core.tables import Absorber, absorber

PIECES = 12
TURN_ANGLES = 8
"""Directions of a turn over which the beam's share is averaged."""


def hose_nodes() -> list[str]:
    """Pieces of the hose's wall from the inlet on."""
    return [f"hose-{k + 1}" for k in range(PIECES)]


def in_a_layer(build: HoseCoil) -> int:
    """Pieces in each layer: the first lie at the bottom, the last on top."""
    return PIECES // build.layers


def row_view(build: HoseCoil) -> float:
    """Share of its turns in what a plane over them sees."""
    return cylinders_in_view(build.diameter_m / build.pitch_m)


def cylinders_in_view(ratio: float) -> float:
    """Share of a row of cylinders in a plane's view, by diameter over pitch."""
    if ratio >= 1.0:
        return 1.0
    return 1.0 - math.sqrt(1.0 - ratio**2) + ratio * math.atan(math.sqrt(1.0 / ratio**2 - 1.0))


def lit_nodes(build: HoseCoil, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the areas."""
    names = ["sheet"] if build.sheet is not None else hose_nodes()
    if build.sheet is None and build.bed is not None:
        names += ["bed"] if build.mesh is None else ["bed", "mesh"]
    return names + [f"cover-{k + 1}" for k in range(len(build.skins))]


@dataclass(frozen=True)
class Under:
    """Shares of the light that comes down between turns: taken by the bed, by the mesh over it, and thrown up again; one in all."""

    bed: float
    mesh: float
    thrown: float

    @classmethod
    def of(cls, bed: Absorber | None, mesh: Mesh | None) -> Under:
        """Two layers of which the upper has holes: light goes to and fro between wire and bed (a geometric sum)."""
        if bed is None:
            return cls(0.0, 0.0, 0.0)
        wire, back = (0.0, 0.0) if mesh is None else (mesh.covers_share, 1.0 - mesh.row.absorptance)
        rho = 1.0 - bed.absorptance
        down = (1.0 - wire) / (1.0 - wire * back * rho)
        up = rho * down
        return cls((1.0 - rho) * down, wire * (1.0 - back) * (1.0 + up), wire * back + (1.0 - wire) * up)


@dataclass(frozen=True)
class HoseOptics:
    """Optics of one coil, ready for any direction."""

    build: HoseCoil

    @classmethod
    def of(cls, build: HoseCoil, load: Load | None) -> HoseOptics:
        """Nothing needs to be worked out before."""
        return cls(build)

    @cached_property
    def under(self) -> Under:
        """Where light ends that comes down between the turns."""
        build = self.build
        return Under.of(None if build.bed is None else absorber(build.bed), build.mesh)

    def beam_share(self, cosine: Array) -> Array:
        """Share of a beam that meets the hose before the bed, by the cosine of its incidence."""
        ratio = self.build.diameter_m / self.build.pitch_m
        tangent = np.sqrt(np.clip(1.0 - cosine**2, 0.0, 1.0)) / np.maximum(cosine, 1e-3)
        turns = (np.arange(TURN_ANGLES) + 0.5) / TURN_ANGLES * np.pi / 2
        across = tangent[:, None] * np.sin(turns)
        return np.asarray(np.minimum(ratio * np.sqrt(1.0 + across**2), 1.0).mean(axis=1))

    def shares(self, first: Array) -> tuple[Array, Array, Array]:
        """Absorbed by the hose and by what lies under it, and thrown up again, of light of which so much meets the hose first."""
        build = self.build
        ratio, view, row = build.diameter_m / build.pitch_m, row_view(build), build.row
        bed = self.under.thrown
        back, upward = 1.0 - row.absorptance, (1.0 + ratio) / 2.0
        # hose = first + bed's reflection that meets it; on_bed = the rest + what the hose throws down
        on_bed = ((1.0 - first) + back * (1.0 - upward) * first) / (1.0 - bed * view * back * (1.0 - upward))
        hose = first + bed * view * on_bed
        up = back * upward * hose + bed * (1.0 - view) * on_bed
        return row.absorptance * hose, (1.0 - bed) * on_bed, up

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting the coil's area, per W/m² of beam from each direction; areas in m².

        Its turns lie evenly over the frame, so that they meet their share of what lights it, straight or by the reflector.
        """
        build = self.build
        toward = toward_world @ plane_axes(build.tilt_deg, build.facing_deg).T
        covered = build.plan_m2 / build.frame_m2
        lights = both_lights(build.upper_mirror, build.width_m, build.length_m, toward)
        found = [self._from(np.maximum(light.toward[:, 2], 0.0), covered * light.area_m2) for light in lights]
        return np.sum([parts for parts, _ in found], axis=0), np.sum([met for _, met in found], axis=0)

    def _from(self, cosine: Array, lit_m2: Array) -> tuple[Array, Array]:
        """The same of light at one incidence on so much of its area."""
        build = self.build
        panes = panes_of(build.skins)
        over = stack(panes, cosine)
        back = float(stack(panes, np.cos(np.radians(DIFFUSE_INCIDENCE_DEG))).reflectance) if panes else 0.0
        met = lit_m2 * cosine
        through = met * over.transmittance
        if build.sheet is not None:
            alpha = absorber(build.sheet).absorptance
            columns = [through * alpha / (1.0 - (1.0 - alpha) * back)]
        else:
            columns = self._hose_and_bed(through, cosine, back)
        columns += [met * soaked for soaked in over.absorptance[::-1]]
        return np.column_stack(columns), met

    def _hose_and_bed(self, through: Array, cosine: Array, back: float) -> list[Array]:
        hose, bed, up = self.shares(self.beam_share(cosine))
        again = [
            float(part[0]) for part in self.shares(np.array([row_view(self.build)]))
        ]  # what the cover throws back comes from everywhere
        more = up * back / (1.0 - again[2] * back)
        on_top = in_a_layer(self.build)
        columns = [np.zeros_like(through)] * (PIECES - on_top) + [through * (hose + more * again[0]) / on_top] * on_top
        if self.build.bed is not None:
            below, taken = through * (bed + more * again[1]), max(1.0 - self.under.thrown, 1e-12)
            parts = [self.under.bed, self.under.mesh][: 1 if self.build.mesh is None else 2]
            columns += [below * part / taken for part in parts]
        return columns

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """The same along the sun's path."""
        return self.absorbed_m2(toward_world)

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_over(skyline_deg, self.absorbed_m2)
