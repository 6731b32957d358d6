"""What builds are made of: pieces against sums by hand, weights against volumes, prices to the cent; and how they are cut."""

from __future__ import annotations

import itertools
import math
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core import tables
from drylamp.core.builds.registry import KINDS, kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.common.bill import Piece, thing, total
from drylamp.core.common.cutting import SAW_M, Board, cut_plan
from drylamp.core.common.wall import WallLayer
from drylamp.demo.scenario import FIG_DRYER, HEATER, LIDS, OVEN, WORKSHOP

EVERY = [
    pytest.param(starter.spec, id=f"{name}-{k}") for name, many in starters().items() for k, starter in enumerate(many)
]


def pieces_of(build) -> list[Piece]:
    return kind_of(build).bill(build)


def named(build, title: str) -> list[Piece]:
    return [piece for piece in pieces_of(build) if piece.title == title]


def board(long_m: float, wide_m: float, count: int = 1, stuff: str = "plywood", thick_m: float = 0.009) -> Piece:
    row = tables.layers()[stuff]
    return Piece(
        part="wall-0", title=f"{long_m:g} × {wide_m:g}", stuff=stuff, of=row.title, family="sheet", count=count, long_m=max(long_m, wide_m),
        wide_m=min(long_m, wide_m), thick_m=thick_m, kg=0.0, price=0.0, hours=0.0,
    )  # fmt: skip


# --- pieces ---


@pytest.mark.parametrize("build", EVERY)
def test_every_piece_belongs_to_a_part_and_weighs_costs_and_takes_something(build):
    kind = kind_of(build)
    pieces = pieces_of(build)
    assert pieces
    for piece in pieces:
        assert piece.part.split("-")[0] in kind.parts, piece
        assert piece.count >= 1
        assert min(piece.kg, piece.price, piece.hours) >= 0.0
        assert max(piece.kg, piece.price) > 0.0 or piece.stuff in ("newspaper", "bottle"), piece
    assert total(pieces, "kg") > 0.0


@pytest.mark.parametrize("build", EVERY)
def test_flat_pieces_weigh_their_volume(build):
    for piece in pieces_of(build):
        if piece.family == "sheet":
            volume = piece.long_m * piece.wide_m * piece.thick_m
            assert piece.kg == pytest.approx(volume * tables.layers()[piece.stuff].density_kg_m3, rel=1e-9)


@pytest.mark.parametrize("build", EVERY)
def test_the_glass_covers_what_the_sun_meets(build):
    """Panes are at least as large as the opening under them, each sheet of the cover once."""
    if not build.skins or getattr(build, "collector", None) is not None:
        return
    panes = [
        piece
        for piece in pieces_of(build)
        if piece.family == "pane" and piece.part == "cover" and piece.title in ("pane", "strip of the roof")
    ]
    assert sum(piece.area_m2 for piece in panes) >= build.opening_m2


def test_the_card_box_by_hand():
    """One corrugated layer round another: ends as wide as hollow and both sides, sides between them, floors under all."""
    build = WORKSHOP
    wide, long, high = build.width_m, build.floor_length_m, build.height_m
    inside = 0.0
    for k, layer in enumerate(build.wall):
        mine = [p for p in pieces_of(build) if p.part == f"wall-{k}" and p.family == "sheet"]
        by = {p.title: p for p in mine}
        if layer.row.is_gap:
            assert mine == []
        else:
            outer = wide + 2 * (inside + layer.thickness_m)
            ends = by.get("front and back", by.get("back"))
            assert max(ends.long_m, ends.wide_m) == pytest.approx(max(outer, high))
            assert by["sides"].count == 2
            assert {round(by["sides"].long_m, 6), round(by["sides"].wide_m, 6)} == {
                round(long + 2 * inside, 6),
                round(build.back_height_m, 6),
            }
        inside += layer.thickness_m


def test_one_more_sheet_is_one_more_pane_and_its_price():
    two = OVEN.with_(cover=OVEN.cover.model_copy(update={"layers": 2}))
    three = OVEN.with_(cover=OVEN.cover.model_copy(update={"layers": 3}))
    assert named(three, "pane")[0].count == named(two, "pane")[0].count + 1
    assert total(pieces_of(three), "price") - total(pieces_of(two), "price") == pytest.approx(
        named(two, "pane")[0].price
    )


def test_a_gap_of_air_is_no_piece():
    gap = next(name for name, row in tables.layers().items() if row.is_gap)
    airy = OVEN.with_(wall=[*OVEN.wall, WallLayer(material=gap, thickness_m=0.02)])
    assert not [piece for piece in pieces_of(airy) if piece.stuff == gap]


def test_what_is_bought_by_the_metre_costs_by_the_metre():
    batten = tables.things()["batten"]
    assert thing("frame", "batten", 3, long_m=1.5).price == pytest.approx(1.5 * batten.price)
    coil = HEATER.coil
    assert coil is None or named(HEATER, "coil in the water")[0].price == pytest.approx(coil.pipe_m * coil.row.price_m)


def test_sums_are_right_to_the_cent():
    """Exact decimals of what each piece costs, added up."""
    pieces = pieces_of(FIG_DRYER)
    exact = sum((Decimal(piece.price) * piece.count for piece in pieces), Decimal(0))
    assert round(total(pieces, "price"), 2) == float(round(exact, 2))


