"""What a server needs to know before it starts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from drylamp.languages import pages_of

if TYPE_CHECKING:
    from drylamp.web.share.share import Share

MAX_UPLOAD_BYTES = 24 * 1024 * 1024
HOSTS = ("127.0.0.1", "localhost", "[::1]")
STATIC = pages_of(Path(__file__).parent / "static")


def wall_clock() -> datetime:
    """The machine's time."""
    return datetime.now(UTC)


@dataclass(frozen=True)
class Settings:
    """Data file, clock, allowed hosts, the built front end, a weather service on this machine, where heavy answers are worked out, and the door to the house's network."""

    data: Path
    now: Callable[[], datetime] = wall_clock
    hosts: tuple[str, ...] = HOSTS
    static: Path = STATIC
    is_demo: bool = False
    weather_service: str | None = None
    workers: Literal["here", "processes"] = "here"
    share: Share | None = None
