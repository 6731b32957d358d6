"""Trials of cookers and melters, read by the stand-ins: figures beside the twin, turns noted or by habit."""

from __future__ import annotations

from datetime import datetime, timedelta

import numpy as np
import pytest

from drylamp.core.trials.beside import beside, case_of, placements
from drylamp.core.trials.facts import EventFacts
from drylamp.core.trials.fit import fit
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import BISCUITS, CAPPINGS, CREW_POT, DISH, FLAT_LOAF, FUNNEL, MELTER, TERRACE, WORKSHOP
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled

LATE = datetime.fromisoformat("2025-06-12T11:00:00+02:00")
PLAIN = Truth(calibration=Calibration(), noise_k=0.2, seed=5)


def trial(build, load, protocol, nodes, truth=PLAIN, minutes=None, instrument="probe", start=LATE, events=None):
    channels = [channel(node, instrument) for node in nodes]
    if "catch" in nodes:
        channels[nodes.index("catch")] = channel("catch", "scale")
    facts = blank(channels, protocol, start, "flat roof", load=load, events=events or [])
    plan = [(m, node) for m in minutes or PROTOCOLS[protocol].reading_minutes for node in nodes]
    return filled(facts, truth, plan, build)


def figures(build, facts):
    return {figure.name: figure for figure in judge(TERRACE, build, facts).figures}


def test_a_melt_run_weighs_its_wax_beside_the_twin():
    facts = trial(MELTER, CAPPINGS, "melt-run", ["wax", "inside-air", "catch"], start=LATE.replace(hour=10))
    found = figures(MELTER, facts)["clean-wax"]
    assert found.value == pytest.approx(found.twin, abs=0.05)
    assert found.value <= CAPPINGS.yield_kg + 0.02
    assert "by the sun's doubt" in found.words


def test_a_batch_that_was_not_weighed_says_so():
    facts = trial(MELTER, CAPPINGS, "melt-run", ["wax", "inside-air"], start=LATE.replace(hour=10))
    assert "not weighed yet" in figures(MELTER, facts)["clean-wax"].words


def test_a_leaking_melter_is_found_out():
    truth = Truth(calibration=Calibration(optical=0.9, leak=6.0), noise_k=0.2, seed=6)
    facts = trial(
        MELTER,
        CAPPINGS,
        "melt-run",
        ["wax", "inside-air"],
        truth,
        [5.0 * k for k in range(70)],
        start=LATE.replace(hour=9),
    )
    verdict = judge(TERRACE, MELTER, facts)
    assert next(c for c in verdict.channels if c.node == "wax").bias_k < 0
    found = fit(beside(TERRACE, MELTER, facts), ["optical", "leak"])
    low, high = next((p.low, p.high) for p in found.parameters if p.name == "leak")
    assert low < 6.0 < high or high > 3.0


def test_portions_are_judged_one_by_one():
    nodes = [p.node for p in BISCUITS.portions]
    facts = trial(WORKSHOP, BISCUITS, "portions", nodes)
    found = figures(WORKSHOP, facts)["portion-states"]
    assert "left biscuit" in found.words
    assert "right biscuit" in found.words
    assert found.grade == "twin right on 2 of 2"


def test_a_portion_without_a_probe_is_left_to_the_twin():
    facts = trial(WORKSHOP, BISCUITS, "portions", ["portion-left"])
    assert "right biscuit: no probe, the twin says" in figures(WORKSHOP, facts)["portion-states"].words


def test_a_loaf_is_timed_by_its_core():
    facts = trial(FUNNEL, FLAT_LOAF, "loaf", ["core"], minutes=[10.0 * k for k in range(15)])
    found = figures(FUNNEL, facts)["minutes-to-target"]
    assert found.value == pytest.approx(found.twin, abs=8)


def test_cooking_power_is_for_dishes_too():
    from drylamp.core.loads.pot.spec import PotLoad, in_vessel

    water = in_vessel(PotLoad(food="water", food_kg=7.0, pot_diameter_m=0.28, pot_height_m=0.2), "thin-enamel")
    facts = trial(DISH, water, "cooking-power", ["contents"], minutes=[10.0 * k for k in range(12)])
    assert "cooking-power" in figures(DISH, facts)


def test_turned_by_habit_unless_the_trial_notes_its_turns():
    quiet = trial(DISH, CREW_POT, "heat-up", ["contents"], minutes=[0.0, 10.0, 20.0])
    weather = beside(TERRACE, DISH, quiet).likely.weather
    habit = placements(case_of(TERRACE, DISH, quiet, weather.start_s), quiet, weather)
    assert len(habit) > 3
    noted = quiet.model_copy(update={"events": [EventFacts(kind="turned", time=LATE + timedelta(minutes=30))]})
    mine = placements(case_of(TERRACE, DISH, noted, weather.start_s), noted, weather)
    assert len(mine) == 2
    assert mine[0].tilt_deg > mine[1].tilt_deg, "the sun climbs in the morning"
    assert mine[1].from_s == (LATE + timedelta(minutes=30)).timestamp()


def test_a_dish_that_nobody_turned_shows_in_its_readings():
    left = trial(
        DISH,
        CREW_POT,
        "heat-up",
        ["contents"],
        minutes=[0.0, 5.0, 10.0, 15.0, 30.0, 60.0],
        events=[EventFacts(kind="turned", time=LATE)],
    )
    values = np.array(left.channels[0].values)
    assert values.max() < 119
    assert values[-1] < values.max() + 1


@pytest.mark.parametrize("row", PROTOCOLS.values(), ids=list(PROTOCOLS))
def test_protocols_name_what_to_prepare_for_every_kind(row):
    assert row.kinds
    assert row.checklist
    if row.needs_load:
        assert any(
            w.node in ("contents", "core", "wax", "portions", "water", "outlet", "food", "boards") for w in row.channels
        )
