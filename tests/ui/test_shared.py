"""A phone in the garden: paired with the machine in the house, out of reach of it, and back again."""

from __future__ import annotations

import base64
import hashlib
import io
import re
from collections.abc import Iterator
from contextlib import suppress

import pytest
from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from PIL import Image
from playwright.sync_api import Browser, BrowserContext, BrowserType, Page, expect

from drylamp.commands.shared import Sharing
from drylamp.commands.sharing import SharedDoor
from drylamp.web.settings import wall_clock
from drylamp.web.share import share as sharing
from tests.ui.chromium import CHROMIUM, FLAGS, WHOLE
from tests.ui.clocked import clocked_yard
from tests.ui.driver import Driver, patient_context

pytestmark = pytest.mark.ui
PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}


@pytest.fixture(scope="module")
def house(tmp_path_factory) -> Iterator[tuple[str, SharedDoor]]:
    """The demo's yard at the machine's own address, and its door to the house's network, here on the loopback."""
    folder = tmp_path_factory.mktemp("house")
    patch = pytest.MonkeyPatch()
    patch.setattr(sharing, "own_addresses", lambda: ["127.0.0.1"])
    share = sharing.begin(folder, wall_clock)
    patch.undo()
    with clocked_yard(folder, share=share) as (url, clock):
        door = SharedDoor(share, clock.data, Sharing(True, 0))
        door.open(clock.app, host="127.0.0.1")
        yield url, door
        door.close()


@pytest.fixture
def host(browser: Browser, house: tuple[str, SharedDoor]) -> Iterator[Driver]:
    made = patient_context(browser, viewport={"width": 1280, "height": 800})
    yield Driver(made.new_page(), house[0])
    made.close()


@pytest.fixture(scope="module")
def trusting(browser_type: BrowserType, house: tuple[str, SharedDoor]) -> Iterator[Browser]:
    """A browser on a device whose owner compared the fingerprint and trusts this one certificate."""
    certificate = x509.load_pem_x509_certificate(house[1].share.identity.certificate.read_bytes())
    public = certificate.public_key().public_bytes(Encoding.DER, PublicFormat.SubjectPublicKeyInfo)
    pin = base64.b64encode(hashlib.sha256(public).digest()).decode()
    made = browser_type.launch(executable_path=CHROMIUM, args=[*FLAGS, f"--ignore-certificate-errors-spki-list={pin}"])
    yield made
    made.close()


@pytest.fixture
def phone(trusting: Browser, house: tuple[str, SharedDoor]) -> Iterator[Driver]:
    made = patient_context(trusting, service_workers="allow", **PHONE)
    yield Driver(made.new_page(), house[1].share.url("").rstrip("/"))
    made.close()


def pair(host: Driver, phone: Driver, name: str, guest: bool = False) -> None:
    host.open("/sites/1/yard")
    host.button("Devices").click()
    if guest:
        host.page.get_by_label("a guest, who may only look").check()
    host.button("Make a code").click()
    code = host.page.locator(".invitation .size-24").inner_text()
    phone.page.goto(f"{phone.url}/sites/1/yard")
    expect(phone.page.get_by_role("heading", name="Pair this device")).to_be_visible()
    phone.page.get_by_label("Code").fill(code.lower())
    phone.page.get_by_label("What this device is called").fill(name)
    phone.page.get_by_role("button", name="Pair").click()
    expect(phone.page.get_by_role("slider", name="lamp")).to_be_visible()


def under_the_worker(phone: Driver) -> None:
    phone.waits_until(lambda: phone.page.evaluate("navigator.serviceWorker.controller !== null"))


def photo() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (64, 48), "#C97800").save(out, "JPEG")
    return out.getvalue()


def offline(context: BrowserContext, page: Page, away: bool) -> None:
    """The garden's far end, or back by the house."""
    context.set_offline(away)
    if not away:
        page.evaluate("window.dispatchEvent(new Event('online'))")


def kept_readings(host: Driver) -> list[tuple[str, float]]:
    view = host.page.request.get(f"{host.url}/api/trials/4").json()
    return [(r["channel"], r["value"]) for r in view["readings"] if r["source"] == "hand"]


