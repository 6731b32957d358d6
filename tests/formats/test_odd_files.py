"""Files as hurried people and old loggers make them: read right, asked about, or refused with the row; never guessed in silence."""

from __future__ import annotations

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.trials.far import far_from_rest
from drylamp.formats.readings.parse import parse_readings
from drylamp.formats.readings.preview import Reading
from drylamp.formats.table_text import decode, read_table

MADRID = ZoneInfo("Europe/Madrid")
START = datetime(2025, 6, 12, 10, 0, tzinfo=UTC)
NOON = datetime(2025, 6, 12, 10, 0, tzinfo=UTC)


def parse(text: str, **how):
    return parse_readings(text, MADRID, START, Reading(**how))


def values(parsed) -> list[float | None]:
    return [r.value for r in parsed.readings]


def asked(parsed) -> list[str]:
    return [q.code for q in parsed.preview.questions]


def minutes(parsed) -> list[float]:
    return [(r.time - NOON).total_seconds() / 60 for r in parsed.readings]


def test_decimal_commas_in_a_comma_file_are_put_together_once_it_is_said():
    text = "time,tray,air\n2025-06-12 12:00,40,5,21,0\n2025-06-12 12:05,41,25,21,5\n"
    parsed = parse(text)
    assert asked(parsed) == ["join-decimals"]
    assert values(parsed) == [40.5, 21.0, 41.25, 21.5]
    stopped = parse(text, answers={"join-decimals": "no"})
    assert values(stopped) == []
    assert "has 5 cells, and there are 3 columns" in stopped.preview.refused[0].reason


def test_decimal_commas_in_quotes_of_a_comma_file():
    parsed = parse('time,tray\n2025-06-12 12:00,"40,5"\n')
    assert parsed.preview.decimal_comma
    assert values(parsed) == [40.5]


def test_a_surplus_cell_is_refused_with_its_row():
    parsed = parse("time,tray\n2025-06-12 12:00,40\n2025-06-12 12:05,41,5\n2025-06-12 12:10,42,\n")
    assert values(parsed) == [40, 42]
    assert [(r.row, "decimals" in r.reason or "comma" in r.reason) for r in parsed.preview.refused] == [(3, True)]


@pytest.mark.parametrize(("answer", "value"), [(None, 1.234), ("decimal", 1.234), ("thousands", 1234.0)])
def test_a_comma_that_may_part_thousands_is_asked_about(answer: str | None, value: float):
    parsed = parse("time;scale (g)\n2025-06-12 12:00;1,234\n", answers={} if answer is None else {"comma": answer})
    assert asked(parsed) == ["comma"]
    assert values(parsed) == [value]


def test_day_and_hour_in_columns_of_their_own():
    parsed = parse("Date,Time,tray\n2025-06-12,12:00,40\n2025-06-12,12:05:30,41\n")
    assert minutes(parsed) == [0, 5.5]
    assert parsed.preview.time_column == "Date and Time"
    assert [c.name for c in parsed.preview.columns] == ["tray"]


def test_days_without_hours_are_asked_about():
    text = "date,tray\n2025-06-12,40\n2025-06-13,41\n"
    assert asked(parse(text)) == ["no-hour"]
    assert [r.time.hour for r in parse(text, answers={"no-hour": "noon"}).readings] == [10, 10]
    assert parse(text.replace("-", "")).readings[0].time == datetime(2025, 6, 11, 22, 0, tzinfo=UTC)


@pytest.mark.parametrize("stamp", ["1749722400", "1749722400.0", "1749722400000"])
def test_seconds_since_1970(stamp: str):
    parsed = parse(f"timestamp,tray\n{stamp},40\n")
    assert minutes(parsed) == [0]
    assert parsed.preview.clock == "seconds since 1970"
    assert asked(parsed) == []


@pytest.mark.parametrize(("header", "asks", "answer", "minute"), [
    ("minutes", [], None, 30), ("time (s)", [], None, 0.5), ("time [h]", [], None, 1800), ("time", ["count"], "seconds", 0.5), ("time", ["count"], None, 30),
])  # fmt: skip
def test_what_a_plain_number_counts(header: str, asks: list[str], answer: str | None, minute: float):
    parsed = parse(f"{header},tray\n0,40\n30,41\n", answers={} if answer is None else {"count": answer})
    assert asked(parsed) == asks
    assert minutes(parsed)[1] == minute


def test_days_as_a_spreadsheet_counts_them():
    parsed = parse("time,tray\n45820.5,40\n45820.503472222,41\n")
    assert minutes(parsed) == [0, 5]
    assert "spreadsheet" in parsed.preview.clock


@pytest.mark.parametrize("ends", ["\r", "\r\n", "\n"])
def test_all_ends_of_lines(ends: str):
    parsed = parse(ends.join(["time,tray", "2025-06-12 12:00,40", "", "2025-06-12 12:05,41", ""]))
    assert values(parsed) == [40, 41]
    assert [r.row for r in parsed.readings] == [2, 4]


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "utf-32"])
def test_letters_however_they_are_written(encoding: str):
    text, _ = decode("time;tray °C\n2025-06-12 12:00;40,5\n".encode(encoding))
    parsed = parse(text)
    assert [c.name for c in parsed.preview.columns] == ["tray °C"]
    assert values(parsed) == [40.5]


