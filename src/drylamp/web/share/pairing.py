"""Letting a device in by a code: it works once, for some minutes, and is not to be guessed."""

from __future__ import annotations

import secrets
import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

LETTERS = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
"""Without those that are read as each other."""
LENGTH = 8
LASTS_S = 600.0
TRIES, TRIES_IN_S = 5, 60.0
MOST_OPEN = 20


class Silence(Exception):
    """No answer at all is to be given."""


@dataclass(frozen=True)
class Invitation:
    """A code, whether whoever comes by it may only look, and until when it works on the clock of the pairing."""

    code: str
    guest: bool
    until_s: float


class Pairing:
    """Open invitations, and how often somebody tried in the last minute.

    Tries are counted for all together: who guesses may have many addresses, and a house has few phones to pair.
    """

    def __init__(self, clock: Callable[[], float]) -> None:
        self._clock = clock
        self._open: list[Invitation] = []
        self._tries: deque[float] = deque()
        self._lock = threading.Lock()

    def invite(self, guest: bool) -> Invitation:
        """A fresh code; the oldest goes when there are too many."""
        made = Invitation("".join(secrets.choice(LETTERS) for _ in range(LENGTH)), guest, self._clock() + LASTS_S)
        with self._lock:
            self._open = [*self._in_force(), made][-MOST_OPEN:]
        return made

    def try_code(self, typed: str) -> Invitation | None:
        """The invitation of a code, used up by this; none where there is no such code.

        Raises
        ------
        Silence
            there were too many tries in the last minute: a right code opens nothing either.
        """
        given = tidy(typed).encode()
        with self._lock:
            now = self._clock()
            while self._tries and self._tries[0] <= now - TRIES_IN_S:
                self._tries.popleft()
            if len(self._tries) >= TRIES:
                raise Silence
            self._tries.append(now)
            self._open = self._in_force()
            found = None
            for one in self._open:  # all of them are looked at, so that time tells nothing
                if secrets.compare_digest(one.code.encode(), given):
                    found = one
            if found is not None:
                self._open.remove(found)
                self._tries.pop()
            return found

    def _in_force(self) -> list[Invitation]:
        now = self._clock()
        return [one for one in self._open if one.until_s > now]


def tidy(typed: str) -> str:
    """A code as it is kept, from how a person types it."""
    return "".join(letter for letter in typed.upper() if letter.isalnum())[:64]


def shown(code: str) -> str:
    """In two halves, to be read out."""
    return f"{code[: LENGTH // 2]} {code[LENGTH // 2 :]}"
