"""What goes in: pots of every kind, portions with places and minutes, batches of wax; what becomes of them."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core import tables
from drylamp.core.checks import InputProblem, explain
from drylamp.core.loads.common.body import Place, inside_shares
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.portions.spec import Portion, Portions, state_of
from drylamp.core.loads.pot.outcome import KG_PER_WHISTLE
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.loads.registry import LOAD, read_load
from drylamp.core.loads.wax.spec import FORMS, WaxBatch
from drylamp.core.outcome.registry import results_of
from drylamp.core.twin.placements import Placement
from drylamp.demo.scenario import BISCUITS, CAPPINGS, CREW_POT, DISH, FLAT_LOAF, FUNNEL, MELTER, OVEN, STEW, WORKSHOP
from tests.posing import prepared, simulated
from tests.wording import read

BOX = Place("inside-air", "tray")


@pytest.mark.parametrize("load", [STEW, BISCUITS, CAPPINGS, CREW_POT, FLAT_LOAF])
def test_every_load_goes_out_and_comes_back(load):
    assert read_load(load.model_dump_json()) == load
    assert LOAD.validate_python(load.model_dump()) == load


def test_a_load_that_does_not_say_is_a_pot_and_an_unknown_one_is_refused():
    assert isinstance(LOAD.validate_python({"food": "water"}), PotLoad)
    with pytest.raises(ValidationError) as caught:
        LOAD.validate_python({"kind": "barrel"})
    assert (
        "hot-water, kettle-water, loop-tank, lumber-charge, pool, portions, pot, running-water and wax"
        in explain(caught.value)[0].message
    )


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"vessel": "bucket"}, "'bucket' is not known"),
        ({"vessel": "pressure-pot", "food_kg": 3.9}, "two thirds"),
        ({"vessel": "pressure-pot", "lid": "clear"}, "own black lid"),
        ({"whistles": 3}, "only a pressure pot whistles"),
        ({"under": {"diameter_m": 0.1, "height_m": 0.2}}, "smaller than the pot"),
    ],
)
def test_impossible_pots_are_refused(change, words):
    with pytest.raises(ValidationError) as caught:
        PotLoad.model_validate({"food_kg": 1.5, "pot_diameter_m": 0.22, "pot_height_m": 0.12} | change)
    assert words in explain(caught.value)[0].message


def test_another_vessel_brings_its_own_mass_finish_and_lid():
    thin, iron = in_vessel(STEW, "thin-enamel"), in_vessel(STEW, "cast-iron")
    assert iron.pot_kg > 4 * thin.pot_kg
    assert iron.pot_finish == "cast-iron"
    assert in_vessel(STEW, "clear-jar").lid == "clear"
    assert in_vessel(CREW_POT, "thin-enamel").whistles is None
    with pytest.raises(InputProblem, match="nearest known"):
        in_vessel(STEW, "cast-irons")


def test_every_vessel_is_in_the_shelf_of_finishes():
    for row in tables.vessels().values():
        assert row.finish in tables.absorbers()
        assert row.source


def test_a_solid_food_lags_in_its_core_and_a_soup_has_none():
    nodes, links = FLAT_LOAF.inside(BOX)
    assert "core" in [node.name for node in nodes]
    assert FLAT_LOAF.judged == "core"
    assert "core" not in [node.name for node in STEW.inside(BOX)[0]]
    core = next(link for link in links if link.name == "into the core")
    half = FLAT_LOAF.food_capacity_j_k / 2
    thick = FLAT_LOAF.food_kg / 450 / FLAT_LOAF.top_m2
    diffusivity = 0.20 / (450 * 2700)
    assert half / core.params[0] == pytest.approx(thick**2 / (np.pi**2 * diffusivity), rel=0.01)


def test_core_follows_the_rest(site, june):
    run = simulated(site, None, FUNNEL, FLAT_LOAF, june)
    core, rest = run.temperature_c["core"], run.temperature_c["contents"]
    inside = ~np.isnan(core)
    assert (core[inside][:60] <= rest[inside][:60] + 0.1).all()
    assert np.nanmax(rest - core) > 5


@pytest.mark.parametrize(("lid", "share"), [("black", 0.02), ("none", 1.0)])
def test_lids_hold_vapour_back(lid, share):
    assert STEW.model_copy(update={"lid": lid}).free_share == share
    assert CREW_POT.free_share == 0.0


def test_portions_must_be_told_apart():
    twin = Portion(name="a", title="one")
    with pytest.raises(ValidationError, match="names two portions"):
        Portions(portions=[twin, twin])


def test_portions_go_in_one_after_the_other_and_keep_what_they_were(site, june):
    late = Portions(
        portions=[
            Portion(name="a", title="early", goes_in="11:00"),
            Portion(name="b", title="late", across=0.8, goes_in="12:30"),
        ]
    )
    assert [(hour, len(part.portions)) for hour, part in late.stages()] == [("11:00", 1), ("12:30", 2)]
    run = simulated(site, None, OVEN, late, june)
    early, second = run.temperature_c["portion-a"], run.temperature_c["portion-b"]
    assert np.isnan(early[: 11 * 60 - 1]).all()
    assert np.isnan(second[: 12 * 60 + 29]).all()
    assert np.isfinite(second[12 * 60 + 31])
    assert abs(early[12 * 60 + 31] - early[12 * 60 + 29]) < 3, "the first one is not put in afresh"
    assert run.energy_closure < 1e-9


def test_equal_portions_part_where_the_patch_lies(site):
    """Patch on one: it gets more light and is warmer; with the flap turned onto both they are alike."""
    from drylamp.core.sky.weather import ClearDay, clear_days

    start = 1750240800.0  # 10:00 UTC on 18 June 2025
    weather = clear_days(site, ClearDay(tmin_c=15, tmax_c=26, wind_m_s=1.0), start, start + 3600)
    azimuth = float(weather.sun.azimuth_deg[30])
    box = WORKSHOP.model_copy(update={"facing_deg": azimuth, "tilt_deg": 0.0})
    apart = []
    for angle in (80.0, 110.0, 120.0, 130.0, 140.0):
        flap = box.mirror.model_copy(update={"angle_deg": angle})
        load = BISCUITS.model_copy(
            update={
                "portions": [
                    p.model_copy(update={"up": u}) for p, u in zip(BISCUITS.portions, (0.85, 0.15), strict=True)
                ]
            }
        )
        run = prepared(site, [Placement(start, None)], box.model_copy(update={"mirror": flap}), load, weather).run(
            put_s=start
        )
        apart.append(float(run.temperature_c["portion-left"][40] - run.temperature_c["portion-right"][40]))
    assert apart[0] > 4
    assert min(abs(a) for a in apart[1:]) < 0.6 * apart[0]


@pytest.mark.parametrize(
    ("hottest", "state"), [(20.0, "unchanged"), (43.0, "soft"), (59.0, "melted"), (160.0, "browned")]
)
def test_portions_are_judged_by_how_far_they_got(hottest, state):
    assert state_of(tables.sweets()["marshmallow-biscuit"], np.array([np.nan, 18.0, hottest, 30.0])) == state


def test_denser_or_not_it_is_the_melting_point_that_counts(site, june):
    load = Portions(portions=[
        Portion(name="a", title="chocolate", what="milk-chocolate", across=0.3), Portion(name="b", title="crayon", what="wax-crayon", across=0.7),
    ])  # fmt: skip
    rows = [p.row for p in load.portions]
    assert rows[0].density_kg_m3 > rows[1].density_kg_m3
    found = results_of(site, load, simulated(site, None, OVEN, load, june)).portions
    assert found[0].melted_at < found[1].melted_at


def test_a_batch_gives_its_wax_less_what_the_residue_keeps():
    assert pytest.approx(1.5 * 0.45) == WaxBatch(form="old-comb", batch_kg=1.5).wax_kg
    assert WaxBatch(form="old-comb").yield_kg < WaxBatch(form="cappings").yield_kg
    assert pytest.approx(1.5 * 0.5 * (1 - FORMS["cappings"].kept_share)) == WaxBatch(wax_share=0.5).yield_kg


def test_finer_strainers_drip_later(site, june):
    done = []
    for strainer in ("none", "paper"):
        load = CAPPINGS.model_copy(update={"strainer": strainer})
        done.append(results_of(site, load, simulated(site, None, MELTER, load, june)).wax)
    assert done[0].done_at < done[1].done_at
    assert done[0].clean_kg == pytest.approx(done[1].clean_kg, rel=0.05)


def test_each_day_begins_with_a_clean_tray(site):
    from datetime import date

    from drylamp.core.sky.of_span import weather_of
    from drylamp.core.sky.weather import ClearDay, Span

    weather = weather_of(site, ClearDay(tmin_c=15, tmax_c=27), Span(start=date(2025, 6, 21), days=2))
    caught = simulated(site, None, MELTER, CAPPINGS, weather).mass_kg["catch"]
    assert caught[1439] == pytest.approx(CAPPINGS.yield_kg, rel=0.05)
    assert caught[1440 + 10 * 60 + 5] < 0.05
    assert np.nanmax(caught) <= CAPPINGS.wax_kg


def test_wax_words_say_melt_or_wait(site, june, grey):
    load = CAPPINGS
    clear = results_of(site, load, simulated(site, None, MELTER, load, june)).wax
    dull = results_of(site, load, simulated(site, None, MELTER, load, grey)).wax
    assert (clear.answer, dull.answer) == ("melt", "wait")
    assert clear.words.startswith("Melt today")
    assert "melts from 62 °C" in read(dull.words)


def test_a_pressure_pot_gets_hotter_than_open_boiling_and_whistles_by_its_steam(site, june):
    run = simulated(site, None, DISH, CREW_POT, june)
    wet = run.water_kg["contents"] > 0.0
    assert 117 < float(np.nanmax(run.temperature_c["contents"][wet])) < 122
    heard = results_of(site, CREW_POT, run).whistles
    assert len(heard) > 6
    first = round((heard[0].timestamp() - run.weather.start_s) / 60)
    assert run.steam_kg[:first].sum() == pytest.approx(KG_PER_WHISTLE, abs=KG_PER_WHISTLE)
    open_pot = in_vessel(CREW_POT, "thin-enamel")
    left_open = simulated(site, None, DISH, open_pot, june)
    assert float(np.nanmax(left_open.temperature_c["contents"][left_open.water_kg["contents"] > 0.0])) < 101


def test_what_comes_through_a_bowl_is_shared_out_whole():
    bowl = Envelope()
    shares = inside_shares(BISCUITS.bodies_on((0.4, 0.4)), bowl, 0.92)
    assert sum(shares.values()) == pytest.approx(1.0)
    assert shares["floor"] > shares["portion-left"]
    assert bowl.title == "bowl"
    assert Envelope(material="oven-bag", thickness_m=0.000025).title == "bag"


def test_a_bag_keeps_the_wind_off(site, june):
    bare = STEW.model_copy(update={"under": None})
    bag = STEW.model_copy(
        update={"under": Envelope(material="oven-bag", thickness_m=0.000025, diameter_m=0.26, height_m=0.17)}
    )
    windy = june.__class__(**{**june.__dict__, "wind_m_s": np.full(june.steps, 5.0)})
    at = 11 * 60 + 15
    warm, cold = (
        float(simulated(site, None, FUNNEL, load, windy).temperature_c["contents"][at]) for load in (bag, bare)
    )
    assert warm > cold + 1
