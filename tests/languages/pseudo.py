"""A language that nobody speaks: every letter changed, every sentence longer, so that what is not in the catalogue shows."""

from __future__ import annotations

import re
from pathlib import Path

import polib

from drylamp.languages import catalogue

ROOT = Path(__file__).parents[2]
TEMPLATE = ROOT / "src" / "drylamp" / "languages" / "words.pot"
PLAIN = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
OTHER = "áƀçđéƒğĥíĵķľɱñóþǫŕšťúṽŵẋýžÁƁÇĐÉƑĞĤÍĴĶĽṀÑÓÞǪŔŠŤÚṼŴẊÝŽ"
LETTERS = str.maketrans(PLAIN, OTHER)
KEPT = re.compile(r"(https?://[^\s{]+|\{\w+\}|<[^>]+>|⦃[^⦄]*⦄|%[a-zA-Z]|&\w+;)")
LONGER = 0.3
"""So much longer than English are sentences of many languages (common practice of translators)."""


def pseudo(text: str) -> str:
    """The same text in it: values and marks as they are."""
    other = "".join(piece if KEPT.fullmatch(piece) else piece.translate(LETTERS) for piece in KEPT.split(text))
    words = other.rstrip()
    pad = "·" * round(LONGER * len(KEPT.sub("", text))) if len(text.strip()) > 3 else ""
    return f"{words}{pad}{other[len(words) :]}"


def write_pseudo(path: Path, language: str = "el") -> None:
    """Its catalogue."""
    entries = [
        polib.POEntry(msgid=e.msgid, msgstr=pseudo(e.msgid), occurrences=e.occurrences)
        for e in polib.pofile(str(TEMPLATE), encoding="utf-8")
    ]
    catalogue.write(path, language, entries)
