"""The command line: one JSON object out, one line and exit 2 when something is wrong."""

import csv
import json
from pathlib import Path

import pytest
from click.testing import CliRunner

from drylamp.cli import main
from drylamp.commands.serving import running_clock
from drylamp.demo.scenario import demo_now, examples

ROOT = Path(__file__).parent.parent
EXAMPLE = ROOT / "examples" / "oven-box.json"
SAMPLES = ROOT / "examples" / "samples-lids.json"


def call(*words: str):
    return CliRunner().invoke(main, list(words))


def refused(*words: str) -> str:
    result = call(*words)
    assert result.exit_code == 2, result.output
    assert result.stdout == ""
    assert result.stderr.count("\n") == 1
    assert "Traceback" not in result.stderr
    return result.stderr


def test_run_prints_the_outcome(tmp_path):
    out = tmp_path / "out.csv"
    result = call("run", str(EXAMPLE), "--csv", str(out))
    assert result.exit_code == 0, result.output
    outcome = json.loads(result.stdout)
    assert outcome["energy_closure"] < 1e-3
    assert {"ledger", "flags", "curves", "days", "stagnation_c"} <= set(outcome)
    rows = list(csv.DictReader(out.open()))
    assert len(rows) == 1441
    assert float(rows[900]["tray_c"]) > 80


def test_a_draw_has_a_row_for_each_quarter_litre(tmp_path):
    out = tmp_path / "out.csv"
    result = call("run", str(EXAMPLE.parent / "water-hose-coil.json"), "--csv", str(out))
    assert result.exit_code == 0, result.output
    rows = list(csv.DictReader(out.open()))
    quarters = [row for row in rows if row["water_l_min"] == "" and row["water_out_c"] != ""]
    assert len(rows) == 1441 + len(quarters)
    assert len(quarters) == 2 * 3 / 0.25
    assert [row["time"] for row in rows] == sorted(row["time"] for row in rows)
    first = [float(row["water_out_c"]) for row in quarters[:12]]
    told = json.loads(result.stdout)["results"]["flow"]["draws"][0]["litres"]
    assert sum(first[:4]) / 4 == pytest.approx(told[0]["celsius_c"], abs=0.1)
    drawn = sum(float(row["water_l_min"] or 0) for row in rows)
    assert drawn == pytest.approx(6.0, rel=1e-3)
    sums = [
        float(row["opening_w"])
        - sum(float(row[f"{name}_w"]) for name in ("mirrored", "cover", "under", "box", "water", "tap"))
        for row in rows[1:]
        if row["opening_w"]
    ]
    assert max(abs(value) for value in sums) < 0.01


def test_examples_are_the_scenarios():
    files = {path.stem: json.loads(path.read_text()) for path in EXAMPLE.parent.glob("*.json")}
    assert files == {name: case.model_dump(mode="json") for name, case in examples().items()}


@pytest.mark.parametrize("name", ["oven-card-box", "oven-funnel", "oven-dish", "melter-cappings"])
def test_every_kind_runs_from_its_example(name: str):
    result = call("run", str(EXAMPLE.parent / f"{name}.json"))
    assert result.exit_code == 0, result.output
    outcome = json.loads(result.output)
    assert outcome["energy_closure"] < 1e-3
    assert outcome["flags"]


def test_run_of_samples_prints_an_outcome_too():
    result = call("run", str(SAMPLES))
    assert result.exit_code == 0, result.output
    outcome = json.loads(result.stdout)
    assert outcome["energy_closure"] < 1e-9
    assert "samples" in outcome["account_titles"]
    assert {c["node"] for c in outcome["curves"]} >= {"sample-bare", "sample-optical", "board"}


def write(tmp_path: Path, **changes: object) -> str:
    raw = {**json.loads(EXAMPLE.read_text()), **changes}
    path = tmp_path / "case.json"
    path.write_text(json.dumps(raw))
    return str(path)


@pytest.mark.parametrize(("changes", "says"), [
    ({"format": 3}, "format 3 was given; this version reads up to format 1"),
    ({"weather": {"kind": "epw", "path": "gone.epw"}}, "weather.path: 'gone.epw' cannot be read"),
    ({"span": {"start": "2025-06-12", "days": 0}}, "span.days: 0 was given; allowed is greater than or equal to 1"),
    ({"spot": "moon"}, "spot: 'moon' is no spot here"),
    ({"surprise": 1}, "surprise: is not a known field"),
])  # fmt: skip
def test_run_refuses_in_one_line(tmp_path, changes: dict, says: str):
    assert says in refused("run", write(tmp_path, **changes))


def test_run_of_a_missing_or_broken_file(tmp_path):
    assert "cannot be read" in refused("run", str(tmp_path / "none.json"))
    (tmp_path / "bad.json").write_text("{")
    assert "not JSON" in refused("run", str(tmp_path / "bad.json"))


