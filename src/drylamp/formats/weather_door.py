"""The door to a weather service: one GET for hourly JSON, the same for a stand-in and a real one on this machine."""

from __future__ import annotations

import urllib.error
import urllib.request
from datetime import date
from urllib.parse import urlencode, urlsplit

from drylamp.core.checks import DryLampError, InputProblem, require
from drylamp.core.sky.site import Site
from drylamp.formats.weather_json import read_weather_json

LOOPBACK = ("127.0.0.1", "localhost", "::1")
MOST_BYTES = 20_000_000
WAIT_S = 10.0


class ServiceAwayError(DryLampError):
    """The weather service cannot be reached or does not answer as it should."""


class _NoRedirect(urllib.request.HTTPRedirectHandler):
    """A service that points elsewhere is refused: it might point to another machine."""

    def redirect_request(self, *_: object) -> None:
        """Follow nothing."""


_OPENER = urllib.request.build_opener(urllib.request.ProxyHandler({}), _NoRedirect)


def check_address(url: str) -> str:
    """The address of a service on this machine, without a slash at its end.

    Raises:
        InputProblem: it is no http address, or on another machine (Dry Lamp asks no other machine for anything; run a
            small bridge on this one).
    """
    host = http_host(url, "weather", "http://127.0.0.1:8412")
    require(
        host in LOOPBACK, "weather",
        f"'{host}' is another machine; allowed is this one (127.0.0.1), so run a bridge to the service here",
    )  # fmt: skip
    return url.rstrip("/")


def http_host(url: str, field: str, such_as: str) -> str:
    """The host of an http address.

    Raises:
        InputProblem: it is none.
    """
    try:
        parts = urlsplit(url)
        _ = parts.port
    except ValueError as error:
        raise InputProblem(field, f"'{url[:80]}' is no http address ({error}); write it such as {such_as}") from None
    require(
        parts.scheme == "http" and bool(parts.hostname), field, f"'{url[:80]}' is no http address, such as {such_as}"
    )
    return str(parts.hostname)


def ask(url: str, site: Site, start: date, days: int, member: int = 0) -> str:
    """Hourly weather as text, checked to be readable.

    Raises:
        ServiceAwayError: no answer.
        InputProblem: the service refuses, or answers with something else than hourly weather.
    """
    question = {
        "latitude": site.latitude_deg, "longitude": site.longitude_deg, "start": start.isoformat(), "days": days,
        "member": member,
    }  # fmt: skip
    try:
        with _OPENER.open(f"{check_address(url)}/hourly?{urlencode(question)}", timeout=WAIT_S) as answer:
            text: str = answer.read(MOST_BYTES + 1).decode("utf-8")
    except urllib.error.HTTPError as error:
        said = error.read(2000).decode("utf-8", "replace")
        raise InputProblem("weather", f"the weather service refused ({error.code}): {said}") from None
    except (OSError, UnicodeDecodeError) as error:
        raise ServiceAwayError(
            f"the weather service at {url} does not answer ({error}); start it or use a weather file"
        ) from None
    require(len(text) <= MOST_BYTES, "weather", "the weather service answered with more than 20 MB")
    read_weather_json(text)
    return text
