"""Trials over the wire: starting, reading, noting, importing, judging."""

from datetime import datetime, timedelta

import pytest

from drylamp.core.kept import forget_everything
from drylamp.core.trials.verdict import judge
from drylamp.demo.scenario import DAIRY_FRAME, DAIRY_WASH
from tests.web.test_api import problem
from tests.wording import read

NOON = datetime.fromisoformat("2025-06-12T12:10:00+02:00")


def at(minutes: float) -> str:
    return (NOON + timedelta(minutes=minutes)).isoformat()


def post_readings(client, trial: dict, rows: list[tuple[str, float, float]], unit: str = "C", source: str = "hand"):
    body = {
        "source": source,
        "ahead": True,
        "readings": [{"channel": c, "time": at(m), "value": v, "unit": unit} for c, m, v in rows],
    }
    return client.post(f"/api/trials/{trial['id']}/readings", json=body)


def shown(client, trial: dict) -> dict:
    return client.get(f"/api/trials/{trial['id']}").get_json()


def test_book(client):
    book = client.get("/api/trials/book").get_json()
    looks = {p["name"]: p for p in book["protocols"]}
    assert looks["quick-look"]["reading_minutes"] == [0, 5, 10, 30, 60]
    assert all(i["doubt"] > 0 for i in book["instruments"])
    assert "cloud" in [e["name"] for e in book["events"]]


def test_a_started_trial_knows_what_comes_next(client, trial):
    assert trial["build_revision"] == 1
    assert trial["weather"]["tmax_c"] == pytest.approx(26, abs=1)
    assert datetime.fromisoformat(trial["next_reading"]) == NOON
    assert {c["name"]: c["doubt"] for c in trial["channels"]} == {"inside-air": 1, "tray": 1, "control": 1}


def test_rounds_and_countdown(client, trial):
    post_readings(client, trial, [("inside-air", 0, 22), ("tray", 0, 24), ("control", 0, 30)])
    after = shown(client, trial)
    assert after["rounds_done"] == 1
    assert datetime.fromisoformat(after["next_reading"]) == NOON + timedelta(minutes=5)
    for k, minute in enumerate((5, 10, 30, 60)):
        post_readings(client, trial, [("inside-air", minute, 30 + 8 * k)])
        assert shown(client, trial)["read_next"] == "tray", "a round is done when every wanted channel has its value"
        post_readings(client, trial, [("tray", minute, 34 + 9 * k), ("control", minute, 30)])
    done = shown(client, trial)
    assert done["rounds_done"] == 5
    assert done["next_reading"] is None


@pytest.mark.parametrize(("change", "says"), [
    ({"protocol": "hurry"}, "quick-look"),
    ({"build_id": 99}, "no build 99"),
    ({"spot": "moon"}, "no spot here"),
    ({"channels": [{"name": "a", "title": "a", "node": "tray", "instrument": "nose"}]}, "'nose' is not known"),
    ({"channels": [{"name": "a", "title": "a", "node": "tray"}] * 2}, "is there twice"),
    ({"channels": [{"name": "a", "title": "a", "node": "tray", "doubt": -1}]}, "greater than 0"),
])  # fmt: skip
def test_trials_that_cannot_start(client, build, change: dict, says: str):
    body = {"build_id": build["id"], "name": "x", "protocol": "quick-look",
            "channels": [{"name": "tray", "title": "tray", "node": "tray"}], **change}  # fmt: skip
    answer = client.post("/api/trials", json=body)
    assert answer.status_code in (404, 422)
    assert says in answer.get_json()["detail"]
    assert client.get("/api/trials").get_json() == []


def test_a_heat_up_takes_the_builds_own_pot(client, build):
    body = {"build_id": build["id"], "name": "x", "protocol": "heat-up",
            "channels": [{"name": "contents", "title": "stew", "node": "contents"}]}  # fmt: skip
    assert client.post("/api/trials", json=body).get_json()["load"]["food"] == "chickpea-stew"


def test_same_post_twice_counts_once(client, trial):
    rows = [("tray", 5, 40.0), ("inside-air", 5, 30.0)]
    assert post_readings(client, trial, rows).get_json()["written"] == 2
    again = post_readings(client, trial, rows).get_json()
    assert (again["written"], again["repeated"]) == (0, 2)
    assert len(shown(client, trial)["readings"]) == 2


