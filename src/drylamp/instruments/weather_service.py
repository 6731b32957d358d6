"""The stand-in weather service: answers ``GET /hourly`` with made-up weather, as a real service would with its own.

It listens on loopback and knows the places it was started with. Hours may drop out, so that gaps can be seen.
"""

from __future__ import annotations

import json
import threading
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, date, datetime
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs, urlsplit

import numpy as np

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.site import Site

NEAR_DEG = 1.0


@dataclass(frozen=True)
class Service:
    """What the stand-in knows: its places, its seed, and what share of hours it loses."""

    sites: tuple[Site, ...]
    seed: int = 1
    drop_out: float = 0.0


def hourly(
    service: Service, latitude: float, longitude: float, start: date, days: int, member: int = 0
) -> dict[str, object]:
    """What the service answers for a place.

    Raises:
        InputProblem: it knows no place near, or the span is out of range.
    """
    require(1 <= days <= 366, "days", f"{days} was given; allowed are 1 to 366")
    site = min(
        service.sites,
        key=lambda s: abs(s.latitude_deg - latitude) + abs(s.longitude_deg - longitude),
        default=None,
    )
    near = site is not None and max(abs(site.latitude_deg - latitude), abs(site.longitude_deg - longitude)) <= NEAR_DEG
    if site is None or not near:
        raise InputProblem("latitude", f"{latitude:g}, {longitude:g} is no place this service knows")
    records = made_up_weather(site, start, days, service.seed, member)
    kept = np.random.default_rng([service.seed, 77]).random(len(records.time_s)) >= service.drop_out
    hours = [
        {
            "time": datetime.fromtimestamp(float(records.time_s[k]), UTC).isoformat().replace("+00:00", "Z"),
            "ghi_w_m2": round(float(records.ghi_w_m2[k]), 1),
            "air_c": round(float(records.air_c[k]), 2),
            "rh": round(float(records.rh[k]), 3),
            "wind_m_s": round(float(records.wind_m_s[k]), 2),
            "pressure_pa": round(site.pressure_pa),
        }
        for k in np.flatnonzero(kept)
    ]
    return {"origin": f"stand-in weather service ({records.origin})", "hours": hours}


def start(service: Service, port: int = 0) -> ThreadingHTTPServer:
    """Listen on loopback; the caller serves or shuts down."""

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            """Answer one question, or say what is wrong with it."""
            asked = urlsplit(self.path)
            try:
                require(asked.path == "/hourly", "path", f"{asked.path} was given; allowed is /hourly")
                self._answer(200, hourly(service, **_question(parse_qs(asked.query))))  # type: ignore[arg-type]
            except InputProblem as problem:
                self._answer(422, {"detail": str(problem)})

        def _answer(self, status: int, body: dict[str, object]) -> None:
            data = json.dumps(body).encode()
            self.send_response(status)
            self.send_header("Content-Type", "application/json")
            self.send_header("Content-Length", str(len(data)))
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, *_: object) -> None:
            """Say nothing."""

    return ThreadingHTTPServer(("127.0.0.1", port), Handler)


def start_in_background(service: Service) -> str:
    """Serve from a thread of this process; returns the address."""
    server = start(service)
    threading.Thread(target=server.serve_forever, name="weather-stand-in", daemon=True).start()
    return f"http://127.0.0.1:{server.server_address[1]}"


def _question(query: dict[str, list[str]]) -> dict[str, object]:
    kinds: dict[str, Callable[[str], object]] = {
        "latitude": float,
        "longitude": float,
        "start": date.fromisoformat,
        "days": int,
        "member": int,
    }
    out: dict[str, object] = {}
    for name, kind in kinds.items():
        if name not in query and name == "member":
            continue
        text = query.get(name, [""])[0]
        try:
            out[name] = kind(text)
        except ValueError:
            raise InputProblem(
                name, f"'{text}' was given; needed is a {'date' if name == 'start' else 'number'}"
            ) from None
    return out
