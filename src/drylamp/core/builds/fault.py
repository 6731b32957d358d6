"""What can break on a build: the same build with it broken, so that a trial can be held against it, and a repair against the money."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Generic, TypeVar

from drylamp.core.builds.build import Build

B = TypeVar("B", bound=Build)


@dataclass(frozen=True)
class Fault(Generic[B]):
    """Something that breaks.

    Attributes:
        name, part: its own name, and the part of the drawing
        title: what is said of it, as "the outer film is torn"
        shows: by what one knows it
        cure, price, hours: what is done about it, and what that takes; from memory
        broken: the build with it; none where the build has nothing that could break so
    """

    name: str
    part: str
    title: str
    shows: str
    cure: str
    price: float
    hours: float
    broken: Callable[[B], B | None]


def broken_by(build: B, faults: Iterable[Fault[B]]) -> B:
    """A build with one thing after another broken on it, as far as it has them."""
    for fault in faults:
        build = fault.broken(build) or build
    return build
