"""A hose coil's recipe: pieces of its wall, the bed under it, the sheet on it, the cover over it; water runs along the pieces."""

from __future__ import annotations

import math

from drylamp.core.air.constants import CP_AIR
from drylamp.core.builds.common.coil.head import check_passes, most_l_min
from drylamp.core.builds.common.coil.stream import coil_stream, piped
from drylamp.core.builds.common.cover.links import between_plates, sheets, sky_share
from drylamp.core.builds.common.seal.leak import leak_kg_s
from drylamp.core.builds.hose_coil.optics import PIECES, HoseOptics, hose_nodes, in_a_layer, row_view
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.open_air import open_links
from drylamp.core.common.wall import wall_j_m2k, wall_w_m2k
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, GROUND, SKY, Link, Node
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load
from drylamp.core.sky.ground import GROUND_DEPTH_M, SOIL_W_MK
from drylamp.core.tables import absorber

COVER, UNDER, TAP = "cover", "under", "tap"
SMALLEST_J_K = 20.0
TOUCHING_W_M2K = 25.0
"""A film or sheet that lies on a round hose, over the hose's width; from memory."""
TURNS_W_M2K = 25.0
"""Round turns that lie on one another, over their width, the air in the gussets between included; from memory."""
SHEET_KG_M2, SHEET_CP = 0.2, 2300.0
"""A sheet of 0.2 mm polyethylene."""
IN_AIR_SHARE = 0.9
"""Share of a hose's surface on slats that the air meets; on a bed it is the upper two thirds; from memory."""
ON_BED_SHARE = 0.65
SIDE_SHELTER, LEAST_M2 = 0.3, 1e-4
MESH_J_M2K = 400.0
"""Steel mesh of some 0.8 kg/m²; from memory."""
BELOW_W_M2K = 8.0
"""Film under the bed, in the shade; from memory."""


