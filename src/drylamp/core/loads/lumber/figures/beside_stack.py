"""The kiln against a stack outside that is of its own age and thickness: what that explains of the difference, and what remains."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date
from itertools import permutations
from typing import cast

import numpy as np

from drylamp.core.loads.lumber.figures.dry_by import METER_SHARE, Read, read_of
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.outside import usually_outside
from drylamp.core.loads.lumber.sheets.followed import group_of
from drylamp.core.loads.lumber.sheets.metered import METERED, last_read
from drylamp.core.loads.lumber.sheets.stack import STACK_READ, StackRead
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.sky.clock import local_day
from drylamp.core.text import amount, capital, counted
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.noted import around_trial

TWIN_SHARE = 0.15
"""Of what age and thickness explain, the twin may be off by so much; from memory."""


def kiln_against_stack(found: Found) -> Figure | None:
    """What remains of the difference between kiln and stack when both are of one age and thickness."""
    around = around_trial(found.at)
    rows = around.rows(STACK_READ)
    if not rows:
        return None
    row = max(rows, key=lambda one: one.on)
    load = cast(LumberCharge, found.at.facts.load)
    group = load.of_number(row.group)
    here = None if group is None else _kiln_mc(found, group)
    if group is None or here is None:
        return None
    went_in = group.in_on or local_day(found.at.site.zone, found.at.facts.started.timestamp())
    as_it_is = _outside_mc(found, load, group, row, Stood(row.sawn_on, row.thickness_mm, False))
    moved = _shares(found, load, group, row, went_in)
    difference, unequal = row.mc - here, sum(moved.values())
    remains = difference - unequal
    doubt = float(np.hypot(2.0 * METER_SHARE * np.hypot(row.mc, here), 2.0 * TWIN_SHARE * abs(unequal)))
    return Figure(
        name="kiln-against-stack", title="Kiln ahead of an equal stack", value=round(100.0 * remains, 1), doubt=round(100.0 * doubt, 1), quantity="plain", unit="% of moisture", twin=None, digits=1,
        grade="real" if abs(remains) > doubt else "too small to tell", words=_words(group, row, went_in, here, moved, remains, doubt, as_it_is), needs_words=True,
    )  # fmt: skip


def _kiln_mc(found: Found, group: BoardGroup) -> float | None:
    """The group in the kiln: the mean of its boards by the meter, else of its channel."""
    around = around_trial(found.at)
    boards = [mc for board, (_, mc) in last_read(around.rows(METERED), around).items() if group_of(board, around).number == group.number]  # fmt: skip
    if boards:
        return float(np.mean(boards))
    reads: list[Read] = [read for read in read_of(cast(LumberCharge, found.at.facts.load), found.at) if read.group == group]  # fmt: skip
    return float(reads[0].values[-1]) if reads else None


@dataclass(frozen=True)
class Stood:
    """A stack that stood outside: since when, how thick; as the kiln's boards went in, or as it was sawn."""

    since: date
    thickness_mm: float
    as_kiln: bool


def _shares(found: Found, load: LumberCharge, group: BoardGroup, row: StackRead, went_in: date) -> dict[str, float]:
    """What unequal age and thickness each explain of the stack's moisture: the mean over both orders of making them equal."""
    made_equal: dict[str, dict[str, object]] = {
        "age": {"since": went_in, "as_kiln": True}, "thickness": {"thickness_mm": group.thickness_mm}
    }  # fmt: skip
    out = dict.fromkeys(made_equal, 0.0)
    for order in permutations(made_equal):
        held = Stood(row.sawn_on, row.thickness_mm, False)
        before = _outside_mc(found, load, group, row, held)
        for name in order:
            held = replace(held, **made_equal[name])  # type: ignore[arg-type]
            after = _outside_mc(found, load, group, row, held)
            out[name] += (before - after) / len(made_equal)
            before = after
    return out


def _outside_mc(found: Found, load: LumberCharge, group: BoardGroup, row: StackRead, held: Stood) -> float:
    """A stack outside by the twin, until the reading, in usual weather of this site."""
    its = group if held.as_kiln else group.sawn(row.start)
    boards = its.model_copy(update={"thickness_mm": held.thickness_mm, "outside_as_left": None})
    stood = load.model_copy(update={"groups": [boards], "outside": load.outside.model_copy(update={"shelter": row.stands})})  # fmt: skip
    return usually_outside(found.at.site, stood, held.since, row.on)


def _words(
    group: BoardGroup, row: StackRead, went_in: date, here: float, moved: dict[str, float], remains: float, doubt: float, as_it_is: float
) -> str:  # fmt: skip
    unequal = []
    days = (went_in - row.sawn_on).days
    if days:
        unequal.append(f"the stack's boards were sawn {counted(abs(days), 'day')} {'before' if days > 0 else 'after'} the kiln's went in ({percent_signed(moved['age'])})")  # fmt: skip
    if abs(row.thickness_mm - group.thickness_mm) > 0.5:
        unequal.append(f"they are {amount(row.thickness_mm, 'length_mm')} thick, not {amount(group.thickness_mm, 'length_mm')} ({percent_signed(moved['thickness'])})")  # fmt: skip
    first = f"{capital(group.title)}: {percent(here)} in the kiln, {percent(row.mc)} in the stack, {percent_signed(row.mc - here)}"
    fair = f"Not a fair pair: {' and '.join(unequal)}." if unequal else "Of one age and thickness."
    told = (
        f"What remains is the kiln: {percent_signed(remains)} ± {100 * doubt:.1f} points of moisture"
        if abs(remains) > doubt
        else f"What remains, {percent_signed(remains)} ± {100 * doubt:.1f} points of moisture, is too small to tell"
    )
    odd = f" The twin would have the stack at {percent(as_it_is)}; look at its roof and its place." if abs(as_it_is - row.mc) > 0.25 * row.mc else ""  # fmt: skip
    return f"{first}. {fair} {told}.{odd}"


def percent_signed(moisture: float) -> str:
    """Points of moisture with their sign."""
    return f"{100.0 * moisture:+.1f} %"
