"""The coupons' recipe: from spec to a network of heat.

Nodes: each sample's sunlit face (and the slices behind it where it is thick), the board's face and back, the air under
a cover, and the cover's sheets. Samples see the sky and the surroundings, or the cover; they touch the board.
"""

from __future__ import annotations

import math
from itertools import pairwise

from drylamp.core.air.properties import CP_AIR
from drylamp.core.builds.coupons import CONTACT_W_M2K, Coupons, Sample
from drylamp.core.builds.coupons_optics import CouponOptics
from drylamp.core.checks import InputProblem
from drylamp.core.heat.laws import Law
from drylamp.core.heat.network import AIR, SKY, Link, Network, Node
from drylamp.core.loads.load import AnyLoad
from drylamp.core.tables import Row, absorber

TO_AIR, TO_SKY, COVER, BACK, LEAK = "air", "sky", "cover", "walls", "leak"
SLICES = (1.0, 2.0, 3.0, 3.0)
"""Thickness of a block's slices from the face in, as parts: thin where the sun and the evening act."""
THICK_M, SLOW_W_MK = 0.015, 5.0
"""Thicker than this and poorer than this a conductor, a sample is warmer in front than behind."""
BACK_EMITTANCE = 0.9
SMALLEST_J_K = 2.0


def check_fit(build: Coupons, load: AnyLoad | None) -> None:
    """Refuse a pot."""
    if load is not None:
        raise InputProblem("load", "a set of samples holds no pot; leave the load out")


def network_of(build: Coupons, load: AnyLoad | None, _: CouponOptics) -> Network:
    """The network of a set of samples.

    Raises:
        InputProblem: a load was given.
    """
    check_fit(build, load)
    nodes, links = _board(build)
    for sample in build.samples:
        more_nodes, more_links = _sample(build, sample)
        nodes += more_nodes
        links += more_links
    if build.cover is not None:
        more_nodes, more_links = _cover(build)
        nodes += more_nodes
        links += more_links
    return Network(tuple(nodes), tuple(links))


def slices_m(build: Coupons) -> list[float]:
    """Thickness of a sample's slices from the sunlit face in, m."""
    whole = build.sheet.thickness_m
    if whole <= THICK_M or build.sheet.row.conductivity_w_mk > SLOW_W_MK:
        return [whole]
    return [whole * part / sum(SLICES) for part in SLICES]


def sky_share(build: Coupons) -> float:
    """Share of the sky in what the board looks at."""
    return (1.0 + math.cos(math.radians(build.tilt_deg))) / 2.0


def _sample(build: Coupons, sample: Sample) -> tuple[list[Node], list[Link]]:
    row, area, node = build.sheet.row, build.sample_m2, sample.node
    depth = slices_m(build)
    names = [node] + [f"{node}-{k + 2}" for k in range(len(depth) - 1)]
    titles = [sample.title] + [f"{sample.title}, slice {k + 2}" for k in range(len(depth) - 1)]
    nodes = [
        Node(name, max(row.density_kg_m3 * row.cp_j_kgk * thick * area, SMALLEST_J_K), title)
        for name, thick, title in zip(names, depth, titles, strict=True)
    ]
    links = _face(build, node, area, build.width_m, sample.row.emittance)
    for k in range(len(depth) - 1):
        across = area * row.conductivity_w_mk / ((depth[k] + depth[k + 1]) / 2)
        links.append(Link(f"{node} inward {k + 1}", Law.CONDUCTANCE, names[k], names[k + 1], (across,)))
    contact = CONTACT_W_M2K[build.contact] * area
    links.append(Link(f"{node} on the board", Law.CONDUCTANCE, names[-1], "board", (contact,), tuned_by="contact"))
    return nodes, links + _edges(build, names, depth)


def _edges(build: Coupons, names: list[str], depth: list[float]) -> list[Link]:
    """Sides of the samples, slice by slice; none where they are wrapped."""
    if build.edges == "wrapped":
        return []
    out = []
    for name, thick in zip(names, depth, strict=True):
        side = build.sample_rim_m * thick
        if build.cover is None:
            out.append(Link(f"{name} sides", Law.WIND, name, AIR, (side,), TO_AIR, tuned_by="loss"))
        else:
            whole = build.sheet.thickness_m
            out.append(Link(f"{name} sides", Law.SURFACE, name, "inside-air", (side, whole, 0.0)))
    return out


