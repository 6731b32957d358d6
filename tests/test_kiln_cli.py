"""A kiln through the command line, as somebody checks it from outside: a case file, a weather file, a table of every ten minutes."""

from __future__ import annotations

import csv
import json
from datetime import datetime, timedelta
from functools import cache
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from click.testing import CliRunner

from drylamp.cli import main

EXAMPLES = Path(__file__).parent.parent / "examples"
OAK = EXAMPLES / "kiln-film-oak.json"
ROWS_A_DAY = 144


def call(*words: str):
    return CliRunner().invoke(main, list(words))


@cache
def told(text: str, folder: str) -> tuple[dict, dict[str, np.ndarray]]:
    """What a case answers, and its table by column."""
    path = Path(folder)
    (path / "case.json").write_text(text)
    result = call("run", str(path / "case.json"), "--csv", str(path / "out.csv"))
    assert result.exit_code == 0, result.output
    rows = list(csv.DictReader((path / "out.csv").open()))
    columns = {
        name: np.array([float(row[name]) if row[name] else np.nan for row in rows])
        for name in rows[0]
        if name != "time"
    }
    return json.loads(result.stdout), {**columns, "time": np.array([row["time"] for row in rows])}


def run(folder: Path, **changes: object) -> tuple[dict, dict[str, np.ndarray]]:
    """The oak example over twelve days, changed."""
    raw = json.loads(OAK.read_text())
    raw["span"]["days"] = 12
    for path, value in changes.items():
        *way, last = path.split("__")
        at = raw
        for step in way:
            at = at[int(step)] if step.isdigit() else at[step]
        at[int(last) if last.isdigit() else last] = value
    return told(json.dumps(raw), str(folder))


@pytest.fixture(scope="module")
def folder(tmp_path_factory) -> Path:
    return tmp_path_factory.mktemp("kiln")


def test_the_table_has_a_row_for_every_ten_minutes_and_all_that_was_promised(folder):
    outcome, table = run(folder)
    assert len(table["time"]) == 12 * ROWS_A_DAY + 1
    moments = [datetime.fromisoformat(text) for text in table["time"]]
    assert {b - a for a, b in pairwise(moments)} == {timedelta(minutes=10)}
    groups = [f"boards-{k}_{what}" for k in (1, 2) for what in ("mean_mc", "shell_mc", "core_mc", "loss_per_day")]
    assert {"chamber_c", "chamber_rh", "chamber_emc", "cover-1_water_kg", "round_fan", *groups} <= set(table)
    assert outcome["energy_closure"] < 1e-9
    assert outcome["water_closure"] < 1e-9
    inside = table["chamber_rh"]
    assert ((inside > 0.0) & (inside < 1.01)).all()
    assert ((table["round_fan"][1:] >= 0.0) & (table["round_fan"][1:] <= 1.0)).all()


def test_shell_mean_and_core_lie_in_that_order_while_wood_is_green(folder):
    _, table = run(folder)
    wet = slice(ROWS_A_DAY, 5 * ROWS_A_DAY)
    shell, mean, core = (table[f"boards-1_{what}_mc"][wet] for what in ("shell", "mean", "core"))
    assert (shell < mean).all()
    assert (mean < core).all()


def test_daily_loss_is_what_the_mean_lost_in_a_day(folder):
    outcome, table = run(folder)
    for k, group in enumerate(outcome["results"]["lumber"]["groups"], start=1):
        mean = table[f"boards-{k}_mean_mc"][::ROWS_A_DAY]
        lost = mean[1:-1] - mean[2:]
        assert group["loss_per_day"][0] is None, "not in for all of the first day"
        assert np.array(group["loss_per_day"][1:], float) == pytest.approx(lost, abs=1e-4)
        ending = table[f"boards-{k}_loss_per_day"]
        assert ending[2 * ROWS_A_DAY :: ROWS_A_DAY] == pytest.approx(lost, abs=1e-4), (
            "each row tells of the 24 hours before"
        )
        assert np.nanmax(ending) == pytest.approx(group["worst_loss"], abs=2e-3)
        assert group["worst_loss"] == max([group["first_day_loss"], *group["loss_per_day"][1:]])


def test_mass_of_the_boards_falls_by_what_their_moisture_falls(folder):
    _, table = run(folder)
    for k in (1, 2):
        mass, mean = table[f"boards-{k}_mass_kg"], table[f"boards-{k}_mean_mc"]
        there = np.isfinite(mean)
        dry = mass[there] / (1.0 + mean[there])
        assert dry == pytest.approx(dry[0], rel=2e-3), "oven-dry mass stays"


def test_the_answer_has_peaks_shares_and_risks(folder):
    outcome, table = run(folder)
    lumber = outcome["results"]["lumber"]
    peaks = np.array([day["peak_c"] for day in lumber["days"]])
    whole = table["chamber_c"][: 12 * ROWS_A_DAY].reshape(12, ROWS_A_DAY).max(axis=1)
    assert np.abs(peaks - whole).max() < 0.8, "means of ten minutes are a little lower than what stands at one"
    vapour, sun = np.nansum(table["vapour_w"]), np.nansum(table["opening_w"])
    assert lumber["vapour_share"] == pytest.approx(vapour / sun, abs=0.06)
    assert lumber["groups"][0]["checks"] == "high"
    assert lumber["groups"][0]["safe_per_day"] < lumber["groups"][0]["worst_loss"]
    assert lumber["groups"][1]["safe_per_day"] is None, "no rate is published for it: its stress alone tells"
    assert lumber["groups"][1]["checks"] == ("high" if lumber["groups"][1]["worst_shell_stress"] >= 1.0 else "watch")
    assert lumber["groups"][1]["worst_loss"] > 2.0 * lumber["groups"][0]["worst_loss"]


