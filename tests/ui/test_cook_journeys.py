"""Four days at the terrace with ovens and wax, each with its own objects and numbers, each ending in a decision."""

from __future__ import annotations

import json
import re
import urllib.request
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from drylamp.core.twin.calibration import Calibration
from drylamp.instruments.logger import Posting, Truth, run_logger
from tests.ui.clocked import Clock, clocked_yard
from tests.ui.conftest import drive
from tests.ui.driver import Driver, HeldBack, at_last

pytestmark = pytest.mark.ui
LONG = 240_000
WHAT = re.compile("^What (goes in|stands at the focus)$")


@pytest.fixture
def yard(browser: Browser, tmp_path: Path) -> Iterator[tuple[Driver, Clock]]:
    with clocked_yard(tmp_path, pace=0.1) as (url, clock):
        for driver in drive(browser, url, expected_errors=True):
            yield driver, clock


def get(driver: Driver, path: str) -> dict:
    with urllib.request.urlopen(driver.url + path, timeout=90) as answer:
        return json.load(answer)


def begin(driver: Driver, title: str) -> int:
    """Begin a build from one of the doors; its number."""
    driver.open("/sites/1/new")
    driver.begin_with(title)
    expect(driver.page).to_have_url(re.compile(r"/builds/\d+/make"))
    return int(re.search(r"/builds/(\d+)/", driver.page.url).group(1))


def start_trial(driver: Driver, protocol: str, name: str) -> int:
    driver.stage("trials")
    driver.button("Start a trial").click()
    driver.page.get_by_label("Protocol", exact=True).select_option(label=protocol)
    driver.page.get_by_label("Name").fill(name)
    driver.button("Start the clock").click()
    expect(driver.page).to_have_url(re.compile(r"/trials/\d+"))
    return int(driver.page.url.split("/trials/")[1].split("?")[0])


def log(driver: Driver, trial: int, minutes: float, truth: Truth) -> None:
    """The stand-in logger, ten minutes of readings at a time and as fast as it can."""
    token = get(driver, f"/api/trials/{trial}")["token"]
    said: list[str] = []
    run_logger(driver.url, trial, token, Posting(speed=1e6, every_s=300.0, minutes=minutes), truth, said.append)
    assert "acknowledged" in said[-1]


def choose(driver: Driver, label: str, title: str) -> None:
    driver.page.get_by_label(label, exact=True).select_option(label=title)


