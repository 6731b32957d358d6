"""What looks wrong with a whole trial: swapped leads, a clock that is off, a sensor that stands still."""

from dataclasses import replace
from datetime import timedelta

import pytest

from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.trials.beside import beside
from drylamp.core.trials.events import check_event
from drylamp.core.trials.facts import swapped_back
from drylamp.core.trials.fit import fit
from drylamp.core.trials.suspicions import (
    find_channels,
    find_clock,
    find_shade,
    find_still,
    find_swaps,
    find_units,
    suspicions,
)
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import CREW_POT, DISH, FLAT_LOAF, FUNNEL, OVEN, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled, logged, with_event

GOOD = Truth(calibration=Calibration(), noise_k=0.2, seed=1)


def swapped_after(facts, minute: float):
    """The same readings with the two leads exchanged from a minute on."""
    one, other = facts.channels
    since = facts.started + timedelta(minutes=minute)
    mixed = [
        a.model_copy(
            update={"values": [v if t < since else w for t, v, w in zip(a.times, a.values, b.values, strict=True)]}
        )
        for a, b in ((one, other), (other, one))
    ]
    return facts.model_copy(update={"channels": mixed})


def test_good_trials_raise_no_suspicion():
    assert suspicions(beside(TERRACE, OVEN, logged(GOOD))) == []


def test_swapped_leads_are_seen_and_put_back():
    good = logged(GOOD)
    bad = swapped_after(good, 122)
    (found,) = find_swaps(bad)
    assert found.time == good.channels[0].times[25]
    assert found.channels == ["tray", "inside-air"]
    noted = with_event(bad, "swapped", 122.0, "tray|inside-air")
    assert find_swaps(noted) == []
    back = swapped_back(noted)
    assert [c.values for c in back.channels] == [c.values for c in good.channels]
    assert max(abs(c.bias_k) for c in judge(TERRACE, OVEN, noted).channels) < 3


def test_a_note_on_unknown_leads_changes_nothing():
    facts = with_event(logged(GOOD), "swapped", 60.0, "tray|cellar")
    assert swapped_back(facts).channels == facts.channels


@pytest.mark.parametrize(("kind", "note"), [
    ("swapped", "tray"), ("swapped", ""), ("swapped", "tray|tray"), ("swapped", "tray|cellar"), ("swapped", "tray|air|tray"),
    ("sky", "pink"), ("moved", "cellar"),
])  # fmt: skip
def test_an_event_must_say_what_its_kind_asks(kind, note):
    with pytest.raises(InputProblem):
        check_event(kind, note, TERRACE, ["tray", "air"])


@pytest.mark.parametrize(("kind", "note"), [
    ("swapped", "tray| air"), ("sky", " Hazy"), ("moved", "orchard edge"), ("moved", ""), ("cloud", "one|two"), ("turned", ""),
])  # fmt: skip
def test_an_event_that_says_it_is_taken(kind, note):
    check_event(kind, note, TERRACE, ["tray", "air"])


@pytest.mark.parametrize("minutes", [-60.0, 60.0, 120.0])
def test_a_clock_that_is_off_is_found(minutes: float):
    facts = logged(replace(GOOD, clock_minutes=minutes), hours=7)
    at = beside(TERRACE, OVEN, facts, facts.last_s() + 9000.0)
    (found,) = find_clock(at)
    assert found.minutes == -minutes
    assert "summer time" in found.text


@pytest.mark.parametrize("hidden", [{"leak": 5.0}, {"optical": 0.7}, {"loss": 1.4}])
def test_a_bad_oven_is_not_taken_for_a_bad_clock(hidden: dict[str, float]):
    facts = logged(Truth(calibration=Calibration(**hidden), noise_k=0.3, seed=2), hours=7)
    assert find_clock(beside(TERRACE, OVEN, facts, facts.last_s() + 9000.0)) == []


def test_a_still_sensor_beside_a_moving_one():
    facts = logged(GOOD, every_min=2.0)
    one, other = facts.channels
    stuck = one.model_copy(update={"values": one.values[:40] + [one.values[40]] * (len(one.values) - 40)})
    (found,) = find_still(facts.model_copy(update={"channels": [stuck, other]}))
    assert found.channels == ["tray"]
    assert "without a change" in found.text
    assert find_still(facts) == []


def test_all_still_at_night_is_no_fault():
    facts = blank([channel("tray"), channel("inside-air")])
    facts = filled(facts, GOOD, [(2.0 * k, n) for k in range(40) for n in ("tray", "inside-air")])
    same = [c.model_copy(update={"values": [20.0] * len(c.values)}) for c in facts.channels]
    assert find_still(facts.model_copy(update={"channels": same})) == []


