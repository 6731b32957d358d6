"""A catalogue: each English sentence and what it is in a language, as gettext's .po files hold them."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import cache
from gettext import c2py
from pathlib import Path

import polib


@cache
def read(path: Path) -> Mapping[str, str]:
    """The sentences of a file by their English; those not yet translated are left out."""
    return {entry.msgid: _said(entry) for entry in _entries(path)}


@cache
def by_source(path: Path) -> Mapping[str, Mapping[str, str]]:
    """The same by the file that says them: what is a sentence in one may be a name of code in another."""
    found: dict[str, dict[str, str]] = defaultdict(dict)
    for entry in _entries(path):
        for name, _ in entry.occurrences:
            found[name][entry.msgid] = _said(entry)
    return found


def _said(entry: polib.POEntry) -> str:
    """What it is in the language; of something that is counted, what one of it is."""
    return str(entry.msgstr or entry.msgstr_plural.get(0, ""))


@cache
def plurals(path: Path) -> tuple[Callable[[int], int], Mapping[str, Sequence[str]]]:
    """Which form a number takes, by the rule at the file's head, and the forms of what is counted by its English."""
    rule = RULE.search(_file(path).metadata.get("Plural-Forms", ""))
    forms = {e.msgid: [e.msgstr_plural[i] for i in sorted(e.msgstr_plural)] for e in _entries(path) if e.msgid_plural}
    return c2py(rule[1] if rule else ENGLISH_RULE), forms


@cache
def _entries(path: Path) -> list[polib.POEntry]:
    return [entry for entry in _file(path) if entry.translated()]


@cache
def _file(path: Path) -> polib.POFile:
    return polib.pofile(str(path), encoding="utf-8")


ENGLISH_RULE = "n != 1"
RULE = re.compile(r"plural=([^;]+)")


def write(path: Path, language: str, entries: Iterable[polib.POEntry]) -> None:
    """A catalogue in the order of its sentences' English."""
    made = polib.POFile(wrapwidth=118)
    made.metadata = {
        "Project-Id-Version": "Dry Lamp",
        "Language": language,
        "MIME-Version": "1.0",
        "Content-Type": "text/plain; charset=UTF-8",
        "Content-Transfer-Encoding": "8bit",
        "Plural-Forms": f"nplurals=2; plural=({ENGLISH_RULE});",
    }
    made.extend(sorted(entries, key=lambda entry: entry.msgid))
    made.save(str(path))
