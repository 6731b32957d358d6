"""A hose coil's recipe: pieces of its wall, the bed under it, the sheet on it, the cover over it; water runs along the pieces."""

from __future__ import annotations

import math

from drylamp.core.builds.common.coil.spec import Coil
from drylamp.core.builds.common.wall.spec import wall_j_m2k, wall_w_m2k
from drylamp.core.builds.hose_coil.optics import PIECES, HoseOptics, hose_nodes, row_view
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, MAINS, SKY, Link, Node
from drylamp.core.heat.streams import Piece, Stream
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

COVER, UNDER, TAP, USEFUL = "cover", "under", "tap", "water"
SMALLEST_J_K = 20.0
TOUCHING_W_M2K = 25.0
"""A film or sheet that lies on a round hose, over the hose's width; from memory."""
SHEET_KG_M2, SHEET_CP = 0.2, 2300.0
"""A sheet of 0.2 mm polyethylene."""
IN_AIR_SHARE = 0.9
"""Share of a hose's surface on slats that the air meets; on a bed it is the upper two thirds; from memory."""
ON_BED_SHARE = 0.65
SIDE_SHELTER = 0.3


def stuffs(build: HoseCoil) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [Stuff("hose", hose_nodes()[-1], build.row)]
    if build.bed is not None:
        out.append(Stuff("bed", "bed", absorber(build.bed)))
        out += [Stuff(f"under-{k}", "bed" if k == 0 else "below", part.row) for k, part in enumerate(build.under)]
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
    holds = build.frame_m2 / build.pitch_m
    require(
        build.hose_m <= holds * 1.001, "spec.coil.pipe_m",
        f"{build.hose_m:g} m of hose were given; a frame of {build.width_m:g} × {build.length_m:g} m holds {holds:.0f} m at {build.pitch_mm:g} mm from turn "
        "to turn, so give less, wind closer or make the frame larger",
    )  # fmt: skip


def network_of(build: HoseCoil, load: Load | None, optics: HoseOptics) -> Network:
    """The network of a coil, dry or with water in it."""
    nodes, links = _hose(build)
    for more_nodes, more_links in (_bed(build), _sheet(build), _cover(build)):
        nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    streams = () if load is None else (_stream(build),)
    return Network(tuple(nodes), tuple(links), (), streams)


def _stream(build: HoseCoil) -> Stream:
    """In series one long pipe, side by side so many of the length of one."""
    coil = build.coil
    tubes = build.coils if build.joined == "parallel" else 1
    each = build.hose_m / tubes / PIECES
    return Stream(
        TOP, tuple(Piece(name, each) for name in hose_nodes()), coil.bore_mm / 1000.0, coil.wall_m, coil.row.conductivity_w_mk, MAINS,
        tubes=tubes, title="water in the hose", account=TAP, role="wanted",
    )  # fmt: skip


def _piece(build: HoseCoil) -> tuple[float, float, float]:
    """Of one piece: metres of hose, outer area, and area of its shadow."""
    metres = build.hose_m / PIECES
    return metres, metres * build.coil.outer_m2_m, metres * build.diameter_m


