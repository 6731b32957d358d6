"""What every oven without a box shares: heat that a body in the open gives to sky and surroundings."""

from __future__ import annotations

from drylamp.core.heat.laws import Law
from drylamp.core.heat.network import AIR, SKY, Link

TO_AIR, TO_SKY = "air", "sky"


def glow_links(node: str, area_m2: float, emittance: float, sky_m2: float) -> list[Link]:
    """Long-wave radiation of a body in the open: what does not see the sky sees surroundings as warm as the air."""
    seen = min(sky_m2, area_m2)
    beside = max(area_m2 - seen, 0.0)
    return [
        Link(f"{node} to sky", Law.RADIATION, node, SKY, (emittance * seen,), TO_SKY, tuned_by="loss"),
        Link(f"{node} to surroundings", Law.RADIATION, node, AIR, (emittance * beside,), TO_SKY, tuned_by="loss"),
    ]
