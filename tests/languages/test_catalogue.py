"""The one catalogue: whole, and laid in by one command."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import polib
import pytest

from tests.languages.pseudo import TEMPLATE, pseudo, write_pseudo

ROOT = Path(__file__).parents[2]


def ran(*asked: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run([sys.executable, *asked], cwd=ROOT, capture_output=True, text=True, check=False)


def test_every_sentence_is_in_the_catalogue_and_none_that_nobody_says():
    done = ran("scripts/gather_words", "--check")
    assert done.returncode == 0, done.stdout[:3000] + done.stderr[-2000:]


def test_it_is_one_file_that_translators_tools_read():
    entries = polib.pofile(str(TEMPLATE), encoding="utf-8")
    assert len({entry.msgid for entry in entries}) == len(entries) > 6000
    assert all(entry.occurrences for entry in entries)
    assert not [
        entry.msgid for entry in entries if "SELECT" in entry.msgid or ("⦃" in entry.msgid and "⦄" not in entry.msgid)
    ]


@pytest.mark.parametrize("text", ["Opens at {hour}", "held ⦃4 hours⦄", "<b>Mind</b> the {part}"])
def test_the_made_up_language_keeps_values_and_marks(text: str):
    other = pseudo(text)
    assert other != text
    assert all(mark in other for mark in ("{hour}", "⦃4 hours⦄", "<b>", "{part}") if mark in text)


def test_a_file_without_its_languages_name_is_refused(tmp_path: Path):
    write_pseudo(tmp_path / "no.po", language="")
    done = ran("scripts/make_language", str(tmp_path / "no.po"))
    assert done.returncode == 2
    assert "write the language's code there" in done.stderr


def test_the_command_line_refuses_a_language_that_is_not_there():
    done = ran("-m", "drylamp.cli", "--language", "tlh", "doctor")
    assert done.returncode == 2
    assert "known: en" in done.stderr
    assert done.stderr.count("\n") == 1


def test_the_command_line_speaks_a_language_from_its_first_word_on(tmp_path: Path):
    write_pseudo(tmp_path / "words.po")
    (tmp_path / "static").mkdir()
    (tmp_path / "static" / "index.html").write_text("<!doctype html>", encoding="utf-8")
    done = ran("-m", "drylamp.cli", "--language", str(tmp_path), "sum", "no-such-sum", "a=1")
    assert done.returncode == 2
    assert pseudo("is not known") in done.stderr or pseudo("known") in done.stderr or "ķñóŵñ" in done.stderr, (
        done.stderr
    )