def test_a_contradicting_value_is_told_and_kept_out(client, trial):
    post_readings(client, trial, [("tray", 5, 40.0)])
    answer = post_readings(client, trial, [("tray", 5, 45.0)]).get_json()
    assert answer["contradicting"][0]["value"] == 45.0
    assert [r["value"] for r in shown(client, trial)["readings"]] == [40.0]


def test_fahrenheit_is_turned_and_remembered(client, trial):
    post_readings(client, trial, [("tray", 5, 104.0)], unit="F")
    kept = shown(client, trial)["readings"][0]
    assert kept["value"] == pytest.approx(40)
    assert (kept["unit"], kept["typed"]) == ("F", "104")


def test_fahrenheit_typed_as_celsius_is_flagged_not_dropped(client, trial):
    """First by what the twin expects, later by the reading before."""
    first = post_readings(client, trial, [("tray", 5, 115.0)]).get_json()
    assert first["written"] == 1
    assert first["flagged"][0]["flag_code"] == "unit"
    assert "115 read as Fahrenheit (46 °C)" in read(first["flagged"][0]["flag_text"])
    post_readings(client, trial, [("inside-air", 10, 40.0)])
    second = post_readings(client, trial, [("inside-air", 20, 113.0)]).get_json()
    assert second["flagged"][0]["flag_code"] == "unit"
    assert len(shown(client, trial)["readings"]) == 3


def test_a_first_reading_from_a_clock_a_little_slow_is_asked_about_all_the_same(client, trial):
    """A device's clock may be slow: what it stamps a moment before the start is the start's."""
    answer = post_readings(client, trial, [("tray", -0.02, 72.0)]).get_json()
    assert [f["flag_code"] for f in answer["flagged"]] == ["unit"]
    assert "72 read as Fahrenheit (22 °C)" in read(answer["flagged"][0]["flag_text"])
    post_readings(client, trial, [("inside-air", -0.02, 24.0), ("inside-air", 5, 30.0)])
    verdict = client.get(f"/api/trials/{trial['id']}/verdict").get_json()
    air = next(c for c in verdict["channels"] if c["channel"] == "inside-air")
    assert [r["reading_c"] for r in air["residuals"]] == [24.0, 30.0], "none is left out in silence"


@pytest.mark.parametrize(("value", "source", "code"), [
    (900.0, "hand", "impossible"), (-127.0, "logger", "stuck"), (2000.0, "logger", "stuck"), (85.0, "logger", "stuck"), (41.0, "hand", ""),
])  # fmt: skip
def test_odd_values_are_flagged(client, trial, value: float, source: str, code: str):
    answer = post_readings(client, trial, [("tray", 5, value)], source=source).get_json()
    assert answer["written"] == 1
    assert [f["flag_code"] for f in answer["flagged"]] == ([code] if code else [])


def test_a_jump_is_flagged(client, trial):
    rows = [("tray", 5, 40.0), ("tray", 5.5, 220.0)]
    flagged = post_readings(client, trial, rows, source="logger").get_json()["flagged"]
    assert [f["flag_code"] for f in flagged] == ["jump"]


@pytest.mark.parametrize(("change", "field"), [
    ({"channel": "cellar"}, "channel"), ({"value": "warm"}, "readings.0.value"), ({"unit": "K"}, "unit"),
    ({"time": "soon"}, "readings.0.time"), ({"time": "2025-06-12T12:00:00"}, "readings.0.time"), ({"value": True}, "readings.0.value"),
])  # fmt: skip
def test_broken_readings_write_nothing(client, trial, change: dict, field: str):
    rows = [
        {"channel": "tray", "time": at(5), "value": 40, "unit": "C", **change},
        {"channel": "tray", "time": at(6), "value": 41},
    ]
    found = problem(client.post(f"/api/trials/{trial['id']}/readings", json={"readings": rows, "ahead": True}), 422)
    assert found["errors"][0]["field"] == field
    assert shown(client, trial)["readings"] == []


def test_withdraw_and_restore(client, trial):
    post_readings(client, trial, [("tray", 5, 40.0)])
    key = {"channel": "tray", "time": at(5)}
    url = f"/api/trials/{trial['id']}/readings"
    assert client.post(f"{url}/withdraw", json=key).get_json()["readings"] == []
    assert len(client.post(f"{url}/restore", json=key).get_json()["readings"]) == 1
    problem(client.post(f"{url}/withdraw", json={"channel": "tray", "time": at(9)}), 404)


