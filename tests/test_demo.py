"""The demo yard: filled once, with something for its verdicts to find."""

import pytest

from drylamp.core.trials.verdict import judge
from drylamp.demo.scenario import TERRACE, TRUTH
from drylamp.demo.seed import fill, latest_activity
from drylamp.store import builds, readings, sites, trials
from drylamp.web.trials.ground import ground


@pytest.fixture
def yard(database):
    assert fill(database)
    with database.session() as db:
        yield db


def test_filling_twice_changes_nothing(database):
    assert fill(database)
    before = latest_activity(database)
    assert not fill(database)
    assert latest_activity(database) == before


def test_a_filling_that_breaks_off_leaves_nothing(database, monkeypatch):
    def broken(*_: object) -> None:
        raise RuntimeError("the plug was pulled")

    monkeypatch.setattr("drylamp.demo.seed._kilns", broken)
    monkeypatch.setattr("drylamp.demo.seed._dryers", lambda *_: None)
    monkeypatch.setattr("drylamp.demo.seed._heaters", lambda *_: None)
    with pytest.raises(RuntimeError, match="plug"):
        fill(database)
    with database.session() as db:
        assert sites.list_sites(db) == []
        assert trials.list_trials(db) == []


def test_two_sites_twenty_two_builds_at_home_and_their_trials(yard):
    assert [s.site.name for s in sites.list_sites(yard)] == ["Larkspur Terrace", "South Paddock"]
    rows = trials.list_trials(yard)
    assert [r.ended_ms is None for r in rows] == [True, *[False] * 12, True, *[False] * 9]
    assert rows[0].name == "Quick look before lunch"
    assert len({r.name for r in rows}) == len(rows)
    assert {r.build_revision for r in rows if r.build_id == 1} == {1, 2}
    assert [b.spec.kind for b in builds.list_builds(yard, 1)] == [
        "box-oven", "samples", "samples", "box-oven", "funnel", "dish", "melter", "batch-box", "hose-coil", "hose-coil",
        "sleeved-tubes", "hose-coil", "hose-coil", "tube-kettle", "tube-row",
        "food-dryer", "food-dryer", "food-dryer", "food-dryer", "lumber-kiln", "lumber-kiln", "lumber-kiln",
    ]  # fmt: skip
    assert all(r.token for r in rows)
    assert all(readings.count_readings(yard, r.id) >= 9 for r in rows)
    south = next(b for b in builds.list_builds(yard) if b.site_id == 2)
    assert south.spec.facing_deg == 0


@pytest.mark.parametrize("number", [1, 2, 3])
def test_verdicts_find_the_hidden_leak(yard, number: int):
    row = trials.get_trial(yard, number)
    _, build, facts = ground(yard, row)
    verdict = judge(TERRACE, build.spec, facts)
    assert TRUTH.calibration.leak > 2
    assert verdict.likely_cause == "leak"
    assert verdict.energy_closure < 1e-3