def stuffs(build: HoseCoil) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [Stuff("hose", hose_nodes()[-1], build.row)]
    if build.bed is not None:
        out.append(Stuff("bed", "bed", absorber(build.bed)))
        out += [Stuff(f"under-{k}", "bed" if k == 0 else "below", part.row) for k, part in enumerate(build.under)]
    if build.mesh is not None:
        out.append(Stuff("mesh", "mesh", build.mesh.row))
    if build.sheet is not None:
        out.append(Stuff("sheet", "sheet", absorber(build.sheet)))
    return out + [Stuff("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]


def surfaces(build: HoseCoil) -> dict[str, Surface]:
    """Hose or sheet, and the outermost cover."""
    behind = bool(build.skins)
    out = {name: Surface(build.row.emittance, behind) for name in (hose_nodes()[0], hose_nodes()[-1])}
    if build.sheet is not None:
        out = {"sheet": Surface(absorber(build.sheet).emittance, behind)}
    if build.skins:
        out[f"cover-{len(build.skins)}"] = Surface(build.skins[-1].row.emittance)
    return out


def check_build(build: HoseCoil) -> None:
    """Refuse more hose than the frame holds.

    Raises
    ------
    InputProblem
        says how much it holds.
    """
    holds = build.layers * build.frame_m2 / build.pitch_m
    require(
        build.hose_m <= holds * 1.001, "spec.coil.pipe_m",
        f"{build.hose_m:g} m of hose were given; a frame of {build.width_m:g} × {build.length_m:g} m holds {holds:.0f} m at {build.pitch_mm:g} mm from turn "
        "to turn, so give less, wind closer or make the frame larger",
    )  # fmt: skip


def check_size(build: HoseCoil, load: Load) -> None:
    """Refuse more flow than its pipes let through.

    Raises
    ------
    InputProblem
        says how much they do.
    """
    check_passes(load, build.coil, build.tubes, build.tube_m)
    load.plumbed(_stream(build))


def passes_l_min(build: HoseCoil, load: Load) -> float:
    """Litres a minute that the load's head drives through it."""
    return most_l_min(load, build.coil, build.tubes, build.tube_m)


def network_of(build: HoseCoil, load: Load | None, optics: HoseOptics) -> Network:
    """The network of a coil, dry or with water in it."""
    nodes, links = _hose(build)
    cover = sheets(build.skins, build.plan_m2, build.tilt_deg, COVER, SMALLEST_J_K, calibrated_by="loss")
    links = links + _leak(build)
    for more_nodes, more_links in (_bed(build), _mesh(build), _sheet(build), cover):
        nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    return piped(nodes, links, load, _stream(build))


def _leak(build: HoseCoil) -> list[Link]:
    """Air changed under the cover is half as warm as the hose and half as warm as the cover: so much was typed, none otherwise."""
    if not build.leak_m3_h or not build.skins:
        return []
    whole, above = leak_kg_s(build.leak_m3_h) * CP_AIR, hose_nodes()[-in_a_layer(build) :]
    shares = [(name, 0.5 / len(above)) for name in above] + [("cover-1", 0.5)]
    return [
        Link(f"air changed at {name}", Law.CONDUCTANCE, name, AIR, (whole * share,), COVER) for name, share in shares
    ]


def _stream(build: HoseCoil) -> Stream:
    """In series one long pipe, side by side so many of the length of one; in below, out above."""
    up = build.length_m * math.sin(math.radians(build.tilt_deg))
    return coil_stream(TOP, build.coil, hose_nodes(), build.tube_m, TAP, "water in the hose", build.tubes, "wanted", up)


def _hose(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    metres, names = build.hose_m / PIECES, hose_nodes()
    heat = max(build.coil.wall_j_mk * metres, SMALLEST_J_K)
    nodes = [
        Node(name, heat, _piece_title(k), role="absorber" if name == names[-1] else "inner")
        for k, name in enumerate(names)
    ]
    links, each = list[Link](), in_a_layer(build)
    for name in names[:each]:
        for below, w_m2k in _lies_on(build):
            contact = w_m2k * metres * build.diameter_m
            links.append(
                Link(f"{name} on the {below}", Law.CONDUCTANCE, name, below, (contact,), calibrated_by="contact")
            )
        if build.layers > 1 and build.bed is None:
            below_m2 = row_view(build) * build.plan_m2 / each
            links += open_links(
                name, (metres * build.coil.outer_m2_m / 2.0,), below_m2, build.row.emittance, 0.0, COVER
            )
    links += _between_layers(build, names, metres)
    return nodes, links + [link for name in names[-each:] for link in _upward(build, name, metres)]


def _between_layers(build: HoseCoil, names: list[str], metres: float) -> list[Link]:
    """Wound to and fro, so that the end of one layer lies under the beginning of the next."""
    each, touches = in_a_layer(build), TURNS_W_M2K * metres * build.diameter_m
    pairs = [(k, 2 * each * (k // each + 1) - 1 - k) for k in range(PIECES - each)]
    return [
        Link(f"{names[k]} under {names[over]}", Law.CONDUCTANCE, names[k], names[over], (touches,)) for k, over in pairs
    ]


def _lies_on(build: HoseCoil) -> list[tuple[str, float]]:
    """What a hose touches below, and how well, W/m²K over its width."""
    if build.mesh is not None:
        return [("mesh", build.mesh.contact_w_m2k)]
    return [] if build.bed is None else [("bed", build.contact_w_m2k)]


def _piece_title(k: int) -> str:
    ends = {0: "hose at its inlet", PIECES - 1: "hose at its outlet"}
    return ends.get(k, f"hose, piece {k + 1} of {PIECES}")


def _upward(build: HoseCoil, name: str, metres: float) -> list[Link]:
    """A piece of hose towards what is over it: sheet, cover or the open."""
    row, seen = build.row, row_view(build) * build.plan_m2 / in_a_layer(build)
    if build.sheet is not None:
        touches = TOUCHING_W_M2K * metres * build.diameter_m
        shines = seen * between_plates(row.emittance, absorber(build.sheet).emittance)
        return [
            Link(f"{name} under the sheet", Law.CONDUCTANCE, name, "sheet", (touches,)),
            Link(f"{name} shines on the sheet", Law.RADIATION, name, "sheet", (shines,)),
        ]
    if build.skins:
        return _under_cover(build, name, seen, row.emittance)
    share = ON_BED_SHARE if build.bed is not None else IN_AIR_SHARE
    blown = metres * build.coil.outer_m2_m * share
    both_sides = seen if build.bed is not None else 2.0 * seen
    return open_links(name, (blown,), both_sides, row.emittance, seen * sky_share(build.tilt_deg), COVER)


def _under_cover(build: HoseCoil, name: str, plan: float, emittance: float) -> list[Link]:
    """A part of the plan area under the innermost sheet of the cover."""
    inner, gap = build.skins[0].row, build.cover_gap_m + build.diameter_m / 2
    shines = plan * between_plates(emittance, inner.emittance)
    links = [Link(f"{name} shines on cover", Law.RADIATION, name, "cover-1", (shines,))]
    if build.touches:
        links.append(Link(f"{name} touches cover", Law.CONDUCTANCE, name, "cover-1", (TOUCHING_W_M2K * plan,)))
    else:
        across = (plan, gap, build.tilt_deg)
        links.append(Link(f"{name} to cover", Law.CAVITY, name, "cover-1", across, calibrated_by="loss"))
    through = plan * emittance * inner.longwave_transmittance
    if through > 1e-9 and len(build.skins) == 1:
        past = f"{name} through the film"
        links.append(Link(past, Law.RADIATION, name, SKY, (through,), COVER, calibrated_by="loss"))
    return links


def _bed(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    if build.bed is None:
        return [], []
    plan, finish = build.plan_m2, absorber(build.bed)
    wall, half = wall_j_m2k(build.under), 2.0 * wall_w_m2k(build.under)
    nodes = [
        Node("bed", max(wall / 3 * plan, SMALLEST_J_K), "bed", role="wall"),
        Node("below", max(wall * 2 / 3 * plan, SMALLEST_J_K), "under the bed"),
    ]
    holes = 1.0 if build.mesh is None else 1.0 - build.mesh.covers_share
    free = plan * (1.0 - row_view(build)) * holes
    beyond, film = (GROUND, SOIL_W_MK / GROUND_DEPTH_M) if build.on_ground else (AIR, BELOW_W_M2K)
    outward = plan / (1.0 / half + 1.0 / film)
    links = [
        Link("through the bed", Law.CONDUCTANCE, "bed", "below", (half * plan,)),
        Link(f"below to {beyond}", Law.CONDUCTANCE, "below", beyond, (outward,), UNDER, calibrated_by="loss"),
    ]
    bare = max(free, LEAST_M2)
    if build.sheet is not None:
        links.append(Link("bed shines on the sheet", Law.RADIATION, "bed", "sheet", (free * finish.emittance,)))
        links.append(Link("bed to the sheet", Law.CAVITY, "bed", "sheet", (bare, build.diameter_m, build.tilt_deg)))
    elif build.skins:
        links += _under_cover(build, "bed", bare, finish.emittance)
    else:
        links += open_links("bed", (bare, SIDE_SHELTER), free, finish.emittance, free, COVER)
    return nodes, links


def _mesh(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    """Wire over the bed: what it takes up goes to the hose that lies on it, down to the bed, and up between the turns."""
    mesh = build.mesh
    if mesh is None:
        return [], []
    wire, row = build.plan_m2 * mesh.covers_share, mesh.row
    assert build.bed is not None
    nodes = [Node("mesh", max(MESH_J_M2K * build.plan_m2, SMALLEST_J_K), "mesh", role="absorber")]
    down = wire * between_plates(row.emittance, absorber(build.bed).emittance)
    links = [
        Link("mesh shines on the bed", Law.RADIATION, "mesh", "bed", (down,)),
        Link("mesh to bed", Law.CAVITY, "bed", "mesh", (build.plan_m2, mesh.gap_m, build.tilt_deg)),
    ]
    bare = max(wire * (1.0 - row_view(build)), LEAST_M2)
    if build.sheet is not None:
        links.append(Link("mesh shines on the sheet", Law.RADIATION, "mesh", "sheet", (bare * row.emittance,)))
        return nodes, links
    if build.skins:
        return nodes, links + _under_cover(build, "mesh", bare, row.emittance)
    return nodes, links + open_links("mesh", (bare, SIDE_SHELTER), bare, row.emittance, bare, COVER)


def _sheet(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    if build.sheet is None:
        return [], []
    plan, finish = build.plan_m2, absorber(build.sheet)
    nodes = [Node("sheet", max(SHEET_KG_M2 * SHEET_CP * plan, SMALLEST_J_K), "dark sheet", role="pane")]
    if build.skins:
        return nodes, _under_cover(build, "sheet", plan, finish.emittance)
    return nodes, open_links("sheet", (plan,), plan, finish.emittance, plan * sky_share(build.tilt_deg), COVER)
