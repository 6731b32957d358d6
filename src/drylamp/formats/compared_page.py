"""Builds or trials side by side as one HTML page."""

from __future__ import annotations

from collections.abc import Sequence

from drylamp.core.advice.compared import Compared
from drylamp.core.text import plain
from drylamp.formats.chart_svg import Line, chart_svg
from drylamp.formats.page import page
from drylamp.formats.section_svg import section_svg


def to_html(found: Compared, made_on: str, day: str, sky: str, explained: Sequence[str] = ()) -> str:
    """Write it; ``explained`` are sentences on why the second is not like the first."""
    lines = [
        Line(f"{c.name}: {c.judged}", c.ink, c.celsius, dots=[(p.time, p.celsius) for p in c.read])
        for c in found.columns
    ]
    chart = chart_svg("temperatures", found.times, [*lines, Line("air", "air", found.air_c, dash="4 3")])
    return page(
        "compared.html", found=found, names=[c.name for c in found.columns], chart=chart, made_on=made_on, day=day, sky=plain(sky), explained=explained,
        drawings=[section_svg(c.section, f"{c.name}, cut open") for c in found.columns],
    )  # fmt: skip
