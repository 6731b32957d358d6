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
        on_wish: whether a person may have it fitted though advice does not try it
    """

    name: str
    title: str
    prior: float
    more: str
    less: str
    cure: str
    bad_above: bool
    moves_advice: bool = True
    on_wish: bool = False

    @property
    def is_offered(self) -> bool:
        """Whether a person may ask for it: what stands for one sample alone is fitted unasked."""
        return self.moves_advice or self.on_wish


OPTICAL = Doubtful(
    "optical", "sun taken in", 0.12, "more sun gets in than the twin thinks", "less sun gets in than the twin thinks",
    "wash cover and mirror, check aim and shade", False,
)  # fmt: skip
"""Every kind's share of the sun that its cover and mirrors let through."""
CONTACT = Doubtful(
    "contact", "contact with what it stands on", 0.7, "what stands on the tray touches it better than the twin thinks",
    "what stands on the tray touches it worse than the twin thinks", "set it flat, with a drop of water or oil under it", False, moves_advice=False, on_wish=True,
)  # fmt: skip
"""Half the logarithm of the range that words for a contact leave open (``tables.contacts``)."""
