"""A batch box's recipe: a box's network with water in the place of its tray.

The bed (``tray``) takes the sun and warms the water on it; the uppermost layer gives heat up to the walls by long-wave and to the cover by
vapour and air; the wetted sides lose it straight into the insulation. A night lid lies between the cover and what is outside: a
conductance that is large while it is open.
"""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from drylamp.core.air.constants import CP_AIR, CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath
from drylamp.core.builds.batch_box.optics import BatchOptics
from drylamp.core.builds.batch_box.spec import FREEBOARD_M, BatchBox
from drylamp.core.builds.common.box import recipe as box
from drylamp.core.builds.common.box.recipe import COVER
from drylamp.core.builds.common.coil.head import check_passes
from drylamp.core.builds.common.coil.stream import coil_stream
from drylamp.core.builds.common.cover.links import between_plates
from drylamp.core.builds.common.lid.spec import NightLid
from drylamp.core.builds.common.seal.leak import leak_kg_s
from drylamp.core.builds.kind import Stuff
from drylamp.core.checks import require
from drylamp.core.common.coil import LIME_W_MK
from drylamp.core.common.drive import FlowControl, Season, Timer
from drylamp.core.common.wall import wall_j_m2k, wall_w_m2k
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, MAINS, SKY, Link, Node
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.common.filling import DRAWN, TOP, Filling
from drylamp.core.loads.load import Load

TAP, LID, LID_INSIDE, LID_TOP = "tap", "lid", "lid-inside", "lid-top"
COIL_PIECES = 12
TURNED_OVER_W_M2K = 2000.0
"""How fast layers that stand upside down turn over; large enough to hold them within a tenth of a kelvin."""
OPEN_W_M2K = 400.0
"""Between the cover and its own outside while the lid is open: nothing in the way."""
LID_TOP_SHARE = 0.1
"""Of the lid's heat in its outer face; from memory."""
BED_FILM_W_M2K = 300.0
"""The water's film on the bed that scale lies in a row with; from memory."""
LEAST_FILM_SHARE = 0.05
"""Vapour that still passes a film that floats, at its edges; from memory."""


def stuffs(build: BatchBox) -> list[Stuff]:
    """A box's, and the lid."""
    lid = [] if build.lid is None else [Stuff("lid", LID_TOP, build.lid.row)]
    return [*box.stuffs(build), *lid]


def check_size(build: BatchBox, load: Load) -> None:
    """Refuse more water than the box holds, and a coil that finds no room on the bed.

    Raises
    ------
    InputProblem
        says what was given and how much there is room for.
    """
    filling = load.filling
    assert filling is not None
    require(
        filling.litres <= build.holds_l, "load.fill_l",
        f"{filling.litres:g} litres stand {100 * build.depth_m(load):.0f} cm deep; up to {build.holds_l:.0f} litres fit under the low edge with "
        f"{100 * FREEBOARD_M:.0f} cm to spare, so fill less or make it higher",
    )  # fmt: skip
    if build.coil is not None:
        check_passes(load, build.coil, 1, build.coil.pipe_m)


def check_build(build: BatchBox) -> None:
    """Refuse a coil that the bed has no room for, a mirror in the ground, and what boxes refuse.

    Raises
    ------
    InputProblem
        says how long a coil would fit.
    """
    _check_stands(build)
    box.check_mirrors(build)
    if build.coil is not None:
        require(
            build.coil.pipe_m <= build.longest_coil_m, "spec.coil.pipe_m",
            f"{build.coil.pipe_m:g} m was given; {build.longest_coil_m:.0f} m of pipe {build.coil.outer_mm:g} mm thick lie on the bed with half "
            "a diameter between turns, so give less or a thinner pipe",
        )  # fmt: skip


def _check_stands(build: BatchBox) -> None:
    """Refuse a mirror whose foot is in the ground."""
    if build.behind is not None:
        deepest = build.back_height_m + build.wall_thickness_m
        require(
            build.behind.foot_m >= -deepest, "spec.behind.foot_m",
            f"{build.behind.foot_m:g} m was given; the upper edge stands {deepest:.2f} m over the ground that the box is on, so {-deepest:.2f} is the lowest",
        )  # fmt: skip


def drives(build: BatchBox) -> dict[str, FlowControl]:
    """The lid, opened and shut by the hour."""
    if build.lid is None:
        return {}
    return {LID: Timer(seasons=[Season(months=list(range(1, 13)), on=build.lid.open_at, off=build.lid.shut_at)])}


