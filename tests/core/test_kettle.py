"""The tube kettle: what it is asked, what it refuses, what it says of a day."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.flap import flap_angles
from drylamp.core.advice.kettle import PutOut
from drylamp.core.advice.sayings import sayings_of
from drylamp.core.advice.schools import schools_of
from drylamp.core.advice.tilt import tilt_year
from drylamp.core.builds.common.vacuum_tube.advice import tips_at_m_s
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.builds.common.vacuum_tube.wings import Wings
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.builds.tube_row.spec import SheetBehind, TubeRow
from drylamp.core.checks import InputProblem
from drylamp.core.loads.kettle.outcome import KettleResult, KettleResults, results
from drylamp.core.loads.kettle.questions import boils, instead, put_out
from drylamp.core.loads.kettle.spec import KettleWater, Pour
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import FIELD_KETTLE, FIELD_TEA, OVEN, SOUTHERN, TERRACE
from tests.posing import posed, simulated
from tests.wording import read

JUNE = date(2025, 6, 12)
DAY = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26), Span(start=JUNE))
KETTLE = TubeKettle(facing_deg=180.0, tilt_deg=45.0)
TEA = KettleWater(fill_l=0.4, pours=[Pour(goes_in="12:00", wanted_at="15:00")])


def on(build, load, weather=DAY, site=TERRACE) -> AdviceContext:
    return AdviceContext(posed(site, None, build, load), weather)


def told(build, load) -> KettleResult:
    found = results(TERRACE, load, simulated(TERRACE, None, build, load, DAY))
    assert isinstance(found, KettleResults)
    assert found.kettle is not None
    return found.kettle


# --- a day ---


def test_each_filling_is_told_of_and_the_second_begins_cold():
    twice = TEA.model_copy(
        update={"pours": [Pour(goes_in="10:00", wanted_at="13:00"), Pour(goes_in="13:30", wanted_at="16:00")]}
    )
    day = told(KETTLE, twice).days[0]
    first, second = day.fills
    assert first.put_out.hour == 10
    assert second.put_out.hour == 13
    assert first.minutes is not None
    assert second.minutes is not None
    assert second.minutes < first.minutes, "the sun stands higher, and the tube is warm"
    assert second.after_hour_c < 98.0
    assert day.absorbed_w > day.most_w * 0.8
    assert 20.0 < day.absorbed_w < 90.0, "of some hundred watts at the mouth of the wings"
    run = simulated(TERRACE, None, KETTLE, twice, DAY)
    at = np.searchsorted(run.edge_s, second.put_out.timestamp())
    assert run.temperature_c["water"][at] == pytest.approx(15.0)
    assert run.energy_closure < 1e-8


def test_it_stands_in_the_shade_until_it_is_put_out():
    run = simulated(TERRACE, None, KETTLE, TEA, DAY)
    before = run.edge_s < told(KETTLE, TEA).days[0].fills[0].put_out.timestamp()
    assert run.temperature_c["coat"][before].max() < 30.0
    assert run.opening_w[: int(before.sum()) - 1].max() == 0.0


def test_a_full_tube_says_when_it_is_late_and_how_warm_it_is():
    words = read(told(FIELD_KETTLE, FIELD_TEA).words)
    assert "Put out at 08:30 it is late" in words
    assert "°C by 10:00" in words
    cold = told(KETTLE.with_(wings=None), KettleWater(fill_l=0.7, pours=[Pour(goes_in="17:30", wanted_at="18:00")]))
    assert "it never gets to 95 °C" in read(cold.words)


# --- what it is asked ---


def warm_by(row: PutOut) -> float:
    assert row.latest is not None
    return (row.wanted_at - row.latest).total_seconds() / 60.0


def test_put_out_as_told_it_is_hot_in_time_and_a_quarter_of_an_hour_later_it_is_not():
    tea = TEA.model_copy(update={"pours": [Pour(goes_in="12:00", wanted_at="14:00")]})
    row = put_out(on(KETTLE, tea), tea).rows[0]
    assert row.minutes is not None
    assert row.minutes <= warm_by(row)
    stood = KETTLE.turned_to(row.facing_deg, row.tilt_deg)
    stood = stood if row.open_deg is None else stood.with_flap_at(row.open_deg)

    def hot(before_minutes: float) -> bool:
        ready = on(stood, tea).ready(stood, tea)
        wanted = row.wanted_at.timestamp()
        run = ready.run(put_s=wanted - 60.0 * before_minutes)
        return bool(np.nanmax(run.temperature_c["water"][run.edge_s <= wanted]) >= tea.target_c)

    assert hot(warm_by(row))
    assert not hot(warm_by(row) - 15.0)


def test_an_early_tea_wants_less_water_and_says_so():
    early = TEA.model_copy(update={"fill_l": 0.7, "pours": [Pour(goes_in="07:00", wanted_at="09:00")]})
    row = put_out(on(KETTLE, early), early).rows[0]
    assert row.latest is None
    assert row.warmest_c < early.target_c
    assert 60.0 < row.facing_deg < 110.0, "the sun stands in the east"
    assert "it will not be 95 °C" in read(put_out(on(KETTLE, early), early).words)


def test_steep_notches_are_for_winter_and_flat_ones_for_summer():
    found = boils(on(KETTLE, TEA), TEA)
    june, december = found.months[5], found.months[11]

    def quickest(month) -> float:
        hot = [at for at in month.marks if at.minutes is not None]
        return min(hot, key=lambda at: at.minutes).tilt_deg

    assert found.marks_deg == [20.0, 45.0, 60.0]
    assert quickest(june) == 20.0
    assert quickest(december) == 60.0
    assert all(m.best.minutes <= min(at.minutes for at in m.marks if at.minutes is not None) for m in found.months)
    assert "Around noon of a clear day it takes" in read(found.words)


def test_a_kitchen_kettle_takes_minutes_and_pennies():
    found = instead(on(KETTLE, TEA), TEA, 2.0, 0.25)
    held = 0.4 * 4186.0 * 80.0 / 3.6e6
    assert found.heater_h == pytest.approx(held / 0.85 / 2.0)
    assert found.saved == pytest.approx(held / 0.85 * 0.25)


def test_wings_have_a_best_opening_by_the_hour_and_as_one_stop():
    found = flap_angles(on(KETTLE, TEA), DAY.sun.direction[780])
    assert found is not None
    assert found.path == "wings.open_deg"
    assert 40.0 <= found.best_meal_deg <= 120.0
    assert found.meal_loss < 0.3
    assert flap_angles(on(KETTLE.with_(wings=None), TEA), DAY.sun.direction[780]) is None


def test_notches_are_tried_against_latitude_and_noon():
    school = next(iter(schools_of(on(KETTLE, TEA), "notch")))
    titles = [read(option.title) for option in school.lines]
    assert {"notch (20°)", "notch (45°)", "notch (60°)"} <= set(titles)
    assert any("latitude" in title for title in titles)
    assert "notch (20°)" in titles[:2] or "noon" in titles[0], "in June the flat ones win"


def test_the_best_tilt_is_steep_in_winter_flat_in_summer_and_one_does_for_the_year():
    found = tilt_year(on(KETTLE.with_(wings=None), TEA))
    best = [m.best_deg for m in found.months]
    assert best[5] < best[2] < best[11]
    assert [at.tilt_deg for at in found.months[0].marks] == [20.0, 45.0, 60.0]
    june, december = found.months[5].marks, found.months[11].marks
    assert june[0].share > june[2].share
    assert december[2].share > december[0].share
    assert 30.0 <= found.fixed_deg <= 50.0, "near the latitude of 41"
    assert 0.0 < found.fixed_loss < 0.15
    assert "One tilt for the year" in read(found.words)
    box = tilt_year(on(OVEN, None))
    assert [at.tilt_deg for at in box.months[0].marks] == [20.0, 45.0, 60.0], "marks where it has none of its own"


def test_south_of_the_equator_june_is_steep():
    south = KETTLE.with_(wings=None, facing_deg=0.0)
    june = weather_of(SOUTHERN, ClearDay(tmin_c=5, tmax_c=15), Span(start=JUNE))
    best = [m.best_deg for m in tilt_year(on(south, TEA, june, SOUTHERN)).months]
    assert best[5] > best[11]


def winter(build: TubeKettle, site: Site) -> str:
    load = TEA.model_copy(update={"pours": [Pour(goes_in="08:00", wanted_at="18:00")]})
    return next(line.ruling for line in sayings_of(on(build, load, site=site)) if line.name == "tubes-winter")


def test_vacuum_tubes_work_as_well_in_winter_comes_out_both_ways():
    """Wrong where it lies flat far from the equator; right where noon hardly moves, or where it leans for winter."""
    flat = KETTLE.with_(tilt_deg=15.0)
    tropics = Site.model_validate({**TERRACE.model_dump(), "latitude_deg": 3.0, "time_zone": "Africa/Lagos"})
    assert winter(flat, TERRACE) == "wrong"
    assert winter(flat, tropics) == "holds"


def test_wind_tips_it_sooner_on_narrow_feet():
    """½ ρ v² C A h = m g b/2, by hand: 1 kg on 0.2 m feet, 0.1 m² at 0.3 m: v = √(9.81 · 0.2 / (1.2 · 1.2 · 0.03))."""
    assert tips_at_m_s(0.1, 0.3, 0.2, 1.0) == pytest.approx((1.962 / 0.0432) ** 0.5)
    assert tips_at_m_s(0.1, 0.3, 0.4, 1.0) > tips_at_m_s(0.1, 0.3, 0.2, 1.0)


# --- what it refuses ---


@pytest.mark.parametrize(
    ("build", "load", "words"),
    [
        (KETTLE, TEA.model_copy(update={"fill_l": 2.0}), "the tube holds 0.8"),
        (KETTLE.with_(stopper="tight"), TEA, "has no vent and bursts"),
    ],
)
def test_a_load_that_cannot_be_is_refused(build, load, words):
    with pytest.raises(InputProblem, match=words):
        kind_of(build).check_fit(build, load)


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: VacuumTube(outer_mm=48.0), "is at least 51.2 mm wide"),
        (lambda: VacuumTube(inner_mm=10.0, wall_mm=4.0), "leaves no bore"),
        (lambda: TubeKettle(facing_deg=0.0, wings=Wings(below_m=0.0, apart_m=0.0)), "set the hinge lower"),
        (lambda: Wings(shape="parabola", from_m=0.1, to_m=0.1), "end at least 5 mm beyond"),
        (lambda: TubeRow(facing_deg=0.0, pitch_mm=50.0), "give as much or more"),
        (lambda: TubeRow(facing_deg=0.0, pitch_mm=300.0, behind=SheetBehind(), wings=Wings()), "give one of the two"),
        (lambda: TubeRow(facing_deg=0.0, behind=SheetBehind(away_m=0.02)), "set it farther back"),
        (lambda: Pour(goes_in="10:00", wanted_at="09:00"), "has to be put out before"),
        (lambda: KettleWater(pours=[Pour(), Pour(goes_in="09:00", wanted_at="11:00")]), "give a later hour"),
        (lambda: KettleWater(start_c=90.0, target_c=80.0), "there is nothing to heat"),
    ],
)
def test_bad_input_gets_a_sentence(make, words):
    with pytest.raises((ValidationError, InputProblem), match=words):
        make()


def test_a_row_offers_wings_that_lie_side_by_side():
    row = TubeRow(facing_deg=180.0, pitch_mm=160.0)
    wings = row.fresh("wings")
    assert TubeRow.model_validate({**row.model_dump(), "wings": wings.model_dump()}).wings is not None
    assert row.larger().count == 15
    assert row.with_(count=40).larger() is None
