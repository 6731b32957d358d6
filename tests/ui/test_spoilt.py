"""What is broken or careless, in the browser: told, asked about, put right."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from drylamp.demo.scenario import demo_now
from tests.ui.clocked import clocked_yard
from tests.ui.conftest import drive
from tests.ui.driver import Driver

pytestmark = pytest.mark.ui


@pytest.fixture
def spoilt(browser: Browser, tmp_path: Path) -> Iterator[Driver]:
    """A yard in whose file a row is broken."""
    with clocked_yard(tmp_path, pace=0.0) as (url, _):
        with sqlite3.connect(tmp_path / "yard.sqlite3") as db:
            db.execute('UPDATE build_revision SET spec = \'{"kind": "box-oven"}\' WHERE build_id = 1 AND number = 2')
        db.close()
        yield from drive(browser, url, expected_errors=True)


def test_what_cannot_be_read_is_told_and_put_right(spoilt: Driver, axe_source: str):
    page = spoilt.page
    spoilt.open("/sites/1/yard")
    spoilt.sees("Tin lids")
    rack = page.get_by_role("navigation", name="rack")
    expect(rack.get_by_role("link", name="Hatbox oven")).to_have_count(0)
    page.goto(f"{spoilt.url}/builds/1/make")
    spoilt.sees("The build Hatbox oven can no longer be read")
    page.get_by_role("link", name="Put it right").click()
    spoilt.sees("A build: Hatbox oven, revision 2")
    assert spoilt.axe(axe_source) == []
    field = page.get_by_label("As it stands")
    field.fill("{ nothing }")
    spoilt.button("Keep it so").click()
    spoilt.sees("not JSON")
    spoilt.button("Take the newest revision that can be read").click()
    spoilt.button("Keep it so").click()
    spoilt.sees("Everything in the data file can be read.")
    page.get_by_role("link", name="Back to the yard").click()
    expect(rack.get_by_role("link", name="Hatbox oven")).to_have_count(1)


def test_a_comma_file_with_decimal_commas_is_asked_about(spoilt: Driver, tmp_path: Path):
    file = tmp_path / "log.csv"
    file.write_bytes("time,tray,box air\r2025-06-12 12:01,70,5,61,0\r2025-06-12 12:02,71,5,61,5\r".encode("utf-16"))
    spoilt.open("/trials/5")
    spoilt.page.get_by_label("readings file").set_input_files(file)
    spoilt.sees("The file is written as UTF-16.")
    spoilt.sees("is 70,5 one number?")
    region = spoilt.page.get_by_role("region", name="import readings")
    region.get_by_label("Needs an answer").select_option("yes")
    expect(region.get_by_text(re.compile(r"^tray: 2 values"))).to_be_visible()


def test_a_stray_year_is_set_aside_and_taken_back_with_a_tap(spoilt: Driver):
    page = spoilt.page
    far = (demo_now() + timedelta(days=365)).isoformat()
    trial = next(t for t in page.request.get(f"{spoilt.url}/api/trials").json() if t["name"] == "First cappings")
    body = {"readings": [{"channel": "wax", "value": 70, "time": far}], "ahead": True}
    assert page.request.post(f"{spoilt.url}/api/trials/{trial['id']}/readings", data=body).ok
    spoilt.open(f"/trials/{trial['id']}")
    spoilt.sees("1 reading stamped months from nearly all others and not drawn")
    spoilt.open(f"/builds/{trial['build_id']}/verdict?trial={trial['id']}")
    spoilt.sees("was set aside: is its date right?")
    spoilt.button("Take it back").click()
    spoilt.sees("The reading is taken back.")
    expect(page.get_by_text("was set aside: is its date right?")).to_have_count(0)
