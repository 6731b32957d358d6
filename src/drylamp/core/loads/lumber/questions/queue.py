"""Stacks that wait for a kiln: what goes in when, what stays outside, what to saw next, and what the months can do.

Days in the kiln are run for a few starts over the year and read between them; of all orders the one with the fewest days late, then the earliest last day, then the fewest days of kiln is taken; that one is run again stack by stack,
in usual weather and in made-up seasons with boards that differ as trees do.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import permutations

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import Queue, QueueLine, Regained, StartMonth
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sheet import Around
from drylamp.core.checks import InputProblem, require
from drylamp.core.heat.cells import SHARES
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.outside import left_outside
from drylamp.core.loads.lumber.quality import saw_for
from drylamp.core.loads.lumber.questions.ahead import driest_fortnight
from drylamp.core.loads.lumber.questions.dried import (
    HORIZONS,
    LONGEST_DAYS,
    MEMBERS,
    NEVER_DAYS,
    SEED,
    USUAL_SEED,
    as_doubtful,
    days_to_dry,
    dry_in,
    first_day,
    or_longest,
    usual_weather,
)
from drylamp.core.loads.lumber.questions.sizes import BETWEEN_DAYS, PLANED_MM, UNEVEN_MM
from drylamp.core.loads.lumber.sheets.waiting import STICKS_SHARE, USES, WAITING, Waiting, stands_at
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.loads.lumber.store import regained
from drylamp.core.long import Long, Step
from drylamp.core.sky.of_span import YEAR, spells
from drylamp.core.text import amount, capital, counted
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.prepared import simulate

YEAR_DAYS, EVERY_DAYS = 365, 60
MOST_STACKS, MOST_PARTS = 6, 12
READY_MC = 0.25
"""What an air-dried stack should be at before it goes in: the surest part of drying is over; common practice, no source."""
WINTER, SUMMER = (11, 12, 1), (5, 6, 7)
DOUBT_MEMBERS = 4


@dataclass(frozen=True)
class Planner:
    """A kiln and the stacks that wait for it."""

    context: AdviceContext
    stacks: Sequence[Waiting]
    today: date
    load: LumberCharge
    table: dict[tuple[str, int], float] = field(default_factory=dict)
    counts: dict[str, int] = field(default_factory=dict)

    def charge(self, stack: Waiting, share: float, cells: Sequence[float] | None) -> LumberCharge:
        """A stack, or a share of it, as a charge stacked as the kiln's own is."""
        own = stack.charge.groups[0]
        boards = own.model_copy(update={"wood_m3": own.wood_m3 * share, "as_left": None if cells is None else list(cells), "number": 1})  # fmt: skip
        return self.load.model_copy(update={"groups": [boards], "already_in": False})

    def fits(self, charge: LumberCharge) -> bool:
        """Whether it goes into the chamber."""
        try:
            kind_of(self.context.build).check_fit(self.context.build, charge)
        except InputProblem:
            return False
        return True

    def parts(self, stack: Waiting) -> int:
        """Charges that a stack makes; asked of each order that is tried, and worked out once."""
        key = stack.model_dump_json()
        if key not in self.counts:
            self.counts[key] = self._fewest(stack)
        return self.counts[key]

    def _fewest(self, stack: Waiting) -> int:
        for count in range(1, MOST_PARTS + 1):
            if self.fits(self.charge(stack, 1.0 / count, None)):
                return count
        raise InputProblem(
            "stacks",
            f"{stack.title} does not go into this kiln even in {MOST_PARTS} parts: its boards are {amount(stack.length_m, 'length')} long; cut them, or choose a longer kiln",
        )

    def days(self, stack: Waiting, start: date, member: int | None = None) -> float | None:
        """In the kiln from a day on, after standing outside until then; none where it is not dry within eleven months."""
        cells = stands_at(self.context.case.site, stack, max(start, stack.since))
        if float(SHARES @ cells) <= stack.goal_mc:
            return 0.0
        case = self.context.case.with_(load=self.charge(stack, 1.0 / self.parts(stack), cells.tolist()))
        if member is None:
            return days_to_dry(case, start)
        return days_to_dry(as_doubtful(case, member % MEMBERS), start, SEED + member)

    def read(self, stack: Waiting, start: date) -> float:
        """Days for a start between those that were run."""
        at = max((start - self.today).days / EVERY_DAYS, 0.0)
        last = max(key for name, key in self.table if name == stack.name)
        below = min(int(at), last - 1)
        one, other = self.table[stack.name, below], self.table[stack.name, below + 1]
        return one + (other - one) * min(at - below, 1.0)


