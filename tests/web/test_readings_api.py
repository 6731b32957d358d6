"""Readings over the wire: loggers with tokens, odd values, series for charts, clocks, files with questions, photos, exports."""

from __future__ import annotations

import csv
import io
import json
from datetime import datetime, timedelta

import pytest
from PIL import Image

from drylamp.demo.scenario import LIDS
from tests.web.test_api import problem
from tests.web.test_trials_api import NOON, at, post_readings, shown


def ingest(client, trial: dict, body: object, token: str | None = None, **headers: str):
    sent = {"Authorization": f"Bearer {trial['token'] if token is None else token}", **headers}
    url = f"/api/trials/{trial['id']}/ingest"
    if isinstance(body, str):
        return client.post(url, data=body, content_type="text/csv", headers=sent)
    return client.post(url, json=body, headers=sent)


def lines(*rows: tuple[float, str, object]) -> str:
    return "\n".join(f"{at(m)},{c},{v}" for m, c, v in rows)


def picture(size: tuple[int, int] = (40, 30), kind: str = "PNG", **more: object) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (200, 120, 40)).save(out, kind, **more)
    return out.getvalue()


@pytest.fixture
def lids(client) -> dict:
    body = {"site_id": 1, "name": "Tin lids", "spot": "flat roof", "spec": LIDS.model_dump(mode="json")}
    return client.post("/api/builds", json=body).get_json()


@pytest.fixture
def rounds(client, lids) -> dict:
    """A comparison started with the protocol's own channels."""
    body = {"build_id": lids["id"], "name": "Lids", "protocol": "coating-comparison"}
    return client.post("/api/trials", json=body).get_json()


def test_lines_and_json_are_taken_alike(client, trial):
    text = "time,channel,value,unit\n" + lines((1, "tray", 40.5), (2, "tray", 41)) + f"\n{at(3)},inside-air,104,F\n"
    assert ingest(client, trial, text).get_json()["written"] == 3
    same = {
        "readings": [
            {"time": at(1), "channel": "tray", "value": 40.5},
            {"time": at(4), "channel": "tray", "value": "42.5", "rssi": -60},
        ]
    }
    answer = ingest(client, trial, same).get_json()
    assert (answer["written"], answer["repeated"]) == (1, 1)
    air = [r for r in shown(client, trial)["readings"] if r["channel"] == "inside-air"]
    assert air[0]["value"] == pytest.approx(40)
    assert air[0]["source"] == "logger"


@pytest.mark.parametrize("token", ["", "wrong", "0" * 24])
def test_a_wrong_token_opens_nothing(client, trial, token: str):
    found = problem(ingest(client, trial, lines((1, "tray", 40)), token), 401)
    assert "copy the one on the trial's page" in found["detail"]
    assert shown(client, trial)["reading_count"] == 0


def test_one_trials_token_does_not_open_another(client, build, trial):
    body = {"build_id": build["id"], "name": "other", "protocol": "free-log", "channels": trial["channels"]}
    other = client.post("/api/trials", json=body).get_json()
    assert other["token"] != trial["token"]
    problem(ingest(client, other, lines((1, "tray", 40)), trial["token"]), 401)
    assert ingest(client, other, lines((1, "tray", 40)), "x", **{"X-Trial-Token": "y"}).status_code == 401
    plain = client.post(
        f"/api/trials/{other['id']}/ingest",
        data=lines((1, "tray", 40)),
        content_type="text/plain",
        headers={"X-Trial-Token": other["token"]},
    )
    assert plain.get_json()["written"] == 1


@pytest.mark.parametrize(("value", "code"), [
    ("nan", "no-value"), ("", "no-value"), ("null", "no-value"), ("-127", "stuck"), ("85", "stuck"), ("2000", "stuck"), ("777", "impossible"),
])  # fmt: skip
def test_what_sensors_send_when_they_fail_is_kept_and_flagged(client, trial, value: str, code: str):
    answer = ingest(client, trial, lines((1, "tray", 40), (2, "tray", value))).get_json()
    assert answer["written"] == 2
    assert answer["flagged"] == {code: 1}
    after = shown(client, trial)
    assert after["flagged"] == {code: 1}
    assert after["readings"][-1]["flag_code"] == code
    drawn = client.get(f"/api/trials/{trial['id']}/series").get_json()["channels"]
    assert next(c for c in drawn if c["channel"] == "tray")["values"] == [40]


