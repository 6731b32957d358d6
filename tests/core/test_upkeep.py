"""The book of upkeep: what is due, how calibrations drift, and what to mend first for the money."""

from __future__ import annotations

from datetime import date

import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.repairs import repairs
from drylamp.core.builds.common.upkeep.checks import CHECKS, checks_of
from drylamp.core.builds.common.upkeep.sheet import UPKEEP, Finding, drift, open_findings
from drylamp.core.builds.registry import KINDS
from drylamp.core.builds.sheet import Around, as_learnt
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.text import plain
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import BARN_KILN, BARN_LOAD, OVEN, STEW, TERRACE
from tests.kinds.specimens import specimen

TODAY = date(2025, 6, 12)


def around(build=BARN_KILN, *learnt) -> Around:
    return Around(TERRACE, TODAY, build, None, learnt=learnt)


def finding(check: str, on: str, state: str = "good", **more: object) -> Finding:
    return Finding.model_validate({"check": check, "on": on, "state": state} | more)


def said(rows: list[Finding], here: Around | None = None) -> str:
    return " ".join(plain(words) for words in UPKEEP.page(rows, here or around()).words)


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_kind_has_something_to_look_at(kind: str):
    build, _ = specimen(kind)
    names = [check.name for check in checks_of(build)]
    assert len(names) >= 2
    assert len(set(names)) == len(names)
    options = UPKEEP.options(around(build))["check"]
    assert [option.value for option in options][-1] == "other"
    doubtful = {row.name for row in KINDS[kind].doubtful(build)}
    assert all(check.moves <= {"optical", "loss", "leak", "mass", "contact"} | doubtful for check in CHECKS)


def test_what_was_never_looked_at_is_said_and_what_is_due_with_what_to_look_for():
    words = said([finding("fan", "2025-01-01"), finding("cover", "2025-05-01"), finding("vents", "2025-04-20")])
    assert "Due: fans (since 02 Mar): does each turn freely" in words
    assert "Due within a month: vents by 19 Jun" in words
    assert "Never looked at yet: seals and gaps" in words
    assert "cover" not in words.split("Never looked")[1]


def test_open_findings_are_closed_by_a_mended_one():
    rows = [finding("door", "2025-03-01", "wants-work"), finding("seals", "2025-03-01", "wants-work")]
    assert [row.check for row in open_findings(rows)] == ["door", "seals"]
    rows.append(finding("door", "2025-04-01", "mended", price=12.0, work_hours=2.0))
    assert [row.check for row in open_findings(rows)] == ["seals"]
    assert "Upkeep so far: 12 € and 2 h of work over 3 rows" in said(rows)


def test_fan_hours_between_two_looks_tell_a_fan_that_hardly_ran():
    rows = [finding("fan", "2025-05-02", meter_hours=1406.0), finding("fan", "2025-06-07", meter_hours=1409.5)]
    assert "It hardly ran" in said(rows)
    busy = [rows[0], rows[1].model_copy(update={"meter_hours": 1620.0})]
    assert "5.9 h a day" in said(busy)
    assert "hardly" not in said(busy)
    back = [rows[0], rows[1].model_copy(update={"meter_hours": 12.0})]
    assert "it was changed, or misread" in said(back)


def learnt(on: date, **factors: float):
    return as_learnt(on, factors, {}, "a trial")


def test_drift_is_said_only_where_it_is_more_than_a_calibrations_doubt():
    years = [
        learnt(date(2023, 6, 12), loss=1.02, leak=1.06, optical=1.0),
        learnt(date(2024, 6, 10), loss=1.06, leak=1.9, optical=0.86),
    ]
    words = drift(BARN_KILN, years)
    by_title = {plain(line).split(":")[0]: plain(line) for line in words}
    assert "as it was" in by_title["Losses"]
    assert "up; look at door, ridge and eaves" in by_title["Gaps"]
    assert "down; look at wash cover" in by_title["Sun taken in"]
    assert drift(BARN_KILN, years[:1]) == []


def test_findings_of_the_future_or_of_other_builds_are_refused():
    with pytest.raises(InputProblem, match="is nothing of this build"):
        UPKEEP.check(finding("mirror", "2025-06-01"), [], around())
    with pytest.raises(InputProblem, match="or before"):
        UPKEEP.check(finding("fan", "2025-07-01"), [], around())


# --- what to mend first ---


def context(build=BARN_KILN, load=BARN_LOAD, calibration: Calibration | None = None) -> AdviceContext:
    case = usual_case(TERRACE, None, build, load, TODAY)
    case = case if calibration is None else case.with_(calibration=calibration)
    return AdviceContext(case, weather_for(case))


def test_nothing_open_wants_nothing():
    found = repairs(context(), [finding("fan", "2025-06-01")])
    assert found.lines == []
    assert "Nothing in the book wants work" in plain(found.words)


def test_a_torn_film_and_a_stuck_fan_are_ranked_by_what_mending_them_gains():
    rows = [
        finding("torn-film", "2025-06-10", "wants-work"),
        finding("stuck-fan", "2025-06-10", "wants-work", price=15.0),
    ]
    found = repairs(context(), rows)
    mended = [line for line in found.lines if line.is_repair]
    assert len(mended) == 2
    assert [line.gain for line in mended] == sorted((line.gain for line in mended), reverse=True)
    assert found.all_gain > max(line.gain for line in mended) > 0.0
    words = plain(found.words)
    assert words.startswith("First ")
    assert "the most for the money" in words
    assert "All of it together" in words
    after = [line for line in found.lines if not line.is_repair]
    assert any("film" in plain(line.title) for line in after), "whether a further skin pays is run on the mended kiln"
    assert "Once all is mended" in words


def test_a_finding_of_the_common_sort_puts_back_the_factors_that_it_moves():
    rows = [finding("seals", "2025-06-10", "wants-work", words="gap at the door", price=8.0)]
    leaky = context(OVEN, STEW, Calibration(leak=8.0, loss=1.1))
    found = repairs(leaky, rows)
    assert len([line for line in found.lines if line.is_repair]) == 1
    line = found.lines[0]
    assert line.gain > 0.5
    assert line.quantity == "power"
    assert line.per_money == pytest.approx(line.gain / 8.0, abs=1e-3)
    tight = repairs(context(OVEN, STEW), rows)
    assert abs(tight.lines[0].gain) < 1e-6, "nothing was learnt of gaps, so nothing is gained"
