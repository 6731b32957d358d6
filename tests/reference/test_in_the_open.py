"""Backs, bowls, birds and slopes: what stands in the open or at the end of a range, against published figures and hand sums."""

import math

import numpy as np
import pytest

from drylamp.core.builds.samples.recipe import squares_see
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.heat.law import Law
from drylamp.core.heat.laws import dome_w_k
from drylamp.core.loads.common.places import runs
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.text import plain
from drylamp.demo.scenario import CAPPINGS, LIDS, MELTER, OVEN, TERRACE, WORKSHOP
from tests.core.advised import BISCUITS_ALONE, CONTEXT
from tests.posing import forecasted, simulated


def back_w_m2k(build: Samples, wind_m_s: float = 2.0, face_c: float = 60.0, air_c: float = 25.0) -> float:
    """Loss of one sample's back, all ways, over its area and how much warmer it is than air and board: from the links, by hand."""
    network = CONTEXT.ready(build, None).empty.network
    mine = [link for link in network.links if link.name.startswith(f"{build.samples[0].node} back")]
    hot, cold, total = face_c + 273.15, air_c + 273.15, 0.0
    for link in mine:
        if link.law is Law.WIND:
            total += link.params[0] * (2.8 + 3.0 * wind_m_s)
        elif link.law is Law.RADIATION:
            total += 5.670e-8 * link.params[0] * (hot**2 + cold**2) * (hot + cold)
    return total / build.sample_m2


@pytest.mark.parametrize(("backs", "low", "high"), [("flat-black-paint", 8.5, 11.5), ("aluminium-foil", 4.0, 7.0)])
def test_a_back_well_off_the_board_loses_as_a_plate_in_the_open(backs: str, low: float, high: float):
    """Half the wind's film (2.8 + 3 V at 2 m/s: 4.4) and some 6 ε by long-wave: 9–11 black, 5–7 bright (Duffie & Beckman 3.15, 3.10.4)."""
    build = LIDS.model_copy(update={"contact": "stood-off", "backs": backs, "width_m": 0.03, "length_m": 0.03})
    assert low < back_w_m2k(build) < high


def test_nearer_to_the_board_it_is_less_aired():
    stood = LIDS.model_copy(update={"contact": "stood-off", "backs": "flat-black-paint"})
    near = LIDS.model_copy(update={"contact": "spacers", "backs": "flat-black-paint"})
    assert near.stands_off_m < stood.stands_off_m
    assert back_w_m2k(near, wind_m_s=6.0) < back_w_m2k(stood, wind_m_s=6.0)


@pytest.mark.parametrize(("side", "apart", "published"), [(1.0, 1.0, 0.1998), (1.0, 2.0, 0.0686), (2.0, 1.0, 0.4153)])
def test_squares_that_face_each_other(side: float, apart: float, published: float):
    """Howell's catalogue C-11 (table values)."""
    assert squares_see(side, apart) == pytest.approx(published, abs=2e-3)


# --- domes ---


def test_a_sphere_in_still_air_and_in_wind():
    """Churchill 1983 and Whitaker 1972 by hand at 25 mm, 3 m/s and 300 K (ν 1.589e-5, k 0.0263, Pr 0.707): Re 4720."""
    reynolds = 3.0 * 0.025 / 1.589e-5
    blown = 2.0 + (0.4 * math.sqrt(reynolds) + 0.06 * reynolds ** (2 / 3)) * 0.707**0.4
    assert dome_w_k(1.0, 0.025, 3.0, 27.0, 26.7, 101325.0) == pytest.approx(blown * 0.0263 / 0.025, rel=0.04)
    rayleigh = 9.81 / 310.0 * 20.0 * 0.2**3 / 1.69e-5**2 * 0.706
    still = 2.0 + 0.589 * rayleigh**0.25 / (1.0 + (0.469 / 0.706) ** (9 / 16)) ** (4 / 9)
    assert dome_w_k(1.0, 0.2, 0.0, 47.0, 27.0, 101325.0) == pytest.approx(still * 0.0270 / 0.2, rel=0.04)


def test_a_small_dome_is_no_wind_swept_plate():
    """A bowl of 25 cm in 2 m/s loses more than the roof's 8.8 W/m²K would say where it is small, less where it is large."""
    small, large = (dome_w_k(1.0, d, 2.0, 60.0, 25.0, 101325.0) for d in (0.05, 0.6))
    assert small > 2.0 * large
    assert dome_w_k(1.0, 0.25, 5.0, 60.0, 25.0, 101325.0) > dome_w_k(1.0, 0.25, 1.0, 60.0, 25.0, 101325.0)


# --- food that has a core, and portions of any thickness ---


@pytest.mark.parametrize(("food", "kg", "safe"), [("whole-bird", 1.6, 74.0), ("joint", 1.2, 63.0)])
def test_a_bird_and_a_joint_are_judged_at_their_core(food: str, kg: float, safe: float, june):
    """Safe cores: USDA FSIS. The core lags the outside by hours: d²/4π²α of 10 cm is 1.7 h (Carslaw & Jaeger 1959)."""
    load = PotLoad.model_validate({"food": food, "food_kg": kg, "vessel": "cast-iron", "pot_diameter_m": 0.24, "pot_height_m": 0.18, "goes_in": "09:30"})  # fmt: skip
    assert load.judged == "core"
    assert load.contents.safe_core_c == safe
    run = simulated(TERRACE, None, OVEN, load, june)
    core, outside = run.temperature_c["core"], run.temperature_c["contents"]
    noon = 13 * 60
    assert outside[noon] - core[noon] > 5.0
    said = [f"{flag.level}: {plain(flag.text)}" for flag in forecasted(TERRACE, None, OVEN, load, june)[0].flags]
    assert any("in the thickest part" in text for text in said)


def test_a_thicker_portion_lies_on_less_and_takes_longer(june):
    one = BISCUITS_ALONE.portions[0]
    thin, thick = (
        BISCUITS_ALONE.model_copy(update={"portions": [one.model_copy(update={"thickness_m": t})]})
        for t in (0.004, 0.016)
    )
    warm = [simulated(TERRACE, None, WORKSHOP, load, june).temperature_c[one.node] for load in (thin, thick)]
    soon = 11 * 60 + 50
    assert warm[0][soon] > warm[1][soon] + 1.0


# --- slopes ---


def test_a_level_floor_holds_the_wax_and_says_so(june):
    """A film runs by the sine of its slope (Nusselt 1916): none of it on the level."""
    assert runs(0.0) == 0.0
    assert 0.0 < runs(5.0) < runs(10.0) <= runs(20.0) == 1.0
    level = MELTER.with_(tilt_deg=0.0)
    run = simulated(TERRACE, None, level, CAPPINGS, june)
    assert np.nanmax(run.mass_kg["catch"]) == pytest.approx(0.0, abs=1e-9)
    said = " ".join(plain(flag.text) for flag in forecasted(TERRACE, None, level, CAPPINGS, june)[0].flags)
    assert "does not run at all" in said