def altered(facts, change):
    """The same with every value put through a function of its channel, time and value."""
    channels = [
        c.model_copy(update={"values": [change(c.channel, t, v) for t, v in zip(c.times, c.values, strict=True)]})
        for c in facts.channels
    ]
    return facts.model_copy(update={"channels": channels})


@pytest.mark.parametrize(
    ("wrong", "unit"), [(lambda c, t, v: v * 1.8 + 32.0, "°F"), (lambda c, t, v: (v - 32.0) / 1.8, "°C")]
)
def test_numbers_in_the_other_unit_are_asked_about_before_anything_is_learnt(wrong, unit):
    at = beside(TERRACE, OVEN, altered(logged(GOOD), wrong))
    found = find_units(at)
    assert {s.channels[0] for s in found} == {"tray", "inside-air"}
    assert all(f"taken as {unit}" in s.text for s in found)
    learnt = fit(at)
    assert learnt.first, "a fit of readings in the wrong unit is never offered as it stands"
    assert any(unit in text for text in learnt.first)


def test_a_good_fit_is_offered_at_once_and_so_is_a_leaky_box():
    assert fit(beside(TERRACE, OVEN, logged(GOOD))).first == []
    leaky = logged(Truth(calibration=Calibration(leak=4.0), noise_k=0.2, seed=1))
    assert fit(beside(TERRACE, OVEN, leaky)).first == []


def test_two_channels_with_each_others_name_from_the_start():
    good = logged(GOOD)
    one, other = good.channels
    named = [one.model_copy(update={"values": other.values}), other.model_copy(update={"values": one.values})]
    found = find_channels(beside(TERRACE, OVEN, good.model_copy(update={"channels": named})))
    assert [set(s.channels) for s in found] == [{"tray", "inside-air"}]
    assert find_channels(beside(TERRACE, OVEN, good)) == []


def test_an_hour_of_shade_is_asked_about_unless_it_was_noted():
    good = logged(GOOD)
    low, high = good.started + timedelta(minutes=120), good.started + timedelta(minutes=180)
    shaded = altered(good, lambda c, t, v: v - 0.6 * (v - 25.0) if low <= t < high else v)
    (found,) = find_shade(beside(TERRACE, OVEN, shaded))
    assert abs((found.time - low).total_seconds()) < 900
    assert find_shade(beside(TERRACE, OVEN, with_event(shaded, "cloud", 121.0))) == []
    bad_oven = logged(Truth(calibration=Calibration(optical=0.6), noise_k=0.2, seed=1))
    assert find_shade(beside(TERRACE, OVEN, bad_oven)) == []


def test_every_inside_channel_is_held_against_the_control():
    facts = logged(GOOD)
    control = channel("control").model_copy(
        update={
            "is_control": True,
            "times": facts.channels[0].times,
            "values": [v - 10 for v in facts.channels[1].values],
        }
    )
    verdict = judge(TERRACE, OVEN, facts.model_copy(update={"channels": [*facts.channels, control]}))
    assert [c.tested for c in verdict.comparisons] == ["tray", "inside-air"]
    assert verdict.control == verdict.comparisons[0]
    assert verdict.comparisons[1].difference_k == pytest.approx(10.0, abs=1.0)
    assert verdict.control_beside is None, "what stands beside a box is nothing that the twin knows"


@pytest.mark.parametrize(("build", "load"), [(FUNNEL, FLAT_LOAF), (DISH, CREW_POT)], ids=["funnel", "dish"])
def test_a_funnels_and_a_dishs_control_has_a_twin_of_its_own(build, load):
    """A pot beside it that warms as the control's own twin does is no difference; one that warms as the tested pot is."""
    bare = kind_of(build).control(build)
    read = filled(
        blank([channel(load.judged, channel="control")], load=load),
        GOOD,
        [(10.0 * k, "control") for k in range(18)],
        bare,
    )
    tested = filled(blank([channel(load.judged)], load=load), GOOD, [(10.0 * k, load.judged) for k in range(18)], build)
    (control,) = read.channels
    facts = tested.model_copy(
        update={"channels": [*tested.channels, control.model_copy(update={"is_control": True, "node": "outside"})]}
    )
    verdict = judge(TERRACE, build, facts)
    assert verdict.control_beside is not None
    assert abs(verdict.control_beside.bias_k) < 1.5
    assert any("twin of its own" in sentence for sentence in verdict.sentences)
    hot = facts.channels[1].model_copy(update={"values": tested.channels[0].values})
    assert (
        judge(TERRACE, build, facts.model_copy(update={"channels": [tested.channels[0], hot]})).control_beside.bias_k
        > 10
    )
