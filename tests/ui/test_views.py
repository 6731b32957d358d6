"""Views beyond what every page is asked: the strip, the lamp, keys, and a phone where it must fit."""

import re

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver, HeldBack, at_last

pytestmark = pytest.mark.ui


def test_home_leads_to_the_yard(looking: Driver):
    looking.open("/")
    looking.sees("What the yard can do today")
    assert looking.page.url.endswith("/sites/1/yard")
    looking.sees("read “Quick look before lunch”")


def test_a_pointer_goes_from_build_to_build_by_the_rack_and_each_says_its_own(looking: Driver):
    """Its answers come while the pointer is still over its name: by then the page of the one before is there."""
    page = looking.page
    looking.open("/builds/1/forecast")
    looking.sees("Plan of the day")
    rack = page.get_by_role("navigation", name="rack")
    for name in (
        "Tin lids",
        "Fig dryer",
        "Harvest dish",
        "Cappings melter",
        "Chestnut kiln",
        "Basin hose",
        "Field kettle",
        "Hatbox oven",
    ):
        link = rack.get_by_role("link", name=name)
        link.hover()
        page.wait_for_load_state("networkidle")
        link.click()
        expect(page.locator(".build-door")).to_contain_text(name)
        expect(page.get_by_role("img", name="temperatures through the day")).to_be_visible()
        looking.sees("Mind")


def test_a_verdict_is_never_shown_under_another_trials_name(looking: Driver):
    page = looking.page
    verdict = HeldBack(page, "**/api/trials/11/verdict*")
    looking.open("/builds/9/verdict?trial=8")
    looking.sees("Night loss")
    page.get_by_label("Trial", exact=True).select_option("11")
    looking.waits_until(lambda: len(verdict.asked) > 0)
    texts = page.get_by_text("Asking the twin"), page.get_by_text("Night loss")
    assert at_last(page, lambda: [text.count() for text in texts]) == [1, 0]
    verdict.let_go()
    looking.sees("Heat at the tap")


def test_unknown_addresses_say_so(looking: Driver):
    looking.page.goto(f"{looking.url}/no/such/view")
    looking.sees("There is no such view")


def test_every_chart_shares_the_strips_hours(looking: Driver):
    """The noon tick of the strip stands over the noon tick of the forecast."""
    looking.open("/builds/1/forecast")
    looking.sees("Plan of the day")
    strip = looking.page.get_by_role("slider", name="lamp").get_by_text("12:00").bounding_box()
    chart = looking.page.get_by_role("img", name="temperatures through the day").get_by_text("12:00").bounding_box()
    assert abs(strip["x"] + strip["width"] / 2 - chart["x"] - chart["width"] / 2) < 1.5


LAMP_AT = """
() => {
  const lamp = document.querySelector("[role=slider][aria-valuenow]");
  window.__at = [];
  new MutationObserver(() => window.__at.push(Number(lamp.getAttribute("aria-valuenow")))).observe(lamp, { attributeFilter: ["aria-valuenow"] });
}
"""


def test_the_lamp_never_jumps_back_while_the_address_follows(looking: Driver):
    looking.open("/builds/1/forecast")
    looking.page.evaluate(LAMP_AT)
    looking.page.keyboard.press("]")
    looking.waits_until(lambda: "at=" in looking.page.url)
    looking.page.keyboard.press("]")
    before = looking.page.url
    looking.waits_until(lambda: looking.page.url != before)
    looking.page.wait_for_load_state("networkidle")
    stood = looking.page.evaluate("window.__at")
    assert stood == sorted(stood), "an hour on, and an hour on again"
    assert stood[-1] - stood[0] == pytest.approx(60, abs=1)


def test_moving_the_lamp_moves_the_ledger(looking: Driver):
    looking.open("/builds/1/forecast")
    ledger = looking.page.get_by_role("heading", name=re.compile("^At "))  # other words may hold the hour too
    expect(ledger).to_contain_text("At 12:10")
    column = looking.page.get_by_label("hundred-watt column")
    before = column.inner_text()
    looking.page.keyboard.press("]")
    looking.page.keyboard.press("]")
    expect(ledger).to_contain_text("At 14:10")
    expect(column).not_to_have_text(before, use_inner_text=True)
    looking.waits_until(lambda: "at=" in looking.page.url)
    looking.page.reload()
    expect(ledger).to_contain_text("At 14:10")
    looking.page.keyboard.press("n")
    expect(ledger).to_contain_text("At 12:10")


def test_lamp_by_keyboard_alone(looking: Driver):
    looking.open("/builds/1/forecast")
    slider = looking.page.get_by_role("slider", name="lamp")
    before = int(slider.get_attribute("aria-valuenow"))
    slider.focus()
    slider.press("ArrowRight")
    slider.press("PageUp")
    expect(slider).to_have_attribute("aria-valuenow", str(before + 70))


