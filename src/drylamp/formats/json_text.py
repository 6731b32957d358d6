"""JSON text on its way in: refused with its line and column where it is none, before it is read where it is nested without end."""

from __future__ import annotations

import math
import re
from typing import Any

from pydantic_core import from_json

from drylamp.core.checks import InputProblem, require

DEEPEST = 60
"""Levels of lists and objects; the deepest file of the product has about ten."""
_STRING = re.compile(r'"(?:[^"\\]|\\.)*"', re.DOTALL)
_BRACKET = re.compile(r"[\[\]{}]")
CONTROL = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f]")
"""What neither a screen, nor a sheet, nor a calendar can show; tabs and line ends may stand."""


def read_json(given: str | bytes, field: str = "", no_numbers: bool = False) -> Any:
    """Read JSON text; what it holds is not looked at.

    Args:
        no_numbers: NaN and Infinity may stand in it, as small loggers write them

    Raises:
        InputProblem: it is no JSON, or nested too deep.
    """
    try:
        text = given.decode("utf-8-sig") if isinstance(given, bytes) else given.lstrip("\ufeff")
    except UnicodeDecodeError as error:
        raise InputProblem(field, f"byte {error.start + 1} is no UTF-8; send the text as UTF-8") from None
    require(bool(text.strip()), field, "nothing was sent; send JSON")
    check_depth(text, field)
    try:
        return from_json(text.encode("utf-8", "surrogatepass"), allow_inf_nan=no_numbers)
    except ValueError as error:
        raise InputProblem(field, f"not JSON ({error})") from None


def check_depth(text: str, field: str = "") -> None:
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
            raise InputProblem(field, f"it is nested deeper than {DEEPEST} levels; send it flatter")


def check_content(found: Any, field: str = "") -> None:
    """Refuse what JSON can say and nobody can show: control characters, and numbers that overflow.

    Raises:
        InputProblem: there is one; the sentence says where.
    """
    waiting: list[tuple[str, Any]] = [(field, found)]
    while waiting:
        path, value = waiting.pop()
        if isinstance(value, str):
            check_line(value, path)
        elif isinstance(value, float):
            require(math.isfinite(value), path, "a number was given that is larger than all that can be reckoned with")
        elif isinstance(value, dict):
            for key, inner in value.items():
                check_line(key, path)
                waiting.append((f"{path}.{key}".strip("."), inner))
        elif isinstance(value, list):
            waiting += [(f"{path}.{k}".strip("."), inner) for k, inner in enumerate(value)]


def check_line(text: str, field: str) -> None:
    """Refuse control characters.

    Raises:
        InputProblem: there is one.
    """
    odd = CONTROL.search(text)
    if odd:
        raise InputProblem(field, f"has a control character (U+{ord(odd.group()):04X}) in it; take it out")
