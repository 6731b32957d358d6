"""What a person reads: sentences written out in the first unit of each quantity, from the core or from the wire."""

from __future__ import annotations

from drylamp.core.text import marked, plain


def read(sentence: object) -> str:
    return plain(marked(sentence))
