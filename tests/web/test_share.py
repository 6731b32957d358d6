"""The door to the house's network, attacked: strangers, guesses, codes used twice, other origins, devices shut out, guests who write."""

from __future__ import annotations

import http.client
import json
import re
import socket
import ssl
import stat
import threading
from collections.abc import Iterator
from contextlib import suppress
from datetime import UTC, datetime, timedelta

import pytest

from drylamp.commands.shared import Sharing
from drylamp.commands.sharing import SharedDoor
from drylamp.core.checks import InputProblem
from drylamp.demo.scenario import TERRACE, demo_now
from drylamp.store.devices import DeviceRow
from drylamp.web.app import create_app
from drylamp.web.settings import Settings
from drylamp.web.share import share as sharing
from drylamp.web.share.asker import DEVICE
from drylamp.web.share.certificate import CERTIFICATE_NAME, KEY_NAME, identity
from drylamp.web.share.pairing import LASTS_S, TRIES, TRIES_IN_S, Pairing, Silence, tidy
from tests.web.test_all_or_nothing import WRITES, everything
from tests.web.test_all_or_nothing import yard as yard

GUEST = DeviceRow(7, "visitor", True, "2025-06-12T10:00:00+00:00", "2025-06-12T10:00:00+00:00", None)
NOW = datetime(2025, 6, 12, 10, tzinfo=UTC)


class Clock:
    """A clock that a test moves."""

    def __init__(self) -> None:
        self.seconds = 1000.0

    def __call__(self) -> float:
        return self.seconds


class Phone:
    """Something on the house's network that speaks TLS, with whatever cookie it has."""

    def __init__(self, port: int, host: str | None = None) -> None:
        self.port, self.host, self.cookie = port, host or f"127.0.0.1:{port}", ""
        self.trust = ssl._create_unverified_context()

    def ask(self, method: str, path: str, body: str = "", **headers: str) -> tuple[int, dict[str, str], str]:
        line = http.client.HTTPSConnection("127.0.0.1", self.port, timeout=30, context=self.trust)
        sent = {"Host": self.host, **({"Cookie": self.cookie} if self.cookie else {}), **headers}
        line.request(method, path, body=body, headers={k.replace("_", "-"): v for k, v in sent.items()})
        answer = line.getresponse()
        return answer.status, {k.lower(): v for k, v in answer.getheaders()}, answer.read().decode()

    def pair(self, code: str, name: str = "a phone", **headers: str) -> int:
        form = f"code={code}&name={name}"
        status, got, _ = self.ask("POST", "/pair", form, Content_Type="application/x-www-form-urlencoded", **headers)
        if "set-cookie" in got:
            self.cookie = got["set-cookie"].split(";")[0]
        return status


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def door(tmp_path, clock: Clock, monkeypatch) -> Iterator[SharedDoor]:
    monkeypatch.setattr(sharing, "own_addresses", lambda: ["127.0.0.1"])
    data = tmp_path / "yard.sqlite3"
    share = sharing.begin(tmp_path, lambda: NOW)
    share.pairing = Pairing(clock)
    made = SharedDoor(share, data, Sharing(True, 0, 0))
    app = create_app(Settings(data=data, now=demo_now, share=share))
    app.test_client().post("/api/sites", json=TERRACE.model_dump(mode="json"))
    made.open(app, host="127.0.0.1")
    made.app = app
    yield made
    made.close()
    app.config["DATABASE"].close()


@pytest.fixture
def phone(door: SharedDoor) -> Phone:
    return Phone(door.share.port)


def invited(door: SharedDoor, guest: bool = False) -> str:
    return door.share.pairing.invite(guest).code


# --- strangers ---


@pytest.mark.parametrize(
    "path", ["/api/sites", "/api/now", "/assets/x.js", "/api/openapi.json", "/api/health", "/sw.js", "/api/share"]
)
def test_without_pairing_nothing_but_the_pairing_page_answers(phone: Phone, path: str):
    assert phone.ask("GET", path)[::2] == (403, "")
    assert phone.ask("POST", path, "{}", Content_Type="application/json")[::2] == (403, "")


def test_whoever_looks_is_led_to_the_pairing_page(phone: Phone):
    status, headers, body = phone.ask("GET", "/sites/1/yard", Accept="text/html")
    assert (status, headers["location"], body) == (303, "/pair", "")
    status, headers, body = phone.ask("GET", "/pair?code=abcd-2345", Accept="text/html")
    assert status == 200
    assert 'value="ABCD2345"' in body
    assert "<script" not in body
    assert "script-src 'self'" in headers["content-security-policy"]


def test_it_answers_to_its_own_names_only(door: SharedDoor):
    stranger = Phone(door.share.port, host="evil.example:443")
    assert stranger.ask("GET", "/pair")[::2] == (421, "")
    assert stranger.pair(invited(door)) == 421