def test_json_without_a_number_is_flagged_too(client, trial):
    body = '{"readings": [{"time": "%s", "channel": "tray", "value": NaN}, {"time": "%s", "channel": "tray", "value": null}]}'
    url, head = f"/api/trials/{trial['id']}/ingest", {"Authorization": f"Bearer {trial['token']}"}
    answer = client.post(url, data=body % (at(1), at(2)), content_type="application/json", headers=head).get_json()
    assert answer["flagged"] == {"no-value": 2}


def test_bad_lines_are_listed_and_good_ones_written(client, trial):
    text = (
        lines((1, "tray", 40), (2, "cellar", 41), (3, "tray", "warm"))
        + "\nsoon,tray,42\n2025-06-12T12:20:00,tray,43\n1,2\n"
    )
    answer = ingest(client, trial, text).get_json()
    assert answer["written"] == 1
    reasons = {r["line"]: r["reason"] for r in answer["refused"]}
    assert reasons.keys() == {2, 3, 4, 5, 6}
    assert "no channel of this trial" in reasons[2]
    assert "no number" in reasons[3]
    assert "cannot be read" in reasons[4]
    assert "has no zone" in reasons[5]
    assert "has 2 parts" in reasons[6]


def test_time_may_be_seconds_or_left_out(client, trial):
    seconds = int((NOON + timedelta(minutes=3)).timestamp())
    assert ingest(client, trial, f"{seconds},tray,40\n,tray,41\n").get_json()["written"] == 2
    times = [datetime.fromisoformat(r["time"]) for r in shown(client, trial)["readings"]]
    assert times == [NOON, NOON + timedelta(minutes=3)]


def test_a_clock_that_was_never_set_is_flagged(client, trial):
    answer = ingest(client, trial, "2000-01-01T00:00:05Z,tray,40\n2031-01-01T00:00:00Z,tray,41\n").get_json()
    assert answer["flagged"] == {"clock": 2}


def test_other_quantities_come_in_their_units(client, build):
    channels = [
        {"name": "sun", "title": "sun", "node": "sun", "instrument": "pyranometer"},
        {"name": "rh", "title": "humidity", "node": "air", "instrument": "humidity-probe"},
        {"name": "wind", "title": "wind", "node": "wind", "instrument": "anemometer"},
        {"name": "tray", "title": "tray", "node": "tray", "instrument": "logger"},
    ]
    made = client.post(
        "/api/trials", json={"build_id": build["id"], "name": "x", "protocol": "free-log", "channels": channels}
    ).get_json()
    assert {c["name"]: c["quantity"] for c in made["channels"]} == {
        "sun": "sun",
        "rh": "humidity",
        "wind": "wind",
        "tray": "temperature",
    }
    text = f"{at(1)},sun,850\n{at(1)},rh,45\n{at(1)},wind,36,km/h\n{at(2)},sun,9000\n"
    answer = ingest(client, made, text).get_json()
    assert answer["flagged"] == {"impossible": 1}
    values = {(r["channel"], r["typed"]): r["value"] for r in shown(client, made)["readings"]}
    assert values["rh", "45"] == pytest.approx(0.45)
    assert values["wind", "36"] == pytest.approx(10.0)
    wrong = problem(
        client.post(
            f"/api/trials/{made['id']}/readings", json={"readings": [{"channel": "sun", "value": 3, "unit": "kg"}]}
        ),
        422,
    )
    assert "'kg' is no unit of sun" in wrong["detail"]


def test_words_are_bands(client, build):
    channel = {"name": "tray", "title": "tray", "node": "tray", "instrument": "words"}
    made = client.post(
        "/api/trials", json={"build_id": build["id"], "name": "x", "protocol": "free-log", "channels": [channel]}
    ).get_json()
    rows = [
        {"channel": "tray", "time": at(k), "typed": word} for k, word in enumerate(("lukewarm", "hand-hot", "roasting"))
    ]
    answer = client.post(f"/api/trials/{made['id']}/readings", json={"readings": rows}).get_json()
    assert [f["flag_code"] for f in answer["flagged"]] == ["no-value"]
    residuals = client.get(f"/api/trials/{made['id']}/verdict").get_json()["channels"][0]["residuals"]
    assert [r["reading_c"] for r in residuals] == [31.5, 44.0]
    assert residuals[0]["doubt_k"] >= 6.5


