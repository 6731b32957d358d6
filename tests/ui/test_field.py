"""Field mode: what speaks up, what is kept, what is one tap away, and what a thumb can reach on a phone."""

from __future__ import annotations

import json
import re
import urllib.request
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import demo_now
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled
from tests.ui.clocked import Clock, clocked_yard
from tests.ui.conftest import drive
from tests.ui.driver import Driver, patient_context

pytestmark = pytest.mark.ui

HEARD = """
window.heard = [];
navigator.vibrate = (pattern) => { window.heard.push(['buzz', pattern]); return true; };
class Quiet { constructor() { this.frequency = {}; this.gain = {}; } connect(x) { return x; } start(at) { window.heard.push(['tone', at]); } stop() {} }
window.AudioContext = class { constructor() { this.currentTime = 0; this.destination = {}; } resume() {} createOscillator() { return new Quiet(); } createGain() { return new Quiet(); } };
"""


@pytest.fixture(scope="module")
def yard(tmp_path_factory) -> Iterator[tuple[str, Clock]]:
    with clocked_yard(tmp_path_factory.mktemp("field")) as made:
        yield made


@pytest.fixture
def field(browser: Browser, yard: tuple[str, Clock]) -> Iterator[Driver]:
    yield from drive(browser, yard[0])


def get(driver: Driver, path: str) -> dict:
    with urllib.request.urlopen(driver.url + path, timeout=90) as answer:
        return json.load(answer)


def post(driver: Driver, path: str, body: object, token: str = "") -> dict:
    headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
    request = urllib.request.Request(driver.url + path, json.dumps(body).encode(), headers)
    with urllib.request.urlopen(request, timeout=90) as answer:
        return json.load(answer)


def new_trial(driver: Driver, **more: object) -> dict:
    channels = [{"name": n, "title": n, "node": n, "instrument": "logger"} for n in ("tray", "inside-air")]
    return post(
        driver, "/api/trials", {"build_id": 1, "name": "Field", "protocol": "free-log", "channels": channels, **more}
    )


def test_sound_and_buzz_when_a_reading_is_due(field: Driver, yard: tuple[str, Clock]):
    """The tone is planned ahead on the audio clock; at the time itself the phone buzzes, once."""
    clock = yard[1]
    trial = new_trial(field, protocol="quick-look", name="Alarm")
    post(field, f"/api/trials/{trial['id']}/readings", {"readings": [{"channel": "tray", "value": 22}]})
    field.page.add_init_script(HEARD)
    clock.on(minutes=4, seconds=52)
    field.open(f"/trials/{trial['id']}")
    field.sees("Next reading at")
    field.button("Sound off").click()
    expect(field.button("Sound on")).to_be_visible()
    field.sees("Read now")
    field.waits_until(lambda: any(h[0] == "buzz" for h in field.page.evaluate("window.heard")))
    field.page.wait_for_timeout(2500)
    heard = field.page.evaluate("window.heard")
    assert [h for h in heard if h[0] == "buzz"] == [["buzz", [300, 120, 300]]]
    assert any(h[0] == "tone" and 0 < h[1] < 10 for h in heard)
    field.page.reload()
    expect(field.button("Sound on")).to_be_visible()


def test_events_wait_on_the_device_as_readings_do(browser: Browser, yard: tuple[str, Clock]):
    made = patient_context(browser)
    driver = Driver(made.new_page(), yard[0])
    trial = new_trial(driver)
    driver.open(f"/trials/{trial['id']}")
    driver.page.route("**/events", lambda route: route.abort())
    driver.button("gust", exact=True).click()
    driver.page.get_by_label("Remark").fill("door slammed")
    driver.button("Note it").click()
    driver.sees("2 events kept on this device until the server answers")
    driver.page.reload()
    driver.sees("2 events kept on this device until the server answers")
    driver.page.unroute("**/events")
    log = driver.page.get_by_role("region", name="log of readings")
    expect(log.get_by_text("door slammed")).to_be_visible()
    expect(log.get_by_text("gust")).to_be_visible()
    assert len(get(driver, f"/api/trials/{trial['id']}")["events"]) == 2
    made.close()


def test_an_event_asks_what_it_needs_and_can_be_undone(field: Driver):
    trial = new_trial(field)
    field.open(f"/trials/{trial['id']}")
    field.button("moved", exact=True).click()
    which = field.page.get_by_role("group", name="moved: which")
    which.get_by_role("button", name="flat roof").click()
    field.sees("moved noted.")
    field.button("Undo", exact=True).click()
    expect(field.page.get_by_role("region", name="log of readings").get_by_text("moved")).to_have_count(0)
    field.button("sky is now").click()
    field.page.get_by_role("group", name="sky is now: which").get_by_role("button", name="hazy").click()
    field.sees("sky noted.")
    field.button("turned", exact=True).click()
    field.page.get_by_label("or to, degrees from north").fill("225")
    field.button("Turned", exact=True).click()
    field.sees("turned noted.")
    assert [(e["kind"], e["note"]) for e in get(field, f"/api/trials/{trial['id']}")["events"]] == [
        ("sky", "hazy"),
        ("turned", "225"),
    ]


