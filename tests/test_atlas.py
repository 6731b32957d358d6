"""One design over many places and years: the same figures on any executor, nothing lost with a worker, nothing run twice."""

from __future__ import annotations

import csv
import json
import os
import signal
import threading
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from datetime import UTC, date, datetime
from pathlib import Path

import numpy as np
import pytest
from click.testing import CliRunner

from drylamp.cli import main
from drylamp.core.advice.season import useful_w
from drylamp.core.atlas import MonthRow, Piece, Place, at_place, atlas, in_order, pieces_of, year_at
from drylamp.core.checks import InputProblem
from drylamp.core.ensemble import as_done
from drylamp.core.ensemble import in_order as results_in_order
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span
from drylamp.core.sky.years import FromFile, MadeUp
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import FIG_DRYER, FIGS, OVEN, SHOWERS, STEW, TERRACE
from drylamp.formats.atlas_file import read_journal, read_places

CASE = usual_case(TERRACE, "terrace", OVEN, STEW, date(2025, 6, 12))
NORTH = Site(name="North field", latitude_deg=60.0, longitude_deg=25.0, time_zone="Europe/Helsinki")
SOUTH = Site(name="South paddock", latitude_deg=-34.0, longitude_deg=18.5, time_zone="Africa/Johannesburg")
PLACES = [Place(TERRACE), Place(SOUTH)]


def rows_of(found: Iterator[tuple[Piece, list[MonthRow]]]) -> list[MonthRow]:
    return in_order(row for _, rows in found for row in rows)


@pytest.fixture(scope="module")
def serial() -> list[MonthRow]:
    return in_order(row for piece in pieces_of(CASE, PLACES, 1) for row in year_at(piece))


def test_a_month_is_what_the_twin_does_in_it(serial: list[MonthRow]):
    june = next(row for row in serial if row.place == TERRACE.name and row.month == 6)
    span = Span(start=date(2001, 6, 1), days=30, step_s=300)
    run = simulate(at_place(CASE, TERRACE).with_(span=span), MadeUp(TERRACE).spell(span, 0, 4106))
    kwh = float(useful_w(run.account_w["food"], STEW).sum()) * 300.0 / 3.6e6 / 30
    assert june.useful_kwh == pytest.approx(kwh, abs=1e-4)
    assert june.hottest_c == pytest.approx(float(np.nanmax(run.temperature_c[STEW.judged])), abs=0.01)
    assert 0 < june.done <= 30
    assert all(row.energy_closure < 1e-6 for row in serial)


def test_summer_is_in_june_here_and_in_december_in_the_south(serial: list[MonthRow]):
    best = {
        place: max((row for row in serial if row.place == place), key=lambda row: row.useful_kwh).month
        for place in (TERRACE.name, SOUTH.name)
    }
    assert best[TERRACE.name] in (5, 6, 7, 8)
    assert best[SOUTH.name] in (11, 12, 1, 2)


def test_in_the_other_half_of_the_world_it_is_turned_to_the_noon_sun():
    turned = at_place(CASE.with_(build=OVEN.with_(facing_deg=170.0)), SOUTH)
    assert turned.build.facing_deg == 10.0
    assert at_place(CASE, NORTH).build.facing_deg == OVEN.facing_deg


def test_what_stays_longer_is_told_by_the_days_that_it_takes():
    case = usual_case(TERRACE, "terrace", FIG_DRYER, FIGS, date(2025, 8, 12))
    rows = year_at(pieces_of(case, [Place(TERRACE)], 1)[0])
    august = rows[7]
    assert august.done == 1
    assert 0.3 < august.taken_days < 20
    assert august.taken_days < (rows[0].taken_days or 99)


def test_years_of_a_file_are_its_own_and_as_many_as_it_holds():
    records = made_up_weather(TERRACE, date(2018, 1, 1), 365 * 2 + 5, seed=3)
    years = FromFile(TERRACE, records)
    assert [year for year, _ in years.whole] == [2018, 2019]
    place = Place(TERRACE, records)
    pieces = pieces_of(CASE, [place], 10)
    assert len(pieces) == 2
    found = year_at(pieces[1])
    assert {row.year for row in found} == {"2019"}
    june = years.spell(Span(start=date(2001, 6, 1), days=30, step_s=300), 1, 0)
    inside = (records.time_s >= datetime(2019, 5, 31, 22, tzinfo=UTC).timestamp()) & (
        records.time_s < datetime(2019, 6, 30, 22, tzinfo=UTC).timestamp()
    )
    assert float(june.ghi_w_m2.sum()) * 300 == pytest.approx(float(records.ghi_w_m2[inside].sum()) * 3600, rel=0.01)
    with pytest.raises(InputProblem, match="holds 2 whole years"):
        years.spell(Span(start=date(2001, 6, 1)), 2, 0)