def test_events_and_end(client, trial):
    url = f"/api/trials/{trial['id']}"
    with_event = client.post(f"{url}/events", json={"kind": "cloud", "note": "one"}).get_json()
    assert with_event["events"][0]["kind"] == "cloud"
    event = with_event["events"][0]["id"]
    assert client.post(f"{url}/events/{event}/withdraw").get_json()["events"] == []
    problem(client.post(f"{url}/events", json={"kind": "earthquake"}), 422)
    ended = client.post(f"{url}/end", json={"remarks": "fine"}).get_json()
    assert ended["ended"] is not None
    assert ended["remarks"] == "fine"
    assert client.post(f"{url}/end", json={"ended": False}).get_json()["ended"] is None


CSV = "time;tray (°F)\n" + "".join(f"2025-06-12 12:{10 + k}:00;{70 + 9 * k},5\n" for k in range(1, 20))


def commit(client, trial: dict, text: str, **more):
    target = {"column": more.pop("column", "tray (°F)"), "channel": trial["channels"][1]}
    body = {"name": "log.csv", "text": text, "columns": [target], **more}
    return client.post(f"/api/trials/{trial['id']}/import", json=body)


def test_import_with_preview(client, trial):
    answer = client.post(f"/api/trials/{trial['id']}/import/preview", json={"name": "log.csv", "text": CSV}).get_json()
    assert answer["goes_to"] == {"tray (°F)": "have:tray"}
    preview = answer["preview"]
    assert preview["readings"] == 19
    assert preview["columns"][0]["unit"] == "F"
    assert shown(client, trial)["readings"] == []
    done = commit(client, trial, CSV).get_json()
    assert done["result"]["written"] == 19
    assert commit(client, trial, CSV).get_json()["result"]["repeated"] == 19
    first = shown(client, trial)["readings"][0]
    assert first["value"] == pytest.approx((79.5 - 32) / 1.8)
    assert first["source"] == "file"


def test_import_stops_at_bad_rows_unless_told_to_skip(client, trial):
    text = CSV + "2025-06-12 12:35:00;warm\n"
    found = problem(commit(client, trial, text), 422)
    assert "row 21" in found["detail"]
    assert "nothing was written" in found["detail"]
    assert shown(client, trial)["readings"] == []
    assert commit(client, trial, text, bad_rows="skip").get_json()["result"]["written"] == 19


def test_import_stops_at_open_questions(client, trial):
    text = "time,tray\n2025-06-12T12:11+02:00,40\n2025-06-12T11:12+01:00,42\n"
    found = problem(commit(client, trial, text, column="tray"), 422)
    assert found["errors"][0]["field"] == "two-time-zones"
    done = commit(client, trial, text, column="tray", answers={"two-time-zones": "yes"})
    assert done.get_json()["result"]["written"] == 2


def test_import_of_an_unknown_column(client, trial):
    assert "no column of values" in problem(commit(client, trial, CSV, column="cellar"), 422)["detail"]


def test_empty_import(client, trial):
    answer = client.post(f"/api/trials/{trial['id']}/import/preview", json={"name": "log.csv", "text": ""})
    assert "empty" in problem(answer, 422)["detail"]


def test_import_can_add_a_channel(client, trial):
    channel = {"name": "walls", "title": "inner wall", "node": "walls", "instrument": "logger"}
    body = {"name": "l.csv", "text": "minutes,wall\n1,25\n2,26\n", "columns": [{"column": "wall", "channel": channel}]}
    assert client.post(f"/api/trials/{trial['id']}/import", json=body).get_json()["result"]["written"] == 2
    assert "walls" in [c["name"] for c in shown(client, trial)["channels"]]


def test_a_trial_says_whether_it_can_be_judged(client, trial):
    assert shown(client, trial)["can_judge"] is False
    post_readings(client, trial, [("control", 1, 30.0), ("tray", 2, 900.0)])
    assert shown(client, trial)["can_judge"] is False
    post_readings(client, trial, [("tray", 3, 30.0)])
    assert shown(client, trial)["can_judge"] is True


def test_verdict_needs_a_reading(client, trial):
    assert "no reading" in problem(client.get(f"/api/trials/{trial['id']}/verdict"), 422)["detail"]


