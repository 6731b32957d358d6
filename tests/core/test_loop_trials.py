"""Trials with loops and kettles: what stand-ins read of them, and what their figures say."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest

from drylamp.core.builds.protocol import FLOW, INLET, OUTLET, PUMP
from drylamp.core.loads.load import Load
from drylamp.core.loads.pool.spec import OnWater
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.channels import places
from drylamp.core.trials.facts import EventFacts, TrialFacts
from drylamp.core.trials.figure import Figure
from drylamp.core.trials.plausible import check_reading
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.verdict import Verdict, judge
from drylamp.core.trials.yields import FIGURES, OF_BUILDS, OF_LOADS
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import (
    FIELD_KETTLE,
    FIELD_TEA,
    GARDEN_POOL,
    KETTLE_TRUTH,
    OVEN,
    PERGOLA_BARREL,
    PERGOLA_TUBES,
    PLUNGE_TUB,
    POOL_COIL,
    STEW,
    TERRACE,
    TUB_FRAME,
)
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled
from tests.wording import read

TRUE = Truth(calibration=Calibration(), noise_k=0.0, seed=3)
AFTERNOON = datetime.fromisoformat("2025-06-07T14:20:00+02:00")
EVENING = datetime.fromisoformat("2025-06-07T17:00:00+02:00")


def logged(
    build, load: Load, protocol: str, minutes: list[float], nodes: dict[str, str], truth: Truth = TRUE, **more
) -> TrialFacts:
    """A trial read at all minutes by instruments, node by node."""
    channels = [channel(node, instrument) for node, instrument in nodes.items()]
    facts = blank(channels, protocol, load=load, **{"start": AFTERNOON, **more})
    return filled(facts, truth, [(m, node) for m in minutes for node in nodes], build)


def figure(verdict: Verdict, name: str) -> Figure:
    return next(f for f in verdict.figures if f.name == name)


def test_every_figure_that_a_protocol_names_exists():
    have = {*FIGURES, *(name for own in (*OF_LOADS.values(), *OF_BUILDS.values()) for name in own)}
    named = {name for protocol in PROTOCOLS.values() for name in protocol.figures}
    assert named <= have


# --- watts of a loop ---


def test_a_loops_inlet_is_the_stores_water_and_its_watts_are_the_twins():
    """Nothing hidden, nothing noisy: litres × difference are the watts that the twin carries."""
    nodes = {OUTLET: "probe", INLET: "probe", FLOW: "bucket"}
    facts = logged(TUB_FRAME, PLUNGE_TUB, "loop-power", [0.0, 10.0, 20.0, 30.0], nodes)
    inlet, out, flow = (
        facts.of_node(node, quantity)
        for node, quantity in ((INLET, "temperature"), (OUTLET, "temperature"), (FLOW, "flow"))
    )
    assert inlet.values[0] > PLUNGE_TUB.start_c - 1.0, "not the mains"
    assert min(np.array(out.values) - np.array(inlet.values)) > 2.0
    assert flow.values[0] > 1.0
    found = figure(judge(TERRACE, TUB_FRAME, facts), "tap-power")
    assert found.value == pytest.approx(found.twin, rel=0.06)


# --- hours of a pump ---


def week(truth: Truth) -> Figure:
    days = [1440.0 * k for k in range(5)]
    facts = logged(
        TUB_FRAME, PLUNGE_TUB, "pump-hours", days, {PUMP: "hour-meter", "water": "probe"}, truth, start=EVENING
    )
    return figure(judge(TERRACE, TUB_FRAME, facts), "pump-hours")


def test_a_pump_that_runs_as_told_is_not_suspected():
    found = week(TRUE)
    assert found.value == pytest.approx(4 * 8.0, abs=0.5), "eleven to seven, four days"
    assert found.fault == ""
    assert found.passed


def test_a_timer_that_ends_early_is_found_by_the_hour_meter():
    early = PLUNGE_TUB.model_copy(update={"pump": PLUNGE_TUB.pump.model_copy(update={"ends": "15:00"})})
    found = week(Truth(calibration=Calibration(), noise_k=0.0, seed=3, load=early))
    assert found.value == pytest.approx(4 * 4.0, abs=0.5)
    assert "less than its switch should have let it" in read(found.fault)
    assert "look at its switch" in found.cure
    assert not found.passed


def test_a_meter_counts_on_and_stands_only_where_there_is_a_pump():
    assert check_reading("hours", 414.0, None, 412.0, 60.0).code == ""
    back = check_reading("hours", 41.4, None, 412.0, 60.0)
    assert back.code == "jump"
    assert "only counts on" in back.text
    assert check_reading("hours", -1.0, None, None, None).code == "impossible"
    assert PUMP in {place.channel.node for place in places(TUB_FRAME, PLUNGE_TUB)}
    assert PUMP not in {place.channel.node for place in places(PERGOLA_TUBES, PERGOLA_BARREL)}
    assert PUMP not in {place.channel.node for place in places(OVEN, STEW)}


# --- a tub's day, and a season ---


def test_a_tubs_day_is_heat_and_what_the_night_took():
    facts = logged(
        TUB_FRAME, PLUNGE_TUB, "warm-up", [0.0, 120.0, 240.0, 480.0, 600.0, 1200.0], {"water": "probe"}, start=datetime.fromisoformat("2025-06-07T09:00:00+02:00")
    )  # fmt: skip
    found = figure(judge(TERRACE, TUB_FRAME, facts), "tub-gain")
    water = facts.of_node("water")
    assert found.value == pytest.approx(700.0 * 4186.0 * (max(water.values) - water.values[0]) / 3.6e6, rel=0.01)
    assert found.value == pytest.approx(found.twin, rel=0.05)
    assert "had cooled by" in read(found.words)


POOL = GARDEN_POOL.model_copy(update={"start_c": 23.0, "warm_c": 24.5, "bathing": []})
SEPTEMBER = datetime.fromisoformat("2024-09-05T17:00:00+02:00")
MILD = ClearDay(tmin_c=13.0, tmax_c=24.0)


def season(load, truth: Truth = TRUE, days: int = 14) -> Figure | None:
    evenings = [1440.0 * k for k in range(days)]
    facts = logged(
        POOL_COIL, load, "season-log", evenings, {"water": "wired-probe"}, truth, start=SEPTEMBER, weather=MILD
    )
    verdict = judge(TERRACE, POOL_COIL, facts)
    return next((f for f in verdict.figures if f.name == "days-won"), None)


def test_days_won_in_fact_are_those_of_the_log_less_those_without_the_loop():
    found = season(POOL)
    assert found is not None
    assert found.value > 3
    assert found.value == pytest.approx(found.twin, abs=1.0), "nothing hidden"
    assert "on the same weather without the loop it would have been on" in read(found.words)


def test_a_loop_that_stood_still_won_nothing():
    still = POOL.standing()
    found = season(POOL, Truth(calibration=Calibration(), noise_k=0.0, seed=3, load=still))
    assert found is not None
    assert found.value <= 1.0
    assert not found.passed


def test_a_few_evenings_say_nothing_of_a_season():
    assert season(POOL, days=4) is None


def test_a_colder_wish_is_met_without_the_loop_and_wins_nothing():
    easy = POOL.model_copy(update={"warm_c": 15.0, "on_water": OnWater()})
    found = season(easy)
    assert found is not None
    assert found.value == 0.0


# --- a kettle ---


def test_a_kettles_watts_show_worn_foil():
    tea = FIELD_TEA.model_copy(update={"fill_l": 0.6, "pours": FIELD_TEA.pours[:1]})
    minutes = [0.0, 10.0, 20.0, 30.0, 45.0, 60.0, 75.0]
    start = datetime.fromisoformat("2025-06-08T12:10:00+02:00")
    sound, worn = (
        judge(
            TERRACE,
            FIELD_KETTLE,
            logged(FIELD_KETTLE, tea, "to-the-boil", minutes, {"water": "wired-probe"}, truth, start=start),
        )
        for truth in (TRUE, KETTLE_TRUTH)
    )
    as_told = figure(sound, "water-power")
    assert as_told.value == pytest.approx(as_told.twin, rel=0.03)
    assert figure(worn, "water-power").value < 0.92 * as_told.value
    assert worn.likely_cause == "optical"
    assert sound.likely_cause == ""


def test_a_noted_sky_lowers_what_is_expected_of_a_season():
    grey = EventFacts(kind="sky", time=SEPTEMBER.astimezone(UTC), note="grey")
    bright, dull = (
        judge(
            TERRACE,
            POOL_COIL,
            logged(
                POOL_COIL,
                POOL,
                "season-log",
                [1440.0 * k for k in range(7)],
                {"water": "wired-probe"},
                start=SEPTEMBER,
                weather=MILD,
                events=events,
            ),
        )
        for events in ([], [grey])
    )
    assert figure(dull, "days-won").value <= figure(bright, "days-won").value