def test_kept_years_come_first_and_are_not_run_again(serial: list[MonthRow]):
    pieces = pieces_of(CASE, PLACES, 1)
    kept = {pieces[0].key: [row for row in serial if row.place == TERRACE.name]}
    with ThreadPoolExecutor(2) as threads:
        found = list(atlas(pieces, threads, 2, kept))
    assert found[0] == (pieces[0], kept[pieces[0].key])
    assert rows_of(iter(found)) == serial
    other = CASE.with_(build=OVEN.with_(tilt_deg=11.0))
    assert pieces_of(other, PLACES, 1)[0].key != pieces[0].key


def test_no_more_are_begun_than_are_waited_for_and_stopping_calls_off_the_rest():
    begun: list[int] = []
    gate = threading.Event()

    def work(k: int) -> int:
        begun.append(k)
        if k > 1:
            gate.wait(10)
        return k * k

    with ThreadPoolExecutor(1) as threads:
        found = results_in_order(threads, work, range(100), 3)
        assert [next(found), next(found)] == [0, 1]
        found.close()
        gate.set()
    assert len(begun) <= 4


class Losing(ThreadPoolExecutor):
    """An executor that loses the worker of every first try."""

    def __init__(self) -> None:
        super().__init__(2)
        self.tried: dict[int, int] = {}

    def submit(self, work, piece):  # type: ignore[no-untyped-def,override]
        self.tried[piece] = self.tried.get(piece, 0) + 1
        if self.tried[piece] > 1:
            return super().submit(work, piece)
        lost: Future[int] = Future()
        lost.set_exception(ConnectionError("gone"))
        return lost


