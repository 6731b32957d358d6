"""What boils in a pot: its film, its water, its place's boiling point, what a closed box keeps of its vapour."""

from datetime import date

import numpy as np
import pytest

from drylamp.core.air.moist import boiling_c, saturation_pressure_pa
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.heat import boil, laws
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.cooper import cooper_w_m2k
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, STEAM, VALVE, Boiling, Link, Node
from drylamp.core.loads.pot.advice import danger_hours
from drylamp.core.loads.pot.outcome import dry_at, scorched_at
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.outcome.of_load import held_at
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.tables import contacts
from drylamp.demo.scenario import DISH, OVEN, STEW, TERRACE
from tests.posing import simulated

DAY = weather_of(TERRACE, ClearDay(tmin_c=14, tmax_c=26), Span(start=date(2025, 6, 12)))
WATER = STEW.model_copy(update={"food": "water", "target_c": 95.0})
HIGH = TERRACE.model_copy(update={"elevation_m": 2500.0})
UP_THERE = weather_of(HIGH, ClearDay(tmin_c=14, tmax_c=26), Span(start=date(2025, 6, 12)))


def drive(watts: np.ndarray, dt_s: float, steps: int) -> Drive:
    ones = np.ones(steps)
    return Drive(
        dt_s,
        20 * ones,
        5 * ones,
        0 * ones,
        1200 * ones,
        100.0,
        101325.0,
        np.outer(ones, watts),
        np.ones(steps, dtype=np.int64),
    )


@pytest.mark.parametrize(
    ("flux", "low", "high"), [(1e3, 400, 600), (2e3, 500, 800), (1e4, 1500, 2500), (2e4, 2500, 3500)]
)
def test_boiling_water_takes_what_cooper_says(flux: float, low: float, high: float):
    """Cooper 1984 at 1 atm and 1 µm: h = 55 p_r^0.12 (−log p_r)^−0.55 M^−½ q^0.67, worked out here; and the usual range beside it (m)."""
    reduced = 101325 / 22.064e6
    by_hand = 55 * reduced**0.12 * (-np.log10(reduced)) ** -0.55 * 18.015**-0.5 * flux**0.67
    found = cooper_w_m2k(101325.0) * flux**0.67
    assert found == pytest.approx(by_hand, rel=1e-6)
    assert low < found < high
    assert boil.stirred_film_w_m2k(100.0 + flux / found, 100.0, 100.0, flux, cooper_w_m2k(101325.0)) == pytest.approx(
        max(found, boil.stirred_film_w_m2k(100.0 + flux / found, 100.0, 100.0, 0.0, 1.0)), rel=1e-6
    )


def test_warming_water_stirs_itself_by_mcadams():
    """Nu = 0.15 Ra^⅓ with water at 55 °C: g β/(ν α) = 6.3e10 /m³K, k = 0.646 W/mK (CoolProp)."""
    found = boil.stirred_film_w_m2k(60.0, 50.0, 100.0, 4000.0, cooper_w_m2k(101325.0))
    assert found == pytest.approx(0.15 * 0.646 * (6.3e10 * 10.0) ** (1 / 3), rel=0.05)


def test_a_dish_pots_wall_stands_a_few_kelvin_over_its_boiling_water():
    pot = in_vessel(
        PotLoad(food="water", food_kg=3.0, pot_diameter_m=0.24, pot_height_m=0.14, goes_in="10:00", target_c=95),
        "thin-enamel",
    )
    run = simulated(TERRACE, None, DISH, pot, DAY)
    boils = (run.temperature_c["contents"] > run.boils_c - 0.01) & (run.water_kg["contents"] > 0.3)
    over = run.temperature_c["pot"][boils] - run.boils_c
    assert boils.sum() > 20
    assert 1 < over.mean() < 10, "28 K before"


