"""Advice: changes ranked, schools, sayings, cautions as entries, pointing, turning, plans of meals, months and days."""

from __future__ import annotations

import itertools
import math
import re
from datetime import date

import numpy as np
import pytest

from drylamp.core.advice.changes import changes_of
from drylamp.core.advice.context import AdviceContext, doubt_of, score_of
from drylamp.core.advice.flap import flap_angles
from drylamp.core.advice.meal import YearPlan, days_like, done_at, has_chances, meal_plan, stock_days, year_plan
from drylamp.core.advice.patch import bright_patch
from drylamp.core.advice.plan import day_plan
from drylamp.core.advice.pointing import pointing, turning_curve
from drylamp.core.advice.sayings import sayings_of
from drylamp.core.advice.schools import schools_of
from drylamp.core.advice.weakest import weakest_link
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.dish.optics import spill
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.pot.outcome import rest_minutes
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.outcome.of_load import KELVIN
from drylamp.core.outcome.registry import measure_of
from drylamp.core.sky.dome import plane_axes
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import (
    BISCUITS,
    CAPPINGS,
    CREW_POT,
    DISH,
    FLAT_LOAF,
    FUNNEL,
    HEATER,
    MELTER,
    OVEN,
    SHOWERS,
    STEW,
    TERRACE,
    WORKSHOP,
)
from tests.core import dryers, kilns
from tests.core.advised import CONTEXT, DAY, JUNE, PAIRS, names_of
from tests.posing import posed, simulated, summarised
from tests.wording import read


@pytest.fixture(params=list(PAIRS))
def pair(request):
    return PAIRS[request.param]


# --- the weakest link ---


def test_changes_come_from_the_builds_own_fields_and_fit(pair):
    build, load = pair
    found = changes_of(build, load)
    assert len(found) >= 6
    assert len({c.title for c in found}) == len(found)
    for change in found:
        assert (change.build, change.load) != (build, load), change.title
        assert change.price >= 0
        kind_of(change.build).check_fit(change.build, change.load)


def test_a_change_is_not_offered_twice():
    best = OVEN.model_copy(update={"cover": GlazedCover(layers=3), "seal_gap_mm": 0.1, "turned_minutes": 30.0})
    titles = {c.title for c in changes_of(best, STEW)}
    assert not any(t.startswith(("one more sheet", "a tighter seal", "turned to the sun")) for t in titles)


def test_the_weakest_link_is_ranked_with_doubt_and_price():
    found = weakest_link(CONTEXT.of(OVEN, STEW))
    assert len(found.lines) >= 20
    ranks = [line.rank for line in found.lines if line.rank is not None]
    assert ranks == sorted(ranks)
    best_of = [max(line.gain for line in found.lines if line.rank == rank) for rank in dict.fromkeys(ranks)]
    assert best_of == sorted(best_of, reverse=True)
    assert all(line.choice or line.unsafe for line in found.lines if line.rank is None)
    assert all(line.doubt > 0 for line in found.lines)
    least = CONTEXT.of(OVEN, STEW).measure.least_worth
    assert all(line.real == (abs(line.gain) > line.doubt and abs(line.gain) > least) for line in found.lines)
    assert "heat that the food takes up" in found.counts, "where it boils a temperature would saturate"
    assert found.today == ""
    assert found.lines[0].title in found.best
    turned = next(line for line in found.lines if line.title.startswith("turned to the sun every 60"))
    assert turned.sooner_minutes > 20
    assert turned.per_money is None
    glass = next(line for line in found.lines if line.title.startswith("low-iron"))
    assert glass.per_money == pytest.approx(glass.gain / glass.price, rel=1e-2)
    for line in found.lines:
        assert ("too small to tell" in line.words) == (not line.real)


def test_a_leaking_seal_is_the_weakest_link_where_it_leaks():
    leaky = OVEN.model_copy(update={"seal_gap_mm": 8.0, "turned_minutes": 30.0})
    found = weakest_link(CONTEXT.of(leaky, STEW))
    seal = next(k for k, line in enumerate(found.lines) if line.title.startswith("a tighter seal"))
    assert seal == 0
    assert found.lines[0].real


