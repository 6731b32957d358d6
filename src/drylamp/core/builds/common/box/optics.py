"""Watts of sun in each part of a box, per watt of beam from any direction."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.box.geometry import COVER as COVER_NAME
from drylamp.core.builds.common.box.geometry import FLOOR as FLOOR_NAME
from drylamp.core.builds.common.box.geometry import STANDING as STANDING_NAME
from drylamp.core.builds.common.box.geometry import WALLS as WALLS_NAME
from drylamp.core.builds.common.box.geometry import (
    floor_frame,
    floor_points,
    geometry_of,
    lying,
    mirrors_of,
    opening_of,
    standing,
)
from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.kept import Kept
from drylamp.core.loads.common.body import BOWL, Body, inside_shares
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.load import Load
from drylamp.core.optics.booster import Patch, both_lights
from drylamp.core.optics.cavity import ENTRY_SAMPLES, Cavity, sobol, view_factors
from drylamp.core.optics.covers import DIFFUSE_INCIDENCE_DEG, Pane, StackOptics, stack
from drylamp.core.optics.enclosure import enclosure_views
from drylamp.core.optics.exchange import Faces, absorbed_of_arriving, absorbed_shares, exchange_areas
from drylamp.core.optics.geometry import Geometry, transmittance_table
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over
from drylamp.core.optics.rays import FLOOR, OPENING, POT, WALLS, landing
from drylamp.core.optics.spot_light import light_at
from drylamp.core.optics.sun_table import BIN_MIDDLE_COS, grid_directions, read_grid, received_m2
from drylamp.core.sky.dome import plane_axes
from drylamp.core.tables import absorber

TABLE_FROM_KNOTS = 5000
"""Instants above which a table over the sky is cheaper than following each."""
PATH_RAYS, DOME_RAYS, FEW_DIRECTIONS, FEW_LANDED = 256, 64, 400, 1024
"""Rays for each place of the sun on a day's path, and for each of the many directions of a dome or a table."""
FOG_FREE_M2 = 5e-4
"""A vent as wide as this keeps the cover clear; from memory."""
SPOT_POINTS = 5
"""Points along each side of something small that lies in the patch."""


def cavity_of(build: Box, load: Load | None) -> Cavity:
    """The inside of a plain box, with what stands in it."""
    stands = standing(build, load)
    if stands is None:
        return Cavity(build.width_m, build.length_m, build.height_m)
    return Cavity(build.width_m, build.length_m, build.height_m, stands[0] / 2, stands[1])


def views_of(build: Box, load: Load | None) -> tuple[Array, Array]:
    """View factors between FLOOR, WALLS, POT, OPENING, shape (4, 4), and their free areas."""
    if build.is_plain:
        cavity = cavity_of(build, load)
        return view_factors(cavity), cavity.areas_m2
    return enclosure_views(
        geometry_of(build.without_mirrors(), load), [FLOOR_NAME, WALLS_NAME, STANDING_NAME, COVER_NAME]
    )


