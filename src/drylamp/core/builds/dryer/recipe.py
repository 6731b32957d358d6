"""A food dryer's recipe: the collector's segments, the air under the trays, each tray's air and its vapour, the air over them, walls, lid, chimney.

Air goes in at the inlet, up the collector, through the duct if there is one, past the trays one after the other or beside them, over them and out at the vent; at
night it may go the other way. Its water goes with it. Walls and the glass over the trays take dew.
"""

from __future__ import annotations

from drylamp.core.air.constants import CP_AIR, OPENING_LOSS
from drylamp.core.air.draught import FlowPath, Loss, Mover
from drylamp.core.builds.common.air_collector.links import (
    AIR_KG_M3,
    BACK_LOSS,
    COVER_LOSS,
    OUTSIDE_W_M2K,
    SMALLEST_J_K,
    absorber_nodes,
    air_nodes,
    back_nodes,
    collector_losses,
    collector_parts,
)
from drylamp.core.builds.common.air_way.links import VAPOUR, carried, dewed, vapour_carried
from drylamp.core.builds.common.air_way.spec import RoundDuct
from drylamp.core.builds.common.cover.links import between_plates, sheets, through_sheets
from drylamp.core.builds.dryer.optics import CHIMNEY, LID, WALLS, DryerOptics
from drylamp.core.builds.dryer.spec import DRAUGHT, OVER_TRAYS, FoodDryer
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.drive import FlowControl, Set
from drylamp.core.common.wall import wall_j_m2k, wall_w_m2k
from drylamp.core.heat.damp import PER_G
from drylamp.core.heat.law import Law
from drylamp.core.heat.led import STILL_M
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, HUMIDITY, Link, Node, Role
from drylamp.core.loads.common.shelves import INTO, Shelf
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

UNDER, OVER, IN_DUCT, IN_CHIMNEY = INTO, OVER_TRAYS, "duct", "chimney-air"
WARM_AIR, LEAK = "air", "leak"
DRIPS_BELOW_DEG = 12.0
"""Glass that leans less drips on what is under it; from memory."""
DUCT_FILM_W_M2K = 6.0
"""Of air in the duct on its wall; from memory."""
LEAST_HIGH_M = 0.02
"""Of a layer of air."""
BEND_LOSS, OUT_LOSS = 1.1, 1.0
"""ζ of a right bend, and of coming out (Idelchik)."""
MOST_KG_M2 = 15.0
"""More than this on a tray lies in a heap."""


def tray_air(k: int) -> str:
    """Node of a tray's air, the lowest 0."""
    return f"tray-{k + 1}"


def tray_vapour(k: int) -> str:
    """Node of its vapour."""
    return f"tray-{k + 1}-vapour"


OVER_VAPOUR = "over-trays-vapour"


def shelves(build: FoodDryer) -> list[Shelf]:
    """Its trays, as a load is laid on them."""
    speed = (1.0 - build.trays.bypass_share) / (CP_AIR * AIR_KG_M3 * build.floor_m2)
    return [Shelf(tray_air(k), tray_vapour(k), build.floor_m2, DRAUGHT, speed) for k in range(build.trays.count)]


def stuffs(build: FoodDryer) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out: list[Stuff] = []
    made = build.collector
    if made is not None:
        last = absorber_nodes()[-1]
        out += [
            Stuff("collector", last, made.row),
            Stuff("collector", last, made.sheet.row),
            Stuff("collector", back_nodes()[-1], made.back[0].row),
        ]
        out += [Stuff("collector", f"cover-{k + 1}", skin.row) for k, skin in enumerate(made.skins)]
    out += [Stuff("wall", WALLS, build.wall[0].row), Stuff("wall", WALLS, absorber(build.lining))]
    if build.cover is not None:
        out += [Stuff("cover", f"{LID}-{k + 1}", skin.row) for k, skin in enumerate(build.cover.skins)]
    if build.chimney is not None:
        out.append(Stuff("chimney", CHIMNEY, absorber(build.chimney.finish)))
    return out