def test_a_piece_whose_worker_is_lost_is_begun_again():
    with Losing() as executor:
        assert dict(as_done(executor, lambda k: k + 1, range(5), 2)) == {k: k + 1 for k in range(5)}
    with Losing() as executor, pytest.raises(ZeroDivisionError):
        list(as_done(executor, lambda k: 1 // k, [0], 2))


def written(folder: Path) -> tuple[Path, Path]:
    case, places = folder / "case.json", folder / "sites.csv"
    case.write_text(CASE.model_dump_json(), encoding="utf-8")
    places.write_text("name,latitude_deg,longitude_deg,elevation_m\nHill,41.2,1.1,480\n", encoding="utf-8")
    return case, places


@pytest.mark.filterwarnings("ignore")
def test_a_cluster_gives_the_same_figures_and_a_killed_worker_loses_nothing(serial: list[MonthRow], tmp_path: Path):
    from distributed import Client, LocalCluster

    with (
        LocalCluster(
            n_workers=2,
            threads_per_worker=1,
            processes=True,
            dashboard_address=None,
            host="127.0.0.1",
            worker_dashboard_address=None,
            local_directory=str(tmp_path),
        ) as cluster,
        Client(cluster) as client,
        client.get_executor(pure=False) as executor,
    ):
        pids = list(client.run(os.getpid).values())
        assert len(pids) == 2
        pieces = pieces_of(CASE, PLACES, 2)
        found = atlas(pieces, executor, 4)
        first = next(found)
        os.kill(pids[0], signal.SIGKILL)
        both = [first, *found]
    assert len(both) == 4
    assert [row for row in rows_of(iter(both)) if row.year == "1"] == serial
    assert len({piece.key for piece, _ in both}) == 4


def test_the_command_writes_one_tidy_table_and_goes_on_where_it_was(tmp_path: Path):
    case, places = written(tmp_path)
    out, journal = tmp_path / "atlas.csv", tmp_path / "atlas.csv.years"
    hill = read_places(places)
    piece = pieces_of(CASE, hill, 2)[0]
    planted = [row.model_copy(update={"hottest_c": 12345.0}) for row in year_at(piece)]
    journal.write_text(
        json.dumps({"key": piece.key, "rows": [row.model_dump() for row in planted]}) + '\n{"key": "cut o',
        encoding="utf-8",
    )
    assert list(read_journal(journal)) == [piece.key]
    done = CliRunner().invoke(
        main, ["atlas", str(case), "--sites", str(places), "--years", "2", "--out", str(out), "--workers", "1"]
    )
    assert done.exit_code == 0, done.output
    with out.open(encoding="utf-8") as file:
        table = list(csv.DictReader(file))
    assert [row["month"] for row in table] == [str(month) for month in range(1, 13)] * 2
    assert {row["hottest_c"] for row in table[:12]} == {"12345.0"}
    assert {row["year"] for row in table[12:]} == {"2"}
    assert not journal.exists()


def test_a_table_that_cannot_be_finished_leaves_the_one_before(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    """As a full disk would make it; the years that were run wait in the journal."""
    from drylamp.formats import atlas_file

    def broken(path: Path, _: object) -> None:
        path.write_text("half a li", encoding="utf-8")
        raise OSError(28, "No space left on device")

    case, places = written(tmp_path)
    out, journal = tmp_path / "atlas.csv", tmp_path / "atlas.csv.years"
    out.write_text("what was there", encoding="utf-8")
    hill = read_places(places)
    journal.write_text(
        "".join(json.dumps({"key": p.key, "rows": []}) + "\n" for p in pieces_of(CASE, hill, 1)), encoding="utf-8"
    )
    monkeypatch.setattr(atlas_file, "write_table", broken)
    done = CliRunner().invoke(main, ["atlas", str(case), "--sites", str(places), "--years", "1", "--out", str(out), "--workers", "1"])  # fmt: skip
    assert done.exit_code == 2
    assert "No space left" in done.output
    assert out.read_text(encoding="utf-8") == "what was there"
    assert journal.exists()
    assert not list(tmp_path.glob("*.part*"))


def test_parquet_holds_the_same(tmp_path: Path, serial: list[MonthRow]):
    import pyarrow.parquet

    from drylamp.formats.atlas_file import write_table

    write_table(tmp_path / "a.parquet", serial)
    table = pyarrow.parquet.read_table(tmp_path / "a.parquet").to_pylist()
    assert [MonthRow.model_validate(row) for row in table] == serial


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("name,latitude_deg\nx,1\n", "no column longitude_deg"),
        ("name,latitude_deg,longitude_deg,colour\nx,1,1,red\n", "column 'colour' that nobody knows"),
        ("name,latitude_deg,longitude_deg\nx,95,1\n", "line 2"),
        ("name,latitude_deg,longitude_deg\nx,north,1\n", "plain numbers"),
        ("name,latitude_deg,longitude_deg,weather\nx,41,1,no.epw\n", "line 2"),
        ("name,latitude_deg,longitude_deg,weather\nx,41,1,no.doc\n", "is no weather file"),
        ("name,latitude_deg,longitude_deg,time_zone\nx,41,1,Mars/Base\n", "no IANA time zone"),
        ("name,latitude_deg,longitude_deg\n", "has 0 places"),
    ],
)
def test_what_is_wrong_with_the_places_is_said_in_one_line(tmp_path: Path, text: str, words: str):
    case, places = written(tmp_path)
    places.write_text(text, encoding="utf-8")
    done = CliRunner().invoke(main, ["atlas", str(case), "--sites", str(places), "--out", str(tmp_path / "a.csv")])
    assert done.exit_code == 2
    assert words in done.output
    assert done.output.count("\n") == 1
    assert not (tmp_path / "a.csv").exists()


def test_a_cluster_that_is_not_there_and_too_many_years_are_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    case, places = written(tmp_path)
    monkeypatch.setattr("drylamp.commands.atlas.CLUSTER_PATIENCE_S", 1)
    asked = ["atlas", str(case), "--sites", str(places), "--out", str(tmp_path / "a.csv")]
    done = CliRunner().invoke(main, [*asked, "--cluster", "tcp://127.0.0.1:9"])
    assert done.exit_code == 2
    assert "no scheduler answers" in done.output
    with pytest.raises(InputProblem, match="allowed are 1 to"):
        pieces_of(CASE, [Place(TERRACE)] * 2, 60_000)


def test_an_empty_box_and_a_standing_load_have_rows_too():
    empty = year_at(pieces_of(CASE.with_(load=None), [Place(NORTH)], 1)[0])
    assert {row.done for row in empty} == {None}
    from drylamp.demo.scenario import HEATER

    standing = year_at(
        pieces_of(usual_case(TERRACE, "terrace", HEATER, SHOWERS, date(2025, 6, 1)), [Place(TERRACE)], 1)[0]
    )
    assert standing[6].useful_kwh > standing[0].useful_kwh
