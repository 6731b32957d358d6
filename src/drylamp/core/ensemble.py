"""Many alike pieces of work on whatever executor one has: threads, processes, or a cluster's.

Anything that is a ``concurrent.futures.Executor`` will do. No more pieces are begun than are waited for, so that stopping costs little; whoever stops
looking (closes the generator) calls off what has not begun.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import FIRST_COMPLETED, CancelledError, Executor, Future, wait
from typing import TypeVar

P = TypeVar("P")
R = TypeVar("R")
TRIES = 3
"""A piece whose worker was lost is begun again so often."""
LOST = (CancelledError, BrokenPipeError, ConnectionError, EOFError)
"""What a lost worker shows as, beside what an executor has of its own for it."""


def in_order(executor: Executor, work: Callable[[P], R], pieces: Iterable[P], at_once: int) -> Iterator[R]:
    """Results in the order of the pieces, as soon as each is there."""
    waiting: list[Future[R]] = []
    left = iter(pieces)
    try:
        while True:
            while len(waiting) < at_once and (piece := next(left, _NOTHING)) is not _NOTHING:
                waiting.append(executor.submit(work, piece))  # type: ignore[arg-type]
            if not waiting:
                return
            yield waiting.pop(0).result()
    finally:
        for future in waiting:
            future.cancel()


_NOTHING = object()


def as_done(
    executor: Executor, work: Callable[[P], R], pieces: Iterable[P], at_once: int, is_loss: Callable[[BaseException], bool] = lambda error: False
) -> Iterator[tuple[P, R]]:  # fmt: skip
    """Each piece with its result, in whatever order they come; a piece whose worker is lost is begun again.

    Parameters
    ----------
    is_loss
        whether an executor's own exception means that a worker was lost, rather than that the work itself failed

    Raises
    ------
    Exception
        what the work raised, or the loss of a worker for the third time with one piece.
    """
    left, running, tries = iter(pieces), dict[Future[R], P](), dict[int, int]()
    again: list[P] = []
    try:
        while True:
            while len(running) < at_once:
                piece = again.pop() if again else next(left, _NOTHING)
                if piece is _NOTHING:
                    break
                running[executor.submit(work, piece)] = piece  # type: ignore[arg-type,assignment]
            if not running:
                return
            done, _ = wait(running, return_when=FIRST_COMPLETED)
            for future in done:
                piece = running.pop(future)
                try:
                    result = future.result()
                except BaseException as error:
                    tries[id(piece)] = tries.get(id(piece), 0) + 1
                    if not (isinstance(error, LOST) or is_loss(error)) or tries[id(piece)] >= TRIES:
                        raise
                    again.append(piece)
                else:
                    yield piece, result
    finally:
        for future in running:
            future.cancel()
