"""A build's drawing as SVG that stands alone: ink on paper, to scale, with its dimensions and a metre beside it."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape

from drylamp.core.common.drawing import Dimension, Ink, Point, Section
from drylamp.core.text import metres, plain

WIDE, HIGH, EDGE = 760.0, 460.0, 70.0
"""Most that the drawing is wide and high, and the room round it, in its own units."""
RULES_M = (1.0, 0.5, 0.2, 0.1)
"""Lengths of the rule beside it; the longest that fits is drawn."""
FILLS: dict[Ink, str] = {"wall": "#E3CFA4", "foam": "#F2E8C9", "black": "#22201C", "water": "#BFDCE6", "metal": "#B9B4A6", "glass": "#EAF3F5", "matt": "#FFFFFF", "pale": "#F2E8C9"}  # fmt: skip
STROKES: dict[Ink, tuple[str, float]] = {"mirror": ("#22201C", 3.0), "glass": ("#3E7C8F", 1.6), "glass-line": ("#3E7C8F", 2.2), "lining": ("#6B665C", 1.4), "ground": ("#6B665C", 1.2), "beyond": ("#6B665C", 1.0)}  # fmt: skip
PLAIN = ("#22201C", 1.2)


def section_svg(section: Section, title: str) -> str:
    """Draw it."""
    (left, low), (right, high) = section.extent
    scale = min((WIDE - 2.0 * EDGE) / max(right - left, 1e-6), (HIGH - 2.0 * EDGE) / max(high - low, 1e-6))
    wide, tall = (right - left) * scale + 2.0 * EDGE, (high - low) * scale + 2.0 * EDGE + 24.0

    def at(point: Point) -> tuple[float, float]:
        return (point[0] - left) * scale + EDGE, (high - point[1]) * scale + EDGE

    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.0f}" height="{tall:.0f}" viewBox="0 0 {wide:.1f} {tall:.1f}" role="img" font-family="sans-serif">',
        f"<title>{escape(title)}</title>",
    ]
    for shape in section.shapes:
        points = " ".join(f"{x:.1f},{y:.1f}" for x, y in map(at, shape.outline))
        colour, width = STROKES.get(shape.ink, PLAIN)
        fill = FILLS.get(shape.ink, "none") if shape.closed else "none"
        tag = "polygon" if shape.closed else "polyline"
        lines.append(
            f'<{tag} points="{points}" fill="{fill}" stroke="{colour}" stroke-width="{width}" stroke-linejoin="round"><title>{escape(shape.label)}</title></{tag}>'
        )
    lines += [_measured(dimension, at, (wide / 2.0, tall / 2.0)) for dimension in section.dimensions]
    y, rule_m = tall - 12.0, next((one for one in RULES_M if one * scale <= wide - 2.0 * EDGE), RULES_M[-1])
    rule = rule_m * scale
    lines.append(
        f'<path d="M{EDGE} {y - 4}v8M{EDGE} {y}h{rule:.1f}M{EDGE + rule:.1f} {y - 4}v8" fill="none" stroke="#22201C"/><text x="{EDGE + rule + 6:.1f}" y="{y + 4}" font-size="12">{rule_m:g} m</text>'
    )
    return "\n".join([*lines, "</svg>"]) + "\n"


def _measured(dimension: Dimension, at: object, middle: tuple[float, float]) -> str:
    """A dimension's line, its figure away from the middle of the drawing."""
    assert callable(at)
    (x1, y1), (x2, y2) = at(dimension.start), at(dimension.end)
    mx, my = (x1 + x2) / 2.0 - middle[0], (y1 + y2) / 2.0 - middle[1]
    away = math.hypot(mx, my) or 1.0
    x, y = (x1 + x2) / 2.0 + mx / away * 22.0, (y1 + y2) / 2.0 + my / away * 18.0
    anchor = "middle" if abs(mx) <= 0.25 * away else "start" if mx > 0.0 else "end"
    return f'<path d="M{x1:.1f} {y1:.1f}L{x2:.1f} {y2:.1f}" stroke="#6B665C"/><text x="{x:.1f}" y="{y:.1f}" font-size="14" text-anchor="{anchor}" dominant-baseline="middle">{escape(plain(metres(dimension.value_m)))}</text>'
