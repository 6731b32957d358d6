"""Readings files of every shape: what is read off, what is asked, and which rows are refused."""

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.trials.instruments import UNITS, in_base
from drylamp.core.twin.light import traced
from drylamp.demo.scenario import OVEN, STEW
from drylamp.formats.readings.likely import likely_node
from drylamp.formats.readings.parse import parse_readings
from drylamp.formats.readings.preview import ParsedReading, Reading
from drylamp.formats.readings.values import unit_in

MADRID = ZoneInfo("Europe/Madrid")
START = datetime(2025, 6, 12, 10, 0, tzinfo=UTC)


def parse(text: str, **how):
    return parse_readings(text, MADRID, START, Reading(**how))


def base(reading: ParsedReading) -> float:
    """Its value in the quantity's base."""
    return in_base(reading.value, reading.unit, UNITS[reading.unit].quantity)


def test_wide_semicolons_decimal_commas_and_fahrenheit():
    parsed = parse("Date;tray (°F);air (°C)\n2025-06-12 12:00;212,0;50,5\n2025-06-12 12:05;230,0;52,0\n")
    assert parsed.preview.delimiter == ";"
    assert parsed.preview.decimal_comma
    assert parsed.preview.clock == "the site's clock, summer time and all (Europe/Madrid)"
    assert {c.name: (c.unit, c.unit_seen) for c in parsed.preview.columns} == {
        "tray (°F)": ("F", True),
        "air (°C)": ("C", True),
    }
    assert base(parsed.readings[0]) == pytest.approx(100)
    assert parsed.readings[0].time == datetime(2025, 6, 12, 10, 0, tzinfo=UTC)
    assert parsed.preview.questions == []


def test_tidy_with_units_by_row():
    parsed = parse("time,channel,value,unit\n2025-06-12T12:00+02:00,tray,80,C\n2025-06-12T12:00+02:00,air,140,F\n")
    assert parsed.preview.shape == "tidy"
    assert [base(r) for r in parsed.readings] == [80, pytest.approx(60)]


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
    assert base(answered.readings[0]) == pytest.approx(65.56, abs=0.01)


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
    assert [base(r) for r in parsed.readings] == [100, pytest.approx(100)]


def test_refused_rows_are_listed_by_number_and_odd_values_come_through():
    parsed = parse(
        "time,tray\n2025-06-12 12:00,20\nlater,22\n2025-06-12 12:10,warm\n2025-06-12 12:15,9999\n"
        "2025-06-12 12:20,nan\n\n2025-06-12 12:25,25\n"
    )
    reasons = {r.row: r.reason for r in parsed.preview.refused}
    assert reasons.keys() == {3, 4}
    assert "cannot be read" in reasons[3]
    assert "'warm' is no number" in reasons[4]
    assert [r.value for r in parsed.readings] == [20, 9999, None, 25]
    assert [r.row for r in parsed.readings] == [2, 5, 6, 8]


JUMP = "time,tray\n" + "".join(f"2025-06-12 12:{m:02d},{20 + k}\n" for k, m in enumerate((0, 5, 10, 2, 7, 12)))


def test_a_clock_set_back_is_asked_about():
    question = parse(JUMP).preview.questions[0]
    assert question.code == "clock-jump:5"
    assert "goes back by 8 min" in question.text
    assert [a.code for a in question.answers] == ["shift", "keep", "leave-out"]


@pytest.mark.parametrize(("answer", "minutes", "refused"), [
    ("shift", [0, 5, 10, 15, 20, 25], 0), ("keep", [0, 5, 10, 2, 7, 12], 0), ("leave-out", [0, 5, 10, 12], 2),
])  # fmt: skip
def test_a_clock_set_back_answered(answer: str, minutes: list[int], refused: int):
    parsed = parse(JUMP, answers={"clock-jump:5": answer})
    assert [round((r.time - START).total_seconds() / 60) for r in parsed.readings] == minutes
    assert len(parsed.preview.refused) == refused


def test_the_hour_that_comes_twice_is_taken_in_order():
    """Clocks go back at 03:00 on 26 October 2025 in Madrid."""
    stamps = ["01:30", "02:00", "02:30", "02:00", "02:30", "03:00"]
    parsed = parse("time,tray\n" + "".join(f"2025-10-26 {s},20\n" for s in stamps))
    assert parsed.preview.questions == []
    assert "showed twice" in parsed.preview.notes[0]
    gaps = [(b.time - a.time).total_seconds() / 60 for a, b in zip(parsed.readings, parsed.readings[1:], strict=False)]
    assert gaps == [30, 30, 30, 30, 30]


