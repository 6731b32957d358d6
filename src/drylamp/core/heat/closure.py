"""What a march leaves unaccounted for: of energy, of water."""

from __future__ import annotations

import numpy as np

from drylamp.core.heat.advance import History
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.drying import LATENT_J_KG
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import HUMIDITY


def closure(network: Network, history: History, drive: Drive) -> tuple[float, float]:
    """Energy unaccounted for and energy in, both J: sun in − out through boundaries − stored.

    The first is at rounding error when the march is right.
    """
    count = len(network.nodes)
    sun = float((np.diff(drive.edges) @ drive.source_w).sum() * drive.dt_s)
    start, end = network.compiled_links.ends
    out = float((history.link_w.sum(axis=0) * history.dt_s) @ ((end >= count).astype(float) - (start >= count)))
    heat = history.heat_j(network)
    stored = float((heat[-1] - heat[0]).sum())
    passed = history.passed
    if passed is not None:
        leaves = [stream.round is None for stream in network.streams]
        out += float((passed.out_j - passed.in_j)[:, leaves].sum())
        stored += float((passed.held_j[-1] - passed.held_j[0]).sum())
    if history.held is not None:
        out -= float(history.held.carried_j.sum())
    return sun - out - stored, sun


def water_closure(network: Network, history: History) -> tuple[float, float]:
    """Water unaccounted for, and water that left what holds it or came to it, both kg: what came in with air and leaks − what is held more − what ran off.

    The first is at rounding error when the march is right.
    """
    held = history.held
    if held is None:
        return 0.0, 0.0
    vapour = {node.name for node in network.nodes if node.role == "vapour"}
    joules = 0.0
    for k, link in enumerate(network.links):
        sign = int(link.end in vapour and link.start == HUMIDITY) - int(link.start in vapour and link.end == HUMIDITY)
        if sign:
            joules += sign * float(history.link_w[:, k].sum() * history.dt_s)
    in_air = 0.0
    for node in network.nodes:
        if node.name in vapour:
            series = history.temperature_c[:, network.index(node.name)]
            in_air += float(series[-1] - series[0]) * node.capacity_j_k
    gained = held.water_kg[-1] - held.water_kg[0]
    lost = (joules - in_air) / LATENT_J_KG - float(gained.sum()) - float(held.ran_kg[:, network.leaving].sum())
    return lost, float(np.abs(np.diff(held.water_kg, axis=0)).sum())