def test_a_weather_file_with_rain_wets_an_open_stack(folder):
    """The same days from a file; with rain the stack in the open is wetter than without, the kiln is not."""
    head = "time,ghi_w_m2,air_c,rh,wind_m_s,rain_mm_h"
    first = datetime.fromisoformat("2025-06-01T00:00:00+02:00")
    found = {}
    for words, mm in (("dry", 0.0), ("wet", 1.5)):
        lines = [head]
        for hour in range(12 * 24):
            of_day = hour % 24
            sun = 750.0 * max(np.sin(np.pi * (of_day - 5) / 15), 0.0)
            rain = mm if (hour // 24) % 3 == 1 else 0.0
            air = 17 + 6 * np.sin(np.pi * (of_day - 9) / 12)
            lines.append(f"{(first + timedelta(hours=hour)).isoformat()},{sun:.0f},{air:.1f},0.6,2,{rain}")
        (folder / f"{words}.csv").write_text("\n".join(lines))
        outcome, _ = run(
            folder,
            weather={"kind": "csv", "path": f"{words}.csv"},
            load__outside={"shelter": "open", "covered": False},
        )
        lumber = outcome["results"]["lumber"]
        found[words] = lumber["groups"][1]
        assert lumber["rain"]
    assert found["wet"]["outside_end_mc"] > found["dry"]["outside_end_mc"] + 0.01
    assert found["wet"]["end_mc"] == pytest.approx(found["dry"]["end_mc"], abs=1e-6)


FILM = {
    "name": "own-film", "title": "Own film", "top_service_c": 80.0, "food_safe": False, "price_m2": 1.0, "source": "typed", "index": 1.5, "extinction_per_m": 165.0, "longwave_transmittance": 0.3, "emittance": 0.6,
    "density_kg_m3": 920.0, "cp_j_kgk": 2300.0, "conductivity_w_mk": 0.33, "usual_thickness_m": 0.0002,
}  # fmt: skip
"""A film by its own numbers."""


def film(**more: object) -> dict:
    return {"layers": 2, "thickness_m": 0.0002, "gap_m": 0.03, "material": {**FILM, **more}}


@pytest.mark.parametrize(
    ("name", "changes", "least", "most"),
    [
        ("walls that hold heat in", {"build__measured": {"walls_u_w_m2k": 0.3, "floor_u_w_m2k": 0.3}}, 0.5, 15),
        ("a smaller roof", {"build__measured": {"roof_m2": 3.0}}, -25, -2),
        ("air changes as measured", {"build__changes": {"calm_per_h": 40.0, "per_m_s": 2.0}}, -15, -1),
        ("a white baffle", {"build__baffle__finish": "pale-paint"}, -20, -2),
        ("more frame", {"build__frame_share": 0.4}, -20, -2),
        ("boards that give little", {"load__still_w_m2k": 0.5, "load__blown_w_m2k": 0.5}, 2, 30),
        ("a heavy baffle", {"build__baffle__heat_j_m2k": 300000.0}, -15, -0.3),
        ("a fan that hardly runs", {"build__fan__driven": "sun", "build__fan__full_w_m2": 1400.0}, -5, 20),
    ],
)
def test_what_is_typed_moves_the_daily_peak(folder, name, changes, least, most):
    base, _ = run(folder)
    other, _ = run(folder, **changes)
    assert other["energy_closure"] < 1e-9
    assert least < top_c(other) - top_c(base) < most, name


def test_a_film_is_what_its_numbers_say(folder):
    """Duller plastic lets less sun in; one that long-wave goes through keeps less heat, and dew closes it."""
    plain, dull, open_ = (
        run(folder, build__cover=film(**more))[0]
        for more in ({}, {"extinction_per_m": 900.0}, {"longwave_transmittance": 0.75, "emittance": 0.15})
    )
    assert top_c(dull) < top_c(plain) - 0.5
    assert low_c(open_) < low_c(plain)


def low_c(outcome: dict) -> float:
    return min(day["low_c"] for day in outcome["results"]["lumber"]["days"])


def top_c(outcome: dict) -> float:
    """Peak of the second day, while the wood is wet."""
    return outcome["results"]["lumber"]["days"][1]["peak_c"]


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"load__groups__0__start": "measured", "load__groups__0__start_mc": 3.0}, "start_mc"),
        ({"load__groups__0__species": "shagbark-hickory"}, "how fast water goes through shagbark hickory is not known"),
        ({"load__groups__0__length_m": 4.0}, "long inside"),
        ({"build__vents__low_cm2": 49000.0}, "the back wall is"),
        ({"load__groups__0__wood_m3": 40.0}, "fits"),
    ],
)
def test_bad_charges_are_one_line_each(tmp_path, changes, said):
    raw = json.loads(OAK.read_text())
    for path, value in changes.items():
        *way, last = path.split("__")
        at = raw
        for step in way:
            at = at[int(step)] if step.isdigit() else at[step]
        at[last] = value
    (tmp_path / "case.json").write_text(json.dumps(raw))
    result = call("run", str(tmp_path / "case.json"))
    assert result.exit_code == 2
    assert result.stdout == ""
    assert result.stderr.count("\n") == 1
    assert said in result.stderr
    assert "⦃" not in result.stderr, "quantities are written out"
