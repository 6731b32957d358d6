"""What every oven without a box shares: heat that a body in the open gives to sky and surroundings."""

from __future__ import annotations

from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, SKY, Link

TO_AIR, TO_SKY = "air", "sky"
LOSS = Doubtful(
    "loss", "losses", 0.25, "wind and sky take more than the twin thinks", "it stands more sheltered than the twin thinks",
    "shelter it from the wind, or put a bag or bowl over the pot", True,
)  # fmt: skip
DOUBTFUL = [OPTICAL, LOSS]


def glow_links(node: str, area_m2: float, emittance: float, sky_m2: float, account: str = TO_SKY) -> list[Link]:
    """Long-wave radiation of a body in the open: what does not see the sky sees surroundings as warm as the air."""
    seen = min(sky_m2, area_m2)
    beside = max(area_m2 - seen, 0.0)
    return [
        Link(f"{node} to sky", Law.RADIATION, node, SKY, (emittance * seen,), account, calibrated_by="loss"),
        Link(f"{node} to surroundings", Law.RADIATION, node, AIR, (emittance * beside,), account, calibrated_by="loss"),
    ]
