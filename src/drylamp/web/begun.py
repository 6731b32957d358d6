"""What a page is opened with: the answers that its view asks for first stand in the page itself, so that it is drawn without asking.

Only what is answered at once; whatever is worked out is asked for by the page, which can show that it waits.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote
from zoneinfo import ZoneInfo

from flask import Flask
from markupsafe import escape

from drylamp.web import context
from drylamp.web.jobs.asking import Ask, reply_to

ALWAYS = ("/api/now", "/api/sites", "/api/kinds", "/api/unreadable")
"""What the frame of every view asks for."""
NUMBER = r"[0-9]{1,15}"


class Begun:
    """Answers of this very server to what a view is about to ask, in the order in which one leads to the next."""

    def __init__(self, app: Flask) -> None:
        self._app = app
        self.answers: dict[str, bytes] = {}
        self._sites: list[Any] = []

    def of(self, address: str, day: str | None) -> dict[str, bytes]:
        """Answers for the view at an address, by what is asked; those that are refused are left for the page to ask again."""
        first, number = [*address.strip("/").split("/"), "", ""][:2]
        follow = {"": self._home, "sites": self._site, "builds": self._build, "trials": self._trial}.get(first)
        if follow is None or (first and not re.fullmatch(NUMBER, number)):
            return {}
        for path in ALWAYS:
            self._ask(path)
        self._sites = self._read("/api/sites") or []
        follow(number, day)
        return self.answers

    def _ask(self, path: str) -> None:
        ask = Ask("GET", path, b"", context.now(), (("Host", "localhost"),))
        reply = reply_to(self._app, ask, lambda *_: None)
        if reply.status == 200:
            self.answers[path] = reply.body

    def _read(self, path: str) -> Any:
        """An answer that leads to the next; none where it was refused."""
        if path not in self.answers:
            self._ask(path)
        return json.loads(self.answers.get(path, b"null"))

    def _home(self, _: str, day: str | None) -> None:
        if self._sites:
            self._site(str(self._sites[0]["id"]), day)

    def _site(self, number: str, day: str | None) -> None:
        zone = next((row["site"]["time_zone"] for row in self._sites if row["id"] == int(number)), None)
        if zone is not None:
            self._ask(f"/api/builds?site={number}")
            self._ask(f"/api/sites/{number}/strip?day={quote(day or f'{context.now().astimezone(ZoneInfo(zone)):%F}')}")

    def _build(self, number: str, day: str | None) -> None:
        build = self._read(f"/api/builds/{number}")
        if build is not None:
            self._site(str(build["site_id"]), day)

    def _trial(self, number: str, day: str | None) -> None:
        trial = self._read(f"/api/trials/{number}")
        if trial is not None:
            self._build(str(trial["build_id"]), day)


def scripts(answers: dict[str, bytes]) -> Iterator[str]:
    """The answers as parts of a page that no browser runs."""
    for path, body in answers.items():
        safe = body.decode("utf-8").replace("<", "\\u003c")
        yield f'<script type="application/json" data-answers="{escape(path)}">{safe}</script>'
