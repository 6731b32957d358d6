"""What a build is made of: pieces with their size, weight, price and work, each by the row of a table that it is made from.

Prices are those of new stuff; what lies about costs nothing (``advice.cost``). Hours are one person's who has the tools at hand,
without thinking it over and fetching things; all of them common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Literal

from drylamp.core import tables
from drylamp.core.checks import Model
from drylamp.core.common.wall import WallLayer
from drylamp.core.tables import Absorber, Cover, Layer, Mirror, Pipe
from drylamp.core.text import Sentence

Family = Literal["sheet", "pane", "mirror", "finish", "pipe", "thing"]
"""What may take its place: another sheet, pane, mirror, paint, pipe, or the same thing."""
HOURS_PIECE, HOURS_EDGE_M, HOURS_COAT_M2, HOURS_PIPE_M = 0.1, 0.04, 0.25, 0.03
"""To mark and fix a piece, to cut a metre of its edge, to paint a square metre twice, to lay a metre of pipe; common practice, no source."""
COAT_KG_M2 = 0.2
"""Of paint, two coats, dry; from memory."""


class Piece(Model):
    """So many pieces alike; sizes, kilograms, price and hours are of one.

    Attributes:
        part: of the drawing
        title: what it is in the build
        stuff, of: the row it is made from, and that one's title
        family: what else could take its place
        count: how many
        long_m, wide_m, thick_m: its size; a run has no width, a thing no size
        kg, price, hours: what one weighs, costs new and takes
        note: what to mind when it is cut
    """

    part: str
    title: str
    stuff: str
    of: str
    family: Family
    count: int
    long_m: float
    wide_m: float
    thick_m: float
    kg: float
    price: float
    hours: float
    note: Sentence = ""

    @property
    def area_m2(self) -> float:
        """Of all of them."""
        return self.count * self.long_m * self.wide_m

    @property
    def sold_by(self) -> str:
        """Of a thing by what it is sold; nothing of what is cut from a sheet or a pipe."""
        return tables.things()[self.stuff].by if self.family == "thing" else ""


def cut_hours(long_m: float, wide_m: float) -> float:
    """To mark, cut and fix a flat piece."""
    return HOURS_PIECE + HOURS_EDGE_M * 2.0 * (long_m + wide_m)


def layer_piece(
    part: str, title: str, layer: WallLayer, long_m: float, wide_m: float, count: int = 1, note: str = ""
) -> list[Piece]:
    """A piece of board, foam or sheet; none of a gap of air."""
    row: Layer = layer.row
    if row.is_gap or long_m <= 0.0 or wide_m <= 0.0:
        return []
    area = long_m * wide_m
    return [
        Piece(
            part=part, title=title, stuff=row.name, of=row.title, family="sheet", count=count,
            long_m=max(long_m, wide_m), wide_m=min(long_m, wide_m), thick_m=layer.thickness_m,
            kg=area * layer.thickness_m * row.density_kg_m3, price=area * row.price_m2 * layer.thickness_m / row.usual_thickness_m,
            hours=cut_hours(long_m, wide_m), note=note,
        )
    ]  # fmt: skip


def stacked(part: str, title: str, layers: Iterable[WallLayer], long_m: float, wide_m: float) -> list[Piece]:
    """Layers of one size, one on the other."""
    return [piece for layer in layers for piece in layer_piece(part, title, layer, long_m, wide_m)]


def pane_piece(
    part: str, title: str, row: Cover, thick_m: float, long_m: float, wide_m: float, count: int = 1, note: str = ""
) -> Piece:
    """A pane, a film or a twin-wall sheet, both skins in one."""
    area = long_m * wide_m
    return Piece(
        part=part, title=title, stuff=row.name, of=row.title, family="pane", count=count, long_m=max(long_m, wide_m),
        wide_m=min(long_m, wide_m), thick_m=thick_m, kg=area * thick_m * row.skins * row.density_kg_m3,
        price=area * row.price_m2 * thick_m / row.usual_thickness_m, hours=cut_hours(long_m, wide_m), note=note,
    )  # fmt: skip


def mirror_piece(
    part: str, title: str, row: Mirror, long_m: float, wide_m: float, count: int = 1, note: str = ""
) -> Piece:
    """A mirror with whatever it is sold on."""
    area = long_m * wide_m
    return Piece(
        part=part, title=title, stuff=row.name, of=row.title, family="mirror", count=count, long_m=max(long_m, wide_m),
        wide_m=min(long_m, wide_m), thick_m=0.0, kg=area * row.kg_m2, price=area * row.price_m2, hours=cut_hours(long_m, wide_m), note=note,
    )  # fmt: skip


def coat(part: str, title: str, row: Absorber, area_m2: float) -> list[Piece]:
    """A finish on something that is there anyway; none where it costs nothing, as what is left bare."""
    if row.price_m2 <= 0.0 or area_m2 <= 0.0 or row.name.startswith("bare-"):
        return []
    side = math.sqrt(area_m2)
    return [
        Piece(
            part=part, title=title, stuff=row.name, of=row.title, family="finish", count=1, long_m=side, wide_m=side, thick_m=0.0,
            kg=area_m2 * COAT_KG_M2, price=area_m2 * row.price_m2, hours=HOURS_COAT_M2 * area_m2,
        )
    ]  # fmt: skip


def pipe_run(part: str, title: str, row: Pipe, kg_m: float, long_m: float, count: int = 1) -> Piece:
    """Pipe or hose by the metre."""
    return Piece(
        part=part, title=title, stuff=row.name, of=row.title, family="pipe", count=count, long_m=long_m, wide_m=0.0, thick_m=0.0,
        kg=kg_m * long_m, price=row.price_m * long_m, hours=HOURS_PIPE_M * long_m,
    )  # fmt: skip


def thing(
    part: str, name: str, count: int = 1, long_m: float = 0.0, wide_m: float = 0.0, title: str = "", kg: float | None = None
) -> Piece:  # fmt: skip
    """Something by the piece, the metre or the square metre."""
    row = tables.things()[name]
    amount = {"piece": 1.0, "bar": long_m, "metre": long_m, "square-metre": long_m * wide_m}[row.by]
    return Piece(
        part=part, title=title or row.title.lower(), stuff=name, of=row.title, family="thing", count=count, long_m=long_m, wide_m=wide_m,
        thick_m=0.0, kg=row.kg * amount if kg is None else kg, price=row.price * amount, hours=row.hours * amount,
    )  # fmt: skip


def total(pieces: Iterable[Piece], of: Literal["kg", "price", "hours"]) -> float:
    """What all come to."""
    return math.fsum(piece.count * float(getattr(piece, of)) for piece in pieces)
