"""Figures from what was written down of single boards: the wettest, sample boards against the meter, what end paint was worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

import numpy as np

from drylamp.core.arrays import Array
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
LEAST_PAIRS, WRONG_SHARE, ALIKE = 2, 0.08, 0.03


def wettest_board(found: Found) -> Figure | None:
    """The wettest board of all against its target."""
    around = around_trial(found.at)
    rows = around.rows(METERED)
    if not rows:
        return None
    read = last_read(rows, around)
    over = {board: mc - group_of(board, around).target_mc for board, (_, mc) in read.items()}
    most, board = max((by, board) for board, by in over.items())
    mc = read[board][1]
    ready = [boards for boards in by_group(read, around).values() if all(over[board] <= 0.0 for board in boards)]
    return Figure(
        name="wettest-board", title=f"Wettest board, {board}", value=round(100.0 * mc, 1), doubt=round(100.0 * METER_SD * 2.0 * mc, 1), quantity="plain", unit="%", twin=None, digits=1,
        grade="" if most > 0.0 else "all under their target", passed=most <= 0.0, words=wettest(read, around), brief=f"{counted(len(ready), 'group')} may come out" if ready else "stays in", needs_words=True,
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
    """What would explain how a meter reads: in words, and what to do about it."""

    words: str
    cure: str


def explained(found: Sequence[Pair], off: float, doubt: float) -> Setting | None:
    """The setting that a meter's readings speak of: of a plate its gravity, of pins their wood; none where nothing explains them."""
    return _gravity(found[0], off, doubt) if found[0].row.sort == "plate" else _wood(found, doubt)


def _gravity(pair: Pair, off: float, doubt: float) -> Setting | None:
    """A plate reads by its gravity alone, so how far it is off says at which it stands."""
    group, expects = pair.group, pair.row.expects
    right = specific_gravity(group.row.basic_specific_gravity, expects)
    stands = right / (1.0 + off)
    cure = f"set it to {right:.2f}, the gravity of {in_words(group.row)} {BASES[expects]}"
    for basis in BASIS_MC:
        if basis != expects and abs(specific_gravity(group.row.basic_specific_gravity, basis) / stands - 1.0) <= min(doubt, ALIKE):  # fmt: skip
            return Setting(
                f"the meter's gravity is that of the wood {BASES[basis]}; it expects that {BASES[expects]}", cure
            )
    near = sorted(species().values(), key=lambda row: abs(specific_gravity(row.basic_specific_gravity, expects) - stands))  # fmt: skip
    if abs(specific_gravity(near[0].basic_specific_gravity, expects) / stands - 1.0) > doubt:
        return None
    return Setting(
        f"the meter's gravity stands at about {stands:.2f}, as for {in_words(near[0])} or {in_words(near[1])}; {in_words(group.row)} wants {right:.2f}", cure
    )  # fmt: skip


def _wood(found: Sequence[Pair], doubt: float) -> Setting | None:
    """Pins go by the wood that they are set to: the one that would have shown these readings."""
    shown = np.array([pair.row.reading_mc for pair in found])
    own = found[0].group

    def would_mean(name: str) -> Array:
        return np.array(
            [pin_meter_mc(float(value), pair.group.row, species()[name], pair.row.wood_c) for value, pair in zip(shown, found, strict=True)]
        )  # fmt: skip

    oven = np.array([pair.oven_mc for pair in found])
    best = min((name for name in species() if name != own.species), key=lambda name: float(np.sum((would_mean(name) / oven - 1.0) ** 2)))  # fmt: skip
    if abs(float(np.mean(would_mean(best) / oven - 1.0))) > doubt:
        return None
    return Setting(f"the meter is set as for {in_words(species()[best])}, not {in_words(own.row)}", f"set it to {in_words(own.row)}")  # fmt: skip


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
    best = explained(told, off, doubt)
    if best is None:
        return plain.model_copy(update={"words": f"{words}: no setting explains that; try it on a board of known moisture, and its battery."})  # fmt: skip
    return plain.model_copy(update={"words": f"{words}: {best.words}.", "fault": best.words, "cure": best.cure, "brief": "meter set wrong"})  # fmt: skip


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
    side = f"{amount(round(worth.with_it), 'length_mm')} on {counted(worth.boards[0], 'painted board')}, {amount(round(worth.without), 'length_mm')} on {counted(worth.boards[1], 'bare one')}"
    told = f"; {share_kept(worth, around)}" if worth.real else ": too small to tell by so few boards"
    return Figure(
        name="end-paint", title="Paint saves off each end", value=round(worth.difference, 1), doubt=round(worth.doubt, 1), quantity="length_mm", twin=None, digits=0,
        grade="real" if worth.real else "too small to tell", words=f"Longest end checks: {side}{told}.", needs_words=True,
    )  # fmt: skip
