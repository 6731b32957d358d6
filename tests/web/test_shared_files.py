"""Cases and verdicts shared as files, a verdict as one page: they open anywhere and say the same."""

from __future__ import annotations

import io
import json
import re
from html import unescape
from itertools import pairwise
from pathlib import Path

import pytest
from click.testing import CliRunner
from flask.testing import FlaskClient
from PIL import Image

from drylamp.cli import main
from drylamp.core.engine import run_case
from drylamp.core.text import capital, plain
from drylamp.core.trials.verdict import Verdict
from drylamp.core.twin.case import Case
from drylamp.demo.scenario import demo_now
from drylamp.formats.chart_svg import Line, chart_svg
from drylamp.formats.verdict_file import MOST_PHOTO_BYTES, Picture, VerdictFile, _fitting
from drylamp.web.app import create_app
from drylamp.web.settings import Settings
from tests.seeded import copy_to


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> FlaskClient:
    folder = tmp_path_factory.mktemp("shared")
    copy_to(folder / "drylamp.sqlite3")
    return create_app(Settings(data=folder / "drylamp.sqlite3", now=demo_now)).test_client()


JUDGED = [1, 2, 3, 5, 6, 8, 12]
"""An oven's, samples', blocks', a melter's and heaters' trials of the made-up yard, as far as they are there."""


@pytest.mark.parametrize("trial", JUDGED)
def test_a_verdict_is_a_page_that_opens_anywhere(demo: FlaskClient, trial: int):
    row = demo.get(f"/api/trials/{trial}").get_json()
    if not row["can_judge"]:
        pytest.skip("nothing to judge in this one")
    answer = demo.get(f"/api/trials/{trial}/verdict.html")
    assert answer.status_code == 200, answer.text
    text = answer.text
    assert "attachment" in answer.headers["Content-Disposition"]
    assert "<script" not in text
    assert "⦃" not in text
    assert re.search(r">\s*None\b(?! of this)", text) is None
    assert re.findall(r'(?:src|href)="(?!data:)[^"]*"', text) == []
    assert row["name"] in unescape(text)
    found = Verdict.model_validate(demo.get(f"/api/trials/{trial}/verdict.json").get_json()["verdict"])
    for figure in found.figures:
        assert capital(plain(figure.title)) in unescape(text)


def test_the_file_holds_the_verdict_and_a_case_that_runs_the_same(demo: FlaskClient, tmp_path: Path):
    file = VerdictFile.model_validate(demo.get("/api/trials/1/verdict.json").get_json())
    assert (
        file.case.model_dump_json()
        == Case.model_validate(demo.get("/api/trials/1/case.json").get_json()).model_dump_json()
    )
    path = tmp_path / "case.json"
    path.write_bytes(demo.get("/api/trials/1/case.json").data)
    done = CliRunner().invoke(main, ["run", str(path)])
    assert done.exit_code == 0, done.output
    told = json.loads(done.output[done.output.index("{") :])
    assert told["days"][0]["peak_c"] == pytest.approx(run_case(file.case)[0].days[0].peak_c, abs=0.01)


def test_a_build_on_a_day_is_a_case_that_gives_what_its_page_gives(client: FlaskClient, build: dict):
    file = client.get("/api/builds/1/case.json?day=2025-06-12&sky=hazy")
    assert file.status_code == 200
    case = Case.model_validate(file.get_json())
    body = {
        "site_id": 1,
        "spot": build["spot"],
        "spec": build["spec"],
        "load": build["load"],
        "day": "2025-06-12",
        "sky": "hazy",
    }
    page = client.post("/api/twin/day", json=body).get_json()
    assert run_case(case)[0].days[0].peak_c == pytest.approx(page["outcome"]["days"][0]["peak_c"], abs=1e-6)
    assert client.get("/api/builds/9/case.json?day=2025-06-12").status_code == 404
    assert client.get("/api/builds/1/case.json?day=yesterday").status_code == 422


def test_photos_go_along_as_many_as_a_page_carries(client: FlaskClient, trial: dict):
    rows = [{"channel": "tray", "value": 40 + k, "time": f"2025-06-12T10:{5 * k:02d}:00Z"} for k in range(4)]
    client.post(f"/api/trials/{trial['id']}/readings", json={"source": "file", "readings": rows})
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "red").save(picture, "JPEG")
    client.post(f"/api/trials/{trial['id']}/photos?note=the%20lid", data=picture.getvalue(), content_type="image/jpeg")
    text = client.get(f"/api/trials/{trial['id']}/verdict.html").text
    assert text.count("data:image/jpeg;base64,") == 1
    assert "the lid" in text
    heavy = Picture(note="", jpeg=b"x" * (MOST_PHOTO_BYTES // 2 + 1))
    shown, left = _fitting([heavy, heavy, Picture(note="small", jpeg=b"y")])
    assert ([one.note for one in shown], left) == (["", "small"], 1)


def test_nothing_to_judge_and_no_such_trial_are_said(client: FlaskClient, trial: dict):
    for end in ("html", "json"):
        assert client.get(f"/api/trials/{trial['id']}/verdict.{end}").status_code == 422
        assert client.get(f"/api/trials/99/verdict.{end}").status_code == 404
    assert client.get(f"/api/trials/{trial['id']}/case.json").status_code == 200


def test_the_schema_of_a_verdict_can_be_had():
    done = CliRunner().invoke(main, ["schema", "verdict"])
    assert done.exit_code == 0
    assert {"case", "verdict", "trial"} <= set(json.loads(done.output)["properties"])


def test_a_chart_names_its_curves_apart_and_leaves_gaps_open():
    times = [demo_now().replace(hour=h) for h in range(8, 18)]
    lines = [Line(name, "rust", [20.0 + k for k in range(10)]) for name in ("one", "two", "three")]
    gap = Line(
        "gap & more",
        "water",
        [1.0, 2.0, None, 3.0, 4.0, None, 5.0, None, None, 6.0],
        dots=[(times[2], 9.0), (demo_now().replace(hour=23), 99.0)],
    )
    text = chart_svg("t", times, [*lines, gap])
    heights = [float(y) for y in re.findall(r'y="([\d.]+)" fill="#9A3B1F"', text)]
    assert all(abs(a - b) >= 14.9 for a, b in pairwise(heights))
    assert text.count("<polyline") == 3 + 2
    assert text.count("<circle") == 1
    assert "gap &amp; more" in text
