"""Results kept by what they depend on: few, safe among threads, the longest unused let go first."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from threading import Lock
from typing import Any, Generic, TypeVar
from weakref import WeakSet

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Kept(Generic[K, V]):
    """At most so many results; of threads that ask at once for the same, one works it out and the others wait for it."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._by_key: OrderedDict[K, Future[V]] = OrderedDict()
        self._lock = Lock()
        _EVERYWHERE.add(self)

    def get(self, key: K, make: Callable[[], V]) -> V:
        """The result of a key, worked out where it is not there; what ``make`` raises is raised and not kept.

        ``make`` must not ask for the same key.
        """
        with self._lock:
            found, mine = self._by_key.get(key), Future[V]()
            if found is None:
                self._by_key[key] = mine
                while len(self._by_key) > self._most:
                    self._by_key.popitem(last=False)
            else:
                self._by_key.move_to_end(key)
        return found.result() if found is not None else self._made(key, mine, make)

    def _made(self, key: K, mine: Future[V], make: Callable[[], V]) -> V:
        try:
            mine.set_result(make())
        except BaseException as trouble:
            with self._lock:
                if self._by_key.get(key) is mine:
                    del self._by_key[key]
            mine.set_exception(trouble)
            raise
        return mine.result()

    def clear(self) -> None:
        """Let all go."""
        with self._lock:
            self._by_key.clear()


_EVERYWHERE: WeakSet[Kept[Any, Any]] = WeakSet()


def forget_everything() -> None:
    """Let go of all that is kept anywhere, for a benchmark to begin afresh."""
    for kept in list(_EVERYWHERE):
        kept.clear()
