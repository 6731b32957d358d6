"""Factors of a network's matrix where most pairs of nodes do not touch.

Which numbers an elimination touches depends on the network alone, so order and fill are found once and handed to the marcher
as lists of indices; each step then only runs down the lists. The matrix has a symmetric pattern and, being diagonally dominant,
needs no pivoting.

Numbers are kept in one array: the diagonal by node, then the entries to the right of each pivot, then those below it.

References:
    Tinney & Walker 1967, order of fewest neighbours first (their scheme 2).
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined

SPARSE_ABOVE = 16
"""Nodes above which factors cost less than a dense inverse (``make bench``)."""


class Fill(NamedTuple):
    """Lists that an elimination runs down; all unsigned.

    Attributes:
        pivots: nodes in the order of their elimination, shape (nodes,)
        first: where the neighbours of each pivot begin, shape (nodes + 1,)
        beside: neighbours still there when their pivot goes, shape (entries,)
        target: for each pivot, row by row, the number that each product is taken from, shape (sum of squares,)
        slots: numbers of each pair that was asked for: (i, i), (j, j), (i, j), (j, i), shape (pairs, 4); the first of them for a
            boundary at one end
    """

    pivots: np.ndarray
    first: np.ndarray
    beside: np.ndarray
    target: np.ndarray
    slots: np.ndarray

    @property
    def numbers(self) -> int:
        """How many numbers the factors have."""
        return len(self.pivots) + 2 * len(self.beside)


def fill_of(count: int, pairs: Iterable[tuple[int, int]]) -> Fill:
    """Order, fill and lists for a network of ``count`` nodes; ends of pairs from ``count`` on are boundaries."""
    asked = [(int(i), int(j)) for i, j in pairs]
    near: list[set[int]] = [set() for _ in range(count)]
    for i, j in asked:
        if i < count and j < count and i != j:
            near[i].add(j)
            near[j].add(i)
    pivots, lists = _eliminated(near)
    first = np.concatenate(([0], np.cumsum([len(after) for after in lists])))
    entries = int(first[-1])
    place = {
        (pivot, other): int(first[k]) + e
        for k, (pivot, after) in enumerate(zip(pivots, lists, strict=True))
        for e, other in enumerate(after)
    }

    def number(row: int, column: int) -> int:
        """Where the entry at a row and a column is kept."""
        if row == column:
            return row
        right = place.get((row, column))
        return count + right if right is not None else count + entries + place[column, row]

    target = [number(i, j) for after in lists for i in after for j in after]
    slots = [[number(*at) if max(at) < count else 0 for at in ((i, i), (j, j), (i, j), (j, i))] for i, j in asked]
    whole = [np.array(part, dtype=np.uint64) for part in (pivots, first, [n for after in lists for n in after], target)]
    return Fill(whole[0], whole[1], whole[2], whole[3], np.array(slots, dtype=np.uint64).reshape(len(asked), 4))


def _eliminated(near: list[set[int]]) -> tuple[list[int], list[list[int]]]:
    """Nodes, fewest neighbours first, and what each was beside when it went."""
    left, pivots, lists = set(range(len(near))), [], []
    while left:
        pivot = min(left, key=lambda node: (len(near[node]), node))
        after = near[pivot]
        for node in after:
            near[node] = (near[node] | after) - {node, pivot}
        left.discard(pivot)
        pivots.append(pivot)
        lists.append(sorted(after))
    return pivots, lists


@inlined
def factor(fill: Fill, matrix: Array, capacity: Array, scale: float, inverse: Array) -> None:
    """Factors of C + scale·A, the pivots' inverses on the diagonal."""
    pivots, first, beside, target, _ = fill
    count, entries = np.uint64(pivots.shape[0]), np.uint64(beside.shape[0])
    for e in range(np.uint64(inverse.shape[0])):
        inverse[e] = scale * matrix[e]
    for i in range(count):
        inverse[i] += capacity[i]
    at = np.uint64(0)
    for k in range(count):
        pivot = 1.0 / inverse[pivots[k]]
        inverse[pivots[k]] = pivot
        for e in range(first[k], first[k + np.uint64(1)]):
            below = count + entries + e
            inverse[below] *= pivot
            share = inverse[below]
            for f in range(first[k], first[k + np.uint64(1)]):
                inverse[target[at]] -= share * inverse[count + f]
                at += np.uint64(1)


@inlined
def solve(fill: Fill, inverse: Array, rhs: Array, out: Array) -> None:
    """Solve by the factors; ``out`` may not be ``rhs``."""
    pivots, first, beside, _, _ = fill
    count, entries = np.uint64(pivots.shape[0]), np.uint64(beside.shape[0])
    for i in range(count):
        out[i] = rhs[i]
    for k in range(count):
        here = out[pivots[k]]
        for e in range(first[k], first[k + np.uint64(1)]):
            out[beside[e]] -= inverse[count + entries + e] * here
    for k in range(count):
        back = count - np.uint64(1) - k
        total = out[pivots[back]]
        for e in range(first[back], first[back + np.uint64(1)]):
            total -= inverse[count + e] * out[beside[e]]
        out[pivots[back]] = total * inverse[pivots[back]]


@inlined
def less_product(fill: Fill, matrix: Array, by: Array, out: Array) -> None:
    """out −= A·by."""
    pivots, first, beside, _, _ = fill
    count, entries = np.uint64(pivots.shape[0]), np.uint64(beside.shape[0])
    for k in range(count):
        i = pivots[k]
        total = matrix[i] * by[i]
        for e in range(first[k], first[k + np.uint64(1)]):
            j = beside[e]
            total += matrix[count + e] * by[j]
            out[j] -= matrix[count + entries + e] * by[i]
        out[i] -= total
