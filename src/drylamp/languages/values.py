"""What stands in the gaps of sentences, in the language that is spoken: names of days and months, and names of code that are words."""

from __future__ import annotations

import calendar
import re
from datetime import date

from drylamp.languages import WORDS, in_words, spoken

NAMES = {
    "%A": tuple(calendar.day_name), "%a": tuple(calendar.day_abbr), "%B": ("", *calendar.month_name[1:]), "%b": ("", *calendar.month_abbr[1:]),
}  # fmt: skip
"""English names by how a date's format asks for them: of weekdays from Monday on, of months from 1 on."""


def dated(when: date, how: str) -> str:
    """A date or time written as its format asks, with the names of the language."""

    def name(found: re.Match[str]) -> str:
        which = when.weekday() if found[0] in ("%A", "%a") else when.month
        return in_words(NAMES[found[0]][which]).replace("%", "%%")

    return format(when, re.sub(r"%[aAbB]", name, how))


def worded(value: object) -> object:
    """A name that code goes by as the language says it; anything else as it is."""
    return in_words(value) if isinstance(value, str) and value.isalpha() else value


def counted(number: int, thing: bytes) -> str:
    """A number of things in words, in the form that this number takes."""
    from drylamp.languages.catalogue import plurals

    folder, english = spoken(), thing.decode()
    if folder is not None:
        rule, forms = plurals(folder / WORDS)
        if known := forms.get(english):
            return f"{number} {known[min(rule(number), len(known) - 1)]}"
    said = in_words(english)
    return f"{number} {said}{'s' if said == english and number != 1 else ''}"
