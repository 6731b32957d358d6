"""Finding things by what somebody types of them: each word begins a word of theirs, or is nearly one."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Iterable
from difflib import SequenceMatcher
from typing import TypeVar

T = TypeVar("T")
NEARLY = 0.78
"""A typed word that is so like another is that one, mistyped; from memory."""
SHORTEST_MISTYPED = 4


def words_of(text: str) -> list[str]:
    """Lower-case words without accents."""
    plain = unicodedata.normalize("NFKD", text.lower())
    return re.findall(r"[a-z0-9]+", "".join(c for c in plain if not unicodedata.combining(c)))


def _meets(typed: str, word: str) -> float:
    if word.startswith(typed):
        return 1.0 if word == typed else 0.9
    if len(typed) < SHORTEST_MISTYPED:
        return 0.0
    like = SequenceMatcher(None, typed, word[: len(typed) + 1]).ratio()
    return 0.6 * like if like >= NEARLY else 0.0


def score(query: str, title: str, more: str = "") -> float:
    """How well a thing is meant, 0–1; nothing where one of the typed words is none of its own. Words of its title count double."""
    asked, in_title, beside = words_of(query), words_of(title), words_of(more)
    if not asked:
        return 0.0
    total = 0.0
    for typed in asked:
        here = max((_meets(typed, word) for word in in_title), default=0.0)
        there = 0.5 * max((_meets(typed, word) for word in beside), default=0.0)
        if here == there == 0.0:
            return 0.0
        total += max(here, there)
    begins = 0.1 if in_title[: len(asked)] == asked else 0.0
    return min(total / len(asked) * 0.9 + begins, 1.0)


def best(query: str, things: Iterable[T], text: Callable[[T], tuple[str, str]], most: int) -> list[T]:
    """The things that are meant, the likeliest first; those alike stay in their order."""
    found = [(score(query, *text(thing)), thing) for thing in things]
    return [thing for value, thing in sorted(found, key=lambda pair: -pair[0]) if value > 0.0][:most]
