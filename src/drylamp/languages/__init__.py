"""The program in other words: one catalogue file (gettext's .po) for each language, laid over the sources as they are loaded.

A sentence stays where it is written, in English, and is its own key. ``prose`` tells which texts of a source are sentences,
``catalogue`` reads and writes the file, ``loader`` compiles a source with the sentences of a language in it. In English
nothing of this is loaded. The front end does the same while it is built (frontend/words).
"""

from __future__ import annotations

import os
from pathlib import Path

LANGUAGE = "DRYLAMP_LANGUAGE"
"""In the environment, so that worker processes speak it, too: the folder of a language (``words.po`` and ``static/``)."""
ROOM = Path(__file__).parent
WORDS, PAGES = "words.po", "static"


class LanguageProblem(ValueError):
    """A language that cannot be spoken; the text says why, what there is and what to do."""


def folder_of(wanted: str) -> Path | None:
    """The folder of a language by its name or its path; None: English.

    Raises LanguageProblem where it is not there or is not built.
    """
    if wanted == "en":
        return None
    folder = Path(wanted) if os.sep in wanted else ROOM / wanted
    if not (folder / WORDS).is_file():
        known = ", ".join(["en", *sorted(p.parent.name for p in ROOM.glob(f"*/{WORDS}"))])
        raise LanguageProblem(f"'{wanted}' is no language that is here; known: {known}. `make language` lays in one")
    if not (folder / PAGES / "index.html").is_file():
        raise LanguageProblem(f"the pages of '{wanted}' are not built; run `make language PO={folder / WORDS}`")
    return folder


def spoken() -> Path | None:
    """The folder of the language that this process speaks; None: English."""
    named = os.environ.get(LANGUAGE)
    return Path(named) if named else None


def pages_of(english: Path) -> Path:
    """Where the built pages of the language are."""
    folder = spoken()
    return english if folder is None else folder / PAGES


def in_words(text: str) -> str:
    """A text of a table in the language that is spoken; itself where it has no other."""
    folder = spoken()
    if folder is None:
        return text
    from drylamp.languages.catalogue import read

    return read(folder / WORDS).get(text, text)


def speak() -> None:
    """Lay the language of the environment over whatever is loaded from now on."""
    folder = spoken()
    if folder is not None:
        from drylamp.languages.catalogue import by_source
        from drylamp.languages.loader import lay_over

        lay_over(by_source(folder / WORDS))
