"""What stands in the open: heat that it gives to wind, sky and surroundings."""

from __future__ import annotations

from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, SKY, Link

TO_AIR, TO_SKY = "air", "sky"
"""Accounts of what stands in the open and has no other: carried off by the wind, shone away."""


def open_links(
    node: str,
    wind: tuple[float, ...],
    area_m2: float,
    emittance: float,
    sky_m2: float,
    account: str,
    sky_account: str = "",
) -> list[Link]:
    """To wind, by what its law takes, and by long-wave; both to one account, or the second to its own."""
    blown = Link(f"{node} to the wind", Law.WIND, node, AIR, wind, account, calibrated_by="loss")
    return [blown, *glow_links(node, area_m2, emittance, sky_m2, sky_account or account)]


def glow_links(node: str, area_m2: float, emittance: float, sky_m2: float, account: str = TO_SKY) -> list[Link]:
    """Long-wave radiation of a body in the open: what does not see the sky sees surroundings as warm as the air."""
    seen = min(sky_m2, area_m2)
    beside = max(area_m2 - seen, 0.0)
    return [
        Link(f"{node} to sky", Law.RADIATION, node, SKY, (emittance * seen,), account, calibrated_by="loss"),
        Link(f"{node} to surroundings", Law.RADIATION, node, AIR, (emittance * beside,), account, calibrated_by="loss"),
    ]
