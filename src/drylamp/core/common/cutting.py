"""How pieces are cut from what is sold: flat ones from sheets by cuts from edge to edge, sticks from lengths.

Sheets are laid out by the packer of a library (rectpack, its guillotine algorithms: a saw cuts from edge to edge), tried in several orders;
lengths go first-fit, the longest first (Johnson 1973: at most 11/9 of the fewest, and one). Both leave a saw's width round each piece.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import Any

from drylamp.core.checks import Model
from drylamp.core.common.bill import Piece
from drylamp.core.text import Sentence, counted, metres

SAW_M = 0.003
SHEET_M = (2.5, 1.25)
BAR_M = 3.0
"""What is sold; common practice, no source."""
MM = 1000.0
LEAST_OFFCUT_M = 0.1
"""Narrower strips are waste; common practice, no source."""
MOST_LAID = 400
"""Pieces that are laid out one by one; more are counted by their area."""


class Laid(Model):
    """A piece on its sheet or bar, from the sheet's lower left corner."""

    title: str
    part: str
    x_m: float
    y_m: float
    long_m: float
    wide_m: float


class Offcut(Model):
    """What is left in one piece; of a bar no width."""

    long_m: float
    wide_m: float


class Board(Model):
    """A sheet or a bar with what is cut from it.

    Attributes:
        stuff, of, thick_m: what it is
        long_m, wide_m: its size; a bar has no width
        laid: pieces
        offcut: the largest that is left in one piece; none where nothing useful is
    """

    stuff: str
    of: str
    thick_m: float
    long_m: float
    wide_m: float
    laid: list[Laid]
    offcut: Offcut | None


class CutPlan(Model):
    """Boards in the order in which they are cut, and what could not be laid out."""

    boards: list[Board]
    words: list[Sentence]


def cut_plan(pieces: Iterable[Piece]) -> CutPlan:
    """Lay pieces of a build out on what they are cut from; panes and mirrors are cut to size in the shop and left out."""
    flat, long = defaultdict[tuple[str, float], list[Piece]](list), defaultdict[str, list[Piece]](list)
    for piece in pieces:
        if piece.family == "sheet":
            flat[piece.stuff, round(piece.thick_m, 6)].append(piece)
        elif piece.sold_by == "bar":
            long[piece.stuff].append(piece)
    done = [*map(_on_sheets, flat.values()), *map(_on_bars, long.values())]
    return CutPlan(
        boards=[board for boards, _ in done for board in boards], words=[said for _, words in done for said in words]
    )


def _each(pieces: Sequence[Piece]) -> list[Piece]:
    return [piece for piece in pieces for _ in range(piece.count)]


# --- sheets ---


def _on_sheets(pieces: Sequence[Piece]) -> tuple[list[Board], list[str]]:
    """Sheets of one sort; a piece larger than a sheet is joined of strips as wide as it."""
    first, words, fits = pieces[0], list[str](), list[Piece]()
    for piece in _each(pieces):
        strips = _strips(piece)
        if len(strips) > 1:
            words.append(
                f"{piece.title} of {piece.of.lower()}, {metres(piece.long_m)} × {metres(piece.wide_m)}, is larger than a sheet: join it of {len(strips)} pieces."
            )
        fits += strips
    if len(fits) > MOST_LAID:
        return [], [*words, f"{first.of}: {len(fits)} pieces, more than the {MOST_LAID} that are laid out one by one."]
    boards = [_board(first, laid) for laid in _packed(fits)]
    return boards, words


def _strips(piece: Piece) -> list[Piece]:
    """A piece, or the fewest equal ones that each fit on a sheet."""
    (long, wide), (most_long, most_wide) = (piece.long_m, piece.wide_m), SHEET_M
    along, across = (_parts(long, most_long), _parts(wide, most_wide))
    return [piece.model_copy(update={"long_m": long / along, "wide_m": wide / across})] * (along * across)


def _parts(length_m: float, most_m: float) -> int:
    return max(math.ceil(round(length_m, 6) / most_m), 1)


def _packed(pieces: Sequence[Piece]) -> list[list[Laid]]:
    """Pieces on the fewest sheets that several ways of packing find; the fullest first sheets where it is a draw."""
    found = [_by(way, order, pieces) for way, order in _ways()]
    return min(found, key=lambda sheets: (len(sheets), [-_filled(laid) for laid in sheets]))


def _ways() -> list[tuple[Any, Any]]:
    import rectpack  # only who asks for a cutting plan needs it

    algorithms = (rectpack.GuillotineBssfSas, rectpack.GuillotineBafMinas, rectpack.GuillotineBlsfLas)
    return [
        (way, order) for way in algorithms for order in (rectpack.SORT_AREA, rectpack.SORT_LSIDE, rectpack.SORT_SSIDE)
    ]


def _filled(laid: Sequence[Laid]) -> float:
    return sum(piece.long_m * piece.wide_m for piece in laid)


