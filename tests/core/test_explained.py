"""The part of each of several changes, and what cannot be told."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.explained import MOST_CAUSES, Rest, State, explained
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.trials.at_tap import not_told
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.told_apart import trials_apart
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import BASIN, BASIN_HOSE, HEATER, OVEN, PLUMS, SHOWERS, SKETCH, SKETCH_DRYER, STEW, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled
from tests.core.test_tap_trials import bucket

JUNE = date(2025, 6, 12)
STILL = SHOWERS.model_copy(update={"draws": []})


def context(build, load) -> AdviceContext:
    case = usual_case(TERRACE, None, build, load, JUNE).with_(span=Span(start=JUNE, step_s=300))
    return AdviceContext(case, weather_for(case))


def was(after: AdviceContext, build, load, **weather) -> State:
    """A state that the context's own came from, on the same day where nothing else is said."""
    return replace(State.of(after), build=build, load=load, weather=replace(after.weather, **weather))


BARE = context(HEATER.with_(lid=None), STILL)


def test_one_change_alone_is_all_of_it():
    found = explained(BARE, was(BARE, HEATER, STILL))
    (part,) = found.parts
    assert part.part == "lid"
    assert part.gain == pytest.approx(found.together)


def test_each_change_gets_its_part_and_they_add_up():
    """Seal and depth at once: each alone upon the old, and taken back alone from the new."""
    shallow = STILL.model_copy(update={"fill_l": 60.0})
    after = context(HEATER.with_(seal_gap_mm=0.2), shallow)
    found = explained(after, was(after, HEATER.with_(seal_gap_mm=6.0), STILL))
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
    found = explained(BARE, was(BARE, HEATER, None))
    assert [part.part for part in found.parts] == ["lid"]


def test_nothing_changed_and_other_kinds_are_told():
    alike = explained(context(HEATER, STILL), was(context(HEATER, STILL), HEATER, STILL))
    assert (alike.parts, alike.together) == ([], 0.0)
    assert "Nothing differs" in alike.words
    read = explained(context(HEATER, STILL), was(context(HEATER, STILL), HEATER, STILL), Rest(5.0, 1.0))
    assert (read.read_k, read.rest_k, read.rest_counts) == (5.0, 5.0, True)
    with pytest.raises(InputProblem, match="not of one kind"):
        explained(context(HEATER, STILL), was(context(HEATER, STILL), OVEN, STEW))


def test_a_change_that_cannot_stand_alone_is_taken_back_only():
    """A coil of 60 m does not fit the old frame: its part is what taking it back costs."""
    longer = BASIN_HOSE.with_(length_m=2.2, coil=BASIN_HOSE.coil.model_copy(update={"pipe_m": 60.0}))

    after = context(longer, BASIN)
    found = explained(after, was(after, BASIN_HOSE, BASIN))
    assert {part.part for part in found.parts} == {"frame", "hose"}
    assert all(part.doubt > 0 for part in found.parts)


def test_without_flow_heat_is_not_told():
    read = bucket()
    blind = read.model_copy(update={"channels": [c for c in read.channels if c.quantity != "flow"]})
    assert not_told(read, read) == ""
    assert "Flow was not read" in not_told(read, blind)
    assert not_told(blank([]), blank([])) == ""


def test_a_windier_and_duller_day_each_get_their_part():
    """Same build, another day: by hand, the mean of both orders."""
    day = context(OVEN, STEW)
    calm = day.weather
    dull, windy = {"dni_w_m2": 0.6 * calm.dni_w_m2}, {"wind_m_s": calm.wind_m_s + 4.0}
    after = replace(day, weather=replace(calm, **dull, **windy))
    found = explained(after, was(after, OVEN, STEW, dni_w_m2=calm.dni_w_m2, wind_m_s=calm.wind_m_s))
    parts = {part.title: part for part in found.parts}
    assert set(parts) == {"sun", "wind"}
    value = {
        (sun, wind): after.score_of(OVEN, STEW, replace(day, weather=replace(calm, **sun_, **wind_)).run(OVEN, STEW)).value
        for sun, sun_ in (("bright", {}), ("dull", dull))
        for wind, wind_ in (("calm", {}), ("windy", windy))
    }  # fmt: skip
    by_hand = (value["dull", "calm"] - value["bright", "calm"] + value["dull", "windy"] - value["bright", "windy"]) / 2
    assert parts["sun"].gain == pytest.approx(by_hand, abs=0.002)
    assert parts["sun"].gain < parts["wind"].gain < 0
    assert sum(part.gain for part in found.parts) == pytest.approx(found.together, abs=0.005)
    assert sum(part.warmer_k for part in found.parts) == pytest.approx(found.warmer_k, abs=0.005)


