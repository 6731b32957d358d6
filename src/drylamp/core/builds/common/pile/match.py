"""What of a bill the pile gives: large pieces first, each from the smallest thing that it can be cut from, offcuts put back.

A pane serves for a pane of the same stuff that is no larger and as thick to a third; board and foam likewise, and thicker stuff serves as well. Pipe is cut
from lengths; things are taken by the piece or the metre.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.checks import Model
from drylamp.core.common.bill import Piece
from drylamp.core.common.cutting import SAW_M
from drylamp.core.common.panes import glazing

THINNER, THICKER = 0.67, 2.1
"""What may stand for another thickness; common practice, no source."""
LEAST_LEFT_M = 0.1
MOST_LEFT = 2000
"""Offcuts that are kept in mind at most."""


class Taken(Model):
    """Of one piece of a bill: how many the pile gives, from what, and what is left to buy.

    Attributes:
        piece: its place in the bill
        count: how many come from the pile
        names: what they are cut from
        price: of all that is still to buy of it
        joint_m: joints between panes that close one opening together
    """

    piece: int
    count: int
    names: list[str]
    price: float
    joint_m: float = 0.0


class Used(Model):
    """Whole pieces of the pile that something is cut from."""

    name: str
    count: int


class Left(Model):
    """Something of the pile that is left, or an offcut of it."""

    name: str
    count: int
    long_m: float
    wide_m: float
    is_offcut: bool


class FromPile(Model):
    """What the pile gives to a bill."""

    taken: list[Taken]
    used: list[Used]
    left: list[Left]
    saved: float
    buy: float


@dataclass
class _Lying:
    """Something that lies there."""

    row: Salvaged
    number: int
    long_m: float
    wide_m: float
    is_offcut: bool = False


def from_pile(pieces: Sequence[Piece], rows: Iterable[Salvaged]) -> FromPile:
    """Take from the pile what a bill can use; nothing is used twice."""
    whole = [row for row in rows for _ in range(min(row.count, MOST_LEFT)) if row.family is not None][:MOST_LEFT]
    lying = [_Lying(row, k, *row.sides_m) for k, row in enumerate(whole)]
    found = dict[int, list[_Given]]()
    for k in sorted(range(len(pieces)), key=lambda k: -_size(pieces[k])):
        found[k] = [one for one in (_take(pieces[k], lying) for _ in range(pieces[k].count)) if one is not None]
    taken = [
        Taken(
            piece=k, count=len(found[k]), names=list(dict.fromkeys(name for one in found[k] for name in one.names)),
            price=(piece.count - len(found[k])) * piece.price, joint_m=sum(one.joint_m for one in found[k]),
        )
        for k, piece in enumerate(pieces)
    ]  # fmt: skip
    saved = math.fsum(one.count * pieces[one.piece].price for one in taken)
    cut = Counter(whole[k].name for k in {k for given in found.values() for one in given for k in one.numbers})
    used = [Used(name=name, count=count) for name, count in sorted(cut.items())]
    return FromPile(taken=taken, used=used, left=_left(lying), saved=saved, buy=math.fsum(one.price for one in taken))


def _size(one: Piece | _Lying) -> float:
    """To go by: area, and of what has no width length."""
    return one.long_m * max(one.wide_m, 1e-3)


@dataclass(frozen=True)
class _Given:
    """What one piece is cut from, or put together of."""

    names: tuple[str, ...]
    numbers: tuple[int, ...]
    joint_m: float = 0.0


def _take(piece: Piece, lying: list[_Lying]) -> _Given | None:
    """What one piece is cut from; its offcut goes back to the pile. A pane that no single one gives is put together of several."""
    alike = [one for one in lying if _is_like(piece, one)]
    able = [one for one in alike if _is_large_enough(piece, one)]
    if not able:
        return _together(piece, alike, lying) if piece.family == "pane" else None
    best = min(able, key=lambda one: (_size(one), one.row.name))
    lying.remove(best)
    lying += _offcuts(piece, best)
    return _Given((best.row.name,), (best.number,))


def _together(piece: Piece, alike: Sequence[_Lying], lying: list[_Lying]) -> _Given | None:
    """Several whole panes that close one opening, no offcuts pieced together; what is cut off them is not counted on."""
    alike = [one for one in alike if not one.is_offcut]
    found = glazing(piece.wide_m, piece.long_m, [(one.wide_m, one.long_m) for one in alike])
    if found is None:
        return None
    chosen = [alike[k] for k in found.chosen]
    for one in chosen:
        lying.remove(one)
    return _Given(tuple(one.row.name for one in chosen), tuple(one.number for one in chosen), found.joint_m)


def _is_like(piece: Piece, one: _Lying) -> bool:
    """Of the same stuff, and as thick where that matters."""
    if one.row.family != piece.family or one.row.of != piece.stuff:
        return False
    thick = one.row.thick_m
    free = piece.sold_by == "piece" or thick is None or piece.thick_m <= 0.0
    return free or THINNER <= (thick or 0.0) / piece.thick_m <= THICKER


def _is_large_enough(piece: Piece, one: _Lying) -> bool:
    return piece.sold_by == "piece" or (piece.long_m <= one.long_m + 1e-9 and piece.wide_m <= one.wide_m + 1e-9)


def _offcuts(piece: Piece, one: _Lying) -> list[_Lying]:
    """What one cut across and one along leave; of a length what is left of it. Glass is cut too, tempered glass never: that is the builder's to know."""
    if piece.sold_by == "piece":
        return []
    rest = [(one.long_m - piece.long_m - SAW_M, one.wide_m)]
    if piece.wide_m > 0.0:
        rest.append((piece.long_m, one.wide_m - piece.wide_m - SAW_M))
    least = LEAST_LEFT_M if piece.wide_m > 0.0 else 0.0
    return [
        _Lying(one.row, one.number, max(size), min(size), True)
        for size in rest
        if max(size) > LEAST_LEFT_M and min(size) >= least
    ]


def _left(lying: Iterable[_Lying]) -> list[Left]:
    """What is left, alike together."""
    counted = dict[tuple[str, float, float, bool], int]()
    for one in lying:
        key = one.row.name, round(one.long_m, 3), round(one.wide_m, 3), one.is_offcut
        counted[key] = counted.get(key, 0) + 1
    return [
        Left(name=name, count=count, long_m=long, wide_m=wide, is_offcut=cut)
        for (name, long, wide, cut), count in counted.items()
    ]
