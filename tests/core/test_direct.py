"""What is asked straight out, and that no advice runs ahead of safety."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.direct import DirectAnswer, direct_answers
from drylamp.core.advice.flap import best_flap_deg
from drylamp.core.advice.pointing import turning_curve
from drylamp.core.advice.safe import HotParts
from drylamp.core.advice.schools import schools_of
from drylamp.core.advice.weakest import weakest_link
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.dish.optics import DishOptics, spill
from drylamp.core.text import marked
from drylamp.demo.scenario import CAPPINGS, CREW_POT, DISH, FUNNEL, MELTER, OVEN, STEW, WORKSHOP
from tests.core.advised import CONTEXT
from tests.wording import read

SMALL_STEW = STEW.model_copy(update={"food_kg": 0.5, "pot_diameter_m": 0.14, "pot_height_m": 0.09})


def asked(context: AdviceContext) -> dict[str, DirectAnswer]:
    return {answer.name: answer for answer in direct_answers(context).answers}


BOX = CONTEXT.of(OVEN, STEW)


def test_preheating_is_answered_with_minutes_an_hour_and_what_it_gains():
    found = asked(BOX)["preheat"]
    assert found.value in (15.0, 30.0, 45.0, 60.0, 90.0)
    assert found.since is not None
    assert found.since.strftime("%H:%M") in read(found.words)
    begun, ready = BOX.put_in_s(), BOX.ready(OVEN, STEW)

    def takes(minutes: float) -> float:
        got = BOX.score_of(OVEN, STEW, ready.uncovered(begun - 60.0 * minutes).run()).minutes
        assert got is not None
        return got

    assert takes(0.0) - takes(found.value) > 3.0, "what is told is worth something"
    assert takes(found.value) - takes(90.0) < 3.0, "and more of it is not"


def test_a_box_that_is_hot_at_once_needs_no_preheating():
    found = asked(CONTEXT.of(WORKSHOP, SMALL_STEW))["preheat"]
    assert found.value == 0.0 or "does not reach" in read(found.words)


def test_a_dish_is_not_told_to_be_heated_empty():
    assert "preheat" not in asked(CONTEXT.of(DISH, CREW_POT))


def test_how_long_is_the_twin_s_own_time_with_its_doubt():
    found = asked(BOX)["how-long"]
    run = BOX.run(OVEN, STEW)
    inside = run.temperature_c["contents"]
    assert found.value is not None
    at = run.edge_s >= BOX.put_in_s() + 60.0 * found.value
    assert inside[at][0] >= STEW.wanted_where(run.boils_c).celsius - 1.0
    assert "±" in read(found.words)


def test_what_does_not_get_there_says_so_and_how_far_it_is():
    grey = replace(
        BOX, weather=replace(BOX.weather, dni_w_m2=BOX.weather.dni_w_m2 * 0.0, dhi_w_m2=BOX.weather.dhi_w_m2 * 0.4)
    )
    found = asked(grey)["how-long"]
    assert found.value is None
    assert "short of" in read(found.words)


def test_headline_angle_part_and_page_agree_on_one_flap():
    """One optimum, one function: what the aim page finds is what is told and what the list of changes offers."""
    best = best_flap_deg(BOX)
    told = asked(BOX)["flap-angle"]
    assert told.value == best
    assert told.spec is not None
    assert told.spec.flap_angle_deg == best
    offered = [line for line in weakest_link(BOX).lines if line.part == "mirror" and f"{best:.0f}°" in read(line.title)]
    assert offered or best == OVEN.flap_angle_deg


def test_the_best_slope_is_the_best_of_those_tried_and_can_be_taken():
    context = CONTEXT.of(OVEN.with_(tilt_deg=0.0), STEW)
    found = asked(context)["tilt"]
    assert found.value is not None
    assert found.spec is not None
    better = context.score(found.spec, STEW).value
    assert better > context.score(context.build, STEW).value
    assert better >= context.score(OVEN.with_(tilt_deg=5.0), STEW).value


def test_a_slope_that_lets_go_is_told_to_be_flatter_whatever_it_costs():
    found = asked(CONTEXT.of(OVEN.with_(tilt_deg=60.0), STEW))["tilt"]
    assert found.value is not None
    assert found.value < 40.0
    assert "slides" in read(found.words)


# --- safe first ---


def test_a_dish_is_never_told_an_interval_that_spills_more_than_a_tenth():
    curve = turning_curve(CONTEXT.of(DISH, CREW_POT))
    if curve.enough_minutes is None:
        return
    spilt = np.interp(curve.enough_minutes, [at.minutes for at in curve.spill], [at.share for at in curve.spill])
    assert spilt <= 0.1 + 1e-6
    assert curve.enough_minutes < 60.0, "after an hour nearly all of it misses the pot"


def test_a_film_that_melts_in_the_heat_is_not_ahead_of_glass():
    """Polyethylene film over a box that stands at 140 °C empty: shown, if at all, with what speaks against it."""
    context = CONTEXT.of(OVEN, None)
    heat, film = HotParts.of(context), OVEN.with_(cover=GlazedCover(material="pe-film", thickness_m=0.0002, layers=1))
    assert "standing empty" in read(heat.against(film, None))
    assert heat.against(OVEN, None) == ""
    for answer in schools_of(context):
        best = next(line for line in answer.lines if line.behind == 0)
        assert not marked(best.unsafe)


def test_a_steep_fixed_tray_that_lets_go_is_no_advice():
    steep = OVEN.with_(tilt_deg=80.0, shelf=None)
    assert "slides" in read(HotParts.of(BOX).against(steep, STEW))
    found = asked(CONTEXT.of(OVEN.with_(tilt_deg=15.0), STEW))["tilt"]
    spec = found.spec or OVEN
    assert spec.lets_go_of(STEW) == ""


def test_half_the_food_is_a_choice_and_takes_no_rank():
    lines = weakest_link(BOX).lines
    half = next(line for line in lines if line.choice)
    assert half.rank is None
    assert all(line.rank is not None for line in lines if not line.choice and not marked(line.unsafe))


def test_what_lies_within_its_doubt_shares_a_rank_the_least_work_first():
    lines = [line for line in weakest_link(BOX).lines if line.rank is not None]
    assert [line.rank for line in lines] == sorted(line.rank for line in lines if line.rank is not None)
    shared = [line.rank for line in lines]
    assert len(set(shared)) < len(shared), "some gains cannot be told apart"
    for rank in set(shared):
        hours = [line.hours for line in lines if line.rank == rank]
        assert hours == sorted(hours)


def test_where_no_wax_melts_it_is_said_and_temperature_counts():
    frost = replace(CONTEXT, weather=replace(CONTEXT.weather, dni_w_m2=CONTEXT.weather.dni_w_m2 * 0.05))
    cold = frost.of(MELTER, CAPPINGS).on(air_c=CONTEXT.weather.air_c - 25.0)
    found = weakest_link(cold)
    assert {line.quantity for line in found.lines} == {"difference"}
    assert "today" in read(found.today)
    assert read(weakest_link(CONTEXT.of(MELTER, CAPPINGS)).today) == ""


# --- light past the pot ---


def test_spill_leaves_the_pot_s_own_shadow_out():
    """Aimed, with a perfect curve, nothing spills: what the pot shades was never thrown."""
    exact = DISH.with_(slope_error_mrad=0.0)
    assert spill(exact, CREW_POT, np.array([0.0]))[0] == pytest.approx(0.0, abs=0.03)
    assert spill(exact, CREW_POT, np.array([15.0]))[0] > 0.9


def test_a_dish_takes_less_of_the_ring_the_smaller_its_pot_and_a_funnel_all():
    ring = [
        DishOptics.of(DISH, CREW_POT.model_copy(update={"pot_diameter_m": d, "pot_height_m": d / 2})).ring_share
        for d in (0.15, 0.3, 0.6)
    ]
    assert ring == sorted(ring)
    assert 0.2 < ring[0] < ring[-1] <= 1.0
    assert not hasattr(CONTEXT.of(FUNNEL, STEW).ready(FUNNEL, STEW), "ring_share")