def test_words_and_other_units_have_keys_of_their_own(field: Driver):
    channels = [
        {"name": "hand", "title": "hand on the tray", "node": "tray", "instrument": "words"},
        {"name": "wind", "title": "wind", "node": "wind", "instrument": "anemometer"},
    ]
    trial = new_trial(field, channels=channels)
    field.open(f"/trials/{trial['id']}")
    field.button("hand-hot").click()
    expect(
        field.page.get_by_role("region", name="log of readings").get_by_text("hand on the tray hand-hot")
    ).to_be_visible()
    field.button("wind", exact=True).click()
    pad = field.page.get_by_label("reading of wind")
    pad.fill("18 km/h")
    pad.press("Enter")
    field.sees("wind 5 m/s")
    kept = {r["channel"]: r["value"] for r in get(field, f"/api/trials/{trial['id']}")["readings"]}
    assert kept == {"hand": 44.0, "wind": pytest.approx(5.0)}


def test_what_is_done_later_is_stamped_later(field: Driver):
    trial = new_trial(field)
    field.open(f"/trials/{trial['id']}")
    field.button("tray", exact=True).click()
    pad = field.page.get_by_label("reading of tray")
    log = field.page.get_by_role("region", name="log of readings")
    field.page.wait_for_timeout(3000)
    pad.fill("41")
    pad.press("Enter")
    expect(log.get_by_text("tray 41 °C")).to_be_visible()
    field.button("cloud", exact=True).click()
    field.sees("cloud noted.")
    field.button("tray", exact=True).click()
    pad.fill("42")
    pad.press("Enter")
    expect(log.get_by_text("tray 42 °C")).to_be_visible()
    kept = get(field, f"/api/trials/{trial['id']}")
    first, second = (r["time"] for r in sorted(kept["readings"], key=lambda r: r["value"]))
    assert first < kept["events"][0]["time"] < second


def test_several_trials_are_one_tap_apart(field: Driver):
    one, other = new_trial(field, name="First of two"), new_trial(field, name="Second of two")
    field.open(f"/trials/{one['id']}")
    field.page.get_by_role("navigation", name="running trials").get_by_role("link", name="Second of two").click()
    expect(field.page).to_have_url(re.compile(rf"/trials/{other['id']}$"))
    expect(field.page.get_by_role("heading", name="Second of two")).to_be_visible()


def test_a_photo_of_sixty_megabytes_is_told_before_it_is_sent(field: Driver, tmp_path: Path):
    trial = new_trial(field)
    field.open(f"/trials/{trial['id']}")
    big = tmp_path / "big.jpg"
    big.write_bytes(b"\xff" * 60_000_000)
    field.page.get_by_label("photo", exact=True).set_input_files(big)
    field.sees("big.jpg has 60 MB; at most 25 MB can be sent")


