"""The command line: drylamp serve | demo | run | atlas | sum | schema | export | import | stand-in | doctor.

Heavy parts are imported where they are used, so that ``--help`` and simple sums stay quick.
"""

from __future__ import annotations

import json
import os
import signal
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn, TextIO

import click

from drylamp import compiles_first

if TYPE_CHECKING:
    from concurrent.futures import Executor

    from _typeshed.wsgi import WSGIApplication
    from pydantic import BaseModel, ValidationError

    from drylamp.core.checks import InputProblem
    from drylamp.web.settings import Settings

CLUSTER_PATIENCE_S = 20
DATA_NAME = "drylamp.sqlite3"
PLAYED: dict[str, tuple[str, ...]] = {
    "logger": (),
    "humidity-probe": ("humidity",),
    "scale": ("mass",),
    "moisture-meter": ("moisture",),
    "pyranometer": ("sun",),
    "wind-meter": ("wind",),
    "flow-meter": ("flow",),
    "hour-meter": ("hours",),
}
"""Stand-ins that post to a trial, and the quantities each one reads; the logger reads all that the trial wants."""


def fail(message: str) -> NoReturn:
    """Say one line on stderr and leave with 2."""
    click.echo(f"drylamp: {message}", err=True)
    sys.exit(2)


def one_line(error: ValidationError | InputProblem) -> str:
    """All that is wrong, in one line."""
    from drylamp.core.checks import explain
    from drylamp.core.text import plain

    return plain("; ".join(f"{p.field}: {p.message}" if p.field else p.message for p in explain(error)))


def refused(field: str, message: str) -> InputProblem:
    """What is wrong with what was given, to be raised."""
    from drylamp.core.checks import InputProblem

    return InputProblem(field, message)


@contextmanager
def plain_errors() -> Iterator[None]:
    """Turn everything that can be explained into one line."""
    from pydantic import ValidationError

    from drylamp.core.checks import DryLampError, InputProblem

    try:
        yield
    except (ValidationError, InputProblem) as error:
        fail(one_line(error))
    except DryLampError as error:
        fail(str(error))


class OneLine(click.Group):
    """Commands whose every refusal is one line on stderr and exit 2."""

    def main(self, *args: Any, **kwargs: Any) -> Any:
        """Run a command."""
        try:
            return super().main(*args, **{**kwargs, "standalone_mode": False})
        except click.exceptions.NoArgsIsHelpError as error:
            click.echo(error.format_message())
            sys.exit(0)
        except click.ClickException as error:
            fail(error.format_message().replace("\n", " "))
        except (click.Abort, KeyboardInterrupt):
            sys.exit(130)
        except BrokenPipeError:  # whoever read it has closed the pipe
            sys.stdout = open(os.devnull, "w")  # noqa: SIM115
            sys.exit(0)
        except OSError as error:
            sys.stdout = open(os.devnull, "w")  # noqa: SIM115
            fail(f"it could not be written or read ({error.strerror or error})")


@click.group(cls=OneLine)
@click.version_option(package_name="drylamp")
def main() -> None:
    """Dry Lamp: a workbench for people who build things that the sun heats."""


@main.command()
@click.argument("case", type=click.Path(path_type=Path))
@click.option(
    "--csv", "csv_out", type=click.Path(path_type=Path), help="Write temperatures, watts and draws in time here."
)
def run(case: Path, csv_out: Path | None) -> None:
    """Run one case file (- reads standard input) and print its outcome as one JSON object."""
    from drylamp.core.engine import run_case
    from drylamp.core.sky.weather import WeatherFile
    from drylamp.core.twin.case import Case
    from drylamp.formats.build_file import read_object, refuse_newer
    from drylamp.formats.weather_file import load_weather

    if compiles_first():
        click.echo("drylamp: compiling for the first time; later runs start at once", err=True)
    with plain_errors():
        from_input = str(case) == "-"
        name = "standard input" if from_input else str(case)
        raw = read_object(_input() if from_input else _text(case), name)
        if csv_out is not None:
            _check_target(csv_out)
        refuse_newer(raw, "format")
        made = Case.model_validate(raw)
        records = (
            load_weather(made.weather, Path() if from_input else case.parent)
            if isinstance(made.weather, WeatherFile)
            else None
        )
        outcome, done = run_case(made, records)
        if csv_out is not None:
            from drylamp.formats.run_csv import write_run_csv

            with _whole_file(csv_out) as file:
                write_run_csv(file, made.site.zone, done)
        click.echo(outcome.model_dump_json(indent=2))


