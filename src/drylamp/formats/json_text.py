"""JSON text on its way in: refused before it is parsed where it is nested too deep for any reader."""

from __future__ import annotations

import re

from drylamp.core.checks import InputProblem

DEEPEST = 60
"""Levels of lists and objects; the deepest file of the product has about ten."""
_STRING = re.compile(r'"(?:[^"\\]|\\.)*"', re.DOTALL)
_BRACKET = re.compile(r"[\[\]{}]")


def check_depth(text: str) -> None:
    """Refuse JSON text that is nested too deep.

    Raises:
        InputProblem: it is; the sentence says how deep it may be.
    """
    if text.count("[") + text.count("{") <= DEEPEST:
        return
    depth = 0
    for bracket in _BRACKET.finditer(_STRING.sub("", text)):
        depth += 1 if bracket.group() in "[{" else -1
        if depth > DEEPEST:
            raise InputProblem("", f"it is nested deeper than {DEEPEST} levels; send it flatter")
