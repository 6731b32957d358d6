"""How a kiln is put up and filled, what back-up heat brings, what it earns."""

from __future__ import annotations

import math
from datetime import date

import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import WoodMoney
from drylamp.core.advice.schools import schools_of
from drylamp.core.builds.kiln.questions import backup, building
from drylamp.core.builds.kiln.questions.building import IN_SOIL, decay_years, panes
from drylamp.core.builds.kiln.spec import HOURS_M3, Door, Frame, KilnFan
from drylamp.core.builds.sheet import Around
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.loads.lumber.questions.money import money
from drylamp.core.loads.lumber.sheets.prices import PRICES, Prices
from drylamp.core.tables import timbers
from drylamp.core.text import plain
from drylamp.core.twin.case import usual_case
from drylamp.core.units import BOARD_FOOT_M3
from drylamp.demo.scenario import BARN_KILN, TERRACE
from tests.core.kilns import POPLAR, VENTED, boards, charge

DAY = date(2025, 6, 12)
READY = charge(boards("poplar", 27.0, 0.6, start="measured", start_mc=0.22, target_mc=0.10), stack_deep_m=1.0)


def context(build=VENTED, load=READY) -> AdviceContext:
    case = usual_case(TERRACE, None, build, load, DAY)
    return AdviceContext(case, weather_for(case))


def said(build=VENTED, pane=None):
    return building(context(build), build, pane)


def test_front_and_rear_wall_make_the_slope_and_a_conflict_is_named():
    rear = VENTED.front_m + VENTED.run_m * math.tan(math.radians(VENTED.tilt_deg))
    fair = said(VENTED.with_(rear_m=rear))
    assert fair.tilt_by_walls_deg == pytest.approx(VENTED.tilt_deg, abs=0.05)
    assert not fair.conflict
    low = said(VENTED.with_(rear_m=rear - 0.4))
    assert low.conflict
    words = plain(low.slope)
    assert "40° is typed, and the twin goes by that" in words
    assert f"Build the rear wall {round(1000 * rear)} mm high" in words
    none = said()
    assert none.tilt_by_walls_deg is None
    assert "make a rear wall of" in plain(none.slope)


def test_rafters_have_cuts_that_make_a_right_angle():
    found = said()
    assert found.seat_cut_deg + found.plumb_cut_deg == pytest.approx(90.0)
    assert found.rafter_m == pytest.approx(VENTED.roof_m + 0.15)


def test_panes_cover_the_roof_with_the_fewest_joints_across_it():
    whole = panes(VENTED, VENTED.length_m / 3.0, VENTED.roof_m)
    assert (whole.along, whole.up, whole.across_m) == (3, 1, 0.0)
    assert whole.joints_m == pytest.approx(2.0 * VENTED.roof_m)
    assert whole.waste_share == pytest.approx(0.0, abs=1e-3)
    assert "None of it runs across" in plain(whole.words)
    small = panes(VENTED, 0.6, 1.25)
    assert small.along * small.pane_wide_m >= VENTED.length_m - 1e-9
    assert small.up * small.pane_high_m - (small.up - 1) * 0.05 >= VENTED.roof_m - 1e-9
    turned = panes(VENTED, 1.25, 0.6)
    assert turned.across_m == small.across_m, "panes may be laid either way"
    assert "rain stands there and leaks in" in plain(panes(VENTED.with_(tilt_deg=15.0), 0.6, 0.9).words)
    with pytest.raises(InputProblem, match="no whole pane goes on it"):
        panes(VENTED, 5.0, 4.0)


@pytest.mark.parametrize("way", list(HOURS_M3))
def test_each_way_in_has_its_work_and_its_weight(way: str):
    build = VENTED.with_(door=Door(way=way))
    found = said(build)
    assert build.hours_m3 == HOURS_M3[way]
    assert found.lifts[0].kg > 5.0
    assert found.lifts[0].people == max(math.ceil(found.lifts[0].kg / 25.0 - 0.02), 1)
    assert "min a board foot" in plain(found.filling)
    assert f"{round(60.0 * HOURS_M3[way] * BOARD_FOOT_M3, 1)} min" in plain(found.filling)
    assert "never under a roof that is only leaned" in plain(found.filling)


def test_a_stack_up_to_the_baffle_leaves_no_room_for_hands():
    tall = READY.times(3.55)
    found = building(context(load=tall), VENTED, None)
    assert found.clear_m is not None
    assert found.clear_m < 0.3
    assert "too little to lay the last boards by hand" in plain(found.filling)