def test_a_calibrated_leak_counts_for_more():
    gain = [
        next(
            line.gain
            for line in weakest_link(AdviceContext(posed(TERRACE, None, OVEN, STEW, calibration), DAY)).lines
            if "tighter seal" in line.title
        )
        for calibration in (Calibration(), Calibration(leak=4.0))
    ]
    assert gain[1] > gain[0] + 1


def test_melters_are_judged_by_wax():
    assert measure_of(CAPPINGS).quantity == "mass_rate"
    found = weakest_link(CONTEXT.of(MELTER, CAPPINGS))
    assert {line.quantity for line in found.lines} == {"mass_rate"}
    assert any(line.title == "turned to the sun every 60 min" and line.gain > 0 for line in found.lines)


def test_doubt_of_a_gain_holds_what_moves_it():
    assert doubt_of([5.0, 5.0, 5.0], KELVIN) == pytest.approx(math.hypot(0.75, 0.2))
    assert doubt_of([5.0, 8.0, 1.0], KELVIN) == pytest.approx(math.sqrt(9 + 16 + 0.75**2 + 0.04))


def test_score_of_an_empty_build_is_its_hottest_part():
    run = CONTEXT.run(OVEN, None)
    assert score_of(TERRACE, OVEN, None, run).value == pytest.approx(np.nanmax(run.temperature_c["tray"]))


# --- schools and sayings ---


def test_schools_know_which_answer_is_mine_and_which_is_ahead():
    found = {answer.name: answer for answer in schools_of(CONTEXT.of(OVEN, STEW))}
    assert {"tilt", "lining", "cover", "lid", "pot", "turning"} <= set(found)
    for answer in found.values():
        assert min(line.behind for line in answer.lines) == 0
        assert answer.worth >= 0
        assert ("does not matter" in answer.words) == (
            answer.worth <= max(answer.doubt, CONTEXT.of(OVEN, STEW).measure.least_worth)
        )
    assert [line.title for line in found["turning"].lines if line.is_mine] == ["left as it stands"]
    assert found["tilt"].lines[1].behind > 5, "a stock 45° is too steep in June at 41° N"


def test_every_school_belongs_to_a_kind_and_is_asked_somewhere():
    asked = {answer.name for build, load in PAIRS.values() for answer in schools_of(CONTEXT.of(build, load))}
    assert asked == names_of("schools")


RULINGS = {
    "box": {"preheat": ("holds", "holds partly"), "seal": ("wrong", "holds partly"), "pot-colour": ("holds", "holds partly"), "efficient": ("wrong",), "steadier": ("holds",), "outside": ("wrong", "holds partly"), "blacker": ("does not matter here",)},
    "funnel": {"clear-lid": ("wrong", "does not matter here"), "preheat": ("does not matter here",)},
    "dish": {"overcook": ("wrong",), "outside": ("does not matter here", "holds partly")},
    "melter": {"efficient": ("wrong",)},
    "heater": {"film-keeps": ("wrong", "does not matter here", "holds partly"), "efficient": ("wrong",), "rated": ("wrong",)},
    "tub": {"slow-water": ("wrong",), "pump-eats": ("wrong",), "cover-first": ("holds", "holds partly")},
    "bottles": {"efficient": ("wrong",), "foil-behind": ("wrong", "does not matter here")},
    "barrel": {"efficient": ("wrong",)},
    "kettle": {"efficient": ("wrong",), "outside": ("does not matter here", "holds partly")},
    "row": {"tubes-winter": ("holds partly", "wrong", "holds"), "efficient": ("wrong",), "rated": ("wrong",)},
    "hose": {"slow-water": ("wrong",), "foil-under-black": ("wrong",), "efficient": ("wrong",), "rated": ("wrong",)}, **dryers.RULINGS, **kilns.RULINGS,
}  # fmt: skip


def test_a_film_keeps_water_warm_where_the_cover_leaks():
    loose = HEATER.with_(seal_gap_mm=0.8)
    found = {line.name: line for line in sayings_of(CONTEXT.of(loose, SHOWERS))}
    assert found["film-keeps"].ruling in ("holds", "holds partly")


