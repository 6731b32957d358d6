"""What looks wrong with a whole trial: swapped leads, a clock that is off, a sensor that stands still."""

from dataclasses import replace
from datetime import timedelta

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.trials.beside import beside
from drylamp.core.trials.events import check_event
from drylamp.core.trials.facts import swapped_back
from drylamp.core.trials.suspicions import find_clock, find_still, find_swaps, suspicions
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, TERRACE
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
