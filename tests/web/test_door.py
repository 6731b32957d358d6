"""The front door: the page at once, the API when it is there."""

import threading

import pytest
from flask import Flask
from werkzeug.test import Client

from drylamp.web.door import Door, front
from drylamp.web.settings import HOSTS


@pytest.fixture
def page(tmp_path):
    static = tmp_path / "static"
    (static / "assets").mkdir(parents=True)
    (static / "index.html").write_text("<title>Dry Lamp</title><meta name='csp-nonce' content='__NONCE__'>")
    (static / "assets" / "a.js").write_text("1")
    return front(tmp_path / "yard.sqlite3", HOSTS, static)


def whole():
    app = Flask("whole")
    app.add_url_rule("/api/kinds", view_func=lambda: "all of it")
    return app


def test_the_page_comes_before_the_twin_and_questions_wait(page):
    go = threading.Event()
    door = Door(page, lambda: go.wait(20) and whole())
    loading = door.open()
    client = Client(door)
    assert "Dry Lamp" in client.get("/builds/1/make").text
    assert client.get("/assets/a.js").status_code == 200
    assert client.get("/api/health").json["state"] == "loading"
    waiting = []
    asking = threading.Thread(target=lambda: waiting.append(Client(door).get("/api/kinds").text))
    asking.start()
    asking.join(0.2)
    assert waiting == []
    go.set()
    asking.join(20)
    loading.join(20)
    assert waiting == ["all of it"]
    assert client.get("/api/kinds").text == "all of it"


def test_what_cannot_be_loaded_is_said(page):
    def broken():
        raise RuntimeError("the disk is full")

    door = Door(page, broken)
    door.open().join(20)
    answer = Client(door).get("/api/kinds")
    assert answer.status_code == 500
    assert "could not be loaded (the disk is full)" in answer.json["detail"]


def test_strangers_are_kept_out_by_the_door_too(page):
    answer = Client(page).get("/", headers={"Host": "evil.example"})
    assert answer.status_code == 403
    assert "nosniff" in answer.headers["X-Content-Type-Options"]
