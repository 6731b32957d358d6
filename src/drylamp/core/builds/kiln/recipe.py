"""A kiln's recipe: roof sheets with their dew, the baffle and the air over it, the chamber's air and vapour, walls, floor, and the stack that the air goes round through.

Air rises along the baffle and comes down through the stack, by the fan or, without it, as warm air will; at night it may go the other way. The vents change the chamber's air, low and high; gaps do too.
"""

from __future__ import annotations

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.draught import FlowPath, Loss, Mover, settled_m3_s
from drylamp.core.builds.common.air_way.links import VAPOUR, carried, dewed, vapour_carried
from drylamp.core.builds.common.cover.glow import glow_links
from drylamp.core.builds.common.cover.links import between_plates
from drylamp.core.builds.kiln.optics import BAFFLE, FLOOR, WALLS, KilnOptics, roof_nodes
from drylamp.core.builds.kiln.spec import VENTS, KilnFan, LumberKiln
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.drive import FlowControl, Set
from drylamp.core.common.wall import wall_j_m2k
from drylamp.core.heat.damp import PER_G, VAPOUR_PER_HEAT
from drylamp.core.heat.law import Law
from drylamp.core.heat.led import STILL_M
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, GROUND, HUMIDITY, Link, Node
from drylamp.core.loads.common.stacked import CHAMBER, CHAMBER_VAPOUR, ROUND, Stack, StackPlace
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber
from drylamp.core.text import amount, metres

OVER, OVER_VAPOUR = "over-baffle", "over-baffle-vapour"
COVER_LOSS, WALLS_LOSS, AIR_LOSS, LEAK, BACKUP = "cover", "walls", "air", "leak", "backup"
AIR_KG_M3, LEAST_J_K, LEAST_M3 = 1.1, 200.0, 0.05
SOIL_M2K_W, UNDER_M2K_W = 0.5, 0.17
"""Soil under a floor; still air under a trailer's. From memory."""
STACK_ENTRY, STACK_RUB, SLOT, SLOT_SHARE = 1.5, 0.05, 1.5, 0.6
"""ζ of going into and out of a stack, what a channel rubs by its length over its hydraulic diameter, ζ of the slots under ridge and eaves and how wide they are by the gap over the baffle; from memory."""
BLOWS_OVER = 1.3
"""Free delivery by the flow of a fan that is told by the speed of its air alone."""
STACK_EMITTANCE = 0.9


def stuffs(build: LumberKiln) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [Stuff("wall", WALLS, build.wall[0].row), Stuff("wall", WALLS, absorber(build.lining))]
    out += [Stuff("wall", WALLS, layer.row) for layer in build.wall[1:2]]
    if build.baffle is not None:
        out += [Stuff("baffle", BAFFLE, build.baffle.row), Stuff("baffle", BAFFLE, build.baffle.sheet.row)]
    return out + [Stuff("cover", node, skin.row) for node, skin in zip(roof_nodes(build), build.skins, strict=True)]


def surfaces(build: LumberKiln) -> dict[str, Surface]:
    """What an infrared thermometer may be pointed at."""
    out = {WALLS: Surface(absorber(build.lining).emittance)}
    if build.baffle is not None:
        out[BAFFLE] = Surface(build.baffle.row.emittance, behind_cover=True)
    return out


def check_size(build: LumberKiln, load: Load) -> None:
    """Refuse boards longer than the inside, and a stack that does not fit.

    Raises
    ------
    InputProblem
        says what was given and what fits.
    """
    stack = load.stacked()
    if stack is None:
        return
    require(
        stack.long_m <= build.length_m, "load.groups",
        f"a board of {metres(stack.long_m)} was given; the kiln is {metres(build.length_m)} long inside, so cut it or lay in shorter ones",
    )  # fmt: skip
    opening = build.door.wide_m
    require(
        opening is None or build.door.takes_lengthways or stack.long_m <= opening, "load.groups",
        f"a board of {metres(stack.long_m)} was given; the opening in the rear wall is {metres(opening or 0.0)} wide: cut the board, widen the opening, or fill it by a door in its end",
    )  # fmt: skip
    require(
        stack.deep_m <= build.deep_m, "load.stack_deep_m",
        f"{metres(stack.deep_m)} was given; the kiln is {metres(build.deep_m)} from front to back, so stack it narrower",
    )  # fmt: skip
    clear = build.clear_m(stack.deep_m)
    holds = stack.m3 * clear / stack.high_m
    require(
        stack.high_m <= clear or build.measured.chamber_m3 is not None, "load.groups",
        f"{amount(stack.m3, 'timber')} was given, {metres(stack.high_m)} high on its sticks; {metres(clear)} are free under the baffle there, so up to {amount(holds, 'timber')} fits",
    )  # fmt: skip


