"""Journeys with loops, from the question to the decision."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui
PERGOLA, TUB, POOL = 12, 13, 14


def test_the_pergolas_barrel_stands_too_low_and_runs_backwards(working: Driver, axe_source: str):
    """Mornings are cold because it runs backwards at night; a valve stops it, and standing over the tubes does more."""
    working.open(f"/builds/{PERGOLA}/forecast")
    working.sees(re.compile(r"\d+ L ran backwards: raise the store, or fit a check valve"))
    expect(working.page.get_by_role("table", name="what the loop brings")).to_be_visible()
    assert working.axe(axe_source) == []
    working.open(f"/builds/{PERGOLA}/make")
    working.part(re.compile("^Water$"))
    working.page.get_by_role("checkbox", name="Check valve").check()
    working.waits_until_headline("forecast", r"\d+(\.\d)? L at 38 °C")
    working.stage("forecast")
    expect(working.page.get_by_text("ran backwards")).to_have_count(0)
    working.stage("make")
    working.part(re.compile("^Water$"))
    working.type_into("Store's bottom over the coil's lower edge", "1.4 m")
    working.waits_until_headline("forecast", r"[3-9]\d(\.\d)? L at 38 °C")
    expect(working.page.locator('svg [data-part="load"]')).to_have_count(8)  # lagging, five layers, two pipes
    assert working.axe(axe_source) == []


def test_the_plunge_tub_is_warm_for_saturday_with_a_cover(working: Driver, axe_source: str):
    """Bare it never gets there; a cover wins over a second coil, and then it has to start on a day that one can tell."""
    working.open(f"/builds/{TUB}/forecast")
    expect(working.page.get_by_role("table", name="where the water's heat goes")).to_be_visible()
    working.button("When the loop has to start").click()
    working.sees(re.compile("Even with the loop running from today on it is only 3\\d °C"))
    assert working.axe(axe_source) == []
    working.open(f"/builds/{TUB}/next")
    working.sees("Once it is warm: a cover first, or another coil?")
    working.sees(re.compile("a bubble film over night is worth"))
    working.open(f"/builds/{TUB}/make")
    working.sees(re.compile("pump (runs|stands)"))
    working.part(re.compile("^Water$"))
    working.button("Put one on: cover").click()
    working.waits_until_headline("forecast", r"3\d °C at 19:00")
    working.stage("forecast")
    working.button("When the loop has to start").click()
    working.sees(
        re.compile(r"For 34 °C on Saturday 14 June at 19:00 it has to start on \w+ 1\d June at 1\d:\d\d at the latest")
    )
    working.button("How to cool it by night").click()
    working.sees(re.compile(r"uncovered, the pump sends it under the sky"))
    working.button("Month by month, beside a controller").click()
    working.sees(re.compile("A switch by two temperatures"))
    working.button("What it would take").click()
    working.sees(re.compile("would bring all of it to boiling"))
    working.page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []


def test_the_garden_pool_is_told_its_season(working: Driver, axe_source: str):
    """Days that two hundred metres of hose win, when to set them out and to stow them, what one more coil adds, and electricity beside it."""
    working.open(f"/builds/{POOL}/forecast")
    working.button("Days of the year that it wins").click()
    working.sees(
        re.compile(
            r"on \d+ days of the year by itself, with the loop on \d+ \(\d+ to \d+ by the year\), for \d+ kWh of electricity"
        )
    )
    working.sees(re.compile(r"Set it out about \d\d \w+, stow it about \d\d \w+"))
    expect(working.page.get_by_role("row", name=re.compile("one more coil"))).to_be_visible()
    expect(working.page.get_by_role("group", name=re.compile("days at 24 °C or more by the month"))).to_be_visible()
    assert working.axe(axe_source) == []