@pytest.mark.parametrize("name", list(PAIRS))
def test_sayings_are_ruled_on_by_the_twin(name):
    build, load = PAIRS[name]
    found = {line.name: line for line in sayings_of(CONTEXT.of(build, load))}
    for saying, allowed in RULINGS[name].items():
        assert found[saying].ruling in allowed, found[saying]
    assert all(line.words.endswith(".") for line in found.values())


def test_every_saying_is_put_to_the_test_somewhere():
    said = {
        line.name
        for build, load in [*PAIRS.values(), (WORKSHOP, _mixed())]
        for line in sayings_of(CONTEXT.of(build, load))
    }
    assert said == names_of("sayings")


def _mixed():
    crayon = BISCUITS.portions[1].model_copy(update={"what": "wax-crayon", "title": "crayon"})
    return BISCUITS.model_copy(
        update={"portions": [BISCUITS.portions[0].model_copy(update={"what": "milk-chocolate"}), crayon]}
    )


def test_a_tight_box_lets_the_outside_matter_less_than_a_bare_pot():
    box, funnel = (
        next(line.effect for line in sayings_of(CONTEXT.of(build, STEW)) if line.name == "outside")
        for build in (OVEN, FUNNEL)
    )
    assert box < 0
    assert funnel < 0


# --- the plan of a day ---


def plan(build, load):
    run, empty = simulated(TERRACE, None, build, load, DAY), None
    return day_plan(build, load, summarised(TERRACE, build, load, run, empty))


def test_a_loaf_is_first_looked_at_when_the_twin_says():
    steps = plan(FUNNEL, FLAT_LOAF)
    look = next(step for step in steps if "first look" in step.text)
    done = next(step for step in steps if "at 94 °C" in read(step.text))
    assert look.time < done.time
    assert "is still pale" in look.text
    assert [step.time for step in steps] == sorted(step.time for step in steps)


def test_whistles_are_counted_and_the_pot_rests_before_it_is_opened():
    steps = plan(DISH, CREW_POT)
    done = next(step for step in steps if "whistle number 6" in step.text)
    opened = next(step for step in steps if "open it now" in step.text)
    rest = (opened.time - done.time).total_seconds() / 60
    assert rest == pytest.approx(rest_minutes(CREW_POT, 20.0, 98.4), rel=0.2)
    assert 10 < rest < 90
    assert "only" in plan(DISH, CREW_POT.model_copy(update={"whistles": 60, "goes_in": "20:00"}))[-1].text


def test_a_melter_is_levelled_first_and_filled_again_when_it_has_run():
    steps = plan(MELTER, CAPPINGS)
    assert steps[0].text.startswith("set the melter level")
    assert "next batch" in steps[-1].text


def test_portions_are_put_in_at_their_places():
    steps = [step.text for step in plan(WORKSHOP, BISCUITS)]
    assert "left biscuit in, left, at the back" in steps
    assert any(text.endswith(("soft", "melted")) for text in steps)


# --- pointing ---


def aimed_at(build, toward):
    return pointing(build, STEW, np.asarray(toward))


def test_an_aimed_build_throws_no_shadow_on_its_indicator():
    at = aimed_at(OVEN, plane_axes(25.0, 180.0)[2])
    assert at.pin_shadow_m < 1e-9
    assert at.pin_toward == ""
    assert abs(at.turn_deg) < 0.1
    assert any("it is aimed" in words for words in at.words)


@pytest.mark.parametrize(("azimuth", "side", "sign"), [(150.0, "right", -1), (210.0, "left", 1)])
def test_the_shadow_falls_away_from_the_sun(azimuth, side, sign):
    """Seen from in front of the opening, which faces south: the sun in the south-east stands to the right of somebody
    who looks north at it, so that it throws the shadow left.
    """
    at = aimed_at(OVEN, plane_axes(25.0, azimuth)[2])
    across = plane_axes(25.0, 180.0)[0]
    toward = plane_axes(25.0, azimuth)[2]
    assert at.pin_toward == ("left" if across @ toward > 0 else "right")
    assert math.copysign(1, at.turn_deg) == sign
    assert at.pin_shadow_m == pytest.approx(
        0.1 * math.hypot(*(plane_axes(25.0, 180.0)[:2] @ toward)) / (plane_axes(25.0, 180.0)[2] @ toward), abs=1e-4
    )
    assert side in ("left", "right")


