"""What the engine brought to the screens: mirrors on every edge, the bright patch, unlike sheets, own materials, the service."""

import re

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver, HeldBack

pytestmark = pytest.mark.ui


def test_flap_on_each_edge_moves_patch_and_forecast(working: Driver):
    working.open("/builds/1/make")
    working.sees("The bright patch")
    patch = working.page.get_by_text(re.compile(r"of 100 parts of the beam land on the pot"))
    before = patch.inner_text()
    working.part("Mirrors")
    for count, edge in enumerate(("left", "lower"), start=2):
        working.button(f"Put one on: {edge} edge").click()
        working.waits_until_headline("make", f"2 panes, {count} mirrors")
    expect(patch).not_to_have_text(before)
    expect(working.page.get_by_role("img", name="bright patch on the tray")).to_be_visible()
    working.button("Take it off: lower edge").click()
    working.waits_until_headline("make", "2 panes, 2 mirrors")
    for _ in range(3):
        working.page.keyboard.press("u")
        working.sees("Undone.")
    working.waits_until_headline("make", "2 panes, 1 mirror")


def test_sheet_of_other_stuff_outside(working: Driver):
    """Changed before the twin has answered for the first time: what the change did is told all the same."""
    twin = HeldBack(working.page, "**/api/twin/day")
    working.open("/builds/1/make")
    working.button("Add one: outside them").click()
    working.waits_until_headline("make", "3 panes, 1 mirror")
    assert twin.asked
    twin.let_go()
    working.sees("Last change:")
    working.page.get_by_role("group", name="Outside them").get_by_label("Sheet").select_option("twin-wall-6")
    working.button("out: outside them 1").click()
    working.waits_until_headline("make", "2 panes, 1 mirror")


def test_own_material_goes_on_the_shelf_and_into_the_build(working: Driver, axe_source: str):
    working.open("/sites/1/shelf")
    working.button("Own one like Aluminium foil lining").click()
    working.type_into("Takes up of the sun, 0–1", "0.3")
    working.type_into("What you call it", "Tea-tin lining")
    working.type_into("Where the numbers come from", "compared at home")
    assert working.axe(axe_source) == []
    working.button("Put it on the shelf").click()
    working.sees("Tea-tin lining is on the shelf.")
    working.sees("Tea-tin lining (own)")
    working.open("/builds/1/make")
    working.part("Lining")
    working.page.get_by_label("Finish").select_option("own-aluminium-foil")
    working.sees("Takes up 30 of 100 parts of the sun")
    working.open("/sites/1/shelf")
    working.button("Take off Tea-tin lining").click()
    working.sees("Builds made of it keep it")
    working.open("/builds/1/make")
    working.part("Lining")
    expect(working.page.get_by_label("Finish")).to_have_value("own-aluminium-foil")
    working.page.keyboard.press("u")


def test_impossible_own_material_is_refused_at_its_field(refused: Driver):
    refused.open("/sites/1/shelf")
    refused.button("Own one like Soot").or_(refused.button("Own one like Lamp soot")).click()
    refused.type_into("Takes up of the sun, 0–1", "1.4")
    refused.type_into("Where the numbers come from", "hope")
    refused.button("Put it on the shelf").click()
    refused.sees("1.4 was given; allowed is less than or equal to 1")
    expect(refused.page.get_by_label("Where the numbers come from")).to_have_value("hope")


def test_weather_service_gives_the_days_ahead(working: Driver):
    working.open("/builds/1/forecast")
    working.button("Ask the weather service").click()
    working.sees("Seven days asked for and kept")
    working.sees(re.compile("stand-in weather service"))
    expect(working.page.get_by_label("Weather", exact=True)).to_contain_text("weather service 12 Jun – 18 Jun 2025")


def test_quick_sum_on_a_log_from_a_file(looking: Driver, tmp_path):
    from tests.reference.test_sums_outside import power_log

    path = tmp_path / "log.csv"
    path.write_text(power_log(), encoding="utf-8")
    looking.open("/sites/1/yard")
    looking.page.keyboard.press("=")
    looking.page.get_by_label("Find a sum").fill("cooking power")
    looking.button("Standard cooking power of a test").click()
    looking.page.get_by_label("file").set_input_files(path)
    looking.page.get_by_label("mass, kg").fill("3.5")
    looking.page.get_by_label("area, m²").fill("0.5")
    looking.sees("80 W")
    looking.sees("36")


def test_quick_sum_offers_the_species(looking: Driver):
    looking.open("/sites/1/yard")
    looking.page.keyboard.press("=")
    looking.page.get_by_label("Find a sum").fill("how fast boards")
    looking.button("How fast boards may dry").click()
    offered = looking.page.locator("#safe-rate-species option")
    assert "northern-red-oak" in [offered.nth(k).get_attribute("value") for k in range(offered.count())]
    looking.page.get_by_label("species").fill("northern-red-oak")
    looking.page.get_by_label("thickness, in").fill("1")
    looking.sees("0.038")


def test_a_new_place_shows_its_guessed_months_until_somebody_knows_better(working: Driver):
    page = working.page
    body = {"name": "Orchard", "latitude_deg": -33.5, "longitude_deg": 150.0, "time_zone": "Australia/Sydney"}
    made = page.request.post(f"{working.url}/api/sites", data=body)
    assert made.status == 201
    working.open(f"/sites/{made.json()['id']}/place")
    working.sees("a rough guess from latitude, height and distance from the sea")
    low, july = page.get_by_label("low in Jan"), page.get_by_label("low in Jul")
    assert float(low.input_value()) > float(july.input_value()), "January is summer there"
    low.fill("19")
    low.press("Tab")
    working.open(f"/sites/{made.json()['id']}/yard")
    working.open(f"/sites/{made.json()['id']}/place")
    expect(low).to_have_value("19")
    working.button("Keep the place").click()
    working.sees("The place is kept.")
    expect(page.get_by_text("a rough guess from latitude")).to_have_count(0)


def test_what_is_typed_while_an_earlier_save_is_on_its_way_is_kept(working: Driver):
    """Three edits of one part; the answer to the first arrives between the second and the third."""
    page, held, holding, written = working.page, [], [True], []
    working.open("/builds/1/make")
    working.part("The box")
    page.on("response", lambda answer: written.append(answer) if answer.request.method == "PUT" and answer.ok else None)
    page.route(
        "**/api/builds/1",
        lambda route: held.append(route) if holding and route.request.method == "PUT" else route.fallback(),
    )
    working.type_into("Width", "412")
    working.type_into("Height, tray to cover", "233")
    working.waits_until(lambda: len(held) > 0)
    with page.expect_response("**/api/builds/1"):
        held.pop(0).continue_()
    page.wait_for_timeout(300)
    working.type_into("Length up the slope", "388")
    holding.clear()
    for route in held:
        route.continue_()
    expect(working.undo()).to_be_enabled()
    for label, kept in (("Width", "412"), ("Height, tray to cover", "233"), ("Length up the slope", "388")):
        expect(page.get_by_label(label, exact=True)).to_have_value(kept)
    working.waits_until(lambda: len(written) == 3)  # the third is sent once the second is answered
    page.reload()
    working.part("The box")
    for label, kept in (("Width", "412"), ("Height, tray to cover", "233"), ("Length up the slope", "388")):
        expect(page.get_by_label(label, exact=True)).to_have_value(kept)
    for _ in range(3):
        page.keyboard.press("u")
        working.sees("Undone.")
