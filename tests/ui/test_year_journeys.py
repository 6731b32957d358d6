"""A cottager's year: what runs when, what it saves, what can be done today, and what was done."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.ui.driver import Driver


def test_a_cottagers_year_what_runs_when_and_what_it_saves(working: Driver, axe_source: str):
    page = working.page
    working.open("/sites/1/shelf")
    page.get_by_role("button", name="Write one down: The house: prices, and when somebody is there").click()
    house = page.get_by_role("region", name="The house")
    house.get_by_label("Nobody is there from").select_option("09:00")
    house.get_by_label("Until", exact=True).select_option("17:00")
    house.get_by_role("button", name="Write it down").click()
    working.sees(re.compile("The last row holds"))
    working.open("/builds/1/forecast")
    working.button("The best way to leave it alone").click()
    working.sees(re.compile("Nobody is there from 09:00 to 17:00"))
    working.button("Month by month and hour by hour").click()
    year = page.get_by_role("region", name="the year at Larkspur Terrace")
    expect(year.get_by_role("img", name="useful heat by month and hour at Larkspur Terrace")).to_be_visible()
    expect(year.get_by_role("table", name="what it saves")).to_contain_text("against electricity, as used")
    expect(year).to_contain_text("of useful heat in a year")
    page.get_by_label("Beside it, the same at").select_option(index=1)
    expect(page.get_by_role("region", name=re.compile("the year at South"))).to_contain_text("useful heat in a year")
    working.sees(re.compile(r"South Paddock gives .* in a year than Larkspur Terrace"))
    expect(page.get_by_role("progressbar", name="Months so far")).to_have_count(0)
    assert working.axe(axe_source) == []


def test_what_the_yard_can_do_becomes_the_plan_and_is_ticked(working: Driver, axe_source: str):
    page = working.page
    working.open("/sites/1/yard")
    done = page.get_by_role("button", name=re.compile("^Done: ")).first
    ticked = done.get_attribute("aria-label")
    done.click()
    working.sees(re.compile("^Done"))
    expect(page.get_by_role("button", name=ticked, exact=True)).to_have_count(0)
    assert (
        page.get_by_role("link", name="the week's plans as a calendar").get_attribute("href")
        == "/api/sites/1/plan.ics?days=7"
    )
    working.button("Try every food, wax and load").click()
    today = page.get_by_role("region", name="what it can do today")
    expect(page.get_by_role("progressbar", name="Builds so far")).to_have_count(0)
    expect(today).to_contain_text(re.compile(r"\d+ things that \d+ builds can do today"))
    assert working.axe(axe_source) == []
    today.get_by_role("button", name=re.compile("^All")).click()
    today.get_by_role("button", name=re.compile("Make it the plan: porridge in Harvest dish")).click()
    page.wait_for_url("**/forecast**")
    working.sees(re.compile("put the porridge in|porridge"))