def test_stick_pot_and_pointer_have_the_suns_slope():
    at = aimed_at(OVEN, plane_axes(50.0, 135.0)[2])  # the sun 40° high
    slope = math.tan(math.radians(40))
    assert at.stick_shadow_m == pytest.approx(0.3 / slope, abs=1e-3)
    assert at.pot_shadow_m == pytest.approx(0.12 / slope, abs=1e-3)
    assert at.pointer_rise_m == pytest.approx(slope, abs=1e-3)
    assert at.stick_bearing_deg == pytest.approx(315)
    assert at.pointer_bearing_deg == pytest.approx(135)
    assert any("never sight along it" in words for words in at.words)


def test_at_night_there_is_nothing_to_point_at():
    at = aimed_at(OVEN, [0.0, -0.9, -0.4])
    assert not at.is_up
    assert "sun is down" in at.words[0]


def test_the_best_flap_is_the_best_of_all_angles():
    found = flap_angles(CONTEXT.of(OVEN, STEW), DAY.sun.direction[150])
    assert found.now[found.angles_deg.index(found.best_now_deg)] == 1.0
    assert found.meal[found.angles_deg.index(found.best_meal_deg)] == 1.0
    assert 0 <= found.meal_loss < 0.3
    assert flap_angles(CONTEXT.of(FUNNEL, STEW), DAY.sun.direction[150]) is None
    assert flap_angles(CONTEXT.of(OVEN.model_copy(update={"mirror": None}), STEW), DAY.sun.direction[150]) is None


def test_turning_more_often_never_costs():
    curve = turning_curve(CONTEXT.of(DISH, CREW_POT))
    light = [line.light_share for line in curve.lines]
    assert light[0] == 1.0
    assert light[-1] < 0.3
    assert all(a >= b - 0.02 for a, b in itertools.pairwise(light))
    assert curve.spill[-1].share > 0.9
    assert turning_curve(CONTEXT.of(OVEN, STEW)).spill == []


def test_the_patch_says_which_portion_it_lies_on():
    at = DAY.sun.direction[114]  # 09:30 solar
    flap = WORKSHOP.mirror.model_copy(update={"angle_deg": 90.0})
    found = bright_patch(WORKSHOP.model_copy(update={"mirror": flap}), BISCUITS, at)
    assert [spot.title for spot in found.spots] == ["left biscuit", "right biscuit"]
    assert found.spots[0].suns > 1.25 * found.spots[1].suns
    assert "turn the flap or move it" in found.words
    assert bright_patch(MELTER, CAPPINGS, at).spots[0].node == "wax"
    with pytest.raises(InputProblem, match="this kind has none"):
        bright_patch(FUNNEL, STEW, at)


# --- meals, months, days ---


def test_days_like_one_share_its_sun_and_nothing_else():
    days = days_like(TERRACE, JUNE, 4)
    assert len(days) == 4
    assert (days[0].sun.direction == days[3].sun.direction).all()
    assert days[0].ghi_w_m2.sum() != days[3].ghi_w_m2.sum()
    assert (days_like(TERRACE, JUNE, 4)[2].ghi_w_m2 == days[2].ghi_w_m2).all()


@pytest.fixture(scope="module")
def lunch():
    return meal_plan(posed(TERRACE, None, OVEN.model_copy(update={"turned_minutes": 60.0}), STEW), "15:00")


def test_chances_fall_the_later_it_goes_in(lunch):
    chances = [line.chance for line in lunch.starts]
    assert chances[-1] == 0
    assert max(chances) > 0.3
    assert all(a >= b - 0.13 for a, b in itertools.pairwise(chances))
    assert lunch.words.endswith(".")
    if lunch.latest:
        assert lunch.latest.chance >= 0.8


