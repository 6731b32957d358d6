"""Journeys with loops, from the question to the decision."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui
PERGOLA, TUB, POOL, KETTLE = 12, 13, 14, 15
AUTUMN = 14
"""The trial of last autumn."""


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


def test_the_garden_pools_autumn_is_judged_by_its_log(working: Driver, axe_source: str):
    """Days won in fact against the same weather without the loop; the hour meter gives the timer away; then how many coils three weeks more would take."""
    working.open(f"/builds/{POOL}/verdict?trial={AUTUMN}")
    working.sees(re.compile(r"on the same weather without the loop it would have been on \d+: \d+ days won \(± \d+\)"))
    working.sees(re.compile(r"The pump ran \d+(\.\d)? h less than its switch should have let it"))
    working.page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []
    working.open(f"/builds/{POOL}/forecast")
    working.button("Coils for so much warmer water").click()
    working.type_into("Warmer by", "2 K")
    working.sees(re.compile(r"more than without the loop after 3 weeks"))
    expect(working.page.get_by_role("row", name=re.compile("^1 coil"))).to_be_visible()
    assert working.axe(axe_source) == []


def test_the_field_kettle_makes_tea_at_ten_and_at_four(working: Driver, axe_source: str):
    """Full to the brim it is late for both; half full, at the steep notch in the morning and the flat one in the afternoon, it is in time. The holder must not be of PLA."""
    working.open(f"/builds/{KETTLE}/forecast")
    working.sees(re.compile("Put out at 08:30 it is late"))
    expect(working.page.get_by_role("table", name="each filling")).to_be_visible()
    working.button("When to put it out, and how to set it up").click()
    working.sees(re.compile("By 10:00 it will not be 95 °C on this day"))
    working.button("At each notch, around noon").click()
    expect(working.page.get_by_role("table", name="minutes by the month").get_by_role("row")).to_have_count(13)
    working.button("What it would take").click()
    working.sees(re.compile("A kitchen kettle of 2000 W takes"))
    working.page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []
    working.open(f"/builds/{KETTLE}/make")
    working.part(re.compile("^Water$"))
    before = working.headline("forecast")
    working.type_into("Water in it", "0.45 l")
    working.waits_until_headline_changes("forecast", before)
    working.stage("forecast")
    working.button("When to put it out, and how to set it up").click()
    working.sees(re.compile(r"For 10:00 put it out by 0\d:\d\d, facing E, at 60°, wings open \d+°"))
    working.sees(re.compile(r"For 16:00 put it out by 1\d:\d\d, facing SW, at 20°"))
    working.sees(re.compile("Printed part, PLA of the holder at the mouth reaches"))
    working.stage("make")
    working.part(re.compile("^Stopper and holder$"))
    working.page.get_by_label("Holder at the mouth").select_option("Printed part, polycarbonate")
    working.stage("forecast")
    expect(working.page.get_by_text(re.compile("Printed part, PLA"))).to_have_count(0)
    working.stage("next")
    working.sees("Which notch?")
    working.sees("Vacuum tubes work as well in winter")
    assert working.axe(axe_source) == []
