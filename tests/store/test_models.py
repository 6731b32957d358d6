"""The store against plain models of what it should do, over random sequences of actions."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core.sky.weather import ClearDay
from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.store import builds, readings, sites, trials
from drylamp.store.builds import Draft
from drylamp.store.database import Database, StoreError
from drylamp.store.readings import ReadingRow
from drylamp.store.trials import ChannelRow, TrialRow

few = settings(max_examples=25, deadline=None, derandomize=True)
NOW = "2025-06-12T10:00:00+00:00"
actions = st.lists(
    st.tuples(st.sampled_from(["add", "add", "withdraw", "restore"]), st.integers(0, 5), st.integers(20, 24)),
    max_size=25,
)


def opened(folder: str) -> Database:
    return Database(Path(folder) / "model.sqlite3")


@few
@given(actions)
def test_readings_behave_like_a_dictionary(steps: list[tuple[str, int, int]]):
    """Time → value; a second value for one time is refused, a withdrawn one may be replaced."""
    with TemporaryDirectory() as folder:
        store = opened(folder)
        with store.session() as db:
            sites.add_site(db, TERRACE)
            build = builds.add_build(db, 1, Draft("Oven", None, OVEN, None), NOW)
            channel = ChannelRow("tray", "tray", "tray", False, "probe", 1.0)
            weather = ClearDay(tmin_c=10, tmax_c=20)
            trial = trials.add_trial(
                db, TrialRow(0, build.id, 1, "t", "free-log", None, weather, None, False, 0, None, "", [channel])
            )
            model: dict[int, float] = {}
            hidden: dict[int, float] = {}
            for action, time, value in steps:
                if action == "add":
                    row = ReadingRow("tray", time, float(value), str(value), "C", "hand")
                    result = readings.add_readings(db, trial, [row])
                    if time not in model:
                        assert result.written == 1
                        model[time] = float(value)
                        hidden.pop(time, None)
                    elif model[time] == value:
                        assert result.repeated == 1
                    else:
                        assert [r.value for r in result.contradicting] == [float(value)]
                elif action == "withdraw":
                    known = time in model or time in hidden
                    assert readings.withdraw_reading(db, trial, "tray", time, NOW) is known
                    if time in model:
                        hidden[time] = model.pop(time)
                else:
                    readings.withdraw_reading(db, trial, "tray", time, None)
                    if time in hidden:
                        model[time] = hidden.pop(time)
                assert {r.time_ms: r.value for r in readings.list_readings(db, trial)} == model
                assert readings.count_readings(db, trial) == len(model)
        store.close()


@few
@given(st.lists(st.one_of(st.floats(0, 80), st.none()), max_size=15))
def test_undo_behaves_like_a_stack(steps: list[float | None]):
    """A number is a change of tilt, None an undo."""
    with TemporaryDirectory() as folder:
        store = opened(folder)
        with store.session() as db:
            sites.add_site(db, TERRACE)
            row = builds.add_build(db, 1, Draft("Oven", None, OVEN, None), NOW)
            stack, notes = [OVEN.tilt_deg], list[str]()
            for step in steps:
                if step is not None:
                    spec = OVEN.model_copy(update={"tilt_deg": step})
                    row = builds.change_build(
                        db, row.id, Draft("Oven", None, spec, None, f"tilt {step}"), row.revision, NOW
                    )
                    stack.append(step)
                    notes.append(f"tilt {step}")
                elif len(stack) > 1:
                    row = builds.undo_build(db, row.id, row.revision, NOW)
                    stack.pop()
                    notes.pop()
                else:
                    with pytest.raises(StoreError):
                        builds.undo_build(db, row.id, row.revision, NOW)
                assert row.spec.tilt_deg == stack[-1]
                assert (row.undo_to is None) is (len(stack) == 1)
                assert row.undoes == (notes[-1] if notes else None), (
                    "what undo takes back is the change, not the undo before"
                )
            numbers = [r.revision for r in builds.revisions(db, row.id)]
            assert numbers == sorted(numbers, reverse=True)
        store.close()
