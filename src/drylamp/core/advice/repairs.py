"""What to mend first: each open finding of a build's upkeep put right by itself in the twin, ranked by what that gains and by what it gains for the money."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from drylamp.core.advice.changes import changes_of
from drylamp.core.advice.context import AdviceContext, doubt_of
from drylamp.core.advice.worn import worn
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.upkeep.checks import checks_of
from drylamp.core.builds.common.upkeep.sheet import Finding, open_findings
from drylamp.core.builds.fault import broken_by
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sheet import Learnt
from drylamp.core.checks import Model, YesNo
from drylamp.core.outcome.of_load import ScoreQuantity
from drylamp.core.text import Sentence, amount, capital, counted
from drylamp.core.twin.calibration import Calibration

MOST = 8
THEN = "then "
"""Before what is tried once all is mended."""


class RepairLine(Model):
    """One thing mended, or changed once all is mended: what it gains over the days that are looked at, with its doubt."""

    title: Sentence
    part: str
    is_repair: YesNo
    gain: float
    doubt: float
    quantity: ScoreQuantity
    real: YesNo
    price: float
    work_hours: float
    per_money: float | None


class Repairs(Model):
    """What wants work, the best first, and in words which first; ``worn`` is what it lost by its calibrations over the years, with what mending that cost the last time."""

    lines: list[RepairLine]
    all_gain: float
    words: Sentence
    worn: list[Sentence]


@dataclass(frozen=True)
class Broken:
    """An open finding: what it does to build and calibration, and what its repair takes."""

    title: str
    part: str
    price: float
    hours: float
    fault: str = ""
    moves: frozenset[str] = frozenset()


def _broken(build: Build, findings: Sequence[Finding]) -> Iterator[Broken]:
    faults = {fault.name: fault for fault in kind_of(build).faults}
    checks = {check.name: check for check in checks_of(build)}
    for row in open_findings(findings):
        if row.check in faults:
            fault = faults[row.check]
            yield Broken(fault.cure, fault.part, row.price or fault.price, row.work_hours or fault.hours, fault.name)
        elif row.check in checks and checks[row.check].moves:
            check = checks[row.check]
            part = next(iter(sorted(check.parts & set(kind_of(build).parts))))
            yield Broken(f"{check.title.lower()} put right: {row.words or check.look}", part, row.price, row.work_hours, moves=check.moves)  # fmt: skip


def _as_it_stands(build: Build, open_ones: Sequence[Broken]) -> Build:
    """With everything broken that is."""
    faults = {fault.name: fault for fault in kind_of(build).faults}
    return broken_by(build, [faults[one.fault] for one in open_ones if one.fault])


def _learnt_without(context: AdviceContext, mended: frozenset[str]) -> Calibration:
    """The calibration with those of its factors that were bad and are moved by what was mended put back."""
    found = context.case.calibration
    for row in kind_of(context.build).doubtful(context.build):
        factor = found.of(row.name)
        if row.name in mended and (factor > 1.0) == row.bad_above:
            found = found.with_factor(row.name, 1.0)
    return found


def repairs(context: AdviceContext, findings: Sequence[Finding], learnt: Sequence[Learnt] = ()) -> Repairs:
    """Mend each thing by itself, then all of it, then try what else the mended build might want."""
    build, load, measure = context.build, context.load, context.measure
    open_ones, lost = list(_broken(build, findings))[:MOST], worn(context, findings, learnt)
    if not open_ones:
        return Repairs(
            lines=[], all_gain=0.0, words="Nothing in the book wants work, or nothing that the twin knows.", worn=lost
        )
    stands = _as_it_stands(build, open_ones)
    base = _value(context, stands, context.case.calibration)
    lines = list[RepairLine]()
    for one in open_ones:
        others = [other for other in open_ones if other is not one]
        gain = _value(context, _as_it_stands(build, others), _learnt_without(context, one.moves)) - base
        lines.append(_line(context, one.title, one.part, True, gain, one.price, one.hours))
    whole = _learnt_without(context, frozenset().union(*(one.moves for one in open_ones)))
    sound = _value(context, build, whole)
    parts = {one.part for one in open_ones}
    tried = [change for change in changes_of(build, load, ()) if change.part in parts and change.price > 0.0]
    found = context.scores([(change.build, change.load) for change in tried], [whole])
    for change, scores in zip(tried, found, strict=True):
        if scores is not None:
            gain = scores[0].value - sound
            lines.append(_line(context, f"{THEN}{change.title}", change.part, False, gain, change.price, 0.0))
    lines.sort(key=lambda line: (not line.is_repair, -line.gain))
    words = _words([line for line in lines if line.is_repair], sound - base, context)
    after = max((line for line in lines if not line.is_repair), key=lambda line: line.gain, default=None)
    if after is not None:
        pays = "gains" if after.real else "gains too little to tell:"
        words += f" Once all is mended, {after.title.removeprefix(THEN)} {pays} {measure.said(after.gain, after.doubt, signed=True)} for {amount(after.price, 'price')}."
    return Repairs(lines=lines, all_gain=round(sound - base, 3), words=words, worn=lost)


def _value(context: AdviceContext, build: Build, calibration: Calibration) -> float:
    found = context.scores([(build, context.load)], [calibration])[0]
    assert found is not None
    return found[0].value


def _line(
    context: AdviceContext, title: str, part: str, is_repair: bool, gain: float, price: float, hours: float
) -> RepairLine:
    measure = context.measure
    doubt = doubt_of([gain], measure)
    return RepairLine(
        title=title, part=part, is_repair=is_repair, gain=round(gain, 3), doubt=round(doubt, 3), quantity=measure.quantity, real=abs(gain) > measure.worth(doubt),
        price=price, work_hours=hours, per_money=round(gain / price, 4) if price > 0.0 else None,
    )  # fmt: skip


def _words(lines: list[RepairLine], whole: float, context: AdviceContext) -> str:
    said = context.measure.said
    real = [line for line in lines if line.real and line.gain > 0.0]
    if not real:
        return f"{counted(len(lines), 'thing')} want work; none of them moves these days by more than its doubt."
    by_money = max(real, key=lambda line: float("inf") if line.per_money is None else line.per_money)
    most = max(real, key=lambda line: line.gain)
    first = f"First {by_money.title}: {said(by_money.gain, by_money.doubt, signed=True)} for {amount(by_money.price, 'price')}, the most for the money."
    if most is not by_money:
        first += f" The most of all brings {most.title}: {said(most.gain, most.doubt, signed=True)}."
    return f"{capital(first)} All of it together: {said(whole, signed=True)}."
