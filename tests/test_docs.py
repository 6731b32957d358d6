"""The documents are true: every sum, command, screenshot and table is named where it should be."""

import importlib.machinery
import importlib.util
import json
import re
from pathlib import Path

import pytest

from drylamp.cli import main
from drylamp.core.sums.registry import SUMS

ROOT = Path(__file__).parent.parent
README = (ROOT / "README.md").read_text(encoding="utf-8")


def script(name: str):
    loader = importlib.machinery.SourceFileLoader(name, str(ROOT / "scripts" / name))
    module = importlib.util.module_from_spec(importlib.util.spec_from_loader(name, loader))
    loader.exec_module(module)
    return module


def test_the_sums_page_is_made_from_the_registry():
    assert (ROOT / "docs" / "sums.md").read_text(encoding="utf-8") == script("write_sums_page").page()


def test_every_command_is_in_the_readme():
    for name in main.commands:
        assert f"drylamp {name}" in README, name


def test_every_picture_is_linked_and_there():
    pictures = {p.name for p in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert 5 <= len(pictures) < 20
    assert {Path(link).name for link in re.findall(r"docs/screenshots/[\w-]+\.png", README)} == pictures


def test_every_page_that_is_linked_is_there():
    for page in [ROOT / "README.md", *(ROOT / "docs").rglob("*.md")]:
        for link in re.findall(r"\]\(([^)#:]+)\)", page.read_text(encoding="utf-8")):
            assert (page.parent / link).exists(), f"{page.name}: {link}"


def test_make_targets_of_the_readme_exist():
    makefile = (ROOT / "Makefile").read_text(encoding="utf-8")
    for target in re.findall(r"`make (\w+)`", README):
        assert f"\n{target}:" in makefile, target


@pytest.mark.parametrize(
    "name", ["requirements.lock", "requirements-dev.lock", "frontend/package-lock.json", "frontend/.npmrc"]
)
def test_locks_hold_no_addresses(name: str):
    text = (ROOT / name).read_text(encoding="utf-8")
    text = re.sub(
        r'"(url|funding)": ?"[^"]*"|"funding": ?\{[^}]*\}', "", text
    )  # authors' funding pages are no downloads
    assert not re.search(r"resolved\"|index-url|^registry", text)
    if name.endswith("lock") and "requirements" in name:
        assert "://" not in text
        assert "--hash=sha256:" in text


def test_lock_of_npm_is_whole():
    packages = json.loads((ROOT / "frontend" / "package-lock.json").read_text())["packages"]
    assert all("integrity" in row for path, row in packages.items() if path)


@pytest.mark.parametrize("sum_name", list(SUMS))
def test_every_sum_names_formula_source_and_words(sum_name: str):
    entry = SUMS[sum_name]
    assert entry.formula
    assert entry.source
    assert len(entry.words) >= 2
    assert entry.title[0].isupper()
