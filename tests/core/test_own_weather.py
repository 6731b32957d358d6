"""A trial's own weather, where it stood, and how it was turned."""

import numpy as np
import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.beside import beside, case_of, placements
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.own_weather import sun_spread, trial_weather
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, TERRACE, WATER
from drylamp.instruments.logger import Truth
from tests.core.making import START, blank, channel, filled, logged, minutes_after, with_event

TRUE = Truth(calibration=Calibration(), noise_k=0.0, seed=1)
END = START.timestamp() + 4 * 3600


def measured(nodes: dict[str, str], truth: Truth = TRUE, **more: object):
    channels = [channel("tray")] + [
        channel(node, instrument, channel=f"{node}-{instrument}") for node, instrument in nodes.items()
    ]
    facts = blank(channels, **more)
    return filled(facts, truth, [(10.0 * m, c.channel) for m in range(25) for c in channels])


@pytest.mark.parametrize(("node", "instrument", "origin"), [
    ("sun", "pyranometer", "sun as measured"), ("wind", "anemometer", "wind as measured"), ("air", "logger", "air as measured"),
    ("air", "humidity-probe", "humidity as measured"),
])  # fmt: skip
def test_what_was_measured_stands_in_for_what_was_noted(node: str, instrument: str, origin: str):
    facts = measured({node: instrument})
    weather = trial_weather(
        TERRACE,
        facts.model_copy(update={"weather": ClearDay(tmin_c=2, tmax_c=6, wind_m_s=9.0, rh=0.9, sky="grey")}),
        START.timestamp(),
        END,
    )
    assert origin in weather.origin
    true = trial_weather(TERRACE, blank([]), START.timestamp(), END)
    name = {"sun": "ghi_w_m2", "wind": "wind_m_s", "logger": "air_c", "humidity-probe": "rh"}[
        node if node != "air" else instrument
    ]
    inside = slice(0, 230)
    assert getattr(weather, name)[inside] == pytest.approx(getattr(true, name)[inside], rel=0.2, abs=0.3)


def test_a_measured_sun_narrows_the_verdict():
    noted = sun_spread(
        blank([], weather=ClearDay(tmin_c=10, tmax_c=20, sky="broken")),
        trial_weather(TERRACE, blank([]), START.timestamp(), END),
    )
    facts = measured({"sun": "pyranometer"})
    gauged = sun_spread(facts, trial_weather(TERRACE, facts, START.timestamp(), END))
    assert gauged == (0.95, 1.05)
    assert noted[1] - noted[0] > 3 * (gauged[1] - gauged[0])
    assert "The sun was measured" in judge(TERRACE, OVEN, facts).how_sure


def test_the_sky_may_change_in_a_trial():
    facts = with_event(blank([]), "sky", 60.0, "grey")
    clear = trial_weather(TERRACE, blank([]), START.timestamp(), END).ghi_w_m2
    turned = trial_weather(TERRACE, facts, START.timestamp(), END)
    assert turned.ghi_w_m2[:59] == pytest.approx(clear[:59])
    assert turned.ghi_w_m2[61:] == pytest.approx(0.25 * clear[61:])
    assert "clear then grey sky as noted" in turned.origin


def test_a_gap_in_the_air_is_said_and_not_filled():
    facts = measured({"air": "logger"})
    air = facts.channels[1]
    holed = air.model_copy(
        update={"times": [*air.times[:4], *air.times[14:]], "values": [*air.values[:4], *air.values[14:]]}
    )
    weather = trial_weather(
        TERRACE, facts.model_copy(update={"channels": [facts.channels[0], holed]}), START.timestamp(), END
    )
    assert "left out (two readings are 110 minutes apart" in weather.origin


def test_a_moved_box_loses_the_sun_of_its_first_spot():
    """Into the fig tree's morning shade at the orchard edge."""
    early = START.replace(month=10, hour=10)
    stays = blank([channel("tray")], start=early, spot="flat roof")
    moved = with_event(stays, "moved", 60.0, "orchard edge")
    here, there = (beside(TERRACE, OVEN, f, early.timestamp() + 3 * 3600).likely for f in (stays, moved))
    assert there.opening_w[:59] == pytest.approx(here.opening_w[:59])
    assert there.opening_w[62:150].mean() < 0.7 * here.opening_w[62:150].mean()
    with pytest.raises(InputProblem, match="no spot here"):
        beside(TERRACE, OVEN, with_event(stays, "moved", 60.0, "moon"))