def test_it_speaks_no_plain_text_and_no_old_tls(door: SharedDoor):
    with socket.create_connection(("127.0.0.1", door.share.port), timeout=20) as line:
        line.sendall(b"GET /pair HTTP/1.1\r\nHost: x\r\n\r\n")
        assert b"HTTP" not in line.recv(1000)
    old = ssl._create_unverified_context()
    with pytest.warns(DeprecationWarning, match="TLSv1_1"):
        old.maximum_version = ssl.TLSVersion.TLSv1_1
    with (
        pytest.raises((ssl.SSLError, ConnectionError)),
        socket.create_connection(("127.0.0.1", door.share.port)) as line,
    ):
        old.wrap_socket(line)


def test_who_says_nothing_holds_nobody_up(door: SharedDoor, phone: Phone):
    silent = [socket.create_connection(("127.0.0.1", door.share.port)) for _ in range(60)]
    try:
        assert phone.ask("GET", "/pair")[0] == 200
    finally:
        for line in silent:
            line.close()


# --- pairing ---


def test_a_code_lets_one_device_in_once(door: SharedDoor, phone: Phone):
    code = invited(door)
    assert phone.pair(f"{code[:4].lower()}-{code[4:]}", "Ann's phone") == 303
    assert json.loads(phone.ask("GET", "/api/sites")[2])[0]["site"]["name"] == TERRACE.name
    again = Phone(phone.port)
    assert again.pair(code) == 403
    assert again.cookie == ""
    told = json.loads(phone.ask("GET", "/api/share")[2])
    assert (told["this"]["name"], told["at_machine"], told["devices"], told["may_write"]) == (
        "Ann's phone",
        False,
        [],
        True,
    )


def test_its_cookie_is_kept_from_scripts_and_from_plain_text(door: SharedDoor, phone: Phone):
    _, headers, _ = phone.ask(
        "POST", "/pair", f"code={invited(door)}&name=x", Content_Type="application/x-www-form-urlencoded"
    )
    cookie = headers["set-cookie"]
    assert cookie.startswith("__Host-drylamp=")
    for mark in ("Secure", "HttpOnly", "Path=/", "SameSite=Lax"):
        assert mark in cookie
    assert "Domain" not in cookie


def test_guessing_ends_in_silence_even_for_the_right_code(door: SharedDoor, phone: Phone, clock: Clock):
    code = invited(door)
    assert [phone.pair("WRONG234") for _ in range(TRIES)] == [403] * TRIES
    for _ in range(2):
        with pytest.raises((http.client.RemoteDisconnected, ConnectionError, ssl.SSLError)):
            phone.pair(code)
    clock.seconds += TRIES_IN_S + 1.0
    assert phone.pair(code) == 303


def test_who_is_paired_goes_on_while_somebody_guesses(door: SharedDoor, phone: Phone):
    phone.pair(invited(door))
    guesser = Phone(phone.port)
    for _ in range(TRIES + 1):
        with suppress(http.client.RemoteDisconnected, ConnectionError, ssl.SSLError):
            guesser.pair("WRONG234")
    assert phone.ask("GET", "/api/sites")[0] == 200


def test_a_code_works_for_minutes(door: SharedDoor, phone: Phone, clock: Clock):
    code = invited(door)
    clock.seconds += LASTS_S + 1.0
    assert phone.pair(code) == 403


def test_pairing_from_another_page_is_refused(door: SharedDoor, phone: Phone):
    code = invited(door)
    assert phone.pair(code, Origin="https://evil.example") == 403
    assert phone.pair(code, Sec_Fetch_Site="cross-site") == 403
    assert phone.pair(code, Origin=f"https://127.0.0.1:{phone.port}") == 303


@pytest.mark.parametrize(
    "spoil",
    [
        lambda c: c[:-2] + ("AA" if c[-2:] != "AA" else "BB"),
        lambda c: c.replace("=", "=x", 1),
        lambda c: "__Host-drylamp=",
        lambda c: f"drylamp={c.split('=', 1)[1]}",
    ],
)
def test_a_cookie_that_was_not_signed_here_opens_nothing(door: SharedDoor, phone: Phone, spoil):
    phone.pair(invited(door))
    phone.cookie = spoil(phone.cookie)
    assert phone.ask("GET", "/api/sites")[0] == 403


def test_a_cookie_of_another_servers_secret_opens_nothing(door: SharedDoor, phone: Phone, tmp_path):
    phone.pair(invited(door))
    (tmp_path / "other").mkdir()
    other = sharing.begin(tmp_path / "other", lambda: NOW)
    phone.cookie = f"{sharing.COOKIE}={other.signer.dumps([1, 'x'])}"
    assert phone.ask("GET", "/api/sites")[0] == 403


def test_changes_from_another_origin_are_refused_with_a_good_cookie(door: SharedDoor, phone: Phone):
    phone.pair(invited(door))
    body = json.dumps(TERRACE.model_dump(mode="json"))
    refused = phone.ask("POST", "/api/sites", body, Content_Type="application/json", Origin="https://evil.example")
    assert refused[0] == 403
    taken = phone.ask(
        "POST", "/api/sites", body, Content_Type="application/json", Origin=f"https://127.0.0.1:{phone.port}"
    )
    assert taken[0] == 201