def test_timber_lasts_longer_off_the_soil_and_where_it_is_treated():
    years = {
        (wood, how, where): decay_years(VENTED.with_(frame=Frame(timber=wood, treated=how, stands=where)))
        for wood in ("pine", "robinia")
        for how in ("none", "brushed", "pressure")
        for where in IN_SOIL
    }
    assert years["pine", "none", "soil"] == timbers()["pine"].ground_years
    assert years["pine", "none", "soil"] < years["pine", "brushed", "soil"] < years["pine", "pressure", "soil"]
    assert years["robinia", "none", "soil"] > 3.0 * years["pine", "none", "soil"]
    assert years["pine", "none", "concrete"] > years["pine", "none", "stones"] > years["pine", "none", "soil"]
    assert "years from memory" in plain(said(BARN_KILN).decay)
    assert all("from memory" in row.source for row in timbers().values())


def test_loading_is_a_school_and_what_does_not_go_in_is_left_out():
    narrow = VENTED.with_(door=Door(way="end-door", wide_m=0.9))
    answer = next(iter(schools_of(context(narrow), "loading")))
    assert {plain(line.title) for line in answer.lines} == {"by a door in its end", "from above, its roof lifted"} or len(answer.lines) == 2  # fmt: skip
    free = next(iter(schools_of(context(), "loading")))
    assert len(free.lines) == 4
    assert free.quantity == "hours"
    assert free.worth == pytest.approx((6.0 - 2.5) * 0.6, abs=0.02)
    assert all(line.peak_c is None for line in free.lines)


def test_air_first_saves_kiln_and_is_counted_in_its_hours():
    answer = next(iter(schools_of(context(load=POPLAR), "air-first")))
    first, behind = sorted(answer.lines, key=lambda line: line.behind)
    assert plain(first.title) == "air-dried first, then the kiln"
    assert behind.behind > 24.0
    assert behind.is_mine


# --- back-up heat ---


def test_back_up_heat_brings_charges_for_its_kilowatt_hours():
    found = backup(context(), VENTED, 1500.0, 35.0, 0.30)
    assert [m.month for m in found.months] == [10, 11, 12, 1, 2, 3]
    for month in found.months:
        assert month.days_with is not None
        assert month.days_without is None or month.days_with <= month.days_without
        assert 0.0 < month.kwh <= 1.5 * 24.0 * (month.days_with + 1.0)
    assert found.charges_with > found.charges_without
    assert found.kwh_each == pytest.approx(found.kwh / (found.charges_with - found.charges_without), rel=0.05)
    assert found.price_each == pytest.approx(0.30 * found.kwh_each, rel=0.02)
    assert "licensed electrician" in plain(found.words)
    with pytest.raises(InputProblem, match="no boards are stacked"):
        backup(context(load=None), VENTED, 1500.0, 35.0, 0.30)


# --- money ---


def earned(build=VENTED, **more: object) -> WoodMoney:
    row = {"on": "2025-06-01", "kiln_price": 600.0, "built_hours": 50.0, "wage_price": 10.0, "green_price": 250.0, "dry_price": 900.0, "charges": 8.0} | more  # fmt: skip
    around = Around(TERRACE, DAY, build, READY, others={PRICES.name: [Prices.model_validate(row)]})
    return money(context(build), READY, around)


def test_cost_adds_up_and_pays_back():
    found = earned()
    m3 = 8.0 * 0.6
    assert found.m3_a_year == pytest.approx(m3)
    assert found.parts["kiln"] == pytest.approx((600.0 + 500.0) / 10.0 / m3, abs=0.01)
    assert found.parts["work"] == pytest.approx(4.0 * 10.0)
    assert found.parts["lost"] == pytest.approx(0.05 * 250.0)
    assert found.cost_m3 == pytest.approx(sum(found.parts.values()), abs=0.02)
    assert found.cost_board_foot == pytest.approx(found.cost_m3 * BOARD_FOOT_M3, abs=0.001)
    assert found.added_m3 == pytest.approx(900.0 * 0.95 - 250.0 - found.cost_m3, abs=0.02)
    assert found.payback_years == pytest.approx(1100.0 / ((found.added_m3 + found.parts["kiln"]) * m3), abs=0.1)
    assert "a board foot" in plain(found.words)
    assert "from memory" in plain(found.energy)


def test_fans_on_the_mains_cost_and_those_on_a_panel_do_not():
    by_panel = VENTED.with_(fan=KilnFan(driven="panel"))
    by_mains = VENTED.with_(fan=KilnFan(driven="mains", power_w=60.0))
    assert earned(by_panel).parts["electricity"] == 0.0
    assert earned(by_mains).parts["electricity"] == pytest.approx(8 * 30 * 8.0 * 0.06 * 0.25 / 4.8, rel=0.01)


def test_wood_that_is_cheap_to_buy_does_not_pay():
    found = earned(dry_price=260.0)
    assert found.added_m3 < 0.0
    assert found.payback_years is None
    assert "does not pay for itself in money" in plain(found.words)


def test_charges_are_the_twins_where_nobody_typed_them():
    found = earned(charges=None)
    assert 3.0 < found.charges < 40.0


def test_money_without_prices_is_refused():
    with pytest.raises(InputProblem, match="no prices are written down"):
        money(context(), READY, Around(TERRACE, DAY, VENTED, READY))
