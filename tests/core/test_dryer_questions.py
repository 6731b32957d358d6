"""What is asked of dryers: each difference's share, the vent, nights, weeks, baskets, and when a batch is done as weights come in."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from math import isclose

import numpy as np
import pytest

from drylamp.core.advice.apart import Promise
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.registry import advice_of, advice_of_load
from drylamp.core.advice.shares import parts_of
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Fan, Setting, Vent
from drylamp.core.builds.dryer.questions import differences
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.common.wall import WallLayer
from drylamp.core.engine import run_case
from drylamp.core.heat.network import Network
from drylamp.core.loads.common.food.own import piece_of_own
from drylamp.core.loads.common.food.piece import hours_to
from drylamp.core.loads.common.food.typed import Gab, OwnFood
from drylamp.core.loads.food_trays.figures.finish import finish, weighings
from drylamp.core.loads.food_trays.outcome import DryingResult, results
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.text import plain
from drylamp.core.trials.beside import beside
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.plausible import check_reading
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import FIG_DRYER, FIGS, PLUMS, PROMISED_C, SKETCH, SKETCH_DRYER, TERRACE, examples

AUGUST = date(2025, 8, 20)
DAY = ClearDay(tmin_c=15.0, tmax_c=28.0)
SPAN = Span(start=AUGUST, step_s=300)


def on(build: FoodDryer, load: FoodTrays | None) -> AdviceContext:
    case = Case(site=TERRACE, build=build, load=load, weather=DAY, span=SPAN)
    return AdviceContext(case, weather_of(TERRACE, DAY, SPAN))


# --- laid in by and by ---


def by_and_by(day: int) -> FoodTrays:
    """Figs on the first day, tomatoes so many days on."""
    foods = [food.model_copy(update={"day": 1 if food.food == "fig" else day}) for food in FIGS.foods]
    return FIGS.model_copy(update={"foods": foods})


def test_a_batch_laid_in_over_days_is_looked_at_to_the_end_of_the_last():
    load = by_and_by(4)
    advice = advice_of_load(load)
    assert advice.batch is not None
    assert advice.nights is not None
    ahead = advice.batch(on(FIG_DRYER, load), load)
    assert (ahead.days, len(ahead.trays)) == (9, 5)
    wet = [[share for share in tray.moisture_wb if share is not None] for tray in ahead.trays]
    assert len(wet[0]) > 0
    assert ahead.trays[4].moisture_wb[24] is None, "not in yet on the second day"
    assert "within 9 days" in plain(ahead.words) or "dry on day" in plain(ahead.words)
    nights = {way.night: way.hours for way in advice.nights(on(FIG_DRYER, load), load).ways}
    assert nights["left"] is None or nights["left"] > 3 * 24.0, "from the first of it going in"


def test_what_goes_in_too_late_to_be_looked_at_is_refused_by_name():
    load = by_and_by(20)
    advice = advice_of_load(load)
    assert advice.batch is not None
    with pytest.raises(InputProblem, match="the last of it goes in 19 days after the first") as refused:
        advice.batch(on(FIG_DRYER, load), load)
    assert refused.value.field == "load.foods"


def test_fillings_of_a_week_are_laid_in_together():
    advice = advice_of_load(FIGS)
    assert advice.weekly is not None
    one, other = (advice.weekly(on(FIG_DRYER, load), load, 5.0, 8) for load in (FIGS, by_and_by(6)))
    assert [month.kg_week for month in one.months] == [month.kg_week for month in other.months]
    assert one.months[7].kg_week > 2.0


# --- why it is not hotter ---


def test_shares_of_a_game_with_a_known_answer():
    """Two players that bring 10 and 20 apart and 50 together: 20 and 30 (the usual example of the value)."""
    values = {frozenset[int](): 0.0, frozenset((0,)): 10.0, frozenset((1,)): 20.0, frozenset((0, 1)): 50.0}
    assert [part.gain for part in parts_of(values, 2)] == [20.0, 30.0]


def told(mine: FoodDryer, promise: Promise):
    asked = advice_of(mine).apart
    assert asked is not None
    return asked(on(mine, PLUMS), mine, promise)


def test_shares_and_the_rest_add_up_to_the_gap():
    found = told(SKETCH_DRYER, Promise(SKETCH, None, None, PROMISED_C))
    assert len(found.shares) == 6
    whole = sum(share.share_k for share in found.shares) + found.rest_k
    assert whole == pytest.approx(found.promised_c - found.mine_c, abs=0.1)
    assert found.shares == sorted(found.shares, key=lambda share: -share.share_k)
    held = {plain(c.title): c.holds for c in found.conditions}
    assert not held["as it is, into the trays"]
    assert held["with all of that made like there"]
    assert "browns" in found.good_for_food or "suit" in found.good_for_food


@pytest.mark.parametrize(
    ("hidden", "title"),
    [
        ({"collector": SKETCH.collector and SKETCH.collector.model_copy(update={"dirt_share": 0.5})}, "glass"),
        ({"vent": Vent(area_cm2=900.0)}, "vent"),
        ({"collector": SKETCH.collector and SKETCH.collector.model_copy(update={"length_m": 0.8})}, "collector's area"),
    ],
)
def test_a_planted_cause_is_found(hidden: dict[str, object], title: str):
    """One large fault among two harmless ones: it comes first, with nearly all of the gap."""
    mine = SKETCH.with_(**hidden, facing_deg=176.0, leak_cm2=12.0)
    found = told(mine, Promise(SKETCH, None, None, None))
    assert found.shares[0].title == title
    assert found.shares[0].share_k > 0.8 * (found.theirs_c - found.mine_c)
    assert title in plain(found.worth)
    assert found.rest_k == 0.0


def test_a_promise_may_be_typed_and_another_kind_is_refused():
    typed = told(SKETCH_DRYER, Promise(None, 2.0, "mesh", 65.0))
    assert {share.title for share in typed.shares} == {"collector's area", "absorber"}
    with pytest.raises(InputProblem, match="compare it with another food dryer"):
        told(
            SKETCH_DRYER,
            Promise(
                BoxOven(facing_deg=180.0, wall=[WallLayer(material="plywood", thickness_m=0.01)]), None, None, 65.0
            ),
        )
    with pytest.raises(InputProblem, match="like this one"):
        told(SKETCH_DRYER, Promise(SKETCH_DRYER, None, None, None))
    many = SKETCH.with_(inlet=SKETCH.inlet.model_copy(update={"area_cm2": 99.0}), width_m=0.9, fan=Fan())
    with pytest.raises(InputProblem, match="up to 7"):
        told(SKETCH_DRYER, Promise(many, None, None, None))


def test_differences_are_what_a_builder_would_name():
    titles = [difference.title for difference in differences(SKETCH_DRYER, SKETCH)]
    assert titles == ["collector's area", "absorber", "collector's back", "aim", "walls and gaps", "vent"]
    bare = SKETCH.with_(collector=None, cover=FoodDryer.model_fields["cover"].default or SKETCH.collector.cover)  # type: ignore[union-attr]
    assert "collector" in [difference.title for difference in differences(SKETCH_DRYER, bare)]


# --- the vent, nights, weeks, baskets ---


def test_the_vent_has_a_broad_best_and_more_air_is_cooler():
    asked = advice_of(FIG_DRYER).vents
    assert asked is not None
    found = asked(on(FIG_DRYER, FIGS), FIG_DRYER)
    flows = [point.flow_m3_h for point in found.points]
    assert flows == sorted(flows)
    later = [point.into_trays_c for point in found.points if point.open_share >= 0.2]
    assert later == sorted(later, reverse=True)
    assert found.flat_to - found.flat_from >= 0.4
    assert found.points[0].dries < 0.8 * max(point.dries for point in found.points)
    with pytest.raises(InputProblem, match="bare"):
        asked(on(FIG_DRYER, None), FIG_DRYER)


def test_a_batch_by_chance_has_its_trays_and_its_words():
    asked = advice_of_load(FIGS).batch
    assert asked is not None
    found = asked(on(FIG_DRYER, FIGS), FIGS)
    assert [tray.title for tray in found.trays][:2] == ["fig, tray 1", "fig, tray 2"]
    for tray in found.trays:
        assert 0.0 <= tray.chance <= 1.0
        if tray.early_h is not None and tray.late_h is not None:
            assert tray.early_h <= (tray.likely_h or 0.0) <= tray.late_h
        assert len(tray.moisture_wb) == len(found.times)
    assert "made-up weeks" in plain(found.words)
    assert asked(on(FIG_DRYER, FIGS), FIGS) == found, "the same question has the same answer"


def test_nights_differ_and_nothing_is_regained_indoors():
    asked = advice_of_load(FIGS).nights
    assert asked is not None
    ways = {way.night: way for way in asked(on(FIG_DRYER, FIGS), FIGS).ways}
    assert set(ways) == {"left", "covered", "taken-in"}
    assert ways["taken-in"].regained_g <= ways["left"].regained_g + 1.0
    assert ways["covered"].mould_share > ways["left"].mould_share - 0.05


def test_a_week_in_september_gives_a_size():
    asked = advice_of_load(FIGS).weekly
    assert asked is not None
    found = asked(on(FIG_DRYER, FIGS), FIGS, 12.0, 9)
    assert found.months[6].kg_week > found.months[0].kg_week
    assert found.times == pytest.approx(12.0 / found.months[8].kg_week)
    assert found.trays is not None
    assert found.trays >= 5


@pytest.mark.parametrize(("litres", "kg"), [(10.0, None), (None, 5.0)])
def test_a_basket_becomes_jars(litres: float | None, kg: float | None):
    asked = advice_of_load(FIGS).basket
    assert asked is not None
    found = asked(on(FIG_DRYER, FIGS), FIGS, "fig", litres, kg)
    assert found.fresh_kg == pytest.approx(5.0)
    assert found.prepared_kg < found.fresh_kg
    assert found.dried_kg + found.water_kg == pytest.approx(found.prepared_kg)
    assert found.fillings == 1
    assert asked(on(FIG_DRYER, FIGS), FIGS, "fig", 100.0, None).fillings > 1
    with pytest.raises(InputProblem, match="neither"):
        asked(on(FIG_DRYER, FIGS), FIGS, "fig", None, None)
    with pytest.raises(InputProblem):
        asked(on(FIG_DRYER, FIGS), FIGS, "figg", 1.0, None)


# --- as weights come in ---


def trial(weighed: list[float], factor: float) -> tuple[TrialFacts, float]:
    """A drying run whose food gives up water ``factor`` times as fast, weighed at those minutes; and when it was really done."""
    began = weather_of(TERRACE, DAY, Span(start=AUGUST, days=6)).start_s + 9 * 3600.0
    case = Case(
        site=TERRACE,
        build=FIG_DRYER,
        load=FIGS,
        weather=DAY,
        span=Span(start=AUGUST, days=6),
        calibration=Calibration(parts={"drying": factor}),
    )
    run = simulate(case, weather_of(TERRACE, DAY, case.span))
    found = results(TERRACE, FIGS, run).drying  # type: ignore[attr-defined]
    assert isinstance(found, DryingResult)
    assert found.done_at is not None
    from datetime import UTC, datetime

    started = datetime.fromtimestamp(began, UTC)
    channels = [
        ChannelFacts(
            channel=f"food-{food.number}", title="", node=f"food-{food.number}", is_control=False, doubt=0.005, quantity="mass",
            times=[started + timedelta(minutes=m) for m in weighed], values=[float(np.interp(began + 60.0 * m, run.edge_s[9 * 60 + 1 :], run.mass_kg[f"food-{food.number}"][9 * 60 + 1 :])) for m in weighed],
        )
        for food in FIGS.numbered
    ]  # fmt: skip
    facts = TrialFacts(
        name="x",
        protocol="drying-run",
        started=started,
        spot=None,
        weather=DAY,
        load=FIGS,
        preheated=False,
        channels=channels,
        events=[],
    )
    return facts, found.done_at.timestamp()


@pytest.mark.parametrize("factor", [0.8, 1.25])
def test_the_finish_tightens_round_the_truth_as_weights_come_in(factor: float):
    spans = []
    for weighed in ([], [120.0, 480.0], [120.0, 480.0, 1440.0, 1680.0, 1920.0, 2880.0]):
        facts, truth = trial(weighed or [120.0], factor)
        at = beside(TERRACE, FIG_DRYER, facts)
        done = finish(at, FIGS, weighings(FIGS, facts.channels) if weighed else [])
        assert done.low_s is not None
        high = done.high_s if done.high_s is not None else truth + 4 * 86400.0
        spans.append(high - done.low_s)
        if weighed:
            assert done.low_s - 3600.0 <= truth <= high + 3600.0
    assert spans[0] >= spans[1] >= spans[2]
    assert spans[2] < 0.5 * spans[0]
    assert isclose(done.factor, factor, rel_tol=0.12)


def test_a_run_that_was_only_weighed_is_judged():
    facts, _ = trial([120.0, 480.0, 1440.0], 1.0)
    verdict = judge(TERRACE, FIG_DRYER, facts)
    assert verdict.channels == []
    assert plain(verdict.headline)
    assert "none of them by a thermometer inside" in plain(verdict.how_sure)
    assert {figure.name for figure in verdict.figures} >= {"dry-by", "drying-curve"}


def test_a_tray_that_got_heavier_is_asked_about_and_kept():
    flag = check_reading("mass", 0.42, None, 0.40, 480.0, laid_kg=0.45)
    assert flag.code == "jump"
    assert "dew or rain" in flag.text
    assert not check_reading("mass", 0.404, None, 0.40, 480.0, laid_kg=0.45).code
    assert not check_reading("mass", 0.42, None, 0.40, 480.0).code, "wax that is caught may get heavier"
    heavy = check_reading("mass", 1.2, None, None, None, laid_kg=0.45)
    assert heavy.code == "impossible"
    assert "was the tray weighed with it" in heavy.text
    assert FIGS.laid_kg["food-1"] == 0.45


# --- what may be given ---

REFUSED = [
    (lambda: FoodOnTray(slice_mm=0.0), "slice_mm"), (lambda: FoodOnTray(slice_mm=200.0), "slice_mm"), (lambda: FoodOnTray(start_wb=0.15, target_wb=0.2), "allowed is below that"),
    (lambda: FoodDryer(facing_deg=0.0, fan=Fan(), vent=Vent(area_cm2=0.0)), "a vent that never opens"), (lambda: FoodDryer(facing_deg=0.0, collector=None), "the sun gets in nowhere"),
    (lambda: Vent(hours=[Setting(hour="12:00"), Setting(hour="09:00")]), "the earliest first"), (lambda: FoodOnTray(food="figg"), "fig"),
    (lambda: AirCollector(absorber="ducts", ducts=30, duct_mm=100.0), "beside each other"), (lambda: FoodOnTray(out_day=1, day=2), "not after it went in"), (lambda: AirCollector(air="over", cover=None), "blow away"),
]  # fmt: skip


@pytest.mark.parametrize(("make", "words"), REFUSED)
def test_what_cannot_be_is_refused_with_a_sentence(make, words: str):
    with pytest.raises(ValueError, match=words):
        make()


@pytest.mark.parametrize(
    ("load", "words"),
    [
        (FoodTrays(foods=[FoodOnTray(tray=9)]), "this dryer has 5"), (FoodTrays(foods=[FoodOnTray(tray=1, kg=7.0)]), "up to 15"),
    ],
)  # fmt: skip
def test_trays_that_do_not_fit_and_heaps_are_refused(load: FoodTrays, words: str):
    with pytest.raises(InputProblem, match=words):
        kind_of(FIG_DRYER).check_fit(FIG_DRYER, load)


def test_a_typed_food_takes_the_hours_that_were_typed():
    own = OwnFood(name="rowan berry", fresh_wb=0.8, safe_wb=0.15, thick_m=0.008, hours=18.0, at_c=58.0)
    piece = piece_of_own(own, own.thick_m)
    from drylamp.core.air.moist import saturation_pressure_pa

    rh = 0.5 * float(saturation_pressure_pa(20.0)) / float(saturation_pressure_pa(58.0))
    assert hours_to(piece, piece.safe, 58.0, rh, 20.0) == pytest.approx(18.0, abs=0.2)
    with pytest.raises(InputProblem, match="reaches lower"):
        piece_of_own(own.model_copy(update={"isotherm": Gab(monolayer=0.6, bound=200.0, multi=0.5)}), own.thick_m)
    with pytest.raises(InputProblem, match="air alone takes longer"):
        piece_of_own(own.model_copy(update={"hours": 0.2}), own.thick_m)


def test_trays_may_come_on_another_day_change_places_and_go():
    load = FoodTrays.model_validate(
        {
            "foods": [
                {"tray": 1, "kg": 0.4, "out_day": 2, "comes_out": "17:00"},
                {"tray": 3, "kg": 0.4, "day": 2, "goes_in": "10:00"},
            ],
            "swaps": [{"day": 2, "hour": "12:00"}],
        }
    )
    assert load.stage_days == [0, 1, 1, 1]
    assert [[(food.number, food.tray) for food in stage.foods] for _, stage in load.stages()] == [
        [(1, 1)],
        [(1, 1), (2, 3)],
        [(1, 3), (2, 1)],
        [(2, 1)],
    ]
    case = Case(site=TERRACE, build=FIG_DRYER, load=load, weather=DAY, span=Span(start=AUGUST, days=3))
    outcome, run = run_case(case)
    assert run.energy_closure < 1e-9
    assert outcome.water_closure is not None
    assert outcome.water_closure < 1e-9
    first, second = run.mass_kg["food-1"], run.mass_kg["food-2"]
    assert np.isnan(first[(24 + 18) * 60])
    assert np.isnan(second[(24 + 9) * 60])
    assert second[(24 + 11) * 60] == pytest.approx(0.4, abs=0.01)


def test_trays_laid_in_after_the_first_are_done_go_in_all_the_same():
    mint = [FoodOnTray(tray=1, food="mint", kg=0.05), FoodOnTray(tray=2, food="mint", kg=0.05, day=4)]
    load = FoodTrays(foods=mint)
    case = Case(site=TERRACE, build=FIG_DRYER, load=load, weather=DAY, span=Span(start=AUGUST, days=5, step_s=300))
    run = simulate(case, weather_of(TERRACE, DAY, case.span))
    first, second = (run.mass_kg[f"food-{k}"] for k in (1, 2))
    assert np.nanmin(first[: 2 * 288]) < load.foods[0].target_kg, "dry long before the other goes in"
    assert np.isnan(second[3 * 288])
    assert second[3 * 288 + 10 * 12] == pytest.approx(0.05, abs=0.02)
    assert np.nanmin(second) < load.foods[1].target_kg


def test_what_is_taken_out_stays_out_though_nothing_else_lies_there():
    """Out on the second evening, wet as it is; another tray goes in on the fourth day."""
    fig, later = FoodOnTray(tray=1, kg=0.5, out_day=2), FoodOnTray(tray=2, kg=0.5, day=4)
    load = FoodTrays(foods=[fig, later])
    assert [len(stage.foods) for _, stage in load.stages()] == [1, 0, 1]
    for given in (load, FoodTrays(foods=[fig])):
        case = Case(site=TERRACE, build=FIG_DRYER, load=given, weather=DAY, span=Span(start=AUGUST, days=4, step_s=300))
        outcome, run = run_case(case)
        kg = run.mass_kg["food-1"]
        assert not np.isnan(kg[288 + 17 * 12])
        assert np.isnan(kg[288 + 19 * 12 :]).all()
        assert outcome.energy_closure < 1e-9
        assert outcome.water_closure is not None
        assert outcome.water_closure < 1e-9


@pytest.mark.parametrize("name", ["dryer-figs", "dryer-glass-cabinet"])
def test_examples_answer_hours_and_both_closures(name: str):
    outcome, _ = run_case(examples()[name])
    drying = outcome.results.drying  # type: ignore[attr-defined]
    assert drying is not None
    assert len(drying.trays) == len(examples()[name].load.foods)  # type: ignore[union-attr]
    assert outcome.energy_closure < 1e-9
    assert outcome.water_closure is not None
    assert outcome.water_closure < 1e-9
    assert drying.water_closure == outcome.water_closure


def test_networks_that_cannot_carry_water_are_refused():
    from drylamp.core.heat.parts import Melting, Node, Wet

    wet = Wet("nowhere", "a", 0.1, 5.0, "x", area_m2=1.0)
    with pytest.raises(InputProblem, match="'nowhere' is no node"):
        Network((Node("a", 1.0, "", wet=wet),), ())
    both = replace(wet, vapour="a")
    with pytest.raises(InputProblem, match="node of its own"):
        Network((Node("a", 1.0, "", Melting(1.0, 1.0, 1.0, 1.0, 2.0), wet=both),), ())
    with pytest.raises(InputProblem, match="pieces"):
        Network((Node("a", 1.0, "", wet=replace(both, dry_kg=1.0)),), ())