def test_a_workshop_day_with_two_portions_and_a_control(yard: tuple[Driver, Clock]):
    """Card boxes with film, one foil flap, black floor; the flap is turned until the patch lies on both."""
    driver, clock = yard
    page = driver.page
    clock.put(datetime.fromisoformat("2025-06-14T11:30:00+02:00"))
    build = begin(driver, "Card box with film")
    driver.waits_until_headline("make", "1 pane, 1 mirror")
    driver.part(WHAT)
    expect(page.get_by_role("group", name="Portions")).to_be_visible()
    choose(driver, "What", "Marshmallow on a biscuit")
    driver.type_into("How much", "30 g")
    driver.type_into("Place from the front", "80")
    driver.button("second portion", exact=True).click()
    choose(driver, "What", "Marshmallow on a biscuit")
    driver.type_into("How much", "30 g")
    driver.type_into("Place from the front", "20")
    driver.sees("1 first portion")

    driver.stage("aim")
    driver.sees("Point it at 11:30 without looking at the sun")
    driver.button("Turn it to the sun").click()
    driver.sees("It faces the sun.")

    driver.stage("make")
    driver.part("Mirrors")
    driver.type_into("Angle to the opening", "85")
    driver.sees(
        re.compile(r"first portion lies in the patch with .* suns, second portion gets .*: turn the flap or move it")
    )

    driver.stage("aim")
    best = page.get_by_role("button", name=re.compile(r"^Set \d+° for now$"))
    expect(best).to_be_visible()
    best.click()
    driver.stage("make")
    driver.sees("Everything on the tray gets about the same light.")

    # a portion is dragged to another place on the tray
    at_the_left = page.get_by_label("Place from the left", exact=True)
    driver.part(WHAT)
    driver.button("second portion", exact=True).click()
    expect(at_the_left).to_have_value("75")
    spot = page.locator("[data-spot='portion-two']")
    where = spot.bounding_box()
    light = HeldBack(page, "**/api/twin/patch*")
    driver.drags(spot, -40, -15, lambda: at_the_left.input_value() != "75")
    driver.waits_until(lambda: len(light.asked) > 0)
    there = at_last(page, spot.bounding_box)
    assert abs(there["x"] - where["x"] + 40) < 4, "it stays where it was laid until its light has come"
    light.let_go()
    driver.undo().click()
    expect(at_the_left).to_have_value("75")

    # eggs are warned off, and taken out again
    driver.part(WHAT)
    driver.button("Put a pot in instead").click()
    expect(page.get_by_label("Food", exact=True)).to_be_visible()
    choose(driver, "Food", "Egg dish")
    driver.stage("forecast")
    driver.sees(re.compile(r"Egg dish: 71 °C in the thickest part, read with a probe"))
    driver.stage("make")
    driver.undo().click()
    driver.undo().click()
    driver.part(WHAT)
    expect(page.get_by_role("group", name="Portions")).to_be_visible()

    trial = start_trial(driver, "Portions and a control", "Marshmallows before lunch")
    log(driver, trial, 45, Truth(calibration=Calibration(optical=0.9), noise_k=0.3, seed=3))
    clock.on(minutes=46)
    page.reload()
    driver.button("End the trial").click()
    driver.open(f"/builds/{build}/verdict?trial={trial}")
    driver.sees("Portions melted")
    driver.sees(re.compile("first portion (melted|soft|unchanged)"))

    driver.stage("next")
    expect(page.get_by_role("heading", name=re.compile("^Weakest link|^No single change"))).to_be_visible(timeout=LONG)
    decision = page.get_by_role("button", name=re.compile("^Try it: ")).first
    decision.click()
    expect(driver.undo()).to_be_visible()
    assert get(driver, f"/api/builds/{build}")["undoes"]


def test_the_folding_funnel_and_a_loaf_while_the_cook_is_away(yard: tuple[Driver, Clock]):
    """Black lid or clear, thin tin or heavy pot, aimed by shadow; the loaf is first looked at when the twin says."""
    driver, clock = yard
    page = driver.page
    clock.put(datetime.fromisoformat("2025-06-13T10:20:00+02:00"))
    driver.open("/builds/6/make")
    driver.waits_until_headline("make", "cone of one sheet")
    driver.part(WHAT)
    expect(page.get_by_label("Food", exact=True)).to_have_value("tin-loaf")
    driver.sees("Today with this")
    light = driver.headline("forecast")
    choose(driver, "Kind of pot", "Cast-iron pot")
    driver.waits_until_headline_changes("forecast", light)
    driver.sees(re.compile("Last change"))
    driver.undo().click()
    driver.waits_until_headline("forecast", re.escape(light))

    driver.stage("next")
    expect(page.get_by_role("heading", name="Clear lid or black lid?")).to_be_visible(timeout=LONG)
    expect(page.get_by_role("heading", name="Thin pot or heavy pot?")).to_be_visible()
    expect(page.get_by_role("heading", name="Bag, bowl or bare?")).to_be_visible()

    driver.stage("aim")
    expect(page.get_by_role("img", name=re.compile("indicator: "))).to_be_visible()
    driver.sees(re.compile("Level: a 300 mm stick"))
    turned = page.get_by_role("row", name=re.compile("^every 120 min"))
    expect(turned).to_be_visible(timeout=LONG)
    driver.button("Turn it to the sun").click()
    driver.sees("It faces the sun.")

    driver.stage("forecast")
    driver.sees(re.compile("first look at the wheat loaf in a tin, not before; its crust is still pale"))
    driver.sees(re.compile("wheat loaf in a tin ready"))
    driver.button("When to start, how much, which months").click()
    choose(driver, "Wanted by", "14:30")
    expect(page.get_by_text(re.compile(r"Latest start \d\d:\d\d|No start gives a good chance"))).to_be_visible(
        timeout=LONG
    )


