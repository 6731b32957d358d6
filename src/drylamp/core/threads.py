"""Work that falls into independent parts, done two at a time: compiled code lets other threads run."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

A = TypeVar("A")
B = TypeVar("B")
AT_A_TIME = 2
"""As many as an old laptop has cores; each of them may hold a run in memory."""


def two_at_a_time(work: Callable[[A], B], items: Iterable[A]) -> list[B]:
    """Results in the order of the items; what one of them raises is raised."""
    with ThreadPoolExecutor(max_workers=AT_A_TIME) as both:
        return list(both.map(work, items))
