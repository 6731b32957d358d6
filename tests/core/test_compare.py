"""Differences with their doubt: a channel against its control, and one trial against another day's."""

from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np
import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.compare import Difference, compare_channels, compare_rises, rise_of, what_it_takes
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.verdict import compare_trials
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import START, blank, channel, filled, with_event

TIMES = [START + timedelta(minutes=10 * k) for k in range(12)]


def pair(gap: float, noise: float, seed: int = 0, devices: tuple[str, str] = ("one", "one"), doubt: float = 1.0):
    rng = np.random.default_rng(seed)
    control = [40.0 + k + float(rng.normal(0, noise)) for k in range(12)]
    tested = [40.0 + k + gap + float(rng.normal(0, noise)) for k in range(12)]
    made = [
        channel(name, "probe", doubt=doubt, device=device).model_copy(update={"times": TIMES, "values": values})
        for name, device, values in zip(("tray", "control"), devices, (tested, control), strict=True)
    ]
    return blank(made), made[0], made[1]


def test_a_clear_difference_is_real():
    found = compare_channels(*pair(5.0, 0.5))
    assert found.real
    assert found.difference_k == pytest.approx(5.0, abs=0.6)
    assert "over control" in found.words
    assert found.to_tell == ""


def test_no_difference_is_seldom_called_real():
    """One in twenty by rights; a seventh of forty would be a fault."""
    assert sum(compare_channels(*pair(0.0, 0.5, seed)).real for seed in range(40)) <= 5


def test_two_probes_cannot_tell_less_than_their_errors():
    found = compare_channels(*pair(1.0, 0.05, devices=("one", "other")))
    assert not found.real
    assert "Read both with one probe" in found.to_tell
    assert compare_channels(*pair(1.0, 0.05)).real


def test_what_it_would_take_is_enough_when_it_is_done():
    """The number of pairs it asks for, with that scatter, makes the difference real."""
    few = Difference(0.8, 1.0, 5, 4, 0.0)
    assert not few.real
    need = int("".join(ch for ch in what_it_takes(few).split(" undisturbed")[0] if ch.isdigit()))
    assert Difference(0.8, 1.0, need, need - 1, 0.0).real
    assert not Difference(0.8, 1.0, need - 1, need - 2, 0.0).real
    assert "alike" in what_it_takes(Difference(0.05, 1.0, 5, 4, 0.0))
    assert "steadier hour" in what_it_takes(Difference(0.11, 5.0, 5, 4, 0.0))


def test_disturbed_pairs_are_shown_and_left_out():
    facts, tested, control = pair(2.0, 0.1)
    facts = with_event(facts, "gust", 98.0)
    found = compare_channels(facts, tested, control)
    assert [p.left_out for p in found.pairs].count("gust") == 1
    assert found.pairs_used == 6 - 1


def test_while_things_warm_up_only_the_later_half_counts():
    """A tested part that is quicker to warm and ends alike is not called hotter."""
    facts, tested, control = pair(0.0, 0.05)
    quick = [v + 8 * float(np.exp(-k / 1.5)) for k, v in enumerate(tested.values)]
    found = compare_channels(facts, tested.model_copy(update={"values": quick}), control)
    assert abs(found.difference_k) < 0.3


def test_a_control_read_at_other_times_is_read_off_between():
    facts, tested, control = pair(3.0, 0.0)
    late = control.model_copy(update={"times": [t + timedelta(minutes=4) for t in control.times]})
    found = compare_channels(facts, tested, late)
    assert found.difference_k == pytest.approx(3.4, abs=0.05)  # the control stood 0.4 K lower at the tested times
    far = control.model_copy(update={"times": [t + timedelta(days=1) for t in control.times]})
    assert compare_channels(facts, tested, far) is None


def two_days(second: Calibration, sky: tuple[str, str] = ("clear", "clear"), sun: bool = True):
    """The same oven and a changed one, on a mild day and on a hot, windy one."""
    days = [
        ClearDay(tmin_c=9, tmax_c=18, wind_m_s=1.0, sky=sky[0]),
        ClearDay(tmin_c=18, tmax_c=32, wind_m_s=4.0, sky=sky[1]),
    ]
    truths = [Truth(calibration=Calibration(), noise_k=0.3, seed=1), Truth(calibration=second, noise_k=0.3, seed=2)]
    out = []
    for k, (day, truth) in enumerate(zip(days, truths, strict=True)):
        nodes = ["tray", "air", *(["sun"] if sun else [])]
        channels = [channel(n, "pyranometer" if n == "sun" else "logger") for n in nodes]
        facts = blank(channels, start=START + timedelta(days=20 * k), weather=day)
        plan = [(10.0 * m, n) for m in range(25) for n in nodes]
        out.append(filled(facts.model_copy(update={"name": f"day {k + 1}"}), truth, plan))
    return out


def test_one_oven_on_two_days_is_one_oven():
    first, second = two_days(Calibration())
    found = compare_trials(TERRACE, OVEN, second, first, "tray")
    assert not found.real
    assert abs(found.difference_k) < 4
    raw = max(second.of_node("tray").values) - max(first.of_node("tray").values)
    assert abs(raw) > 5  # what a person would have taken for a difference


def test_a_changed_oven_shows_through_two_days():
    first, second = two_days(Calibration(optical=0.8))
    found = compare_trials(TERRACE, OVEN, second, first, "tray")
    assert found.real
    assert found.difference_k < -8
    assert "“day 2” runs" in found.words
    assert "under that of “day 1”" in found.words


def test_a_sky_noted_by_eye_asks_for_a_measured_sun():
    first, second = two_days(Calibration(optical=0.93), ("clear", "broken"), sun=False)
    found = compare_trials(TERRACE, OVEN, second, first, "tray")
    assert not found.real
    assert "measure the sun of both days" in found.to_tell


def test_parts_that_were_not_read_cannot_be_compared():
    first, second = two_days(Calibration())
    with pytest.raises(InputProblem, match="“day 2” has no reading of contents"):
        compare_trials(TERRACE, OVEN, second, first, "contents")
    cold = np.array([20.0, 21.0])
    with pytest.raises(InputProblem, match="never rises 5 K"):
        rise_of("tray", cold, cold, cold, 1.0, 0.05)


def test_rises_are_weighed_by_their_size():
    twin, air = np.array([30.0, 100.0]), np.array([20.0, 20.0])
    rise = rise_of("tray", np.array([40.0, 100.0]), twin, air, 0.5, 0.0)
    assert rise.share == pytest.approx(1 + 1 * 100 / (100 + 6400), abs=1e-6)
    both = compare_rises(rise, replace(rise, share=rise.share - 0.5), ("a", "b"), 80.0, "today")
    assert both.difference_k == pytest.approx(40.0)


def test_control_in_words_of_a_person():
    words = ChannelFacts(
        channel="c", title="hand on the lid", node="tray", doubt=8.0, times=TIMES[:3],
        values=[31.5, 44.0, 62.5], doubts=[6.5, 6.0, 12.5],
    )  # fmt: skip
    assert [words.doubt_at(k) for k in range(3)] == [6.5, 6.0, 12.5]
    assert datetime.fromtimestamp(words.seconds[0], START.tzinfo) == TIMES[0]