def test_keys_walk_the_stages_and_days(looking: Driver):
    looking.open("/builds/1/forecast")
    looking.sees("Plan of the day")
    for key, text in (
        ("1", "Schools of tilt"),
        ("2", "Today with this"),
        ("4", "Trials of"),
        ("5", "How sure"),
        ("3", "Plan of the day"),
    ):
        looking.page.keyboard.press(key)
        looking.sees(text)
    looking.page.keyboard.press(".")
    looking.sees("Fri 13 Jun")
    looking.page.keyboard.press(",")
    looking.sees("Thu 12 Jun")
    looking.page.keyboard.press("?")
    looking.sees("undo what was done last")


def test_every_control_can_be_reached_by_tab(looking: Driver):
    looking.open("/builds/1/make")
    looking.sees("Today with this")
    reached = set()
    for _ in range(80):
        looking.page.keyboard.press("Tab")
        reached.add(
            looking.page.evaluate(
                "document.activeElement.innerText || document.activeElement.getAttribute('aria-label')"
            )
        )
    assert {"Cover", "Mirrors", "What goes in", "2"} <= reached
    assert any(str(name).startswith("lamp") for name in reached)


def test_fahrenheit_and_inches_everywhere(looking: Driver):
    looking.open("/builds/1/forecast")
    looking.sees("90 °C at 13:")
    looking.button("Units").click()
    looking.button("inch-pound").click()
    looking.page.keyboard.press("Escape")
    looking.sees(re.compile(r"194 °F at 13:"))
    page_text = looking.page.get_by_role("main").inner_text()
    assert [line for line in page_text.splitlines() if "°C" in line] == []
    looking.stage("make")
    looking.sees("Today with this")
    expect(looking.page.get_by_label("Thickness", exact=True)).to_have_value("0.1575")
    looking.stage("verdict")
    looking.sees("How sure")
    text = looking.page.get_by_role("main").inner_text()
    assert "°C" not in text
    assert re.search(r"\d+ °F", text)


def test_month_switch(looking: Driver):
    looking.open("/builds/1/forecast")
    looking.page.get_by_role("button", name=re.compile("Dec$")).click()
    looking.sees("Mon 15 Dec")
    looking.sees(re.compile(r"short of 90 °C"))
    looking.sees("Stop.")


def test_forecast_as_numbers(looking: Driver):
    looking.open("/builds/1/forecast")
    looking.button("as numbers").click()
    table = looking.page.get_by_role("region", name="temperatures by the hour")
    expect(table.get_by_role("row")).to_have_count(26)


def test_southern_site_faces_north(looking: Driver):
    looking.open("/sites/1/yard")
    looking.page.get_by_label("site").select_option(label="South Paddock")
    looking.page.get_by_role("navigation", name="rack").get_by_role("link", name="Paddock oven").click()
    looking.waits_until_headline("aim", "N, 25° steep")


def test_quick_sums_from_anywhere(looking: Driver):
    looking.open("/builds/1/make")
    looking.page.keyboard.press("=")
    looking.page.get_by_label("Find a sum").fill("shower")
    looking.button("How far hot water goes").click()
    for label, text in (("hot, L", "15"), ("hot, °C", "62"), ("cold, °C", "55.4 F"), ("want, °C", "40")):
        looking.page.get_by_label(label, exact=True).fill(text)
    looking.sees("27.22 L")
    looking.unfold("Formula and source")
    looking.sees("heat balance, 1 kg per litre, constant cp")


@pytest.mark.parametrize("path", ["/trials/4", "/sites/1/yard", "/builds/1/forecast"])
def test_phone_width_has_no_sideways_scroll(looking: Driver, path: str):
    looking.page.set_viewport_size({"width": 390, "height": 844})
    looking.open(path)
    looking.page.wait_for_load_state("networkidle")
    assert looking.page.evaluate("document.documentElement.scrollWidth") <= 390


@pytest.mark.parametrize("station", ["aim", "forecast", "next"])
def test_on_a_phone_the_open_station_is_in_sight(looking: Driver, station: str):
    looking.page.set_viewport_size({"width": 390, "height": 844})
    looking.open(f"/builds/1/{station}")
    path = looking.page.get_by_role("navigation", name="stages")
    here = path.locator("[aria-current=page]")
    expect(here).to_have_text(re.compile(f"^{station}"))
    looking.waits_until(lambda: here.bounding_box()["x"] >= path.bounding_box()["x"] - 1)
    looking.waits_until(lambda: here.bounding_box()["x"] + min(here.bounding_box()["width"], 128) <= 391)


def test_on_a_phone_the_curve_comes_before_the_choice_of_weather(looking: Driver):
    looking.page.set_viewport_size({"width": 390, "height": 844})
    looking.open("/builds/1/forecast")
    curves, weather = (
        looking.page.get_by_role("img", name="temperatures through the day"),
        looking.page.get_by_label("Weather", exact=True),
    )
    assert curves.bounding_box()["y"] < weather.bounding_box()["y"]


def test_field_keys_are_large_enough_for_a_thumb(looking: Driver):
    looking.page.set_viewport_size({"width": 390, "height": 844})
    looking.open("/trials/4")
    for name in ("7", "Keep it", "cloud", "refilled"):
        box = looking.button(name, exact=True).bounding_box()
        assert box["height"] >= 48, name
        assert box["width"] >= 48, name
