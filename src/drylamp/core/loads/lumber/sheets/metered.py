"""A meter board by board: what it showed, how it was set, and what that means for the wood."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from drylamp.core.builds.sheet import Around, Sheet, SheetBar, SheetBars, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Celsius, Day, Model, Name, Number, require
from drylamp.core.forms import asked
from drylamp.core.heat.cells import FIBRE_SATURATION
from drylamp.core.loads.common.wood import BASIS_MC, Basis, SetTo, pin_meter_mc, specific_gravity
from drylamp.core.loads.lumber.group import BoardGroup, in_words
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.sheets.followed import charge_of, group_of
from drylamp.core.tables import species
from drylamp.core.text import amount, capital, counted

Place = Literal["middle", "end", "edge"]
PLACES = {"middle": "in the middle", "end": "near an end", "edge": "at an edge"}
BASES = {"green": "on green volume", "12 %": "on the volume at 12 %", "oven-dry": "on oven-dry volume"}
WORTH_SAYING_MC = 0.004
"""A setting that moves a reading by less is not worth a word."""
ALIKE_GRAVITY = 0.015
LOWEST_MC = 0.05
"""Under this pins read too little current to tell; common practice, no source."""


class Metered(Model):
    """One reading."""

    board: Name = Field(title="Board")
    on: Day = Field(title="Read on")
    place: Place = Field(default="middle", title="Read", json_schema_extra=asked(options=PLACES))
    depth_mm: Annotated[Number, Field(ge=0, le=80)] | None = Field(
        default=None, title="Pins go in", description="Empty: a quarter of the thickness", json_schema_extra=asked(only_with={"sort": ["pin"]})
    )  # fmt: skip
    reading_mc: Annotated[Number, Field(ge=0, le=2)] = Field(title="Meter shows")
    sort: Literal["pin", "plate"] = Field(
        default="pin", title="Meter", json_schema_extra=asked(options={"pin": "with pins", "plate": "with a plate"})
    )
    set_to: SetTo | None = Field(
        default=None, title="Set to", description="Empty: to the wood itself", json_schema_extra=asked(table="species", only_with={"sort": ["pin"]})
    )  # fmt: skip
    wood_c: Annotated[Celsius, Field(ge=-20, le=90)] = Field(
        default=20.0, title="Wood is at", json_schema_extra=asked(only_with={"sort": ["pin"]})
    )
    gravity: Annotated[Number, Field(ge=0.2, le=1.2)] | None = Field(
        default=None, title="Gravity set", description="Empty: the right one", json_schema_extra=asked(only_with={"sort": ["plate"]})
    )  # fmt: skip
    expects: Basis = Field(
        default="12 %", title="Meter expects it", description="Its booklet says", json_schema_extra=asked(options=BASES, only_with={"sort": ["plate"]})
    )  # fmt: skip


@dataclass(frozen=True)
class Corrected:
    """What a reading means: moisture, whether it is a guess, and in words what was wrong with the setting."""

    mc: float
    unsure: bool
    wrong: str


def corrected(row: Metered, group: BoardGroup) -> Corrected:
    """A reading put right for the setting of its meter, and for the wood's warmth where it has pins."""
    mc, wrong = _by_pins(row, group) if row.sort == "pin" else _by_plate(row, group)
    return Corrected(mc, max(mc, row.reading_mc) > FIBRE_SATURATION or mc < LOWEST_MC, wrong)


def _by_pins(row: Metered, group: BoardGroup) -> tuple[float, str]:
    own = group.row
    set_to = own if row.set_to is None else species()[row.set_to]
    mc = pin_meter_mc(row.reading_mc, own, set_to, row.wood_c)
    as_set = pin_meter_mc(row.reading_mc, own, own, row.wood_c)
    if abs(mc - as_set) < WORTH_SAYING_MC:
        return mc, ""
    return mc, f"set to {in_words(set_to)}, not {in_words(own)}: {percent(row.reading_mc)} shown is {percent(mc)}"


def _by_plate(row: Metered, group: BoardGroup) -> tuple[float, str]:
    basic = group.row.basic_specific_gravity
    right = specific_gravity(basic, row.expects)
    mc = row.reading_mc * (right if row.gravity is None else row.gravity) / right
    if row.gravity is None or abs(mc - row.reading_mc) < WORTH_SAYING_MC:
        return mc, ""
    taken = next(
        (basis for basis in BASIS_MC if abs(specific_gravity(basic, basis) - row.gravity) <= ALIKE_GRAVITY * row.gravity and basis != row.expects), None
    )  # fmt: skip
    why = (
        f"{row.gravity:.2f} is its gravity {BASES[taken]}, this meter expects that {BASES[row.expects]}, {right:.2f}"
        if taken is not None
        else f"gravity set to {row.gravity:.2f}, the wood's is {right:.2f} {BASES[row.expects]}"
    )
    return mc, f"{why}: {percent(row.reading_mc)} shown is {percent(mc)}"