@dataclass(frozen=True)
class Went:
    """A part of a stack in an order: when it goes in and is dry, days since today."""

    stack: Waiting
    begins: float
    ends: float


def queue(context: AdviceContext, load: LumberCharge, around: Around) -> Long[Queue]:
    """Propose what goes in when, first by what is known at once, then by the twin."""
    stacks, today = around.rows(WAITING), around.today
    require(bool(stacks), "stacks", "no stack waits; write down the stacks of this site first")
    require(len(stacks) <= MOST_STACKS, "stacks", f"{len(stacks)} stacks wait; up to {MOST_STACKS} are planned at once, take back those that are years away")  # fmt: skip
    planner = Planner(context, stacks, today, load)
    outside = {stack.name: _dry_outside(context, stack, today) for stack in stacks}
    lines = [_bare(planner, stack, outside[stack.name]) for stack in stacks]
    store, words = _stored(context), "The days in the kiln are being worked out."
    empty = Queue(
        lines=lines, months=[], regained=store, kiln_free=today, space_m3=sum(s.wood_m3 for s in stacks) * STICKS_SHARE, words=words, next_sawn="", winter="", air_first="", store=_store_words(store),
        sizes=_sizes(stacks),
    )  # fmt: skip
    yield Step(0.02, empty)
    free, unseen = _kiln_free(context, load, today)
    empty = empty.model_copy(update={"kiln_free": free})
    yield Step(0.08, empty)
    going = [stack for stack in stacks if not _stays_outside(stack, outside[stack.name])]
    for done in _fill(planner, going):
        yield Step(0.08 + 0.52 * done, empty)
    order = _best(planner, going, (free - today).days)
    for chains in _run_through(planner, order, (free - today).days):
        yield Step(0.6 + 0.25 * len(chains) / (1 + DOUBT_MEMBERS), empty)
    lines = with_lowest(
        planner, [_line(planner, k, stack, chains, outside[stack.name]) for k, stack in enumerate(order)]
    )
    lines += [_bare(planner, stack, outside[stack.name]) for stack in stacks if stack not in going]
    months = _months(planner, max(going or stacks, key=lambda stack: stack.wood_m3))
    yield Step(
        1.0,
        empty.model_copy(
            update={
                "lines": lines, "months": months, "words": _words(lines, free) + unseen, "next_sawn": _next_sawn(planner, lines, free), "winter": _winter(months), "air_first": _air_first(lines),
            }
        ),
    )  # fmt: skip


def _kiln_free(context: AdviceContext, load: LumberCharge, today: date) -> tuple[date, str]:
    """When what is in it now is dry, and it is emptied and filled; and a sentence where that is not seen."""
    if not load.already_in:
        return today, ""
    for horizon in HORIZONS:
        found = dry_in(*usual_weather(context.case, first_day(context), horizon, SEED)).days
        if found is not None:
            return today + timedelta(days=math.ceil(found + BETWEEN_DAYS)), ""
    out = today + timedelta(days=HORIZONS[-1])
    return (
        out,
        f" What is in the kiln now is not dry within {counted(HORIZONS[-1], 'day')}; the plan takes it out on {out:%d %B %Y} as it is.",
    )


def _dry_outside(context: AdviceContext, stack: Waiting, today: date) -> date | None:
    """When it is at its target outside, within a year; looked at every four weeks."""
    site, cells, on = context.case.site, stands_at(context.case.site, stack, max(today, stack.since)), today
    while on < today + timedelta(days=YEAR_DAYS):
        if float(SHARES @ cells) <= stack.goal_mc:
            return on
        boards = stack.charge.groups[0].model_copy(update={"as_left": cells.tolist()})
        then = on + timedelta(days=28)
        cells = left_outside(site, stack.charge.model_copy(update={"groups": [boards]}), on, then)
        on = then
    return None


def _stays_outside(stack: Waiting, dry: date | None) -> bool:
    """Whether it needs no kiln: outside it is there in time, or within the year where no day was said."""
    return dry is not None and (stack.wanted_by is None or dry <= stack.wanted_by)


