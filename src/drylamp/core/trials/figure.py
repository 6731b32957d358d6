"""A figure that a trial yields, and what has been worked out of a trial before its figures are drawn up."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.checks import Model
from drylamp.core.trials.beside import Beside
from drylamp.core.trials.compare import Comparison
from drylamp.core.trials.finishes import WallLine
from drylamp.core.trials.rounds import Fading, Ranking


class Figure(Model):
    """A figure with its doubt; ``twin`` is the same figure from the twin, ``passed`` against a goal or a published limit."""

    name: str
    title: str
    value: float | None
    doubt: float | None
    unit: str
    twin: float | None
    grade: str
    words: str
    passed: bool | None = None
    digits: int = 0


@dataclass(frozen=True)
class Found:
    """What has been worked out of a trial before its figures are drawn up."""

    at: Beside
    control: Comparison | None
    ranking: Ranking | None
    fadings: list[Fading]
    walls: list[WallLine]
