"""Sizes of a build that come from what lies on the pile: panes as they are, hose as long as it is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import islice

from drylamp.core import tables
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.pile.sheet import NO_MATERIAL, Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.common.bill import Piece
from drylamp.core.common.panes import Layout, layouts
from drylamp.core.text import Sentence, amount, capital, counted

MOST_PANES = 12
"""Alike, that are laid over one opening at most."""
SMALLEST, LARGEST = 0.25, 8.0
"""Of a build's own opening, to which it is made to fit something; beyond that it is another build."""
MOST_DRAWN_OUT = 2.6
MOST_TRIED = 80
"""Ways to fit a build to panes, and to hoses, at most; those of the first rows of the pile."""
MOST_LAYERS, RIGID_M = 3, 0.001
"""A frame made for film, which is thinner than that, carries no panes."""
"""How much more it may grow one way than the other."""


@dataclass(frozen=True)
class Fitting:
    """A build made to fit something that lies there.

    Attributes:
        times: its opening against the build's own
        words: what it was made to fit, and joints; empty for the build as it is
        layout: of panes, where it has one
        is_fixed: whether its size is that of what it fits
    """

    build: Build
    times: float = 1.0
    words: Sentence = ""
    layout: Layout | None = None
    is_fixed: bool = False


def fittings(build: Build, rows: Sequence[Salvaged]) -> list[Fitting]:
    """A build as it is, and made to fit each of what lies there, in the order of the pile; alike ones once."""
    pieces = kind_of(build).bill(build)
    panes, hoses = _to_panes(build, pieces, rows), _to_hose(build, pieces, rows)
    found = [Fitting(build), *islice(panes, MOST_TRIED), *islice(hoses, MOST_TRIED)]
    seen = dict[str, Fitting]()
    for one in found:
        seen.setdefault(one.build.model_dump_json(), one)
    return list(seen.values())


def _to_panes(build: Build, pieces: Sequence[Piece], rows: Sequence[Salvaged]) -> Iterator[Fitting]:
    glass = next((piece for piece in pieces if piece.family == "pane"), None)
    if build.glazed_m is None or glass is None or glass.thick_m < RIGID_M:
        return
    for row in rows:
        if row.sort != "pane" or row.of == NO_MATERIAL:
            continue
        cut = build.glazed_with(row.of, min(glass.count, row.count, MOST_LAYERS))
        if cut is not None and cut != build:
            yield Fitting(
                cut,
                words=f"Under {tables.cover(row.of).title.lower()} cut to size: tempered glass cannot be cut, so look for its stamp first.",
            )
        for layout in layouts(*row.sides_m, min(row.count, MOST_PANES)):
            under = build.glazed_with(row.of, min(glass.count, row.count // layout.count, MOST_LAYERS))
            made = None if under is None else _glazed(under, layout)
            if made is not None:
                yield made


def _glazed(build: Build, layout: Layout) -> Fitting | None:
    """A build under such a layout; none where it would be another build."""
    assert build.glazed_m is not None
    wide, long = layout.wide_m / build.glazed_m[0], layout.long_m / build.glazed_m[1]
    if min(wide, long) <= 0.0 or not SMALLEST <= wide * long <= LARGEST:
        return None
    if max(wide / long, long / wide) > MOST_DRAWN_OUT:
        return None
    larger = build.stretched(wide, long)
    if larger is None:
        return None
    panes = "one pane" if layout.count == 1 else _rows(layout)
    return Fitting(larger, wide * long, f"{capital(panes)} over it. {layout.said(build.lean_deg)}", layout, True)


def _rows(layout: Layout) -> str:
    if layout.along == 1:
        return f"{counted(layout.across, 'pane')} side by side"
    if layout.across == 1:
        return f"{counted(layout.along, 'pane')} one over the other"
    return f"{counted(layout.count, 'pane')}, {layout.across} side by side in {layout.along} rows"


def _to_hose(build: Build, pieces: Sequence[Piece], rows: Sequence[Salvaged]) -> Iterator[Fitting]:
    pipe = next((piece for piece in pieces if piece.family == "pipe"), None)
    if build.hose_m is None or pipe is None:
        return
    for row in rows:
        if row.sort != "pipe" or row.of != pipe.stuff:
            continue
        long_m = row.sides_m[0] * row.count
        times = long_m / build.hose_m
        made = build.with_hose(long_m) if SMALLEST <= times <= LARGEST else None
        if made is not None:
            yield Fitting(
                made, times, f"Wound of all {amount(long_m, 'distance')} of hose that there is.", is_fixed=True
            )
