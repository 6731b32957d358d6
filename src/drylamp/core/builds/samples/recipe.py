"""The recipe of samples: from spec to a network of heat.

Nodes: each sample's sunlit face (and the slices behind it where it is thick), the board's face and back, the air under
a cover, and the cover's sheets. Samples see the sky and the surroundings, or the cover; they touch the board.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.arrays import Array
from drylamp.core.builds.common.cover.links import between_plates, sheets, sky_share
from drylamp.core.builds.common.side_by_side import Sample
from drylamp.core.builds.doubt import Doubtful
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.builds.samples.optics import SamplesOptics
from drylamp.core.builds.samples.spec import CONTACT_W_M2K, Samples
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, SKY, Link, Node
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber
from drylamp.core.text import capital, celsius, kelvin

TO_AIR, TO_SKY, COVER, BACK, LEAK = "air", "sky", "cover", "walls", "leak"
BACK_EMITTANCE = 0.9
SMALLEST_J_K = 2.0
LOSS = Doubtful(
    "loss", "heat lost to wind", 0.25, "the wind takes more than the twin thinks", "the wind takes less than the twin thinks",
    "shelter the board, or measure the wind beside it", True,
)  # fmt: skip


def network_of(build: Samples, load: Load | None, _: SamplesOptics) -> Network:
    """The network of a set of samples."""
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


def _sample(build: Samples, sample: Sample) -> tuple[list[Node], list[Link]]:
    row, area, node = build.stuff_of(sample).row, build.sample_m2, sample.node
    depth, names = build.slices_of(sample), build.slice_nodes(sample)
    titles = [sample.title] + [f"{sample.title}, slice {k + 2}" for k in range(len(depth) - 1)]
    nodes = [
        Node(
            name,
            max(row.density_kg_m3 * row.cp_j_kgk * thick * area, SMALLEST_J_K),
            title,
            role="several" if name == node else "inner",
        )
        for name, thick, title in zip(names, depth, titles, strict=True)
    ]
    links = _face(build, node, area, build.width_m, sample.row.emittance)
    for k in range(len(depth) - 1):
        across = area * row.conductivity_w_mk / ((depth[k] + depth[k + 1]) / 2)
        links.append(Link(f"{node} inward {k + 1}", Law.CONDUCTANCE, names[k], names[k + 1], (across,)))
    contact = CONTACT_W_M2K[build.contact] * area
    links.append(Link(f"{node} on the board", Law.CONDUCTANCE, names[-1], "board", (contact,), calibrated_by="contact"))
    return nodes, links + _edges(build, names, depth)


def _edges(build: Samples, names: list[str], depth: list[float]) -> list[Link]:
    """Sides of the samples, slice by slice; none where they are wrapped."""
    if build.edges == "wrapped":
        return []
    out = []
    for name, thick in zip(names, depth, strict=True):
        side = build.sample_rim_m * thick
        if build.cover is None:
            out.append(Link(f"{name} sides", Law.WIND, name, AIR, (side,), TO_AIR, calibrated_by="loss"))
        else:
            out.append(Link(f"{name} sides", Law.SURFACE, name, "inside-air", (side, sum(depth), 0.0)))
    return out


def _face(build: Samples, node: str, area: float, length: float, emittance: float) -> list[Link]:
    """What a sunlit face loses upward: to wind and sky, or to the air and the inner sheet under a cover."""
    share, calibrated = sky_share(build.tilt_deg), f"emittance:{node}"
    if build.cover is None:
        return [
            Link(f"{node} wind", Law.WIND, node, AIR, (area,), TO_AIR, calibrated_by="loss"),
            Link(f"{node} to sky", Law.RADIATION, node, SKY, (area * emittance * share,), TO_SKY, calibrated_by=calibrated),
            Link(
                f"{node} to surroundings", Law.RADIATION, node, AIR, (area * emittance * (1 - share),), TO_SKY,
                calibrated_by=calibrated,
            ),
        ]  # fmt: skip
    inner = build.skins[0].row
    to_cover = area * between_plates(emittance, inner.emittance)
    through = area * emittance * inner.longwave_transmittance if len(build.skins) == 1 else 0.0
    links = [
        Link(f"{node} to air", Law.SURFACE, node, "inside-air", (area, length, 1.0)),
        Link(f"{node} to cover", Law.RADIATION, node, "cover-1", (to_cover,), calibrated_by=calibrated),
    ]
    if through > 0:
        links.append(
            Link(f"{node} to sky", Law.RADIATION, node, SKY, (through * share,), COVER, calibrated_by=calibrated)
        )
        beside = (through * (1 - share),)
        links.append(Link(f"{node} to surroundings", Law.RADIATION, node, AIR, beside, COVER, calibrated_by=calibrated))
    return links


def _board(build: Samples) -> tuple[list[Node], list[Link]]:
    """The board in two halves; its bare face stands in the sun as the samples do."""
    area = build.opening_m2
    capacity = area * sum(p.thickness_m * p.row.density_kg_m3 * p.row.cp_j_kgk for p in build.board)
    across = area / sum(p.thickness_m / p.row.conductivity_w_mk for p in build.board)
    nodes = [
        Node("board", max(capacity / 2, SMALLEST_J_K), "board", role="wall"),
        Node("board-back", max(capacity / 2, SMALLEST_J_K), "back of the board"),
    ]
    finish = absorber(build.board_finish)
    links = [
        Link("through the board", Law.CONDUCTANCE, "board", "board-back", (across,)),
        Link("back wind", Law.WIND, "board-back", AIR, (area,), BACK, calibrated_by="loss"),
        Link("back to surroundings", Law.RADIATION, "board-back", AIR, (area * BACK_EMITTANCE,), BACK),
    ]
    if build.bare_board_m2 > 1e-6:
        links += _face(build, "board", build.bare_board_m2, build.board_size_m[0], finish.emittance)
    return nodes, links


def _cover(build: Samples) -> tuple[list[Node], list[Link]]:
    area, length = build.opening_m2, build.board_size_m[0]
    rim = 2 * sum(build.board_size_m)
    space = area * build.air_space_m
    nodes = [Node("inside-air", max(1.1 * CP_AIR * space, SMALLEST_J_K), "air under the cover", role="air")]
    links = [
        Link("leak", Law.LEAK, "inside-air", AIR, (build.seal_gap_mm / 1000 * rim, build.air_space_m), LEAK),
        Link("air to cover", Law.SURFACE, "cover-1", "inside-air", (area, length, -1.0)),
    ]
    more_nodes, more_links = sheets(build.skins, area, build.tilt_deg, COVER, SMALLEST_J_K)
    return [*nodes, *more_nodes], [*links, *more_links]


def stuffs(build: Samples) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [Stuff(f"sample-{k}", sample.node, sample.row) for k, sample in enumerate(build.samples)]
    out += [Stuff("board", "board", build.board[0].row), Stuff("board", "board", absorber(build.board_finish))]
    out += [Stuff("board", "board-back", part.row) for part in build.board[1:]]
    return out + [Stuff("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]


def surfaces(build: Samples) -> dict[str, Surface]:
    """Samples and board, behind the cover where there is one, and its outermost sheet."""
    behind = build.cover is not None
    out = {sample.node: Surface(sample.row.emittance, behind) for sample in build.samples}
    out["board"] = Surface(absorber(build.board_finish).emittance, behind)
    if build.skins:
        out[f"cover-{len(build.skins)}"] = Surface(build.skins[-1].row.emittance)
    return out


def useful(build: Samples, load: Load | None) -> frozenset[str]:
    """What is stored in the samples, slice by slice."""
    return frozenset(node for sample in build.samples for node in build.slice_nodes(sample))


def headline(build: Samples, temperature_c: Mapping[str, Array]) -> tuple[str, str] | None:
    """Which sample gets hottest, and how far the coolest stays behind."""
    if len(build.samples) < 2:
        return None
    peaks = {sample.title: float(np.nanmax(temperature_c[sample.node])) for sample in build.samples}
    (hottest, most), (coolest, least) = (pick(peaks.items(), key=lambda row: row[1]) for pick in (max, min))
    said = f"{capital(hottest)} gets hottest, {celsius(most)}; {coolest} stays {kelvin(most - least)} below it."
    return said, f"{hottest} {celsius(most)}"


def stagnation_node(build: Samples) -> str:
    """The sample that takes up most of the sun."""
    return max(build.samples, key=lambda sample: sample.row.absorptance).node


def doubtful(build: Samples) -> list[Doubtful]:
    """The wind's hold, and each finish's absorptance and emittance."""
    out = [LOSS]
    for sample in build.samples:
        for prop, title in (("absorptance", "takes up"), ("emittance", "gives off")):
            spread = 0.10 if prop == "absorptance" and sample.row.absorptance > 0.8 else 0.3
            out.append(
                Doubtful(
                    f"{prop}:{sample.node}", f"{prop} of {sample.title}", spread, f"{sample.title} {title} more than listed",
                    f"{sample.title} {title} less than listed", "measure it again on another day", False, moves_advice=False,
                )
            )  # fmt: skip
    return out
