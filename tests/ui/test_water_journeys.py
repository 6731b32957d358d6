"""Journeys with water, from the question to the decision."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui


def test_the_wash_house_heater_is_settled_for_four_showers(working: Driver, axe_source: str):
    """A night's cooling gives the lid away; depth, seal and a mirror lid are settled for a hundred litres at seven."""
    working.open("/builds/9/verdict?trial=8")
    working.sees(re.compile("likeliest: more air leaks than the twin thinks"))
    working.sees("Night loss")
    working.sees(re.compile(r"twin 1\.\d W/K"))
    working.open("/builds/9/next")
    working.sees("How much water in it?")
    working.sees("A lid for the night, or none?")
    working.open("/builds/9/make")
    working.part("Seal")
    working.type_into("Mean gap round the cover", "0.3 mm")
    working.part(re.compile("^Water$"))
    working.type_into("Water in it", "70 l")
    working.waits_until_headline("forecast", r"8\d(\.\d)? L at 40 °C")
    working.part("Mirror lid")
    working.button("Put one on: mirror lid").click()
    working.waits_until_headline("forecast", r"1\d\d L at 40 °C")
    working.sees(re.compile(r"4 short showers"))
    assert working.axe(axe_source) == []
    working.stage("forecast")
    bars = working.page.get_by_role("group", name=re.compile("litres at 40 °C by the hour"))
    expect(bars.get_by_text("19:00")).to_be_visible()
    working.sees(re.compile("legionella"))
    working.button("What one, two, three of them leave").click()
    working.sees(re.compile(r"After a run of sun \d\d °C at 19:00"))
    expect(working.page.get_by_role("row", name=re.compile("grey day 3"))).to_be_visible()
    assert working.axe(axe_source) == []


def test_a_hose_on_the_terrace_and_a_film_over_it(working: Driver, axe_source: str):
    """Three litres at noon and at five, what a film is worth, and why a trickle is hotter and less."""
    working.open("/builds/10/forecast")
    working.sees(re.compile(r"3 litres at 12:00: 4\d °C first"))
    working.sees(re.compile(r"17:00, litre by litre: 5\d °C"))
    working.sees(re.compile("shut at both ends"))
    working.button("Outlet and heat at every flow").click()
    working.sees(re.compile("Hotter to the hand is less heat"))
    working.button("flows as numbers").click()
    rows = working.page.get_by_role("row")
    expect(rows).to_have_count(11)
    assert working.axe(axe_source) == []
    working.open("/builds/10/next")
    working.sees("clear film over it")
    working.open("/builds/10/make")
    working.part("Cover")
    working.button("Put one on: cover").click()
    working.sees(re.compile(r"Last change: \+\d+"))
    working.stage("forecast")
    working.sees(re.compile(r"3 litres at 12:00: [6-8]\d °C first"))
    working.sees(re.compile("burns in about"))


def test_more_hose_than_the_frame_holds_is_said_and_kept(refused: Driver):
    refused.open("/builds/10/make")
    refused.part("Hose")
    refused.type_into("Length", "90 m")
    refused.sees(re.compile("a frame of 1 × 1 m holds 33 m at 30 mm from turn to turn"))
    refused.type_into("Length", "30 m")
    refused.waits_until_headline("make", "30 m of hose")
