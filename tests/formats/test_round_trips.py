"""Readings written in any of the accepted shapes come back as they were; weather keeps its energy."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Records, Span, from_records, span_edges_s
from drylamp.core.trials.instruments import in_base
from drylamp.formats.readings.parse import parse_readings
from drylamp.formats.weather_csv import read_weather_csv

few = settings(max_examples=60, deadline=None, derandomize=True)
START = datetime(2025, 6, 12, 10, 0, tzinfo=UTC)
SITE = Site(name="x", latitude_deg=41.0, longitude_deg=1.0, time_zone="Europe/Madrid")
temperatures = st.lists(st.floats(-20, 200).map(lambda v: round(v, 1)), min_size=1, max_size=12)


@few
@given(
    values=temperatures,
    delimiter=st.sampled_from([",", ";", "\t", "|"]),
    comma=st.booleans(),
    unit=st.sampled_from(["C", "F"]),
    clock=st.sampled_from(["minutes", "local", "offset"]),
    blank=st.booleans(),
)
def test_any_wide_file_comes_back(values: list[float], delimiter: str, comma: bool, unit: str, clock: str, blank: bool):
    comma = comma and delimiter != ","
    lines = [delimiter.join(["minutes" if clock == "minutes" else "time", f"tray (°{unit})"])]
    for k, value in enumerate(values):
        moment = START + timedelta(minutes=2 * k)
        stamp = {
            "minutes": str(2 * k),
            "local": moment.astimezone(ZoneInfo("Europe/Madrid")).strftime("%Y-%m-%d %H:%M"),
            "offset": moment.isoformat(),
        }[clock]
        number = value * 1.8 + 32 if unit == "F" else value
        text = f"{number:.2f}".replace(".", ",") if comma else f"{number:.2f}"
        lines.append(delimiter.join([stamp, text]))
        if blank:
            lines.append("")
    parsed = parse_readings("\n".join(lines), ZoneInfo("Europe/Madrid"), START)
    assert parsed.preview.refused == []
    assert parsed.preview.questions == []
    assert [in_base(r.value, r.unit, "temperature") for r in parsed.readings] == pytest.approx(values, abs=0.01)
    assert [r.time for r in parsed.readings] == [START + timedelta(minutes=2 * k) for k in range(len(values))]


@few
@given(st.lists(st.floats(0, 1000), min_size=24, max_size=24), st.sampled_from([60, 300]))
def test_every_hour_keeps_its_energy(ghi: list[float], step: int):
    start, end = span_edges_s(SITE, Span(start=date(2025, 6, 12)))
    hours = np.arange(24)
    records = Records(
        time_s=start + 3600.0 * hours,
        step_s=3600.0,
        ghi_w_m2=np.array(ghi),
        air_c=20.0 + 0 * hours,
        rh=0.5 + 0 * hours,
        wind_m_s=2.0 + 0 * hours,
        dni_w_m2=np.array(ghi),
        dhi_w_m2=np.array(ghi) / 4,
        pressure_pa=None,
        origin="made up",
    )
    weather = from_records(SITE, records, start, end, float(step))
    for series, expected in ((weather.ghi_w_m2, ghi), (weather.dni_w_m2, ghi), (weather.dhi_w_m2, np.array(ghi) / 4)):
        assert series.reshape(24, -1).mean(axis=1) == pytest.approx(expected, rel=1e-9, abs=1e-9)
        assert (series >= 0).all()


@few
@given(st.lists(st.tuples(st.floats(0, 1200), st.floats(-30, 45)), min_size=2, max_size=30))
def test_tidy_weather_comes_back(rows: list[tuple[float, float]]):
    lines = ["time,ghi_w_m2,air_c"]
    lines += [f"{(START + timedelta(minutes=10 * k)).isoformat()},{g:.3f},{a:.3f}" for k, (g, a) in enumerate(rows)]
    records = read_weather_csv("\n".join(lines))
    assert records.step_s == 600
    assert records.ghi_w_m2 == pytest.approx([g for g, _ in rows], abs=1e-3)
    assert records.air_c == pytest.approx([a for _, a in rows], abs=1e-3)