def test_what_is_no_photo_is_told(browser: Browser, yard: tuple[str, Clock]):
    for driver in drive(browser, yard[0], expected_errors=True):
        trial = new_trial(driver)
        driver.open(f"/trials/{trial['id']}")
        driver.page.get_by_label("photo", exact=True).set_input_files(
            files=[{"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}]
        )
        driver.sees("this is no picture that can be read")


def logged(driver: Driver, trial: dict, count: int, swap_after: int | None = None) -> None:
    """Readings by a logger, with the leads exchanged after some of them."""
    facts = blank([channel("tray"), channel("inside-air")], start=demo_now())
    facts = filled(
        facts,
        Truth(calibration=Calibration(), noise_k=0.2),
        [(2.0 * k, n) for k in range(count) for n in ("tray", "inside-air")],
    )
    names = ("tray", "inside-air")
    rows = []
    for k, (a, b) in enumerate(zip(facts.channels[0].values, facts.channels[1].values, strict=True)):
        pair = (b, a) if swap_after is not None and k >= swap_after else (a, b)
        at = facts.channels[0].times[k].isoformat()
        rows += [{"time": at, "channel": n, "value": round(v, 2)} for n, v in zip(names, pair, strict=True)]
    post(driver, f"/api/trials/{trial['id']}/ingest", {"readings": rows}, trial["token"])


def test_swapped_leads_are_put_back_by_one_tap(field: Driver):
    trial = new_trial(field, started=demo_now().isoformat())
    logged(field, trial, 90, swap_after=50)
    field.open(f"/builds/1/verdict?trial={trial['id']}")
    field.sees(re.compile("were the leads swapped"))
    field.button("They were swapped").click()
    field.sees("the readings are put back")
    expect(field.page.get_by_text("were the leads swapped")).to_have_count(0)
    field.sees(re.compile("As good as its twin"))
    field.open(f"/trials/{trial['id']}")
    field.page.get_by_role("button", name=re.compile("^take back swapped")).click()
    field.sees("Event taken back.")
    field.open(f"/builds/1/verdict?trial={trial['id']}")
    field.sees(re.compile("were the leads swapped"))


def test_a_closer_look_shows_every_reading(field: Driver):
    trial = new_trial(field, started=demo_now().isoformat(), name="Long log")
    start = demo_now()
    rows = [
        {"time": (start + timedelta(seconds=4 * k)).isoformat(), "channel": "tray", "value": 60 + k % 9}
        for k in range(4000)
    ]
    post(field, f"/api/trials/{trial['id']}/ingest", {"readings": rows}, trial["token"])
    field.open(f"/trials/{trial['id']}")
    field.sees(re.compile(r"4,000 readings, drawn by \d+ of them with every extreme kept"))
    chart = field.page.get_by_role("img", name="readings beside the twin")
    box = chart.bounding_box()
    field.page.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + 60)
    field.page.mouse.down()
    field.page.mouse.move(box["x"] + box["width"] * 0.58, box["y"] + 60)
    field.page.mouse.up()
    expect(field.page.get_by_text("with every extreme kept")).to_have_count(0)
    field.button("whole trial").click()
    field.sees(re.compile("with every extreme kept"))


def test_calibration_is_typed_where_the_instrument_stands(field: Driver):
    trial = new_trial(field)
    post(
        field,
        f"/api/trials/{trial['id']}/readings",
        {"readings": [{"channel": "tray", "value": 61.5, "typed": "61.5"}]},
    )
    field.open(f"/trials/{trial['id']}")
    field.sees("61.5 °C")
    field.unfold("Instruments and their doubt")
    ice = field.page.get_by_label("Showed in melting ice").first
    ice.fill("1.5")
    ice.press("Enter")
    field.sees("60.0 °C")
    doubt = field.page.get_by_label("Its own doubt, ±").first
    doubt.fill("0.3")
    doubt.press("Enter")
    field.sees("tray (± 0.3 K, as typed)")
    field.unfold("Post from a logger")
    field.button("Show the token").click()
    field.sees(trial["token"])


BELOW_THE_TOP = "(one) => Math.round(one.getBoundingClientRect().y - one.closest('section').getBoundingClientRect().y)"


def test_the_keys_stay_under_the_thumb_while_readings_come_in(browser: Browser, yard: tuple[str, Clock]):
    made = patient_context(browser, viewport={"width": 390, "height": 844}, has_touch=True)
    driver = Driver(made.new_page(), yard[0])
    driver.open("/sites/1/yard")
    channels = [{"name": n, "title": n, "node": n, "instrument": "probe"} for n in ("tray", "inside-air")]
    trial = new_trial(driver, protocol="quick-look", channels=channels)
    driver.open(f"/trials/{trial['id']}")
    log = driver.page.get_by_role("region", name="log of readings and events")

    def keys_at() -> int:
        return driver.button("Keep it").evaluate(BELOW_THE_TOP)

    stood, begun = [keys_at()], yard[1].now()
    for minute in trial["protocol"]["reading_minutes"]:
        yard[1].put(begun + timedelta(minutes=minute))
        driver.page.reload()
        for node in ("tray", "inside-air"):
            driver.button(node, exact=True).click()
            pad = driver.page.get_by_label(f"reading of {node}")
            pad.fill("22")
            pad.press("Enter")
            expect(log.get_by_role("listitem")).to_have_count(len(stood))
            stood.append(keys_at())
    driver.sees("All planned readings are in.")
    assert set(stood) == {stood[0]}
    made.close()


def test_a_thumb_reaches_the_keys_of_a_phone(browser: Browser, yard: tuple[str, Clock]):
    made = patient_context(browser, viewport={"width": 390, "height": 844}, has_touch=True)
    driver = Driver(made.new_page(), yard[0])
    driver.open("/trials/5")
    driver.open("/trials/4")
    assert driver.page.evaluate("document.documentElement.scrollWidth <= document.documentElement.clientWidth")
    small = [
        (b.inner_text(), b.bounding_box()["height"])
        for b in driver.page.get_by_role("region", name="field mode").get_by_role("button").all()
        if b.bounding_box()["height"] < 36
    ]
    assert small == []
    keep, undo = (one.bounding_box() for one in (driver.button("Keep it"), driver.undo()))
    assert keep["y"] + keep["height"] <= undo["y"], "nothing lies over the key that is pressed most"
    made.close()
