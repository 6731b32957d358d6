"""The whole yard as one file: out and in again is the same yard; what cannot be trusted is refused whole, and nothing is written."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable
from pathlib import Path

import pytest
from click.testing import CliRunner
from flask.testing import FlaskClient

from drylamp.cli import main
from drylamp.demo.scenario import demo_now
from drylamp.formats.yard import reader
from drylamp.web.app import create_app
from drylamp.web.settings import Settings
from tests.seeded import copy_to

Parts = dict[str, bytes]


def app_on(folder: Path) -> FlaskClient:
    return create_app(Settings(data=folder / "drylamp.sqlite3", now=demo_now)).test_client()


@pytest.fixture(scope="module")
def whole(tmp_path_factory: pytest.TempPathFactory) -> bytes:
    """The made-up yard as a file."""
    folder = tmp_path_factory.mktemp("whole")
    copy_to(folder / "drylamp.sqlite3")
    answer = app_on(folder).get("/api/yard/file")
    assert answer.status_code == 200, answer.text
    return answer.data


def parts_of(packed: bytes) -> Parts:
    with zipfile.ZipFile(io.BytesIO(packed)) as made:
        return {name: made.read(name) for name in made.namelist()}


def packed(parts: Parts, how: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", how) as made:
        for name, content in parts.items():
            made.writestr(name, content)
    return out.getvalue()


def send(client: FlaskClient, path: str, content: bytes):
    return client.post(f"/api/yard/{path}", data=content, content_type="application/zip")


def plainly(parts: Parts) -> Parts:
    """Without the moment at which it was made."""
    document = json.loads(parts["yard.json"])
    document.pop("made_at")
    return {**parts, "yard.json": json.dumps(document).encode()}


def test_out_and_in_again_is_the_same_yard(whole: bytes, tmp_path: Path):
    empty = app_on(tmp_path)
    answer = send(empty, "take-in", whole)
    assert answer.status_code == 201, answer.text
    assert len(answer.get_json()["site_ids"]) == 2
    again = empty.get("/api/yard/file").data
    assert plainly(parts_of(again)) == plainly(parts_of(whole))


def test_what_came_in_works(whole: bytes, tmp_path: Path):
    client = app_on(tmp_path)
    send(client, "take-in", whole)
    builds = client.get("/api/builds?site=1").get_json()
    assert len(builds) > 15
    for build in builds[:3]:
        assert client.get(f"/api/builds/{build['id']}/bill").status_code == 200
    trials = client.get(f"/api/trials?build={builds[0]['id']}").get_json()
    assert client.get(f"/api/trials/{trials[0]['id']}/verdict").status_code == 200


def test_photos_weather_and_sheets_come_along(client: FlaskClient, trial: dict, tmp_path: Path):
    from PIL import Image

    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "red").save(picture, "JPEG")
    assert (
        client.post(f"/api/trials/{trial['id']}/photos", data=picture.getvalue(), content_type="image/jpeg").status_code
        == 201
    )
    row = {"name": "sash", "sort": "pane", "of": "window-glass", "count": 1, "long_m": 1.0, "wide_m": 0.5}
    (pile,) = [
        one for one in client.post("/api/sheets/site/1/pile", json={"content": row}).get_json() if one["name"] == "pile"
    ]
    pictured = client.post(
        f"/api/sheet-rows/{pile['rows'][0]['id']}/photos", data=picture.getvalue(), content_type="image/jpeg"
    )
    assert pictured.status_code == 201
    first = client.get("/api/yard/file").data
    assert {name.split("/")[0] for name in parts_of(first)} >= {"yard.json", "photos", "pictures"}
    other = app_on(tmp_path / "other")
    assert send(other, "take-in", first).status_code == 201
    assert plainly(parts_of(other.get("/api/yard/file").data)) == plainly(parts_of(first))
    (theirs_pile,) = [one for one in other.get("/api/sheets/site/1").get_json() if one["name"] == "pile"]
    there = theirs_pile["rows"][0]
    assert other.get(f"/api/sheet-rows/{there['id']}/photos/{there['photos'][0]}").data[:2] == b"\xff\xd8"
    mine = client.get(f"/api/trials/{trial['id']}").get_json()
    theirs = other.get("/api/trials/1").get_json()
    assert mine.get("token") != theirs.get("token") or mine.get("token") is None


def test_no_secret_is_in_it(client: FlaskClient, trial: dict):
    text = b"".join(parts_of(client.get("/api/yard/file").data).values())
    assert b"token" not in text


def test_a_look_tells_what_would_come_in_and_writes_nothing(whole: bytes, client: FlaskClient):
    before = client.get("/api/yard/file").data
    seen = send(client, "preview", whole).get_json()
    assert seen["counts"]["sites"] == 2
    assert seen["counts"]["readings"] > 1000
    assert any("stands here already" in str(words) for words in seen["words"])
    assert plainly(parts_of(client.get("/api/yard/file").data)) == plainly(parts_of(before))


def changed(change: Callable[[dict], object]) -> Callable[[Parts], Parts]:
    def do(parts: Parts) -> Parts:
        document = json.loads(parts["yard.json"])
        change(document)
        return {**parts, "yard.json": json.dumps(document).encode()}

    return do


def first_trial(document: dict) -> dict:
    return next(
        trial
        for site in document["sites"]
        for build in site["builds"]
        for trial in build["trials"]
        if trial["readings"]
    )


def first_csv(parts: Parts) -> str:
    return next(name for name in parts if name.startswith("readings/"))


def with_csv(change: Callable[[bytes], bytes]) -> Callable[[Parts], Parts]:
    return lambda parts: {**parts, first_csv(parts): change(parts[first_csv(parts)])}


SPOILT: dict[str, tuple[Callable[[Parts], Parts], str]] = {
    "newer": (changed(lambda d: d.update(format=2)), "newer version"),
    "no document": (lambda p: {name: text for name, text in p.items() if name != "yard.json"}, "no yard.json"),
    "document that is no object": (lambda p: {**p, "yard.json": b"[1]"}, "no object"),
    "a missing part": (lambda p: {name: text for name, text in p.items() if name != first_csv(p)}, "not whole"),
    "a stranger": (lambda p: {**p, "readings/99999.csv": b"x"}, "nothing speaks of it"),
    "a path that climbs": (lambda p: {**p, "../evil.csv": b"x"}, "names of its own"),
    "an absolute path": (lambda p: {**p, "/etc/passwd": b"x"}, "names of its own"),
    "another sort of file": (lambda p: {**p, "photos/1-1.exe": b"x"}, "names of its own"),
    "a bomb": (lambda p: {**p, "readings/88888.csv": b"0" * 30_000_000}, "times its size"),
    "a revision that is not there": (changed(lambda d: d["sites"][0]["builds"][0].update(revision=77)), "no such revision"),
    "a trial of no revision": (changed(lambda d: first_trial(d).update(build_revision=77)), "no such revision"),
    "two trials of one key": (changed(lambda d: [t.update(key=1) for s in d["sites"] for b in s["builds"] for t in b["trials"]]), "one key"),
    "a calibration of a stranger": (changed(lambda d: d["sites"][0]["builds"][0]["calibrations"].append({"build_revision": 1, "trial": 999, "adjustments": {}, "words": "", "accepted_at": "", "withdrawn_at": None})), "not in the file"),
    "a build that cannot be": (changed(lambda d: [r["spec"].update(kind="rocket") for r in d["sites"][0]["builds"][0]["revisions"]]), "no such kind"),
    "an unknown protocol": (changed(lambda d: first_trial(d).update(protocol="wishing")), "wishing"),
    "an unknown instrument": (changed(lambda d: first_trial(d)["channels"][0].update(instrument="thumb")), "thumb"),
    "weather that cannot be": (changed(lambda d: first_trial(d)["weather"].update(rh=7)), "weather"),
    "an event of no kind": (changed(lambda d: first_trial(d)["events"].append({"kind": "party", "time_ms": 1, "note": "", "channel": "", "uid": None, "withdrawn_at": None})), "party"),
    "an unknown field": (changed(lambda d: d.update(more=1)), "not a known field"),
    "a strange channel": (with_csv(lambda text: text + b"nobody,1,2,,2,C,typed,,,,\r\n"), "no channel of this trial"),
    "a short row": (with_csv(lambda text: text + b"a,1\r\n"), "cells were given"),
    "no number": (with_csv(lambda text: text.replace(text.splitlines()[1].split(b",")[1], b"soon", 1)), "number cannot be read"),
    "other columns": (with_csv(lambda text: text.replace(b"time_ms", b"when", 1)), "other columns"),
}  # fmt: skip


@pytest.mark.parametrize("name", SPOILT)
def test_what_cannot_be_trusted_is_refused_whole(name: str, whole: bytes, client: FlaskClient):
    spoil, said = SPOILT[name]
    content = packed(spoil(parts_of(whole)))
    before = plainly(parts_of(client.get("/api/yard/file").data))
    for path in ("preview", "take-in"):
        answer = send(client, path, content)
        assert answer.status_code == 422, (path, answer.text[:300])
        assert said in answer.text, (path, answer.text[:300])
    assert plainly(parts_of(client.get("/api/yard/file").data)) == before


def test_no_zip_a_cut_zip_and_a_zip_with_two_of_a_name(whole: bytes, client: FlaskClient):
    assert "no zip" in send(client, "preview", b"hello").text
    assert send(client, "preview", whole[: len(whole) // 2]).status_code == 422
    twice = io.BytesIO(whole)
    with zipfile.ZipFile(twice, "a") as made, pytest.warns(UserWarning, match="Duplicate name"):
        made.writestr("yard.json", b"{}")
    assert "one name" in send(client, "preview", twice.getvalue()).text


def test_damage_inside_is_found(whole: bytes, client: FlaskClient):
    parts = parts_of(whole)
    stored = bytearray(packed(parts, zipfile.ZIP_STORED))
    at = stored.find(parts[first_csv(parts)][:200])
    stored[at + 150] ^= 1
    answer = send(client, "take-in", bytes(stored))
    assert answer.status_code == 422
    assert len(client.get("/api/builds").get_json()) == 0, "the places before the damage were not kept either"


def test_rows_that_contradict_each_other_are_refused(whole: bytes, client: FlaskClient):
    parts = parts_of(whole)
    name = first_csv(parts)
    lines = parts[name].splitlines(keepends=True)
    answer = send(client, "take-in", packed({**parts, name: b"".join([*lines, lines[1]])}))
    assert answer.status_code == 422
    assert "contradict" in answer.text


def test_bounds_hold(whole: bytes, client: FlaskClient, monkeypatch: pytest.MonkeyPatch):
    for bound, value, said in (
        ("MOST_READINGS", 10, "readings are in it"),
        ("MOST_FILES", 3, "files are in it"),
        ("MOST_BYTES", 1000, "unpacks to"),
        ("MOST_DOCUMENT_BYTES", 1000, "larger than"),
    ):
        with monkeypatch.context() as here:
            here.setattr(reader, bound, value)
            assert said in send(client, "preview", whole).text


def test_from_the_command_line(whole: bytes, tmp_path: Path):
    file, data = tmp_path / "yard.zip", tmp_path / "new"
    file.write_bytes(whole)
    run = CliRunner().invoke(main, ["import", str(file), "--data", str(data)])
    assert "nothing was written" in run.output
    run = CliRunner().invoke(main, ["import", str(file), "--data", str(data), "--yes"])
    assert "taken in: 2 places" in run.output
    out = tmp_path / "out.zip"
    run = CliRunner().invoke(main, ["export", str(out), "--data", str(data)])
    assert run.exit_code == 0, run.output
    assert plainly(parts_of(out.read_bytes())) == plainly(parts_of(whole))
    assert CliRunner().invoke(main, ["export", str(out), "--data", str(tmp_path / "none")]).exit_code == 2
    file.write_bytes(b"no zip")
    run = CliRunner().invoke(main, ["import", str(file), "--data", str(data), "--yes"])
    assert run.exit_code == 2
    assert len(run.output.strip().splitlines()) == 1


def test_a_place_that_cannot_be_read_is_left_out_and_named(client: FlaskClient, build: dict):
    with client.application.config["DATABASE"].session() as db:
        db.execute("UPDATE site SET doc = json_set(doc, '$.latitude_deg', 1000) WHERE id = 1")
        db.commit()
    document = json.loads(parts_of(client.get("/api/yard/file").data)["yard.json"])
    assert document["sites"] == []
    assert document["left_out"] == ["site 1"]


def test_the_schema_is_published():
    run = CliRunner().invoke(main, ["schema", "yard"])
    assert json.loads(run.output)["properties"]["sites"]
