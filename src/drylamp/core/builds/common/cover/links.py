"""Sheets of a cover over an area as parts of a network: their heat, what passes between them, what the outermost gives off."""

from __future__ import annotations

import math
from itertools import pairwise

from drylamp.core.builds.common.cover.spec import Skin
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, SKY, Link, Node

LEAST_EMITTANCE = 0.05
"""Of a sheet: nothing that is stretched or laid over a box gives off less; from memory."""


def sky_share(tilt_deg: float) -> float:
    """Share of the sky in what a leaning plane looks at, nothing standing before it."""
    return (1.0 + math.cos(math.radians(tilt_deg))) / 2.0


def between_plates(emittance: float, other: float) -> float:
    """Exchange factor of two large parallel faces: 1/(1/ε₁ + 1/ε₂ − 1), Duffie & Beckman 3.8; the second a sheet's."""
    return 1.0 / (1.0 / emittance + 1.0 / max(other, LEAST_EMITTANCE) - 1.0)


def through_sheets(node: str, glow_m2: float, skins: list[Skin], account: str) -> list[Link]:
    """What a face of so many black square metres under a cover shines through its sheets to the sky; nothing where one of them holds heat rays back."""
    clear = min(sheet.row.longwave_transmittance for sheet in skins)
    if clear <= 1e-6:
        return []
    shines = (glow_m2 * clear,)
    return [Link(f"{node} through the cover", Law.RADIATION, node, SKY, shines, account, calibrated_by="loss")]


def sheets(
    skins: list[Skin],
    area_m2: float,
    tilt_deg: float,
    account: str,
    least_j_k: float,
    calibrated_by: str = "",
    name: str = "cover",
) -> tuple[list[Node], list[Link]]:
    """Nodes and links of a cover's sheets from the innermost out; none without a cover.

    Parameters
    ----------
    account
        of what the outermost gives to the outside
    least_j_k
        heat capacity that a film has at least, so that its node is not singular
    calibrated_by
        factor that scales gaps and the outermost's radiation, beside its wind
    name
        what they are called, before their number
    """
    if not skins:
        return [], []
    nodes, links = [], []
    for k, skin in enumerate(skins):
        mass = skin.row.density_kg_m3 * skin.thickness_m * area_m2 * skin.row.cp_j_kgk
        title = name if len(skins) == 1 else f"{name} sheet {k + 1}"
        nodes.append(Node(f"{name}-{k + 1}", max(mass, least_j_k), title, role="pane"))
    for k, (inner, outer) in enumerate(pairwise(skins)):
        here, beyond = f"{name}-{k + 1}", f"{name}-{k + 2}"
        apart = area_m2 * between_plates(max(inner.row.emittance, LEAST_EMITTANCE), outer.row.emittance)
        gap = (area_m2 * inner.ribs, inner.gap_m, tilt_deg)
        links.append(Link(f"{name} gap {k + 1}", Law.CAVITY, here, beyond, gap, calibrated_by=calibrated_by))
        links.append(Link(f"{name} {k + 1} shines out", Law.RADIATION, here, beyond, (apart,)))
    last, glow, share = f"{name}-{len(skins)}", area_m2 * skins[-1].row.emittance, sky_share(tilt_deg)
    links += [
        Link(f"{name} wind", Law.WIND, last, AIR, (area_m2,), account, calibrated_by="loss"),
        Link(f"{name} to sky", Law.RADIATION, last, SKY, (glow * share,), account, calibrated_by=calibrated_by),
        Link(
            f"{name} to surroundings",
            Law.RADIATION,
            last,
            AIR,
            (glow * (1 - share),),
            account,
            calibrated_by=calibrated_by,
        ),
    ]
    return nodes, links
