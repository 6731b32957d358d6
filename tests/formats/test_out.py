"""What leaves the program or comes in as a picture: nothing in it runs, nothing tells where it was taken."""

from __future__ import annotations

import io
import zipfile

import pytest
from openpyxl import load_workbook
from PIL import Image

from drylamp.core.checks import InputProblem
from drylamp.formats.cells import inert
from drylamp.formats.photo import read_photo

HOSTILE = ["=1+1", "+1+1", "-2+3", "@SUM(A1)", "\t=1", "\r=1", "  =1", "＝1+1", '=HYPERLINK("http://127.0.0.1","x")']


@pytest.mark.parametrize("text", HOSTILE)
def test_formulas_are_neutralised_as_owasp_says(text: str):
    """OWASP, CSV Injection."""
    assert inert(text) == "'" + text


@pytest.mark.parametrize("cell", ["-5.25", "+3", "1e-3", "tray", "", "a=b", 4.5, None])
def test_numbers_and_plain_words_stay(cell: object):
    assert inert(cell) == cell


@pytest.mark.parametrize("note", HOSTILE[:4])
def test_notes_of_a_trial_run_nowhere(client, trial, note: str):
    url = f"/api/trials/{trial['id']}"
    assert client.post(f"{url}/events", json={"kind": "note", "note": note}).status_code == 201
    client.post(f"{url}/end", json={"remarks": note})
    lines = client.get(f"{url}/export.csv").text.splitlines()
    assert any(f"'{note}"[:6] in line for line in lines)
    book = load_workbook(io.BytesIO(client.get(f"{url}/export.xlsx").data))
    cells = [cell for sheet in book for row in sheet.iter_rows() for cell in row if cell.value == note]
    assert len(cells) == 2
    assert {cell.data_type for cell in cells} == {"s"}


def test_a_workbook_holds_the_readings_typed(client, trial):
    rows = [{"channel": "tray", "value": 40.5, "time": "2025-06-12T10:05:00Z", "typed": "40.5"}]
    client.post("/api/trials/1/readings", json={"readings": rows, "source": "file"})
    answer = client.get("/api/trials/1/export.xlsx")
    assert "spreadsheetml" in answer.mimetype, answer.text
    sheet = load_workbook(io.BytesIO(answer.data))["readings"]
    assert [cell.value for cell in sheet[1]][:5] == ["time (site)", "time (UTC)", "channel", "value", "unit"]
    local, utc, channel, value = (cell.value for cell in sheet[2][:4])
    assert (local - utc).total_seconds() == 7200
    assert (channel, value) == ("tray", 40.5)


def picture(kind: str, size: tuple[int, int] = (64, 48), **extra: object) -> bytes:
    out = io.BytesIO()
    image = Image.effect_noise(size, 90).convert("RGB")
    image.save(out, kind, **extra)
    return out.getvalue()


def test_comments_profiles_and_places_are_gone():
    exif = Image.Exif()
    exif[0x010E] = "the shed behind the mill"
    data = picture("JPEG", comment=b"taken at 41.2 N 1.1 E", exif=exif, icc_profile=b"x" * 200)
    assert b"41.2 N" in data
    kept = read_photo(data).content
    for word in (b"41.2 N", b"shed", b"Exif", b"ICC_PROFILE", b"http"):
        assert word not in kept
    with Image.open(io.BytesIO(kept)) as image:
        assert set(image.info) <= {"jfif", "jfif_version", "jfif_unit", "jfif_density"}


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
@pytest.mark.parametrize("part", [0.3, 0.6, 0.9, 0.99, -1])
def test_pictures_cut_short_are_refused(kind: str, part: float):
    whole = picture(kind)
    assert read_photo(whole).width == 64
    cut = whole[:-1] if part == -1 else whole[: int(part * len(whole))]
    with pytest.raises(InputProblem, match="cut short"):
        read_photo(cut)


def test_what_stands_behind_a_whole_picture_does_no_harm():
    assert read_photo(picture("JPEG") + b"\0" * 100).width == 64


def test_a_workbook_is_no_bomb(client, trial):
    client.post("/api/trials/1/readings", json={"readings": [{"channel": "tray", "value": 1.0}], "source": "file"})
    with zipfile.ZipFile(io.BytesIO(client.get("/api/trials/1/export.xlsx").data)) as book:
        assert sum(item.file_size for item in book.infolist()) < 100_000


def test_a_token_stands_on_its_trials_own_page_only(client, trial):
    assert trial["token"]
    assert client.get("/api/trials/1").get_json()["token"] == trial["token"]
    for path in (
        "/api/trials", "/api/trials?running=true", "/api/builds", "/api/sites/1/yard?day=2025-06-12", "/api/trials/1/export.json", "/api/trials/1/export.csv",
        "/api/trials/1/series", "/api/trials/1/logger-setup",
    ):  # fmt: skip
        assert trial["token"] not in client.get(path).text, path
