"""Samples in the sun against facts of the trade and one closed form."""

from datetime import date

import numpy as np
import pytest

from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.side_by_side import Sample
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.common.wall import WallLayer
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import BLOCKS, TERRACE
from tests.posing import simulated

COPPER = {"material": "sheet-aluminium", "thickness_m": 0.0005}
"""The table has no copper sheet; aluminium of the same thickness warms about as fast."""


def pieces(contact: str, bare: str) -> Samples:
    return Samples(
        facing_deg=180.0, tilt_deg=0.0, width_m=0.05, length_m=0.05, sheet=WallLayer(**COPPER),
        samples=[
            Sample(name="bare", title="bare", finish=bare, coats=0, is_control=True),
            Sample(name="cheap", title="cheap black", finish="satin-black-paint"),
            Sample(name="dear", title="dear black", finish="super-black-paint"),
            Sample(name="stove", title="stove black", finish="flat-black-paint"),
        ],
        columns=4, board=[WallLayer(material="plywood", thickness_m=0.012)], board_finish="bare-wood", contact=contact,
    )  # fmt: skip


def settled(build: Samples, wind_m_s: float = 2.5) -> dict[str, float]:
    """Near noon in light wind, air about 24 °C."""
    day = ClearDay(tmin_c=14, tmax_c=26, wind_m_s=wind_m_s)
    run = simulated(TERRACE, "flat roof", build, None, weather_of(TERRACE, day, Span(start=date(2025, 5, 20))))
    at = 13 * 60 + 30
    return {name: float(series[at]) for name, series in run.temperature_c.items()} | {
        "air": float(run.weather.air_c[at])
    }


def test_dear_and_cheap_blacks_end_within_a_degree_or_so():
    """Common practice, no source: black coatings of very different price end within about 1 °C on pieces lying on a hot board."""
    found = settled(pieces("lying", "tarnished-copper"))
    blacks = [found[f"sample-{name}"] for name in ("cheap", "dear", "stove")]
    assert max(blacks) - min(blacks) < 1.6
    assert min(blacks) > 42
    assert max(blacks) < 62


@pytest.mark.parametrize(("bare", "low", "high"), [("tarnished-copper", 0.5, 4.0), ("bright-copper", 3.0, 9.0)])
def test_bare_copper_ends_a_little_lower_on_the_board(bare: str, low: float, high: float):
    """Common practice, no source: bare tarnished copper about 2 °C lower, bright copper about 6."""
    found = settled(pieces("lying", bare))
    assert low < found["sample-stove"] - found["sample-bare"] < high


def test_free_standing_it_would_be_lower_still():
    """Common practice, no source: free of the board the bare piece ends 6 to 9 °C lower than the black ones (wider here: ± 4)."""
    found = settled(pieces("stood-off", "tarnished-copper"))
    lying = settled(pieces("lying", "tarnished-copper"))
    gap = found["sample-stove"] - found["sample-bare"]
    assert gap > lying["sample-stove"] - lying["sample-bare"] + 1
    assert 2 < gap < 13


def test_dark_against_pale_masonry_under_cover():
    """Common practice, no source: 10 to 15 °F apart after about an hour of sun."""
    day = ClearDay(tmin_c=10, tmax_c=20, wind_m_s=1.5)
    run = simulated(TERRACE, "flat roof", BLOCKS, None, weather_of(TERRACE, day, Span(start=date(2025, 10, 5))))
    sunny = int(np.argmax(run.opening_w > 0.5 * run.opening_w.max()))
    after = sunny + 60
    apart_f = 1.8 * (run.temperature_c["sample-dark"][after] - run.temperature_c["sample-pale"][after])
    assert 8 < apart_f < 26


def test_a_plate_in_steady_sun_meets_its_heat_balance():
    """α G A = h A (T − Ta) + ε σ A (T⁴ − Tsky⁴) + back, by hand at the twin's own noon (Duffie & Beckman ch. 6, one node).

    The back, as far off the board as it is wide (50 mm): half the wind's film, 0.027/0.05 through the air, and long-wave of its bare metal
    to the board (opposite faces of a cube see each other by 0.1998, Howell C-11) and to the surroundings.
    """
    build = pieces("stood-off", "bright-steel").model_copy(update={"edges": "wrapped"})
    day = ClearDay(tmin_c=20, tmax_c=20, wind_m_s=3.0)
    run = simulated(TERRACE, "flat roof", build, None, weather_of(TERRACE, day, Span(start=date(2025, 6, 21))))
    at = 14 * 60
    t, air, sky = (
        float(v) for v in (run.temperature_c["sample-stove"][at], run.weather.air_c[at], run.weather.sky_c[at])
    )
    board, metal = float(run.temperature_c["board"][at]), build.back_emittance(build.samples[0])
    area, sun = build.sample_m2, float(run.opening_w[at]) / build.opening_m2
    gained = 0.95 * sun * area
    lost = area * (
        (2.8 + 3 * 3.0) * (t - air)
        + 0.90 * 5.670374419e-8 * ((t + 273.15) ** 4 - (sky + 273.15) ** 4)
        + 0.5 * (2.8 + 3 * 3.0) * (t - air)
        + 0.027 / 0.05 * (t - board)
        + 5.670374419e-8 * 0.1998 / (1 / metal + 1 / 0.9 - 1) * ((t + 273.15) ** 4 - (board + 273.15) ** 4)
        + 5.670374419e-8 * 0.8002 * metal * ((t + 273.15) ** 4 - (air + 273.15) ** 4)
    )
    assert lost == pytest.approx(gained, rel=0.02)


def test_a_cover_makes_masonry_hotter_than_the_open():
    open_air = BLOCKS.model_copy(update={"cover": None})
    covered, bare = settled(BLOCKS), settled(open_air)
    assert covered["sample-dark"] > bare["sample-dark"] + 8
    twice = settled(BLOCKS.model_copy(update={"cover": GlazedCover(layers=2)}))
    assert twice["sample-dark"] != pytest.approx(covered["sample-dark"], abs=0.3)