def vents(build: LumberKiln) -> dict[str, Set]:
    """How far its vents stand open."""
    return {VENTS: build.vents}


def drives(build: LumberKiln) -> dict[str, FlowControl]:
    """Its fans."""
    return {} if build.fan is None else {ROUND: build.fan.control(build.facing_deg, build.tilt_deg)}


def network_of(build: LumberKiln, load: Load | None, optics: KilnOptics) -> Network:
    """The network of a kiln with what is stacked in it."""
    stack = None if load is None else load.stacked()
    losses = _losses(build, stack)
    mover = None if build.fan is None else _mover(build.fan, losses, stack)
    nodes, links = list[Node](), list[Link]()
    if load is not None and stack is not None:
        full = 0.0 if mover is None else _full_m3_s(mover, losses)
        speed = full * (1.0 - stack.past_share) / stack.open_m2
        nodes, links = load.in_stack(StackPlace(CHAMBER, CHAMBER_VAPOUR, ROUND, full * AIR_KG_M3 * CP_AIR, speed))
    for more_nodes, more_links in (_chamber(build, stack), _roof(build), _baffle(build, load, stack)):
        nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    return Network(
        tuple(nodes),
        (*links, *_goes_round(), *_changes(build), *_heater(build)),
        (_round(build, losses, mover), _vents(build)),
    )


# --- the ways of the air ---


def _losses(build: LumberKiln, stack: Stack | None) -> tuple[Loss, ...]:
    """In the way of the air that goes round: over the baffle, through the slots at its ends, through the stack."""
    gap = build.baffle.gap_m if build.baffle is not None else 0.5 * build.front_m
    out = [
        Loss("over the baffle", gap * build.length_m, STACK_ENTRY),
        Loss("slots", SLOT_SHARE * gap * build.length_m, 2.0 * SLOT),
    ]
    if stack is not None:
        zeta = STACK_ENTRY + STACK_RUB * stack.deep_m / (2.0 * stack.gap_m)
        out.append(Loss("stack", stack.open_m2, zeta * (1.0 - stack.past_share) ** 2))
    return tuple(out)


def _resists(losses: tuple[Loss, ...]) -> float:
    return 0.5 * AIR_KG_M3 * sum(part.zeta / part.area_m2**2 for part in losses)


def _mover(fan: KilnFan, losses: tuple[Loss, ...], stack: Stack | None) -> Mover:
    """All fans as one; as much as was typed where that is known."""
    if fan.stack_m_s is None or stack is None:
        return Mover(fan.shut_off_pa, fan.count * fan.free_m3_h / 3600.0)
    flow = fan.stack_m_s * stack.open_m2 / (1.0 - stack.past_share)
    return Mover(_resists(losses) * flow**2 / (1.0 - 1.0 / BLOWS_OVER**2), BLOWS_OVER * flow)


def _full_m3_s(mover: Mover, losses: tuple[Loss, ...]) -> float:
    return float(settled_m3_s(mover.shut_off_pa, _resists(losses) + mover.shut_off_pa / mover.free_m3_s**2, 0.0))


def _round(build: LumberKiln, losses: tuple[Loss, ...], mover: Mover | None) -> FlowPath:
    return FlowPath(ROUND, losses, ((OVER, build.rise_m),), CHAMBER, mover, both_ways=True)


def _vents(build: LumberKiln) -> FlowPath:
    made = build.vents
    openings = tuple(
        Loss(name, max(cm2, 1e-3) / 1e4, made.loss)
        for name, cm2 in (("low vents", made.low_cm2), ("high vents", made.high_cm2))
    )
    free = Loss("chamber", build.length_m * build.deep_m, 0.0)
    return FlowPath(
        VENTS,
        (free,),
        ((CHAMBER, made.apart_m),),
        AIR,
        vents=openings,
        wind=made.wind_share,
        both_ways=True,
        open_share=1.0 if min(made.low_cm2, made.high_cm2) > 0 else 0.0,
    )