@pytest.mark.parametrize("dt_s", [60.0, 300.0])
@pytest.mark.parametrize("at", [STEAM, VALVE])
def test_nothing_gets_hotter_than_it_boils_whatever_the_step(dt_s: float, at: str):
    """Within 0.2 K at 300 s, with 4 kW on a litre; here not at all. Energy and water close."""
    nodes = (Node("pot", 500.0, ""), Node("water", 100.0, "", boils=Boiling(at, 1.0)))
    links = (
        Link("film", Law.STIRRED, "pot", "water", (0.1, 3000.0, 0.0, cooper_w_m2k(101325.0)), beside=at),
        Link("boiling", Law.BOIL, "water", at, (), "steam"),
        Link("loss", Law.CONDUCTANCE, "pot", AIR, (2.0,), "walls"),
    )
    network, steps = Network(nodes, links), round(3000 / dt_s)
    found = drive(np.array([1000.0, 0.0]), dt_s, steps)
    history = advance(network, np.full(2, 20.0), found)
    boils_c = found.boundaries()[0][{"steam": 2, "valve": 5}[at]]
    wet = history.water_kg[:, 0] > 0.0
    assert history.temperature_c[wet, 1].max() <= boils_c + 1e-9
    lost, sun = closure(network, history, found)
    assert abs(lost) < 1e-10 * sun
    assert history.steamed_kg.sum() == pytest.approx(1.0 - history.water_kg[-1, 0])
    by_hand = (
        1000 * 3000
        - 2.0 * float(history.temperature_c[1:, 0].mean() - 20.0) * 3000
        - (boils_c - 20) * 4286
        - 500 * (boils_c - 20)
    ) / 2.257e6
    assert float(history.steamed_kg.sum()) == pytest.approx(by_hand, rel=0.03)


def test_water_runs_out_and_what_is_dry_heats_on():
    little = PotLoad(
        food="water", food_kg=0.4, pot_diameter_m=0.16, pot_height_m=0.08, goes_in="10:00", lid="none", target_c=95
    )
    run = simulated(TERRACE, None, DISH, in_vessel(little, "thin-enamel").model_copy(update={"lid": "none"}), DAY)
    dry = dry_at(little, run)
    gone = int(np.argmax(run.water_kg["contents"] == 0.0))
    assert dry is not None
    assert run.temperature_c["contents"][gone + 30] > run.boils_c + 30
    assert run.steam_kg.sum() == pytest.approx(0.4, abs=1e-3)
    assert run.steam_kg[gone + 1 :].sum() == 0.0
    assert scorched_at(little, run) is not None
    assert run.energy_closure < 1e-11


def test_nuts_and_a_loafs_crust_pass_boiling_and_stew_does_not():
    nuts = STEW.model_copy(update={"food": "roast-nuts", "food_kg": 0.5, "lid": "none"})
    for load, node in (
        (nuts, "contents"),
        (
            in_vessel(STEW.model_copy(update={"food": "tin-loaf", "food_kg": 0.8, "pot_height_m": 0.1}), "dark-tin"),
            "crust",
        ),
    ):
        run = simulated(TERRACE, None, OVEN, load, DAY)
        assert np.nanmax(run.temperature_c[node]) > run.boils_c + 1, load.food
        assert np.nanmax(run.temperature_c[load.judged]) > 80
    assert (
        np.nanmax(simulated(TERRACE, None, OVEN, STEW, DAY).temperature_c["contents"])
        <= boiling_c(DAY.pressure_pa) + 1e-9
    )


def test_targets_follow_the_height_and_take_longer_there():
    """At 2500 m water boils near 91.8 °C (CoolProp holds ``boiling_c`` elsewhere)."""
    rice = STEW.model_copy(update={"food": "rice-and-water", "food_kg": 1.0})
    low, high = (rice.wanted_where(boiling_c(w.pressure_pa)) for w in (DAY, UP_THERE))
    assert low.celsius == rice.contents.target_c
    assert high.celsius == pytest.approx(boiling_c(UP_THERE.pressure_pa) - 1.0)
    assert high.minutes == pytest.approx(25 * 2.5 ** ((92 - high.celsius) / 10))
    run = simulated(HIGH, None, OVEN.with_(cover=OVEN.cover), rice, UP_THERE)
    assert held_at(rice, run) is not None, "it is cooked, only later"
    tight = in_vessel(rice.model_copy(update={"pot_height_m": 0.16, "food_kg": 0.8}), "pressure-pot")
    assert tight.wanted_where(91.0).celsius == 92