def test_many_changes_are_told_as_few_and_still_add_up():
    after = context(HEATER.with_(lid=None, seal_gap_mm=0.2, facing_deg=200.0, tilt_deg=20.0), STILL)
    day = after.weather
    old = was(after, HEATER.with_(seal_gap_mm=6.0), STILL.model_copy(update={"fill_l": 60.0}), dni_w_m2=0.8 * day.dni_w_m2, wind_m_s=day.wind_m_s + 2.0, air_c=day.air_c + 3.0, rh=0.8 * day.rh)  # fmt: skip
    found = explained(after, old)
    assert len(found.parts) == MOST_CAUSES
    (lump,) = [part for part in found.parts if part.part == "rest"]
    assert len(lump.told) >= 2
    assert lump.title.endswith("together")
    assert sum(part.gain for part in found.parts) == pytest.approx(found.together, abs=0.01)


def test_what_was_read_beyond_the_twin_is_left_over():
    agreeing = explained(BARE, was(BARE, HEATER, STILL), Rest(0.4, 1.5))
    assert not agreeing.rest_counts
    assert "agrees within its doubt" in agreeing.words
    assert agreeing.read_k == pytest.approx(agreeing.warmer_k + 0.4, abs=0.002)
    left = explained(BARE, was(BARE, HEATER, STILL), Rest(-4.0, 1.5))
    assert left.rest_counts
    assert "none of this explains" in left.words


def test_another_spot_is_a_cause_of_its_own():
    after = context(OVEN, STEW)
    shaded = replace(State.of(after), spot=TERRACE.spots[-1].name)
    found = explained(after, shaded)
    assert [part.title for part in found.parts] == ["where it stands"]
    assert TERRACE.spots[-1].name in found.parts[0].told[0]


def trial_of(build: BoxOven, weather: ClearDay, off_k: float = 0.0) -> tuple[BoxOven, TrialFacts]:
    """Five hours of readings that the twin itself gave, all of them so much off."""
    facts = blank([channel("tray")], weather=weather)
    read = filled(facts, Truth(calibration=Calibration(), noise_k=0.0), [(5.0 * k, "tray") for k in range(60)], build)
    (one,) = read.channels
    return build, read.model_copy(
        update={"channels": [one.model_copy(update={"values": [v + off_k for v in one.values]})]}
    )


CALM, WINDY = ClearDay(tmin_c=14, tmax_c=25, wind_m_s=1.0), ClearDay(tmin_c=14, tmax_c=25, wind_m_s=6.0)
TURNED = OVEN.with_(facing_deg=OVEN.facing_deg + 40.0)


def test_two_trials_are_told_apart_and_what_was_read_beyond_is_left():
    found = trials_apart(TERRACE, trial_of(TURNED, WINDY), trial_of(OVEN, CALM))
    assert {part.part for part in found.parts} == {"day", "aim"}
    assert abs(found.rest_k) < 0.5
    assert not found.rest_counts
    odd = trials_apart(TERRACE, trial_of(TURNED, WINDY, off_k=9.0), trial_of(OVEN, CALM))
    assert odd.rest_k == pytest.approx(9.0, abs=0.5)
    assert odd.warmer_k == pytest.approx(found.warmer_k)
    assert odd.rest_counts


def test_trials_that_read_no_part_in_common_are_told_by_the_twin_alone():
    build, facts = trial_of(OVEN, CALM)
    elsewhere = facts.model_copy(
        update={"channels": [facts.channels[0].model_copy(update={"node": "inside-air", "channel": "air"})]}
    )
    found = trials_apart(TERRACE, (TURNED, elsewhere), (build, facts))
    assert found.read_k is None
    assert found.parts


def test_what_a_kind_names_finer_than_its_parts_is_told_so_and_all_of_it_is_told():
    """Two dryers: the collector by its area, absorber and glass; what the kind has no name for, by its part."""
    after = context(SKETCH, PLUMS)
    found = explained(after, was(after, SKETCH_DRYER, PLUMS))
    titles = {part.title for part in found.parts}
    assert {"collector's area", "absorber", "vent", "aim"} <= titles
    assert sum(part.gain for part in found.parts) == pytest.approx(found.together, abs=0.01)
    assert found.together == pytest.approx(
        after.score(SKETCH, PLUMS).value - after.score_of(SKETCH_DRYER, PLUMS, after.run(SKETCH_DRYER, PLUMS)).value,
        abs=0.002,
    )