def test_verdict_of_an_oven_like_its_twin(client, trial):
    """Readings made by the twin itself: no difference is shown."""
    from drylamp.core.sky.site import Site
    from drylamp.core.trials.facts import TrialFacts
    from drylamp.core.twin.calibration import Calibration
    from drylamp.demo.scenario import OVEN
    from drylamp.instruments.logger import Truth, samples

    setup = client.get(f"/api/trials/{trial['id']}/logger-setup").get_json()
    facts = TrialFacts.model_validate_json(__import__("json").dumps(setup["facts"]))
    truth = Truth(calibration=Calibration(), noise_k=0.2, seed=3)
    for s in samples(Site.model_validate(setup["site"]), OVEN, facts, truth, [0, 5, 10, 30, 60]):
        minute = (s.time - NOON).total_seconds() / 60
        post_readings(client, trial, [(s.channel, minute, s.value)], source="logger")
    verdict = client.get(f"/api/trials/{trial['id']}/verdict").get_json()
    assert read(verdict["headline"]).startswith("As good as its twin")
    assert not any(c["real"] for c in verdict["channels"])
    assert verdict["likely_cause"] == ""
    assert verdict["energy_closure"] < 1e-3
    assert verdict["control"] is not None


def test_a_verdict_is_worked_out_once_and_anew_when_a_reading_comes(client, trial, monkeypatch):
    forget_everything()
    worked_out = []

    def counted(*given):
        worked_out.append(given)
        return judge(*given)

    monkeypatch.setattr("drylamp.web.trials.judged.judge", counted)
    post_readings(client, trial, [("tray", minutes, 61.25) for minutes in (5, 10, 15)])
    address = f"/api/trials/{trial['id']}/verdict"
    first = client.get(address).get_json()
    assert client.get(address).get_json() == first
    assert len(worked_out) == 1
    post_readings(client, trial, [("tray", 20, 93.5)])
    assert client.get(address).get_json() != first
    assert len(worked_out) == 2


def test_impossible_readings_stay_out_of_the_verdict(client, trial):
    """They are kept in the log with their flag, and nothing is judged by them."""
    good = [("tray", 0, 24.0), ("tray", 5, 45.0), ("tray", 10, 60.0)]
    post_readings(client, trial, good)
    before = client.get(f"/api/trials/{trial['id']}/verdict").get_json()
    post_readings(client, trial, [("tray", 20, 900.0)])
    after = client.get(f"/api/trials/{trial['id']}/verdict").get_json()
    assert len(shown(client, trial)["readings"]) == 4
    assert after["channels"][0]["bias_k"] == before["channels"][0]["bias_k"]
    assert [r["reading_c"] for r in after["channels"][0]["residuals"]] == [24.0, 45.0, 60.0]


def test_trial_of_an_older_revision_is_judged_by_it(client, build, trial):
    """Changing the build afterwards does not change what the trial tested."""
    post_readings(client, trial, [("tray", 0, 24.0), ("tray", 5, 45.0), ("tray", 10, 60.0)])
    url = f"/api/trials/{trial['id']}/verdict"
    before = client.get(url).get_json()["channels"]
    spec = {**build["spec"], "mirror": None, "seal_gap_mm": 5.0}
    body = {"name": build["name"], "spot": build["spot"], "spec": spec, "load": build["load"]}
    assert client.put(f"/api/builds/{build['id']}", json=body, headers={"If-Match": '"r1"'}).status_code == 200
    assert client.get(url).get_json()["channels"] == before


def test_what_a_hose_lets_through_is_held_against_flows_only(client, monkeypatch):
    """A flow that cannot pass is kept and flagged; readings of warmth do not ask for it."""
    spec, load = (x.model_dump(mode="json") for x in (DAIRY_FRAME, DAIRY_WASH))
    build = client.post("/api/builds", json={"site_id": 1, "name": "Frame", "spec": spec, "load": load}).get_json()
    channels = [
        {"name": n, "title": n, "node": n, "instrument": i} for n, i in (("outlet", "probe"), ("flow", "bucket"))
    ]
    asked = {"build_id": build["id"], "name": "Barrel", "protocol": "bucket-power", "channels": channels}
    made = client.post("/api/trials", json=asked).get_json()
    flagged = post_readings(client, made, [("flow", 10, 60.0)], unit="l/min").get_json()["flagged"]
    assert [f["flag_code"] for f in flagged] == ["impossible"]
    assert "cannot pass" in read(flagged[0]["flag_text"])
    assert post_readings(client, made, [("flow", 11, 2.0)], unit="l/min").get_json()["flagged"] == []
    monkeypatch.setattr("drylamp.web.readings.routes.most_l_min", lambda db, trial: pytest.fail("nobody read a flow"))
    assert post_readings(client, made, [("outlet", 12, 20.0)], source="logger").status_code == 200
