"""Heat from the coat of an evacuated tube to its glass, and from there to the open."""

from __future__ import annotations

from drylamp.core.builds.common.round.links import annulus
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.common.open_air import open_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import Link

LEANS_SKY = 0.5
"""Share of what a tube sees that is sky."""


def through_vacuum(tube: VacuumTube, coat: str, glass: str, share: float = 1.0) -> list[Link]:
    """From so much of the coat to the outer glass: long-wave, what clips and a poor vacuum carry, and air where the vacuum is gone."""
    links = [
        Link(f"{coat} shines on the glass", Law.RADIATION, coat, glass, (tube.shines_m2 * share,), calibrated_by="loss")
    ]
    if tube.vacuum_w_mk > 0.0:
        beside = tube.vacuum_w_mk * tube.length_m * share
        links.append(Link(f"{coat} through the vacuum", Law.CONDUCTANCE, coat, glass, (beside,), calibrated_by="loss"))
    if not tube.sound:
        air = annulus(tube.length_m * share, tube.inner_m, tube.outer_m - 2.0 * tube.wall_mm / 1000.0)
        links.append(Link(f"{coat} through the air", Law.ANNULUS, coat, glass, air, calibrated_by="loss"))
    return links


def glass_outside(tube: VacuumTube, glass: str, count: float, shelter: float, account: str) -> list[Link]:
    """The outer glass of so many tubes in wind and sky."""
    skin = tube.skin_m2 * count
    return open_links(glass, (skin, shelter), skin, tube.row.emittance, LEANS_SKY * skin, account)
