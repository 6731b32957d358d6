"""A loop put together: down from the store, along what the sun heats, up again, and through the store to where it began."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise

from drylamp.core.air.constants import CP_WATER_J_KGK, GRAVITY
from drylamp.core.air.draught import FlowPath
from drylamp.core.air.thermostat import Stop, Thermostat
from drylamp.core.checks import InputProblem
from drylamp.core.common.coil import Coil
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, Link, Node
from drylamp.core.heat.pipe_head import friction_factor
from drylamp.core.heat.pipes import Piece, Round, Stream, Tube
from drylamp.core.heat.water import density_kg_m3, reynolds_number
from drylamp.core.loads.common.loop.ends import BACK, LOOP, LOOP_BACK, PIPES, PUMPED, THERE, StoreEnds
from drylamp.core.loads.common.loop.spec import Looped, Pump
from drylamp.core.loads.common.plumbing import Plumbed

FITTINGS = 8.0
"""Heads of velocity lost in bends, valves and ends; from memory."""
FLOWING_C = 30.0
LEAST_L_MIN = 0.02


def round_through(loop: Looped, heated: Stream, ends: StoreEnds) -> Plumbed:
    """The loop of a store and what the sun heats.

    Raises
    ------
    InputProblem
        the pump cannot lift water over the top, or moves next to nothing.
    """
    up = sum(piece.rise_m for piece in heated.pieces)
    stream = _piped(loop, heated, ends, up)
    way, flow = ends.way, 0.0 if loop.pump is None else _pumped_kg_s(loop, loop.pump, stream, ends, up)
    goes = stream.round
    assert goes is not None
    switch = None if loop.pump is None else _switch(loop.pump, heated.pieces[-1].node, ends.feeler or way[-1])
    paths = [_led(LOOP, flow, switch), *([_led(goes.back)] if goes.back else [])]
    links = [
        Link(f"{name} to the air", Law.CONDUCTANCE, name, AIR, (loop.run.loses_w_mk * length,), PIPES)
        for name, length in ((THERE, loop.run.there_m), (BACK, loop.run.back_m))
    ]
    for path, along in ((LOOP, way), (goes.back, way[::-1])):
        links += [Link(f"{path} {a}", Law.CARRIED, a, b, (), path=path) for a, b in pairwise(along) if path]
    if loop.pump is not None and flow > 0.0:
        heat = loop.pump.motor_w * loop.pump.into_water_share / (flow * CP_WATER_J_KGK)
        links.append(Link("heat of the pump", Law.DRIVEN, AIR, THERE, (heat,), PUMPED, path=LOOP))
    return Plumbed(stream, _walls(loop), tuple(links), tuple(paths))


def _led(name: str, given_kg_s: float = 0.0, switch: Thermostat | None = None) -> FlowPath:
    return FlowPath(name, (), (), AIR, fluid="water", given_kg_s=given_kg_s, thermostat=switch, led=True)


def _piped(loop: Looped, heated: Stream, ends: StoreEnds, up_m: float) -> Stream:
    """What the sun heats between the pipes there and back."""
    own = Tube(heated.bore_m, heated.wall_m, heated.wall_w_mk, heated.tubes)
    along = [replace(piece, tube=piece.tube or own) for piece in heated.pieces]
    there = Piece(THERE, loop.run.there_m, -(loop.above_m + ends.takes_m), _tube(loop.run.pipe(loop.run.there_m)))
    back = Piece(BACK, loop.run.back_m, loop.above_m + ends.gives_m - up_m, _tube(loop.run.pipe(loop.run.back_m)))
    siphons = not loop.check_valve or loop.pump is None
    goes = Round(
        ends.way[0],
        LOOP,
        "" if loop.check_valve or not siphons else LOOP_BACK,
        ends.column,
        siphons,
        FITTINGS,
        ends.gives,
    )
    return replace(
        heated, name=LOOP, pieces=(there, *along, back, *ends.inside), inlet=ends.way[-1], account="", role="vessel", title="water in the pipes", round=goes,
    )  # fmt: skip


def _tube(pipe: Coil) -> Tube:
    return Tube(pipe.bore_mm / 1000.0, pipe.wall_m, pipe.skin_w_mk)


def _walls(loop: Looped) -> tuple[Node, ...]:
    named = ((THERE, loop.run.there_m, "pipe from the store"), (BACK, loop.run.back_m, "pipe back to the store"))
    return tuple(Node(name, loop.run.pipe(m).wall_j_mk * m, title) for name, m, title in named)


def _switch(pump: Pump, heated: str, store: str) -> Thermostat | None:
    """Of a pump that two temperatures switch."""
    if pump.how != "difference":
        return None
    stop = None if pump.stops_at_c is None else Stop(store, pump.stops_at_c, above=not pump.cools)
    warm, cool = (store, heated) if pump.cools else (heated, store)
    return Thermostat(warm, cool, pump.on_k, pump.off_k, stop)


def head_lost_m(stream: Stream, kg_s: float) -> float:
    """Head that a flow takes all round a stream that goes round, m of water (Darcy–Weisbach), its fittings at the bore of its first piece."""
    rho, total = density_kg_m3(FLOWING_C), 0.0
    for k, piece in enumerate(stream.pieces):
        tube = stream.tube_of(piece)
        speed = kg_s / (rho * tube.tubes * math.pi / 4.0 * tube.bore_m**2)
        factor = friction_factor(reynolds_number(kg_s / tube.tubes, tube.bore_m, FLOWING_C))
        lost = factor * piece.length_m / tube.bore_m + (FITTINGS if k == 0 else 0.0)
        total += lost * speed * speed / (2.0 * GRAVITY)
    return total


def _pumped_kg_s(loop: Looped, pump: Pump, stream: Stream, ends: StoreEnds, up_m: float) -> float:
    """Where the pump's curve, a parabola through both numbers of its plate, meets the loop's friction; or as measured.

    References
    ----------
    A pump's curve as a parabola: common practice, no source.
    """
    from scipy.optimize import brentq  # slow to import, and most runs have no pump

    lift = 0.0 if ends.inside else max(up_m, 0.0) - (loop.above_m + ends.tall_m)
    if pump.head_m <= lift:
        raise InputProblem(
            "load.pump.head_m",
            f"{pump.head_m:g} m was given; the top of what it feeds stands {lift:.1f} m over the store's water, and that is what it must lift to fill "
            "it, so take a stronger pump or set the coil lower",
        )  # fmt: skip
    if pump.l_min is not None:
        return pump.l_min / 60.0
    free = pump.free_l_min / 60.0

    def short(kg_s: float) -> float:
        return pump.head_m * (1.0 - (kg_s / free) ** 2) - head_lost_m(stream, kg_s)

    flow = float(brentq(short, 1e-9, free))
    if flow * 60.0 < LEAST_L_MIN:
        raise InputProblem(
            "load.pump", f"it would move {flow * 60.0:.2g} litres a minute through these pipes: next to nothing; take a wider bore or a stronger pump",
        )  # fmt: skip
    return flow