def _by(way: Any, order: Any, pieces: Sequence[Piece]) -> list[list[Laid]]:
    """Sheets by one way of packing; whole millimetres, each piece with a saw's width on two sides."""
    import rectpack

    packer = rectpack.newPacker(
        mode=rectpack.PackingMode.Offline,
        bin_algo=rectpack.PackingBin.BBF,
        pack_algo=way,
        sort_algo=order,
        rotation=True,
    )
    for k, piece in enumerate(pieces):
        packer.add_rect(_mm(piece.long_m + SAW_M), _mm(piece.wide_m + SAW_M), rid=k)
    packer.add_bin(_mm(SHEET_M[0] + SAW_M), _mm(SHEET_M[1] + SAW_M), count=len(pieces))
    packer.pack()
    sheets = defaultdict[int, list[Laid]](list)
    for sheet, x, y, wide, high, k in packer.rect_list():
        piece = pieces[k]
        sheets[sheet].append(
            Laid(
                title=piece.title, part=piece.part, x_m=x / MM, y_m=y / MM,
                long_m=round(wide / MM - SAW_M, 4), wide_m=round(high / MM - SAW_M, 4),
            )
        )  # fmt: skip
    return [sorted(laid, key=lambda one: (one.x_m, one.y_m)) for _, laid in sorted(sheets.items())]


def _mm(length_m: float) -> int:
    return round(length_m * MM)


def _board(piece: Piece, laid: list[Laid]) -> Board:
    return Board(
        stuff=piece.stuff, of=piece.of, thick_m=piece.thick_m, long_m=SHEET_M[0], wide_m=SHEET_M[1], laid=laid, offcut=_largest_free(laid)
    )  # fmt: skip


def _largest_free(laid: Sequence[Laid]) -> Offcut | None:
    """The largest rectangle that nothing is cut from: its edges are edges of pieces or of the sheet."""
    right = sorted({0.0, *(one.x_m + one.long_m + SAW_M for one in laid)})
    above = sorted({0.0, *(one.y_m + one.wide_m + SAW_M for one in laid)})
    best = (0.0, 0.0)
    for x in right:
        for y in above:
            best = max(best, _from_corner(x, y, laid), key=lambda size: size[0] * size[1])
    return Offcut(long_m=round(max(best), 4), wide_m=round(min(best), 4)) if min(best) >= LEAST_OFFCUT_M else None


def _from_corner(x: float, y: float, laid: Sequence[Laid]) -> tuple[float, float]:
    """The largest free rectangle that has its lower left corner there: it grows to the right until something stands on its way up."""
    best = (0.0, 0.0)
    tops = sorted({one.x_m for one in laid if one.x_m > x} | {SHEET_M[0]})
    for end in tops:
        over = [
            one.y_m - SAW_M - y
            for one in laid
            if one.x_m < end and one.x_m + one.long_m + SAW_M > x + 1e-9 and one.y_m + one.wide_m + SAW_M > y + 1e-9
        ]
        high = min([SHEET_M[1] - y, *over])
        wide = (end - SAW_M if end < SHEET_M[0] else end) - x
        if high > 0.0 and wide > 0.0:
            best = max(best, (wide, high), key=lambda size: size[0] * size[1])
    return best


# --- lengths ---


def _on_bars(pieces: Sequence[Piece]) -> tuple[list[Board], list[str]]:
    """Bars, the longest pieces first, each on the first bar that has room; what is longer than a bar is joined."""
    first, words = pieces[0], list[str]()
    cuts, joined = list[tuple[float, Piece]](), 0
    for piece in _each(pieces):
        parts = _parts(piece.long_m, BAR_M)
        joined += parts > 1
        cuts += [(piece.long_m / parts, piece)] * parts
    if joined:
        words.append(
            f"{first.of}: {counted(joined, 'piece')} longer than a bar of {metres(BAR_M)}; join them over a post."
        )
    bars = list[list[Laid]]()
    for long, piece in sorted(cuts, key=lambda cut: -cut[0]):
        bar = next((bar for bar in bars if _end(bar) + long <= BAR_M + 1e-9), None)
        if bar is None:
            bars.append(bar := [])
        bar.append(Laid(title=piece.title, part=piece.part, x_m=_end(bar), y_m=0.0, long_m=long, wide_m=0.0))
    boards = [
        Board(stuff=first.stuff, of=first.of, thick_m=0.0, long_m=BAR_M, wide_m=0.0, laid=bar, offcut=_rest(bar))
        for bar in bars
    ]
    return boards, words


def _end(bar: Sequence[Laid]) -> float:
    return bar[-1].x_m + bar[-1].long_m + SAW_M if bar else 0.0


def _rest(bar: Sequence[Laid]) -> Offcut | None:
    rest = BAR_M - _end(bar)
    return Offcut(long_m=round(rest, 4), wide_m=0.0) if rest >= LEAST_OFFCUT_M else None