def test_larger_meals_take_longer_and_preheating_saves_minutes(lunch):
    ready = [line.ready for line in lunch.sizes if line.ready]
    assert ready == sorted(ready)
    assert lunch.biggest_kg == max(line.food_kg for line in lunch.sizes if line.in_time)
    minutes = [line.minutes for line in lunch.preheats]
    assert minutes[0] > minutes[1] > minutes[2]


def test_without_clearness_only_clear_days_and_no_chance_are_given():
    plain = TERRACE.model_copy(update={"climate": [m.model_copy(update={"clearness": None}) for m in TERRACE.climate]})
    assert not has_chances(plain)
    found = meal_plan(posed(plain, None, DISH, CREW_POT), "13:00")
    assert all(line.chance is None for line in found.starts)
    assert found.latest is not None
    assert "no chance is given" in found.words


def test_a_meal_before_the_sun_is_refused():
    with pytest.raises(InputProblem, match="the sun needs its time"):
        meal_plan(posed(TERRACE, None, OVEN, STEW), "05:00")


@pytest.fixture(scope="module")
def melting() -> YearPlan:
    return year_plan(posed(TERRACE, None, MELTER, CAPPINGS))


def test_a_melter_has_its_season(melting):
    kilograms = [line.kg_a_day for line in melting.months]
    assert min(kilograms[5:8]) > 2 * max(kilograms[0], kilograms[11])
    assert all(0 <= line.kg_a_day <= CAPPINGS.yield_kg for line in melting.months)
    assert melting.days_a_year == pytest.approx(sum(line.days for line in melting.months))
    assert melting.first_month in (3, 4, 5, 6, 7)
    assert "kg of clean wax" in read(melting.words)


def test_a_stock_is_melted_by_and_by(melting):
    some, days = stock_days(melting, 5.0, date(2025, 6, 12), date(2025, 9, 22))
    assert some == 5.0
    assert 4 < days < 30
    rest, all_days = stock_days(melting, 500.0, date(2025, 6, 12), date(2025, 9, 22))
    assert rest < 500
    assert all_days == (date(2025, 9, 22) - date(2025, 6, 12)).days


def test_done_means_held_as_long_as_wanted():
    run = CONTEXT.run(DISH, in_vessel(CREW_POT, "thin-enamel").model_copy(update={"hold_minutes": 60.0}))
    quick = done_at(run, in_vessel(CREW_POT, "thin-enamel").model_copy(update={"hold_minutes": 0.0}))
    held = done_at(run, in_vessel(CREW_POT, "thin-enamel").model_copy(update={"hold_minutes": 60.0}))
    assert held - quick == pytest.approx(3600, abs=600)
    assert (
        done_at(
            CONTEXT.run(FUNNEL, PotLoad(food_kg=12.0, pot_diameter_m=0.26, pot_height_m=0.26)),
            PotLoad(food_kg=12.0, pot_diameter_m=0.26, pot_height_m=0.26),
        )
        is None
    )


# --- a focus is never left to wander ---


@pytest.mark.parametrize("focal_m", [0.45, 0.6, 0.9, 1.2, 2.0])
@pytest.mark.parametrize("surface", ["smooth", "fair", "rough"])
def test_no_turning_is_recommended_that_spills_more_than_a_tenth_past_the_pot(focal_m, surface):
    """A large boiling pot saturates, so the score alone would let an hour pass."""
    dish = DISH.model_copy(update={"focal_m": focal_m, "surface": surface})
    curve = turning_curve(CONTEXT.of(dish, CREW_POT))
    recommended = re.search(r"every (\d+) min", curve.words)
    after = np.array([float(recommended.group(1))]) * 0.25 if recommended else np.array([0.0])
    assert "enough" not in curve.words or recommended
    assert recommended is None or float(spill(dish, CREW_POT, after)[0]) <= 0.1
    assert recommended or "beside the pot" in curve.words


def test_turning_that_brings_nothing_is_said_so_without_minus_signs():
    """A level box of water in June: turned or not, the glass lies flat."""
    words = read(turning_curve(CONTEXT.of(HEATER, SHOWERS)).words)
    assert "turning it would bring nothing here" in words or "costs" in words
    assert "−" not in words
    assert "-0" not in words
