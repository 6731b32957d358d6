"""What views share: the data file, the clock, and answers made from models."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime

from flask import Response, current_app, has_request_context, request
from pydantic import BaseModel

from drylamp.core.checks import DryLampError, InputProblem
from drylamp.store.database import Database, StaleWriteError, atomic
from drylamp.store.devices import DeviceRow
from drylamp.web.jobs.asking import NOW
from drylamp.web.settings import Settings
from drylamp.web.share.asker import who


def settings() -> Settings:
    """The server's settings."""
    found: Settings = current_app.config["DRYLAMP"]
    return found


def now() -> datetime:
    """The server's time (the demo's own in a demo)."""
    told: datetime | None = request.environ.get(NOW) if has_request_context() else None
    return told or settings().now()


def stamp() -> str:
    """The server's time as text for the store."""
    return now().isoformat(timespec="seconds")


@contextmanager
def database() -> Iterator[sqlite3.Connection]:
    """A connection for this request."""
    store: Database = current_app.config["DATABASE"]
    with store.session() as db:
        yield db


@contextmanager
def writing() -> Iterator[sqlite3.Connection]:
    """A connection for a request that changes something: what it answers is made within, so that nothing is kept that could not be shown.

    Raises:
        GuestError: the device that asks may only look.
    """
    if is_guest():
        raise GuestError("this device may look and not change anything; pair it again at the machine to write with it")
    with database() as db, atomic(db):
        yield db


def device() -> DeviceRow | None:
    """The device of the house's network that asks; none where somebody at the machine does."""
    return who(request.environ) if has_request_context() else None


def is_guest() -> bool:
    """Whether whoever asks may only look."""
    asks = device()
    return asks is not None and asks.guest


class GuestError(DryLampError):
    """A device that may only look wants to change something."""


def answer(body: BaseModel, status: int = 200, revision: int | None = None) -> Response:
    """A model as JSON, with its revision as ETag when it has one."""
    response = Response(body.model_dump_json(), status=status, mimetype="application/json")
    if revision is not None:
        response.set_etag(f"r{revision}")
    return response


def attachment(text: str | bytes, mimetype: str, name: str) -> Response:
    """A text as a file to be kept under a name."""
    response = Response(text, mimetype=mimetype)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


_TAGS = re.compile(r'\s*(?:W/)?"([!#-~]+)"\s*(?:,|$)')


def _seen(missing: str) -> list[str]:
    """Marks that a write says it saw (If-Match), without quotes.

    Raises:
        PreconditionMissing: the header is missing.
        MarkUnreadable: it is no list of marks in quotes.
    """
    given = request.headers.get("If-Match", "").strip()
    if not given:
        raise PreconditionMissing("If-Match", f"is missing; {missing}")
    if _TAGS.sub("", given):
        raise MarkUnreadable("If-Match", f"'{given[:60]}' was given; {missing}")
    return _TAGS.findall(given)


def require_mark() -> None:
    """Refuse a write that does not say what it saw, before anything else of it is looked at.

    Raises:
        PreconditionMissing: the header is missing.
        MarkUnreadable: it is no list of marks in quotes.
    """
    _seen('send the ETag of the revision you saw, such as "r3"')


def check_mark(current: str, what: str) -> None:
    """Refuse a write whose If-Match is not the current mark of what it changes.

    Raises:
        PreconditionMissing: the header is missing.
        MarkUnreadable: it is no mark.
        StaleWriteError: it was changed since that mark was seen.
    """
    if current not in _seen(f"send the mark of {what} that you saw, in quotes"):
        raise StaleWriteError(
            f"{what} was changed elsewhere; your change was not written: look at the newer state, then repeat yours",
            current,
        )


class PreconditionMissing(InputProblem):
    """A write came without the revision it saw."""


class MarkUnreadable(InputProblem):
    """A write names what it saw in no way that can be read."""


NO_REVISION = -1
"""What a write saw that names a mark which no revision has."""


def seen_revision() -> int:
    """Revision that a write says it saw (If-Match); ``NO_REVISION`` for a mark that is none of ours, which no row matches.

    Raises:
        PreconditionMissing: the header is missing.
        MarkUnreadable: it is no mark.
    """
    tags = _seen('send the ETag of the revision you saw, such as "r3"')
    return next((int(tag[1:]) for tag in tags if re.fullmatch(r"r[0-9]{1,15}", tag)), NO_REVISION)
