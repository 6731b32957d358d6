"""Watts of sun in each part of a box oven, per watt of beam from any direction."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from drylamp.core.builds.box_oven import BoxOven, WallLayer
from drylamp.core.builds.box_oven_scene import scene_of
from drylamp.core.builds.panes import panes_of
from drylamp.core.loads.pot import PotLoad
from drylamp.core.optics.booster import HingedMirror, image, patch
from drylamp.core.optics.cavity import ENTRY_SAMPLES, Cavity, sobol, view_factors
from drylamp.core.optics.covers import DIFFUSE_INCIDENCE_DEG, Pane, stack
from drylamp.core.optics.exchange import Faces, absorbed_of_arriving, absorbed_shares, exchange_areas
from drylamp.core.optics.rays import FLOOR, OPENING, POT, WALLS, landing
from drylamp.core.optics.scene import Scene
from drylamp.core.optics.spread import over_run
from drylamp.core.optics.sun_plan import SunPlan
from drylamp.core.optics.sun_table import BIN_MIDDLE_COS, grid_directions, read_grid, received_m2
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.sun import Array
from drylamp.core.tables import absorber

TABLE_FROM_KNOTS = 5000
"""Instants above which a table over the sky is cheaper than following each."""
LEVEL: dict[str, object] = {
    "facing_deg": 180.0,
    "tilt_deg": 0.0,
    "wall": [WallLayer(material="plywood", thickness_m=0.01)],
    "seal_gap_mm": 0.0,
    "vent_cm2": 0.0,
}
"""What does not matter to a table over the sky, made alike: it is in the opening's own axes, and light minds no wool."""
PATH_RAYS, DOME_RAYS, FEW_DIRECTIONS = 256, 64, 400
"""Rays for each place of the sun on a day's path, and for each of the many directions of a dome or a table."""


def cavity_of(build: BoxOven, load: PotLoad | None) -> Cavity:
    """The inside of the box, with its pot."""
    if load is None:
        return Cavity(build.width_m, build.length_m, build.height_m)
    return Cavity(build.width_m, build.length_m, build.height_m, load.pot_diameter_m / 2, load.pot_height_m)


def mirror_of(build: BoxOven) -> HingedMirror | None:
    """The flap as optics sees it."""
    if build.mirror is None:
        return None
    return HingedMirror(build.mirror.length_m, build.mirror.angle_deg, build.mirror.row.reflectance)


def part_names(build: BoxOven, load: PotLoad | None) -> list[str]:
    """Parts that take up sun, in the order of the absorbed areas; cover-1 is the innermost sheet."""
    names = ["tray", "walls"] + (["pot"] if load is not None else [])
    return names + [f"cover-{k + 1}" for k in range(len(panes_of(build.skins)))]


def box_faces(build: BoxOven, load: PotLoad | None, band: str) -> Faces:
    """Faces of box, gaps and outside for the band 'sun' or 'longwave'.

    Order: floor, walls, pot, then each sheet's inner and outer face from the innermost out, then outside-sky
    and outside-ground, which swallow everything. The outer face sees them by the tilt of the opening.
    """
    cavity = cavity_of(build, load)
    inner_view, areas = view_factors(cavity), cavity.areas_m2
    sheets = len(panes_of(build.skins))
    count = 3 + 2 * sheets + 2
    sky, ground = count - 2, count - 1
    view = np.zeros((count, count))
    view[:3, :3] = inner_view[:3, :3]
    sky_share = (1 + np.cos(np.radians(build.tilt_deg))) / 2
    if sheets:
        view[:3, 3], view[3, :3] = inner_view[:3, OPENING], inner_view[OPENING, :3]
        for k in range(sheets - 1):
            view[4 + 2 * k, 5 + 2 * k] = view[5 + 2 * k, 4 + 2 * k] = 1.0
        outer = 2 + 2 * sheets
        view[outer, sky], view[outer, ground] = sky_share, 1 - sky_share
        view[sky, outer] = view[ground, outer] = 1.0
    else:
        view[:3, sky], view[:3, ground] = (
            inner_view[:3, OPENING] * sky_share,
            inner_view[:3, OPENING] * (1 - sky_share),
        )
        view[sky, :3] = view[ground, :3] = inner_view[OPENING, :3]
    opening = areas[OPENING]
    area = np.concatenate([areas[:3], np.full(2 * sheets, opening), [opening * sky_share, opening * (1 - sky_share)]])
    absorptance, transmittance = _band(build, load, band)
    partner = np.arange(count)
    for k in range(sheets):
        partner[3 + 2 * k], partner[4 + 2 * k] = 4 + 2 * k, 3 + 2 * k
    names = ["tray", "walls", "pot"]
    for k in range(sheets):
        names += [f"cover-{k + 1}"] * 2
    return Faces([*names, "sky", "air"], area, view, absorptance, transmittance, partner)


