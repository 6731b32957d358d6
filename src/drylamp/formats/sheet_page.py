"""A build's sheet as one HTML page, to be printed and built from."""

from __future__ import annotations

from collections.abc import Sequence

from drylamp.core.advice.build_sheet import BuildSheet, hours_said
from drylamp.core.common.cutting import CutPlan
from drylamp.core.text import plain
from drylamp.formats.page import page
from drylamp.formats.section_svg import section_svg
from drylamp.formats.views_svg import view_svg

SCALE = 150.0
"""Units of a cut plan's drawing to a metre."""


def to_html(sheet: BuildSheet, cautions: Sequence[str], made_on: str) -> str:
    """Write it."""
    drawing = section_svg(sheet.section, f"{sheet.name}, cut open")
    return page(
        "build_sheet.html",
        scale=SCALE,
        sheet=sheet,
        drawing=drawing,
        seen=[(view.title, view_svg(view)) for view in sheet.views],
        boards=_alike(sheet.made.cuts),
        cautions=[plain(text) for text in cautions],
        hours=plain(hours_said(sheet)),
        made_on=made_on,
    )


def _alike(cuts: CutPlan) -> list[tuple[object, int]]:
    """Boards that are cut alike, once each, with how many there are."""
    found = dict[str, tuple[object, int]]()
    for board in cuts.boards:
        key = board.model_dump_json()
        found[key] = (board, found.get(key, (board, 0))[1] + 1)
    return list(found.values())