def surfaces(build: FoodDryer) -> dict[str, Surface]:
    """What an infrared thermometer may be pointed at."""
    out = {WALLS: Surface(absorber(build.lining).emittance, behind_cover=build.cover is not None)}
    if build.collector is not None:
        glazed = bool(build.collector.skins)
        out[absorber_nodes()[-1]] = Surface(build.collector.row.emittance, behind_cover=glazed)
    return out


def check_size(build: FoodDryer, load: Load) -> None:
    """Refuse trays that are not there, and heaps.

    Raises
    ------
    InputProblem
        says how many trays there are, and how much they bear.
    """
    laid, trays = load.laid(), build.trays.count
    for item in laid:
        require(
            item.shelf < trays, "load.foods",
            f"tray {item.shelf + 1} was given; this dryer has {trays} of them, the lowest 1, so lay it on another or add trays",
        )  # fmt: skip
    for tray in range(trays):
        kg_m2 = sum(item.kg for item in laid if item.shelf == tray) / build.floor_m2
        require(
            kg_m2 <= MOST_KG_M2, "load.foods",
            f"tray {tray + 1} bears {kg_m2:.1f} kg/m²; up to {MOST_KG_M2:g} lie beside each other, that is {MOST_KG_M2 * build.floor_m2:.1f} kg on this tray, so spread it over more",
        )  # fmt: skip


def vents(build: FoodDryer) -> dict[str, Set]:
    """How far its vent stands open."""
    return {DRAUGHT: build.vent}


def drives(build: FoodDryer) -> dict[str, FlowControl]:
    """Its fan."""
    return {} if build.fan is None else {DRAUGHT: build.fan.control(build.facing_deg, build.tilt_deg)}


def network_of(build: FoodDryer, load: Load | None, optics: DryerOptics) -> Network:
    """The network of a dryer with what lies on its trays."""
    nodes, links = ([], []) if build.collector is None else collector_parts(build.collector, build.tilt_deg, DRAUGHT)
    for more_nodes, more_links in (_cabinet(build), _lid(build, optics), _shaft(build), _duct(build)):
        nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    if load is not None:
        own_nodes, own_links = load.on_shelves(shelves(build))
        nodes, links = [*own_nodes, *nodes], [*links, *own_links]
    return Network(tuple(nodes), (*links, *_air(build), *_vapour(build)), (_path(build),))


def _chain(build: FoodDryer) -> list[str]:
    """Air nodes on the way from outside to under the trays."""
    led = [] if build.collector is None else air_nodes()
    joint = [] if build.joint is None or build.collector is None else [IN_DUCT]
    return [AIR, *led, *joint, UNDER]


def _air(build: FoodDryer) -> list[Link]:
    past = build.trays.bypass_share
    trays = [tray_air(k) for k in range(build.trays.count)]
    out = [OVER, *([] if build.chimney is None else [IN_CHIMNEY]), AIR]
    beside = carried([UNDER, OVER], DRAUGHT, past, WARM_AIR, "air beside the trays") if past > 0.0 else []
    return [
        *carried(_chain(build), DRAUGHT, 1.0, WARM_AIR), *carried([UNDER, *trays, OVER], DRAUGHT, 1.0 - past, WARM_AIR), *beside,
        *carried(out, DRAUGHT, 1.0, WARM_AIR),
    ]  # fmt: skip


def _vapour(build: FoodDryer) -> list[Link]:
    """Water goes with the air: nothing wets or dries it before the trays."""
    past = build.trays.bypass_share
    chain = [HUMIDITY, *(tray_vapour(k) for k in range(build.trays.count)), OVER_VAPOUR]
    beside = vapour_carried([HUMIDITY, OVER_VAPOUR], DRAUGHT, past) if past > 0.0 else []
    return [
        *vapour_carried(chain, DRAUGHT, 1.0 - past),
        *beside,
        *vapour_carried([OVER_VAPOUR, HUMIDITY], DRAUGHT, 1.0),
        Link(
            "vapour through gaps",
            Law.DAMP_LEAK,
            OVER_VAPOUR,
            HUMIDITY,
            _gaps(build),
            VAPOUR,
            beside=OVER,
            calibrated_by="leak",
        ),
    ]