def test_a_logger_that_keeps_standard_time_through_march():
    """Clocks go forward at 02:00 on 30 March 2025: a logger that does not follow seems to jump back at 03:00."""
    stamps = ["01:00", "01:30", "02:00", "02:30", "03:00", "03:30"]
    text = "time,tray\n" + "".join(f"2025-03-30 {s},20\n" for s in stamps)
    asked = parse(text)
    assert "skipped" in asked.preview.notes[0]
    assert "kept standard time" in asked.preview.questions[0].text
    answered = parse(text, clock="standard")
    assert answered.preview.questions == []
    assert [r.time.hour + r.time.minute / 60 for r in answered.readings] == [0, 0.5, 1, 1.5, 2, 2.5]


def test_utc_and_a_shift():
    parsed = parse("time,tray\n2025-06-12 12:00,20\n", clock="utc", shift_minutes=-60)
    assert parsed.readings[0].time == datetime(2025, 6, 12, 11, 0, tzinfo=UTC)
    assert parsed.preview.clock == "UTC (Europe/Madrid), moved by -60 min"


def test_gaps_are_told_and_not_filled():
    minutes = [*range(0, 30), *range(75, 100)]
    parsed = parse("minutes,tray\n" + "".join(f"{m},20\n" for m in minutes))
    assert "1 gap in the file, the longest of 46 min" in parsed.preview.notes[0]
    assert len(parsed.readings) == len(minutes)


@pytest.mark.parametrize(("header", "unit", "node"), [
    ("sun (W/m²)", "W/m2", "sun"), ("wind km/h", "km/h", "wind"), ("RH %", "%", "air"), ("scale [kg]", "kg", "load"),
    ("tray °F", "F", "tray"), ("outside C", "C", "air"), ("box air", "C", "inside-air"), ("probe 3", "C", ""),
    ("stew pot", "C", "contents"), ("loop l/min", "l/min", "flow"), ("oak % MC", "% MC", "load"),
])  # fmt: skip
def test_columns_name_their_unit_and_part(header: str, unit: str, node: str):
    column = parse(f"minutes,{header}\n0,1\n").preview.columns[0]
    roles = {node.name: node.role for node in traced(OVEN, STEW).network.nodes}
    assert (column.unit, likely_node(column, roles, STEW)) == (unit, node)


def test_an_unknown_unit_is_refused():
    with pytest.raises(InputProblem, match="'K' is not known"):
        parse("minutes,tray\n0,1\n", units={"tray": "K"})


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
    monkeypatch.setattr("drylamp.formats.table_text.MOST_ROWS", 3)
    with pytest.raises(InputProblem, match="at most 3 at once"):
        parse("minutes,tray\n" + "".join(f"{k},20\n" for k in range(5)))


@pytest.mark.parametrize("stamp", [
    "0001-01-01 00:30", "0001-01-01T00:30:00+02:00", "9999-12-31 23:59", "9999-12-31T23:59:00-10:00", "2e9", "1e300", "-1e8",
])  # fmt: skip
def test_stamps_beyond_the_years_there_are_refuse_their_row(stamp: str):
    parsed = parse(f"time,tray\n{stamp},40\n2025-06-12 12:00,50\n")
    assert [row.row for row in parsed.preview.refused] == [2]
    assert stamp[:10] in parsed.preview.refused[0].reason
    assert [reading.value for reading in parsed.readings] == [50]


def test_a_shift_out_of_the_years_there_are_is_refused():
    with pytest.raises(InputProblem, match="shift"):
        parse("time,tray\n2025-06-12 12:00,50\n", shift_minutes=1e9)


@pytest.mark.parametrize(("text", "unit"), [
    ("tray [°F]", "F"), ("Temp C", "C"), ("fahrenheit", "F"), ("Celsius 1", "C"), ("face", None), ("tray", None), ("°c", "C"),
])  # fmt: skip
def test_units_are_read_off_headers(text: str, unit: str | None):
    assert unit_in(text) == unit


def test_short_tidy_row():
    parsed = parse("time,channel,value\n2025-06-12 12:00,tray,20\n2025-06-12 12:01,tray\n")
    assert "has 2 columns, 3 are needed" in parsed.preview.refused[0].reason
