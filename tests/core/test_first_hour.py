"""What a first hour needs of the core: amounts for people, layered pieces, pieces of several metals, tins by what they cover, greenhouses."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.advice.meal import MonthChance, YearPlan, stock_days
from drylamp.core.builds.starters import starters
from drylamp.core.engine import forecast, weather_for
from drylamp.core.forms import changed
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.loads.registry import read_load
from drylamp.core.sky.indoors import FULL_SUN_W_M2, surrounded
from drylamp.core.sky.site import Spot, Surroundings
from drylamp.core.sums.registry import find_sum
from drylamp.core.tables import foods
from drylamp.core.text import plain
from drylamp.core.twin.case import Case, usual_case
from drylamp.demo.scenario import BLOCKS, CAPPINGS, LIDS, OVEN, STEW, TERRACE

DAY = date(2025, 6, 12)


def starter(kind: str, title: str):
    return next(one for one in starters()[kind] if one.title == title)


def run(spec, load, site=TERRACE, spot: str | None = None):
    case = usual_case(site, spot, spec, load, DAY)
    return forecast(case, weather_for(case))


def holds_l(pot: PotLoad) -> float:
    return np.pi / 4 * pot.pot_diameter_m**2 * pot.pot_height_m * 1000


def test_people_become_kilograms_raw_food_brings_its_water_and_the_pot_follows():
    pot = changed(PotLoad(food="rice-and-water"), ("persons",), 8)
    assert pot.food_kg == pytest.approx(8 * foods()["rice-and-water"].kg_each)
    assert pot.dry_kg == pytest.approx(pot.food_kg / 3.0, rel=0.01), "a kilogram of rice with two of water"
    many = changed(pot, ("persons",), 40)
    assert many.food_kg == pytest.approx(5 * pot.food_kg)
    assert 0.5 < many.food_kg / foods()[many.food].density_kg_m3 * 1000 / holds_l(many) < 0.95
    assert many.pot_kg > pot.pot_kg
    raw = changed(many, ("dry_kg",), 0.5)
    assert (raw.persons, raw.food_kg) == (None, 1.5)
    assert holds_l(raw) < holds_l(many), "half a kilogram is not lost in a pot for forty"
    stew = changed(changed(raw, ("persons",), 6), ("food",), "chickpea-stew")
    assert (stew.persons, stew.dry_kg) == (6, None)
    assert stew.food_kg == pytest.approx(6 * foods()["chickpea-stew"].kg_each)
    own = changed(stew, ("food_kg",), 2.0)
    assert (own.persons, own.food_kg) == (None, 2.0)
    with pytest.raises(ValidationError, match="leave one of them out"):
        PotLoad(food="rice-and-water", dry_kg=1.0, food_kg=1.0)
    assert read_load(STEW.model_dump_json()) == STEW


def test_a_price_per_tin_and_what_it_covers_become_one_per_square_metre():
    lids = LIDS
    for field, value in (("tin_price", 12.0), ("tin_covers_m2", 3.0), ("coats", 2)):
        lids = changed(lids, ("samples", 1, field), value)
    assert lids.samples[1].price_m2 == 8.0
    assert lids.samples[0].price_m2 == LIDS.samples[0].price_m2
    assert changed(lids, ("samples", 1, "coats"), 3).samples[1].price_m2 == 12.0


def test_the_same_of_a_tin_as_a_quick_sum():
    """Three coats of a tin at 12 that covers 4 m²: 9 a square metre; it paints 1.33 m² so."""
    found = find_sum("coat-price").run({"tin_price": 12, "covers_m2": 4, "coats": 3})["result"]
    assert found["price_m2"] == pytest.approx(9.0)
    assert found["painted_m2"] == pytest.approx(4.0 / 3.0)


def test_pieces_of_several_metals_lie_side_by_side():
    """Bare, each metal's own shine decides; under one paint they end alike, and the lightest is there first."""
    outcome, done = run(starter("samples", "Copper, steel and tin").spec, None)
    peak = {curve.title: max(v for v in curve.temperature_c if v is not None) for curve in outcome.curves}
    assert max(peak["copper"], peak["steel"], peak["tin"]) < peak["black steel"] - 8
    assert (
        np.ptp([peak["black copper"], peak["black steel"], peak["black tin"]]) < 2.5
    )  # backs of bare steel give off more than those of copper and tin
    rise = {name: done.temperature_c[f"sample-black-{name}"] for name in ("copper", "tin")}
    morning = np.flatnonzero(done.weather.ghi_w_m2 > 50)[60]
    assert rise["tin"][morning] > rise["copper"][morning]
    assert abs(outcome.energy_closure) < 1e-9