def test_infrared_through_glass_is_refused(client, build):
    channel = {"name": "tray", "title": "tray", "node": "tray", "instrument": "infrared"}
    body = {"build_id": build["id"], "name": "x", "protocol": "free-log", "channels": [channel]}
    assert "not what is behind it" in problem(client.post("/api/trials", json=body), 422)["detail"]
    wrong = {**body, "channels": [{**channel, "instrument": "probe", "quantity": "mass"}]}
    assert "Kitchen probe reads temperature" in problem(client.post("/api/trials", json=wrong), 422)["detail"]


def test_calibration_puts_readings_right_without_touching_them(client, trial):
    post_readings(client, trial, [("tray", 0, 24.0), ("tray", 10, 61.5), ("tray", 20, 81.5)])
    tray = next(c for c in trial["channels"] if c["name"] == "tray")
    url = f"/api/trials/{trial['id']}/channels/tray"
    after = client.put(url, json={**tray, "calibration": {"ice_c": 1.5}}, headers=marked(trial)).get_json()
    assert [r["value"] for r in after["readings"]] == [22.5, 60.0, 80.0]
    assert [r["typed"] for r in after["readings"]] == ["24", "61.5", "81.5"]
    drawn = client.get(f"/api/trials/{trial['id']}/series").get_json()["channels"]
    assert next(c for c in drawn if c["channel"] == "tray")["values"] == [22.5, 60.0, 80.0]
    back = client.put(url, json={**tray, "calibration": None}, headers=marked(after)).get_json()
    assert back["readings"][0]["value"] == 24.0
    problem(client.put(url, json={**tray, "calibration": {"boil_c": 20}}, headers=marked(back)), 422)


def test_a_channel_is_changed_only_by_who_saw_it_last(client, trial):
    tray = next(c for c in trial["channels"] if c["name"] == "tray")
    url, more = f"/api/trials/{trial['id']}/channels/tray", {**tray, "title": "black tray"}
    assert "If-Match" in problem(client.put(url, json=more), 428)["detail"]
    assert client.put(url, json=more, headers=marked(trial)).status_code == 200
    late = problem(client.put(url, json={**tray, "title": "late"}, headers=marked(trial)), 412)
    assert "changed elsewhere" in late["detail"]
    assert "black tray" in [c["title"] for c in client.get(f"/api/trials/{trial['id']}").get_json()["channels"]]


def marked(trial: dict) -> dict[str, str]:
    """The header that says which state of the channels was seen."""
    return {"If-Match": f'"{trial["channels_mark"]}"'}


def test_a_channel_can_be_added_while_it_runs(client, trial):
    air = {"name": "air", "title": "air outside", "node": "air", "instrument": "glass", "device": "garden"}
    after = client.put(f"/api/trials/{trial['id']}/channels/air", json=air, headers=marked(trial)).get_json()
    assert after["channels"][-1]["device"] == "garden"


def many(client, trial: dict, count: int = 3000) -> list[float]:
    values = [50 + 10 * ((k * 37) % 100) / 100 for k in range(count)]
    values[1234], values[2345] = 5.0, 140.0
    text = "\n".join(f"{(NOON + timedelta(seconds=5 * k)).isoformat()},tray,{v}" for k, v in enumerate(values))
    assert ingest(client, trial, text).get_json()["written"] == count
    return values


def test_a_long_series_is_thinned_with_its_extremes_and_zooms_to_raw(client, trial):
    many(client, trial)
    url = f"/api/trials/{trial['id']}/series"
    (whole,) = [c for c in client.get(f"{url}?points=200").get_json()["channels"] if c["channel"] == "tray"]
    assert whole["count"] == 3000
    assert len(whole["values"]) <= 200
    assert whole["raw"] is False
    assert {min(whole["values"]), max(whole["values"])} == {5.0, 140.0}
    start, end = (NOON + timedelta(seconds=5 * k) for k in (1200, 1300))
    near = client.get(url, query_string={"points": 200, "start": start.isoformat(), "end": end.isoformat()}).get_json()[
        "channels"
    ]
    (tray,) = [c for c in near if c["channel"] == "tray"]
    assert tray["raw"] is True
    assert tray["count"] == 101
    problem(client.get(f"{url}?points=3"), 422)