def test_a_closed_box_keeps_part_of_the_vapour_and_a_tight_lid_most():
    losses = {}
    for lid, fits in (("none", "loose"), ("black", "loose"), ("black", "tight")):
        run = simulated(TERRACE, None, OVEN, WATER.model_copy(update={"lid": lid, "lid_fits": fits}), DAY)
        before = run.temperature_c["contents"][:-1] < run.boils_c - 1
        losses[lid, fits] = float(run.steam_kg[before].sum())
        assert run.energy_closure < 1e-10
    assert losses["none", "loose"] > 5 * losses["black", "loose"] > 5 * losses["black", "tight"]
    one_pane = OVEN.with_(cover=GlazedCover(layers=1))
    lost = []
    for build in (one_pane.with_(seal_gap_mm=0.05), one_pane.with_(seal_gap_mm=2.0), OVEN.with_(cover=None)):
        run = simulated(TERRACE, None, build, WATER.model_copy(update={"lid": "none"}), DAY)
        lost.append(float(run.account_w["steam"].sum()) * 60 / (float(run.steam_kg.sum()) * 2.35e6))
    assert lost[0] < 0.6 < lost[1], "what comes down on a cold pane gives its heat back; a gap lets it out"
    assert lost[2] == pytest.approx(1.1, abs=0.08), "in the open all of it, and the water's own warmth, is gone"


def test_vapour_in_a_closed_space_balances():
    """What leaves the pot is what comes down and what leaks, at the humidity in which both meet."""
    falls, leaks, outside = 1e-3, 3e-4, 0.008
    kept, lost = boil.vapour_in_w(0.03, falls, leaks, 80.0, 50.0, 60.0, outside)

    def dense(celsius: float) -> float:
        return saturation_pressure_pa(celsius) / (461.5 * (celsius + 273.15))

    film = 0.03 * 6.0 / (1.06 * 1006 * laws.LEWIS)
    damp = (film * dense(80.0) + falls * dense(50.0) + leaks * outside) / (film + falls + leaks)
    assert kept == pytest.approx(laws.LATENT_J_KG * falls * (damp - dense(50.0)), rel=0.01)
    assert kept + lost == pytest.approx(laws.LATENT_J_KG * film * (dense(80.0) - damp), rel=0.01)
    assert boil.vapour_in_w(0.03, falls, leaks, 30.0, 70.0, 60.0, outside)[0] == 0.0, "a warm cover stays dry"


def test_contact_has_words_ranges_and_sources():
    """k/δ of air at 60 °C, 0.028 W/mK: 0.1 mm 280, 0.3 mm 93, 1 mm 28 W/m²K (Incropera & DeWitt 3.1.4)."""
    rows = contacts()
    for row in rows.values():
        assert row.low_w_m2k < row.w_m2k < row.high_w_m2k
        assert row.source
    assert 0.028 / 0.0005 <= rows["flat"].w_m2k <= 0.028 / 0.0001
    assert 0.028 / 0.0015 <= rows["uneven"].w_m2k <= 0.028 / 0.0003
    order = ["trivet", "uneven", "flat", "wetted"]
    at = 60 * 12
    stood = [STEW.model_copy(update={"contact": name}) for name in order]
    warm = [float(simulated(TERRACE, None, OVEN, load, DAY).temperature_c["contents"][at]) for load in stood]
    assert warm == sorted(warm), "on a hot black tray the closer the sooner"
    assert warm[-1] > warm[0] + 3


def test_food_hours_in_the_danger_zone_count_each_day():
    days = weather_of(TERRACE, ClearDay(tmin_c=14, tmax_c=26), Span(start=date(2025, 6, 12), days=3))
    one = danger_hours(STEW, simulated(TERRACE, None, OVEN, STEW, DAY), TERRACE)
    three = danger_hours(STEW, simulated(TERRACE, None, OVEN, STEW, days), TERRACE)
    assert len(one) == 1
    assert len(three) == 3
    assert three == pytest.approx([one[0]] * 3, abs=0.2)