@pytest.mark.parametrize("build", [LIDS, BLOCKS], ids=["lids", "blocks"])
def test_the_headline_of_samples_names_the_one_that_gets_hottest(build):
    outcome, done = run(build, None)
    peaks = {s.title: float(np.nanmax(done.temperature_c[s.node])) for s in build.samples}
    hottest = max(peaks, key=lambda title: peaks[title])
    assert plain(outcome.said).lower().startswith(f"{hottest} gets hottest")
    assert plain(outcome.brief).startswith(hottest)
    assert outcome.days[0].peak_c == pytest.approx(max(peaks.values()), abs=1.0)


def test_layers_of_a_piece_warm_and_melt_each_at_its_own_time():
    """Chocolate gives way sooner on top than under the sweet; the biscuit stays; energy closes with all of them."""
    begun = starter("box-oven", "Biscuit, sweet and chocolate")
    outcome, _ = run(begun.spec, begun.load)
    found = {result.title: result for result in outcome.results.portions}
    assert len(found) == 6
    top, under = found["chocolate on top, milk chocolate"], found["sweet on top, milk chocolate"]
    assert top.melted_at < under.melted_at
    assert {found[f"{name}, biscuit"].state for name in ("chocolate on top", "sweet on top")} == {"unchanged"}
    assert abs(outcome.energy_closure) < 1e-9
    assert begun.load.amount_kg == pytest.approx(2 * 0.029)
    single = begun.load.portions[0].model_copy(update={"layers": []})
    assert [node for node, *_ in single.stack] == ["portion-on-top"]


def test_a_greenhouse_and_a_room_change_sun_air_and_sky():
    case = usual_case(TERRACE, "terrace", OVEN, STEW, DAY)
    outside = weather_for(case)
    glass = surrounded(Spot(name="g", around=Surroundings(sun_share=0.6, warmer_k=8.0)), outside)
    assert glass.ghi_w_m2 == pytest.approx(0.6 * outside.ghi_w_m2)
    assert glass.air_c - outside.air_c == pytest.approx(8.0 * outside.ghi_w_m2 / FULL_SUN_W_M2)
    assert glass.vapour_pa == pytest.approx(outside.vapour_pa, rel=1e-6)
    assert (glass.sky_c > outside.sky_c + 5).all(), "it looks at glass, not at the sky"
    assert glass.wind_m_s.max() < outside.wind_m_s.min()
    assert surrounded(Spot(name="g", around=Surroundings()), glass) is glass, "not twice"
    assert surrounded(Spot(name="open"), outside) is outside
    room = surrounded(Spot(name="r", around=Surroundings(kind="room", kept_c=21.0, window_deg=90.0)), outside)
    assert (room.air_c == 21.0).all()
    afternoon = outside.sun.azimuth_deg > 180.0
    assert (room.dni_w_m2[afternoon] == 0.0).all()
    assert room.dni_w_m2[~afternoon].max() > 0.0


def test_a_build_in_a_greenhouse_runs_as_its_spot_says():
    spots = [*TERRACE.spots, Spot(name="greenhouse", around=Surroundings(sun_share=1.0, warmer_k=0.0))]
    site = TERRACE.model_copy(update={"spots": spots})
    still, done = run(OVEN, STEW, site, "greenhouse")
    windy, _ = run(OVEN, STEW, site, TERRACE.spots[0].name)
    assert still.stagnation_c > windy.stagnation_c, "no wind and a warm roof overhead"
    assert "greenhouse" in plain(still.weather)
    assert abs(still.energy_closure) < 1e-9
    assert done.weather.indoors
    assert isinstance(usual_case(site, "greenhouse", OVEN, STEW, DAY), Case)


def test_what_only_cools_is_not_called_a_peak():
    hot = STEW.model_copy(update={"start_c": 90.0, "goes_in": "20:30"})
    assert not run(OVEN, hot)[0].days[0].warmed
    assert run(OVEN, STEW)[0].days[0].warmed


def month(number: int, kg: float | None) -> MonthChance:
    return MonthChance(
        month=number, chance=0.5, days=10, clear_minutes=None, clear_works=True, kg_a_day=kg, kg_month=kg
    )


def test_a_stock_is_not_melted_on_days_that_melt_nothing():
    def plan(kg: float | None) -> YearPlan:
        return YearPlan(
            months=[month(m, kg if m in (7, 8) else kg and 0.0) for m in range(1, 13)],
            days_a_year=0,
            kg_a_year=0,
            first_month=None,
            last_month=None,
            words="",
        )

    assert CAPPINGS.batch_kg > 0
    assert stock_days(plan(0.0), 5.0, date(2025, 6, 1), date(2025, 9, 1)) == (0.0, 0.0)
    caught, days = stock_days(plan(0.5), 5.0, date(2025, 6, 1), date(2025, 9, 1))
    assert (caught, days) == (5.0, 10.0), "days in June melt nothing and are not counted"
    with pytest.raises(Exception, match="no monthly clearness"):
        stock_days(plan(None), 5.0, date(2025, 6, 1), date(2025, 9, 1))
