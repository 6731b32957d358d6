"""The whole path, from changing a mirror to a verdict, as a person walks it."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from tests.serving import Server
from tests.ui.conftest import drive
from tests.ui.driver import Driver, HeldBack, patient_context

pytestmark = pytest.mark.ui


def test_cover_and_mirror_move_the_forecast_and_undo_brings_it_back(working: Driver):
    working.open("/builds/1/make")
    working.sees("Today with this")
    working.waits_until_headline("forecast", r"90 °C at 13:\d\d")
    first = working.headline("forecast")
    working.button("Sheets: 1").click()
    working.waits_until_headline("make", "1 pane, 1 mirror")
    expect(working.page.get_by_text("Last change:")).to_contain_text("0 K at the peak")
    working.part("Mirrors")
    working.button("Take it off: upper edge").click()
    working.waits_until_headline("make", "1 pane, no mirror")
    expect(working.page.get_by_text("Last change:")).to_contain_text(re.compile(r"\+\d+ min to the target"))
    working.waits_until_headline_changes("forecast", first)
    for _ in range(2):
        working.page.keyboard.press("u")
        working.sees("Undone.")
    working.waits_until_headline("make", "2 panes, 1 mirror")
    working.waits_until_headline("forecast", re.escape(first))


def test_clicking_the_drawing_opens_the_part(working: Driver):
    working.open("/builds/1/make")
    working.sees("Today with this")
    working.page.locator("[data-part=tray]").first.dispatch_event("click")
    working.sees("What the sun lands on")
    working.page.locator("[data-part=wall-1]").first.dispatch_event("click")
    working.sees("From the inside out")


def test_dragging_the_mirror_turns_it(working: Driver):
    working.open("/builds/1/make")
    working.part("Mirrors")
    angle = working.page.get_by_label("Angle to the opening")
    expect(angle).to_have_value("110")
    grip = working.page.locator("[data-handle='mirror.angle_deg']")
    working.drags(grip, -60, 20, lambda: angle.input_value() != "110")
    assert float(angle.input_value()) > 115
    working.page.keyboard.press("Escape")
    working.undo().click()
    expect(angle).to_have_value("110")


def test_numbers_in_any_unit(working: Driver):
    working.open("/builds/1/make")
    working.part("The box")
    width = working.page.get_by_label("Width", exact=True)
    width.fill("20 in")
    working.sees("understood: 508 mm")
    width.press("Enter")
    expect(width).to_have_value("508")
    width.fill("wide")
    working.sees("“wide” is not understood")
    width.press("Escape")
    working.undo().click()
    expect(width).to_have_value("500")


def test_impossible_number_is_told_at_its_field_and_the_build_stays(refused: Driver):
    refused.open("/builds/1/make")
    refused.part("How it stands")
    refused.type_into("Tilt of the opening", "120")
    refused.sees("120 was given; allowed is less than or equal to 90")
    refused.page.reload()
    refused.part("How it stands")
    expect(refused.page.get_by_label("Tilt of the opening", exact=True)).to_have_value("25")


def test_what_is_typed_while_the_core_still_settles_the_number_before_is_kept_in_its_turn(working: Driver):
    page = working.page
    settling = HeldBack(page, "**/api/kinds/change")
    working.open("/builds/7/make")
    working.part(re.compile("^What "))
    working.type_into("How much", "1.5 kg")
    working.waits_until(lambda: len(settling.asked) == 1)
    whistles = page.get_by_label("Done after whistles", exact=True)
    was = whistles.input_value()
    working.type_into("Done after whistles", "8")
    expect(working.undo()).to_contain_text("Done after whistles: 8")
    expect(whistles).to_have_value("8")
    settling.let_go()

    def load() -> dict:
        return page.request.get(f"{working.url}/api/builds/7").json()["load"]

    working.waits_until(lambda: (load()["food_kg"], load()["whistles"]) == (1.5, 8))
    working.undo().click()
    working.waits_until(lambda: (load()["food_kg"], load()["whistles"]) == (1.5, int(was)))
    expect(whistles).to_have_value(was)


def test_what_goes_in_is_taken_out_while_the_twin_still_thinks(working: Driver):
    working.open("/builds/1/make")
    working.sees("Today with this")
    working.part(re.compile("^What "))
    twin = HeldBack(working.page, "**/api/twin/day")
    working.button("Take it out").click()
    working.waits_until(lambda: len(twin.asked) > 0)
    working.stage("forecast")
    working.sees("Plan of the day")  # of before, pale
    twin.let_go()
    working.waits_until_headline("forecast", "peak")
    working.undo().click()
    working.waits_until_headline("forecast", "90 °C at")


def test_a_day_may_be_turned_while_the_next_view_is_on_its_way(looking: Driver):
    looking.open("/builds/1/make")
    looking.sees("Thu 12 Jun")
    expect(looking.page.get_by_role("navigation", name="stages").get_by_role("link")).not_to_have_count(0)
    looking.page.evaluate("""() => {
      [...document.querySelectorAll('nav[aria-label="stages"] a')].find((a) => a.textContent.startsWith("forecast")).click();
      document.body.dispatchEvent(new KeyboardEvent("keydown", { key: ".", bubbles: true }));
    }""")
    looking.sees("Fri 13 Jun")
    looking.sees("Plan of the day")


def test_latitude_95_is_told_at_its_field(refused: Driver):
    refused.open("/sites/1/place")
    refused.type_into("Latitude, north +", "95")
    refused.button("Keep the place").click()
    refused.sees("95 was given; allowed is less than or equal to 90")
    expect(refused.page.get_by_label("Latitude, north +")).to_have_value("95")


def test_two_tabs_editing_one_build(browser: Browser, own_yard: str):
    """The second tab is told, its change is kept, and it can be put on top."""
    one, two = (next(d) for d in (drive(browser, own_yard, True), drive(browser, own_yard, True)))
    for tab in (one, two):
        tab.open("/builds/1/make")
        tab.part("Seal and vent")
        expect(tab.page.get_by_label("Mean gap round the cover")).to_have_value("0.5")
    one.type_into("Mean gap round the cover", "0.7")
    one.sees("Last change:")
    two.type_into("Vent, all of its opening", "12")
    two.sees("was changed in another window")
    two.button("Put mine on top").click()
    expect(two.page.get_by_label("Vent, all of its opening")).to_have_value("12")
    two.page.reload()
    two.part("Seal and vent")
    expect(two.page.get_by_label("Vent, all of its opening")).to_have_value("12")


def test_spot_moved_on_the_aim_stage(working: Driver):
    working.open("/builds/1/aim")
    working.sees("Spots by the hour")
    working.button("orchard edge").click()
    working.sees("from “orchard edge”")
    working.page.keyboard.press("u")
    working.sees("from “terrace”")
    working.button("set the tilt to 39°").click()
    working.waits_until_headline("aim", "S, 39° steep")
    working.page.keyboard.press("u")
    working.waits_until_headline("aim", "S, 25° steep")


def test_trial_from_start_to_verdict(working: Driver):
    working.open("/builds/1/trials")
    working.button("Start a trial").click()
    working.page.get_by_label("Name").fill("Browser look")
    working.button("Start the clock").click()
    working.sees("Read now")
    for key in ("2", "2"):
        working.button(key, exact=True).click(delay=60)  # a finger stays on it; what is shorter is a drop of water
    working.button("Keep it").click()
    working.sees("22 °C")
    working.button("tray", exact=True).click()
    pad = working.page.get_by_label("reading of tray")
    pad.fill("75 F")
    pad.press("Enter")
    working.sees("typed as 75 F")
    working.button("cloud").click()
    working.sees("cloud noted.")
    working.button("End the trial").click()
    working.sees("Trial ended.")
    working.open("/builds/1/trials")
    row = working.page.get_by_role("listitem").filter(has_text="Browser look")
    row.get_by_role("link", name="verdict").click()
    working.sees("How sure")


def test_fahrenheit_typed_as_celsius_is_flagged(working: Driver):
    working.open("/trials/4")
    working.button("tray", exact=True).click()
    pad = working.page.get_by_label("reading of tray")
    pad.fill("196")
    pad.press("Enter")
    working.sees("is the unit right?")
    working.button("Take it back").click()
    working.sees("Reading taken back.")


def test_typed_digits_survive_a_reload(working: Driver):
    working.open("/trials/4")
    working.button("8", exact=True).click()
    working.button("4", exact=True).click()
    working.page.reload()
    expect(working.page.get_by_label("reading of air inside")).to_have_value("84")
    working.button("delete last digit").click()
    expect(working.page.get_by_label("reading of air inside")).to_have_value("8")


def test_reading_is_kept_while_the_server_is_away(browser: Browser, own_yard: str):
    """The post fails, the reading waits on the device, and goes out when the line is back."""
    made = patient_context(browser)
    driver = Driver(made.new_page(), own_yard)
    driver.open("/trials/4")
    driver.page.route("**/readings", lambda route: route.abort())
    pad = driver.page.get_by_label("reading of air inside")
    pad.fill("41")
    pad.press("Enter")
    driver.sees("1 reading kept on this device until the server answers")
    driver.page.reload()
    driver.sees("1 reading kept on this device until the server answers")
    driver.page.unroute("**/readings")
    expect(driver.page.get_by_role("region", name="log of readings").get_by_text("air inside 41 °C")).to_be_visible()
    expect(driver.page.get_by_text("kept on this device")).to_have_count(0)
    made.close()


CSV = "time;tray °F\n2025-06-12 12:01;150,8\n2025-06-12 12:02;152,6\nnoon;99,0\n2025-06-12 12:03;155,3\n2025-06-12 11:58;140,0\n"


def test_csv_import_with_preview(refused: Driver, tmp_path: Path):
    path = tmp_path / "log.csv"
    path.write_text(CSV)
    refused.open("/trials/4")
    refused.page.get_by_label("readings file").set_input_files(path)
    refused.sees("4 readings, columns split by “;”, decimal comma")
    refused.sees("row 4: time 'noon' cannot be read")
    refused.sees("At row 6 the clock goes back by 5 min.")
    expect(refused.page.get_by_label("Unit of tray °F")).to_have_value("F")
    refused.button("Import", exact=True).click()
    refused.sees("Answer with one of: shift, keep, leave-out")
    refused.page.get_by_label("Needs an answer").select_option("leave-out")
    refused.sees("is stamped before rows above it")
    refused.button("Import", exact=True).click()
    refused.sees("nothing was written")
    refused.page.get_by_label("import the others without them").check()
    refused.button("Import", exact=True).click()
    refused.sees("Imported: 3 new, 0 there already")
    refused.page.get_by_label("readings file").set_input_files(
        files=[{"name": "e.csv", "mimeType": "text/csv", "buffer": b""}]
    )
    refused.sees("the file is empty")


def test_weather_file_cut_short_is_refused(refused: Driver):
    refused.open("/builds/1/forecast")
    text = "LOCATION,S,X,X,T,0,41.2,1.1,1.0,480.0\n" + "X\n" * 7 + "2021,1,1,1,60,A,10,5,70,95000\n"
    files = [{"name": "short.epw", "mimeType": "text/plain", "buffer": text.encode()}]
    refused.page.get_by_label("weather file", exact=True).set_input_files(files=files)
    refused.sees("cut short: 1 rows of hours")


def test_new_build_from_a_start_and_from_a_newer_file(refused: Driver):
    refused.open("/sites/1/new")
    files = [{"name": "b.json", "mimeType": "application/json", "buffer": b'{"dry_lamp": "build", "format": 5}'}]
    refused.page.get_by_label("build file").set_input_files(files=files)
    refused.sees("format 5 was given")
    refused.button("Begin with this").first.click()
    refused.waits_until_headline("make", "1 pane, 1 mirror")
    refused.sees("Today with this")


def test_more_food_than_the_pot_holds_is_told_and_not_stored(refused: Driver):
    refused.open("/builds/1/make")
    refused.part("What goes in")
    refused.type_into("Pot across", "4 in")
    refused.sees(re.compile(r"does not fit a pot that holds \d\.\d L"))
    refused.page.reload()
    refused.part("What goes in")
    expect(refused.page.get_by_label("How much", exact=True)).to_have_value("1.8")


def test_food_that_will_not_get_there_is_said_before_the_start(working: Driver):
    """Put in at half past five in the afternoon, the plan and the cautions say so."""
    working.open("/builds/1/make")
    working.part("What goes in")
    working.page.get_by_label("At", exact=True).select_option("17:30")
    working.waits_until_headline("forecast", "peak")
    working.stage("forecast")
    working.sees("Stop.")
    working.sees("plan another way to cook it before you start")
    working.page.keyboard.press("u")
    working.waits_until_headline("forecast", "90 °C at 13:")


def test_first_site_of_an_empty_yard(browser: Browser, tmp_path: Path):
    server = Server(tmp_path)
    try:
        made = patient_context(browser)
        page = made.new_page()
        page.goto(server.url)
        page.get_by_label("A town, or coordinates").fill("45,5 N 6,2 E")
        page.get_by_role("button", name=re.compile("^45.5° N, 6.2° E")).click()
        Driver(page, server.url).unfold("Put something right")
        page.get_by_label("Name", exact=True).fill("Hill garden")
        page.get_by_role("button", name="Begin here").click()
        expect(page.get_by_text("What do you want to build?")).to_be_visible()
        page.get_by_role("link", name="Place and spots").click()
        expect(page.get_by_label("Name", exact=True)).to_have_value("Hill garden")
        expect(page.get_by_label("Latitude, north +")).to_have_value("45.5")
        made.close()
    finally:
        server.end()


def test_the_part_of_each_change_between_two_trials(working: Driver, axe_source: str):
    working.open("/builds/1/verdict?trial=3")
    working.page.get_by_label("Held against").select_option("1")
    working.button("The part of each").click()
    working.sees(re.compile("By the twin they make"))
    rows = working.page.get_by_role("region", name="against another trial").get_by_role("row")
    expect(rows.filter(has_text="cover")).to_be_visible()
    assert working.axe(axe_source) == []
