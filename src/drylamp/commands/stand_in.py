"""Stand-ins for instruments and for a weather service."""

from __future__ import annotations

import json
import sys

import click

from drylamp.commands.shared import PORTS, fail, plain_errors

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


@click.command("stand-in")
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
