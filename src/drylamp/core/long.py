"""Long answers: worked out step by step, each step with what is known so far, so that somebody may look, and stop."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Generic, TypeVar

M_co = TypeVar("M_co", covariant=True)


@dataclass(frozen=True)
class Step(Generic[M_co]):
    """How far it is, 0–1, and the answer as it stands."""

    share: float
    answer: M_co


Long = Iterator[Step[M_co]]
"""Steps, the last of them whole."""
