"""A heavy question as it is handed to a worker, and how the app answers one wherever it runs."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal

from flask import Flask, request
from pydantic import BaseModel

Lane = Literal["soon", "long"]
REPORT = "drylamp.report"
"""Where a question's environment holds whom to tell of each step."""
NOW = "drylamp.now"
KEPT = ("ETag", "Content-Disposition")
"""Headers of an answer that go along with it."""
Report = Callable[[float, bytes], None]


class StoppedError(BaseException):
    """Somebody asked to stop: what was told until then stands. No fault, so nothing that catches faults may catch it."""


@dataclass(frozen=True)
class Ask:
    """A request for a heavy answer; two that are alike share one answer.

    Attributes:
        path: with what stands behind the question mark
        now: the server's time, for a worker has no clock of its own
    """

    method: str
    path: str
    body: bytes
    now: datetime
    headers: tuple[tuple[str, str], ...] = ()

    @property
    def key(self) -> str:
        """A name for it."""
        return hashlib.blake2b(b"\0".join((self.method.encode(), self.path.encode(), self.body)), digest_size=12).hexdigest()  # fmt: skip


@dataclass(frozen=True)
class Reply:
    """What came of it."""

    status: int
    body: bytes
    mimetype: str
    headers: tuple[tuple[str, str], ...] = field(default_factory=tuple)


def reply_to(app: Flask, ask: Ask, report: Report) -> Reply:
    """Answer a question in this process.

    Raises
    ------
    StoppedError
        ``report`` raised it.
    """
    with app.test_request_context(
        ask.path,
        method=ask.method,
        data=ask.body,
        headers=list(ask.headers),
        environ_overrides={REPORT: report, NOW: ask.now},
    ):
        response = app.full_dispatch_request()
        kept = tuple((name, value) for name, value in response.headers if name in KEPT)
        return Reply(response.status_code, response.get_data(), response.mimetype or "application/json", kept)


def told(share: float, answer: BaseModel) -> None:
    """Tell whoever waits for this request's answer how far it is."""
    report: Report | None = request.environ.get(REPORT)
    if report is not None:
        report(share, answer.model_dump_json().encode())


def is_inside() -> bool:
    """Whether this request is answered by, or for, a worker already."""
    return REPORT in request.environ