def _gaps(build: FoodDryer) -> tuple[float, float]:
    """Area of its gaps, m², and the height of warm air that presses on them, m."""
    return build.leak_cm2 / 1e4, max(build.cabinet_m, 0.1)


def _levels(build: FoodDryer) -> list[tuple[str, float]]:
    """Air in the cabinet from below, with the height of each."""
    spacing = build.trays.spacing_m
    heights = [spacing] * (build.trays.count - 1)
    trays = [(tray_air(k), high) for k, high in enumerate([*heights, 0.0])]
    return [(UNDER, build.under_m), *trays, (OVER, build.over_m)]


def _cabinet(build: FoodDryer) -> tuple[list[Node], list[Link]]:
    sides, levels = build.sides_m2, _levels(build)
    nodes = list[Node]()
    for name, high in levels:
        air_kg = AIR_KG_M3 * build.floor_m2 * max(high, LEAST_HIGH_M)
        role: Role = "air" if name in (UNDER, OVER) else "level"
        title = _level_title(name)
        nodes.append(Node(name, max(air_kg * CP_AIR, SMALLEST_J_K), title, role=role))
        if name != UNDER:
            nodes.append(Node(f"{name}-vapour", max(air_kg, 0.01) * PER_G, f"damp of {title}", role="vapour"))
    heat = wall_j_m2k(build.wall) / 3.0 * sides + build.stored_j_k
    wet = dewed(OVER_VAPOUR, OVER, sides)
    nodes.append(Node(WALLS, max(heat, SMALLEST_J_K), "inner walls", role="wall", wet=wet))
    whole = sum(max(high, LEAST_HIGH_M) for _, high in levels)
    links = [
        Link(f"{name} to walls", Law.SURFACE, WALLS, name, (sides * max(high, LEAST_HIGH_M) / whole, STILL_M, 0.0))
        for name, high in levels
    ]
    out = sides / (1.0 / wall_w_m2k(build.wall) + 1.0 / OUTSIDE_W_M2K)
    links += [
        Link("walls to outside", Law.CONDUCTANCE, WALLS, AIR, (out,), BACK_LOSS, calibrated_by="loss"),
        Link("dew on walls", Law.WET, WALLS, OVER_VAPOUR, ()),
        Link("gaps", Law.LEAK, OVER, AIR, _gaps(build), LEAK, calibrated_by="leak"),
    ]
    return nodes, links


def _level_title(name: str) -> str:
    return {UNDER: "air under the trays", OVER: "air over the trays"}.get(name, f"air at {name.replace('-', ' ')}")


def _lid(build: FoodDryer, optics: DryerOptics) -> tuple[list[Node], list[Link]]:
    """The glass over the trays: it sees what lies topmost, and the walls beside it."""
    if build.cover is None:
        return [], []
    area, inner = build.lid_m2, f"{LID}-1"
    nodes, links = sheets(build.skins, area, build.lit_lid_deg, COVER_LOSS, SMALLEST_J_K, "loss", LID)
    top = [laid for laid in optics.laid if laid.shelf == build.trays.count - 1]
    under = top[0].node if top and build.lit_lid_deg < DRIPS_BELOW_DEG else ""
    wet = dewed(OVER_VAPOUR, OVER, area, under)
    nodes[0] = Node(nodes[0].name, nodes[0].capacity_j_k, "glass over the trays", role="pane", wet=wet)
    skin = build.skins[0].row
    seen = {laid.node: (min(laid.covers_m2, build.floor_m2), laid.emittance) for laid in top}
    rest = max(build.floor_m2 - sum(m2 for m2, _ in seen.values()), 0.0)
    seen[WALLS] = (rest, absorber(build.lining).emittance)
    for node, (m2, emittance) in seen.items():
        if m2 <= 1e-6:
            continue
        links.append(
            Link(
                f"{node} shines on the glass",
                Law.RADIATION,
                node,
                inner,
                (m2 * between_plates(emittance, skin.emittance),),
            )
        )
        links += through_sheets(node, m2 * emittance, build.skins, COVER_LOSS)
    links += [
        Link("air to the glass", Law.SURFACE, inner, OVER, (area, STILL_M, -1.0)),
        Link("dew on the glass", Law.WET, inner, OVER_VAPOUR, ()),
    ]
    return nodes, links