def _goes_round() -> list[Link]:
    """Heat and vapour along both ways; the stack takes its own from the chamber's air."""
    return [
        *carried([CHAMBER, OVER, CHAMBER], ROUND, 1.0, AIR_LOSS),
        *carried([AIR, CHAMBER, AIR], VENTS, 1.0, AIR_LOSS),
        *vapour_carried([CHAMBER_VAPOUR, OVER_VAPOUR, CHAMBER_VAPOUR], ROUND, 1.0),
        *vapour_carried([HUMIDITY, CHAMBER_VAPOUR, HUMIDITY], VENTS, 1.0),
    ]


def _changes(build: LumberKiln) -> list[Link]:
    """Through gaps, or as it was measured."""
    if build.changes is None:
        gap = (build.leak_cm2 / 1e4, max(build.back_m, 0.1))
        return [
            Link("gaps", Law.LEAK, CHAMBER, AIR, gap, LEAK, calibrated_by="leak"),
            Link(
                "vapour through gaps",
                Law.DAMP_LEAK,
                CHAMBER_VAPOUR,
                HUMIDITY,
                gap,
                VAPOUR,
                beside=CHAMBER,
                calibrated_by="leak",
            ),
        ]
    per_change = build.chamber_m3 * AIR_KG_M3 * CP_AIR / 3600.0
    calm, blown = build.changes.calm_per_h * per_change, build.changes.per_m_s * per_change
    return [
        Link("gaps", Law.AIRED, CHAMBER, AIR, (calm, blown), LEAK, calibrated_by="leak"),
        Link(
            "vapour through gaps",
            Law.AIRED,
            CHAMBER_VAPOUR,
            HUMIDITY,
            (calm * VAPOUR_PER_HEAT, blown * VAPOUR_PER_HEAT),
            VAPOUR,
            calibrated_by="leak",
        ),
    ]


def _heater(build: LumberKiln) -> list[Link]:
    if build.heater is None:
        return []
    return [Link("back-up heat", Law.HEATED, AIR, CHAMBER, (build.heater.power_w, build.heater.until_c), BACKUP)]


# --- the chamber ---


def _over_m3(build: LumberKiln) -> float:
    gap = build.baffle.gap_m if build.baffle is not None else 0.1
    return min(gap * build.roof_m2, 0.4 * build.chamber_m3)


def _air_nodes(name: str, vapour: str, m3: float, title: str) -> list[Node]:
    kg = AIR_KG_M3 * max(m3, LEAST_M3)
    return [
        Node(name, max(kg * CP_AIR, LEAST_J_K), title, role="air"),
        Node(vapour, kg * PER_G, f"damp of {title}", role="vapour"),
    ]


def _chamber(build: LumberKiln, stack: Stack | None) -> tuple[list[Node], list[Link]]:
    walls, floor, over = build.walls_m2, build.floor_m2, _over_m3(build)
    room = build.chamber_m3 - over - (0.0 if stack is None else min(stack.m3, 0.8 * build.chamber_m3))
    nodes = [
        *_air_nodes(CHAMBER, CHAMBER_VAPOUR, room, "chamber air"),
        *_air_nodes(OVER, OVER_VAPOUR, over, "air over the baffle"),
        Node(
            WALLS,
            max(walls * build.walls_j_m2k + build.measured.stored_j_k, LEAST_J_K),
            "inner walls",
            role="wall",
            wet=dewed(CHAMBER_VAPOUR, CHAMBER, walls, FLOOR),
        ),
        Node(
            FLOOR,
            max(floor * build.floor_j_m2k, LEAST_J_K),
            "floor",
            role="wall",
            wet=dewed(CHAMBER_VAPOUR, CHAMBER, floor),
        ),
    ]
    under = UNDER_M2K_W if build.form == "trailer" else SOIL_M2K_W
    below = AIR if build.form == "trailer" else GROUND
    return nodes, [
        Link("walls to chamber", Law.SURFACE, WALLS, CHAMBER, (walls, STILL_M, 0.0)),
        Link("floor to chamber", Law.SURFACE, FLOOR, CHAMBER, (floor, STILL_M, 1.0)),
        Link(
            "walls to outside",
            Law.CONDUCTANCE,
            WALLS,
            AIR,
            (walls * build.through_w_m2k,),
            WALLS_LOSS,
            calibrated_by="loss",
        ),
        Link(
            "floor to below",
            Law.CONDUCTANCE,
            FLOOR,
            below,
            (floor / (1.0 / build.floor_u + under),),
            WALLS_LOSS,
            calibrated_by="loss",
        ),
        Link("dew on walls", Law.WET, WALLS, CHAMBER_VAPOUR, ()),
        Link("dew on the floor", Law.WET, FLOOR, CHAMBER_VAPOUR, ()),
        Link(
            "walls shine on the floor",
            Law.RADIATION,
            WALLS,
            FLOOR,
            (floor * between_plates(absorber(build.lining).emittance, STACK_EMITTANCE),),
        ),
    ]