def _fill(planner: Planner, going: Sequence[Waiting]) -> Iterator[float]:
    """Run each stack for starts over the year."""
    starts = range(YEAR_DAYS // EVERY_DAYS + 2)
    for k, stack in enumerate(going):
        found = two_at_a_time(lambda at, s=stack: planner.days(s, planner.today + timedelta(days=EVERY_DAYS * at)), starts)  # type: ignore[misc]  # fmt: skip
        for at, days in zip(starts, found, strict=True):
            planner.table[stack.name, at] = or_longest(days)
        yield (k + 1) / len(going)


def _went(
    planner: Planner, order: Sequence[Waiting], free: float, days: Callable[[Waiting, date], float]
) -> list[Went]:
    """One after the other, each part from when the kiln is free."""
    out, at = list[Went](), free
    for stack in order:
        for _ in range(planner.parts(stack)):
            took = days(stack, planner.today + timedelta(days=round(at)))
            out.append(Went(stack, at, at + took))
            at += took + BETWEEN_DAYS
    return out


def _best(planner: Planner, going: Sequence[Waiting], free: float) -> list[Waiting]:
    """The order with the fewest days late, then the earliest end."""

    def cost(order: Sequence[Waiting]) -> tuple[float, float, float]:
        went = _went(planner, order, free, planner.read)
        late = sum(
            max(one.ends - (one.stack.wanted_by - planner.today).days, 0.0)
            for one in went
            if one.stack.wanted_by is not None
        )
        return round(late), round(went[-1].ends) if went else 0.0, sum(one.ends - one.begins for one in went)

    orders = [list(order) for order in permutations(going)]
    return min(orders, key=cost)


def _run_through(planner: Planner, order: Sequence[Waiting], free: float) -> Iterator[list[list[Went]]]:
    """An order run through in usual weather, then in made-up seasons; each time all that was run so far."""

    def run(member: int | None) -> list[Went]:
        return _went(planner, order, free, lambda stack, start: or_longest(planner.days(stack, start, member)))

    chains = [run(None)]
    yield chains
    for pair in range(0, DOUBT_MEMBERS, 2):
        chains += two_at_a_time(run, range(pair, pair + 2))
        yield chains


def _bare(planner: Planner, stack: Waiting, dry: date | None) -> QueueLine:
    """A stack as it stands."""
    now = float(SHARES @ stands_at(planner.context.case.site, stack, planner.today))
    stays = _stays_outside(stack, dry)
    told = f"Stays outside: there it is at {percent(stack.goal_mc)} about {dry:%d %B %Y}." if stays and dry is not None else f"Outside it does not come to {percent(stack.goal_mc)} within a year: it needs the kiln, or a heated room."  # fmt: skip
    return QueueLine(
        stack=stack.name, title=stack.title, part="", place=None, wood_m3=stack.wood_m3, sawn_on=stack.sawn_on, wanted_by=stack.wanted_by, target_mc=stack.goal_mc, now_mc=round(now, 4), in_mc=None, goes_in=None,
        dry_on=dry if stays else None, early=None, late=None, outside_days=None, kiln_days=None, green_days=None, late_days=None, dry_outside=dry, words=told,
    )  # fmt: skip


def _line(
    planner: Planner, k: int, stack: Waiting, chains: Sequence[Sequence[Went]], outside: date | None
) -> QueueLine:
    """A stack with its place: of one that goes in parts from the first until the last; the first of the chains is in usual weather."""

    def ends(went: Sequence[Went]) -> tuple[float, float]:
        own = [one for one in went if one.stack is stack]
        return own[0].begins, own[-1].ends

    def day(days: float) -> date:
        return planner.today + timedelta(days=round(days))

    begins, dry = ends(chains[0])
    all_ends = [ends(one)[1] for one in chains]
    parts = planner.parts(stack)
    goes_in, never = day(begins), dry - begins >= NEVER_DAYS
    late = None if stack.wanted_by is None else (day(dry) - stack.wanted_by).days
    green = planner.days(stack.model_copy(update={"sawn_on": goes_in, "measured_mc": None, "measured_on": None}), goes_in)  # fmt: skip
    in_mc = float(SHARES @ stands_at(planner.context.case.site, stack, goes_in))
    line = _bare(planner, stack, outside)
    return line.model_copy(
        update={
            "place": k + 1, "part": "" if parts == 1 else f"{parts} charges", "in_mc": round(in_mc, 4), "goes_in": goes_in, "dry_on": None if never else day(dry),
            "early": None if never else day(min(all_ends)), "late": None if never else day(max(all_ends)), "outside_days": (goes_in - planner.today).days, "kiln_days": None if never else round(dry - begins, 1),
            "green_days": None if green is None else round(green, 1), "late_days": None if never else late, "words": _line_words(stack, goes_in, in_mc, day(dry), (day(min(all_ends)), day(max(all_ends))), late, never, planner.today),
        }
    )  # fmt: skip


def with_lowest(planner: Planner, lines: list[QueueLine]) -> list[QueueLine]:
    """Of those that never get there: the lowest that this kiln's air brings wood to, and when."""
    if all(line.dry_on is not None for line in lines):
        return lines
    context = planner.context
    span, weather = next(spells(context.case.site, date(YEAR, 1, 1), date(YEAR + 1, 1, 1), USUAL_SEED))
    run = simulate(context.case.with_(load=None, span=span), weather)
    lowest, when = driest_fortnight(run, context)
    told = f" The driest fortnight of its air, about {when:%d %B}, brings wood to {percent(lowest)}: nothing lower can be had here without heat."
    return [
        line if line.dry_on is not None or line.target_mc >= lowest else line.model_copy(update={"words": line.words + told})
        for line in lines
    ]  # fmt: skip


def _line_words(
    stack: Waiting, goes_in: date, in_mc: float, dry: date, around: tuple[date, date], late: int | None, never: bool, today: date
) -> str:  # fmt: skip
    waits = (goes_in - today).days
    first = f"Stands outside {counted(waits, 'more day')}, goes in on {goes_in:%d %B %Y} at {percent(in_mc)}" if waits > 0 else f"Goes in now, at {percent(in_mc)}"  # fmt: skip
    if never:
        return f"{first}, and is not at {percent(stack.goal_mc)} within {LONGEST_DAYS} days of kiln: take a higher target, or finish it in a heated room."  # fmt: skip
    told = f"{first}; {percent(stack.goal_mc)} about {dry:%d %B %Y} ({around[0]:%d %B} to {around[1]:%d %B})"
    if late is None or stack.wanted_by is None:
        return f"{told}."
    if late <= 0:
        sure = ", in every season tried" if around[1] <= stack.wanted_by else ", if the season is no worse than usual"
        return f"{told}: {counted(-late, 'day')} before it is wanted{sure}."
    return f"{told}: {counted(late, 'day')} too late for {stack.wanted_by:%d %B %Y}. A heater, a smaller charge or a heated room can make that up; the sun of these months cannot."


def _words(lines: Sequence[QueueLine], free: date) -> str:
    going = [line for line in lines if line.place is not None]
    stays = [line.stack for line in lines if line.place is None]
    if not going:
        return f"None of them needs the kiln: {', '.join(stays)} get there outside."
    first = going[0]
    order = ", then ".join(line.stack for line in going)
    late = [line for line in going if line.late_days is not None and line.late_days > 0]
    ends = max((line.dry_on for line in going if line.dry_on is not None), default=None)
    said = f"First {order}: the kiln is free on {free:%d %B}, {first.stack} goes in then"
    said += "." if ends is None else f", and all is dry about {ends:%d %B %Y}."
    if late:
        said += f" {capital(', '.join(line.stack for line in late))} will be late in any order."
    return said + (f" {capital(', '.join(stays))} may stay outside." if stays else "")


def _next_sawn(planner: Planner, lines: Sequence[QueueLine], free: date) -> str:
    """What to saw next: for each wood how long before the kiln is free again."""
    ends = max((line.late or line.dry_on or free for line in lines if line.place is not None), default=free)
    again = ends + timedelta(days=round(BETWEEN_DAYS))
    said = []
    for stack in {(s.species, s.thickness_mm): s for s in planner.stacks}.values():
        days = _air_days(planner, stack, again)
        by = again - timedelta(days=days)
        when = f"by {by:%d %B %Y}" if by > planner.today else f"now: {counted((planner.today - by).days, 'day')} late already"  # fmt: skip
        said.append(f"{stack.title.split('(')[1].rstrip(')')} {when}, to come in at {percent(READY_MC)}")
    return f"The kiln is free again about {again:%d %B %Y}. Saw for it {'; '.join(said)}."


def _air_days(planner: Planner, stack: Waiting, until: date) -> int:
    """Days outside before a day that bring green boards to where they should go in, by the month."""
    site = planner.context.case.site
    for months in range(1, 25):
        since = until - timedelta(days=30 * months)
        fresh = stack.model_copy(update={"sawn_on": since, "measured_mc": None, "measured_on": None})
        if float(SHARES @ stands_at(site, fresh, until)) <= READY_MC:
            return 30 * months
    return 730


def _months(planner: Planner, stack: Waiting) -> list[StartMonth]:
    """A part of a stack that goes in air-dried in each month, and charges a year if each is followed at once."""
    year = planner.today.year + 1
    cells = [READY_MC] * len(SHARES)
    charge = planner.charge(stack, 1.0 / planner.parts(stack), cells)
    case = planner.context.case.with_(load=charge)

    by_month = two_at_a_time(lambda month: days_to_dry(case, date(year, month, 15)), range(1, 13))
    return [StartMonth(month=k + 1, days=None if d is None else round(d, 1), charges_a_year=round(charges_in_a_year(by_month, k), 2)) for k, d in enumerate(by_month)]  # fmt: skip


def charges_in_a_year(by_start: Sequence[float | None], first: int) -> float:
    """Charges within a year of a start, one of several that are spread evenly over the year, if each is followed at once."""
    count = len(by_start)
    days = np.array([or_longest(d) for d in by_start])
    middles = np.arange(-1, count + 1) * YEAR_DAYS / count
    wrapped = np.concatenate([days[-1:], days, days[:1]])
    at, charges = first * YEAR_DAYS / count, 0.0
    end = at + YEAR_DAYS
    while at < end:
        took = float(np.interp(at % YEAR_DAYS, middles, wrapped)) + BETWEEN_DAYS
        charges += min(took, end - at) / took
        at += took
    return charges


def _winter(months: Sequence[StartMonth]) -> str:
    """What winter can do and what it cannot."""
    cold, warm = ([line.days for line in months if line.month in part] for part in (WINTER, SUMMER))
    slow = [d for d in cold if d is not None]
    fast = [d for d in warm if d is not None]
    a_year = float(np.mean([line.charges_a_year for line in months]))
    best = max(months, key=lambda line: line.charges_a_year)
    told = f"About {a_year:.1f} charges a year, air-dried first; most, {best.charges_a_year:.1f}, when the first goes in in {date(2001, best.month, 1):%B}."
    if not fast:
        return told
    if not slow:
        return f"{told} What goes in from November to January is not dry within {LONGEST_DAYS} days; in summer it takes {np.mean(fast):.0f}. Use the winter to saw and to air-dry."
    return f"{told} In from November to January it takes {np.mean(slow):.0f} days, in summer {np.mean(fast):.0f}: one winter charge in place of {np.mean(slow) / np.mean(fast):.1f} summer ones."


def _air_first(lines: Sequence[QueueLine]) -> str:
    """Days of kiln that standing outside first saves."""
    told = [line for line in lines if line.kiln_days is not None and line.place is not None]
    both = [(line, line.green_days) for line in told if line.green_days is not None]
    if not told:
        return ""
    if not both:
        return f"Green on the same days none of them would be dry within {LONGEST_DAYS} days: air first."
    here = sum(line.kiln_days or 0.0 for line, _ in both)
    green = sum(days for _, days in both)
    return f"Green on the same days they would take {green:.0f} days of kiln in place of {here:.0f}: standing outside first saves {green - here:.0f} days of kiln, and the riskiest part of drying is slow."  # fmt: skip


def _stored(context: AdviceContext) -> list[Regained]:
    return [
        Regained(place=title, week_mc=round(week, 4), ends_mc=round(ends, 4))
        for title, week, ends in regained(context.case.site, 0.08)
    ]


def _store_words(store: Sequence[Regained]) -> str:
    told = "; ".join(f"{line.place} {100 * line.week_mc:+.1f} % in the first week, in the end {percent(line.ends_mc)}" for line in store)  # fmt: skip
    return f"After it is pulled, a board at 8 % in store: {told}. Stack it tight without sticks, wrapped in a film, or use it soon."


def _sizes(stacks: Sequence[Waiting]) -> list[str]:
    """What to saw for the pieces that are wanted."""
    out = []
    for stack in stacks:
        if stack.planed_thick_mm is None:
            continue
        group = stack.charge.groups[0]
        thick = saw_for(group, stack.planed_thick_mm, PLANED_MM, "thickness", UNEVEN_MM).sawn_mm
        wide = None if stack.planed_wide_mm is None else saw_for(group, stack.planed_wide_mm, PLANED_MM, "width", UNEVEN_MM).sawn_mm  # fmt: skip
        size = amount(round(thick), "length_mm") + ("" if wide is None else f" by {amount(round(wide), 'length_mm')}")
        enough = "thick enough" if stack.thickness_mm >= thick - 0.5 else f"its {amount(stack.thickness_mm, 'length_mm')} are too thin"  # fmt: skip
        planed = amount(stack.planed_thick_mm, "length_mm") + ("" if stack.planed_wide_mm is None else f" by {amount(stack.planed_wide_mm, 'length_mm')}")  # fmt: skip
        out.append(f"{capital(stack.name)}, for {USES[stack.use]}: {planed} planed wants {size} green; {enough}.")
    return out
