"""Water in a box: what must come out right, and what is refused with a sentence."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.lid.spec import NightLid
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.checks import InputProblem
from drylamp.core.common.coil import Coil
from drylamp.core.engine import weather_for
from drylamp.core.loads.common.draws import Draw
from drylamp.core.loads.common.kept.outcome import warm_litres
from drylamp.core.loads.common.scald import scald_s
from drylamp.core.loads.water.spec import HotWater
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span
from drylamp.core.sums.water import MixIn, mix
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import SOUTHERN, TERRACE

START = starters()["batch-box"][0]
BOX: BatchBox = START.spec.with_(seals_vapour=True)
"""Vapour stays in, so that each other thing shows by itself."""
FULL: HotWater = START.load.model_copy(update={"draws": []})
JUNE, DECEMBER = date(2025, 6, 12), date(2025, 12, 12)


def week(build: BatchBox = BOX, load: HotWater = FULL, days: int = 2, site: Site = TERRACE, day: date = JUNE) -> Run:
    case = usual_case(site, None, build, load, day).with_(span=Span(start=day, days=days, step_s=300))
    return simulate(case, weather_for(case))


def at(run: Run, day: int, hour: float, node: str = "water") -> float:
    return float(run.at(node, np.array([run.edge_s[0] + 86400.0 * day + 3600.0 * hour]))[0])


def test_half_the_depth_is_warmer_in_the_evening_and_cooler_in_the_morning():
    """Once the days repeat themselves; on the first day from cold it is warmer at both."""
    deep, shallow = (week(BOX.with_(lid=None), FULL.model_copy(update={"fill_l": f}), days=6) for f in (60.0, 30.0))
    assert at(shallow, 4, 18) > at(deep, 4, 18) + 3.0
    assert at(shallow, 5, 7) < at(deep, 5, 7) - 1.0


def test_a_lid_shows_at_night_only():
    lidded, bare = week(BOX), week(BOX.with_(lid=None))
    assert at(lidded, 0, 18) == pytest.approx(at(bare, 0, 18), abs=0.3)
    assert at(lidded, 1, 7) > at(bare, 1, 7) + 3.0


def test_a_lid_that_stays_shut_keeps_the_sun_out():
    late = week(BOX.with_(lid=NightLid(shut_at="19:30", open_at="13:00")))
    assert at(late, 0, 18) < at(week(), 0, 18) - 8.0
    assert late.opening_w[: 12 * 12].max() == 0.0


@pytest.mark.parametrize(
    ("change", "low", "high"),
    [
        ({"water_film": True}, -2.0, 0.5), ({"water_film": True, "bubbles_share": 1.0}, -4.0, -1.0), ({"fog_share": 1.0}, -4.0, -1.0),
        ({"scale_mm": 5.0}, -1.0, 0.0), ({"tray": "pale-paint"}, -20.0, -8.0),
    ],
)  # fmt: skip
def test_what_film_bubbles_fog_and_scale_cost(change, low, high):
    """In kelvin of the evening's water under two panes: film and fog take light, scale hardly matters on a bed, white paint a lot."""
    assert low < at(week(BOX.with_(**change)), 0, 18) - at(week(), 0, 18) < high


def test_a_film_pays_where_vapour_has_a_single_cold_pane_to_go_to():
    single = BOX.cover.model_copy(update={"layers": 1})
    one, filmed = (week(BOX.with_(cover=single, lid=None, water_film=film), days=5) for film in (False, True))
    assert at(filmed, 4, 7) > at(one, 4, 7) + 1.0


def test_direct_draw_takes_heat_litre_for_litre():
    drawn = week(load=FULL.model_copy(update={"draws": [Draw(at="19:00", take_l=20.0, l_min=4.0)], "mains_c": 13.0}))
    tap = drawn.drawn["drawn"]
    first = tap.kg[: len(tap.kg) // 2]
    assert first.sum() == pytest.approx(20.0, rel=1e-6)
    warm = tap.celsius[: len(first)][first > 0]
    assert warm[0] == pytest.approx(at(drawn, 0, 18.95), abs=1.5)
    assert at(drawn, 0, 19.2, "water-3") < at(drawn, 0, 19.2) - 10.0, "cold water comes in below"
    assert drawn.energy_closure < 1e-9


def test_a_coil_gives_its_own_water_first_and_then_less():
    """Mains through a coil in the water: never warmer than the water round it, and cooler as the draw goes on."""
    build = BOX.with_(coil=Coil(pipe_m=20.0))
    run = week(
        build, FULL.model_copy(update={"draws": [Draw(at="19:00", take_l=40.0, l_min=4.0)], "mains_c": 13.0}), days=1
    )
    tap = run.drawn["drawn"]
    assert tap.lot_kg.sum() == pytest.approx(40.0, rel=1e-6)
    by_litre = np.cumsum(tap.lot_kg)
    own = tap.lot_c[by_litre < 0.8 * build.coil.water_l].mean()
    late = tap.lot_c[by_litre > 30.0].mean()
    assert own == pytest.approx(at(run, 0, 18.9), abs=2.0)
    assert 13.0 + 0.3 * (own - 13.0) < late < own - 5.0
    assert run.energy_closure < 1e-9


def test_litres_at_the_tap_are_the_mixing_sum():
    run = week(load=FULL.model_copy(update={"mains_c": 13.0, "layers": 1}))
    made = warm_litres(FULL.model_copy(update={"mains_c": 13.0, "layers": 1}), run)
    k = int(np.argmax(made))
    hot = float(run.temperature_c["water"][k])
    assert made[k] == pytest.approx(mix(MixIn(hot_l=60.0, hot_c=hot, cold_c=13.0, want_c=40.0)).total_l, rel=1e-6)
    assert (made[run.temperature_c["water"] < 40.0] == 0.0).all()


def test_both_hemispheres():
    north = week(site=TERRACE, day=JUNE)
    south = week(BOX.with_(facing_deg=0.0), site=SOUTHERN, day=DECEMBER)
    assert at(north, 0, 18) > 40.0
    assert at(south, 0, 18) > 40.0


def test_seconds_to_a_burn_pass_through_the_published_points():
    """Moritz & Henriques 1947, from memory: 5 s at 60 °C, 30 s at 54, 5 min at 49."""
    assert [round(scald_s(c)) for c in (60.0, 54.0, 49.0)] == [5, 30, 300]
    assert scald_s(57.0) < scald_s(55.0)


@pytest.mark.parametrize(
    ("build", "load", "words"),
    [
        (BOX, FULL.model_copy(update={"fill_l": 200.0}), "200 litres stand 33 cm deep; up to 120 litres"),
        (BOX.with_(coil=Coil(pipe_m=60.0)), FULL, "25 m of pipe 16 mm thick lie on the bed"),
    ],
)
def test_what_does_not_fit_is_refused(build, load, words):
    with pytest.raises(InputProblem, match=words):
        kind_of(build).check_fit(build, load)


@pytest.mark.parametrize(
    ("model", "given", "words"),
    [
        (Coil, {"bore_mm": 16, "outer_mm": 12}, "outer_mm 12 is not above bore_mm 16"),
        (NightLid, {"shut_at": "08:00", "open_at": "08:00"}, "shut_at and open_at are both 08:00"),
        (HotWater, {"mains_c": 38, "warm_c": 36}, "cold water of 38 °C is no colder than the 36 °C wanted"),
        (HotWater, {"fill_l": 0}, "greater than 0"),
    ],
)
def test_bad_input_gets_a_sentence(model, given, words):
    with pytest.raises(ValidationError, match=words):
        model.model_validate(given)