# --- the list of devices ---


def test_shutting_out_works_at_once_and_at_the_machine_only(door: SharedDoor, phone: Phone):
    phone.pair(invited(door), "old phone")
    machine = door.app.test_client()
    (device,) = machine.get("/api/share").get_json()["devices"]
    path = f"/api/share/devices/{device['id']}/revoke"
    assert phone.ask("POST", path)[0] == 403
    assert phone.ask("POST", "/api/share/invitations", "{}", Content_Type="application/json")[0] == 403
    assert machine.post(path).get_json()["devices"] == []
    assert phone.ask("GET", "/api/sites")[::2] == (403, "")
    assert machine.post(path).status_code == 404


def test_an_invitation_is_a_code_an_address_and_a_picture_of_it(door: SharedDoor, phone: Phone):
    made = door.app.test_client().post("/api/share/invitations", json={"guest": True}).get_json()
    code = tidy(made["code"])
    assert made["url"] == f"https://127.0.0.1:{door.share.port}/pair?code={code}"
    assert made["picture"].startswith("data:image/svg+xml")
    assert phone.pair(code) == 303
    assert json.loads(phone.ask("GET", "/api/share")[2])["may_write"] is False


def test_without_sharing_there_is_no_code(client):
    told = client.get("/api/share").get_json()
    assert (told["on"], told["at_machine"], told["addresses"]) == (False, True, [])
    assert "drylamp serve --share" in client.post("/api/share/invitations", json={}).get_json()["detail"]


@pytest.mark.parametrize("route", WRITES)
def test_a_guest_may_change_nothing(yard, route: str):
    if route.endswith("/ingest"):
        pytest.skip("a logger is let in by its token, not by pairing")
    before = everything(yard)
    yard.environ_base[DEVICE] = GUEST
    answer = WRITES[route](yard)
    assert answer.status_code == 403, answer.text
    assert everything(yard) == before


def test_a_guest_sees_no_token(yard):
    assert yard.get("/api/trials/1").get_json()["token"] != ""
    yard.environ_base[DEVICE] = GUEST
    assert yard.get("/api/trials/1").get_json()["token"] == ""


# --- loggers ---


def test_a_logger_needs_its_token_and_no_pairing_and_plain_text_takes_nothing_else(door: SharedDoor, phone: Phone):
    line = http.client.HTTPConnection("127.0.0.1", door.ingest_port, timeout=30)
    for method, path in (
        ("GET", "/api/sites"),
        ("GET", "/pair"),
        ("POST", "/api/sites"),
        ("GET", "/api/trials/1/ingest"),
    ):
        line.request(method, path, headers={"Host": f"192.168.1.2:{door.ingest_port}"})
        answer = line.getresponse()
        assert (answer.status, answer.read()) == (404, b"")
    csv = {"Content-Type": "text/csv", "Host": f"192.168.1.2:{door.ingest_port}"}
    line.request("POST", "/api/trials/1/ingest", body="x", headers=csv)
    assert line.getresponse().status == 404, "the route itself answers: there is no such trial"
    assert phone.ask("POST", "/api/trials/1/ingest", "x", Content_Type="text/csv")[0] == 404


# --- what is kept ---


def test_key_and_secret_are_for_their_owner_only_and_last(door: SharedDoor, tmp_path):
    for name in (KEY_NAME, CERTIFICATE_NAME, "share-secret"):
        assert stat.S_IMODE((tmp_path / name).stat().st_mode) == 0o600
    again = sharing.begin(tmp_path, lambda: NOW)
    assert again.identity.fingerprint == door.share.identity.fingerprint
    assert not again.identity.is_new
    assert re.fullmatch(r"([0-9A-F]{2}:){31}[0-9A-F]{2}", again.identity.fingerprint)


def test_a_certificate_is_renewed_near_its_end_or_for_a_new_address(tmp_path):
    first = identity(tmp_path, ["192.168.1.2"], NOW)
    assert identity(tmp_path, ["192.168.1.2"], NOW + timedelta(days=700)).fingerprint == first.fingerprint
    moved = identity(tmp_path, ["192.168.1.3"], NOW)
    assert moved.is_new
    assert identity(tmp_path, ["192.168.1.3"], NOW + timedelta(days=800)).is_new
    (tmp_path / KEY_NAME).write_text("no key")
    assert identity(tmp_path, ["192.168.1.3"], NOW).is_new


def test_where_nothing_can_be_kept_it_says_so(tmp_path):
    with pytest.raises(InputProblem, match="must hold the secret"):
        sharing.begin(tmp_path / "not" / "there", lambda: NOW)


def test_many_may_try_at_once_and_one_code_lets_one_in(clock: Clock):
    pairing = Pairing(clock)
    code, found = pairing.invite(False).code, []

    def attempt() -> None:
        with suppress(Silence):
            found.append(pairing.try_code(code))

    tries = [threading.Thread(target=attempt) for _ in range(TRIES)]
    for one in tries:
        one.start()
    for one in tries:
        one.join()
    assert len([one for one in found if one is not None]) == 1
