"""What is told of a sum over the wire: what its fields are called, and a curve of it."""

from __future__ import annotations

from drylamp.core.checks import Model

Value = float | str
"""A number, or a time or day as text."""


class SumField(Model):
    """What an input or an answer of a sum is called, and its unit where that is the same for everybody."""

    words: str
    unit: str


class SumCurve(Model):
    """A sum's answer over one of its inputs.

    Attributes:
        at: the input at each point, as it would be typed
        answers: the answer at each; none where the sum refuses it
        given: the other inputs as they are in the example, where nobody typed them; files left out
        here: place on ``at`` of what was typed, 0 at the first and 1 at the last; none where nothing was, or it lies outside
    """

    over: str
    shows: str
    at: list[Value]
    answers: list[float | None]
    given: dict[str, Value]
    here: float | None