def _text(path: Path, field: str = "") -> str:
    from drylamp.formats.table_text import decode

    try:
        return decode(path.read_bytes())[0]
    except OSError as error:
        raise refused(field or "", f"{path} cannot be read ({error.strerror or error})") from None


def _input() -> str:
    from drylamp.formats.table_text import decode

    return decode(sys.stdin.buffer.read())[0]


def _check_target(path: Path, option: str = "--csv") -> None:
    """Refuse a file that could not be written, before the work whose result it is to hold."""
    folder = path.absolute().parent
    if not folder.is_dir():
        raise refused(option, f"there is no folder {folder}; make it, or name another file")
    if path.is_dir() or not os.access(path if path.exists() else folder, os.W_OK):
        raise refused(option, f"{path} cannot be written; name another file")


@contextmanager
def _whole_file(path: Path) -> Iterator[TextIO]:
    """A file that is there whole or not at all."""
    is_device = path.exists() and not path.is_file()  # a pipe, say: it cannot be put in place afterwards
    part = path if is_device else path.with_name(path.name + ".part")
    try:
        with part.open("w", newline="", encoding="utf-8") as file:
            yield file
        if not is_device:
            part.replace(path)
    except OSError as error:
        if not is_device:
            part.unlink(missing_ok=True)
        raise refused("--csv", f"{path} cannot be written ({error.strerror or error})") from None


@main.command()
@click.argument("case", type=click.Path(path_type=Path))
@click.option("--sites", "places", required=True, type=click.Path(path_type=Path), help="CSV: name, latitude_deg, longitude_deg, and elevation_m, time_zone, weather (a file) where known.")  # fmt: skip
@click.option("--years", default=10, show_default=True, type=click.IntRange(1, 1000), help="Years at each place, made up, or of its weather file.")  # fmt: skip
@click.option("--out", default=Path("atlas.csv"), show_default=True, type=click.Path(path_type=Path), help="Tidy table, a line a month; .parquet writes Parquet.")  # fmt: skip
@click.option("--workers", default=2, show_default=True, type=click.IntRange(1, 256), help="Processes on this machine.")
@click.option("--cluster", metavar="ADDRESS", help="A Dask scheduler's address, in place of processes here.")
def atlas(case: Path, places: Path, years: int, out: Path, workers: int, cluster: str | None) -> None:
    """Run one design over many places and years; stopped, it goes on where it was when it is run again."""
    from drylamp.core.atlas import MonthRow, in_order, pieces_of
    from drylamp.core.atlas import atlas as run_all
    from drylamp.core.twin.case import Case
    from drylamp.formats import atlas_file
    from drylamp.formats.build_file import read_object, refuse_newer

    with plain_errors():
        raw = read_object(_text(case), str(case))
        refuse_newer(raw, "format")
        pieces = pieces_of(Case.model_validate(raw), atlas_file.read_places(places), years)
        _check_target(out, "--out")
        if out.suffix == atlas_file.PARQUET:
            atlas_file.check_parquet()
        journal = out.with_name(out.name + ".years")
        kept, rows = atlas_file.read_journal(journal), list[MonthRow]()
        with _executor(workers, cluster) as (executor, at_once, is_loss), journal.open("a", encoding="utf-8") as note:
            for count, (piece, found) in enumerate(run_all(pieces, executor, at_once, kept, is_loss), start=1):
                if piece.key not in kept:
                    atlas_file.add_to_journal(note, piece.key, found)
                rows += found
                click.echo(f"drylamp: {count} of {len(pieces)} years", err=True)
        atlas_file.write_table(out, in_order(rows))
        journal.unlink()


@contextmanager
def _executor(workers: int, cluster: str | None) -> Iterator[tuple[Executor, int, Callable[[BaseException], bool]]]:
    """Processes here or a cluster's workers, how many pieces to hand out at once, and what of its errors is the loss of a worker."""
    if cluster is None:
        from concurrent.futures import ProcessPoolExecutor
        from multiprocessing import get_context

        with ProcessPoolExecutor(workers, mp_context=get_context("spawn")) as pool:
            yield pool, 2 * workers, lambda error: False
        return
    try:
        from distributed import Client, KilledWorker
    except ImportError:
        raise refused("--cluster", "it needs Dask: pip install 'drylamp[cluster]'") from None
    try:
        client = Client(cluster, timeout=CLUSTER_PATIENCE_S)
    except (OSError, ValueError) as error:
        raise refused("--cluster", f"no scheduler answers at {cluster} ({error})") from None
    with client, client.get_executor(pure=False) as pool:
        yield pool, 4 * max(len(client.scheduler_info()["workers"]), 1), lambda error: isinstance(error, KilledWorker)


