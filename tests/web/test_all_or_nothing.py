"""Every route that writes: what could not be answered is not kept, and nothing is said to be unwritten that was written."""

from __future__ import annotations

import io
import sqlite3
from collections.abc import Callable

import pytest
from PIL import Image

from drylamp.core.tables import absorbers
from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.web import context

AT = "2025-06-12T10:05:00+00:00"
SITE = TERRACE.model_dump(mode="json")
SPEC = OVEN.model_dump(mode="json")
DAY = {"tmin_c": 12, "tmax_c": 20, "rh": 0.5, "wind_m_s": 2}
PAINT = {"absorber": {**absorbers()["flat-black-paint"].model_dump(mode="json"), "name": "own-soot"}}
CSV = "time,tray\n2025-06-12T12:07+02:00,44\n"
TARGET = [{"column": "tray", "channel": {"name": "tray", "title": "tray", "node": "tray"}}]
FINDING = {"on": "2025-06-01", "words": "looked at"}
WEATHER = "time,ghi_w_m2,air_c\n2025-06-12T10:00Z,500,20\n2025-06-12T11:00Z,600,21\n"
R1 = {"If-Match": '"r1"'}


def picture() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (8, 8), "red").save(out, "JPEG")
    return out.getvalue()


def js(path: str, body: object, method: str = "post", **headers: str) -> Callable:
    return lambda client: getattr(client, method)(path, json=body, headers=headers)