def test_a_trial_view_stays_small(client, trial):
    many(client, trial)
    view = shown(client, trial)
    assert view["reading_count"] == 3000
    assert len(view["readings"]) == 120
    assert view["counts"] == {"tray": 3000}


def test_the_clock_of_a_logger_is_moved_and_moved_back(client, trial):
    ingest(client, trial, lines((60, "tray", 40), (61, "tray", 41)))
    post_readings(client, trial, [("inside-air", 5, 30)])
    url = f"/api/trials/{trial['id']}/shift-clock"
    assert client.post(url, json={"minutes": -60}).get_json()["moved"] == 2
    times = {r["channel"]: datetime.fromisoformat(r["time"]) for r in shown(client, trial)["readings"]}
    assert times["tray"] == NOON + timedelta(minutes=1)
    assert times["inside-air"] == NOON + timedelta(minutes=5)
    assert client.post(url, json={"minutes": 60}).get_json()["moved"] == 2
    post_readings(client, trial, [("tray", 0, 39)])
    found = problem(client.post(url, json={"minutes": -60}), 409)
    assert "would land on readings taken by hand" in found["detail"]
    assert shown(client, trial)["counts"]["tray"] == 3


def test_rounds_know_what_comes_next(client, rounds):
    names = [s.name for s in LIDS.samples]
    assert rounds["round_order"] == [*names, "board"]
    assert rounds["read_next"] == "bare"
    assert {c["device"] for c in rounds["channels"] if c["name"] in names} == {"one probe"}
    for k, name in enumerate([*names, "board"]):
        body = {
            "readings": [
                {"channel": name, "value": 40 + k, "time": (NOON - timedelta(seconds=80 - 10 * k)).isoformat()}
            ]
        }
        client.post(f"/api/trials/{rounds['id']}/readings", json=body)
    after = shown(client, rounds)
    assert after["rounds_done"] == 1
    assert after["read_next"] == "bare"
    assert datetime.fromisoformat(after["next_reading"]) == NOON + timedelta(minutes=10)


def test_protocols_belong_to_kinds(client, build, lids):
    body = {"build_id": lids["id"], "name": "x", "protocol": "quick-look"}
    assert (
        "is not for this kind of build; allowed: coating-comparison, blocks-under-glass, endurance"
        in problem(client.post("/api/trials", json=body), 422)["detail"]
    )
    oven = {"build_id": build["id"], "name": "x", "protocol": "cool-down"}
    started = client.post("/api/trials", json=oven).get_json()
    assert [c["node"] for c in started["channels"]] == ["inside-air", "tray", "air"]
    assert len(client.get("/api/trials?running=true").get_json()) == 1


@pytest.mark.parametrize(("kind", "note", "says"), [
    ("moved", "moon", "no spot here"), ("sky", "purple", "allowed: clear, hazy"), ("swapped", "tray", "name two channels"),
    ("swapped", "tray|cellar", "name two channels"),
])  # fmt: skip
def test_events_say_what_they_need(client, trial, kind: str, note: str, says: str):
    assert (
        says
        in problem(client.post(f"/api/trials/{trial['id']}/events", json={"kind": kind, "note": note}), 422)["detail"]
    )


def test_an_event_sent_twice_is_one_event(client, trial):
    body = {"kind": "moved", "note": "flat roof", "uid": "abcdef0123456789", "time": at(3)}
    url = f"/api/trials/{trial['id']}/events"
    assert len(client.post(url, json=body).get_json()["events"]) == 1
    assert len(client.post(url, json=body).get_json()["events"]) == 1
    assert len(client.post(url, json={**body, "uid": "abcdef0123456780"}).get_json()["events"]) == 2


def test_photos_are_kept_small_and_can_be_taken_back(client, trial):
    url = f"/api/trials/{trial['id']}/photos"
    tagged = Image.Exif()
    tagged[0x010E] = "the garden behind the house"
    big = picture((3000, 2000), "JPEG", exif=tagged.tobytes())
    after = client.post(f"{url}?note=lid%20lifts&uid=photo-0001", data=big).get_json()
    client.post(f"{url}?uid=photo-0001", data=big)
    (kept,) = shown(client, trial)["photos"]
    assert (kept["width"], kept["height"], kept["note"]) == (1600, 1067, "lid lifts")
    image = Image.open(io.BytesIO(client.get(f"{url}/{kept['id']}").data))
    assert image.size == (1600, 1067)
    assert not image.getexif()
    assert len(after["photos"]) == 1
    assert client.post(f"{url}/{kept['id']}/withdraw").get_json()["photos"] == []
    assert len(client.post(f"{url}/{kept['id']}/restore").get_json()["photos"]) == 1
    problem(client.get(f"{url}/99"), 404)