@main.command("sum")
@click.argument("name", required=False)
@click.argument("pairs", nargs=-1)
@click.option("--list", "list_them", is_flag=True, help="List the sums.")
@click.option("--batch", type=click.Path(path_type=Path), help="One {sum, inputs} object per line.")
def quick_sum(name: str | None, pairs: tuple[str, ...], list_them: bool, batch: Path | None) -> None:
    """Do a quick sum: drylamp sum NAME key=value …"""
    from drylamp.core.sums.registry import SUMS

    if list_them:
        for entry in SUMS.values():
            click.echo(f"{entry.name:20} {entry.title}  ({', '.join(entry.inputs.model_fields)})")
        return
    with plain_errors():
        if batch is not None:
            _run_batch(_text(batch))
        elif name is None:
            raise refused("NAME", "is missing; see drylamp sum --list")
        else:
            click.echo(json.dumps(_run_sum(name, _pairs(pairs))))


def _pairs(pairs: tuple[str, ...]) -> dict[str, object]:
    out: dict[str, object] = {}
    for pair in pairs:
        key, equals, text = pair.partition("=")
        if not equals:
            raise refused(pair, "write inputs as key=value")
        out[key] = _value(text)
    return out


def _value(text: str) -> object:
    for kind in (int, float):
        try:
            return kind(text)
        except ValueError:
            continue
    return text


def _run_sum(name: str, inputs: dict[str, object]) -> dict[str, object]:
    """Do a sum; where it wants a file's text, the path is given here and stays in the printed inputs."""
    from drylamp.core.sums.registry import find_sum

    found = find_sum(name)
    paths = {field: inputs[field] for field in found.file_fields if field in inputs}
    texts = {field: _text(Path(str(path)), field) for field, path in paths.items()}
    answer = found.run({**inputs, **texts})
    return {**answer, "inputs": {**paths, **answer["inputs"]}}  # type: ignore[dict-item]


def _run_batch(text: str) -> None:
    from pydantic import ValidationError

    from drylamp.core.checks import InputProblem
    from drylamp.formats.json_text import read_json

    for number, line in enumerate(text.splitlines(), start=1):
        if not line.strip():
            continue
        try:
            asked = read_json(line)
            if not isinstance(asked, dict) or not isinstance(asked.get("inputs"), dict):
                raise refused("", 'needs {"sum": …, "inputs": {…}}')
            click.echo(json.dumps(_run_sum(str(asked.get("sum")), asked["inputs"])))
        except (ValidationError, InputProblem) as error:
            click.echo(json.dumps({"line": number, "error": one_line(error)}))


@main.command()
@click.argument("what", type=click.Choice(["case", "build", "yard", "verdict"]))
def schema(what: str) -> None:
    """Print the JSON Schema of a file format."""
    from drylamp.core.twin.case import Case
    from drylamp.formats.build_file import BuildFile
    from drylamp.formats.verdict_file import VerdictFile
    from drylamp.formats.yard.parts import YardFile

    models: dict[str, type[BaseModel]] = {"case": Case, "build": BuildFile, "yard": YardFile, "verdict": VerdictFile}
    click.echo(json.dumps(models[what].model_json_schema(), indent=2))


def _default_data(demo: bool) -> Path:
    from platformdirs import user_data_path

    return user_data_path("drylamp") / ("demo" if demo else "yard") / DATA_NAME


PORTS = click.IntRange(0, 65535)
PORT = click.option("--port", default=8411, show_default=True, type=PORTS, help="0 takes any free port.")
DATA = click.option("--data", type=click.Path(path_type=Path), help="Folder that holds the data file.")


@main.command()
@PORT
@DATA
@click.option("--weather", metavar="URL", help="A weather service on this machine, such as http://127.0.0.1:8412.")
def serve(port: int, data: Path | None, weather: str | None) -> None:
    """Serve your own yard on this machine."""
    with plain_errors():
        service = None if weather is None else _local_service(weather)
    path = data / DATA_NAME if data else _default_data(False)

    def load() -> WSGIApplication:
        from drylamp.web.settings import Settings

        return _warmed(Settings(data=path, weather_service=service, workers="processes"))

    _serve(path, port, load)


def _local_service(address: str) -> str:
    from drylamp.formats.weather_door import check_address

    return check_address(address)