def network_of(build: BatchBox, load: Load | None, optics: BatchOptics) -> Network:
    """The network of a batch box, dry or filled."""
    seen = build.filled(load)
    plain = box.network_of(seen, None, optics.box)
    filling = None if load is None else load.filling
    title = "plate on the water" if build.plate is not None and filling is not None else "bed of the trough"
    nodes = [replace(node, title=title) if node.name == "tray" else node for node in plain.nodes]
    links, paths = list(plain.links), list[FlowPath]()
    streams: tuple[Stream, ...] = ()
    if build.lid is not None:
        nodes, links = _lidded(build, build.lid, nodes, links)
        paths.append(
            FlowPath(LID, (), (), AIR, given_kg_s=(OPEN_W_M2K - _shut_w_m2k(build.lid)) * build.opening_m2 / CP_AIR)
        )
    if filling is not None:
        nodes, links = _wet(build, seen, filling, nodes, links)
        if build.coil is not None:
            more, along, streams = _coiled(build, filling)
            nodes, links = [*nodes, *more], [*links, *along]
        else:
            paths.append(FlowPath(DRAWN, (), (), MAINS, fluid="water", given_kg_s=1.0))
            links += _drawn(filling)
    return Network(tuple(nodes), tuple(links), tuple(paths), streams)


def _wet(
    build: BatchBox, seen: BatchBox, filling: Filling, nodes: list[Node], links: list[Link]
) -> tuple[list[Node], list[Link]]:
    """Water on the bed: what the tray did towards air, walls and cover is the water's now."""
    area, depth = build.floor_m2, build.height_m - seen.height_m
    each = depth / filling.layers
    layers = [
        Node(name, filling.litres / filling.layers * CP_WATER_J_KGK, title, role="wanted" if name == TOP else "caught")
        for name, title in zip(filling.names, filling.titles, strict=True)
    ]
    sides = 2 * (build.width_m + build.floor_length_m) * depth
    lifted = _under_plate(filling, links) if build.plate is not None else _open_water(links)
    half, lowest = 2.0 * wall_w_m2k(build.wall), filling.names[-1]
    wet = [
        _warmed(build, lowest),
        *(
            Link(f"{upper} on {lower}", Law.MIXING, upper, lower, (area, each, TURNED_OVER_W_M2K * area))
            for upper, lower in pairwise(filling.names)
        ),
        *(
            Link(
                f"{name} through the sides",
                Law.CONDUCTANCE,
                name,
                "insulation",
                (half * sides / filling.layers,),
                calibrated_by="loss",
            )
            for name in filling.names
        ),
        *([] if build.plate is not None else _over_the_water(build)),
    ]
    heavier = [
        replace(node, capacity_j_k=node.capacity_j_k + wall_j_m2k(build.wall) * sides * 2 / 3)
        if node.name == "insulation"
        else node
        for node in nodes
    ]
    return [*layers, *heavier], [*lifted, *wet]


def _length(build: BatchBox) -> float:
    return (build.width_m + build.floor_length_m) / 4


def _through_scale(build: BatchBox) -> float:
    """Share of the water's film that scale leaves: the two in a row."""
    return 1.0 / (1.0 + BED_FILM_W_M2K * build.scale_mm / 1000.0 / LIME_W_MK)


def _warmed(build: BatchBox, lowest: str) -> Link:
    """From what the sun lands on into the water: the bed from below, or a plate from above."""
    if build.plate is not None:
        return Link("plate to water", Law.CONDUCTANCE, "tray", TOP, (build.floor_m2 * build.plate_w_m2k,))
    return Link(
        "bed to water", Law.WETTED, "tray", lowest, (build.floor_m2 * _through_scale(build), _length(build), 1.0)
    )


def _open_water(links: list[Link]) -> list[Link]:
    """Air over the bed is over the water now, and long-wave comes off it."""
    return [_off_the_water(link) for link in links if link.name != "tray to air"]


def _under_plate(filling: Filling, links: list[Link]) -> list[Link]:
    """The plate stays under the air; what went down into the floor goes there from the lowest water."""
    return [
        replace(link, start=filling.names[-1]) if link.name in ("floor inside", "heat bridges") else link
        for link in links
    ]


def _off_the_water(link: Link) -> Link:
    """Long-wave that a box's tray gives up comes off the water; what goes down into the floor stays the bed's."""
    if link.law != Law.RADIATION:
        return link
    start, end = (TOP if node == "tray" else node for node in (link.start, link.end))
    return replace(link, name=link.name.replace("tray", "water"), start=start, end=end)


def _over_the_water(build: BatchBox) -> list[Link]:
    """Vapour and air from the water to the cover, or into the open."""
    area = build.floor_m2
    tight = LEAST_FILM_SHARE if build.water_film else 1.0
    if build.cover is None:
        return [
            Link("water to the wind", Law.WIND, TOP, AIR, (area,), COVER, calibrated_by="loss"),
            Link("water into the air", Law.OPEN_WATER, TOP, AIR, (area, tight, 0.0), COVER),
        ]
    return [
        Link("water to cover", Law.WET_GAP, TOP, "cover-1", (area, tight), calibrated_by="loss"),
        Link("water to air inside", Law.SURFACE, TOP, "inside-air", (area, _length(build), 1.0)),
        *([] if build.seals_vapour else _vapour_out(build, tight)),
    ]


