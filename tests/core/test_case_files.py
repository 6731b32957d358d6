"""What a case file can say beyond what forms ask for: numbers typed instead of worked out, first temperatures, held and repeated days."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.schools import schools_of
from drylamp.core.builds.common.cover.spec import GlazedCover, Sheet
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.common.coil import Coil
from drylamp.core.common.wall import WallLayer, wall_w_m2k
from drylamp.core.engine import run_case, weather_for
from drylamp.core.loads.common.draws import Draw, Running
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.loads.water.spec import HotWater
from drylamp.core.sky.weather import Span
from drylamp.core.tables import cover, pipes
from drylamp.core.twin.case import Case, usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import BASIN, BASIN_HOSE, DAIRY_FRAME, DAIRY_WASH, HEATER, OVEN, SHOWERS, TERRACE

JUNE = date(2025, 6, 12)
STILL = SHOWERS.model_copy(update={"draws": []})
BOX = usual_case(TERRACE, None, HEATER, STILL, JUNE)
HOSE = usual_case(TERRACE, None, BASIN_HOSE, BASIN, JUNE)


def run_of(case: Case) -> Run:
    return simulate(case, weather_for(case))


def at(run: Run, node: str, hour: float) -> float:
    return float(np.interp(hour * 3600.0, run.edge_s - run.edge_s[0], run.temperature_c[node]))


def test_an_r_value_stands_for_what_a_layer_conducts():
    layer = WallLayer(material="xps-foam", thickness_m=0.05, r_m2k_w=0.4)
    assert wall_w_m2k([layer]) == pytest.approx(2.5)
    better = HEATER.with_(wall=[WallLayer(material="xps-foam", thickness_m=0.05, r_m2k_w=6.0)])
    poorer = HEATER.with_(wall=[WallLayer(material="xps-foam", thickness_m=0.05, r_m2k_w=0.2)])
    good, bad = (run_of(BOX.with_(build=build)) for build in (better, poorer))
    assert at(good, "water", 19) > at(bad, "water", 19) + 2.0


def test_air_that_is_changed_and_heat_bridges_count_as_typed():
    """Loss of the closed ledger: ρ cp V̇ (T − Ta), and W/K times the difference."""
    build = HEATER.with_(leak_m3_h=12.0, bridges_w_k=3.0, seals_vapour=True)
    run = run_of(BOX.with_(build=build))
    air = run.weather.air_c
    inside = (run.temperature_c["inside-air"][:-1] + run.temperature_c["inside-air"][1:]) / 2.0
    leaked = 12.0 / 3600.0 * 1.15 * 1006.0 * (inside - air)
    assert run.account_w["leak"].sum() == pytest.approx(leaked.sum(), rel=0.03)
    tight = run_of(BOX.with_(build=HEATER.with_(leak_m3_h=0.0)))
    assert np.abs(tight.account_w["leak"]).max() == 0.0
    assert at(tight, "water", 19) > at(run, "water", 19) + 1.0
    assert abs(run.energy_closure) < 1e-9


def test_first_temperatures_of_parts_are_taken_and_strange_ones_named():
    case = HOSE.with_(first_c={"hose-1": 44.0, "bed": 30.0})
    outcome, run = run_case(case)
    assert (run.temperature_c["hose-1"][0], run.temperature_c["bed"][0]) == (44.0, 30.0)
    assert run.temperature_c["hose-2"][0] == pytest.approx(run.weather.air_c[0])
    assert abs(outcome.energy_closure) < 1e-9
    with pytest.raises(InputProblem, match="'lid' is no part of this build; its parts are hose-1"):
        run_case(HOSE.with_(first_c={"lid": 20.0}))


def test_water_in_a_hose_begins_as_it_was_filled():
    warm = run_of(HOSE.with_(load=BASIN.model_copy(update={"start_c": 55.0})))
    cold = run_of(HOSE.with_(load=BASIN.model_copy(update={"start_c": 5.0})))
    assert (warm.temperature_c["water"][0], cold.temperature_c["water"][0]) == (pytest.approx(55.0), pytest.approx(5.0))
    assert max(abs(warm.energy_closure), abs(cold.energy_closure)) < 1e-9


def test_a_hose_is_dry_until_it_is_filled_at_once():
    late = RunningWater(running=[], draws=[], start_c=12.0, fill_hour="13:00")
    run = run_of(HOSE.with_(load=late))
    water = run.temperature_c["water"]
    noon = round(13 * 3600 / run.weather.dt_s)
    assert np.isnan(water[: noon - 1]).all()
    assert water[noon] == pytest.approx(12.0)
    assert at(run, "hose-5", 12.9) > 45.0, "dry in the sun"
    assert water[noon + 60] > 30.0
    assert abs(run.energy_closure) < 1e-9


def test_a_tank_filled_at_nine_is_colder_at_noon_than_one_filled_at_midnight():
    nine = run_of(BOX.with_(load=STILL.model_copy(update={"fill_hour": "11:00"})))
    assert at(nine, "water", 12) < at(run_of(BOX), "water", 12) - 1.5


def test_a_flow_of_nothing_stands():
    standing = RunningWater(running=[Running(l_min=0.0)], draws=[])
    assert run_of(HOSE.with_(load=standing)).drawn["water"].kg.sum() == 0.0


def test_a_pipe_by_its_own_numbers():
    own = pipes()["garden-hose"].model_copy(update={"name": "mine", "title": "my hose", "conductivity_w_mk": 380.0})
    coil = BASIN_HOSE.coil.model_copy(update={"material": own})
    raw = HOSE.model_dump(mode="json")
    raw["build"]["coil"]["material"] = own.model_dump(mode="json")
    case = Case.model_validate(raw)
    assert case.build.coil == coil
    assert run_of(case).temperature_c["water"][800] != run_of(HOSE).temperature_c["water"][800]
    with pytest.raises(ValueError, match="'rubbish' is not known"):
        Coil(material="rubbish")


def test_a_plate_on_the_water_keeps_vapour_in_and_warms_from_above():
    plate = HEATER.with_(plate="flat-black-paint", plate_w_m2k=150.0)
    run, loose = run_of(BOX.with_(build=plate)), run_of(BOX.with_(build=plate.with_(plate_w_m2k=5.0)))
    bare = run_of(BOX)
    assert abs(run.energy_closure) < 1e-9
    assert run.titles["tray"] == "plate on the water"
    assert at(run, "tray", 12) > at(run, "water", 12), "the plate is warmer than what it warms"
    assert at(run, "water", 13) - at(run, "water-3", 13) > at(bare, "water", 13) - at(bare, "water-3", 13) + 1.0
    assert at(loose, "tray", 12) > at(run, "tray", 12) + 10.0
    assert at(loose, "water", 17) < at(run, "water", 17)


def test_air_changed_under_a_hoses_cover_counts_as_typed():
    """Half as warm as the hose and half as warm as the cover: 20 m³/h carry 6.4 W for each kelvin of that mean."""
    glazed = BASIN_HOSE.with_(cover=GlazedCover(material="window-glass", thickness_m=0.004))
    tight, leaky = (run_of(HOSE.with_(build=glazed.with_(leak_m3_h=m3))) for m3 in (None, 20.0))
    assert leaky.temperature_c["water"].max() < tight.temperature_c["water"].max() - 1.0
    links = kind_of(glazed).network(glazed.with_(leak_m3_h=20.0), None, kind_of(glazed).optics(glazed, None)).links
    changed = [link.params[0] for link in links if link.name.startswith("air changed")]
    assert sum(changed) == pytest.approx(20.0 / 3600.0 * 1.15 * 1006.0, rel=0.01)


def test_held_weather_comes_to_rest():
    held = BOX.with_(build=HEATER.with_(lid=None), span=Span(start=JUNE, days=6, hold_at="12:00", step_s=300))
    weather = weather_for(held)
    assert np.ptp(weather.ghi_w_m2) == np.ptp(weather.air_c) == 0.0
    run = simulate(held, weather)
    water = run.temperature_c["water"]
    assert water[-1] - water[-12] == pytest.approx(0.0, abs=0.05)
    balance = sum(float(series[-1]) for series in run.account_w.values())
    assert balance == pytest.approx(float(run.opening_w[-1]), rel=1e-6)


def test_every_day_as_the_first_until_one_closes_on_itself():
    same = weather_for(BOX.with_(span=Span(start=JUNE, days=3, same_day=True, step_s=300)))
    day = same.steps // 3
    assert np.array_equal(same.ghi_w_m2[:day], same.ghi_w_m2[2 * day :])
    outcome, run = run_case(BOX.with_(span=Span(start=JUNE, until_closed=True, step_s=300)))
    day = round(86400.0 / run.weather.dt_s)
    for node in ("water", "tray", "insulation"):
        series = run.temperature_c[node]
        assert series[-1] == pytest.approx(series[-1 - day], abs=0.05)
    assert len(outcome.results.water.days) >= 2
    assert "every day as the first" in run.weather.origin


def test_a_tanks_draw_is_told_litre_by_litre_with_its_fall():
    drawn = SHOWERS.model_copy(update={"draws": [Draw(at="19:00", take_l=30.0, l_min=5.0)], "mains_c": 14.0})
    outcome, run = run_case(BOX.with_(load=drawn))
    (draw,) = outcome.results.water.draws
    assert len(draw.litres) == 30
    assert draw.litres[0].celsius_c >= draw.litres[-1].celsius_c
    mean = np.mean([run.temperature_c[name] for name in drawn.filling.names], axis=0)
    before, after = (float(np.interp(h * 3600.0, run.edge_s - run.edge_s[0], mean)) for h in (19.0, 19.1))
    assert draw.fall_k == pytest.approx(before - after, abs=0.01)
    assert 90.0 * draw.fall_k == pytest.approx(30.0 * (draw.mean_c - 14.0), rel=0.06), (
        "what left the tank came out of the tap"
    )


def test_ovens_take_the_typed_numbers_as_well():
    plain = run_of(usual_case(TERRACE, None, OVEN, None, JUNE))
    leaky = run_of(usual_case(TERRACE, None, OVEN.with_(leak_m3_h=30.0), None, JUNE))
    bridged = run_of(usual_case(TERRACE, None, OVEN.with_(bridges_w_k=2.0), None, JUNE))
    assert leaky.temperature_c["tray"].max() < plain.temperature_c["tray"].max() - 5.0
    assert bridged.temperature_c["tray"].max() < plain.temperature_c["tray"].max() - 5.0


def test_lime_in_a_coil_insulates_narrows_and_never_closes_it():
    """Two cylinders in a row: ln(D/d)/(2πk) of pipe and lime add up."""
    clean, limed = (
        Coil(material="copper", pipe_m=20.0, bore_mm=16.0, outer_mm=18.0, lime_mm=lime) for lime in (0.0, 2.0)
    )
    assert clean.skin_w_mk == pytest.approx(clean.row.conductivity_w_mk)
    by_hand = np.log(18 / 16) / clean.row.conductivity_w_mk + np.log(16 / 12) / 1.0
    assert np.log(18 / 12) / limed.skin_w_mk == pytest.approx(by_hand)
    assert limed.water_l == pytest.approx(clean.water_l * (12 / 16) ** 2)
    with pytest.raises(ValueError, match="closes a bore of 16 mm"):
        Coil(material="copper", pipe_m=20.0, bore_mm=16.0, outer_mm=18.0, lime_mm=8.0)
    drawn = SHOWERS.model_copy(update={"draws": [Draw(at="18:00", take_l=40.0, l_min=6.0)], "mains_c": 14.0})
    cold, warm = (
        run_case(BOX.with_(build=HEATER.with_(coil=coil), load=drawn))[0].results.water.draws[0].mean_c
        for coil in (limed, clean)
    )
    assert warm - cold > 1.0


def test_a_mirror_set_for_the_month_is_tried_where_there_is_one():
    with_lid = HEATER.with_(mirror=HEATER.fresh("mirror").model_copy(update={"angle_deg": 150.0}))
    asked = AdviceContext(BOX.with_(build=with_lid), weather_for(BOX))
    (mirror,) = [s for s in schools_of(asked) if s.name == "mirror"]
    mine = next(line for line in mirror.lines if line.is_mine)
    assert len(mirror.lines) == 5
    assert mine.behind > 0.5, "150° throws little on the water at this time of the year"
    assert not any(s.name == "mirror" for s in schools_of(AdviceContext(BOX, weather_for(BOX))))


def test_a_standing_coil_tells_its_minutes_and_where_it_levels_off():
    late = RunningWater(running=[], draws=[], start_c=14.0, fill_hour="12:00", warm_c=40.0)
    outcome, run = run_case(HOSE.with_(load=late))
    flow, water = outcome.results.flow, run.temperature_c["water"]
    first = int(np.argmax(np.nan_to_num(water) >= 40.0))
    assert flow.minutes_to_warm == pytest.approx((run.edge_s[first] - run.edge_s[0]) / 60.0 - 720.0, abs=1.0)
    assert flow.levels_off_c == pytest.approx(float(np.nanmax(water)))
    never = run_case(HOSE.with_(load=late.model_copy(update={"warm_c": 90.0})))[0].results.flow
    assert never.minutes_to_warm is None


def test_more_than_there_is_cannot_be_drawn():
    with pytest.raises(ValueError, match="95 litres at 19:00 are more than the 90 litres in it"):
        HotWater(fill_l=90.0, draws=[Draw(at="19:00", take_l=95.0)])


def test_ground_given_in_a_case_is_what_a_hose_lies_on():
    """By hand: steady heat through the bed is U A (T_below − T_ground), so colder ground takes more, and warm ground gives."""
    lies = DAIRY_FRAME.with_(on_ground=True, under=[WallLayer(material="plywood", thickness_m=0.006)])
    base = usual_case(TERRACE, None, lies, DAIRY_WASH, JUNE).with_(span=Span(start=JUNE, step_s=300))
    cold, warm = (simulate(case, weather_for(case)) for case in (base.with_(ground_c=2.0), base.with_(ground_c=45.0)))
    seasonal = simulate(base, weather_for(base))
    lost = [float(run.account_w["under"].sum()) for run in (cold, seasonal, warm)]
    assert lost[0] > lost[1] > lost[2]
    half = 2.0 * wall_w_m2k(lies.under)
    per_k = lies.plan_m2 / (1.0 / half + 0.3 / 1.5)
    below = (cold.temperature_c["below"][:-1] + cold.temperature_c["below"][1:]) / 2.0
    assert lost[0] == pytest.approx(float((per_k * (below - 2.0)).sum()), rel=0.02)
    assert abs(cold.energy_closure) < 1e-9


def test_air_under_it_does_not_ask_for_the_ground():
    aloft = usual_case(TERRACE, None, DAIRY_FRAME, DAIRY_WASH, JUNE).with_(span=Span(start=JUNE, step_s=300))
    one, other = (simulate(c, weather_for(c)) for c in (aloft, aloft.with_(ground_c=2.0)))
    assert np.array_equal(one.temperature_c["bed"], other.temperature_c["bed"])


def test_each_sheet_may_have_a_gap_of_its_own():
    film = Sheet(material="fep-film", thickness_m=0.00005)
    alike = GlazedCover(layers=2, gap_m=0.02, more=[film])
    apart = GlazedCover(layers=2, gap_m=0.02, more=[film.model_copy(update={"gap_m": 0.06})])
    assert [skin.gap_m for skin in alike.skins] == [0.02, 0.02, 0.0]
    assert [skin.gap_m for skin in apart.skins] == [0.02, 0.06, 0.0]
    twin = GlazedCover(material="twin-wall-6", layers=1, more=[film.model_copy(update={"gap_m": 0.05})])
    assert [skin.gap_m for skin in twin.skins] == [twin.row.skin_gap_m, 0.05, 0.0]
    wide, narrow = (
        run_of(BOX.with_(build=HEATER.with_(cover=c)))
        for c in (apart, GlazedCover(layers=2, gap_m=0.02, more=[film.model_copy(update={"gap_m": 0.004})]))
    )
    assert at(wide, "water", 19) > at(narrow, "water", 19), "four millimetres of air conduct"


def test_ribs_between_skins_carry_as_much_more_as_typed():
    row = cover("twin-wall-6")
    ribbed = row.model_copy(update={"name": "ribbed", "rib_factor": 2.0})
    plain, more = (GlazedCover(material=r, layers=1, thickness_m=row.usual_thickness_m) for r in (row, ribbed))
    assert [skin.ribs for skin in more.skins] == [2.0, 1.0]
    one, two = (HEATER.with_(cover=c) for c in (plain, more))
    areas = [
        next(
            link.params[0]
            for link in kind_of(b).network(b, STILL, kind_of(b).optics(b, STILL)).links
            if link.name == "cover gap 1"
        )
        for b in (one, two)
    ]
    assert areas[1] == pytest.approx(2.0 * areas[0])
    cool, warm = (run_of(BOX.with_(build=b)) for b in (two, one))
    assert at(warm, "water", 19) > at(cool, "water", 19)
