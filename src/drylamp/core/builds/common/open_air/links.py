"""What every oven without a box shares: its two ways for heat, and what trials may correct of them."""

from __future__ import annotations

from drylamp.core.builds.doubt import CONTACT, OPTICAL, Doubtful

LOSS = Doubtful(
    "loss", "losses", 0.25, "wind and sky take more than the twin thinks", "it stands more sheltered than the twin thinks",
    "shelter it from the wind, or put a bag or bowl over the pot", True,
)  # fmt: skip
DOUBTFUL = [OPTICAL, LOSS, CONTACT]
