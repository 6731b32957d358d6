"""The part of each of several changes, and what cannot be told."""

from __future__ import annotations

from datetime import date

import pytest

from drylamp.core.advice.changed import changed_parts
from drylamp.core.advice.context import AdviceContext
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.sky.weather import Span
from drylamp.core.trials.at_tap import not_told
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import BASIN, BASIN_HOSE, HEATER, OVEN, SHOWERS, STEW, TERRACE
from tests.core.making import blank
from tests.core.test_tap_trials import bucket

JUNE = date(2025, 6, 12)
STILL = SHOWERS.model_copy(update={"draws": []})


def context(build, load) -> AdviceContext:
    case = usual_case(TERRACE, None, build, load, JUNE).with_(span=Span(start=JUNE, step_s=300))
    return AdviceContext(case, weather_for(case))


def test_one_change_alone_is_all_of_it():
    found = changed_parts(context(HEATER.with_(lid=None), STILL), (HEATER, STILL))
    (part,) = found.parts
    assert part.part == "lid"
    assert part.gain == pytest.approx(found.together)


def test_each_change_gets_its_part_and_they_add_up():
    """Seal and depth at once: each alone upon the old, and taken back alone from the new."""
    shallow = STILL.model_copy(update={"fill_l": 60.0})
    after = context(HEATER.with_(seal_gap_mm=0.2), shallow)
    found = changed_parts(after, (HEATER.with_(seal_gap_mm=6.0), STILL))
    parts = {part.part: part for part in found.parts}
    assert set(parts) == {"seal", "load"}
    old, new = HEATER.with_(seal_gap_mm=6.0), HEATER.with_(seal_gap_mm=0.2)
    value = {
        (sealed, deep): after.score(build, load).value
        for sealed, build in (("old", old), ("new", new))
        for deep, load in (("deep", STILL), ("shallow", shallow))
    }
    seal = (value["new", "deep"] - value["old", "deep"] + value["new", "shallow"] - value["old", "shallow"]) / 2
    assert parts["seal"].gain == pytest.approx(seal, abs=0.01)
    assert parts["seal"].gain > 0
    assert sum(part.gain for part in found.parts) == pytest.approx(found.together, abs=0.01)
    assert abs(found.parts[0].gain) >= abs(found.parts[1].gain)


def test_an_empty_build_and_a_filled_one_differ_by_the_build_only():
    found = changed_parts(context(HEATER.with_(lid=None), STILL), (HEATER, None))
    assert [part.part for part in found.parts] == ["lid"]


def test_nothing_changed_and_other_kinds_are_told():
    with pytest.raises(InputProblem, match="nothing of the build was changed"):
        changed_parts(context(HEATER, STILL), (HEATER, STILL))
    with pytest.raises(InputProblem, match="not of one kind"):
        changed_parts(context(HEATER, STILL), (OVEN, STEW))


def test_a_change_that_cannot_stand_alone_is_taken_back_only():
    """A coil of 60 m does not fit the old frame: its part is what taking it back costs."""
    longer = BASIN_HOSE.with_(length_m=2.2, coil=BASIN_HOSE.coil.model_copy(update={"pipe_m": 60.0}))

    found = changed_parts(context(longer, BASIN), (BASIN_HOSE, BASIN))
    assert {part.part for part in found.parts} == {"frame", "hose"}
    assert all(part.doubt > 0 for part in found.parts)


def test_without_flow_heat_is_not_told():
    read = bucket()
    blind = read.model_copy(update={"channels": [c for c in read.channels if c.quantity != "flow"]})
    assert not_told(read, read) == ""
    assert "Flow was not read" in not_told(read, blind)
    assert not_told(blank([]), blank([])) == ""
