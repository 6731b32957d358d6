"""A kind that only tests know appears in the browser: door, drawing, cards, forecast, trial, verdict, next and yard, with no line of TypeScript."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from tests.serving import Server
from tests.ui.conftest import drive

pytestmark = pytest.mark.ui
TOY = Path(__file__).parents[1] / "kinds" / "toy"
AT_START = """
from drylamp.core import builds
builds.__path__.append({toy!r})
from pathlib import Path
from waitress.server import create_server
from drylamp.commands.serving import running_clock
from drylamp.demo.scenario import demo_now, warm_case
from drylamp.web.app import create_app, warm_up
from drylamp.web.settings import Settings
app = create_app(Settings(data=Path({data!r}) / "yard.sqlite3", now=running_clock(demo_now())))
warm_up(app, warm_case)
server = create_server(app, host="127.0.0.1", port=0)
print(f"http://127.0.0.1:{{server.effective_port}}", flush=True)
server.run()
"""


@pytest.fixture
def stone_yard(tmp_path):
    server = Server(tmp_path, code=AT_START.format(toy=str(TOY), data=str(tmp_path)))
    server.wait_until_warm()
    yield server
    server.end()


def test_a_black_stone_in_the_browser(browser: Browser, stone_yard: Server):
    for driver in drive(browser, stone_yard.url):
        page = driver.page
        site = {
            "name": "Field",
            "latitude_deg": 41.2,
            "longitude_deg": 1.1,
            "elevation_m": 480.0,
            "time_zone": "Europe/Madrid",
        }
        assert page.request.post(f"{stone_yard.url}/api/sites", data=site).status == 201
        driver.open("/sites/1/new")
        driver.begin_with("A paving stone painted black")
        driver.waits_until_headline("make", "a stone .* across")
        expect(page.get_by_role("group", name="section drawing")).to_be_visible()
        driver.part("Stone")
        driver.type_into("Diameter", "500 mm")
        driver.waits_until_headline("make", "a stone 500 mm across")
        page.get_by_role("group", name="Of").get_by_label("Of").select_option("plywood")
        driver.sees("Last change:")
        driver.part("What lies on it")
        if page.get_by_role("button", name="Lay portions in").count():
            driver.button("Lay portions in").click()
        expect(page.get_by_role("group", name="Portions")).to_be_visible()

        driver.stage("forecast")
        driver.sees("Plan of the day")
        expect(page.get_by_role("img", name="temperatures through the day")).to_be_visible()
        driver.stage("next")
        expect(page.get_by_role("heading", name=re.compile("^Weakest link|^No single change"))).to_be_visible(
            timeout=120_000
        )

        driver.stage("trials")
        driver.button("Start a trial").click()
        expect(page.get_by_label("Protocol", exact=True)).to_be_visible()
        driver.button("Start the clock").click()
        expect(page).to_have_url(re.compile(r"/trials/\d+"))
        pad = page.locator("input[aria-label^='reading of']")
        pad.fill("17")  # as warm as a stone is that has just been laid out: nothing to ask about
        pad.press("Enter")
        expect(page.get_by_text("kept on this device")).to_have_count(0)
        page.get_by_role("link", name="verdict").click()
        driver.sees("How sure")

        driver.open("/sites/1/yard")
        expect(page.get_by_role("article")).to_have_count(1)
        driver.sees("Stone")