def _hose(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    metres, outer, width = _piece(build)
    names = hose_nodes()
    nodes = [
        Node(
            name, max(build.coil.wall_j_mk * metres, SMALLEST_J_K), _piece_title(k),
            role="absorber" if name == names[-1] else "inner",
        )
        for k, name in enumerate(names)
    ]  # fmt: skip
    links: list[Link] = []
    for name in names:
        if build.bed is not None:
            links.append(
                Link(
                    f"{name} on the bed",
                    Law.CONDUCTANCE,
                    name,
                    "bed",
                    (build.contact_w_m2k * width,),
                    calibrated_by="contact",
                )
            )
        links += _upward(build, name, outer, width)
    return nodes, links


def _piece_title(k: int) -> str:
    ends = {0: "hose at its inlet", PIECES - 1: "hose at its outlet"}
    return ends.get(k, f"hose, piece {k + 1} of {PIECES}")


def _upward(build: HoseCoil, name: str, outer: float, width: float) -> list[Link]:
    """A piece of hose towards what is over it: sheet, cover or the open."""
    row = build.row
    plan = build.plan_m2 / PIECES
    seen = plan * row_view(min(build.diameter_m / build.pitch_m, 1.0))
    if build.sheet is not None:
        inner = 1.0 / (1.0 / row.emittance + 1.0 / absorber(build.sheet).emittance - 1.0)
        return [
            Link(f"{name} under the sheet", Law.CONDUCTANCE, name, "sheet", (TOUCHING_W_M2K * width,)),
            Link(f"{name} shines on the sheet", Law.RADIATION, name, "sheet", (seen * inner,)),
        ]
    if build.skins:
        return _under_cover(build, name, seen, row.emittance)
    share = ON_BED_SHARE if build.bed is not None else IN_AIR_SHARE
    downward = 0.0 if build.bed is not None else seen
    sky = (1.0 + math.cos(math.radians(build.tilt_deg))) / 2.0
    return [
        Link(f"{name} to the wind", Law.WIND, name, AIR, (outer * share,), COVER, calibrated_by="loss"),
        Link(f"{name} to sky", Law.RADIATION, name, SKY, (seen * row.emittance * sky,), COVER, calibrated_by="loss"),
        Link(
            f"{name} to surroundings", Law.RADIATION, name, AIR, (row.emittance * (seen * (1.0 - sky) + downward) + 1e-9,), COVER,
            calibrated_by="loss",
        ),
    ]  # fmt: skip


def _under_cover(build: HoseCoil, name: str, plan: float, emittance: float) -> list[Link]:
    """A part of the plan area under the innermost sheet of the cover."""
    inner = build.skins[0].row
    facing = 1.0 / (1.0 / emittance + 1.0 / inner.emittance - 1.0) if inner.emittance > 0 else 0.0
    links = [Link(f"{name} shines on cover", Law.RADIATION, name, "cover-1", (plan * facing,))]
    if build.touches:
        links.append(Link(f"{name} touches cover", Law.CONDUCTANCE, name, "cover-1", (TOUCHING_W_M2K * plan,)))
    else:
        links.append(
            Link(
                f"{name} to cover",
                Law.CAVITY,
                name,
                "cover-1",
                (plan, build.cover_gap_m + build.diameter_m / 2, build.tilt_deg),
                calibrated_by="loss",
            )
        )
    through = plan * emittance * inner.longwave_transmittance
    if through > 1e-9 and len(build.skins) == 1:
        links.append(
            Link(f"{name} through the film", Law.RADIATION, name, SKY, (through,), COVER, calibrated_by="loss")
        )
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
    free = plan * (1.0 - row_view(min(build.diameter_m / build.pitch_m, 1.0)))
    links = [
        Link("through the bed", Law.CONDUCTANCE, "bed", "below", (half * plan,)),
        Link(
            "below to air",
            Law.CONDUCTANCE,
            "below",
            AIR,
            (plan / (1.0 / half + 1.0 / 8.0),),
            UNDER,
            calibrated_by="loss",
        ),
    ]
    if build.sheet is not None:
        links.append(Link("bed shines on the sheet", Law.RADIATION, "bed", "sheet", (free * finish.emittance + 1e-9,)))
        links.append(
            Link("bed to the sheet", Law.CAVITY, "bed", "sheet", (max(free, 1e-4), build.diameter_m, build.tilt_deg))
        )
    elif build.skins:
        links += _under_cover(build, "bed", max(free, 1e-4), finish.emittance)
    else:
        links += [
            Link("bed to the wind", Law.WIND, "bed", AIR, (max(free, 1e-4), SIDE_SHELTER), COVER, calibrated_by="loss"),
            Link(
                "bed to sky", Law.RADIATION, "bed", SKY, (free * finish.emittance + 1e-9,), COVER, calibrated_by="loss"
            ),
        ]
    return nodes, links


def _sheet(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    if build.sheet is None:
        return [], []
    plan, finish = build.plan_m2, absorber(build.sheet)
    nodes = [Node("sheet", max(SHEET_KG_M2 * SHEET_CP * plan, SMALLEST_J_K), "dark sheet", role="pane")]
    if build.skins:
        return nodes, _under_cover(build, "sheet", plan, finish.emittance)
    sky = (1.0 + math.cos(math.radians(build.tilt_deg))) / 2.0
    return nodes, [
        Link("sheet to the wind", Law.WIND, "sheet", AIR, (plan,), COVER, calibrated_by="loss"),
        Link(
            "sheet to sky", Law.RADIATION, "sheet", SKY, (plan * finish.emittance * sky,), COVER, calibrated_by="loss"
        ),
        Link(
            "sheet to surroundings",
            Law.RADIATION,
            "sheet",
            AIR,
            (plan * finish.emittance * (1 - sky) + 1e-9,),
            COVER,
            calibrated_by="loss",
        ),
    ]


def _cover(build: HoseCoil) -> tuple[list[Node], list[Link]]:
    plan, nodes, links, skins = build.plan_m2, [], [], build.skins
    for k, skin in enumerate(skins):
        mass = skin.row.density_kg_m3 * skin.thickness_m * plan * skin.row.cp_j_kgk
        nodes.append(
            Node(
                f"cover-{k + 1}",
                max(mass, SMALLEST_J_K),
                "cover" if len(skins) == 1 else f"cover, sheet {k + 1}",
                role="pane",
            )
        )
    for k, skin in enumerate(skins[:-1]):
        nearer, farther = f"cover-{k + 1}", f"cover-{k + 2}"
        facing = 1.0 / (1.0 / skin.row.emittance + 1.0 / skins[k + 1].row.emittance - 1.0)
        links += [
            Link(
                f"cover gap {k + 1}",
                Law.CAVITY,
                nearer,
                farther,
                (plan, skin.gap_m, build.tilt_deg),
                calibrated_by="loss",
            ),
            Link(f"{nearer} shines on {farther}", Law.RADIATION, nearer, farther, (plan * facing,)),
        ]
    if skins:
        last, emittance = f"cover-{len(skins)}", skins[-1].row.emittance
        sky = (1.0 + math.cos(math.radians(build.tilt_deg))) / 2.0
        links += [
            Link("cover to the wind", Law.WIND, last, AIR, (plan,), COVER, calibrated_by="loss"),
            Link("cover to sky", Law.RADIATION, last, SKY, (plan * emittance * sky,), COVER, calibrated_by="loss"),
            Link(
                "cover to surroundings",
                Law.RADIATION,
                last,
                AIR,
                (plan * emittance * (1 - sky) + 1e-9,),
                COVER,
                calibrated_by="loss",
            ),
        ]
    return nodes, links


def filled_kg(coil: Coil, coils: int) -> float:
    """What so many coils weigh with water in them."""
    area = math.pi / 4.0 * ((coil.outer_mm / 1000.0) ** 2 - (coil.bore_mm / 1000.0) ** 2)
    return coils * (coil.water_l + area * coil.pipe_m * coil.row.density_kg_m3)