@main.command()
@PORT
@DATA
def demo(port: int, data: Path | None) -> None:
    """Serve the made-up yard, with a clock of its own that starts on a June noon."""
    path = data / DATA_NAME if data else _default_data(True)

    def load() -> WSGIApplication:
        from drylamp.demo.scenario import SOUTHERN, TERRACE, demo_now
        from drylamp.demo.seed import fill, latest_activity
        from drylamp.instruments.weather_service import Service, start_in_background
        from drylamp.store.database import Database
        from drylamp.web.settings import Settings

        store = Database(path)
        fill(store)
        last = latest_activity(store)
        begin = max(demo_now(), last + timedelta(minutes=1)) if last else demo_now()
        service = start_in_background(Service((TERRACE, SOUTHERN), seed=12))
        return _warmed(
            Settings(data=path, now=running_clock(begin), is_demo=True, weather_service=service, workers="processes")
        )

    _serve(path, port, load)


def running_clock(begin: datetime) -> Callable[[], datetime]:
    """A clock that shows ``begin`` now and runs at true speed."""
    zero = time.monotonic()
    return lambda: begin + timedelta(seconds=time.monotonic() - zero)


def _warmed(settings: Settings) -> WSGIApplication:
    """The whole app, with the first run begun behind it."""
    from drylamp.demo.scenario import warm_case
    from drylamp.web.app import create_app, warm_up

    app = create_app(settings)
    warm_up(app, warm_case)
    return app


def _serve(data: Path, port: int, load: Callable[[], WSGIApplication]) -> None:
    """Serve the page at once; what computes is loaded behind it."""
    from drylamp.web.door import Door, front
    from drylamp.web.serving import listen
    from drylamp.web.settings import HOSTS, STATIC

    with plain_errors():
        door = Door(front(data, HOSTS, STATIC), load)
    try:
        server = listen(door, port)
    except OSError as error:
        fail(f"port {port} cannot be used ({error.strerror}); choose another with --port")
    click.echo(f"Dry Lamp is at http://127.0.0.1:{server.effective_port}/  (data: {data}; Ctrl-C ends it)")
    sys.stdout.flush()
    door.open()
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))  # an end like Ctrl-C
    server.run()
    _leave()


def _leave() -> NoReturn:
    """End in order, workers and all, but do not take Python down: a thread that still compiles the twin would cry out."""
    import atexit

    atexit._run_exitfuncs()
    sys.stdout.flush()
    os._exit(0)


@main.command("stand-in")
@click.argument("instrument", type=click.Choice([*PLAYED, "weather"]))
@click.option("--url", default="http://127.0.0.1:8411", show_default=True)
@click.option("--trial", type=int, help="Number of a running trial (all but the weather).")
@click.option("--token", default="", help="The trial's token; asked from the app on this machine when left out.")
@click.option("--csv", "as_csv", is_flag=True, help="Post lines of CSV instead of JSON.")
@click.option(
    "--port",
    default=8412,
    show_default=True,
    type=PORTS,
    help="Where the weather service listens; 0 takes any free port.",
)
@click.option("--speed", default=60.0, show_default=True, type=click.FloatRange(1, 600))
@click.option(
    "--every",
    "every_s",
    default=30.0,
    show_default=True,
    type=click.FloatRange(1, 86_400),
    help="Seconds of trial time between rounds.",
)
@click.option(
    "--minutes", default=30.0, show_default=True, type=click.FloatRange(0, 1_600_000), help="Trial time to cover."
)
@click.option("--seed", default=1, show_default=True)
@click.option("--noise", default=0.3, show_default=True, help="Noise, K.")
@click.option("--drift", default=0.0, show_default=True, help="Drift of thermometers, K/h.")
@click.option("--clock-off", default=0.0, show_default=True, help="Minutes that its clock is ahead.")
@click.option("--drop-out", default=0.0, show_default=True, type=click.FloatRange(0, 0.9), help="Share of values lost.")
@click.option("--set-to", default="", help="Wood that a moisture meter is set to; default: the board's own.")
def stand_in(
    instrument: str,
    url: str,
    trial: int | None,
    token: str,
    as_csv: bool,
    port: int,
    speed: float,
    every_s: float,
    minutes: float,
    seed: int,
    noise: float,
    drift: float,
    clock_off: float,
    drop_out: float,
    set_to: str,
) -> None:
    """Stand in for an instrument: post readings to a running trial, or answer as a weather service for the app's sites."""
    import urllib.error

    from drylamp.formats.weather_door import http_host

    with plain_errors():
        http_host(url, "--url", "http://127.0.0.1:8411")
    if instrument == "weather":
        _weather_service(url, port, seed, drop_out)
        return
    if trial is None:
        fail("--trial: is missing; give the number of a running trial")
    from drylamp.instruments.logger import Posting, Truth, run_logger

    truth = Truth(noise_k=noise, drift_k_h=drift, drop_out=drop_out, clock_minutes=clock_off, seed=seed, set_to=set_to)
    how = Posting(speed, every_s, minutes, "csv" if as_csv else "json", PLAYED[instrument])
    try:
        run_logger(url.rstrip("/"), trial, token or _token(url, trial), how, truth, click.echo)
    except urllib.error.HTTPError as error:
        fail(f"{instrument}: the server refused ({json.load(error).get('detail', error.reason)})")
    except OSError as error:
        fail(f"{instrument}: {url} cannot be reached ({error})")


