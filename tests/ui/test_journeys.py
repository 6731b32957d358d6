"""Three days at the terrace, each with its own objects and numbers, each ending in a decision."""

from __future__ import annotations

import io
import json
import re
import urllib.request
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Browser, expect

from drylamp.core.builds.registry import BUILD
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.instruments.logger import Sample, Truth, read_plan, round_plan
from tests.ui.clocked import Clock, clocked_yard
from tests.ui.conftest import drive
from tests.ui.driver import Driver

pytestmark = pytest.mark.ui


@pytest.fixture
def yard(browser: Browser, tmp_path: Path) -> Iterator[tuple[Driver, Clock]]:
    with clocked_yard(tmp_path, pace=0.1) as (url, clock):
        for driver in drive(browser, url):
            yield driver, clock


def get(driver: Driver, path: str) -> dict:
    with urllib.request.urlopen(driver.url + path, timeout=90) as answer:
        return json.load(answer)


def facts_of(driver: Driver, trial: int) -> tuple[TrialFacts, Samples]:
    """The trial as the stand-in sees it: empty channels, the build it stands on."""
    setup = get(driver, f"/api/trials/{trial}/logger-setup")
    facts = TrialFacts.model_validate_json(json.dumps(setup["facts"]))
    empty = [c.model_copy(update={"times": [], "values": [], "doubts": []}) for c in facts.channels]
    return facts.model_copy(update={"channels": empty, "events": []}), BUILD.validate_python(setup["spec"])


def round_values(facts: TrialFacts, build: Samples, truth: Truth, minute: float) -> list[Sample]:
    nodes = build.walk
    return [
        s for s in read_plan(TERRACE, build, facts, truth, round_plan(facts, nodes, [minute])) if s.channel != "air"
    ]


def type_round(driver: Driver, values: list[Sample]) -> None:
    """A probe walks from sample to sample; the screen says which one is next."""
    for sample in values:
        pad = driver.page.locator("input[aria-label^='reading of']")
        before = driver.page.get_by_role("group", name="channel").get_by_role("button", pressed=True).inner_text()
        pad.fill(f"{sample.value:.1f}")
        pad.press("Enter")
        pressed = driver.page.get_by_role("group", name="channel").get_by_role("button", pressed=True)
        expect(pressed).not_to_have_text(before)
    expect(driver.page.get_by_text("kept on this device")).to_have_count(0)


def send_round(driver: Driver, trial: int, values: list[Sample]) -> None:
    """A round that somebody else read: it comes in over the wire."""
    rows = [{"channel": s.channel, "value": round(s.value, 1), "time": s.time.isoformat()} for s in values]
    body = json.dumps({"source": "hand", "readings": rows}).encode()
    asked = urllib.request.Request(
        f"{driver.url}/api/trials/{trial}/readings", body, {"Content-Type": "application/json"}
    )
    with urllib.request.urlopen(asked, timeout=90) as answer:
        assert answer.status == 200


def trial_number(driver: Driver) -> int:
    expect(driver.page).to_have_url(re.compile(r"/trials/\d+"))
    return int(driver.page.url.split("/trials/")[1].split("?")[0])


def paint(driver: Driver, title: str, mark: str, finish: str, price: str) -> None:
    """One more sample, with its finish and price."""
    driver.button("+ one more").click()
    page = driver.page
    expect(page.get_by_label("Called", exact=True)).to_have_value(re.compile(r"^sample \d$"))
    driver.type_into("Called", title)
    expect(page.get_by_role("group", name="As they lie").get_by_role("button", name=title, exact=True)).to_be_visible()
    driver.type_into("Mark on its back", mark)
    page.get_by_label("Finish", exact=True).select_option(finish)
    driver.type_into("Price at these coats", price)
    expect(page.get_by_label("Price at these coats")).to_have_value(price)