def test_samples_carry_the_price_of_their_own_tin():
    dear = LIDS.samples[1].model_copy(update={"price_m2": 500.0})
    build = LIDS.with_(samples=[LIDS.samples[0], dear, *LIDS.samples[2:]])
    assert named(build, f"{dear.title}, painted")[0].price == pytest.approx(500.0 * build.sample_m2)


# --- cutting ---


def apart(boards: list[Board]) -> None:
    """Nothing overlaps, nothing leaves its board, the offcut is free."""
    for one in boards:
        for piece in one.laid:
            assert piece.x_m >= 0.0
            assert piece.x_m + piece.long_m <= one.long_m + 1e-6
            assert piece.y_m + piece.wide_m <= one.wide_m + 1e-6 or one.wide_m == 0.0
        for a, b in itertools.combinations(one.laid, 2):
            beside = a.x_m + a.long_m <= b.x_m + 1e-6 or b.x_m + b.long_m <= a.x_m + 1e-6
            over = a.y_m + a.wide_m <= b.y_m + 1e-6 or b.y_m + b.wide_m <= a.y_m + 1e-6
            assert beside or (over and one.wide_m > 0.0)


def fewest_bars(lengths: list[float], bar: float) -> int:
    """By trying everything."""
    best = len(lengths)

    def place(k: int, ends: tuple[float, ...]) -> None:
        nonlocal best
        if len(ends) >= best:
            return
        if k == len(lengths):
            best = len(ends)
            return
        for i, end in enumerate(ends):
            if end + SAW_M + lengths[k] <= bar + 1e-9:
                place(k + 1, (*ends[:i], end + SAW_M + lengths[k], *ends[i + 1 :]))
        place(k + 1, (*ends, lengths[k]))

    place(0, ())
    return best


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(0.2, 2.9).map(lambda x: round(x, 3)), min_size=1, max_size=7))
def test_bars_are_as_few_as_the_bound_of_first_fit_allows(lengths: list[float]):
    plan = cut_plan([thing("frame", "batten", long_m=long) for long in lengths])
    apart(plan.boards)
    assert sorted(round(x.long_m, 3) for b in plan.boards for x in b.laid) == sorted(lengths)
    fewest = fewest_bars(sorted(lengths, reverse=True), 3.0)
    assert fewest <= len(plan.boards) <= math.floor(11 / 9 * fewest + 1)


def fewest_sheets(sizes: list[tuple[float, float]], sheet: tuple[float, float]) -> float:
    """Sheets that guillotine cuts need, by trying every order, turn and first cut of shelves."""

    def fits(order: tuple[tuple[float, float], ...]) -> float:
        if any(long > sheet[0] or wide > sheet[1] for long, wide in order):
            return math.inf
        free, used = list[tuple[float, float]](), 0
        for long, wide in order:
            spot = next((k for k, (a, b) in enumerate(free) if long <= a + 1e-9 and wide <= b + 1e-9), None)
            if spot is None:
                used += 1
                free.append(sheet)
                spot = len(free) - 1
            a, b = free.pop(spot)
            free += [(a - long - SAW_M, wide), (a, b - wide - SAW_M)]
            free.sort(key=lambda size: size[0] * size[1])
        return used

    turned = [((a, b), (b, a)) for a, b in sizes]
    return min(fits(order) for turn in itertools.product(*turned) for order in itertools.permutations(turn))


@pytest.mark.parametrize(
    "sizes",
    [
        [(1.2, 0.6)] * 4,
        [(2.5, 0.4), (1.25, 0.6), (1.2, 0.8)],
        [(1.0, 1.0), (1.0, 1.0), (0.4, 1.2), (0.4, 0.4)],
        [(2.4, 1.2), (0.5, 0.5), (0.9, 0.3), (0.7, 0.7)],
    ],
)
def test_sheets_are_as_few_as_trying_everything_finds(sizes: list[tuple[float, float]]):
    plan = cut_plan([board(*size) for size in sizes])
    apart(plan.boards)
    assert len(plan.boards) <= fewest_sheets(sizes, (2.5, 1.25))
    assert sum(len(one.laid) for one in plan.boards) == len(sizes)


def test_what_is_larger_than_a_sheet_is_joined_and_said():
    plan = cut_plan([board(3.2, 1.5)])
    assert sum(one.long_m * one.wide_m for b in plan.boards for one in b.laid) == pytest.approx(3.2 * 1.5, rel=1e-3)
    assert "join it of 4 pieces" in plan.words[0]


def test_the_offcut_is_the_largest_that_is_left():
    plan = cut_plan([board(1.0, 1.25)])
    left = plan.boards[0].offcut
    assert (left.long_m, left.wide_m) == pytest.approx((1.5 - SAW_M, 1.25), abs=0.003)


@pytest.mark.parametrize("build", EVERY)
def test_every_build_is_cut_without_overlaps(build):
    plan = cut_plan(pieces_of(build))
    apart(plan.boards)
    laid = sum(one.long_m * max(one.wide_m, 1e-9) for b in plan.boards if b.wide_m for one in b.laid)
    flat = sum(piece.area_m2 for piece in pieces_of(build) if piece.family == "sheet")
    assert laid == pytest.approx(flat, rel=0.02)


def test_each_kind_has_a_bill():
    assert all(callable(kind.bill) for kind in KINDS.values())
