"""Which columns of the core's tables are read by a person."""

from __future__ import annotations

from collections.abc import Mapping

from drylamp.languages import in_words

WORDY_COLUMNS = {"title", "feel", "source"}
WORDY_PARTS = ("title", "name", "words")
"""Of a build to begin with."""


def row_in_words(row: Mapping[str, str]) -> dict[str, str]:
    """A row with what a person reads of it in the language that is spoken."""
    return {column: in_words(value) if column in WORDY_COLUMNS else value for column, value in row.items()}
