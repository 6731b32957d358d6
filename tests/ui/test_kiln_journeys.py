"""Journeys with lumber kilns, from the question to the decision."""

from __future__ import annotations

import math
import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui
CHESTNUT, FILM = 21, 22
CHARGE = 19
"""The trial of the chestnut kiln's charge."""
LONG_CHART = "moisture of each group, the chamber's daily peaks, and the sun of each day"


def hot_wind(path: Path) -> Path:
    """Sixteen June days, a hot dry wind over the second week of them."""
    rows = ["time,ghi_w_m2,air_c,rh,wind_m_s"]
    for hour in range(-24, 24 * 16):
        day, at = divmod(hour, 24)
        sun = max(math.sin(math.pi * (at - 6.5) / 15.0), 0.0) * 880.0 if 6.5 < at < 21.5 else 0.0
        dry = 6 <= day < 13
        warm = (33.0 if dry else 22.0) + 7.0 * math.sin(math.pi * (at - 9.0) / 12.0)
        stamp = f"2025-06-{12 + day:02d}T{at:02d}:00:00+02:00"
        rows.append(f"{stamp},{sun:.0f},{warm:.1f},{0.12 if dry else 0.5},{7.0 if dry else 2.0}")
    path.write_text("\n".join(rows), encoding="utf-8")
    return path


def test_a_hot_dry_wind_in_the_second_week(working: Driver, axe_source: str, tmp_path: Path):
    """The daily loss passes the safe rate; what to shut, what it saves, who is at risk and why only those, what weights and end paint change; the finish moves, and the pull date with it."""
    working.open(f"/builds/{FILM}/forecast")
    expect(working.page.get_by_role("img", name=LONG_CHART)).to_be_visible(timeout=60_000)
    plain = working.page.get_by_text(re.compile(r"Dry after \d+ days in usual weather")).text_content()
    working.page.locator('input[type="file"]').set_input_files(hot_wind(tmp_path / "hot wind.csv"))
    working.sees(re.compile("With the weather that was brought that is"))
    moved = working.page.get_by_text(re.compile(r"Dry after \d+ days in usual weather")).text_content()
    assert moved != plain
    working.button("What shutting and opening do").click()
    working.sees(re.compile(r"the loss of a day comes to \d\.\d times the safe rate: European oak"))
    working.sees(
        re.compile(r"European oak of 27 mm loses .* in a day where 2\.\d % is safe: water comes to its face too slowly")
    )
    working.sees(re.compile("for Scots pine of 27 mm no safe rate is published"))
    working.sees(re.compile("take the cup of .* from .* to .*; wax on its ends saves"))
    table = working.page.get_by_role("table", name="vents today")
    expect(table.get_by_role("row")).to_have_count(5)  # head, as it is, shut, a third, wide open
    working.page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []
    before = working.headline("forecast")
    table.get_by_role("button", name="Try it: vents shut").click()
    working.waits_until_headline_changes("forecast", before)
    working.sees(re.compile(r"Pull Scots pine of 27 mm about \d\d \w+, when pins"))


def test_chestnut_and_poplar_together(working: Driver, axe_source: str):
    """The thin group out in June, the thick one stays; one skin or two; kiln against the stack under the eaves; sizes to saw for next time."""
    working.open(f"/builds/{CHESTNUT}/forecast")
    expect(working.page.get_by_role("img", name=LONG_CHART)).to_be_visible(timeout=60_000)
    working.sees(re.compile("European poplar of 27 mm is ready .* before the last: take it out by itself"))
    working.sees(re.compile("the same boards outside stand at"))
    chart = working.page.get_by_role("img", name=LONG_CHART)
    said = working.page.get_by_text(re.compile("^Through a board on"))
    first = said.text_content()
    chart.hover(position={"x": 480, "y": 200})
    expect(said).not_to_have_text(str(first))
    expect(
        working.page.get_by_role("img", name=re.compile("sweet chestnut.*core .* shell", re.IGNORECASE))
    ).to_be_visible()
    working.button("Green sizes for these boards").click()
    expect(working.page.get_by_role("table", name="sizes to saw for").get_by_role("row")).to_have_count(3)
    working.page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []
    working.stage("make")
    working.part(re.compile("^Boards$"))
    poplar = working.page.get_by_label("Out on").nth(1)
    before = working.headline("forecast")
    poplar.fill("2025-06-12")
    working.waits_until_headline_changes("forecast", before)
    expect(
        working.page.locator("svg title", has_text=re.compile(r"sweet chestnut 54 mm, \d+ % moisture")).first
    ).to_be_attached()
    assert working.axe(axe_source) == []
    working.stage("next")
    working.sees("One skin or two?")
    working.sees("Vents shut early, or open?")


def test_the_meter_narrows_when_it_is_dry(looking: Driver, axe_source: str):
    looking.open(f"/builds/{CHESTNUT}/verdict?trial={CHARGE}")
    looking.sees(re.compile(r"All dry by \d\d \w+ \(.* in nine cases of ten\)|Not all dry by"))
    looking.sees(re.compile(r"the boards dry 0\.\d\d times as fast as their species"))
    looking.sees(re.compile(r"Sweet chestnut of 54 mm shows [\d.]+ %; the twin says"))
    assert looking.axe(axe_source) == []
