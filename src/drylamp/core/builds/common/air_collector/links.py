"""A collector of air as parts of a network: segments along the way of the air, each with absorber, air and back, under common sheets.

References:
    Duffie & Beckman 6.14 (air heaters); films by ``heat.led``, still air by ``heat.laws``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.draught import Loss
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.cover.links import between_plates, sheets, through_sheets
from drylamp.core.common.wall import wall_j_m2k, wall_w_m2k
from drylamp.core.heat.law import Law
from drylamp.core.heat.led import VISCOSITY_KG_MS
from drylamp.core.heat.parts import AIR, SKY, Link, Node, Role

SEGMENTS = 4
COVER_LOSS, BACK_LOSS = "cover", "walls"
SMALLEST_J_K = 20.0
OUTSIDE_W_M2K = 15.0
"""Film and sky on the outside of a back or wall, wind and all; from memory."""
RIM_SHARE = 0.15
"""Area of the sides, by that of the back; from memory where the frame is as deep as usual."""
TURN_LOSS, ENTRY_LOSS = 1.8, 1.5
"""ζ of a sharp half turn, and of going in and coming out of the channel (Idelchik; from memory)."""
AIR_KG_M3 = 1.1
DUCT_TOUCH_W_M2K = 4.0
"""From ducts to the back that they lie on: thin air; from memory."""


def absorber_nodes() -> list[str]:
    """Of the absorber, from the inlet on."""
    return [f"plate-{k + 1}" for k in range(SEGMENTS)]


def back_nodes() -> list[str]:
    """Of the back."""
    return [f"back-{k + 1}" for k in range(SEGMENTS)]


def air_nodes() -> list[str]:
    """Of the air."""
    return [f"warmed-{k + 1}" for k in range(SEGMENTS)]


@dataclass(frozen=True)
class _Cut:
    """A collector cut into segments, leaning."""

    made: AirCollector
    tilt_deg: float
    path: str

    @property
    def m2(self) -> float:
        return self.made.area_m2 / SEGMENTS

    def led(self, name: str, surface: str, air: str, area_m2: float, facing: float, law: Law = Law.DUCT) -> Link:
        """From a surface to the air that is led along it, no less than still air would take."""
        wide, free = self.made.hydraulic_m, self.made.channel_m2
        params = (area_m2 / wide, wide / free, wide / self.made.length_m, area_m2, facing)
        return Link(name, law, surface, air, params, path=self.path)


def collector_parts(made: AirCollector, tilt_deg: float, path: str) -> tuple[list[Node], list[Link]]:
    """Nodes and links of a collector; what its air carries along ``air_nodes`` is for whoever knows where it comes from and goes to (``air_way.links.carried``)."""
    cut = _Cut(made, tilt_deg, path)
    nodes, links = sheets(made.skins, made.area_m2, tilt_deg, COVER_LOSS, SMALLEST_J_K, "loss")
    behind = wall_j_m2k(made.back) / 3.0
    whole = max(made.metal_j_k / SEGMENTS, SMALLEST_J_K)
    top = "cover-1" if made.skins else ""
    for k, (plate, air, back) in enumerate(zip(absorber_nodes(), air_nodes(), back_nodes(), strict=True)):
        role: Role = "absorber" if k == SEGMENTS - 1 else "inner"
        nodes += [
            Node(plate, whole, _title("absorber", k), role=role),
            Node(air, max(AIR_KG_M3 * CP_AIR * made.channel_m2 * made.length_m / SEGMENTS, SMALLEST_J_K), _title("air in the collector", k), role="air" if k == SEGMENTS - 1 else "inner"),
            Node(back, max(behind * cut.m2, SMALLEST_J_K), _title("back of the collector", k)),
        ]  # fmt: skip
        links += _inside(cut, plate, air, back, top) + _upwards(cut, plate, top)
        out = cut.m2 * (1.0 + RIM_SHARE) / (1.0 / wall_w_m2k(made.back) + 1.0 / OUTSIDE_W_M2K)
        links.append(Link(f"{back} to outside", Law.CONDUCTANCE, back, AIR, (out,), BACK_LOSS, calibrated_by="loss"))
    return nodes, links


def collector_losses(made: AirCollector) -> list[Loss]:
    """What the way through it resists: friction of laminar air between plates (Incropera 8.22: 12 µ L/(w d³)), turns, going in and out."""
    deep, zeta = made.deep_m, ENTRY_LOSS + TURN_LOSS * made.turns
    wide = made.channel_m2 / deep if made.absorber != "ducts" else 0.0
    if made.absorber == "ducts":
        friction = 128.0 * VISCOSITY_KG_MS * made.length_m / (math.pi * (made.duct_mm / 1000.0) ** 4 * made.ducts)
    else:
        friction = 12.0 * VISCOSITY_KG_MS * made.length_m / (wide * deep**3)
    losses = [Loss("collector", made.channel_m2, zeta, friction)]
    if made.is_porous:
        losses.append(Loss("mesh", made.area_m2, made.layers * _screen_loss(made.open_share)))
    return losses


def _screen_loss(open_share: float) -> float:
    """ζ of a screen on the speed before it: 1.3 (1 − f) + (1/f − 1)² (Idelchik, wire screens; from memory)."""
    return 1.3 * (1.0 - open_share) + (1.0 / open_share - 1.0) ** 2


def _inside(cut: _Cut, plate: str, air: str, back: str, top: str) -> list[Link]:
    """Between absorber, air and back, by the absorber's form."""
    made, m2, epsilon = cut.made, cut.m2, cut.made.row.emittance
    shines = Link(f"{plate} shines on {back}", Law.RADIATION, plate, back, (m2 * between_plates(epsilon, epsilon),))
    if made.absorber == "ducts":
        inner = made.channel_m2 * 4.0 / made.hydraulic_m * made.length_m / SEGMENTS
        touch = Link(f"{plate} on {back}", Law.CONDUCTANCE, plate, back, (m2 * DUCT_TOUCH_W_M2K,))
        return [cut.led(f"{plate} to air", plate, air, inner, 0.0, Law.TUBE), touch, shines]
    under = [cut.led(f"{back} to air", back, air, m2, 1.0)]
    over = [cut.led(f"{top} to {air}", top, air, m2, -1.0)] if top else []
    if made.is_porous:
        strands = m2 * made.layers * (1.0 - made.open_share) * math.pi
        wire = made.wire_mm / 1000.0
        through = Link(
            f"{plate} to air", Law.WIRES, plate, air, (strands / wire, wire / made.area_m2, 0.0), path=cut.path
        )
        return [through, shines, *under, *over]
    if made.air == "over":
        behind = Link(f"{plate} on {back}", Law.CONDUCTANCE, plate, back, (m2 * DUCT_TOUCH_W_M2K,))
        return [cut.led(f"{plate} to air", plate, air, m2, 1.0), shines, behind, *over]
    if made.air == "under":
        return [cut.led(f"{plate} to air", plate, air, m2, -1.0), shines, *under]
    top_side = cut.led(f"{plate} to air over it", plate, air, m2, 1.0)
    return [top_side, cut.led(f"{plate} to air under it", plate, air, m2, -1.0), shines, *under, *over]