LastRead = dict[str, tuple[date, float]]
"""Boards with the day and the moisture of their last reading."""


def last_read(rows: Sequence[Metered], around: Around) -> LastRead:
    """Each board's moisture at its last reading, wettest first, readings of one day at one board by their mean."""
    days = {board: max(row.on for row in rows if row.board == board) for board in {row.board for row in rows}}
    means = {
        board: (
            day, float(np.mean([corrected(row, group_of(board, around)).mc for row in rows if row.board == board and row.on == day]))
        )
        for board, day in days.items()
    }  # fmt: skip
    return dict(sorted(means.items(), key=lambda item: (-item[1][1], item[0])))


def wettest(read: LastRead, around: Around) -> str:
    """The wettest-board rule by boards at their last reading: a group comes out when its wettest board is at the target (Dry Kiln Operator's Manual, ch. 6, in form)."""
    said = []
    for found in by_group(read, around).values():
        board, (day, mc) = next(iter(found.items()))
        group = group_of(board, around)
        if mc <= group.target_mc:
            said.append(
                f"{capital(group.title)}: the wettest, {board}, is at {percent(mc)} on {day:%d %b}, under the target of {percent(group.target_mc)}: it may come out."
            )
        else:
            over = [name for name, (_, at) in found.items() if at > group.target_mc]
            said.append(
                f"{capital(group.title)}: {board} is wettest at {percent(mc)} on {day:%d %b}; {len(over)} of {counted(len(found), 'board')} over {percent(group.target_mc)}: it stays in."
            )
    return " ".join(said)


def by_group(read: LastRead, around: Around) -> dict[int, LastRead]:
    """Boards by their group's number."""
    out: dict[int, LastRead] = {}
    for board, found in read.items():
        out.setdefault(group_of(board, around).number, {})[board] = found
    return out


LEAST_BOARDS, BARS = 4, 12


def _bars(read: LastRead, around: Around) -> SheetBars | None:
    """Boards by their moisture at the last reading."""
    if len(read) < LEAST_BOARDS:
        return None
    values = np.array([mc for _, mc in read.values()])
    wide = 0.005 if np.ptp(values) <= 0.005 * BARS else 0.01 if np.ptp(values) <= 0.01 * BARS else 0.05
    low = np.floor(values.min() / wide) * wide
    counts = np.bincount(np.floor((values - low) / wide + 1e-9).astype(int))
    target = max(group.target_mc for group in charge_of(around).groups)
    bars = [
        SheetBar(
            title=f"{100 * (low + k * wide):g}", share=float(count / counts.max()), says=counted(int(count), "board"), picked=bool(low + k * wide >= target - 1e-9)
        )
        for k, count in enumerate(counts)
    ]  # fmt: skip
    return SheetBars(
        title=f"Boards by moisture at their last reading, % and up by {100 * wide:g}; dark: over {percent(target)}",
        bars=bars,
    )


def _page(rows: Sequence[Metered], around: Around) -> SheetPage:
    lines, wrong = [], list[str]()
    for row in rows:
        found = corrected(row, group_of(row.board, around))
        unsure = "a guess: above fibre saturation or under what a meter can tell" if found.unsure else ""
        depth = "" if row.depth_mm is None or row.sort == "plate" else f", {amount(row.depth_mm, 'length_mm')} deep"
        lines.append(
            SheetLine(
                cells=[row.board, f"{row.on:%d %b}", PLACES[row.place] + depth, percent(row.reading_mc), percent(found.mc)],
                warning="; ".join(said for said in (found.wrong, unsure) if said),
            )
        )  # fmt: skip
        wrong += [found.wrong.split(":")[0]] if found.wrong else []
    read = last_read(rows, around)
    words = [wettest(read, around)] if rows else []
    words += [
        f"{capital(said)}: {counted(wrong.count(said), 'reading')} put right; put the meter right too."
        for said in dict.fromkeys(wrong)
    ]
    return SheetPage(columns=["board", "read", "where", "shown", "means"], lines=lines, words=words, bars=_bars(read, around))  # fmt: skip


def _check(row: Metered, rows: Sequence[Metered], around: Around) -> None:
    group = group_of(row.board, around)
    require(
        row.depth_mm is None or row.depth_mm <= group.thickness_mm / 2.0, "depth_mm",
        f"{amount(row.depth_mm, 'length_mm')} was given; the middle of this board is {amount(group.thickness_mm / 2.0, 'length_mm')} under its face",
    )  # fmt: skip


METERED: Sheet[Metered] = Sheet(
    "metered", "Meter, board by board", "trial", "The same boards, places and depth each time, with the setting of the meter; a wrong setting is put right here.", Metered, _page,
    lambda rows, around: begin_with(Metered, around.today, rows[-1] if rows else None, "place", "depth_mm", "sort", "set_to", "wood_c", "gravity", "expects"), _check,
)  # fmt: skip