WRITES: dict[str, Callable] = {
    "POST /api/sites": js("/api/sites", SITE),
    "PUT /api/sites/<int:id>": js("/api/sites/1", SITE, "put", **R1),
    "PUT /api/sites/<int:id>/days/<string:day>": js("/api/sites/1/days/2025-06-12", DAY, "put"),
    "DELETE /api/sites/<int:id>/days/<string:day>": js("/api/sites/1/days/2025-06-01", None, "delete"),
    "POST /api/sites/<int:id>/weather-files": js("/api/sites/1/weather-files", {"kind": "csv", "text": WEATHER}),
    "POST /api/builds": js("/api/builds", {"site_id": 1, "name": "x", "spec": SPEC}),
    "POST /api/builds/from-file": lambda client: client.post("/api/builds/from-file", json={"site_id": 1, "text": client.get("/api/builds/1/file").text}),
    "PUT /api/builds/<int:id>": js("/api/builds/1", {"name": "y", "spec": SPEC}, "put", **{"If-Match": '"r2"'}),
    "POST /api/builds/<int:id>/undo": js("/api/builds/1/undo", None, **{"If-Match": '"r2"'}),
    "POST /api/builds/<int:id>/put-away": js("/api/builds/1/put-away", None, **{"If-Match": '"r2"'}),
    "POST /api/builds/<int:id>/bring-back": js("/api/builds/2/bring-back", None, **R1),
    "DELETE /api/builds/<int:id>": js("/api/builds/1", None, "delete", **{"If-Match": '"r2"'}),
    "POST /api/builds/<int:id>/restore": js("/api/builds/2/restore", None, **R1),
    "POST /api/builds/<int:id>/calibration/<int:part_id>/withdraw": js("/api/builds/1/calibration/1/withdraw", None),
    "POST /api/builds/<int:id>/calibration/<int:part_id>/restore": js("/api/builds/1/calibration/2/restore", None),
    "POST /api/builds/<int:id>/variants": js("/api/builds/1/variants", {"name": "another variant"}),
    "POST /api/builds/<int:id>/take-over": js("/api/builds/1/take-over", {"variant": 3}, **{"If-Match": '"r2"'}),
    "POST /api/classes": js("/api/classes", {"build_id": 1, "name": "class", "node": "inside-air", "boxes": [{"name": "Oda"}, {"name": "Nim", "like": 3}]}),
    "POST /api/builds/<int:id>/set-aside": js("/api/builds/1/set-aside", None),
    "DELETE /api/builds/<int:id>/set-aside": js("/api/builds/1/set-aside", None, "delete"),
    "POST /api/sites/<int:id>/yard/<int:part_id>/tick": js("/api/sites/1/yard/1/tick", {"day": "2025-06-12", "planned": "10:00", "what": "open the mirror"}),
    "POST /api/wishes/begin": js("/api/wishes/begin", {"site_id": 1, "text": "cook stew, I have two panes 60 × 110", "name": "wished", "spec": SPEC, "load": None}),
    "POST /api/yard/take-in": lambda client: client.post("/api/yard/take-in", data=client.get("/api/yard/file").data, content_type="application/zip"),
    "POST /api/materials": js("/api/materials", {"absorber": {**PAINT["absorber"], "name": "new-soot"}}),
    "PUT /api/materials/<int:id>": js("/api/materials/1", {"absorber": {**PAINT["absorber"], "name": "soot-2"}}, "put", **R1),
    "DELETE /api/materials/<int:id>": js("/api/materials/1", None, "delete", **R1),
    "POST /api/materials/<int:id>/restore": js("/api/materials/2/restore", None),
    "POST /api/trials": js("/api/trials", {"build_id": 1, "name": "t", "protocol": "quick-look"}),
    "PUT /api/trials/<int:id>/channels/<string:channel>": lambda client: client.put("/api/trials/1/channels/tray", json={"name": "tray", "title": "other", "node": "tray"}, headers={"If-Match": f'"{client.seen["channels_mark"]}"'}),
    "POST /api/trials/<int:id>/events": js("/api/trials/1/events", {"kind": "cloud", "time": AT}),
    "POST /api/trials/<int:id>/events/<int:part_id>/withdraw": js("/api/trials/1/events/1/withdraw", None),
    "POST /api/trials/<int:id>/photos": lambda client: client.post("/api/trials/1/photos", data=picture(), content_type="image/jpeg"),
    "POST /api/trials/<int:id>/photos/<int:part_id>/withdraw": js("/api/trials/1/photos/1/withdraw", None),
    "POST /api/trials/<int:id>/photos/<int:part_id>/restore": js("/api/trials/1/photos/2/restore", None),
    "POST /api/trials/<int:id>/end": js("/api/trials/1/end", {}),
    "POST /api/trials/<int:id>/accept": js("/api/trials/1/accept", {}),
    "POST /api/trials/<int:id>/readings": js("/api/trials/1/readings", {"source": "file", "readings": [{"channel": "tray", "value": 44, "time": "2025-06-12T10:06:00Z"}]}),
    "POST /api/trials/<int:id>/paper": js("/api/trials/1/paper", {"rows": [{"at": "12:08", "values": {"tray": "45"}}], "write": True, "ahead": True}),
    "POST /api/trials/<int:id>/ingest": lambda client: client.post("/api/trials/1/ingest", data="2025-06-12T10:09:00Z,tray,46", content_type="text/csv", headers={"X-Trial-Token": client.seen["token"]}),
    "POST /api/trials/<int:id>/imports/<int:part_id>/withdraw": js("/api/trials/1/imports/1/withdraw", None),
    "POST /api/trials/<int:id>/imports/<int:part_id>/restore": js("/api/trials/1/imports/2/restore", None),
    "POST /api/trials/<int:id>/readings/withdraw": js("/api/trials/1/readings/withdraw", {"channel": "tray", "time": AT}),
    "POST /api/trials/<int:id>/readings/restore": js("/api/trials/1/readings/restore", {"channel": "tray", "time": "2025-06-12T10:00:00+00:00"}),
    "POST /api/trials/<int:id>/shift-clock": js("/api/trials/1/shift-clock", {"minutes": 1}),
    "POST /api/trials/<int:id>/import": js("/api/trials/1/import", {"text": CSV, "columns": TARGET}),
    "POST /api/sheets/<string:of>/<int:owner_id>/<string:sheet>": js("/api/sheets/build/1/upkeep", {"content": FINDING}),
    "POST /api/sheets/<string:of>/<int:owner_id>/<string:sheet>/many": js("/api/sheets/build/1/upkeep/many", {"rows": [FINDING]}),
    "POST /api/sheets/<string:of>/<int:owner_id>/<string:sheet>/set": js("/api/sheets/build/1/upkeep/set", {"changes": {"words": "again"}}),
    "PUT /api/sheet-rows/<int:id>": js("/api/sheet-rows/1", {"content": {**FINDING, "words": "again"}}, "put", **R1),
    "POST /api/sheet-rows/<int:id>/photos": lambda client: client.post("/api/sheet-rows/1/photos", data=picture(), content_type="image/jpeg"),
    "POST /api/sheet-rows/<int:id>/photos/<int:part_id>/withdraw": js("/api/sheet-rows/1/photos/1/withdraw", None),
    "POST /api/sheet-rows/<int:id>/photos/<int:part_id>/restore": js("/api/sheet-rows/1/photos/2/restore", None),
    "POST /api/sheet-rows/<int:id>/withdraw": js("/api/sheet-rows/1/withdraw", None, **R1),
    "POST /api/sheet-rows/<int:id>/restore": js("/api/sheet-rows/1/restore", None, **R1),
    "POST /api/share/devices/<int:id>/revoke": js("/api/share/devices/1/revoke", None),
    "PUT /api/unreadable/<string:what>/<string:key>": js("/api/unreadable/day/1~2025-06-03", {"text": '{"tmin_c": 12, "tmax_c": 20, "rh": 0.5, "wind_m_s": 2}'}, "put"),
}  # fmt: skip
LOOK_ONLY = (
    "/api/advice/", "/api/twin/", "/api/kinds/", "/api/jobs", "/api/sums/", "/import/preview", "/api/trials/lines", "/skyline", "/fit", "/weather-service", "/api/wishes/read", "/api/wishes/proposals",
    "/api/wishes/could", "/api/wishes/today", "/yard/standing", "/api/share/invitations", "/api/yard/preview",
)  # fmt: skip
"""Routes that change nothing; the weather service's has its own test beside a service."""


