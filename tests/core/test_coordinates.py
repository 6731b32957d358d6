"""Coordinates in the ways that people write them; what can be read in two ways is not guessed at."""

from __future__ import annotations

from contextlib import suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.checks import InputProblem
from drylamp.core.sky.coordinates import looks_like_coordinates, read_coordinates

KYIV = (50.45, 30.516667)


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("50° 27' N, 30° 31' E", KYIV), ("N 50° 27' E 30° 31'", KYIV), ("50°27′N 30°31′E", KYIV), ("30° 31' E, 50° 27' N", KYIV),
        ("50 27 0 N 30 31 0 E", KYIV), ("50:27 N 30:31 E", KYIV), ("50° 27' 30° 31'", KYIV), ("50º27’ north, 30º31’ east", KYIV),
        ("50,5 N 30 E", (50.5, 30.0)), ("50,5 30,25", (50.5, 30.25)), ("50,5; 30,25", (50.5, 30.25)), ("50.45, 30.52", (50.45, 30.52)),
        ("50, 30", (50.0, 30.0)), ("-33.5, 151.2", (-33.5, 151.2)), ("33.5 S 151.2 E", (-33.5, 151.2)), ("41.2 −1.1", (41.2, -1.1)),
        ("lat 50.4 lon 30.5", (50.4, 30.5)), ("(41.2, 1.1)", (41.2, 1.1)), ("50°27'12.5\"N 30°31'E", (50.453472, 30.516667)), ("0 N 0 E", (0.0, 0.0)),
    ],
)  # fmt: skip
def test_usual_ways_are_read(text: str, wanted: tuple[float, float]):
    assert looks_like_coordinates(text)
    assert read_coordinates(text) == pytest.approx(wanted, abs=1e-6)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("50,30", "more than one way"), ("50,45,30,52", "more than one way"), ("50 N", "one number only"), ("12 N 13 N", "two latitudes"),
        ("91, 0", "allowed is −90° to 90°"), ("0, 181", "allowed is −180° to 180°"), ("40 O 3 N", "write W or E"), ("-41 N, 3 E", "leave one of them out"),
        ("50° 75' N, 3 E", "below 60"), ("1 2 3", "3 numbers"),
    ],
)  # fmt: skip
def test_what_is_not_clear_is_asked(text: str, says: str):
    with pytest.raises(InputProblem, match=says):
        read_coordinates(text)


@pytest.mark.parametrize("text", ["Reus", "San José", "10 de Octubre", "", "Paris, Texas"])
def test_names_are_no_coordinates(text: str):
    assert not looks_like_coordinates(text)


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_every_place_comes_back_from_degrees_and_from_minutes(north: float, east: float):
    assert read_coordinates(f"{north:.5f}, {east:.5f}") == pytest.approx((north, east), abs=1e-5)

    def written(value: float, above: str, below: str) -> str:
        minutes = round(abs(value) * 60.0, 3)
        return f"{int(minutes // 60)}° {minutes % 60:.3f}' {below if value < 0 else above}"

    text = f"{written(east, 'E', 'W')} {written(north, 'N', 'S')}"
    assert read_coordinates(text) == pytest.approx((north, east), abs=1e-4)


@given(st.text(max_size=40))
def test_nothing_typed_breaks_it(text: str):
    with suppress(InputProblem):
        found = read_coordinates(text)
        assert abs(found.latitude_deg) <= 90
        assert abs(found.longitude_deg) <= 180
