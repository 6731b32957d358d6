"""Long answers: worked out step by step, each step with what is known so far, so that somebody may look, and stop."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from threading import Lock
from typing import Any, Generic, TypeVar

M_co = TypeVar("M_co", covariant=True)


@dataclass(frozen=True)
class Step(Generic[M_co]):
    """How far it is, 0–1, and the answer as it stands."""

    share: float
    answer: M_co


Long = Iterator[Step[M_co]]
"""Steps, the last of them whole."""
M = TypeVar("M")


def whole(steps: Long[M]) -> M:
    """The answer when all steps are done, for whoever does not want to look in between."""
    found: Step[M] | None = None
    for found in steps:  # noqa: B007 - the last one counts
        pass
    assert found is not None, "a long answer has at least one step"
    return found.answer


class KeptWhole:
    """Long answers that came to their end, by what they depend on; the longest unused are let go first."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._by_key: OrderedDict[str, Any] = OrderedDict()
        self._lock = Lock()

    def steps(self, key: str, make: Callable[[], Long[M]]) -> Long[M]:
        """The whole at once where it is kept, else step by step."""
        with self._lock:
            kept = self._by_key.get(key)
            if kept is not None:
                self._by_key.move_to_end(key)
        if kept is not None:
            yield Step(1.0, kept)
            return
        found: Step[M] | None = None
        for found in make():
            yield found
        if found is not None:
            with self._lock:
                self._by_key[key] = found.answer
                while len(self._by_key) > self._most:
                    self._by_key.popitem(last=False)