def test_a_dish_with_a_pressure_pot_for_the_harvest_crew(yard: tuple[Driver, Clock]):
    """What fits, turning by the indicator, eyes, upkeep, months of use."""
    driver, clock = yard
    page = driver.page
    clock.put(datetime.fromisoformat("2025-09-05T10:30:00+02:00"))
    driver.open("/builds/7/make")
    driver.waits_until_headline("make", "1400 mm across")
    driver.sees("Wash it before each use")
    driver.sees("Repaint the pot")
    driver.part(WHAT)
    driver.type_into("Pot across", "150 mm")
    driver.sees(re.compile("by more than two thirds; take less|does not fit a pot"))
    driver.type_into("How much", "4.5 kg")
    driver.type_into("Done after whistles", "8")
    driver.waits_until_headline("forecast", r"92 °C at \d\d:\d\d")

    driver.stage("aim")
    driver.sees(re.compile("the 100 mm pin, square to the opening"))
    spilt = page.get_by_text(re.compile(r"Spilt past the pot after turning: 0 min"))
    expect(spilt).to_be_visible(timeout=LONG)
    assert int(re.search(r"60 min (\d+) %", spilt.inner_text()).group(1)) > 80

    driver.stage("forecast")
    driver.sees(re.compile(r"Focus: about \d+ suns on a spot"))
    driver.sees(re.compile("follow the maker's own rules"))
    driver.sees("whistle number 8: cover or turn the dish away, pot into the shade")
    driver.sees("open it now at the earliest, and only when its pin has dropped")
    driver.button("When to start, how much, which months").click()
    choose(driver, "Wanted by", "13:30")
    expect(page.get_by_text(re.compile(r"Latest start 1\d:\d\d"))).to_be_visible(timeout=LONG)
    expect(page.get_by_text(re.compile(r"About \d+ days a year do it"))).to_be_visible(timeout=LONG)
    months = page.get_by_role("list", name="months").get_by_role("listitem")
    expect(months).to_have_count(12)


def test_a_grey_week_and_then_sun_for_the_cappings(yard: tuple[Driver, Clock]):
    """Melt today or wait; levelled and strained; kilos of clean wax by autumn."""
    driver, clock = yard
    page = driver.page
    clock.put(datetime.fromisoformat("2025-06-20T09:40:00+02:00"))
    driver.open("/builds/8/forecast")
    choose(driver, "Weather", "usual day, grey sky")
    driver.waits_until_headline("forecast", "wait for sun")
    driver.sees(re.compile(r"Wait: the heap gets to \d+ °C, and it melts from 62 °C"))
    choose(driver, "Weather", "usual day, clear sky")
    driver.waits_until_headline("forecast", r"1\.\d+ kg clean")
    driver.sees("set the melter level across, clean tray in, cloth in place")
    driver.unfold_cautions()
    driver.sees(re.compile("smother burning wax with a lid or a blanket, never with water"))

    driver.button("When to start, how much, which months").click()
    expect(page.get_by_text(re.compile(r"About \d+ days a year do it"))).to_be_visible(timeout=LONG)
    driver.type_into("Clean wax in what waits", "15 kg")
    expect(page.get_by_text(re.compile(r"About 15 kg of clean wax by 22 September: all of it"))).to_be_visible(
        timeout=LONG
    )

    trial = start_trial(driver, "Melt run", "First sun after the rain")
    log(driver, trial, 360, Truth(calibration=Calibration(leak=2.0), noise_k=0.3, seed=9))
    clock.on(minutes=361)
    page.reload()
    driver.button("End the trial").click()
    driver.open(f"/builds/8/verdict?trial={trial}")
    driver.sees("Clean wax")
    driver.sees(re.compile(r"twin 1\.\d+ kg"))
