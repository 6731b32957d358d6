"""Instruments: units, words, calibration in ice and steam, infrared on what it can see, clocks and ranges."""

from datetime import UTC, datetime
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.checks import InputProblem
from drylamp.core.trials.instruments import (
    BASE_UNIT,
    BY_HAND,
    INSTRUMENTS,
    UNITS,
    WORDS,
    ProbeCalibration,
    check_infrared,
    find_instrument,
    find_word,
    in_base,
    infrared_c,
    number_in,
    out_of_base,
)
from drylamp.core.trials.plausible import check_clock, check_reading
from drylamp.demo.scenario import BLOCKS, LIDS, OVEN


@given(st.sampled_from(sorted(UNITS)), st.floats(-100, 1000))
def test_units_come_back(unit: str, value: float):
    assert out_of_base(in_base(value, unit, UNITS[unit].quantity), unit) == pytest.approx(value, abs=1e-9)


@pytest.mark.parametrize(("value", "unit", "base"), [
    (212, "F", 100), (36, "km/h", 10), (55, "%", 0.55), (12, "% MC", 0.12), (250, "g", 0.25), (3, "l/min", 3.0), (1, "gal/min", 3.785), (0.05, "kg/s", 3.0), (1, "lb", 0.4536),
])  # fmt: skip
def test_known_conversions(value: float, unit: str, base: float):
    assert in_base(value, unit, UNITS[unit].quantity) == pytest.approx(base, rel=1e-3)


def test_a_unit_of_another_quantity_is_refused():
    with pytest.raises(InputProblem, match="'kg' is no unit of temperature; allowed: C, F"):
        in_base(3, "kg", "temperature")


def test_every_quantity_has_a_usual_unit_and_an_instrument():
    for quantity, unit in BASE_UNIT.items():
        assert UNITS[unit].quantity == quantity
        assert any(i.quantity == quantity for i in INSTRUMENTS.values())
    with pytest.raises(InputProblem, match="'nose' is not known; known: probe"):
        find_instrument("nose")


def test_words_are_bands_without_gaps():
    assert [find_word(t).word for t in ("Cold", "hand-hot", "too hot to  hold", "Lukewarm")] == [
        "cold",
        "hand-hot",
        "too hot to hold",
        "lukewarm",
    ]
    assert find_word("warmish") is None
    assert all(a.high_c == b.low_c for a, b in pairwise(BY_HAND))
    assert BY_HAND[1].middle_c == 31.5
    assert BY_HAND[1].doubt_k == 6.5


def test_a_pane_says_less_surely_than_a_hand():
    steam = find_word("Steam on a pane")
    assert steam in WORDS
    assert steam not in BY_HAND
    assert steam.doubt_k == 15.0
    assert steam.low_c < find_word("too hot to hold").low_c < steam.high_c


def test_ice_and_boiling_put_a_probe_right():
    """Boiling at 98.4 °C, as at 480 m."""
    probe = ProbeCalibration(ice_c=1.5, boil_c=101.0)
    assert probe.corrected(1.5, 98.4) == pytest.approx(0.0)
    assert probe.corrected(101.0, 98.4) == pytest.approx(98.4)
    assert probe.corrected(51.25, 98.4) == pytest.approx(49.2)
    assert ProbeCalibration(ice_c=1.5).corrected(51.5, 98.4) == 50.0
    assert ProbeCalibration(boil_c=100.4).corrected(60.0, 98.4) == pytest.approx(58.0)
    assert ProbeCalibration().corrected(60.0, 98.4) == 60.0


def test_a_calibration_narrows_the_doubt_but_not_to_nothing():
    doubts = [ProbeCalibration(**points).doubt_k(1.2) for points in ({}, {"ice_c": 0.5}, {"ice_c": 0.5, "boil_c": 99})]
    assert doubts == [1.2, 0.6, pytest.approx(0.4)]
    assert ProbeCalibration(ice_c=0.0, boil_c=98).doubt_k(0.5) == 0.3


@pytest.mark.parametrize(("build", "node", "says"), [
    (OVEN, "tray", "not what is behind it"), (OVEN, "inside-air", "inside-air is none"), (LIDS, "sample-bare", "bare metal"),
    (BLOCKS, "sample-dark", "not what is behind it"), (OVEN.model_copy(update={"cover": None}), "walls", "bare metal"),
])  # fmt: skip
def test_infrared_is_refused_where_it_lies(build, node: str, says: str):
    with pytest.raises(InputProblem, match=says):
        check_infrared(build, node)


@pytest.mark.parametrize(("build", "node", "emittance"), [
    (LIDS, "sample-stove", 0.90), (LIDS, "board", 0.90), (OVEN, "shell", 0.9), (OVEN, "cover-2", 0.84),
    (OVEN.model_copy(update={"cover": None}), "tray", 0.90),
])  # fmt: skip
def test_infrared_reads_open_matt_faces(build, node: str, emittance: float):
    assert check_infrared(build, node) == pytest.approx(emittance, abs=0.04)


@given(st.floats(20, 150), st.floats(0.6, 1.0), st.floats(0.6, 1.0), st.floats(-10, 40))
def test_infrared_reads_its_own_radiation_back(true_c: float, set_to: float, emittance: float, around_c: float):
    """What an instrument set to another emittance would show of a surface, put right again."""
    around, own = (around_c + 273.15) ** 4, (true_c + 273.15) ** 4
    shown = (around + emittance / set_to * (own - around)) ** 0.25 - 273.15
    assert infrared_c(shown, set_to, emittance, around_c) == pytest.approx(true_c, abs=1e-6)


@pytest.mark.parametrize("text", ["", "nan", "NaN", " --- ", "null", "inf", "OVF", "err"])
def test_no_number_is_none(text: str):
    assert number_in(text) is None


def test_numbers_are_numbers():
    assert number_in("3.5") == 3.5
    with pytest.raises(InputProblem, match="'warm' is no number"):
        number_in("warm")


@pytest.mark.parametrize(
    ("days", "code"), [(0, ""), (-0.5, ""), (-2, "clock"), (0.5, ""), (3, "clock"), (-9000, "clock")]
)
def test_clocks_that_were_never_set(days: float, code: str):
    now = datetime(2025, 6, 12, 12, tzinfo=UTC)
    found = check_clock(now.timestamp() + 86400 * days, now.timestamp(), now)
    assert found.code == code
    assert not code or "clock was not set" in found.text


@pytest.mark.parametrize(("quantity", "value", "code"), [
    ("sun", 900, ""), ("sun", 5000, "impossible"), ("wind", -1, "impossible"), ("humidity", 0.4, ""), ("humidity", 40, "impossible"),
    ("mass", 12, ""), ("moisture", 5, "impossible"), ("flow", 0.05, ""), ("temperature", 2000, "stuck"), ("temperature", -127, "stuck"),
])  # fmt: skip
def test_ranges_of_every_quantity(quantity: str, value: float, code: str):
    assert check_reading(quantity, value, None, None, None, digital=True).code == code