def test_a_phone_is_paired_loses_the_network_and_brings_everything_home_once_and_in_order(host: Driver, phone: Driver):
    pair(host, phone, "garden phone")
    before = kept_readings(host)
    page, line = phone.page, phone.page.context
    page.goto(f"{phone.url}/trials/4")
    expect(page.get_by_role("region", name="field mode")).to_be_visible()
    under_the_worker(phone)
    page.reload()  # what is looked at under the worker is what it keeps
    expect(page.get_by_role("region", name="field mode")).to_be_visible()
    page.wait_for_load_state("networkidle")

    offline(line, page, True)
    page.reload()
    expect(page.get_by_role("region", name="field mode")).to_be_visible()
    for typed in ("61", "62"):
        pad = page.get_by_label(re.compile("^reading of"))
        pad.fill(typed)
        pad.press("Enter")
    page.get_by_role("group", name="events").get_by_role("button", name="gust").click()
    page.get_by_label("Remark").fill("behind the shed")
    page.get_by_label("photo", exact=True).set_input_files(
        [{"name": "a.jpg", "mimeType": "image/jpeg", "buffer": photo()}]
    )
    expect(
        page.get_by_text("2 readings, 1 event, 1 photo kept on this device until the server answers.")
    ).to_be_visible()
    page.reload()
    expect(
        page.get_by_text("2 readings, 1 event, 1 photo kept on this device until the server answers.")
    ).to_be_visible()
    assert kept_readings(host) == before

    order: list[str] = []
    page.on(
        "request",
        lambda r: (
            order.append(r.url.split("/trials/4/")[1].split("?")[0])
            if r.method == "POST" and "/trials/4/" in r.url
            else None
        ),
    )
    offline(line, page, False)
    expect(page.get_by_text("kept on this device")).to_have_count(0)
    assert [value for _, value in kept_readings(host)[len(before) :]] == [61.0, 62.0]
    sent = [step for step in order if step in ("readings", "events", "photos")]
    assert sent[-3:] == ["readings", "events", "photos"]
    view = host.page.request.get(f"{host.url}/api/trials/4").json()
    assert [p["note"] for p in view["photos"]].count("behind the shed") == 1
    assert [e["kind"] for e in view["events"]].count("gust") == 1
    page.reload()
    page.wait_for_load_state("networkidle")
    assert len(kept_readings(host)) == len(before) + 2, "nothing is sent twice"


def test_a_phone_that_is_shut_out_meets_the_pairing_page_and_keeps_nothing_of_the_yard(host: Driver, phone: Driver):
    pair(host, phone, "lost phone")
    phone.page.goto(f"{phone.url}/trials/4")
    under_the_worker(phone)
    phone.page.reload()
    expect(phone.page.get_by_role("region", name="field mode")).to_be_visible()
    host.page.reload()
    host.button("Devices").click()
    host.button("Shut lost phone out").click()
    expect(host.page.get_by_text("lost phone", exact=False)).to_have_count(1)  # the word that it is done
    pad = phone.page.get_by_label(re.compile("^reading of"))
    pad.fill("99")
    pad.press("Enter")
    expect(phone.page.get_by_text("1 reading kept on this device, not sent", exact=False)).to_be_visible()
    phone.page.goto(f"{phone.url}/sites/1/yard")
    expect(phone.page.get_by_role("heading", name="Pair this device")).to_be_visible()
    with suppress(Exception):
        assert phone.page.evaluate("caches.has('drylamp-answers')") is False


def test_a_guest_looks_and_is_told_why_nothing_changes(host: Driver, phone: Driver):
    pair(host, phone, "visitor", guest=True)
    phone.page.goto(f"{phone.url}/builds/1/make")
    expect(phone.page.get_by_text("Today with this")).to_be_visible()
    before = host.page.request.get(f"{host.url}/api/builds/1").json()["revision"]
    phone.page.get_by_role("button", name="Sheets: 3").click()
    expect(phone.page.get_by_text("this device may look and not change anything", exact=False).first).to_be_visible()
    assert host.page.request.get(f"{host.url}/api/builds/1").json()["revision"] == before


def test_it_can_be_installed(host: Driver):
    host.open("/sites/1/yard")
    told = host.page.request.get(f"{host.url}/manifest.webmanifest")
    assert told.headers["content-type"] == "application/manifest+json"
    manifest = told.json()
    for icon in manifest["icons"]:
        picture = Image.open(io.BytesIO(host.page.request.get(f"{host.url}{icon['src']}").body()))
        assert f"{picture.width}x{picture.height}" == icon["sizes"]


@pytest.mark.skipif(not WHOLE.exists(), reason="Chromium without its window installs nothing")
def test_chromium_would_install_it(browser_type: BrowserType, shared_yard: str):
    with browser_type.launch(executable_path=str(WHOLE), args=FLAGS) as browser:
        page = browser.new_page()
        page.goto(f"{shared_yard}/sites/1/yard")
        found = page.context.new_cdp_session(page).send("Page.getInstallabilityErrors")
    assert [e["errorId"] for e in found["installabilityErrors"]] == ["in-incognito"], (
        "a test's own window is private; nothing else may be wrong"
    )
