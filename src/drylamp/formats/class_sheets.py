"""Sheets of a class to print: one page a child, with the box, what to mind, a table and an empty chart to fill in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from drylamp.core.common.drawing import Section
from drylamp.formats.page import page
from drylamp.formats.section_svg import section_svg

WIDE, HIGH, LEFT, TOP, FOOT = 900, 420, 44, 8, 26
TOP_C, STEP_C = 160, 10


@dataclass(frozen=True)
class ChildSheet:
    """One child's page: name, what the box is like, and its drawing."""

    name: str
    like: str
    section: Section


def to_html(
    name: str,
    day: str,
    boxes: Sequence[ChildSheet],
    times: Sequence[str],
    checklist: Sequence[str],
    cautions: Sequence[str],
    top_c: float,
) -> str:
    """Write them; the empty chart reaches as high as the twin gets, and some way on."""
    drawn = [
        {"name": box.name, "like": box.like, "drawing": section_svg(box.section, f"{box.name}'s box, cut open")}
        for box in boxes
    ]
    return page(
        "class_sheets.html",
        name=name,
        day=day,
        boxes=drawn,
        times=times,
        checklist=checklist,
        cautions=cautions,
        chart=empty_chart(times, top_c),
    )


def empty_chart(times: Sequence[str], top_c: float) -> str:
    """A grid of degrees over the hours, to draw into."""
    top = min(max(STEP_C * (int(top_c * 1.15) // STEP_C + 1), 60), TOP_C + 100)
    right, bottom = WIDE - 8, HIGH - FOOT
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {HIGH}" width="{WIDE}" role="img" font-family="sans-serif" font-size="12"><title>an empty chart</title>'
    ]
    for celsius in range(0, top + 1, STEP_C):
        y = bottom - (bottom - TOP) * celsius / top
        parts.append(
            f'<path d="M{LEFT} {y:.1f}H{right}" stroke="#B9B4A6" stroke-width="{1.4 if celsius % 50 == 0 else 0.7}"/>'
        )
        if celsius % 20 == 0:
            parts.append(f'<text x="{LEFT - 6}" y="{y + 4:.1f}" text-anchor="end">{celsius}°</text>')
    for k, time in enumerate(times):
        x = LEFT + (right - LEFT) * k / max(len(times) - 1, 1)
        parts.append(
            f'<path d="M{x:.1f} {TOP}V{bottom}" stroke="#B9B4A6" stroke-width="0.7"/><text x="{x:.1f}" y="{HIGH - 8}" text-anchor="middle">{time}</text>'
        )
    return "\n".join([*parts, "</svg>"]) + "\n"
