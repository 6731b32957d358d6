"""A catalogue: each English sentence and what it is in a language, as gettext's .po files hold them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from functools import cache
from pathlib import Path

import polib


@cache
def read(path: Path) -> Mapping[str, str]:
    """The sentences of a file by their English; those not yet translated are left out."""
    return {entry.msgid: entry.msgstr for entry in _entries(path)}


@cache
def by_source(path: Path) -> Mapping[str, Mapping[str, str]]:
    """The same by the file that says them: what is a sentence in one may be a name of code in another."""
    found: dict[str, dict[str, str]] = defaultdict(dict)
    for entry in _entries(path):
        for name, _ in entry.occurrences:
            found[name][entry.msgid] = entry.msgstr
    return found


@cache
def _entries(path: Path) -> list[polib.POEntry]:
    return [entry for entry in polib.pofile(str(path), encoding="utf-8") if entry.translated()]


def write(path: Path, language: str, entries: Iterable[polib.POEntry]) -> None:
    """A catalogue in the order of its sentences' English."""
    made = polib.POFile(wrapwidth=118)
    made.metadata = {
        "Project-Id-Version": "Dry Lamp",
        "Language": language,
        "MIME-Version": "1.0",
        "Content-Type": "text/plain; charset=UTF-8",
        "Content-Transfer-Encoding": "8bit",
    }
    made.extend(sorted(entries, key=lambda entry: entry.msgid))
    made.save(str(path))
