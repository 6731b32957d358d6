"""What a build comes to: its bill, its cutting plan, what of it lies on the pile, who can lift it."""

from __future__ import annotations

import math
from collections.abc import Sequence

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.pile.match import FromPile, from_pile
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Model
from drylamp.core.common.bill import Piece, total
from drylamp.core.common.cutting import CutPlan, cut_plan
from drylamp.core.text import Sentence, amount, counted, kilograms

LIFTS_KG = 25.0
"""What one person lifts; guidance for occasional lifting close to the body, common practice, no source."""
MOST_LIFTERS = 4


class MadeOf(Model):
    """A build's bill and what follows from it.

    Attributes:
        pieces: of the bill
        kg, price, hours: of all of them, new
        cuts: how sheets and bars are cut
        pile: what the salvage pile gives
        words: sentences about it
    """

    pieces: list[Piece]
    kg: float
    price: float
    hours: float
    cuts: CutPlan
    pile: FromPile
    words: list[Sentence]


def made_of(build: Build, pile: Sequence[Salvaged]) -> MadeOf:
    """Draw a build's bill up."""
    pieces = kind_of(build).bill(build)
    given = from_pile(pieces, pile)
    kg, price, hours = (total(pieces, of) for of in ("kg", "price", "hours"))
    cuts = cut_plan(pieces)
    return MadeOf(
        pieces=pieces, kg=kg, price=price, hours=hours, cuts=cuts, pile=given,
        words=[_costs(price, given, pile), *_whole(pieces, cuts, price), _weighs(kg), _heaviest(pieces), f"Some {amount(hours, 'hours')} of work for one who has the tools."],
    )  # fmt: skip


def _costs(price: float, given: FromPile, pile: Sequence[Salvaged]) -> Sentence:
    if not pile:
        return f"All of it bought new: {amount(price, 'price')}. Measure what lies about on the salvage pile, and see what is left to buy."
    if not any(one.count for one in given.taken):
        return f"All of it bought new: {amount(price, 'price')}; of the pile nothing fits."
    return f"Bought new {amount(price, 'price')}; with what the pile gives {amount(given.buy, 'price')} is left to buy."


def whole_price(pieces: Sequence[Piece], cuts: CutPlan) -> float:
    """What it costs where sheets and bars are bought whole, as they are sold, and the rest by the piece."""
    rate: dict[tuple[str, float], float] = {}
    laid = {(board.stuff, round(board.thick_m, 6)) for board in cuts.boards}
    apart = 0.0
    for piece in pieces:
        key = (piece.stuff, round(piece.thick_m, 6))
        if key not in laid:
            apart += piece.price * piece.count
        elif piece.price > 0.0:
            rate[key] = piece.price / (piece.long_m * piece.wide_m if piece.wide_m > 0.0 else piece.long_m)
    sold = ((board, rate.get((board.stuff, round(board.thick_m, 6)), 0.0)) for board in cuts.boards)
    return apart + math.fsum(by * board.long_m * (board.wide_m if board.wide_m > 0.0 else 1.0) for board, by in sold)


def _whole(pieces: Sequence[Piece], cuts: CutPlan, price: float) -> list[Sentence]:
    whole = whole_price(pieces, cuts)
    if whole <= price * 1.01:
        return []
    return [
        f"In whole sheets and lengths, as they are sold, it comes to {amount(whole, 'price')}, and {amount(whole - price, 'price')} of it lie about afterwards."
    ]


def _weighs(kg: float) -> Sentence:
    people = max(math.ceil(kg / LIFTS_KG), 1)
    if people > MOST_LIFTERS:
        return f"It weighs {kilograms(kg)}: build it where it stands."
    return f"It weighs {kilograms(kg)}: {counted(people, 'person') if people == 1 else f'{people} people'} can lift it."


def _heaviest(pieces: Sequence[Piece]) -> Sentence:
    most = max(pieces, key=lambda piece: piece.kg)
    return f"The heaviest piece is the {most.title.lower()} of {most.of.lower()}, {kilograms(most.kg)}."
