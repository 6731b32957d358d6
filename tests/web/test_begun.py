"""A page is opened with the answers that its view asks for first."""

from __future__ import annotations

import json
import re

import pytest
from flask.testing import FlaskClient

FRAME = ["/api/now", "/api/sites", "/api/kinds", "/api/unreadable"]
OF_SITE = ["/api/builds?site=1", "/api/sites/1/strip?day=2025-06-12"]


def answers(client: FlaskClient, address: str) -> dict[str, str]:
    page = client.get(address).get_data(as_text=True)
    return dict(re.findall(r'<script type="application/json" data-answers="([^"]+)">(.*?)</script>', page, re.DOTALL))


@pytest.mark.usefixtures("trial")
@pytest.mark.parametrize(("address", "told"), [
    ("/", [*FRAME, *OF_SITE]),
    ("/sites/1/yard?day=2025-06-12", [*FRAME, *OF_SITE]),
    ("/sites/1/place?day=2025-03-01", [*FRAME, OF_SITE[0], "/api/sites/1/strip?day=2025-03-01"]),
    ("/builds/1/make", [*FRAME, "/api/builds/1", *OF_SITE]),
    ("/trials/1", [*FRAME, "/api/trials/1", "/api/builds/1", *OF_SITE]),
    ("/builds/999/make", FRAME), ("/trials/999", FRAME), ("/sites/999/yard", FRAME), ("/sites/1/yard?day=never", [*FRAME, OF_SITE[0]]),
    ("/cannot-be-read", []), ("/builds/one/make", []), ("/sites/99999999999999999999/yard", []),
])  # fmt: skip
def test_what_stands_in_a_page_is_what_would_be_answered(client: FlaskClient, address: str, told: list[str]):
    found = answers(client, address)
    assert list(found) == told
    for asked, text in found.items():
        assert json.loads(text) == client.get(asked).get_json(), asked


def test_what_somebody_typed_cannot_end_the_part_it_stands_in(client: FlaskClient):
    site = client.get("/api/sites").get_json()[0]
    name = "</script><script>alert(1)</script><!--"
    mark = {"If-Match": f'"r{site["revision"]}"'}
    assert client.put("/api/sites/1", json=site["site"] | {"name": name}, headers=mark).status_code == 200
    assert "<script>alert" not in client.get("/sites/1/yard").get_data(as_text=True)
    assert json.loads(answers(client, "/sites/1/yard")["/api/sites"])[0]["site"]["name"] == name


def test_the_head_of_a_page_asks_nothing(client: FlaskClient):
    assert "data-answers" not in client.head("/sites/1/yard").get_data(as_text=True)


def test_the_files_of_a_screen_come_ahead(client: FlaskClient):
    """Those that the frame does not bring; a screen that has no name of its own waits until it is asked for."""
    page = client.get("/sites/1/yard").get_data(as_text=True)
    ahead = re.findall(r'rel="modulepreload" crossorigin href="/assets/([^"]+)"', page)
    assert any(name.startswith("YardScreen-") for name in ahead)
    assert not {name for name in ahead if f'src="/assets/{name}"' in page}
    assert "modulepreload" not in client.get("/").get_data(as_text=True)
