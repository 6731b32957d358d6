"""The food dryer: its spec, its network and drawing, what becomes of a batch, and how it is tried."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest

from drylamp.core.builds.common.air_collector.spec import AirCollector, Panes
from drylamp.core.builds.common.air_way.spec import Chimney, Setting, Vent
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.dryer.optics import WALLS, DryerOptics, lit_nodes
from drylamp.core.builds.dryer.recipe import network_of, shelves
from drylamp.core.builds.dryer.section import section_of
from drylamp.core.builds.dryer.spec import FoodDryer, Joint, Trays
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.checks import InputProblem
from drylamp.core.engine import run_case
from drylamp.core.forms import added, changed
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import HUMIDITY
from drylamp.core.loads.food_trays.figures.finish import twin_kg, weighings
from drylamp.core.loads.food_trays.outcome import dry_at, results, water_in, way_to_mould
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays, node_of
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.text import plain
from drylamp.core.trials.beside import beside
from drylamp.core.trials.channels import lines_for
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration, calibrated
from drylamp.core.twin.case import Case
from drylamp.core.twin.light import LitNetwork
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import APPLES, FIG_DRYER, FIGS, GLASS_CABINET, TERRACE, storm_week
from drylamp.formats.run_csv import write_run_csv
from drylamp.instruments.logger import Truth, read_plan

DAY = ClearDay(tmin_c=14.0, tmax_c=26.0)
AUGUST = date(2025, 8, 20)
NOON = np.array([0.0, -0.5, 0.866])


def ran(build: FoodDryer, load: FoodTrays | None = None, days: int = 1):
    case = Case(site=TERRACE, build=build, load=load, weather=DAY, span=Span(start=AUGUST, days=days, step_s=60))
    return simulate(case, weather_of(TERRACE, DAY, case.span))


# --- what it is ---


def test_panes_say_how_large_a_collector_is():
    made = added(FIG_DRYER, ["collector", "panes"])
    assert made.collector is not None
    assert (made.collector.width_m, made.collector.length_m) == (0.576, 1.076)
    made = changed(made, ["collector", "panes", "count"], 2)
    assert made.collector is not None
    assert made.collector.length_m == pytest.approx(2.152)
    made = changed(made, ["collector", "panes", "beside"], True)
    assert made.collector is not None
    assert made.collector.width_m == pytest.approx(1.152)
    assert AirCollector(
        panes=Panes(count=1, wide_m=0.5, long_m=0.9, rests_m=0.0), width_m=3.0
    ).area_m2 == pytest.approx(0.45)


def test_another_absorber_comes_as_it_is_sold():
    made = changed(FIG_DRYER, ["collector", "absorber"], "screens")
    assert made.collector is not None
    assert (made.collector.layers, made.collector.wire_mm) == (2, 1.5)


def test_it_is_counted_in_trays():
    more = FIG_DRYER.larger()
    assert more is not None
    assert more.trays.count == 6
    assert FIG_DRYER.fewest().amount == "1 tray"
    assert FIG_DRYER.with_(trays=Trays(count=16)).larger() is None
    assert FIG_DRYER.shelves_m2 == [pytest.approx(0.4)] * 5


def test_heights_add_up_to_what_lifts_the_air():
    tall = FIG_DRYER.with_(chimney=Chimney(height_m=1.2), joint=Joint(rises_m=0.3))
    path = network_of(tall, None, DryerOptics.of(tall, None)).paths[0]
    assert sum(height for _, height in path.columns) == pytest.approx(tall.draught_m)
    assert tall.draught_m == pytest.approx(tall.rise_m + 0.3 + tall.cabinet_m + 1.2)
    assert path.both_ways
    assert len(path.columns) > 3, "as many as there are"


@pytest.mark.parametrize("bypass", [0.0, 0.3, 0.9])
def test_all_air_and_all_vapour_that_come_in_go_out(bypass: float):
    build = FIG_DRYER.with_(trays=FIG_DRYER.trays.model_copy(update={"bypass_share": bypass}))
    network = network_of(build, FIGS, DryerOptics.of(build, FIGS))
    borne = [link for link in network.links if link.law == Law.BORNE]
    into = sum(link.params[0] for link in borne if link.start == HUMIDITY)
    out = sum(link.params[0] for link in borne if link.end == HUMIDITY)
    assert into == pytest.approx(out)


def test_light_from_above_is_shared_out_among_trays():
    glazed = GLASS_CABINET
    optics = DryerOptics.of(glazed, APPLES)
    parts, met = optics.along_path(NOON[None])
    by = dict(zip(lit_nodes(glazed, APPLES), parts[0], strict=True))
    assert by["food-4"] > by["food-3"] > by["food-1"] > 0.0, "the topmost first"
    assert by[WALLS] > 0.0
    assert sum(by.values()) < met[0]
    dark, _ = DryerOptics.of(glazed.with_(shaded=True), APPLES).along_path(NOON[None])
    assert dark[0][lit_nodes(glazed, APPLES).index("food-4")] == 0.0


@pytest.mark.parametrize("k", range(5))
def test_every_form_is_drawn_and_runs(k: int):
    starter = starters()["food-dryer"][k]
    assert isinstance(starter.spec, FoodDryer)
    section = section_of(starter.spec, starter.load, NOON)
    assert section.rays
    assert {shape.part for shape in section.shapes} >= {"trays", "load", "vent", "inlet", "wall"}
    foods = {shape.node for shape in section.shapes if shape.part == "load"}
    assert isinstance(starter.load, FoodTrays)
    assert foods == {node_of(food) for food in starter.load.numbered}
    run = ran(starter.spec, starter.load)
    assert run.energy_closure < 1e-9
    assert run.damp is not None
    assert run.damp.closure < 1e-9


def test_the_vents_flap_is_a_grip_unless_it_is_set_by_the_hour():
    grips = {handle.field: handle for handle in section_of(FIG_DRYER, None, None).handles}
    assert grips["vent.open_share"].value * grips["vent.open_share"].per_deg == pytest.approx(1.0)
    by_hour = FIG_DRYER.with_(vent=Vent(hours=[Setting()]))
    assert "vent.open_share" not in {handle.field for handle in section_of(by_hour, None, None).handles}


# --- air ---


def test_a_vent_is_set_by_the_hour_and_the_last_holds_over_night():
    vent = Vent(area_cm2=250.0, hours=[Setting(hour="08:00", open_share=1.0), Setting(hour="18:00", open_share=0.1)])
    weather = weather_of(TERRACE, DAY, Span(start=AUGUST, days=2, step_s=60))
    share = vent.ceiling(TERRACE, weather)
    assert share[7 * 60] == 0.1
    assert share[12 * 60] == 1.0
    assert share[20 * 60] == 0.1
    assert share[26 * 60] == 0.1
    assert vent.fresh("hours").hour == "22:00"
    run = ran(FIG_DRYER.with_(vent=vent), None)
    assert run.damp is not None
    moved = run.damp.moved_kg["draught"]
    assert moved[17 * 60 + 30] > 4.0 * moved[18 * 60 + 30]


def test_covering_it_for_the_night_shuts_its_vents():
    load = FIGS.model_copy(update={"night": "covered"})
    weather = weather_of(TERRACE, DAY, Span(start=AUGUST, days=2, step_s=60))
    share = load.opens(TERRACE, weather)
    assert share is not None
    assert share[12 * 60] == 1.0
    assert share[23 * 60] == share[3 * 60] < 0.05
    assert FIGS.opens(TERRACE, weather) is None


def test_a_fan_on_a_panel_blows_with_the_sun():
    starter = starters()["food-dryer"][4]
    assert isinstance(starter.spec, FoodDryer)
    run = ran(starter.spec)
    assert run.ran_s["draught"][12 * 60] > 0.5 * 60.0
    assert run.ran_s["draught"][2 * 60] == 0.0


# --- what becomes of a batch ---


def test_a_tray_is_told_what_it_weighs_dry_and_when():
    run = ran(FIG_DRYER, FIGS, days=5)
    found = results(TERRACE, FIGS, run).drying  # type: ignore[attr-defined]
    assert found.first
    assert found.last
    for tray, food in zip(found.trays, FIGS.foods, strict=True):
        assert tray.target_kg == pytest.approx(food.kg * (1 - food.wet) / (1 - food.safe), abs=1e-4)
        assert tray.hours is not None
        assert tray.went_in < tray.done_at
        assert tray.mould != "over"
    assert found.done_at == max(tray.done_at for tray in found.trays)
    assert found.dried_kg == pytest.approx(sum(food.target_kg for food in FIGS.foods), abs=1e-3)
    assert "Dry on day" in plain(found.words)
    assert found.days[0].water_kg > 0.5
    assert found.mj_kg is not None
    assert found.mj_kg > 2.3


@pytest.mark.parametrize("night", ["left", "taken-in"])
@pytest.mark.parametrize(("build", "load"), [(GLASS_CABINET, APPLES), (FIG_DRYER, FIGS)])
def test_water_of_the_days_is_what_the_trays_lost_however_light(build: FoodDryer, load: FoodTrays, night: str):
    """What is laid in, taken indoors or taken out is neither lost nor won; APPLES hold less than half a kilogram a tray."""
    load = load.model_copy(update={"night": night})
    found = results(TERRACE, load, ran(build, load, days=4)).drying  # type: ignore[attr-defined]
    assert found.water_kg > 1.0
    assert sum(day.water_kg for day in found.days) == pytest.approx(found.water_kg, abs=0.004)
    after = [day.water_kg for day in found.days if found.done_at is not None and day.day > found.done_at.date()]
    assert after == [0.0] * len(after), "nothing dries that is out"


def test_food_that_was_never_in_is_told_of_nowhere():
    late = FIGS.model_copy(update={"foods": [FIGS.foods[0], FIGS.foods[1].model_copy(update={"day": 9})]})
    run = ran(FIG_DRYER, late)
    missing = late.numbered[1]
    assert water_in(missing, run) is None
    assert dry_at(missing, run) is None
    assert way_to_mould(missing, run).max() == 0.0
    assert [tray.node for tray in results(TERRACE, late, run).drying.trays] == ["food-1"]  # type: ignore[attr-defined]


def test_the_way_to_mould_only_grows_and_ends_when_it_is_dry():
    load = FoodTrays(foods=[FoodOnTray(tray=1, food="tomato", kg=0.6)])
    run = ran(FIG_DRYER, load, days=3)
    (food,) = load.numbered
    way, done = way_to_mould(food, run), dry_at(food, run)
    assert (np.diff(way) >= 0.0).all()
    assert done is not None
    assert way[done] == way[-1]
    (tray,) = results(TERRACE, load, run).drying.trays  # type: ignore[attr-defined]
    assert tray.mould_share == pytest.approx(way[-1], abs=5e-4)


def test_a_heap_in_bad_weather_moulds_and_says_so():
    wet = FoodTrays(foods=[FoodOnTray(tray=k, food="tomato", kg=4.0, slice_mm=40.0) for k in (1, 2, 3, 4, 5)])
    grey = ClearDay(tmin_c=18.0, tmax_c=23.0, rh=0.9, sky="grey")
    outcome, run = run_case(
        Case(site=TERRACE, build=FIG_DRYER, load=wet, weather=grey, span=Span(start=AUGUST, days=6))
    )
    found = outcome.results.drying  # type: ignore[attr-defined]
    assert found is not None
    assert any(tray.mould == "over" for tray in found.trays)
    assert found.trays[0].near_mould_at is not None
    assert "discard" in plain(found.words)
    assert any(flag.level == "stop" and "mould" in plain(flag.text) for flag in outcome.flags)
    assert run.damp is not None


def test_too_hot_a_tray_browns_and_too_long_a_stay_over_dries():
    one = FoodTrays(foods=[FoodOnTray(tray=1, food="mint", kg=0.05)])
    shut = FIG_DRYER.with_(vent=FIG_DRYER.vent.model_copy(update={"area_cm2": 30.0}))
    found = results(TERRACE, one, ran(shut, one)).drying  # type: ignore[attr-defined]
    (tray,) = found.trays
    assert tray.hot_minutes > 60.0
    assert tray.over_dried


def test_the_csv_has_a_column_for_everything_damp():
    from io import StringIO

    file = StringIO()
    write_run_csv(file, TERRACE.zone, ran(FIG_DRYER, FIGS))
    head, *rows = file.getvalue().splitlines()
    columns = head.split(",")
    for name in (
        "draught_kg_s",
        "warmed-4_c",
        "tray-3_c",
        "tray-3-vapour_g_kg",
        "food-2_c",
        "food-2_mass_kg",
        "food-2_water_kg",
        "food-2_activity",
        "inner-walls_water_kg",
        "opening_w",
    ):
        assert name in columns, name
    noon = dict(zip(columns, rows[12 * 60].split(","), strict=True))
    assert 0.005 < float(noon["draught_kg_s"]) < 0.05
    assert float(noon["food-2_mass_kg"]) < 0.45


def test_a_calibration_moves_how_fast_water_comes_out():
    network = network_of(FIG_DRYER, FIGS, DryerOptics.of(FIG_DRYER, FIGS))
    lit = LitNetwork(network, np.zeros((1, len(network.nodes))), np.zeros(1))
    quick = calibrated(lit, Calibration(parts={"drying": 2.0}), FIG_DRYER, FIGS).network
    before, after = (next(node.wet for node in found.nodes if node.name == "food-1") for found in (network, quick))
    assert before is not None
    assert after is not None
    assert after.piece[3] == 2.0 * before.piece[3]
    assert after.piece[:3] == before.piece[:3]


def test_trays_are_laid_in_their_own_air():
    places = shelves(FIG_DRYER)
    assert [place.air for place in places] == [f"tray-{k}" for k in range(1, 6)]
    nodes, links = FIGS.on_shelves(places)
    assert [node.wet.beside for node in nodes if node.wet] == ["tray-1", "tray-2", "tray-3", "tray-4", "tray-5"]
    assert len(links) == 10
    assert kind_of(FIG_DRYER).useful(FIG_DRYER, FIGS) == FIGS.goods


# --- trials ---

DOUBTS = {"wind": 0.3, "mass": 0.005, "humidity": 0.03}
STARTED = datetime(2025, 8, 20, 10, 0, tzinfo=UTC)


def facts_of(protocol: str, load: FoodTrays | None, channels: dict[str, tuple[str, str]]) -> TrialFacts:
    return TrialFacts(
        name="x", protocol=protocol, started=STARTED, spot=None, weather=DAY, load=load, preheated=False, events=[],
        channels=[ChannelFacts(channel=name, title=name, node=node, is_control=False, doubt=DOUBTS.get(quantity, 0.7), quantity=quantity, times=[], values=[]) for name, (node, quantity) in channels.items()],
    )  # fmt: skip


def read(build: FoodDryer, facts: TrialFacts, minutes: list[float], truth: Truth) -> TrialFacts:
    plan = [(minute, channel.channel) for minute in minutes for channel in facts.channels]
    got: dict[str, list[tuple[datetime, float]]] = {}
    for sample in read_plan(TERRACE, build, facts, truth, plan):
        got.setdefault(sample.channel, []).append((sample.time, sample.value))
    channels = [
        c.model_copy(
            update={"times": [t for t, _ in got.get(c.channel, [])], "values": [v for _, v in got.get(c.channel, [])]}
        )
        for c in facts.channels
    ]
    return facts.model_copy(update={"channels": channels})


def test_an_air_test_with_a_wind_meter_gives_the_collectors_share():
    kinds = {"out": ("warmed-4", "temperature"), "vent": ("over-trays", "wind"), "air": ("air", "temperature")}
    facts = read(
        FIG_DRYER,
        facts_of("air-test", None, kinds),
        [0.0, 30.0, 60.0, 120.0],
        Truth(calibration=Calibration(), noise_k=0.05, seed=5),
    )
    verdict = judge(TERRACE, FIG_DRYER, facts)
    figure = next(f for f in verdict.figures if f.name == "collector-efficiency")
    assert figure.value is not None
    assert figure.twin is not None
    assert "wind meter" in plain(figure.words)
    assert figure.value == pytest.approx(figure.twin, abs=(figure.doubt or 0.0) + 0.03)
    blind = judge(TERRACE, FIG_DRYER, facts.model_copy(update={"channels": [facts.channels[0], facts.channels[2]]}))
    assert "twin's own flow" in plain(next(f for f in blind.figures if f.name == "collector-efficiency").words)


def test_a_drying_run_has_its_figures():
    kinds = {f"food-{k}": (f"food-{k}", "mass") for k in range(1, 6)} | {"under-trays": ("under-trays", "temperature")}
    facts = read(
        FIG_DRYER,
        facts_of("drying-run", FIGS, kinds),
        [0.0, 120.0, 240.0, 360.0, 480.0],
        Truth(calibration=Calibration(), noise_k=0.1, seed=6),
    )
    figures = {figure.name: figure for figure in judge(TERRACE, FIG_DRYER, facts).figures}
    assert set(figures) >= {"dry-by", "water-out", "evenness", "drying-curve", "drying-air", "mould-near"}
    assert figures["water-out"].value == pytest.approx(figures["water-out"].twin, abs=0.03)
    assert figures["drying-curve"].value is not None
    assert figures["drying-curve"].value > 0.95
    assert "nine cases of ten" in plain(figures["dry-by"].words)
    at = beside(TERRACE, FIG_DRYER, facts)
    worst = max(way_to_mould(food, at.likely)[-1] for food in FIGS.numbered)
    assert figures["mould-near"].value == pytest.approx(round(100.0 * worst))
    weighed = weighings(FIGS, facts.channels)
    told = [twin_kg(at.likely, tray) for tray in weighed]
    assert figures["water-out"].twin == pytest.approx(sum(kg[0] - kg[-1] for kg in told), abs=1e-3)
    away = replace(weighed[0], food=weighed[0].food.model_copy(update={"number": 12}))
    assert np.isnan(twin_kg(at.likely, away)).all(), "a tray that never lay in weighs nothing by the twin"


def test_a_drying_run_without_a_scale_says_what_is_missing():
    kinds = {"under-trays": ("under-trays", "temperature")}
    facts = read(
        FIG_DRYER, facts_of("drying-run", FIGS, kinds), [0.0, 120.0, 240.0], Truth(calibration=Calibration(), seed=7)
    )
    figures = {figure.name: figure for figure in judge(TERRACE, FIG_DRYER, facts).figures}
    assert "nothing weighed yet" in plain(figures["water-out"].words)
    assert "weigh two of them" in plain(figures["evenness"].words)
    assert figures["drying-curve"].value is None


def test_a_protocol_offers_each_tray_on_the_scale_and_humidity_over_them():
    lines = lines_for(PROTOCOLS["drying-run"], FIG_DRYER, FIGS)
    wanted = {line.place.channel.node: line.place.channel.instrument for line in lines if line.wanted}
    assert [wanted[f"food-{k}"] for k in range(1, 6)] == ["scale"] * 5
    assert wanted["under-trays"] == "wired-probe"
    offered = {line.place.channel.node: line.place.channel.instrument for line in lines}
    assert offered["over-trays"] == "humidity-probe"
    facts = facts_of("drying-run", FIGS, {"damp": ("over-trays", "humidity")})
    damp = read(FIG_DRYER, facts, [60.0, 180.0], Truth(calibration=Calibration(), seed=8)).channels[0].values
    assert all(0.05 < value < 0.75 for value in damp), damp


def test_the_storm_of_the_demo_is_in_its_weather():
    weather = storm_week()
    assert weather.dni_w_m2[(24 + 16) * 60] == 0.0
    assert weather.dni_w_m2[(48 + 12) * 60] > 500.0
    assert weather.rh[(24 + 22) * 60] == 0.95


def test_nights_indoors_are_kept_in_a_trial_too():
    load = FIGS.model_copy(update={"night": "taken-in"})
    facts = facts_of("drying-run", load, {"air": ("air", "temperature")})
    facts = facts.model_copy(
        update={
            "channels": [
                facts.channels[0].model_copy(
                    update={"times": [STARTED + timedelta(hours=h) for h in (0, 20)], "values": [22.0, 20.0]}
                )
            ]
        }
    )
    run = beside(TERRACE, FIG_DRYER, facts).likely
    kg = run.mass_kg["food-1"]
    assert np.isnan(kg).any()
    first, last = kg[~np.isnan(kg)][[0, -1]]
    assert last < first


def test_glass_over_trays_takes_dew_on_a_cold_morning():
    wet = FoodTrays(foods=[FoodOnTray(tray=k, food="tomato", kg=0.8, goes_in="17:00") for k in (1, 2, 3, 4)])
    film = GLASS_CABINET.with_(
        cover=GlazedCover(material="thermic-pe-film", thickness_m=0.0002), vent=Vent(area_cm2=15.0), leak_cm2=2.0
    )
    run = ran(film, wet, days=2)
    assert run.damp is not None
    dew = run.damp.held_kg["lid-1"]
    assert np.nanmax(dew) > 0.002
    assert np.nanmin(dew) > -2e-4
    assert np.nanmax(dew) <= 0.06 * film.lid_m2 + 1e-9


def test_it_refuses_what_it_has_no_answer_to():
    with pytest.raises(InputProblem, match="a food dryer takes food on trays"):
        from drylamp.demo.scenario import STEW

        kind_of(FIG_DRYER).check_fit(FIG_DRYER, STEW)