def _face(build: Coupons, node: str, area: float, length: float, emittance: float) -> list[Link]:
    """What a sunlit face loses upward: to wind and sky, or to the air and the inner sheet under a cover."""
    share, tuned = sky_share(build), f"emittance:{node}"
    if build.cover is None:
        return [
            Link(f"{node} wind", Law.WIND, node, AIR, (area,), TO_AIR, tuned_by="loss"),
            Link(f"{node} to sky", Law.RADIATION, node, SKY, (area * emittance * share,), TO_SKY, tuned_by=tuned),
            Link(
                f"{node} to surroundings", Law.RADIATION, node, AIR, (area * emittance * (1 - share),), TO_SKY,
                tuned_by=tuned,
            ),
        ]  # fmt: skip
    inner = build.skins[0].row
    to_cover = area / (1.0 / emittance + 1.0 / max(inner.emittance, 0.05) - 1.0)
    through = area * emittance * inner.longwave_transmittance if len(build.skins) == 1 else 0.0
    links = [
        Link(f"{node} to air", Law.SURFACE, node, "inside-air", (area, length, 1.0)),
        Link(f"{node} to cover", Law.RADIATION, node, "cover-1", (to_cover,), tuned_by=tuned),
    ]
    if through > 0:
        links.append(Link(f"{node} to sky", Law.RADIATION, node, SKY, (through * share,), COVER, tuned_by=tuned))
        beside = (through * (1 - share),)
        links.append(Link(f"{node} to surroundings", Law.RADIATION, node, AIR, beside, COVER, tuned_by=tuned))
    return links


def _board(build: Coupons) -> tuple[list[Node], list[Link]]:
    """The board in two halves; its bare face stands in the sun as the samples do."""
    area = build.opening_m2
    capacity = area * sum(p.thickness_m * p.row.density_kg_m3 * p.row.cp_j_kgk for p in build.board)
    across = area / sum(p.thickness_m / p.row.conductivity_w_mk for p in build.board)
    nodes = [
        Node("board", max(capacity / 2, SMALLEST_J_K), "board"),
        Node("board-back", max(capacity / 2, SMALLEST_J_K), "back of the board"),
    ]
    finish = absorber(build.board_finish)
    links = [
        Link("through the board", Law.CONDUCTANCE, "board", "board-back", (across,)),
        Link("back wind", Law.WIND, "board-back", AIR, (area,), BACK, tuned_by="loss"),
        Link("back to surroundings", Law.RADIATION, "board-back", AIR, (area * BACK_EMITTANCE,), BACK),
    ]
    if build.bare_board_m2 > 1e-6:
        links += _face(build, "board", build.bare_board_m2, build.board_size_m[0], finish.emittance)
    return nodes, links


def _cover(build: Coupons) -> tuple[list[Node], list[Link]]:
    area, share, length = build.opening_m2, sky_share(build), build.board_size_m[0]
    rim = 2 * sum(build.board_size_m)
    space = area * build.air_space_m
    nodes = [Node("inside-air", max(1.1 * CP_AIR * space, SMALLEST_J_K), "air under the cover")]
    links = [
        Link("leak", Law.LEAK, "inside-air", AIR, (build.seal_gap_mm / 1000 * rim, build.air_space_m), LEAK),
        Link("air to cover", Law.SURFACE, "cover-1", "inside-air", (area, length, -1.0)),
    ]
    skins = build.skins
    for k, skin in enumerate(skins):
        mass = max(skin.row.density_kg_m3 * skin.thickness_m * area * skin.row.cp_j_kgk, SMALLEST_J_K)
        nodes.append(Node(f"cover-{k + 1}", mass, "cover" if len(skins) == 1 else f"cover sheet {k + 1}"))
    for k, (inner, outer) in enumerate(pairwise(skins)):
        here, beyond = f"cover-{k + 1}", f"cover-{k + 2}"
        apart = area / (1.0 / max(inner.row.emittance, 0.05) + 1.0 / max(outer.row.emittance, 0.05) - 1.0)
        links.append(Link(f"cover gap {k + 1}", Law.CAVITY, here, beyond, (area, inner.gap_m, build.tilt_deg)))
        links.append(Link(f"cover {k + 1} shines out", Law.RADIATION, here, beyond, (apart,)))
    last, glow = f"cover-{len(skins)}", area * skins[-1].row.emittance
    links += [
        Link("cover wind", Law.WIND, last, AIR, (area,), COVER, tuned_by="loss"),
        Link("cover to sky", Law.RADIATION, last, SKY, (glow * share,), COVER),
        Link("cover to surroundings", Law.RADIATION, last, AIR, (glow * (1 - share),), COVER),
    ]
    return nodes, links


def materials(build: Coupons) -> list[tuple[str, str, Row]]:
    """(part, node, material) of everything that can spoil with heat."""
    out: list[tuple[str, str, Row]] = [
        (f"sample-{k}", sample.node, sample.row) for k, sample in enumerate(build.samples)
    ]
    out += [("board", "board", build.board[0].row), ("board", "board", absorber(build.board_finish))]
    out += [("board", "board-back", part.row) for part in build.board[1:]]
    return out + [("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]
