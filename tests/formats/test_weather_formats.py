"""Weather files that are broken, each in its own way: a clear message with the row."""

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.sky.weather import WeatherFile
from drylamp.formats.weather_csv import read_weather_csv
from drylamp.formats.weather_epw import read_epw
from drylamp.formats.weather_file import load_weather

HEAD = "LOCATION,Somewhere,XX,XXX,Test,000000,41.2,1.1,1.0,480.0\n" + "X\n" * 7


def epw(rows: int, **cells: str) -> str:
    from datetime import datetime, timedelta

    out = []
    for k in range(rows):
        moment = datetime(2021, 1, 1) + timedelta(hours=k)
        row = [str(moment.year), str(moment.month), str(moment.day), str(moment.hour + 1), "60", "A7", "10.0", "5.0", "70",
               "95000", "0", "0", "300", "100", "50", "60", *["0"] * 4, "180", "2.5", *["0"] * 13]  # fmt: skip
        if k == 100:
            for index, value in cells.items():
                row[int(index[1:])] = value
        out.append(",".join(row))
    return HEAD + "\n".join(out) + "\n"


def test_whole_epw_is_read():
    records = read_epw(epw(8760))
    assert len(records.time_s) == 8760
    assert records.typical_year
    assert records.air_c.mean() == pytest.approx(10)
    assert records.time_s[0] == 1672527600 - 0  # 2023-01-01 00:00 at UTC+1


@pytest.mark.parametrize(("text", "says"), [
    (epw(5000), r"cut short: 5000 rows of hours where 8760 are needed; it ends at month 7 day 28 hour 8 \(row 5008"),
    ("", "line 1 is no EPW LOCATION line"),
    ("time,ghi\n", "line 1 is no EPW LOCATION line"),
    (HEAD, "cut short: 0 rows"),
    (epw(8760).replace(",1.0,480.0", ",5,5,480.0"), "look for a decimal comma"),
    (epw(8760).replace(",1.0,480.0", ",east,480.0"), "'east' in line 1 is no number"),
    (epw(8760).replace(",1.0,480.0", ",19,480.0"), "must lie between -12 and 14"),
    (epw(8760, c13="9999"), "row 109 has no ghi"),
    (epw(8760, c6="99.9"), "row 109 has no temp air"),
])  # fmt: skip
def test_broken_epw(text: str, says: str):
    with pytest.raises(InputProblem, match=says):
        read_epw(text)


GOOD = "time,ghi_w_m2,air_c\n2025-06-12T10:00+02:00,500,20\n2025-06-12T11:00+02:00,600,21\n"


def test_tidy_csv_with_only_global_sun():
    records = read_weather_csv(GOOD)
    assert records.dni_w_m2 is None
    assert records.step_s == 3600
    assert "no rh, 50 % taken" in records.origin


def test_tidy_csv_with_everything():
    text = (
        "time,ghi_w_m2,dni_w_m2,dhi_w_m2,air_c,rh,wind_m_s,pressure_pa\n"
        "2025-06-12T10:00Z,500,600,100,20,0.4,2,95000\n2025-06-12T10:10Z,500,600,100,20,0.4,2,95000\n"
    )
    records = read_weather_csv(text)
    assert records.step_s == 600
    assert records.pressure_pa is not None
    assert records.origin == "weather CSV"
    assert records.rain_mm_h is None, "no rain written is not no rain"


def test_rain_is_read_where_it_is_written():
    text = "time,ghi_w_m2,air_c,rain_mm_h\n2025-06-12T10:00Z,500,20,0\n2025-06-12T11:00Z,100,17,3.5\n"
    records = read_weather_csv(text)
    assert list(records.rain_mm_h) == [0.0, 3.5]
    with pytest.raises(InputProblem, match="row 3: rain_mm_h -1 must lie between 0 and 500"):
        read_weather_csv(text.replace("3.5", "-1"))


@pytest.mark.parametrize(("text", "says"), [
    ("", "the file is empty"),
    ("time,ghi_w_m2\n", "column air_c is missing"),
    ("time,ghi_w_m2,air_c\n", "0 rows of data"),
    (GOOD.replace(",600,", ",6oo,"), "row 3: ghi_w_m2 '6oo' is no number"),
    (GOOD.replace(",600,", ",nan,"), "row 3: ghi_w_m2 nan must lie"),
    (GOOD.replace(",21", ",121"), "row 3: air_c 121 must lie between -80 and 60"),
    (GOOD.replace("T11:00+02:00", "T09:00+02:00"), "row 3: .* is not after the row before"),
    (GOOD.replace("+02:00,600", ",600"), "row 3: .* has no offset"),
    (GOOD.replace("2025-06-12T11:00+02:00", "noon"), "row 3: time 'noon' is not ISO"),
])  # fmt: skip
def test_broken_weather_csv(text: str, says: str):
    with pytest.raises(InputProblem, match=says):
        read_weather_csv(text)


def test_missing_file_is_named(tmp_path):
    with pytest.raises(InputProblem, match=r"'gone\.epw' cannot be read"):
        load_weather(WeatherFile(kind="epw", path="gone.epw"), tmp_path)


def test_file_is_found_beside_its_case(tmp_path):
    (tmp_path / "w.csv").write_text(GOOD)
    assert load_weather(WeatherFile(kind="csv", path="w.csv"), tmp_path).origin.startswith("w.csv")