@pytest.mark.parametrize(("data", "says"), [
    (b"", "the file is empty"), (b"GIF89a no picture", "no picture that can be read"), (picture()[:60], "cut short"), (b"%PDF-1.7", "no picture"),
])  # fmt: skip
def test_what_is_no_picture_is_told_so(client, trial, data: bytes, says: str):
    assert says in problem(client.post(f"/api/trials/{trial['id']}/photos", data=data), 422)["detail"]


def test_sixty_megabytes_are_too_many(client, trial):
    found = problem(client.post(f"/api/trials/{trial['id']}/photos", data=b"x" * 60_000_000), 413)
    assert "make the picture smaller" in found["detail"]


def hour_off(minutes: int = 60) -> str:
    """An afternoon of the oven's own twin, stamped by a clock that is off, in °F."""
    from drylamp.core.twin.calibration import Calibration
    from drylamp.instruments.logger import Truth
    from tests.core.making import blank, channel, filled

    facts = filled(
        blank([channel("tray"), channel("inside-air")], start=NOON), Truth(calibration=Calibration(leak=4.0), noise_k=0.3),
        [(5.0 * k, n) for k in range(80) for n in ("tray", "inside-air")],
    )  # fmt: skip
    rows = ["logged at;tray (°F);box air (°F)"]
    for t, a, b in zip(facts.channels[0].times, facts.channels[0].values, facts.channels[1].values, strict=True):
        local = t.astimezone(NOON.tzinfo) + timedelta(minutes=minutes)
        rows.append(f"{local:%Y-%m-%d %H:%M};{a * 1.8 + 32:.1f};{b * 1.8 + 32:.1f}".replace(".", ","))
    return "\n".join(rows).replace("logged at", "time")


def test_a_file_an_hour_off_asks_and_is_moved(client, trial):
    url = f"/api/trials/{trial['id']}/import"
    body = {"name": "log.csv", "text": hour_off(-60)}
    asked = client.post(f"{url}/preview", json=body).get_json()
    assert asked["goes_to"] == {"tray (°F)": "have:tray", "box air (°F)": "have:inside-air"}
    question = asked["preview"]["questions"][0]
    assert question["code"] == "clock-off"
    assert question["answers"][0]["code"] == "shift:60"
    columns = [
        {"column": c, "channel": next(x for x in trial["channels"] if x["name"] == n)}
        for c, n in (("tray (°F)", "tray"), ("box air (°F)", "inside-air"))
    ]
    assert "summer time" in problem(client.post(url, json={**body, "columns": columns}), 422)["detail"]
    done = client.post(url, json={**body, "columns": columns, "answers": {"clock-off": "shift:60"}}).get_json()
    assert done["result"]["written"] == 160
    verdict = client.get(f"/api/trials/{trial['id']}/verdict").get_json()
    assert verdict["suspicions"] == []
    assert verdict["likely_cause"] == "leak"
    again = client.post(f"{url}/preview", json=body).get_json()
    assert again["remembered"] is True


def test_a_file_left_an_hour_off_is_suspected_later(client, trial):
    url = f"/api/trials/{trial['id']}/import"
    columns = [{"column": "tray (°F)", "channel": next(x for x in trial["channels"] if x["name"] == "tray")}]
    body = {"name": "log.csv", "text": hour_off(60), "columns": columns, "answers": {"clock-off": "keep"}}
    assert client.post(url, json=body).get_json()["result"]["written"] == 80
    (found,) = client.get(f"/api/trials/{trial['id']}/verdict").get_json()["suspicions"]
    assert (found["kind"], found["minutes"]) == ("clock", -60)


