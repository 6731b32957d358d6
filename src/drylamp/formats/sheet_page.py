"""A build's sheet as one HTML page that opens anywhere: no script, nothing fetched, made to be printed."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from importlib import resources

from jinja2 import Environment, StrictUndefined, Template

from drylamp.core.advice.build_sheet import BuildSheet, hours_said
from drylamp.core.common.cutting import CutPlan
from drylamp.core.quantities import Quantity
from drylamp.core.text import amount, metres, plain
from drylamp.formats.section_svg import section_svg

SCALE = 150.0
"""Units of a cut plan's drawing to a metre."""


def _said(value: float, quantity: Quantity) -> str:
    return plain(amount(value, quantity))


def _sides(*lengths: float) -> str:
    return " × ".join(plain(metres(one)) for one in lengths if one > 0.0)


@cache
def _template() -> Template:
    text = resources.files("drylamp.formats").joinpath("build_sheet.html").read_text(encoding="utf-8")
    made = Environment(autoescape=True, undefined=StrictUndefined, trim_blocks=True, lstrip_blocks=True)
    made.filters.update(said=_said, plain=plain)
    made.globals.update(sides=_sides, scale=SCALE)
    return made.from_string(text)


def to_html(sheet: BuildSheet, cautions: Sequence[str], made_on: str) -> str:
    """Write it."""
    drawing = section_svg(sheet.section, f"{sheet.name}, cut open")
    return _template().render(
        sheet=sheet,
        drawing=drawing,
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
