"""What somebody wants to get done by the sun, in the words that people have for it, and the load that it becomes.

Each load's room holds its ``goods.GOODS``; the registry finds them. A wish in a sentence is read by these words and nothing else.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Generic, TypeVar

from drylamp.core.loads.load import Load
from drylamp.core.quantities import Quantity

L = TypeVar("L", bound=Load)


@dataclass(frozen=True)
class Room:
    """What a build has room for: levels that something is laid out on, width and depth of its floor, m."""

    levels: int
    floor_m: tuple[float, float]


def as_warm_as_it_is(load: L, celsius: float) -> L:
    """Its warmth is not for its owner to choose."""
    return load


@dataclass(frozen=True)
class Good(Generic[L]):
    """One thing that the sun can do.

    Attributes:
        name: one name for it, whatever holds it
        title: in words, lower case
        verbs: what one does to it
        words: what it is called, in the singular
        quantity: what it is measured in
        usual: how much of it where nobody says
        of: the load of so much of it, from one of its sort that is there, in a room
        each: other words for an amount, in the quantity's base: a shower, a person
        warm: the same at another warmth
        days: over how many days one looks whether it gets done
    """

    name: str
    title: str
    verbs: tuple[str, ...]
    words: tuple[str, ...]
    quantity: Quantity
    usual: float
    of: Callable[[L, Room, float], L]
    each: Mapping[str, float] = field(default_factory=dict)
    warm: Callable[[L, float], L] = as_warm_as_it_is
    days: int = 1


def word_of(title: str) -> str:
    """What comes before how it is cut or kept, lower case."""
    return title.split(",")[0].lower()
