"""What is doubtful about every box."""

from __future__ import annotations

from drylamp.core.builds.doubt import CONTACT, OPTICAL, Doubtful

LOSS = Doubtful(
    "loss", "losses", 0.15, "cover and walls lose more than the twin thinks", "cover and walls hold heat better than the twin thinks",
    "add a cover layer or dry, thicker insulation", True,
)  # fmt: skip
LEAK = Doubtful(
    "leak", "leak", 1.2, "more air leaks than the twin thinks", "the seal is tighter than the twin thinks",
    "renew the seal round the cover", True,
)  # fmt: skip
MASS = Doubtful(
    "mass", "heat capacity", 0.12, "the box is heavier to heat than the twin thinks", "the box is quicker to heat than the twin thinks",
    "nothing: a heavier box only warms later and cools later", False,
)  # fmt: skip
OF_THE_BOX = [OPTICAL, LOSS, LEAK, MASS]
DOUBTFUL = [*OF_THE_BOX, CONTACT]
"""With what stands or lies on its tray."""