def _band(build: BoxOven, load: PotLoad | None, band: str) -> tuple[Array, Array]:
    tray, lining = absorber(build.tray), absorber(build.lining)
    if band == "sun":
        pot = load.absorptance if load else 1.0
        inside = [tray.absorptance, lining.absorptance, pot]
        skins = [_diffuse_skin(pane) for pane in reversed(panes_of(build.skins))]
    else:
        pot = load.emittance if load else 1.0
        inside = [tray.emittance, lining.emittance, pot]
        skins = [(skin.row.emittance, skin.row.longwave_transmittance) for skin in build.skins]
    both_faces = [skin for skin in skins for _ in range(2)]
    absorptance = np.array(inside + [soaks for soaks, _ in both_faces] + [1.0, 1.0])
    transmittance = np.array([0.0] * 3 + [passes for _, passes in both_faces] + [0.0, 0.0])
    return absorptance, transmittance


def _diffuse_skin(pane: Pane) -> tuple[float, float]:
    """Absorptance and transmittance of one skin for even diffuse light."""
    diffuse = stack([pane], np.cos(np.radians(DIFFUSE_INCIDENCE_DEG)))
    return float(diffuse.absorptance.sum()), float(diffuse.transmittance)


@dataclass(frozen=True)
class BoxOptics:
    """Optics of one box with one load, ready for any direction.

    Attributes:
        build, load: what it was made for
        shares: absorbed share, per part, of light arriving at floor, walls, pot, shape (3, parts)
    """

    build: BoxOven
    load: PotLoad | None
    shares: Array

    @classmethod
    def of(cls, build: BoxOven, load: PotLoad | None) -> BoxOptics:
        """Solve the bounces inside the box once."""
        faces = box_faces(build, load, "sun")
        arriving = absorbed_of_arriving(faces, absorbed_shares(faces))[:3]
        parts = part_names(build, load)
        shares = np.stack(
            [arriving[:, [i for i, n in enumerate(faces.names) if n == part]].sum(1) for part in parts], 1
        )
        return cls(build, load, shares)

    @property
    def axes(self) -> Array:
        """The opening's axes in the world, as rows."""
        return plane_axes(self.build.tilt_deg, self.build.facing_deg)

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting the opening, per W/m² of beam from each direction.

        Args:
            toward_world: unit vectors east, north, up towards the source, shape (n, 3)

        Returns:
            Areas by part, shape (n, parts), and intercepted areas, shape (n,), m². What passes by way of the
            mirror counts as meeting the opening after the mirror has kept its share.
        """
        toward = np.ascontiguousarray(toward_world @ self.axes.T)
        if self.build.flaps.any:
            return self._traced(toward)
        mirror = mirror_of(self.build)
        opening = self.build.opening_m2
        if mirror is None:
            none = np.zeros(len(toward))
            return self._entered(toward, np.full(len(toward), opening), none, none, 0.0, False)
        shadow = patch(mirror, self.build.width_m, self.build.length_m, toward)
        behind = toward @ mirror.normal < 0
        shade = np.where(behind, shadow.area_m2, 0.0)
        reach = np.where(behind, shadow.reach, 0.0)
        parts, met = self._entered(toward, opening - shade, reach, shadow.skew, mirror.length_m, False)
        seen = np.ascontiguousarray(image(mirror, toward))
        bright = patch(mirror, self.build.width_m, self.build.length_m, seen)
        area = np.where(behind, 0.0, bright.area_m2) * mirror.reflectance
        more, met_more = self._entered(seen, area, bright.reach, bright.skew, mirror.length_m, True)
        return parts + more, met + met_more

    @cached_property
    def scene(self) -> Scene:
        """The box as facets."""
        return scene_of(self.build, self.load)

    def _traced(self, toward: Array) -> tuple[Array, Array]:
        """The same for any set of flaps, by tracing rays; few rays each where many directions are summed up."""
        rays = PATH_RAYS if len(toward) <= FEW_DIRECTIONS else DOME_RAYS
        received = received_m2(self.scene, toward, rays)
        order = {name: k for k, name in enumerate(self.scene.receivers)}
        lands = np.zeros((len(toward), 3))
        for surface, name in ((FLOOR, "floor"), (WALLS, "walls"), (POT, "pot")):
            if name in order:
                lands[:, surface] = received[:, order[name]].sum(axis=1)
        parts = lands[:, [FLOOR, WALLS, POT]] @ self.shares
        on_cover = received[:, order["cover"]]
        soaked = stack(panes_of(self.build.skins), BIN_MIDDLE_COS).absorptance
        for k in range(len(soaked)):
            parts[:, parts.shape[1] - 1 - k] += on_cover @ soaked[k]
        return parts, on_cover.sum(axis=1)

    def _by_table(self, toward_world: Array) -> tuple[Array, Array]:
        """Read from a table over the whole sky, for runs of so many instants that tracing each would be waste."""
        level = self.build.model_copy(update=LEVEL)
        values = _sky_values(level.model_dump_json(), self.load.model_dump_json() if self.load else "")
        read = read_grid(values, toward_world @ self.axes.T)
        return read[:, :-1], read[:, -1]

    def _entered(
        self, toward: Array, lit_m2: Array, reach: Array, skew: Array, mirror_m: float, in_patch: bool
    ) -> tuple[Array, Array]:
        """Follow light through the cover to floor, walls and pot and let it bounce there."""
        cosine = np.maximum(toward[:, 2], 0.0)
        met = lit_m2 * cosine
        optics = stack(panes_of(self.build.skins), cosine)
        cavity = cavity_of(self.build, self.load)
        lands = landing(toward, reach, skew, mirror_m, in_patch, sobol(ENTRY_SAMPLES, 2), cavity.box, cavity.pot)
        through = (met * optics.transmittance)[:, None] * lands
        parts = through[:, [FLOOR, WALLS, POT]] @ self.shares
        sheets = optics.absorptance.shape[0]
        for k in range(sheets):  # stacks count from outside, parts from inside
            parts[:, parts.shape[1] - 1 - k] += met * optics.absorptance[k]
        return parts, met

    def sun_into_parts(self, plan: SunPlan, skyline_deg: Array) -> tuple[Array, Array]:
        """Watts into each part and watts meeting the opening over a run, shapes (n, parts) and (n,)."""
        follow = self._by_table if len(plan.directions) > TABLE_FROM_KNOTS else self.absorbed_m2
        return over_run(plan, skyline_deg, follow, self.absorbed_m2)

    def exchange(self) -> tuple[list[str], Array]:
        """Long-wave exchange areas between parts, sky and air (the ground counts as air), m²."""
        faces = box_faces(self.build, self.load, "longwave")
        names = [*part_names(self.build, self.load), "sky", "air"]
        node = np.array([names.index(name) if name in names else 0 for name in faces.names])
        return names, exchange_areas(faces, absorbed_shares(faces), node, len(names))


@lru_cache(maxsize=64)
def _sky_values(build: str, load: str) -> Array:
    """What a level box takes up from every direction of the grid, parts and opening last; however it stands later."""
    optics = BoxOptics.of(BoxOven.model_validate_json(build), PotLoad.model_validate_json(load) if load else None)
    grid = grid_directions()
    values = np.column_stack(optics.absorbed_m2(grid.reshape(-1, 3) @ optics.axes))
    return np.asarray(values.reshape(*grid.shape[:2], -1))