def test_old_letters_are_read_and_said():
    text, note = decode("time,tray °C\n".encode("cp1252"))
    assert text == "time,tray °C\n"
    assert "Windows-1252" in note
    with pytest.raises(InputProblem, match="byte 7 cannot be read"):
        decode(b"time,a\x81")


@pytest.mark.parametrize(("dates", "asks", "answer", "first"), [
    (("06/12/2025 12:00", "06/12/2025 12:05"), ["day-or-month"], None, (12, 6)),
    (("06/12/2025 12:00", "06/12/2025 12:05"), ["day-or-month"], "month", (6, 12)),
    (("06/12/2025 12:00", "06/13/2025 12:00"), [], None, (6, 12)),
    (("12/06/2025 12:00", "13/06/2025 12:00"), [], None, (6, 12)),
    (("12.06.25 12:00", "12.06.25 12:05"), [], None, (6, 12)),
    (("6/12/2025 12:00 PM", "6/13/2025 1:05 pm"), [], None, (6, 12)),
    (("2025/06/12 12:00", "2025/06/12 12:05"), [], None, (6, 12)),
])  # fmt: skip
def test_day_or_month_first(dates: tuple[str, str], asks: list[str], answer: str | None, first: tuple[int, int]):
    text = "time,tray\n" + "".join(f"{d},{k}\n" for k, d in enumerate(dates))
    parsed = parse(text, answers={} if answer is None else {"day-or-month": answer})
    assert asked(parsed) == asks
    at = parsed.readings[0].time.astimezone(MADRID)
    assert ((at.month, at.day), at.hour) == (first, 12)
    assert len(parsed.readings) == 2


def test_dates_that_contradict_each_other_are_asked_about_and_refused_by_row():
    parsed = parse("time,tray\n13/06/2025 12:00,1\n06/13/2025 12:05,2\n")
    assert "others only with the month first" in parsed.preview.questions[0].text
    assert [r.row for r in parsed.preview.refused] == [3]


def test_two_columns_of_one_name_both_stay():
    parsed = parse("time,tray,tray\n2025-06-12 12:00,40,50\n")
    assert {c.name: c.low for c in parsed.preview.columns} == {"tray": 40, "tray (2)": 50}
    assert "Two columns are called tray" in parsed.preview.notes[0]


def test_a_column_without_a_name_is_shown():
    assert [c.name for c in parse("time,,tray\n2025-06-12 12:00,40,50\n").preview.columns] == ["column 2", "tray"]


def test_an_open_quote_loses_its_row_and_no_other():
    parsed = parse('time,tray,note\n2025-06-12 12:00,40,\n2025-06-12 12:05,41,"began\n2025-06-12 12:10,42,\n')
    assert values(parsed) == [40, 42]
    assert [(r.row, r.reason[:30]) for r in parsed.preview.refused] == [(3, "has a quote that is opened and")]


def test_cells_of_great_length_and_control_letters_are_refused_by_row():
    parsed = parse(f"time,tray\n2025-06-12 12:00,{'9' * 200_000}\n2025-06-12 12:05,4\x001\n2025-06-12 12:10,42\n")
    assert values(parsed) == [42]
    reasons = {r.row: r.reason for r in parsed.preview.refused}
    assert "200000 letters in cell 2" in reasons[2]
    assert "U+0000" in reasons[3]


def test_too_many_columns_are_refused_before_work():
    header = "time," + ",".join(f"c{k}" for k in range(10_000))
    with pytest.raises(InputProblem, match="10001 columns; at most 400"):
        read_table(header + "\n" + "1," * 10_000 + "1\n")


def test_a_stray_year_is_set_aside_with_a_question():
    rows = "".join(f"2025-06-12 12:{m:02d},{20 + m}\n" for m in range(30))
    text = f"time,tray\n{rows}2052-06-12 12:40,70\n"
    parsed = parse(text)
    assert asked(parsed) == ["far"]
    assert "2052-06-12" in parsed.preview.questions[0].text
    assert [r.row for r in parsed.preview.refused] == [32]
    assert len(parse(text, answers={"far": "keep"}).readings) == 31


def test_far_is_what_lies_months_from_nearly_all():
    day = 86400.0
    assert not far_from_rest([0.0, 400 * day]).any()
    assert far_from_rest([*(k * day for k in range(20)), 400 * day]).nonzero()[0].tolist() == [20]
    assert not far_from_rest([*(k * day for k in range(20)), *((300 + k) * day for k in range(20))]).any()
    assert not far_from_rest([k * 30 * day for k in range(12)]).any()


def test_of_very_many_bad_rows_the_first_are_listed_and_all_are_counted():
    parsed = parse("time,tray\n2025-06-12 12:00,1\n" + "2025-06-12 12:00,warm\n" * 5000)
    assert (len(parsed.preview.refused), parsed.preview.refused_count) == (2000, 5000)