def lit_nodes(build: Box, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the absorbed areas; the last are outer faces."""
    return [*lit_inside(build, load), *outer_nodes(build)]


def lit_inside(build: Box, load: Load | None) -> list[str]:
    """Parts that take up sun by way of the opening; cover-1 is the innermost sheet."""
    names = ["tray", "walls"]
    if load is not None:
        names += [body.node for body in load.bodies_on(build.floor_m)] + ([BOWL] if load.envelope else [])
    names += [] if build.frame is None else ["frame"]
    return names + [f"cover-{k + 1}" for k in range(len(panes_of(build.skins)))]


def outer_nodes(build: Box) -> list[str]:
    """Outer faces that the sun meets."""
    return ["shell"] if build.frame is None else ["shell", "frame-outside"]


def outer_m2(build: Box, toward_world: Array) -> Array:
    """Sun that outer faces take up, per W/m² of beam from each direction, m², shape (n, outer nodes).

    Four walls and the frame's five faces, each by its own cosine; what mirrors keep off or throw on them is left out.
    """
    axes = plane_axes(build.floor_tilt_deg, build.facing_deg)
    toward = toward_world @ axes.T
    t, takes = 2 * build.wall_thickness_m, absorber(build.outside).absorptance
    low, high = (h + build.floor_thickness_m for h in (build.height_m, build.back_height_m))
    wide, long = build.width_m + t, build.floor_length_m + t
    to_front, to_back = np.maximum(-toward[:, 1], 0.0), np.maximum(toward[:, 1], 0.0)
    aside = np.abs(toward[:, 0])
    walls = wide * (low * to_front + high * to_back) + long * (low + high) / 2 * aside
    if build.frame is None:
        return np.asarray(takes * walls[:, None])
    border, rise = 2 * build.frame.width_m, build.frame.height_m
    up = np.maximum(toward_world @ plane_axes(build.tilt_deg, build.facing_deg)[2], 0.0)
    frame = rise * ((build.width_m + border) * (to_front + to_back) + (build.length_m + border) * aside)
    frame += build.frame.outside_m2(build.rim_m)[1] * up
    return np.asarray(takes * np.column_stack((walls, frame)))


def wall_weights(build: Box) -> dict[str, float]:
    """How what meets the upright faces is split among walls and the lid's frame, which are finished alike."""
    whole = build.sides_m2 + build.frame_m2
    weights = {"walls": build.sides_m2 / whole}
    return weights if build.frame is None else weights | {"frame": build.frame_m2 / whole}


def outer_of(build: Box, load: Load | None) -> dict[str, float]:
    """Where light goes that is taken up by what stands in the box, by part; a bowl passes most of it on."""
    if load is None:
        return {}
    bodies = load.bodies_on(build.floor_m)
    if load.envelope is None:
        return {body.node: 1.0 for body in bodies if body.stands}
    soaks, passes = _envelope(load.envelope)
    fog = load.clear_share
    inside = inside_shares(bodies, load.envelope, absorber(build.tray).absorptance)
    out = {BOWL: soaks / (soaks + passes)}
    for name, share in inside.items():
        out["tray" if name == "floor" else name] = fog * share * passes / (soaks + passes)
    return out


def clear_share(build: Box, load: Load | None) -> float:
    """Light that fog on the inner cover leaves of what comes in: none is kept back where vapour finds a way out, or stays under a bowl."""
    airy = build.cover is None or build.vent_m2 > FOG_FREE_M2
    return 1.0 if load is None or load.envelope is not None or airy else load.clear_share


def _envelope(under: Envelope) -> tuple[float, float]:
    """Absorptance and transmittance of a bag or bowl for light from everywhere."""
    return _diffuse_skin(under.pane)


def floor_weights(build: Box, load: Load | None, band: str) -> tuple[dict[str, float], float]:
    """How the floor's share of even light is split among tray and what lies on it, and the floor's mean absorptance."""
    tray, lies = absorber(build.tray), lying(build, load)
    foot = sum(body.foot_m2 for body in lies)
    free = max(build.floor_m2 - foot, 0.02 * build.floor_m2)
    sun = band == "sun"
    worth = {"tray": free * (tray.absorptance if sun else tray.emittance)}
    worth |= {body.node: body.foot_m2 * (body.absorptance if sun else body.emittance) for body in lies}
    whole = sum(worth.values())
    return {name: value / whole for name, value in worth.items()}, whole / (free + foot)


def box_faces(build: Box, load: Load | None, band: str) -> Faces:
    """Faces of box, gaps and outside for the band 'sun' or 'longwave'.

    Order: floor, walls, pot, then each sheet's inner and outer face from the innermost out, then outside-sky
    and outside-ground, which swallow everything. The outer face sees them by the tilt of the opening.
    """
    inner_view, areas = views_of(build, load)
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
    names = ["floor", "walls", "outer"]
    for k in range(sheets):
        names += [f"cover-{k + 1}"] * 2
    return Faces([*names, "sky", "air"], area, view, absorptance, transmittance, partner)


def _band(build: Box, load: Load | None, band: str) -> tuple[Array, Array]:
    lining, floor = absorber(build.lining), floor_weights(build, load, band)[1]
    if band == "sun":
        inside = [floor, lining.absorptance, _outer_takes(load, band)]
        skins = [_diffuse_skin(pane) for pane in reversed(panes_of(build.skins))]
    else:
        inside = [floor, lining.emittance, _outer_takes(load, band)]
        skins = [(skin.row.emittance, skin.row.longwave_transmittance) for skin in build.skins]
    both_faces = [skin for skin in skins for _ in range(2)]
    absorptance = np.array(inside + [soaks for soaks, _ in both_faces] + [1.0, 1.0])
    transmittance = np.array([0.0] * 3 + [passes for _, passes in both_faces] + [0.0, 0.0])
    return absorptance, transmittance


def _outer_takes(load: Load | None, band: str) -> float:
    """Absorptance or emittance of what stands in the box."""
    if load is None:
        return 1.0
    if load.envelope is not None:
        return sum(_envelope(load.envelope)) if band == "sun" else load.envelope.emittance
    bodies = [body for body in load.bodies_on((1.0, 1.0)) if body.stands]
    if not bodies:
        return 1.0
    return bodies[0].absorptance if band == "sun" else bodies[0].emittance


def _diffuse_skin(pane: Pane) -> tuple[float, float]:
    """Absorptance and transmittance of one skin for even diffuse light."""
    diffuse = stack([pane], np.cos(np.radians(DIFFUSE_INCIDENCE_DEG)))
    return float(diffuse.absorptance.sum()), float(diffuse.transmittance)


@dataclass(frozen=True)
class BoxOptics:
    """Optics of one box with one load, ready for any direction.

    Attributes:
        build, load: what it was made for
        parts: names of the parts that take up sun
        shares: absorbed share, per part, of light arriving at floor, walls and what stands, shape (3, parts)
        bounced: absorbed share, per part, of light that leaves the floor again, shape (parts,)
        lies: what lies open on the floor
    """

    build: Box
    load: Load | None
    parts: list[str]
    shares: Array
    bounced: Array
    lies: list[Body]

    @classmethod
    def of(cls, build: Box, load: Load | None) -> BoxOptics:
        """Solve the bounces inside the box once."""
        faces = box_faces(build, load, "sun")
        parts = lit_inside(build, load)
        share = absorbed_shares(faces)
        to_parts = np.zeros((len(faces.names), len(parts)))
        split = {
            "floor": floor_weights(build, load, "sun")[0],
            "outer": outer_of(build, load),
            "walls": wall_weights(build),
        }
        for row, name in enumerate(faces.names):
            for part, weight in split.get(name, {name: 1.0}).items():
                if part in parts:
                    to_parts[row, parts.index(part)] += weight
        to_parts *= clear_share(build, load)
        arriving = absorbed_of_arriving(faces, share)[:3]
        return cls(build, load, parts, arriving @ to_parts, share[0] @ to_parts, lying(build, load))

    @property
    def axes(self) -> Array:
        """The opening's axes in the world, as rows."""
        return plane_axes(self.build.tilt_deg, self.build.facing_deg)

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Areas by ``lit_nodes``, and area intercepted by the opening."""
        return self._with_outside(toward_world, self._inside(toward_world))

    def _with_outside(self, toward_world: Array, inside: tuple[Array, Array]) -> tuple[Array, Array]:
        """What gets in, and beside it what outer faces take up."""
        parts, intercepted = inside
        return np.column_stack((parts, outer_m2(self.build, toward_world))), intercepted

    def _inside(self, toward_world: Array) -> tuple[Array, Array]:
        """The same as ``absorbed_m2`` with the bright patch where it falls: what lies in it takes more, the rest less."""
        if len(toward_world) > TABLE_FROM_KNOTS:
            return self._by_table(toward_world)
        if not self.lies:
            return self.absorbed_m2(toward_world)
        toward = np.ascontiguousarray(toward_world @ self.axes.T)
        parts, intercepted = self.absorbed_m2(toward_world)
        moved = self._moved_by_patch(toward, self._on_floor(toward))
        return np.maximum(parts + moved, 0.0), intercepted  # closed form and rays differ by a hair

    def _on_floor(self, toward: Array) -> Array:
        """Beam that lands on the floor first, through the cover, m², shape (n,)."""
        received = received_m2(self.geometry, toward, PATH_RAYS)
        return np.asarray(received[:, self.geometry.receivers.index(FLOOR_NAME)].sum(axis=1))

    def _moved_by_patch(self, toward: Array, on_floor: Array) -> Array:
        """What each part gets more or less of than if the floor were lit evenly, m², shape (n, parts)."""
        build, weights = self.build, floor_weights(self.build, self.load, "sun")[0]
        _, across, back = floor_frame(build)
        normal = np.cross(across, back) / np.linalg.norm(np.cross(across, back))
        through = transmittance_table(tuple(panes_of(build.skins)))
        steps = np.linspace(0.0, 1.0, len(through))
        points = np.concatenate([floor_points(build, body, SPOT_POINTS) for body in self.lies])
        beam = light_at(
            points, normal, toward, opening_of(build), mirrors_of(build), lambda c: np.interp(c, steps, through)
        )
        caught = beam.reshape(len(toward), len(self.lies), SPOT_POINTS**2).mean(axis=2) * np.array(
            [b.foot_m2 for b in self.lies]
        )
        caught *= np.minimum(1.0, on_floor / np.maximum(caught.sum(axis=1), 1e-12))[:, None]
        tray, mean = absorber(build.tray).absorptance, floor_weights(build, self.load, "sun")[1]
        taken = np.zeros((len(toward), len(self.parts)))
        for k, body in enumerate(self.lies):
            taken[:, self.parts.index(body.node)] = caught[:, k] * body.absorptance
        taken[:, 0] = (on_floor - caught.sum(axis=1)) * tray
        left = on_floor - taken.sum(axis=1)
        even = np.zeros(len(self.parts))
        for name, weight in weights.items():
            even[self.parts.index(name)] = weight * mean
        moved: Array = taken + left[:, None] * self.bounced - on_floor[:, None] * (even + (1 - mean) * self.bounced)
        return moved

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting the opening, per W/m² of beam from each direction, the floor lit evenly.

        Parameters
        ----------
        toward_world
            unit vectors east, north, up towards the source, shape (n, 3)

        Returns
        -------
        Areas by part, shape (n, parts), and intercepted areas, shape (n,), m². What passes by way of the
        mirror counts as meeting the opening after the mirror has kept its share.
        """
        toward = np.ascontiguousarray(toward_world @ self.axes.T)
        if not (self.build.has_one_flap_at_most and self.build.is_plain):
            return self._traced(toward)
        mirror = self.build.upper_mirror
        length_m = 0.0 if mirror is None else mirror.length_m
        direct, *by_mirror = both_lights(mirror, self.build.width_m, self.build.length_m, toward)
        parts, intercepted = self._entered(direct, length_m, False)
        for light in by_mirror:
            more, met_more = self._entered(light, length_m, True)
            parts, intercepted = parts + more, intercepted + met_more
        return parts, intercepted

    @cached_property
    def geometry(self) -> Geometry:
        """The box as facets."""
        return geometry_of(self.build, self.load)

    def _traced(self, toward: Array) -> tuple[Array, Array]:
        """The same for any set of flaps, by tracing rays; few rays each where many directions are summed up."""
        rays = PATH_RAYS if len(toward) <= FEW_DIRECTIONS else DOME_RAYS
        received = received_m2(self.geometry, toward, rays)
        order = {name: k for k, name in enumerate(self.geometry.receivers)}
        lands = np.zeros((len(toward), 3))
        for surface, name in ((FLOOR, FLOOR_NAME), (WALLS, WALLS_NAME), (POT, STANDING_NAME)):
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
        plain = self.build.as_light_meets_it()
        key = plain.model_dump_json(), self.load.model_dump_json() if self.load else ""
        values = _SKY_VALUES.get(key, lambda: _sky_values(plain, self.load))
        read = read_grid(values, toward_world @ self.axes.T)
        return read[:, :-1], read[:, -1]

    def _entered(self, light: Patch, mirror_m: float, in_patch: bool) -> tuple[Array, Array]:
        """Follow light through the cover to floor, walls and pot and let it bounce there."""
        cosine = np.maximum(light.toward[:, 2], 0.0)
        intercepted = light.area_m2 * cosine
        optics = _through(tuple(panes_of(self.build.skins)), cosine)
        cavity = cavity_of(self.build, self.load)
        lands = _landed(light, mirror_m, in_patch, cavity)
        through = (intercepted * optics.transmittance)[:, None] * lands
        parts = through[:, [FLOOR, WALLS, POT]] @ self.shares
        sheets = optics.absorptance.shape[0]
        for k in range(sheets):  # stacks count from outside, parts from inside
            parts[:, parts.shape[1] - 1 - k] += intercepted * optics.absorptance[k]
        return parts, intercepted

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_over(skyline_deg, self._evenly)

    def _evenly(self, toward_world: Array) -> tuple[Array, Array]:
        """Areas by ``lit_nodes`` with the floor lit evenly."""
        return self._with_outside(toward_world, self.absorbed_m2(toward_world))

    def exchange(self) -> tuple[list[str], Array]:
        """Long-wave exchange areas between parts, sky and air (the ground counts as air), m²."""
        faces = box_faces(self.build, self.load, "longwave")
        names = [*self.parts, "sky", "air"]
        own = [] if self.load is None else [b.node for b in self.load.bodies_on(self.build.floor_m) if b.stands]
        stands = [node for node in (BOWL, *own) if node in names]
        as_part = {"floor": "tray", "outer": stands[0] if stands else "tray"}
        node = np.array([names.index(as_part.get(name, name)) for name in faces.names])
        area = exchange_areas(faces, absorbed_shares(faces), node, len(names))
        self._split(names, area, "walls", wall_weights(self.build))
        self._split(names, area, "tray", floor_weights(self.build, self.load, "longwave")[0])
        return names, area

    def _split(self, names: list[str], area: Array, of: str, weights: dict[str, float]) -> None:
        """Share one face's exchange out among those that make it up, which see next to nothing of each other."""
        whole = area[names.index(of)].copy()
        for name, weight in weights.items():
            k = names.index(name)
            area[k], area[:, k] = weight * whole, weight * whole
        for one in weights:
            for other in weights:
                area[names.index(one), names.index(other)] = 0.0


_LANDED: Kept[tuple[bytes, float, bool], Array] = Kept(256)
"""Where light lands is a matter of shapes: boxes that differ by paint, panes or insulation share it. At most 12 MB."""


def _landed(light: Patch, mirror_m: float, in_patch: bool, cavity: Cavity) -> Array:
    """Shares of light that enters the opening which land first on floor, walls and what stands, shape (n, 3)."""

    def follow() -> Array:
        samples = sobol(ENTRY_SAMPLES, 2)
        return np.asarray(
            landing(light.toward, light.reach, light.skew, mirror_m, in_patch, samples, cavity.box, cavity.pot)
        )

    if len(light.toward) > FEW_LANDED:
        return follow()
    shape = b"".join(part.tobytes() for part in (light.toward, light.reach, light.skew, cavity.box, cavity.pot))
    return _LANDED.get((shape, mirror_m, in_patch), follow)


_THROUGH: Kept[tuple[tuple[Pane, ...], bytes], StackOptics] = Kept(256)
"""Likewise what passes panes, of boxes that differ by what is in or round them."""


def _through(panes: tuple[Pane, ...], cosine: Array) -> StackOptics:
    if len(cosine) > FEW_LANDED:
        return stack(list(panes), cosine)
    return _THROUGH.get((panes, cosine.tobytes()), lambda: stack(list(panes), cosine))


_SKY_VALUES: Kept[tuple[str, str], Array] = Kept(64)


def _sky_values(build: Box, load: Load | None) -> Array:
    """What a box in its own axes takes up from every direction of the grid, nodes and opening last; however it stands later."""
    optics = BoxOptics.of(build, load)
    grid = grid_directions()
    values = np.column_stack(optics.absorbed_m2(grid.reshape(-1, 3) @ optics.axes))
    return np.asarray(values.reshape(*grid.shape[:2], -1))
