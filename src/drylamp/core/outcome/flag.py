"""Something a person must know, with what to do about it."""

from __future__ import annotations

from typing import Literal

from drylamp.core.checks import Model
from drylamp.core.text import Sentence

Level = Literal["stop", "warn", "note"]


class Flag(Model):
    """Something a person must know, with what to do about it."""

    level: Level
    part: str
    text: Sentence
