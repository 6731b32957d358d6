"""Sharing a gap out among several differences, whatever they are and whatever is counted.

References:
    Shapley 1953, a value for n-person games: each player's mean of what it adds, over all orders in which they come; the shares add up to the whole, also where two help or hinder each other.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations
from math import factorial

Some = frozenset[int]
"""Which of the differences are made like the other's."""


@dataclass(frozen=True)
class Part:
    """One difference's part of a gap: the mean of what it adds, and the least and most that it adds, by what was made alike before it."""

    gain: float
    least: float
    most: float

    @property
    def doubt(self) -> float:
        """Half of what the order makes of it."""
        return (self.most - self.least) / 2.0


def subsets(count: int) -> list[Some]:
    """Every set of so many differences, the empty one first and the whole one last."""
    return [frozenset(some) for size in range(count + 1) for some in combinations(range(count), size)]


def parts_of(values: Mapping[Some, float | None], count: int) -> list[Part | None]:
    """Each difference's part, from what every set of them comes to.

    A set that cannot be has no value; who comes next to it is then judged by the other orders alone. A difference that can be made in no order has no part.
    """
    return [_part(values, player, count) for player in range(count)]


def _part(values: Mapping[Some, float | None], player: int, count: int) -> Part | None:
    added, weights = [], []
    for some, value in values.items():
        then = None if player in some else values[some | {player}]
        if value is not None and then is not None:
            added.append(then - value)
            weights.append(factorial(len(some)) * factorial(count - len(some) - 1) / factorial(count))
    if not added:
        return None
    gain = sum(w * a for w, a in zip(weights, added, strict=True)) / sum(weights)
    return Part(gain, min(added), max(added))