def _token(url: str, trial: int) -> str:
    import urllib.request

    with urllib.request.urlopen(f"{url.rstrip('/')}/api/trials/{trial}", timeout=10) as answer:
        return str(json.load(answer)["token"])


def _weather_service(url: str, port: int, seed: int, drop_out: float) -> None:
    import urllib.request

    from drylamp.core.sky.site import Site
    from drylamp.instruments.weather_service import Service, start

    try:
        with urllib.request.urlopen(f"{url.rstrip('/')}/api/sites", timeout=10) as answer:
            sites = tuple(Site.model_validate(row["site"]) for row in json.load(answer))
        server = start(Service(sites, seed, drop_out), port)
    except OSError as error:
        fail(f"weather: {url} cannot be reached, or port {port} cannot be used ({error})")
    click.echo(f"weather service at http://127.0.0.1:{server.server_address[1]} for {len(sites)} sites; Ctrl-C ends it")
    sys.stdout.flush()
    server.serve_forever()


@main.command("export")
@click.argument("file", type=click.Path(path_type=Path))
@DATA
def export_yard(file: Path, data: Path | None) -> None:
    """Write the whole yard as one FILE (a zip)."""
    from datetime import UTC

    from drylamp.store.database import Database
    from drylamp.web.yard import door

    path = data / DATA_NAME if data else _default_data(False)
    with plain_errors():
        if not path.exists():
            raise refused("--data", f"there is no data file at {path}; name the folder that holds it")
        _check_target(file)
        part = file.with_name(file.name + ".part")
        store = Database(path)
        try:
            with store.session() as db, part.open("wb") as out:
                made = door.write(db, out, datetime.now(UTC).isoformat(timespec="seconds"))
        except BaseException:
            part.unlink(missing_ok=True)
            raise
        finally:
            store.close()
        part.replace(file)
    builds = sum(len(site.builds) for site in made.sites)
    click.echo(
        f"{file}: {len(made.sites)} places, {builds} builds" + "".join(f"\nleft out: {what}" for what in made.left_out)
    )


@main.command("import")
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@DATA
@click.option("--yes", is_flag=True, help="Take it in; without this it is only looked at.")
def import_yard(file: Path, data: Path | None, yes: bool) -> None:
    """Look at a yard FILE, and with --yes take it in beside what there is."""
    import sqlite3

    from drylamp.core.text import plain
    from drylamp.formats.yard.reader import YardReader
    from drylamp.store.database import Database
    from drylamp.web.yard import door

    path = data / DATA_NAME if data else _default_data(False)
    with plain_errors():
        if not yes and not path.exists():
            with file.open("rb") as given:
                seen = YardReader(given).preview([])
            click.echo("\n".join(plain(words) for words in seen.words))
            click.echo("nothing was written; say --yes to take it in")
            return
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        store = Database(path)
        try:
            with store.session() as db, file.open("rb") as given:
                for words in door.preview(db, given).words:
                    click.echo(plain(words))
                if yes:
                    new = door.take_in(db, given)
                    click.echo(f"taken in: {len(new)} places")
                else:
                    click.echo("nothing was written; say --yes to take it in")
        except sqlite3.IntegrityError:
            raise refused("FILE", "two rows in it contradict each other, so nothing was taken in") from None
        finally:
            store.close()


@main.command()
@DATA
def doctor(data: Path | None) -> None:
    """Print versions, the data file, its schema and free disk."""
    import platform
    import shutil
    from importlib.metadata import version

    from drylamp.store.database import Database, migrations

    path = data / DATA_NAME if data else _default_data(False)
    names = ["drylamp", "flask", "pydantic", "numpy", "scipy", "numba", "pvlib"]
    click.echo(f"python {platform.python_version()}, " + ", ".join(f"{name} {version(name)}" for name in names))
    with plain_errors():
        if path.exists():
            click.echo(f"data {path} (schema {Database(path).version()} of {migrations()[-1][0]})")
        else:
            click.echo(f"data {path} (not there yet)")
    free = shutil.disk_usage(next(p for p in [path, *path.parents] if p.exists())).free
    click.echo(f"free disk {free / 1e9:.1f} GB")


if __name__ == "__main__":
    main()
