"""The book of a build's upkeep: dated findings, what is due, what it cost, and the drift of its calibrations beside it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date, timedelta
from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.upkeep.checks import Check, checks_of
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sheet import Around, Learnt, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Day, Model, Name, Number, require
from drylamp.core.forms import Option, asked
from drylamp.core.text import amount, capital, counted

State = Literal["good", "wants-work", "mended"]
STATES = {"good": "good", "wants-work": "wants work", "mended": "mended"}
OTHER = "other"
DRIFTS = 0.10
"""A factor that moved by less between two calibrations has not drifted; priors are as wide, from memory."""


class Finding(Model):
    """What was found, or done."""

    on: Day = Field(title="On")
    check: Name = Field(default=OTHER, title="Looked at")
    state: State = Field(default="good", title="It is", json_schema_extra=asked(options=STATES))
    words: Annotated[str, Field(max_length=300)] = Field(default="", title="Found or done")
    price: Annotated[Number, Field(ge=0, le=1e6)] = Field(default=0.0, title="Cost")
    work_hours: Annotated[Number, Field(ge=0, le=1000)] = Field(default=0.0, title="Work")
    meter_hours: Annotated[Number, Field(ge=0, le=1e6)] | None = Field(
        default=None, title="Counter shows", description="Hours that a fan or pump has run by its counter"
    )


def _titles(build: Build) -> dict[str, str]:
    """What may be looked at: the checks, then what may break."""
    found = {check.name: check.title for check in checks_of(build)}
    found |= {fault.name: capital(fault.title) for fault in kind_of(build).faults if fault.broken(build) is not None}
    return found | {OTHER: "Something else"}


def open_findings(rows: Sequence[Finding]) -> list[Finding]:
    """What wants work and was not found good or mended since, oldest first."""
    newest: dict[str, Finding] = {}
    for row in sorted(rows, key=lambda row: row.on):
        newest[row.check] = row
    return [row for row in newest.values() if row.state == "wants-work"]


def _due(build: Build, rows: Sequence[Finding]) -> Iterator[tuple[Check, date | None]]:
    """Checks with the day on which each is due; none where it was never looked at."""
    for check in checks_of(build):
        last = max((row.on for row in rows if row.check == check.name), default=None)
        yield check, None if last is None else last + timedelta(days=check.every_days)


def _due_words(build: Build, rows: Sequence[Finding], today: date) -> list[str]:
    over, soon, never = list[str](), list[str](), list[str]()
    for check, due in _due(build, rows):
        if due is None:
            never.append(check.title.lower())
        elif due <= today:
            over.append(f"{check.title.lower()} (since {due:%d %b}): {check.look}")
        elif due <= today + timedelta(days=30):
            soon.append(f"{check.title.lower()} by {due:%d %b}")
    said = [f"Due: {'; '.join(over)}."] if over else []
    said += [f"Due within a month: {', '.join(soon)}."] if soon else []
    return said + ([f"Never looked at yet: {', '.join(never)}."] if never else [])


def drift(build: Build, learnt: Sequence[Learnt]) -> list[str]:
    """How each factor moved from one accepted calibration to the next, where it moved by more than its doubt is wide."""
    said = []
    for parameter in kind_of(build).doubtful(build):
        found = [(one.on, one.factors.get(parameter.name)) for one in sorted(learnt, key=lambda one: one.on)]
        series = [(on, value) for on, value in found if value is not None]
        if len(series) < 2:
            continue
        ratio = series[-1][1] / series[0][1]
        row = ", ".join(f"× {value:.2f} ({on:%b %Y})" for on, value in series)
        if abs(ratio - 1.0) < DRIFTS:
            said.append(f"{capital(parameter.title)}: {row}: as it was.")
        else:
            worse = (ratio > 1.0) == parameter.bad_above
            told = f"{'up' if ratio > 1.0 else 'down'}; look at {parameter.cure}" if worse else "better than it was"
            said.append(f"{capital(parameter.title)}: {row}: {told}.")
    return said


def _ran(rows: Sequence[Finding]) -> list[str]:
    """Hours that fans ran between two looks at their counter."""
    counted_rows = [row for row in sorted(rows, key=lambda row: row.on) if row.meter_hours is not None]
    if len(counted_rows) < 2:
        return []
    before, last = counted_rows[-2], counted_rows[-1]
    days = max((last.on - before.on).days, 1)
    ran = (last.meter_hours or 0.0) - (before.meter_hours or 0.0)
    if ran < 0.0:
        return [f"The counter stands lower on {last.on:%d %b} than on {before.on:%d %b}: it was changed, or misread."]
    stood = " It hardly ran: see whether it is stuck." if ran / days < 0.5 else ""
    return [f"Fan or pump ran {amount(ran, 'hours')} from {before.on:%d %b} to {last.on:%d %b}, {amount(ran / days, 'hours')} a day.{stood}"]  # fmt: skip


def _page(rows: Sequence[Finding], around: Around) -> SheetPage:
    assert around.build is not None
    titles, wanting = _titles(around.build), open_findings(rows)
    lines = [
        SheetLine(
            cells=[f"{row.on:%d %b %Y}", titles.get(row.check, row.check), STATES[row.state], row.words or "–", amount(row.price, "price") if row.price else "–", amount(row.work_hours, "hours") if row.work_hours else "–"],
            warning="wants work" if row in wanting else "",
        )
        for row in rows
    ]  # fmt: skip
    spent, worked = sum(row.price for row in rows), sum(row.work_hours for row in rows)
    words = _due_words(around.build, rows, around.today) + _ran(rows) + drift(around.build, around.learnt)
    if spent or worked:
        words.append(f"Upkeep so far: {amount(spent, 'price')} and {amount(worked, 'hours')} of work over {counted(len(rows), 'row')}.")  # fmt: skip
    return SheetPage(columns=["on", "looked at", "it is", "found or done", "cost", "work"], lines=lines, words=words)


def _check(row: Finding, rows: Sequence[Finding], around: Around) -> None:
    assert around.build is not None
    titles = _titles(around.build)
    require(row.check in titles, "check", f"'{row.check}' is nothing of this build; known: {', '.join(titles)}")
    require(row.on <= around.today, "on", f"{row.on} was given; a finding is of today, {around.today}, or before")


def _options(around: Around) -> dict[str, list[Option]]:
    assert around.build is not None
    return {"check": [Option(value=name, title=title) for name, title in _titles(around.build).items()]}


UPKEEP: Sheet[Finding] = Sheet(
    "upkeep", "Upkeep", "build", "What was looked at, what was found, what it cost; what is due stands below.", Finding, _page,
    lambda rows, around: begin_with(Finding, around.today), _check, options=_options,
)  # fmt: skip