def _upwards(cut: _Cut, plate: str, top: str) -> list[Link]:
    """From the absorber to the glass, or to wind and sky where there is none."""
    made, m2, epsilon = cut.made, cut.m2, cut.made.row.emittance
    if not top:
        return [
            Link(f"{plate} in the wind", Law.WIND, plate, AIR, (m2,), COVER_LOSS, calibrated_by="loss"),
            Link(f"{plate} to sky", Law.RADIATION, plate, SKY, (m2 * epsilon,), COVER_LOSS, calibrated_by="loss"),
        ]
    skin = made.skins[0].row
    covers = 1.0 if not made.is_porous else 1.0 - made.open_share**made.layers
    links = [
        Link(
            f"{plate} shines on {top}",
            Law.RADIATION,
            plate,
            top,
            (m2 * covers * between_plates(epsilon, skin.emittance),),
        )
    ]
    links += through_sheets(plate, m2 * epsilon, made.skins, COVER_LOSS)
    if made.absorber == "ducts" or (made.absorber == "plate" and made.air == "under"):
        links.append(
            Link(f"{plate} to {top}", Law.CAVITY, plate, top, (m2, made.gap_m, cut.tilt_deg), calibrated_by="loss")
        )
    return links


def _title(what: str, k: int) -> str:
    return f"{what}, {'first' if k == 0 else 'last' if k == SEGMENTS - 1 else f'{k + 1}.'} part"
