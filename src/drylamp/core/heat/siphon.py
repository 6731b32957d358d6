"""What moves the water in a stream: what was given, a pump that a switch lets run, or nothing but that warm water is light.

Thermosiphon: the weight of the water round the loop against friction and fittings, at the temperatures that the water has where it
lies. The flow is decided at a step's start and held; it goes half the way to where drive and loss meet, and a step moves no more
than half of what the pipes hold, so that it settles and does not swing.

References:
    Drive ∮ ρ g dz; Duffie & Beckman, natural circulation. Laminar friction Hagen–Poiseuille, turbulent Petukhov 1970 between Re 2,300 and 4,000 by the
    larger of both.
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.air.constants import GRAVITY
from drylamp.core.air.draught import GIVEN
from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined
from drylamp.core.heat.streams import (
    BACK,
    COLUMN,
    COLUMN_END,
    PATH,
    SECTION,
    SECTIONS_END,
    SIPHONS,
    WHOLE,
    ZETA,
    Lots,
    Streams,
    piece_at,
)
from drylamp.core.heat.water import LAMINAR_RE, density_kg_m3, fluidity_per_pa_s, smooth_friction

TURNS = 4
"""How often the flow is found again with the friction that it makes."""
MOST_SHARE, MOST_PARTS = 0.5, 8
"""Share of what the pipes hold that may move in one part of a step, and parts at most."""
LEAST_KG_S = 1e-6
MUCH_SHARE = 0.25
"""Change of a flow, as a share of it, from which the middle of a step is found afresh."""


@inlined
def _hold(streams: Streams, lots: Lots, s: int) -> float:
    """Put down the mean warmth of the water in each piece; returns that of all."""
    way, r = lots.way[s], streams.first[s + 1] - streams.first[s] - 1
    p = piece_at(streams, s, way, r)
    room, total = streams.water[p], 0.0
    streams.held[p] = 0.0
    for q in range(lots.held[s]):
        mass, celsius = lots.kg[s, q], lots.celsius[s, q]
        total += mass * celsius
        while mass > 0.0:
            part = mass if r == 0 else min(mass, room)
            streams.held[p] += part / streams.water[p] * celsius
            mass -= part
            room -= part
            if room <= 0.0 and r > 0:
                r -= 1
                p = piece_at(streams, s, way, r)
                room = streams.water[p]
                streams.held[p] = 0.0
    return float(total / streams.make[s, WHOLE])


@inlined
def drive_pa(streams: Streams, lots: Lots, s: int, temperature: Array) -> float:
    """Pull of the water round the loop, Pa; above nothing it drives forward."""
    weight = 0.0
    for p in range(streams.first[s], streams.first[s + 1]):
        weight += density_kg_m3(streams.held[p]) * streams.rise[p]
    for c in range(int(streams.make[s, COLUMN]), int(streams.make[s, COLUMN_END])):
        weight += density_kg_m3(temperature[np.uint64(streams.column[c, 0])]) * streams.column[c, 1]
    return -GRAVITY * weight


@inlined
def driven_kg_s(streams: Streams, s: int, pull_pa: float, celsius: float, flow: float) -> float:
    """Flow at which a pull meets friction and fittings, found from a flow near it; both without sign."""
    rho, thin = density_kg_m3(celsius), fluidity_per_pa_s(celsius)
    begin, end = int(streams.make[s, SECTION]), int(streams.make[s, SECTIONS_END])
    for _ in range(TURNS):
        even = steep = 0.0
        for k in range(begin, end):
            bore, tubes, length = streams.sections[k, 0], streams.sections[k, 1], streams.sections[k, 2]
            area = math.pi / 4.0 * bore * bore * tubes
            reynolds = flow / area * bore * thin
            dynamic = 0.5 / (rho * area * area)
            if reynolds <= LAMINAR_RE:
                even += 64.0 / (bore * thin) * area * dynamic * length / bore
            else:
                steep += max(smooth_friction(reynolds), 64.0 / reynolds) * length / bore * dynamic
            if k == begin:
                steep += streams.make[s, ZETA] * dynamic
        flow = 2.0 * pull_pa / (even + math.sqrt(even * even + 4.0 * steep * pull_pa))
    return flow


@inlined
def _siphon_kg_s(streams: Streams, lots: Lots, s: int, temperature: Array) -> float:
    """Half the way from the flow before to that which the water's own weight drives; below nothing backwards."""
    before = lots.flow[s]
    celsius = _hold(streams, lots, s)
    pull = drive_pa(streams, lots, s, temperature)
    aim = driven_kg_s(streams, s, abs(pull), celsius, max(abs(before), LEAST_KG_S))
    aim = aim if pull > 0.0 else -aim
    if aim < 0.0 and streams.make[s, BACK] < 0.0:
        aim = 0.0
    flow = 0.5 * (before + aim)
    return 0.0 if abs(flow) < LEAST_KG_S else flow


@inlined
def decide_flows(
    streams: Streams, lots: Lots, given: Array, paths: Array, temperature: Array, on: Array, speed: Array
) -> bool:
    """Flow of each stream for a step, its queue turned where it turns round; tells whether any changed by much.

    ``given`` kg/s by stream and ``speed`` by path are those of the step.
    """
    changed = False
    for s in range(lots.flow.shape[0]):
        f = int(streams.make[s, PATH])
        flow = given[s]
        lots.alone[s] = False
        if f >= 0:
            flow = paths[f, GIVEN] * speed[f] * on[f]
            if flow <= 0.0 and streams.make[s, SIPHONS] == 1.0 and (paths[f, GIVEN] > 0.0 or speed[f] > 0.0):
                flow = _siphon_kg_s(streams, lots, s, temperature)
                lots.alone[s] = True
        if flow * lots.way[s] < 0.0:
            _turn(lots, s)
        if abs(flow - lots.flow[s]) > MUCH_SHARE * max(abs(flow), abs(lots.flow[s])):
            changed = True
        lots.flow[s] = flow
    return changed


@inlined
def _turn(lots: Lots, s: int) -> None:
    """What was foremost is last."""
    lots.way[s] = -lots.way[s]
    last = lots.held[s] - 1
    for q in range((last + 1) // 2):
        lots.kg[s, q], lots.kg[s, last - q] = lots.kg[s, last - q], lots.kg[s, q]
        lots.celsius[s, q], lots.celsius[s, last - q] = lots.celsius[s, last - q], lots.celsius[s, q]


@inlined
def lead_paths(streams: Streams, lots: Lots, paths: Array, heat_flow: Array) -> None:
    """What goes through a stream goes on through its store, the way that it goes."""
    for s in range(lots.flow.shape[0]):
        f, back = int(streams.make[s, PATH]), int(streams.make[s, BACK])
        if f >= 0:
            heat_flow[f] = max(lots.flow[s], 0.0) * paths[f, 7]
        if back >= 0:
            heat_flow[back] = max(-lots.flow[s], 0.0) * paths[back, 7]


@inlined
def siphon_parts(streams: Streams, lots: Lots, length_s: float, parts: int) -> int:
    """Parts of a step: more where what siphons would move too much of what the pipes hold at once."""
    for s in range(lots.flow.shape[0]):
        if lots.alone[s]:
            share = abs(lots.flow[s]) * length_s / (MOST_SHARE * streams.make[s, WHOLE])
            parts = max(parts, min(int(np.ceil(share)), MOST_PARTS))
    return parts