def _shell_w_k(made: RoundDuct, *inside_w_k: float) -> float:
    """Through the shell of a round duct to the outside, after what lies before it."""
    ways = (*inside_w_k, made.hull_m2 * min(wall_w_m2k(made.wall), 1e4), made.hull_m2 * OUTSIDE_W_M2K)
    return 1.0 / sum(1.0 / w_k for w_k in ways)


def _shaft(build: FoodDryer) -> tuple[list[Node], list[Link]]:
    made = build.chimney
    if made is None:
        return [], []
    bore = made.diameter_mm / 1000.0
    shell = Node(CHIMNEY, max(wall_j_m2k(made.wall) * made.hull_m2, SMALLEST_J_K), "chimney", role="wall")
    air = Node(
        IN_CHIMNEY,
        max(AIR_KG_M3 * CP_AIR * made.area_m2 * made.height_m, SMALLEST_J_K),
        "air in the chimney",
        role="inner",
    )
    led = (made.hull_m2 / bore, bore / made.area_m2, bore / made.height_m, made.hull_m2, 0.0)
    return [shell, air], [
        Link("chimney to its air", Law.TUBE, CHIMNEY, IN_CHIMNEY, led, path=DRAUGHT),
        Link(
            "chimney to outside",
            Law.CONDUCTANCE,
            CHIMNEY,
            AIR,
            (_shell_w_k(made),),
            BACK_LOSS,
            calibrated_by="loss",
        ),
    ]


def _duct(build: FoodDryer) -> tuple[list[Node], list[Link]]:
    made = build.joint
    if made is None or build.collector is None:
        return [], []
    out = _shell_w_k(made, made.hull_m2 * DUCT_FILM_W_M2K)
    node = Node(
        IN_DUCT,
        max(AIR_KG_M3 * CP_AIR * made.area_m2 * made.length_m + wall_j_m2k(made.wall) * made.hull_m2, SMALLEST_J_K),
        "air in the duct",
        role="inner",
    )
    return [node], [Link("duct to outside", Law.CONDUCTANCE, IN_DUCT, AIR, (out,), BACK_LOSS, calibrated_by="loss")]


def _path(build: FoodDryer) -> FlowPath:
    """Everything in the way of the air, and every column that lifts it."""
    made, joint, trays = build.collector, build.joint, build.trays
    losses = [Loss("inlet", build.inlet.area_cm2 / 1e4, build.inlet.loss)]
    columns: list[tuple[str, float]] = []
    if made is not None:
        losses += collector_losses(made)
        columns += [(name, build.rise_m / len(air_nodes())) for name in air_nodes()]
    if made is not None and joint is not None:
        losses.append(Loss("duct", joint.area_m2, OPENING_LOSS + BEND_LOSS * joint.bends))
        columns.append((IN_DUCT, joint.rises_m))
    if trays.loss > 0.0:
        losses.append(Loss("trays", build.floor_m2, trays.count * trays.loss * (1.0 - trays.bypass_share) ** 2))
    columns += _levels(build)
    if build.chimney is not None:
        losses.append(Loss("chimney", build.chimney.area_m2, OUT_LOSS))
        columns.append((IN_CHIMNEY, build.chimney.height_m))
    vent = Loss("vent", max(build.vent.area_cm2, 1e-3) / 1e4, build.vent.loss)
    return FlowPath(
        DRAUGHT, tuple(losses), tuple(columns), AIR, None if build.fan is None else Mover(build.fan.shut_off_pa, build.fan.free_m3_h / 3600.0), vents=(vent,),
        wind=build.wind_share, both_ways=build.breathes, open_share=1.0 if build.vent.area_cm2 > 0 else 0.0,
    )  # fmt: skip