def _roof(build: LumberKiln) -> tuple[list[Node], list[Link]]:
    """Sheets, the dew on the innermost, and long-wave from what looks at them."""
    area, names = build.roof_m2, roof_nodes(build)
    nodes, links = list[Node](), list[Link]()
    runs = FLOOR if build.drips == "back" else ""
    for k, (name, skin) in enumerate(zip(names, build.skins, strict=True)):
        heat = skin.row.density_kg_m3 * skin.thickness_m * area * skin.row.cp_j_kgk
        wet = dewed(OVER_VAPOUR, OVER, area, runs) if k == 0 else None
        nodes.append(
            Node(name, max(heat, LEAST_J_K), "roof" if len(names) == 1 else f"roof sheet {k + 1}", role="pane", wet=wet)
        )
        if k + 1 < len(names):
            links.append(
                Link(
                    f"roof gap {k + 1}",
                    Law.CAVITY,
                    name,
                    names[k + 1],
                    (area * skin.ribs, skin.gap_m, build.tilt_deg),
                    calibrated_by="loss",
                )
            )
    seen = _looks_up(build)
    links += [
        *glow_links(seen, build.skins, area, build.tilt_deg, "cover", COVER_LOSS),
        Link("roof wind", Law.WIND, names[-1], AIR, (area,), COVER_LOSS, calibrated_by="loss"),
        Link("dew on the roof", Law.WET, names[0], OVER_VAPOUR, ()),
        _led(build, "air to the roof", names[0], -1.0),
    ]
    return nodes, links


def _looks_up(build: LumberKiln) -> dict[str, tuple[float, float]]:
    """What looks at the roof: the baffle, and walls past it."""
    past = (build.roof_m2 - build.baffle_m2, absorber(build.lining).emittance)
    out = {} if build.baffle is None else {BAFFLE: (build.baffle_m2, build.baffle.row.emittance)}
    return out | ({WALLS: past} if past[0] > 1e-6 else {})


def _led(build: LumberKiln, name: str, surface: str, facing: float) -> Link:
    """From a surface to the air that is led along it under the roof, no less than still air would take."""
    gap = build.baffle.gap_m if build.baffle is not None else 0.5 * build.front_m
    area = build.roof_m2 if facing < 0.0 else build.baffle_m2
    wide, free = 2.0 * gap, gap * build.length_m
    return Link(
        name, Law.DUCT, surface, OVER, (area / wide, wide / free, wide / build.roof_m, area, facing), path=ROUND
    )


def _baffle(build: LumberKiln, load: Load | None, stack: Stack | None) -> tuple[list[Node], list[Link]]:
    """The baffle: air over and under it, and what it shines on below."""
    made = build.baffle
    if made is None:
        return [], []
    area = build.baffle_m2
    heat = area * (wall_j_m2k([made.sheet]) if made.heat_j_m2k is None else made.heat_j_m2k)
    below = absorber(made.under).emittance
    links = [
        _led(build, "baffle to the air over it", BAFFLE, 1.0),
        Link("baffle to chamber", Law.SURFACE, BAFFLE, CHAMBER, (area, STILL_M, -1.0)),
    ]
    top = 0.0 if stack is None else min(stack.top_m2, area)
    goods = [] if load is None or stack is None else sorted(load.goods)
    links += [
        Link(
            f"baffle shines on {node}",
            Law.RADIATION,
            BAFFLE,
            node,
            (top / len(goods) * between_plates(below, STACK_EMITTANCE),),
        )
        for node in goods
    ]
    if area - top > 1e-6:
        links.append(
            Link(
                "baffle shines on walls",
                Law.RADIATION,
                BAFFLE,
                WALLS,
                ((area - top) * between_plates(below, absorber(build.lining).emittance),),
            )
        )
    return [Node(BAFFLE, max(heat, LEAST_J_K), "baffle", role="absorber")], links