def test_six_tin_lids_and_whether_the_dear_coating_pays(yard: tuple[Driver, Clock]):
    driver, clock = yard
    page = driver.page
    clock.put(datetime.fromisoformat("2025-06-14T12:20:00+02:00"))
    driver.open("/sites/1/new")
    driver.begin_with("Painted lids on a board")
    driver.sees("As they lie")
    for title, mark, finish, price in (
        ("school board paint", "school", "chalkboard-paint", "4.1"),
        ("grill spray", "grill", "barbecue-black", "5.2"),
        ("telescope black", "scope", "super-black-paint", "46"),
    ):
        paint(driver, title, mark, finish, price)
    driver.waits_until_headline("make", "6 samples, in the open")
    driver.button("Draw the places by lot").click()
    expect(driver.button("telescope black", exact=True)).to_be_visible()

    driver.stage("trials")
    driver.button("Start a trial").click()
    driver.sees("Cut the samples equal")
    page.get_by_label("Name").fill("Lids at lunch")
    driver.button("Start the clock").click()
    trial = trial_number(driver)
    facts, build = facts_of(driver, trial)
    begun = facts.started
    truth = Truth(
        calibration=Calibration(parts={"absorptance:sample-scope": 0.98}), noise_k=0.1, seed=6,
        gusts=(begun + timedelta(minutes=10.2),), clouds=(begun + timedelta(minutes=60.9),),
    )  # fmt: skip
    for minute in (5, 10, 30, 45, 60):
        clock.put(begun + timedelta(minutes=minute))
        values = round_values(facts, build, truth, minute)
        if minute in (30, 45):
            send_round(driver, trial, values)
            continue
        page.reload()
        driver.sees(re.compile("Round .+: read"))
        if minute == 10:
            type_round(driver, values[:3])
            driver.button("gust", exact=True).click()
            driver.sees("gust noted.")
            type_round(driver, values[3:])
        elif minute == 60:
            type_round(driver, values[:5])
            driver.button("cloud", exact=True).click()
            driver.sees("cloud noted.")
            type_round(driver, values[5:])
        else:
            type_round(driver, values)
    driver.button("End the trial").click()
    driver.sees("Trial ended.")
    page.get_by_role("link", name="verdict").click()
    expect(page.get_by_role("heading", name=re.compile("over bare"))).to_be_visible()
    table = page.get_by_role("region", name="ranking of the samples")
    expect(table.get_by_role("row")).to_have_count(7)
    assert table.get_by_text("real", exact=True).count() == 5
    driver.sees(re.compile("Telescope black costs 4.*it does not pay", re.DOTALL))
    table.get_by_role("button", name=re.compile("^to the shelf: telescope black", re.IGNORECASE)).click()
    driver.sees("Telescope black, as measured is on the shelf; “next” of each build tries it.")
    driver.unfold("rounds counted,")
    driver.sees(re.compile("left out: gust"))
    driver.sees(re.compile("left out: cloud"))

    # then weeks outdoors
    driver.stage("trials")
    driver.button("Start a trial").click()
    page.get_by_label("Protocol").select_option("endurance")
    driver.button("Start the clock").click()
    weeks = trial_number(driver)
    facts, build = facts_of(driver, weeks)
    for week in range(4):
        clock.put(facts.started + timedelta(weeks=week, minutes=2))
        fading = Truth(
            calibration=Calibration(parts={"absorptance:sample-school": 1.0 - 0.07 * week}), noise_k=0.1, seed=week
        )
        at = facts.model_copy(update={"started": facts.started + timedelta(weeks=week, hours=-1)})
        values = round_values(at, build, fading, 60.0)
        if week in (1, 2):
            send_round(driver, weeks, values)
            continue
        page.reload()
        driver.sees(re.compile("Round .+: read"))
        type_round(driver, values)
    driver.button("faded", exact=True).click()
    page.get_by_role("group", name="faded: which").get_by_role("button", name="school board paint").click()
    driver.sees("fade noted.")
    picture = io.BytesIO()
    Image.new("RGB", (60, 40), (90, 90, 90)).save(picture, "JPEG")
    page.get_by_label("Remark").fill("grey at the rim")
    page.get_by_label("photo", exact=True).set_input_files(
        files=[{"name": "rim.jpg", "mimeType": "image/jpeg", "buffer": picture.getvalue()}]
    )
    expect(page.get_by_role("img", name="grey at the rim")).to_be_visible()
    page.get_by_role("link", name="verdict").click()
    driver.sees(re.compile("School board paint is losing its lead"))
    driver.sees(re.compile("Seen: .*fade"))


def test_pale_natural_and_dark_blocks_scaled_to_a_wall(yard: tuple[Driver, Clock]):
    driver, clock = yard
    page = driver.page
    begun = datetime.fromisoformat("2025-02-22T12:30:00+01:00")
    clock.put(begun)
    driver.open("/sites/1/new")
    driver.begin_with("Blocks under glass")
    driver.sees("As they lie")
    driver.part("Sample size")
    driver.type_into("Thickness", "80 mm")
    driver.waits_until_headline("make", "3 samples, 1 pane")
    driver.stage("aim")
    driver.button("flat roof").click()
    driver.sees("from “flat roof”")
    driver.stage("trials")
    driver.button("Start a trial").click()
    page.get_by_label("Protocol").select_option("blocks-under-glass")
    page.get_by_label("Name").fill("February wall")
    driver.button("Start the clock").click()
    trial = trial_number(driver)
    facts, build = facts_of(driver, trial)
    assert build.sheet.thickness_m == pytest.approx(0.08)
    truth = Truth(calibration=Calibration(parts={"absorptance:sample-dark": 0.97}), noise_k=0.2, seed=12)
    for minute in (0, 60, 120, 150, 180, 210, 240, 300, 360, 390, 420):
        clock.put(facts.started + timedelta(minutes=minute))
        values = round_values(facts, build, truth, minute)
        if minute not in (0, 180, 420):
            send_round(driver, trial, values)
            continue
        page.reload()
        driver.sees(re.compile("Round .+: read"))
        type_round(driver, values)
    page.get_by_role("link", name="verdict").click()
    expect(page.get_by_role("heading", name=re.compile("Dark is the hottest"))).to_be_visible()
    driver.sees("Cooling of natural")
    driver.type_into("Wall", "8")
    wall = page.get_by_role("region", name="scaled to a wall")
    expect(wall.get_by_text(re.compile("given back after dusk by 8 m²"))).to_have_count(3)
    given = [float(re.search(r"(\d+\.\d+) ±", t).group(1)) for t in wall.get_by_role("listitem").all_inner_texts()]
    natural, pale, dark = given
    assert dark > natural > pale > 1.0
    driver.sees(re.compile("Wall of dark, given back after dusk"))