def everything(client) -> str:
    db = sqlite3.connect(client.application.config["DRYLAMP"].data)
    text = "\n".join(db.iterdump())
    db.close()
    return text


@pytest.fixture
def yard(client, trial):
    """Something of everything, so that each write has what it needs."""
    build = client.get("/api/builds/1").get_json()
    moved = {"name": "Hatbox oven", "spot": "terrace", "spec": {**SPEC, "facing_deg": 170.0}, "load": build["load"]}
    client.put("/api/builds/1", json=moved, headers=R1)
    client.post("/api/builds", json={"site_id": 1, "name": "away", "spec": SPEC})
    client.post("/api/builds/2/put-away", headers=R1)
    client.delete("/api/builds/2", headers=R1)
    variant = client.post("/api/builds/1/variants", json={"name": "variant"}).get_json()
    client.put(
        f"/api/builds/{variant['id']}",
        json={**moved, "name": "variant", "spec": {**SPEC, "tilt_deg": 33.0}},
        headers=R1,
    )
    client.put("/api/sites/1/days/2025-06-01", json=DAY)
    client.post("/api/materials", json=PAINT)
    client.post("/api/materials", json={"absorber": {**PAINT["absorber"], "name": "gone-soot"}})
    client.delete("/api/materials/2", headers=R1)
    rows = [
        {"channel": name, "value": 30 + 4 * k, "time": f"2025-06-12T{10 + k // 12}:{5 * k % 60:02d}:00Z"}
        for k in range(14)
        for name in ("tray", "inside-air")
    ]
    client.post("/api/trials/1/readings", json={"readings": rows, "source": "file"})
    client.post("/api/trials/1/readings/withdraw", json={"channel": "tray", "time": "2025-06-12T10:00:00Z"})
    for minute in (1, 2):
        client.post(
            "/api/trials/1/import", json={"text": f"time,tray\n2025-06-12T12:0{minute}+02:00,31\n", "columns": TARGET}
        )
    client.post("/api/trials/1/imports/2/withdraw")
    client.post("/api/trials/1/events", json={"kind": "gust", "time": AT})
    for _ in range(2):
        client.post("/api/trials/1/photos", data=picture(), content_type="image/jpeg")
    client.post("/api/trials/1/photos/2/withdraw")
    client.post("/api/sheets/build/1/upkeep", json={"content": FINDING})
    for _ in range(2):
        client.post("/api/sheet-rows/1/photos", data=picture(), content_type="image/jpeg")
    client.post("/api/sheet-rows/1/photos/2/withdraw")
    pane = {"name": "sash", "sort": "pane", "of": "window-glass", "count": 4, "long_m": 1.0, "wide_m": 1.0}
    assert client.post("/api/sheets/site/1/pile", json={"content": pane}).status_code == 201
    client.post("/api/builds/1/set-aside")
    with sqlite3.connect(client.application.config["DRYLAMP"].data) as db:
        db.execute(
            "INSERT INTO device VALUES (1, 'phone', 0, 'x', '2025-06-12T10:00:00+00:00', '2025-06-12T10:00:00+00:00', NULL)"
        )
        db.execute("INSERT INTO day_weather VALUES (1, '2025-06-03', '{')")
        for gone in (None, "x"):
            db.execute("INSERT INTO calibration (build_id, build_revision, trial_id, adjustments, words, accepted_at, withdrawn_at) VALUES (1, 2, 1, '{}', '', '', ?)", (gone,))  # fmt: skip
    db.close()
    client.seen = client.get("/api/trials/1").get_json()
    return client


def test_every_route_that_writes_is_tried(client):
    routes = {
        f"{method} {rule.rule}"
        for rule in client.application.url_map.iter_rules()
        for method in (rule.methods or set()) - {"GET", "HEAD", "OPTIONS"}
        if not any(part in rule.rule for part in LOOK_ONLY)
    }
    assert routes == set(WRITES)


@pytest.mark.parametrize("route", WRITES)
def test_what_cannot_be_answered_is_not_kept(yard, route: str, monkeypatch):
    before = everything(yard)

    def broken(*_: object, **__: object) -> None:
        raise RuntimeError("this cannot be shown")

    with monkeypatch.context() as patch:
        patch.setattr(context, "answer", broken)
        answer = WRITES[route](yard)
    assert answer.status_code == 500, answer.text
    assert "nothing was written" in answer.get_json()["detail"]
    assert everything(yard) == before
    done = WRITES[route](yard)
    assert done.status_code in (200, 201), done.text
    assert everything(yard) != before
