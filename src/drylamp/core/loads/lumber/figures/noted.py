"""Figures from what was written down of single boards: the wettest, sample boards against the meter, what end paint was worth."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from drylamp.core.builds.sheet import Around
from drylamp.core.heat.cells import FIBRE_SATURATION
from drylamp.core.loads.common.wood import BASIS_MC, pin_meter_mc, specific_gravity
from drylamp.core.loads.lumber.group import BoardGroup, in_words
from drylamp.core.loads.lumber.sheets.followed import group_of
from drylamp.core.loads.lumber.sheets.inspected import INSPECTED, paint_worth, share_kept
from drylamp.core.loads.lumber.sheets.metered import (
    BASES,
    METERED,
    Metered,
    around_groups,
    by_group,
    corrected,
    last_read,
    wettest,
)
from drylamp.core.loads.lumber.sheets.weighed import SECTIONS, WEIGHINGS, boards_mc
from drylamp.core.tables import species
from drylamp.core.text import amount, counted
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.noted import around_trial

SAME_DAYS = timedelta(days=2)
"""A board that was weighed and read within so many days is taken to have been at one moisture."""
METER_SD, BOARD_SD = 0.06, 0.015
"""What meter and sample board differ by on one board, as a share of its moisture: grain, place, scale; from memory."""
LEAST_PAIRS, WRONG_SHARE = 2, 0.08


def wettest_board(found: Found) -> Figure | None:
    """The wettest board of all against its target."""
    around = around_trial(found.at)
    rows = around.rows(METERED)
    if not rows:
        return None
    over = [(mc - group_of(board, around).target_mc, board, mc) for board, (_, mc) in last_read(rows, around).items()]
    most, board, mc = max(over)
    groups = by_group(last_read(rows, around), around)
    ready = [g.number for g in around_groups(around) if g.number in groups and all(at <= g.target_mc for _, at in groups[g.number].values())]  # fmt: skip
    return Figure(
        name="wettest-board", title=f"Wettest board, {board}", value=round(100.0 * mc, 1), doubt=round(100.0 * METER_SD * 2.0 * mc, 1), quantity="plain", unit="%", twin=None, digits=1,
        grade="" if most > 0.0 else "all under their target", passed=most <= 0.0, words=wettest(rows, around), brief=f"{counted(len(ready), 'group')} may come out" if ready else "stays in", needs_words=True,
    )  # fmt: skip


# --- the meter against sample boards ---


@dataclass(frozen=True)
class Pair:
    """One board by the oven and by the meter."""

    board: str
    oven_mc: float
    row: Metered
    group: BoardGroup


def pairs(around: Around) -> list[Pair]:
    """Sample boards that were weighed and read within two days of each other, under fibre saturation."""
    found = list[Pair]()
    weighed = boards_mc(around.rows(SECTIONS), around.rows(WEIGHINGS))
    for row in around.rows(METERED):
        near = [(abs(on - row.on), mc) for on, mc in weighed.get(row.board, []) if abs(on - row.on) <= SAME_DAYS]
        if near and min(near)[1] <= FIBRE_SATURATION:
            found.append(Pair(row.board, min(near)[1], row, group_of(row.board, around)))
    return found


@dataclass(frozen=True)
class Setting:
    """A way in which the meter may have been set, and by what factor it would then read, by pair."""

    words: str
    cure: str
    shown: list[float]


def settings(found: Sequence[Pair]) -> Iterator[Setting]:
    """What the meter would show on those boards under settings that a hand may have left it at."""
    first = found[0]
    if first.row.sort == "plate":
        for basis in BASIS_MC:
            if basis == first.row.expects:
                continue
            shown = [pair.oven_mc * _right(pair) / specific_gravity(_basic(pair), basis) for pair in found]
            yield Setting(
                f"the meter's gravity stands for the wood {BASES[basis]}, it expects that {BASES[first.row.expects]}",
                f"set it to {_right(first):.2f}, the gravity {BASES[first.row.expects]}", shown,
            )  # fmt: skip
    for name, row in species().items():
        if name == first.group.species:
            continue
        if first.row.sort == "plate":
            shown = [pair.oven_mc * _right(pair) / specific_gravity(row.basic_specific_gravity, pair.row.expects) for pair in found]  # fmt: skip
        else:
            shown = [
                pair.oven_mc
                + pair.row.reading_mc
                - pin_meter_mc(pair.row.reading_mc, pair.group.row, row, pair.row.wood_c)
                for pair in found
            ]
        yield Setting(f"the meter is set as for {in_words(row)}, not {in_words(first.group.row)}", f"set it to {in_words(first.group.row)}", shown)  # fmt: skip


def _basic(pair: Pair) -> float:
    return pair.group.row.basic_specific_gravity


def _right(pair: Pair) -> float:
    return specific_gravity(_basic(pair), pair.row.expects)


def meter_setting(found: Found) -> Figure | None:
    """Whether the meter agrees with the oven, and which setting would explain it where it does not."""
    around = around_trial(found.at)
    told = pairs(around)
    typed = [said for row in around.rows(METERED) if (said := corrected(row, group_of(row.board, around)).wrong)]
    if len(told) < LEAST_PAIRS:
        return _typed(typed) if typed else None
    means = np.array([corrected(pair.row, pair.group).mc for pair in told])
    oven = np.array([pair.oven_mc for pair in told])
    off = float(np.mean(means / oven - 1.0))
    doubt = 2.0 * float(np.hypot(METER_SD / np.sqrt(len(told)), BOARD_SD))
    words = f"Over {counted(len(told), 'pair')} the meter reads {100.0 * off:+.0f} % ± {100.0 * doubt:.0f} % of what the oven says"
    plain = Figure(
        name="meter-setting", title="Meter over oven", value=round(100.0 * off, 0), doubt=round(100.0 * doubt, 0), quantity="plain", unit="%", twin=None, grade="agrees" if abs(off) <= doubt else "", digits=0,
        passed=abs(off) <= max(doubt, WRONG_SHARE), words=f"{words}.", needs_words=True,
    )  # fmt: skip
    if abs(off) <= max(doubt, WRONG_SHARE):
        return _typed(typed) if typed else plain
    shown = np.array([pair.row.reading_mc for pair in told])
    best = min(settings(told), key=lambda one: float(np.sum(((np.array(one.shown) - shown) / shown) ** 2)))
    left = float(np.mean(np.array(best.shown) / shown - 1.0))
    if abs(left) > doubt:
        return plain.model_copy(update={"words": f"{words}: no setting explains that; try it on a board of known moisture, and its battery."})  # fmt: skip
    return plain.model_copy(update={"words": f"{words}: as if {best.words}.", "fault": best.words, "cure": best.cure, "brief": "meter set wrong"})  # fmt: skip


def _typed(said: list[str]) -> Figure:
    """A setting that was written down and is not the wood's: put right, so nothing is broken."""
    return Figure(
        name="meter-setting", title="Meter set", value=None, doubt=None, quantity="plain", twin=None, grade="put right", digits=0, passed=False, needs_words=True,
        words=f"The meter is set wrong: {said[-1]}; {counted(len(said), 'reading')} put right.", brief="meter set wrong",
    )  # fmt: skip


# --- end paint ---


def end_paint(found: Found) -> Figure | None:
    """What painted ends were worth, where half the boards have them."""
    around = around_trial(found.at)
    rows = around.rows(INSPECTED)
    worth = paint_worth(rows, around)
    if worth is None:
        return None
    side = f"{amount(worth.with_it, 'length_mm')} on {counted(worth.boards[0], 'painted board')}, {amount(worth.without, 'length_mm')} on {counted(worth.boards[1], 'bare one')}"
    told = f"; {share_kept(worth, around)}" if worth.real else ": too small to tell by so few boards"
    return Figure(
        name="end-paint", title="Paint saves off each end", value=round(worth.difference, 1), doubt=round(worth.doubt, 1), quantity="length_mm", twin=None, digits=0,
        grade="real" if worth.real else "too small to tell", words=f"Longest end checks: {side}{told}.", needs_words=True,
    )  # fmt: skip


def told_days(around: Around) -> dict[str, list[tuple[date, float]]]:
    """Sample boards by their days."""
    return boards_mc(around.rows(SECTIONS), around.rows(WEIGHINGS))
