"""What somebody takes to the bench: sizes, cut list, order of work, what holds it, how it packs, what to mind."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence

from pydantic import BaseModel

from drylamp.core.advice.made_of import MadeOf, made_of
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.pattern import PatternPiece
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Model
from drylamp.core.common.bill import Piece
from drylamp.core.common.drawing import Section
from drylamp.core.common.fastening import Fastening, fastenings
from drylamp.core.common.views import View, views
from drylamp.core.forms import FieldForm, form_of
from drylamp.core.loads.load import Load
from drylamp.core.quantities import Quantity
from drylamp.core.text import Sentence, amount, capital, counted, metres

SIZES: frozenset[Quantity] = frozenset(("length", "distance", "length_mm", "angle", "area_cm2"))
PACKS, LEAST_THICK_M = 0.8, 0.003
"""Of the room that flat pieces take when stacked what they fill; thinnest that they lie; from memory."""


class SizeLine(Model):
    """A size that a builder sets: of which part, what, and how much."""

    part: str
    title: Sentence
    value: float
    quantity: Quantity


class WorkStep(Model):
    """A step of the work: what, on which pieces, how long it takes one who has the tools."""

    title: Sentence
    words: Sentence
    pieces: list[str]
    hours: float


class BuildSheet(Model):
    """All of a build on one sheet.

    Attributes:
        name, kind: what it is called, and is
        section: its drawing, without sun
        views: the same from the front and from above; none where nobody knows how far it reaches across
        sizes: what its builder set
        made: its bill, cuts and what the pile gives
        packed_m: length, width and height of its flat pieces stacked, before it is put together
        steps, fastenings: the work in its order, and what holds it
        words: weight, lifting, packing
    """

    name: str
    kind: str
    section: Section
    views: list[View]
    sizes: list[SizeLine]
    made: MadeOf
    packed_m: tuple[float, float, float]
    steps: list[WorkStep]
    fastenings: list[Fastening]
    words: list[Sentence]


def build_sheet(name: str, build: Build, load: Load | None, pile: Sequence[Salvaged]) -> BuildSheet:
    """Draw a build's sheet up."""
    kind, made = kind_of(build), made_of(build, pile)
    packed = _packed(made.pieces)
    said = f"Cut and not yet put together, its flat pieces lie in {metres(packed[0])} × {metres(packed[1])} × {metres(packed[2])}."
    section = kind.section(build, load, None)
    return BuildSheet(
        name=name, kind=kind.title, section=section, views=views(section, build.across_m, build.is_round), sizes=list(_sizes(build)), made=made, packed_m=packed,
        steps=list(_steps(made.pieces)), fastenings=fastenings(made.pieces), words=[*made.words, said, *_unfolded(kind.pattern(build))],
    )  # fmt: skip


def _unfolded(sheets: Sequence[PatternPiece]) -> list[Sentence]:
    """What is folded or bent from sheets, laid flat to be carried."""
    if not sheets:
        return []
    wide, high = max(one.width_mm for one in sheets) / 1000.0, max(one.height_mm for one in sheets) / 1000.0
    return [
        f"What is folded of it goes flat again: {counted(sum(one.count for one in sheets), 'sheet')} in {metres(wide)} × {metres(high)}, as its pattern is."
    ]


def _sizes(build: Build) -> Iterator[SizeLine]:
    """Fields that hold a length, an angle or an opening, those of its parts too."""
    yield from _of_record(build, form_of(type(build)), kind_of(build).parts, "")


def _of_record(
    record: BaseModel, forms: Sequence[FieldForm], parts: Mapping[str, str], part: str
) -> Iterator[SizeLine]:
    for form in forms:
        value = getattr(record, form.name, None)
        if isinstance(value, BaseModel) and form.fields:
            yield from _of_record(value, form.fields, parts, form.title)
        elif isinstance(value, int | float) and not isinstance(value, bool) and form.quantity in SIZES:
            yield SizeLine(
                part=part or capital(parts.get(form.part, "")),
                title=form.title,
                value=float(value),
                quantity=form.quantity,
            )


def _packed(pieces: Sequence[Piece]) -> tuple[float, float, float]:
    flat = [piece for piece in pieces if piece.wide_m > 0.0 and piece.family != "finish"]
    if not flat:
        return 0.0, 0.0, 0.0
    long_m, wide_m = max(piece.long_m for piece in flat), max(piece.wide_m for piece in flat)
    volume = math.fsum(piece.area_m2 * max(piece.thick_m, LEAST_THICK_M) for piece in flat)
    return round(long_m, 3), round(wide_m, 3), round(volume / (long_m * wide_m) / PACKS, 3)


Is = Callable[[Piece], bool]
WOODEN = ("plywood", "osb", "board", "batten", "slat", "post", "card", "paper")


def _is_wood(piece: Piece) -> bool:
    return piece.family in ("sheet", "thing") and any(word in piece.stuff for word in WOODEN)


ORDER: tuple[tuple[str, Is, str], ...] = (
    ("Frame and walls", _is_wood, "Cut as the plan shows, largest first; try it dry, see that it stands square (both diagonals alike), then join it."),
    ("Paint", lambda piece: piece.family == "finish", "Paint what will be out of reach before it is closed: two thin coats, a day between them."),
    ("Metal", lambda piece: piece.family == "sheet" and ("sheet-" in piece.stuff or piece.stuff == "tinplate"), "Cut with gloves on; fold on a straight edge."),
    ("Insulation", lambda piece: piece.family == "sheet", "Fill every corner; a gap of a finger loses more than a finger of foam saves."),
    ("Pipe and hose", lambda piece: piece.family == "pipe", "Press it with water before it is covered, twice what it will bear."),
    ("Mirrors", lambda piece: piece.family == "mirror", "Keep the film on them, or cover them, until all else is done: they blind and burn."),
    ("Fittings", lambda piece: piece.family == "thing", "Hinges, props, seals, fans: see that each moves before the glass goes on."),
    ("Panes", lambda piece: piece.family == "pane", "Last of all, by two people where one cannot hold it; clean inside first, nobody gets there again."),
)  # fmt: skip
BAKE = "Stand it empty in full sun for two days, open a crack, until it smells of nothing; only then food or people's water."


def _steps(pieces: Sequence[Piece]) -> Iterator[WorkStep]:
    """Each piece in the first step that takes it."""
    left = list(pieces)
    for title, takes, words in ORDER:
        mine = [piece for piece in left if takes(piece)]
        left = [piece for piece in left if not takes(piece)]
        if mine:
            names = list(
                dict.fromkeys(f"{piece.count} × {piece.title}" if piece.count > 1 else piece.title for piece in mine)
            )
            yield WorkStep(
                title=title, words=words, pieces=names, hours=math.fsum(piece.count * piece.hours for piece in mine)
            )
    if any(piece.family == "finish" for piece in pieces):
        yield WorkStep(title="Bake it out", words=BAKE, pieces=[], hours=0.0)


def hours_said(sheet: BuildSheet) -> Sentence:
    """All of the work."""
    return f"Some {amount(math.fsum(step.hours for step in sheet.steps), 'hours')} of work in all."