def test_numbers_without_a_unit_are_held_against_the_twin_and_a_whole_file_is_taken_back(client, trial):
    """A file in °F whose header names no unit: asked, refused until answered, taken back by one tap."""
    url = f"/api/trials/{trial['id']}"
    text = hour_off(0).replace(" (°F)", "")
    columns = [
        {"column": c, "channel": next(x for x in trial["channels"] if x["name"] == n)}
        for c, n in (("tray", "tray"), ("box air", "inside-air"))
    ]
    body = {"name": "log.csv", "text": text}
    questions = {
        q["code"]: q for q in client.post(f"{url}/import/preview", json=body).get_json()["preview"]["questions"]
    }
    assert set(questions) == {"unit-of:tray", "unit-of:box air"}
    assert [a["code"] for a in questions["unit-of:tray"]["answers"]] == ["F", "C"]
    refused = problem(client.post(f"{url}/import", json={**body, "columns": columns}), 422)
    assert "taken as °F" in refused["detail"]
    assert shown(client, trial)["reading_count"] == 0
    meant = {"unit-of:tray": "F", "unit-of:box air": "F"}
    done = client.post(f"{url}/import", json={**body, "columns": columns, "answers": meant}).get_json()["result"]
    assert (done["written"], done["import_id"]) == (160, 1)
    assert shown(client, trial)["readings"][-1]["value"] < 130
    post_readings(client, trial, [("tray", 500, 40)])
    back = client.post(f"{url}/imports/1/withdraw").get_json()
    assert back["reading_count"] == 1, "what came with the file is gone, what was typed stays"
    assert client.post(f"{url}/imports/1/restore").get_json()["reading_count"] == 161
    assert problem(client.post(f"{url}/imports/9/withdraw"), 404)["detail"]
    client.post(f"{url}/imports/1/withdraw")
    wrong = {"unit-of:tray": "C", "unit-of:box air": "C"}
    second = client.post(f"{url}/import", json={**body, "columns": columns, "answers": wrong}).get_json()["result"]
    assert second["import_id"] == 2
    verdict = client.get(f"{url}/verdict").get_json()
    assert {s["kind"] for s in verdict["suspicions"]} >= {"unit"}
    assert verdict["fit"]["first"]
    held = problem(client.post(f"{url}/accept", json={}), 422)
    assert "anyway: true" in held["detail"]
    assert client.post(f"{url}/accept", json={"anyway": True}).status_code == 201


def test_an_accepted_fit_changes_tomorrow_and_can_be_taken_back(client, build, trial):
    columns = [
        {"column": c, "channel": next(x for x in trial["channels"] if x["name"] == n)}
        for c, n in (("tray (°F)", "tray"), ("box air (°F)", "inside-air"))
    ]
    client.post(f"/api/trials/{trial['id']}/import", json={"name": "l.csv", "text": hour_off(0), "columns": columns})
    asked = {"site_id": 1, "spot": "terrace", "spec": build["spec"], "load": build["load"], "day": "2025-06-13"}
    before = client.post("/api/twin/day", json=asked).get_json()["outcome"]["stagnation_c"]
    fit = client.post(f"/api/trials/{trial['id']}/fit", json={}).get_json()
    leak = next(p for p in fit["parameters"] if p["name"] == "leak")
    assert leak["low"] <= 4.0 <= leak["high"]
    made = client.post(f"/api/trials/{trial['id']}/accept", json={"parameters": ["optical", "loss", "leak"]}).get_json()
    learnt = client.get(f"/api/builds/{build['id']}").get_json()["calibration"]
    assert learnt["id"] == made["id"]
    assert learnt["trial_name"] == "Noon look"
    assert learnt["older"] is False
    after = client.post("/api/twin/day", json={**asked, "calibration": learnt["id"]}).get_json()["outcome"][
        "stagnation_c"
    ]
    assert after < before - 10
    yard = client.get("/api/sites/1/yard?day=2025-06-13").get_json()["lines"][0]["outcome"]["stagnation_c"]
    assert yard == pytest.approx(after)
    url = f"/api/builds/{build['id']}/calibration/{made['id']}"
    assert client.post(f"{url}/withdraw").get_json()["calibration"] is None
    assert client.post(f"{url}/restore").get_json()["calibration"]["id"] == made["id"]
    body = {
        "name": build["name"],
        "spot": build["spot"],
        "spec": {**build["spec"], "seal_gap_mm": 0.2},
        "load": build["load"],
    }
    changed = client.put(f"/api/builds/{build['id']}", json=body, headers={"If-Match": '"r1"'}).get_json()
    assert changed["calibration"]["older"] is True
    problem(client.post("/api/builds/99/calibration/1/withdraw"), 404)
    problem(client.post(f"/api/trials/{trial['id']}/fit", json={"parameters": ["colour"]}), 422)