def test_a_box_turned_to_the_sun_gets_more_of_it():
    late = START.replace(hour=16)
    stays = blank([channel("tray")], start=late, spot="flat roof")
    sunward, by_number = with_event(stays, "turned", 30.0), with_event(stays, "turned", 30.0, "265")
    left, turned = (beside(TERRACE, OVEN, f, late.timestamp() + 2 * 3600).likely.opening_w for f in (stays, sunward))
    weather = beside(TERRACE, OVEN, stays, late.timestamp() + 2 * 3600).likely.weather
    assert turned[35:100].mean() > 1.15 * left[35:100].mean()
    assert placements(case_of(TERRACE, OVEN, sunward, weather.start_s), sunward, weather)[
        1
    ].facing_deg == pytest.approx(250, abs=25)
    assert placements(case_of(TERRACE, OVEN, by_number, weather.start_s), by_number, weather)[1].facing_deg == 265


def test_readings_of_a_turned_box_lie_beside_its_twin():
    late = START.replace(hour=15)
    plan = [(10.0 * m, n) for m in range(13) for n in ("tray",)]
    turned = with_event(blank([channel("tray")], start=late), "turned", 45.0, "250")
    facts = filled(turned, TRUE, plan)
    assert abs(judge(TERRACE, OVEN, facts).channels[0].bias_k) < 0.5
    unsaid = judge(TERRACE, OVEN, facts.model_copy(update={"events": []})).channels[0]
    assert unsaid.bias_k > 3


def test_a_cool_down_begins_hot_and_gives_its_time_constant():
    facts = blank(
        [channel("tray"), channel("inside-air"), channel("contents"), channel("air")], "cool-down", load=WATER
    )
    plan = [(float(m), c.channel) for m in (0, 5, 10, 15, 20, 30, 45, 60, 90, 120) for c in facts.channels]
    facts = filled(facts, TRUE, plan)
    verdict = judge(TERRACE, OVEN, facts)
    figure = next(f for f in verdict.figures if f.name == "cooling-hours")
    assert figure.value == pytest.approx(figure.twin, rel=0.25)
    assert max(abs(c.bias_k) for c in verdict.channels) < 5
    start = next(c for c in verdict.curves if c.node == "tray").temperature_c[0]
    assert start == pytest.approx(facts.channels[0].values[0], abs=1.0)


def test_a_trial_goes_on_past_midnight_with_the_same_pot():
    evening = START.replace(hour=22)
    facts = logged(TRUE, ("contents",), hours=4.0, every_min=10.0, start=evening, load=WATER)
    at = beside(TERRACE, OVEN, facts)
    series = at.likely.temperature_c["contents"]
    assert not np.isnan(series).any()
    assert series[-1] < series[0] + 1.0


def test_the_goal_is_met_or_missed():
    facts = logged(TRUE, ("tray",), hours=2.0)
    for target, minutes, passed in ((60.0, None, True), (60.0, 5.0, False), (300.0, None, False)):
        asked = facts.model_copy(update={"goal": Goal(node="tray", at_least_c=target, within_minutes=minutes)})
        figure = next(f for f in judge(TERRACE, OVEN, asked).figures if f.name == "goal")
        assert figure.passed is passed
        assert figure.words.startswith("Goal met" if passed else "Goal missed")


def test_standard_cooking_power_of_a_logged_pot_names_its_faults():
    facts = measured({"sun": "pyranometer", "air": "logger"})
    water = filled(
        blank([channel("contents"), channel("sun", "pyranometer"), channel("air")], "cooking-power", load=WATER), TRUE,
        [(5.0 * m, n) for m in range(49) for n in ("contents", "sun", "air")],
    )  # fmt: skip
    figure = next(f for f in judge(TERRACE, OVEN, water).figures if f.name == "cooking-power")
    assert 20 < figure.value < 120
    assert figure.passed is False
    assert "the standard wants 30" in figure.grade
    assert facts.of_node("sun", "sun") is not None


def test_events_disturb_for_their_time_only():
    facts = with_event(blank([]), "cloud", 30.0)
    assert [facts.disturbed(minutes_after(m)) for m in (29, 30, 39, 41)] == ["", "cloud", "cloud", ""]
