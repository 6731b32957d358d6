"""The sheet to build from: every kind's pieces each in one step of the work, sums as the bill has them, a page that opens anywhere."""

from __future__ import annotations

import re
from html.parser import HTMLParser
from xml.etree import ElementTree

import pytest

from drylamp.core.advice.build_sheet import build_sheet
from drylamp.core.builds.registry import KINDS, kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.common import bill
from drylamp.core.common.bill import total
from drylamp.core.common.fastening import BATTENS, SCREWS, STRIPS, WASHERS, fastenings, way_of
from drylamp.core.common.wall import WallLayer
from drylamp.core.tables import cover
from drylamp.formats.section_svg import section_svg
from drylamp.formats.sheet_page import to_html


@pytest.mark.parametrize("kind", KINDS)
def test_a_kinds_sheet_is_whole(kind: str):
    first = starters()[kind][0]
    sheet = build_sheet(first.name, first.spec, first.load, [])
    pieces = kind_of(first.spec).bill(first.spec)
    assert sum(step.hours for step in sheet.steps) == pytest.approx(total(pieces, "hours"))
    named = [name for step in sheet.steps for name in step.pieces]
    assert all(any(piece.title.split()[0] in name for name in named) for piece in pieces)
    assert sheet.sizes
    flat = [piece for piece in pieces if piece.wide_m > 0.0 and piece.family != "finish"]
    if flat:
        assert sheet.packed_m[0] == pytest.approx(max(piece.long_m for piece in flat), abs=0.001)
        volume = sum(piece.area_m2 * piece.thick_m for piece in flat)
        assert sheet.packed_m[0] * sheet.packed_m[1] * sheet.packed_m[2] >= volume - 1e-4


class Tags(HTMLParser):
    """What a page would fetch or run."""

    def __init__(self) -> None:
        super().__init__()
        self.open: list[str] = []
        self.fetched: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in ("script", "link", "img", "iframe"):
            self.fetched.append(tag)
        self.fetched += [value for name, value in attrs if name in ("src", "href") and value]


@pytest.mark.parametrize("kind", KINDS)
def test_the_page_fetches_nothing_and_shows_no_marks(kind: str):
    first = starters()[kind][0]
    page = to_html(build_sheet("A <b> & co", first.spec, first.load, []), ["Mind your eyes."], "2025-06-12")
    tags = Tags()
    tags.feed(page)
    assert tags.fetched == []
    assert "A &lt;b&gt; &amp; co" in page
    assert "⦃" not in page
    assert not re.search(r"\b(nan|undefined)\b|>None<|: None", page)
    assert page.count("<svg") >= 1
    assert "Mind your eyes." in page


@pytest.mark.parametrize("kind", KINDS)
def test_the_drawing_stands_alone_and_is_to_scale(kind: str):
    first = starters()[kind][0]
    section = kind_of(first.spec).section(first.spec, first.load, None)
    root = ElementTree.fromstring(section_svg(section, first.name))
    drawn = [one for one in root if one.tag.endswith(("polygon", "polyline"))]
    assert len(drawn) == len(section.shapes)
    rule = next(one for one in root if one.tag.endswith("path") and "v8" in one.get("d", ""))
    words = next(one.text for one in root if one.tag.endswith("text") and one.text.endswith(" m"))
    scale = float(re.search(r"h([\d.]+)", rule.get("d")).group(1)) / float(words.split()[0])
    xs = [float(pair.split(",")[0]) for pair in drawn[0].get("points").split()]
    outline = [x for x, _ in section.shapes[0].outline]
    assert max(xs) - min(xs) == pytest.approx((max(outline) - min(outline)) * scale, abs=0.3)


def test_what_holds_a_piece_follows_from_its_stuff():
    board = bill.layer_piece("wall", "side", WallLayer(material="plywood", thickness_m=0.012), 0.6, 0.3, 2)[0]
    assert way_of(board) is SCREWS
    held = fastenings([board])[0]
    assert held.count == 2 * 12, "1.8 m of edge, every 15 cm, on two boards"
    assert way_of(bill.pane_piece("cover", "pane", cover("window-glass"), 0.004, 1, 1)) is STRIPS
    assert way_of(bill.pane_piece("cover", "pane", cover("polycarbonate"), 0.004, 1, 1)) is WASHERS
    assert way_of(bill.pane_piece("cover", "film", cover("pe-film"), 0.0002, 1, 1)) is BATTENS
    assert way_of(bill.thing("cover", "hinges")) is None
