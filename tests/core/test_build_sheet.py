"""The sheet to build from: every kind's pieces each in one step of the work, sums as the bill has them, a page that opens anywhere."""

from __future__ import annotations

import re
from html.parser import HTMLParser
from xml.etree import ElementTree

import pytest

from drylamp.core.advice.build_sheet import build_sheet
from drylamp.core.advice.made_of import whole_price
from drylamp.core.builds.registry import KINDS, kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.common import bill
from drylamp.core.common.bill import total
from drylamp.core.common.cutting import cut_plan
from drylamp.core.common.fastening import BATTENS, SCREWS, STRIPS, WASHERS, fastenings, way_of
from drylamp.core.common.views import views
from drylamp.core.common.wall import WallLayer
from drylamp.core.tables import cover
from drylamp.formats.section_svg import section_svg
from drylamp.formats.sheet_page import to_html
from drylamp.formats.views_svg import view_svg


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


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_is_seen_from_the_front_and_from_above_at_one_size(kind: str):
    build = starters()[kind][0].spec
    front, above = build_sheet("x", build, None, []).views
    assert front.wide_m == above.high_m == build.across_m > 0.0
    for view in (front, above):
        assert view.outlines
        assert max(one.left_m + one.wide_m for one in view.outlines) == pytest.approx(view.wide_m, abs=0.01)
        assert max(one.low_m + one.high_m for one in view.outlines) == pytest.approx(view.high_m, abs=0.01)
        assert min(min(one.left_m, one.low_m) for one in view.outlines) >= -1e-9
        drawn = ElementTree.fromstring(view_svg(view))
        assert len(
            drawn.findall("{http://www.w3.org/2000/svg}rect") + drawn.findall("{http://www.w3.org/2000/svg}ellipse")
        ) == len(view.outlines)


def test_what_is_round_is_drawn_round_and_what_nobody_knows_is_not_drawn():
    dish = starters()["dish"][0].spec
    front = views(kind_of(dish).section(dish, None, None), dish.across_m, dish.is_round)[0]
    assert any(one.is_round for one in front.outlines)
    assert views(kind_of(dish).section(dish, None, None), 0.0) == []


def test_whole_sheets_cost_what_their_boards_do():
    """By hand: a piece of 1.25 × 1.25 at 10 € comes from a sheet of 2.5 × 1.25, which is 20 €; a thing is bought by the piece."""
    layer = WallLayer(material="plywood", thickness_m=0.009)
    (piece,) = bill.layer_piece("box", "side", layer, 1.25, 1.25)
    alone = piece.model_copy(update={"price": 10.0})
    other = piece.model_copy(update={"family": "pane", "stuff": "window-glass", "price": 7.0, "count": 2})
    assert whole_price([alone, other], cut_plan([alone, other])) == pytest.approx(20.0 + 14.0)


def test_what_is_folded_goes_flat_again():
    words = build_sheet("x", starters()["funnel"][0].spec, None, []).words
    assert any("goes flat again" in text for text in words)