def _vapour_out(build: BatchBox, tight: float) -> list[Link]:
    """Damp air through the gap round the cover, instead of drops on it: what rose from the water is gone.

    The air is as damp as the colder of water and cover lets it be. Where that is the cover, the heat goes from there: vapour that came up to
    it leaves before it gives its heat away.
    """
    typed = build.leak_m3_h
    leak = (
        (tight * build.leak_m2, build.height_m, 0.0)
        if typed is None
        else (0.0, build.height_m, tight * leak_kg_s(typed))
    )
    return [
        Link(name, Law.VAPOUR_LEAK, start, AIR, leak, box.LEAK, beside=other, calibrated_by="leak")
        for name, start, other in (("vapour past the cover", "cover-1", TOP), ("vapour off the water", TOP, "cover-1"))
    ]


def _shut_w_m2k(lid: NightLid) -> float:
    """What it conducts when shut."""
    return min(wall_w_m2k([lid]), OPEN_W_M2K)


def _lidded(
    build: BatchBox, lid: NightLid, nodes: list[Node], links: list[Link]
) -> tuple[list[Node], list[Link]]:  # fmt: skip
    """What the outermost sheet gave to the outside, the lid's top gives now."""
    outermost = f"cover-{len(build.skins)}" if build.skins else "inside-air"
    moved = [
        replace(link, start=LID_TOP)
        if link.start == outermost and link.end in (AIR, SKY) and link.account == COVER
        else link
        for link in links
    ]
    heat = LID_TOP_SHARE * wall_j_m2k([lid]) * build.opening_m2
    top = Node(LID_TOP, max(heat, box.SMALLEST_J_K), "outside of the lid", role="pane")
    inside, along = _under_lid(build, lid, outermost)
    through = [
        *along,
        Link("lid open, up", Law.CARRIED, outermost, LID_TOP, (), path=LID),
        Link("lid open, down", Law.CARRIED, LID_TOP, outermost, (), path=LID),
    ]
    return [*nodes, *inside, top], [*moved, *through]


def _under_lid(build: BatchBox, lid: NightLid, outermost: str) -> tuple[list[Node], list[Link]]:
    """From the outermost sheet through the lid: straight where it lies on it, by way of its inner face where there is air between."""
    area, through = build.opening_m2, _shut_w_m2k(lid)
    if lid.gap_m == 0.0 or not build.skins:
        return [], [Link("lid shut", Law.CONDUCTANCE, outermost, LID_TOP, (through * area,))]
    inside = Node(LID_INSIDE, max(LID_TOP_SHARE * wall_j_m2k([lid]) * area, box.SMALLEST_J_K), "inside of the lid")
    shines = area * between_plates(lid.inner_emittance, build.skins[-1].row.emittance)
    return [inside], [
        Link("air under the lid", Law.CAVITY, outermost, LID_INSIDE, (area, lid.gap_m, build.tilt_deg)),
        Link("cover shines on the lid", Law.RADIATION, outermost, LID_INSIDE, (shines,)),
        Link("lid shut", Law.CONDUCTANCE, LID_INSIDE, LID_TOP, (through * area,)),
    ]


def _drawn(filling: Filling) -> list[Link]:
    """Cold water in at the bottom, what stands on top out of the tap."""
    chain = [MAINS, *reversed(filling.names), MAINS]
    return [
        Link(f"drawn {k}", Law.CARRIED, a, b, (), TAP if MAINS in (a, b) else "", path=DRAWN)
        for k, (a, b) in enumerate(pairwise(chain))
    ]


def _coiled(build: BatchBox, filling: Filling) -> tuple[list[Node], list[Link], tuple[Stream, ...]]:
    """A pipe through the water from the bottom up, its wall in pieces."""
    coil = build.coil
    assert coil is not None
    names = [f"coil-{k}" for k in range(COIL_PIECES)]
    each = coil.pipe_m / COIL_PIECES
    nodes = [Node(name, max(coil.wall_j_mk * each, box.SMALLEST_J_K), "wall of the coil") for name in names]
    beside = [filling.names[filling.layers - 1 - k * filling.layers // COIL_PIECES] for k in range(COIL_PIECES)]
    links = [
        Link(
            f"{name} in the water",
            Law.IMMERSED,
            name,
            layer,
            (coil.outer_m2_m * each * _through_scale(build), coil.outer_mm / 1000.0),
        )
        for name, layer in zip(names, beside, strict=True)
    ]
    return nodes, links, (coil_stream(DRAWN, coil, names, coil.pipe_m, TAP, "water in the coil"),)