def test_two_trials_are_compared_on_one_day(client, build, trial):
    columns = [{"column": "tray (°F)", "channel": next(x for x in trial["channels"] if x["name"] == "tray")}]
    body = {"build_id": build["id"], "name": "second", "protocol": "free-log", "channels": trial["channels"]}
    other = client.post("/api/trials", json=body).get_json()
    for made in (trial, other):
        client.post(f"/api/trials/{made['id']}/import", json={"name": "l.csv", "text": hour_off(0), "columns": columns})
    url = f"/api/trials/{other['id']}/compare"
    found = client.get(f"{url}?control={trial['id']}&node=tray").get_json()
    assert found["difference_k"] == pytest.approx(0.0, abs=0.01)
    assert found["real"] is False
    problem(client.get(f"{url}?control={trial['id']}&node=contents"), 422)
    problem(client.get(f"{url}?control=99&node=tray"), 404)


def test_the_part_of_each_change_between_two_trials(client, build, trial):
    spec = {**build["spec"], "seal_gap_mm": 3.0, "mirror": None}
    body = {"name": "changed", "spot": build["spot"], "spec": spec, "load": build["load"]}
    assert client.put(f"/api/builds/{build['id']}", json=body, headers={"If-Match": '"r1"'}).status_code == 200
    asked = {"build_id": build["id"], "name": "second", "protocol": "free-log", "channels": trial["channels"]}
    other = client.post("/api/trials", json=asked).get_json()
    found = client.get(f"/api/trials/{other['id']}/changed?control={trial['id']}").get_json()
    assert {part["part"] for part in found["parts"]} == {"seal", "mirror"}
    assert all(part["gain"] < 0 for part in found["parts"])
    assert sum(part["gain"] for part in found["parts"]) == pytest.approx(found["together"], abs=0.1)
    assert found["cannot"] == []
    alike = client.get(f"/api/trials/{other['id']}/changed?control={other['id']}").get_json()
    assert alike["parts"] == []
    assert "Nothing differs" in str(alike["words"])


def test_all_data_comes_out(client, trial):
    post_readings(client, trial, [("tray", 5, 104.0)], unit="F")
    post_readings(client, trial, [("tray", 6, 105.0)], unit="F")
    client.post(f"/api/trials/{trial['id']}/readings/withdraw", json={"channel": "tray", "time": at(6)})
    client.post(f"/api/trials/{trial['id']}/events", json={"kind": "gust", "time": at(7), "note": "north"})
    client.post(f"/api/trials/{trial['id']}/photos?note=seal", data=picture())
    sheet = list(csv.DictReader(io.StringIO(client.get(f"/api/trials/{trial['id']}/export.csv").text)))
    assert [r["what"] for r in sheet] == ["reading", "reading", "gust"]
    assert (sheet[0]["value"], sheet[0]["unit"], sheet[0]["typed"]) == ("40.0", "°C", "104 F")
    assert sheet[1]["note"] == "withdrawn"
    assert sheet[2]["note"] == "north"
    assert sheet[0]["time"] == at(5)
    whole = json.loads(client.get(f"/api/trials/{trial['id']}/export.json").text)
    assert whole["dry_lamp"] == "trial"
    assert whole["spec"]["kind"] == "box-oven"
    assert whole["photos"][0]["note"] == "seal"
    assert "token" not in whole


def test_reading_times_as_a_calendar(client, trial):
    from icalendar import Calendar

    book = Calendar.from_ical(client.get(f"/api/trials/{trial['id']}/readings.ics").text)
    events = book.walk("VEVENT")
    assert [(e["dtstart"].dt - NOON).total_seconds() / 60 for e in events] == [0, 5, 10, 30, 60]
    assert all(e.walk("VALARM") for e in events)


def test_places_are_drawn(client, lids):
    drawn = [
        client.post("/api/kinds/act", json={"spec": lids["spec"], "action": "draw-lots", "seed": s}).get_json()["spec"][
            "samples"
        ]
        for s in (1, 1, 5)
    ]
    assert drawn[0] == drawn[1] != drawn[2]
    assert sorted(s["name"] for s in drawn[2]) == sorted(s.name for s in LIDS.samples)
