"""The recipe of samples: from spec to a network of heat.

Nodes: each sample's sunlit face (and the slices behind it where it is thick), the board's face and back, the air under
a cover, and the cover's sheets; or a bowl over each sample, and the air under it. Samples see the sky and the
surroundings, or what covers them; they touch the board.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.arrays import Array
from drylamp.core.builds.common.cover.links import between_plates, sheets, sky_share
from drylamp.core.builds.common.side_by_side import Sample
from drylamp.core.builds.doubt import Doubtful
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.builds.samples.optics import SamplesOptics
from drylamp.core.builds.samples.spec import LYING, Samples, bowl_of
from drylamp.core.common.open_air import glow_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, SKY, Link, Node
from drylamp.core.loads.common.body import Body, Named, Place, bowl_over
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber, contacts
from drylamp.core.text import capital, celsius, kelvin

TO_AIR, TO_SKY, COVER, BACK, LEAK = "air", "sky", "cover", "walls", "leak"
BACK_EMITTANCE = 0.9
SMALLEST_J_K = 2.0
HALF_FILM = 0.5
"""Of the wind's film on a face, what a back in its lee has; common practice, no source."""
GAP_W_MK = 0.027
"""Still air at 40 °C (CoolProp: 0.0271)."""
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
    links = []
    if build.over is None:
        links += _face(build, node, area, build.width_m, sample.row.emittance)
    else:
        more_nodes, more_links = _bowl(build, sample, build.over)
        nodes, links = nodes + more_nodes, links + more_links
    for k in range(len(depth) - 1):
        across = area * row.conductivity_w_mk / ((depth[k] + depth[k + 1]) / 2)
        links.append(Link(f"{node} inward {k + 1}", Law.CONDUCTANCE, names[k], names[k + 1], (across,)))
    return nodes, [*links, *_back(build, sample, names[-1]), *_edges(build, sample, names, depth)]


def _air_by(build: Samples, sample: Sample) -> str:
    """Node of the air round a sample: under its bowl, under the cover, or the open."""
    if build.over is not None:
        return f"{sample.node}-under"
    return AIR if build.cover is None else "inside-air"


def _bowl(build: Samples, sample: Sample, over: Envelope) -> tuple[list[Node], list[Link]]:
    """The bowl over a sample, and what its face gives to the bowl and to the air under it; the bowl stands in the wind and under the sky."""
    node, area = sample.node, build.sample_m2
    body = Body(node, sample.title, area, area, build.width_m, sample.row.absorptance, sample.row.emittance)
    bowl, air = bowl_of(sample), _air_by(build, sample)
    nodes, links = bowl_over(
        [body],
        over,
        Place(AIR, "board", in_open=True, account=COVER),
        Named(bowl, air, f" over {sample.title}", f"emittance:{node}"),
    )
    seen = over.hull_m2 * (1.0 + 0.5 * math.cos(math.radians(build.tilt_deg))) / 2.0
    to_air = Link(f"{node} to air", Law.SURFACE, node, air, (area, build.width_m, 1.0))
    return nodes, [to_air, *links, *glow_links(bowl, over.hull_m2, over.emittance, seen, COVER)]


def _back(build: Samples, sample: Sample, node: str) -> list[Link]:
    """What a sample's back gives to the board that it touches; or, standing off it, to air that passes, and to what it looks at.

    Half the wind's film reaches a back that is as far off the board as it is wide, and as much less as it is nearer; still air between the two
    conducts. Long-wave goes to the board as far as it fills the view of the back (parallel squares: Howell C-11), else to the surroundings.
    """
    area, gap_m = build.sample_m2, build.stands_off_m
    if gap_m is None:
        passes = contacts()[LYING[build.contact]].w_m2k * area
        return [Link(f"{sample.node} on the board", Law.CONDUCTANCE, node, "board", (passes,), calibrated_by="contact")]
    emittance, seen = build.back_emittance(sample), squares_see(build.width_m, gap_m)
    to_board = area * seen * between_plates(emittance, absorber(build.board_finish).emittance)
    aired = area * HALF_FILM * min(gap_m / build.width_m, 1.0)
    out = [
        Link(
            f"{sample.node} on the board",
            Law.CONDUCTANCE,
            node,
            "board",
            (area * GAP_W_MK / gap_m,),
            calibrated_by="contact",
        ),
        Link(f"{sample.node} back to board", Law.RADIATION, node, "board", (to_board,)),
    ]
    air = _air_by(build, sample)
    if air == AIR:
        out.append(Link(f"{sample.node} back wind", Law.WIND, node, AIR, (aired,), TO_AIR, calibrated_by="loss"))
        out.append(
            Link(
                f"{sample.node} back to surroundings",
                Law.RADIATION,
                node,
                AIR,
                (area * emittance * (1.0 - seen),),
                TO_SKY,
            )
        )
    else:
        out.append(Link(f"{sample.node} back to air", Law.SURFACE, node, air, (aired / HALF_FILM, build.width_m, -1.0)))
    return out


def squares_see(side_m: float, apart_m: float) -> float:
    """View factor of two equal squares that face each other (Howell C-11; Incropera & DeWitt table 13.2)."""
    x = side_m / apart_m
    root = math.sqrt(1.0 + x * x)
    along = math.log((1.0 + x * x) / math.sqrt(1.0 + 2.0 * x * x))
    return 2.0 / (math.pi * x * x) * (along + 2.0 * x * root * math.atan(x / root) - 2.0 * x * math.atan(x))


def _edges(build: Samples, sample: Sample, names: list[str], depth: list[float]) -> list[Link]:
    """Sides of the samples, slice by slice; none where they are wrapped."""
    if build.edges == "wrapped":
        return []
    out, air = [], _air_by(build, sample)
    for name, thick in zip(names, depth, strict=True):
        side = build.sample_rim_m * thick
        if air == AIR:
            out.append(Link(f"{name} sides", Law.WIND, name, AIR, (side,), TO_AIR, calibrated_by="loss"))
        else:
            out.append(Link(f"{name} sides", Law.SURFACE, name, air, (side, sum(depth), 0.0)))
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
    bare = build.bare_board_m2 - build.bowled_board_m2
    if bare > 1e-6:
        links += _face(build, "board", bare, build.board_size_m[0], finish.emittance)
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
    if build.over is not None:
        out += [Stuff("cover", bowl_of(sample), build.over.row) for sample in build.samples]
    return out + [Stuff("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]


def surfaces(build: Samples) -> dict[str, Surface]:
    """Samples and board, behind the cover where there is one, and its outermost sheet."""
    behind = build.cover is not None
    out = {sample.node: Surface(sample.row.emittance, behind or build.over is not None) for sample in build.samples}
    out["board"] = Surface(absorber(build.board_finish).emittance, behind)
    if build.over is not None:
        out |= {bowl_of(sample): Surface(build.over.emittance) for sample in build.samples}
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
