"""Views of a build as SVG that stands alone, with their overall sizes."""

from __future__ import annotations

from xml.sax.saxutils import escape

from drylamp.core.common.views import View
from drylamp.core.text import metres, plain

WIDE, HIGH, EDGE = 360.0, 260.0, 46.0


def view_svg(view: View) -> str:
    """Draw one."""
    scale = min((WIDE - 2 * EDGE) / max(view.wide_m, 1e-6), (HIGH - 2 * EDGE) / max(view.high_m, 1e-6))
    wide, high = view.wide_m * scale, view.high_m * scale
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide + 2 * EDGE:.0f}" height="{high + 2 * EDGE:.0f}" viewBox="0 0 {wide + 2 * EDGE:.1f} {high + 2 * EDGE:.1f}" role="img" font-family="sans-serif" font-size="13">',
        f"<title>{escape(view.title)}</title>",
    ]
    for one in view.outlines:
        x, y, w, h = (
            EDGE + one.left_m * scale,
            EDGE + high - (one.low_m + one.high_m) * scale,
            one.wide_m * scale,
            one.high_m * scale,
        )
        shape = (
            f'<ellipse cx="{x + w / 2:.1f}" cy="{y + h / 2:.1f}" rx="{w / 2:.1f}" ry="{h / 2:.1f}"'
            if one.is_round
            else f'<rect x="{x:.1f}" y="{y:.1f}" width="{w:.1f}" height="{h:.1f}"'
        )
        parts.append(
            f'{shape} fill="#FFFFFF" fill-opacity="0.5" stroke="#22201C"><title>{escape(one.label)}</title></{"ellipse" if one.is_round else "rect"}>'
        )
    parts.append(
        f'<text x="{EDGE + wide / 2:.1f}" y="{EDGE + high + 22:.1f}" text-anchor="middle">{escape(plain(metres(view.wide_m)))}</text>'
    )
    parts.append(
        f'<text x="{EDGE - 10:.1f}" y="{EDGE + high / 2:.1f}" text-anchor="middle" transform="rotate(-90 {EDGE - 10:.1f} {EDGE + high / 2:.1f})">{escape(plain(metres(view.high_m)))}</text>'
    )
    return "\n".join([*parts, "</svg>"]) + "\n"
