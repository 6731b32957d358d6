"""Flat patterns as files: true size in both, every cut closed, folds on their own layer."""

from __future__ import annotations

import io
import re
from xml.etree import ElementTree

import ezdxf
import pytest

from drylamp.core.builds.common.pattern import laid_out
from drylamp.core.builds.registry import kind_of
from drylamp.demo.scenario import DISH, FUNNEL, MELTER, OVEN, WORKSHOP
from drylamp.formats.pattern_file import MARGIN_MM, to_dxf, to_svg

BUILDS = {"oven": OVEN, "card": WORKSHOP, "funnel": FUNNEL, "dish": DISH, "melter": MELTER}
SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(params=list(BUILDS))
def pattern(request):
    return laid_out(f"{request.param} & more", kind_of(BUILDS[request.param]).pattern(BUILDS[request.param]))


def test_svg_is_at_true_size(pattern):
    root = ElementTree.fromstring(to_svg(pattern))
    wide = float(root.get("width").removesuffix("mm"))
    assert wide == pytest.approx(pattern.width_mm + 2 * MARGIN_MM, abs=0.01)
    box = [float(v) for v in root.get("viewBox").split()]
    assert box[2] == pytest.approx(wide)
    assert root.find(f"{SVG}title").text == pattern.title
    lines = root.findall(f".//{SVG}polyline")
    assert len(lines) == sum(len(piece.lines) for piece in pattern.pieces)
    places = [tuple(map(float, dot.split(","))) for line in lines for dot in line.get("points").split()]
    assert max(x for x, _ in places) - min(x for x, _ in places) == pytest.approx(pattern.width_mm, abs=0.1)


def test_svg_names_no_outside_address(pattern):
    text = to_svg(pattern)
    assert re.findall(r"https?://[^\"]+", text) == ["http://www.w3.org/2000/svg"]


def test_dxf_reads_back_in_millimetres(pattern):
    document = ezdxf.read(io.StringIO(to_dxf(pattern)))
    assert document.units == ezdxf.units.MM
    lines = list(document.modelspace().query("LWPOLYLINE"))
    cuts = [line for line in lines if line.dxf.layer == "CUT"]
    folds = [line for line in lines if line.dxf.layer == "FOLD"]
    assert len(cuts) == sum(line.kind == "cut" for piece in pattern.pieces for line in piece.lines)
    assert len(folds) == sum(line.kind == "fold" for piece in pattern.pieces for line in piece.lines)
    assert all(line.closed for line in cuts)
    assert not any(line.closed for line in folds)
    across = [x for line in cuts for x, *_ in line.get_points()]
    assert max(across) - min(across) == pytest.approx(pattern.width_mm, abs=0.1)
    assert not document.audit().has_errors


def test_dxf_says_how_many_petals():
    document = ezdxf.read(io.StringIO(to_dxf(laid_out("x", kind_of(DISH).pattern(DISH)))))
    assert [text.dxf.text for text in document.modelspace().query("TEXT")] == ["petal, 16 times"]
