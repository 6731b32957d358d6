"""Readings files of every shape: what is read off, what is asked, and which rows are refused."""

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest

from drylamp.core.checks import InputProblem
from drylamp.formats.readings_csv import parse_readings, to_celsius, unit_in

MADRID = ZoneInfo("Europe/Madrid")
START = datetime(2025, 6, 12, 10, 0, tzinfo=UTC)


def parse(text: str, **more):
    return parse_readings(text, MADRID, START, **more)


def test_wide_semicolons_decimal_commas_and_fahrenheit():
    parsed = parse("Date;tray (°F);air (°C)\n2025-06-12 12:00;212,0;50,5\n2025-06-12 12:05;230,0;52,0\n")
    assert parsed.preview.delimiter == ";"
    assert parsed.preview.decimal_comma
    assert parsed.preview.clock == "the site's clock (Europe/Madrid)"
    assert {c.name: (c.unit, c.unit_seen) for c in parsed.preview.columns} == {
        "tray (°F)": ("F", True),
        "air (°C)": ("C", True),
    }
    assert parsed.readings[0].value_c == pytest.approx(100)
    assert parsed.readings[0].time == datetime(2025, 6, 12, 10, 0, tzinfo=UTC)
    assert parsed.preview.questions == []


def test_tidy_with_units_by_row():
    parsed = parse("time,channel,value,unit\n2025-06-12T12:00+02:00,tray,80,C\n2025-06-12T12:00+02:00,air,140,F\n")
    assert parsed.preview.shape == "tidy"
    assert [r.value_c for r in parsed.readings] == [80, pytest.approx(60)]


def test_minutes_count_from_the_start():
    parsed = parse("minutes\ttray\n0\t20\n5\t40.5\n")
    assert parsed.readings[1].time == datetime(2025, 6, 12, 10, 5, tzinfo=UTC)
    assert parsed.preview.clock == "minutes from the trial's start"


def test_day_first_dates():
    parsed = parse("time|tray\n12/06/2025 12:00|20\n12.06.2025 12:05|21\n")
    assert parsed.readings[0].time == datetime(2025, 6, 12, 10, 0, tzinfo=UTC)
    assert len(parsed.readings) == 2


def test_unit_not_said_is_shown_as_unsure_and_can_be_answered():
    text = "time,tray\n2025-06-12 12:00,150\n"
    assert parse(text).preview.columns[0].unit_seen is False
    answered = parse(text, units={"tray": "F"})
    assert answered.preview.columns[0].unit_seen is True
    assert answered.readings[0].value_c == pytest.approx(65.56, abs=0.01)


def test_two_time_zones_are_asked_about():
    parsed = parse("time,tray\n2025-06-12T12:00+02:00,20\n2025-06-12T11:05+01:00,21\n")
    assert [q.code for q in parsed.preview.questions] == ["two-time-zones"]
    assert "+02:00, +01:00" in parsed.preview.questions[0].text
    assert [r.time.hour for r in parsed.readings] == [10, 10]


def test_mixed_units_in_a_column_are_asked_about():
    parsed = parse("time,tray\n2025-06-12 12:00,100 °C\n2025-06-12 12:05,212 °F\n")
    question = parsed.preview.questions[0]
    assert question.code == "mixed-units:tray"
    assert "°C from row 2, °F from row 3" in question.text
    assert [r.value_c for r in parsed.readings] == [100, pytest.approx(100)]


def test_refused_rows_are_listed_by_number():
    parsed = parse(
        "time,tray\n2025-06-12 12:00,20\n2025-06-12 11:55,21\nlater,22\n2025-06-12 12:10,warm\n2025-06-12 12:15,9999\n"
        "2025-06-12 12:20,nan\n\n2025-06-12 12:25,25\n"
    )
    assert {r.row: r.reason.split(" is ")[0] for r in parsed.preview.refused}.keys() == {3, 4, 5, 6, 7}
    reasons = {r.row: r.reason for r in parsed.preview.refused}
    assert "not after the row before" in reasons[3]
    assert "cannot be read" in reasons[4]
    assert "'warm' is no number" in reasons[5]
    assert "outside -60 to 400 °C" in reasons[6]
    assert parsed.preview.readings == 2


@pytest.mark.parametrize(("text", "says"), [
    ("", "the file is empty"),
    ("  \n \n", "the file is empty"),
    ("time,tray\n", "a header and no rows"),
    ("just words\nmore words\n", "only one column"),
    ("a,b\n1,2\n", "no column is called time"),
])  # fmt: skip
def test_files_that_are_no_readings(text: str, says: str):
    with pytest.raises(InputProblem, match=says):
        parse(text)


def test_too_many_rows_are_refused(monkeypatch):
    from drylamp.formats import readings_csv

    monkeypatch.setattr(readings_csv, "MAX_ROWS", 3)
    with pytest.raises(InputProblem, match="at most 3 at once"):
        parse("minutes,tray\n" + "".join(f"{k},20\n" for k in range(5)))


@pytest.mark.parametrize(("text", "unit"), [
    ("tray [°F]", "F"), ("Temp C", "C"), ("fahrenheit", "F"), ("Celsius 1", "C"), ("face", None), ("tray", None), ("°c", "C"),
])  # fmt: skip
def test_units_are_read_off_headers(text: str, unit: str | None):
    assert unit_in(text) == unit


def test_short_tidy_row():
    parsed = parse("time,channel,value\n2025-06-12 12:00,tray,20\n2025-06-12 12:01,tray\n")
    assert "has 2 columns, 3 are needed" in parsed.preview.refused[0].reason
    assert to_celsius(50, "F") == pytest.approx(10)