def fahrenheit_file(start: datetime) -> str:
    """A logger's day in an oven that leaks: °F, two gaps, a sensor that drops out once, a clock one hour behind."""
    day = ClearDay(tmin_c=15, tmax_c=26.5, rh=0.54, wind_m_s=2.0)
    channels = [
        ChannelFacts(channel=n, title=n, node=n, doubt=0.7, times=[], values=[]) for n in ("tray", "inside-air")
    ]
    facts = TrialFacts(
        name="f", protocol="free-log", started=start, spot="terrace", weather=day, load=None, preheated=False,
        channels=channels, events=[],
    )  # fmt: skip
    plan = [(5.0 * k, n) for k in range(96) if not 20 <= k < 29 and not 60 <= k < 65 for n in ("tray", "inside-air")]
    truth = Truth(calibration=Calibration(leak=5.0), noise_k=0.3, seed=15)
    rows: dict[datetime, dict[str, str]] = {}
    for sample in read_plan(TERRACE, OVEN, facts, truth, plan):
        local = sample.time.astimezone(TERRACE.zone) - timedelta(hours=1)
        rows.setdefault(local, {})[sample.channel] = f"{sample.value * 1.8 + 32:.1f}"
    lines = ["Date;Tray F;Box air F"]
    for number, (local, values) in enumerate(rows.items()):
        air = "---" if number == 40 else values["inside-air"]
        lines.append(f"{local:%d/%m/%Y %H:%M};{values['tray']};{air}")
    return "\n".join(lines)


def test_a_loggers_file_becomes_a_clean_trial_and_changes_tomorrow(yard: tuple[Driver, Clock]):
    driver, clock = yard
    page = driver.page
    begun = datetime.fromisoformat("2025-06-15T09:30:00+02:00")
    clock.put(begun)
    driver.open("/builds/1/trials")
    driver.button("Start a trial").click()
    page.get_by_label("Protocol").select_option("free-log")
    page.get_by_label("Name").fill("The grey logger")
    page.get_by_label("tray", exact=True).check()
    driver.button("Start the clock").click()
    trial = trial_number(driver)
    clock.on(hours=9)
    page.get_by_label("readings file").set_input_files(
        files=[{"name": "grey.csv", "mimeType": "text/csv", "buffer": fahrenheit_file(begun).encode()}]
    )
    driver.sees("2 gaps in the file, the longest of 50 min")
    driver.sees(re.compile("was the logger's clock 60 min behind"))
    expect(page.get_by_label("Unit of Tray F")).to_have_value("F")
    expect(page.get_by_label("Box air F goes to")).to_have_value("have:inside-air")
    page.get_by_label("Needs an answer").select_option("shift:60")
    driver.sees("all of it moved by 60 min")
    driver.button("Import", exact=True).click()
    driver.sees("Imported: 164 new, 0 there already, 1 flagged, 0 rows refused.")
    driver.sees("Flagged and kept: 1 without a number.")

    page.goto(f"{driver.url}/builds/1/verdict?trial={trial}")
    expect(page.get_by_role("heading", name=re.compile("more air leaks than the twin thinks"))).to_be_visible()
    learn = page.get_by_role("region", name="what the twin learns")
    expect(learn.get_by_text(re.compile(r"leak × [45]\.\d\d"))).to_be_visible()
    driver.sees("To change: renew the seal round the cover")
    before = driver.headline("forecast")
    driver.button("Accept for later forecasts").click()
    driver.sees("Accepted: forecasts of this build use it from now on.")
    driver.waits_until_headline_changes("forecast", before)
    driver.stage("forecast")
    page.keyboard.press(".")
    driver.sees("The twin runs as “The grey logger” taught it")
    driver.sees(re.compile("more air leaks than the twin thinks"))
    driver.stage("verdict")
    driver.button("Take back what “The grey logger” taught").click()
    driver.sees("Taken back: forecasts follow the textbook again")
    driver.open("/builds/1/forecast")
    driver.waits_until_headline("forecast", re.escape(before))