def test_run_on_a_weather_csv_with_a_gap(tmp_path):
    lines = ["time,ghi_w_m2,air_c"] + [f"2025-06-12T{h:02d}:00+02:00,{60 * h},20" for h in range(24) if h != 9]
    (tmp_path / "w.csv").write_text("\n".join(lines))
    path = write(tmp_path, weather={"kind": "csv", "path": "w.csv"})
    assert "no rows for 60 steps between 2025-06-12 07:00 UTC" in refused("run", path)


def test_sum_prints_one_object():
    result = call("sum", "boil", "elevation_m=1500")
    body = json.loads(result.stdout)
    assert set(body) == {"sum", "inputs", "result", "source"}
    assert body["result"]["boiling_c"] == pytest.approx(95, abs=0.1)


def test_sum_with_text_layers_and_times():
    assert json.loads(call("sum", "wall", "layers=0.05:0.04").stdout)["result"]["r_m2k_w"] == pytest.approx(1.425)
    result = call("sum", "sun-position", "latitude=41.2", "longitude=1.1", "time=2025-06-12T12:00:00+02:00")
    assert json.loads(result.stdout)["result"]["altitude_deg"] == pytest.approx(59.9, abs=0.1)


@pytest.mark.parametrize(("words", "says"), [
    (["sun-position", "latitude=95", "longitude=0", "time=2025-01-01T00:00:00Z"], "latitude: 95 was given"),
    (["boil"], "either elevation_m or pressure_pa"),
    (["boil", "elevation"], "key=value"),
    (["boiler"], "nearest known: boil"),
    (["boil", "elevation_m=high"], "'high' was given"),
    (["mix", "hot_l=1", "hot_c=30", "cold_c=10", "want_c=40"], "want_c 40 must lie above"),
    (["wall", "layers=0.05;0.04"], "layer 1 is"),
    (["shadow", "altitude_deg=0", "height_m=1"], "greater than 0"),
    (["mirror-tilt", "opening_tilt_deg=90", "sun_altitude_deg=100"], "behind the opening"),
    (["top-loss", "plate_c=10", "ambient_c=20", "wind_m_s=1", "covers=1", "plate_emittance=0.9"], "must be above"),
    ([], "is missing; see drylamp sum --list"),
])  # fmt: skip
def test_sum_refuses_in_one_line(words: list[str], says: str):
    assert says in refused("sum", *words)


def test_sum_reads_the_file_whose_path_it_is_given(tmp_path):
    from tests.reference.test_sums_outside import power_log

    path = tmp_path / "test.csv"
    path.write_text(power_log(), encoding="utf-8")
    body = json.loads(call("sum", "cooking-power", f"file={path}", "mass_kg=3.5", "area_m2=0.5").stdout)
    assert body["result"]["standard_power_w"] == pytest.approx(80.0)
    assert body["inputs"] == {"file": str(path), "mass_kg": 3.5, "area_m2": 0.5}
    assert "file: " in refused("sum", "cooking-power", f"file={tmp_path}/none.csv", "mass_kg=3.5", "area_m2=0.5")


def test_sum_list_names_every_sum():
    from drylamp.core.sums.registry import SUMS

    output = call("sum", "--list").stdout
    assert all(name in output for name in SUMS)
    assert len(SUMS) >= 32


def test_sum_batch_answers_line_by_line(tmp_path):
    path = tmp_path / "b.jsonl"
    path.write_text(
        '{"sum": "boil", "inputs": {"elevation_m": 0}}\n\n{"sum": "boil", "inputs": {"elevation_m": 99999}}\nnot json\n{"sum": "x"}\n'
    )
    lines = [json.loads(line) for line in call("sum", "--batch", str(path)).stdout.splitlines()]
    assert lines[0]["result"]["boiling_c"] == pytest.approx(99.97, abs=0.01)
    assert "elevation_m" in lines[1]["error"]
    assert [line["line"] for line in lines[1:]] == [3, 4, 5]


@pytest.mark.parametrize("what", ["case", "build"])
def test_schema(what: str):
    schema = json.loads(call("schema", what).stdout)
    assert schema["type"] == "object"


def test_doctor(tmp_path):
    output = call("doctor", "--data", str(tmp_path)).stdout
    assert "drylamp" in output
    assert "not there yet" in output


def test_demo_clock_runs_from_where_it_starts():
    clock = running_clock(demo_now())
    first, second = clock(), clock()
    assert demo_now() <= first <= second


def test_stand_in_says_when_nobody_answers():
    assert "cannot be reached" in refused("stand-in", "logger", "--url", "http://127.0.0.1:9", "--trial", "1")
