"""A figure that a trial yields, and what has been worked out of a trial before its figures are drawn up."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.checks import Model, YesNo
from drylamp.core.quantities import Quantity
from drylamp.core.text import Sentence
from drylamp.core.trials.beside import Beside
from drylamp.core.trials.compare import Comparison
from drylamp.core.trials.finishes import WallLine
from drylamp.core.trials.rounds import Fading, Ranking


class Figure(Model):
    """A figure with its doubt; ``twin`` is the same figure from the twin, ``passed`` against a goal or a published limit.

    ``fault`` names what these readings show to be wrong by themselves, whatever a fit of the twin would say, and ``cure`` what to do about it.
    ``brief`` is what it comes to, at a glance.
    ``needs_words`` where the number alone says too little.
    ``unit`` is written beside a plain number that no unit of a person's own choice is for, such as a published figure of merit.
    """

    name: str
    title: Sentence
    value: float | None
    doubt: float | None
    quantity: Quantity
    unit: str = ""
    twin: float | None
    grade: Sentence
    words: Sentence
    brief: Sentence = ""
    passed: YesNo | None = None
    digits: int = 0
    fault: Sentence = ""
    cure: Sentence = ""
    needs_words: YesNo = False


@dataclass(frozen=True)
class Found:
    """What has been worked out of a trial before its figures are drawn up."""

    at: Beside
    control: Comparison | None
    ranking: Ranking | None
    fadings: list[Fading]
    walls: list[WallLine]
