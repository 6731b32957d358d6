"""The bill on the make station, and the pile on the shelf that it takes from."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.ui.driver import Driver


def test_a_sash_on_the_pile_is_one_pane_less_to_buy(working: Driver, axe_source: str):
    page = working.page
    working.open("/builds/1/make")
    working.button("Pieces, weight, price and cuts").click()
    working.sees(re.compile("All of it bought new"))
    expect(page.get_by_role("table", name="pieces").get_by_role("row", name=re.compile("^pane"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("pieces$")).first).to_be_visible()
    working.open("/sites/1/shelf")
    page.get_by_role("button", name="Write one down: Salvage pile").click()
    pile = page.get_by_role("region", name="Salvage pile")
    pile.get_by_label("What it is").fill("kitchen sash")
    pile.get_by_label("Of", exact=True).select_option("Window glass")
    pile.get_by_label("Long").fill("80 cm")
    pile.get_by_label("Wide").fill("70 cm")
    pile.get_by_role("button", name="Write it down").click()
    working.sees("1 piece in 1 row.")
    assert working.axe(axe_source) == []
    working.open("/builds/1/make")
    working.button("Pieces, weight, price and cuts").click()
    working.sees(re.compile("is left to buy"))
    working.sees("1 from kitchen sash")
    assert working.axe(axe_source) == []
