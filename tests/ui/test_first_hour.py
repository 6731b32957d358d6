"""The first hour: from an empty folder to the forecast of a build of one's own, and what one does with it next."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, expect

from drylamp.core.builds.starters import starters
from drylamp.demo.scenario import warm_case
from tests.ui.clocked import clocked_yard
from tests.ui.conftest import drive
from tests.ui.driver import Driver

pytestmark = pytest.mark.ui
MOST_ACTIONS = 25
FIRST = {kind: rows[0].title for kind, rows in starters().items()}


@pytest.fixture(scope="module")
def empty_yard(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    warm_case()
    with clocked_yard(tmp_path_factory.mktemp("empty"), empty=True) as (url, _):
        yield url


@pytest.fixture
def newcomer(browser: Browser, empty_yard: str) -> Iterator[Driver]:
    yield from drive(browser, empty_yard)


class Counted:
    """A person whose every action is counted."""

    def __init__(self, driver: Driver) -> None:
        self.page, self.actions = driver.page, 0

    def click(self, role: str, name: str | re.Pattern[str]) -> None:
        self.actions += 1
        self.page.get_by_role(role, name=name).first.click()

    def type(self, label: str, text: str) -> None:
        self.actions += 2
        self.page.get_by_label(label, exact=True).fill(text)
        self.page.keyboard.press("Tab")


def test_from_an_empty_folder_to_the_forecast_of_ones_own_box(newcomer: Driver):
    """Nothing is looked up elsewhere: a town's name, what is wanted, one size, today's low and high."""
    me = Counted(newcomer)
    me.page.goto(newcomer.url)
    newcomer.sees("Where does the sun shine on you?")
    me.type("A town, or coordinates", "Reus")
    me.click("button", re.compile("^Reus, Spain"))
    newcomer.sees("keeps the clock of Europe/Madrid")
    newcomer.sees("a rough guess from latitude")
    me.click("button", re.compile("^metric"))
    me.click("button", "Begin here")
    newcomer.sees("What do you want to build?")
    me.click("button", "cook")
    expect(me.page.get_by_role("region", name="Collector and cabinet")).to_have_count(0)
    me.actions += 1
    newcomer.begin_with("Plywood box, two panes")
    newcomer.sees("Today with this")
    me.click("button", "The box")
    me.type("Length up the slope", "500")
    me.click("link", re.compile("^forecast"))
    newcomer.sees("Plan of the day")
    newcomer.sees("± 6")
    me.click("button", re.compile("Type this day"))
    me.type("Low", "12")
    me.type("High", "24")
    newcomer.sees("This is what you typed for")
    expect(me.page.get_by_text(re.compile("rough guess"))).to_have_count(0)
    assert me.actions <= MOST_ACTIONS, me.actions
    assert newcomer.headline("forecast") != "…"


@pytest.mark.parametrize("kind", FIRST)
def test_every_kind_begins_from_its_picture_and_has_a_forecast(newcomer: Driver, kind: str):
    page = newcomer.page
    if page.request.get(f"{newcomer.url}/api/sites").json() == []:
        page.request.post(
            f"{newcomer.url}/api/sites",
            data={"name": "Here", "latitude_deg": 41.2, "longitude_deg": 1.1, "time_zone": "Europe/Madrid"},
        )
    newcomer.open("/sites/1/new?day=2025-06-12")
    newcomer.begin_with(FIRST[kind])
    newcomer.stage("forecast")
    newcomer.sees("Plan of the day")
    newcomer.waits_until_headline("forecast", r"\d")


def test_coordinates_and_another_place(newcomer: Driver):
    page = newcomer.page
    page.goto(f"{newcomer.url}/another-place")
    page.get_by_label("A town, or coordinates").fill("33° 30' S, 150° 12' E")
    page.get_by_role("button", name=re.compile("^33.5° S")).click()
    newcomer.sees("Australia/Sydney")
    newcomer.button("Add this place").click()
    newcomer.sees("What the yard can do today")
    expect(page.get_by_label("site").locator("option")).to_have_count(
        len(page.request.get(f"{newcomer.url}/api/sites").json()) + 1
    )


def test_a_name_that_nobody_knows_and_coordinates_that_cannot_be_are_said(browser: Browser, empty_yard: str):
    for newcomer in drive(browser, empty_yard, expected_errors=True):
        newcomer.page.goto(f"{empty_yard}/another-place")
        for typed, says in (
            ("qqqq", "No town of more than a thousand"),
            ("50,30", "more than one way"),
            ("95 N 3 E", "allowed is"),
        ):
            newcomer.page.get_by_label("A town, or coordinates").fill(typed)
            newcomer.sees(re.compile(says))


def test_a_paper_chart_of_yesterday(working: Driver):
    page = working.page
    working.open("/builds/1/trials")
    working.button("Start a trial").first.click()
    page.get_by_label("it began earlier").check()
    page.get_by_label("Began at").fill("10:00")
    working.button("Begin the trial").click()
    working.unfold("Type a paper chart")
    chart = page.get_by_role("region", name="paper chart")
    rows = [("10:00", "21.5"), ("10:10", "38"), ("10:30", "140 F"), ("+60", "oops")]
    for k, (at, value) in enumerate(rows, start=1):
        page.get_by_label(f"time of row {k}").fill(at)
        chart.locator(f"input[aria-label$='in row {k}']").first.fill(value)
    working.sees("“oops” is not understood")
    expect(working.button("Keep these readings")).to_be_disabled()
    page.reload()
    working.unfold("Type a paper chart")
    expect(page.get_by_label("time of row 2")).to_have_value("10:10")
    chart.locator("input[aria-label$='in row 4']").first.fill("77")
    working.button("Keep these readings").click()
    working.sees("4 readings are kept.")
    expect(page.get_by_role("region", name="log of readings and events").get_by_text("60 °C")).to_be_visible()


def test_a_build_is_renamed_varied_put_away_deleted_and_brought_back(working: Driver):
    page = working.page
    working.open("/builds/5/make")
    door = page.get_by_role("button", name=re.compile("^build "))
    door.click()
    working.type_into("Name", "Card box, spring")
    expect(
        page.get_by_role("list", name="revisions, newest first").get_by_text(
            "name: Workshop card box → Card box, spring"
        )
    ).to_be_visible()
    working.button("Back to this: revision 1").click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("Workshop card box")
    working.button("Copy as a variant").click()
    working.sees("Workshop card box, variant branched off")
    for leave, says in (("Put it away", "is put away"), ("Delete it", "is deleted")):
        page.get_by_role("button", name=re.compile("^build ")).click()
        working.button(leave).click()
        working.sees(re.compile(says))
        rack = page.get_by_role("navigation", name="rack")
        expect(rack.get_by_role("link", name="Workshop card box, variant")).to_have_count(0)
        working.undo().click()
        expect(rack.get_by_role("link", name="Workshop card box, variant")).to_have_count(1)


def test_a_skyline_is_drawn_over_the_sky_and_waits_until_it_is_kept(working: Driver):
    page = working.page
    working.open("/sites/1/place")
    sky = page.get_by_role("img", name=re.compile("^skyline of")).first
    sky.scroll_into_view_if_needed()
    page.wait_for_load_state("networkidle")
    points = page.get_by_label("Skyline towards")
    before = points.count()
    box = sky.bounding_box()
    at = [(box["x"] + box["width"] * share, box["y"] + box["height"] * 0.7) for share in (0.3, 0.35, 0.4, 0.45, 0.5)]
    page.mouse.move(*at[0])
    page.mouse.down()
    for point in at[1:]:
        page.mouse.move(*point, steps=4)
    page.mouse.up()
    expect(points).not_to_have_count(before)
    drawn = points.count()
    working.open("/sites/1/yard")
    working.open("/sites/1/place")
    expect(points).to_have_count(drawn)
    working.sees("is not kept yet")
    working.button("Keep the place").click()
    working.sees("The place is kept.")
    grip = page.locator("[data-obstacle='0']").first
    high = page.get_by_label("High", exact=True).first
    was = high.input_value()
    working.drags(grip, 0, -25, lambda: high.input_value() != was)
    working.button("Back to what is kept").click()
    expect(high).to_have_value(was)


def test_the_keyboard_comes_in_by_short_ways(looking: Driver):
    page = looking.page
    looking.open("/sites/1/yard")
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="Skip to the page")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("main")).to_be_focused()
    page.reload()
    expect(page.get_by_role("link", name="+ new build")).to_be_visible()
    for key in ("Tab", "Tab", "Enter", "Tab"):
        page.keyboard.press(key)
    expect(page.get_by_role("link", name="+ new build")).to_be_focused()
    page.keyboard.press("Enter")
    looking.sees("What do you want to build?")
    expect(page.get_by_role("main")).to_be_focused()


def test_quick_steps_of_the_lamp_ask_once_it_rests(looking: Driver):
    page, asked = looking.page, list[str]()
    looking.open("/builds/1/make")
    looking.sees("Today with this")
    page.wait_for_load_state("networkidle")
    page.on("request", lambda r: asked.append(r.url) if r.url.endswith(("/section", "/patch", "/pointing")) else None)
    lamp = page.get_by_role("slider", name="lamp")
    before = lamp.get_attribute("aria-valuenow")
    step = "node => { for (let k = 0; k < 20; k += 1) node.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true })); }"
    lamp.evaluate(step)
    expect(lamp).to_have_attribute("aria-valuenow", str(int(before) + 200))
    looking.waits_until(lambda: len(asked) > 0)
    page.wait_for_timeout(400)
    page.wait_for_load_state("networkidle")
    assert len(asked) <= 4, f"20 steps asked {len(asked)} times"


def test_a_refused_number_goes_back_and_says_why_in_words(refused: Driver):
    page = refused.page
    refused.open("/builds/4/make")
    refused.part("How it stands")
    tilt = page.get_by_label("Tilt of the opening", exact=True)
    was = tilt.input_value()
    tilt.fill("120")
    tilt.press("Tab")
    refused.sees("120 was given; allowed is less than or equal to 90")
    expect(tilt).to_have_value(was)
    expect(page.get_by_text("120 was given")).to_have_count(1)
    expect(page.get_by_text("tilt_deg")).to_have_count(0)


def test_at_night_the_lamp_says_so(looking: Driver):
    looking.open("/builds/1/aim?day=2025-06-12&at=-400")
    lamp = looking.page.get_by_role("slider", name="lamp")
    assert float(lamp.get_attribute("aria-valuenow")) >= float(lamp.get_attribute("aria-valuemin"))
    expect(lamp).to_have_attribute("aria-valuetext", re.compile("night"))
    looking.sees(re.compile("No sun to point at"))


def test_numbers_for_the_expert_stand_in_a_fold(looking: Driver):
    looking.open("/builds/1/forecast")
    looking.sees("Plan of the day")
    closes = looking.page.get_by_text("The energy of this run closes")
    expect(closes).to_be_hidden()
    looking.unfold("For the expert")
    expect(closes).to_be_visible()


def test_a_note_is_kept_not_noted(working: Driver):
    working.open("/trials/4")
    working.page.get_by_label("Remark", exact=True).fill("first cloud of the day")
    working.button("Note it").click()
    working.sees("The note is kept.")
    expect(working.page.get_by_text("note noted")).to_have_count(0)
