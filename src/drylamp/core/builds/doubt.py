"""Parameters of the twin that trials may correct, with what their being off means in words."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Doubtful:
    """A doubtful parameter: a factor on what the textbook says.

    Attributes:
        prior: spread of its natural logarithm that a careful builder's work leaves open; from memory
        more, less: what a factor above or below 1 means
        cure: what to do when it is on the bad side
        bad_above: whether more of it is worse
        moves_advice: whether advice tries what it leaves open; what stands for one sample alone does not
    """

    name: str
    title: str
    prior: float
    more: str
    less: str
    cure: str
    bad_above: bool
    moves_advice: bool = True

    @property
    def is_offered(self) -> bool:
        """Whether a person may ask for it: what stands for one sample alone is fitted unasked."""
        return self.moves_advice


OPTICAL = Doubtful(
    "optical", "sun taken in", 0.12, "more sun gets in than the twin thinks", "less sun gets in than the twin thinks",
    "wash cover and mirror, check aim and shade", False,
)  # fmt: skip
"""Every kind's share of the sun that its cover and mirrors let through."""
