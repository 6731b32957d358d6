"""Flat patterns as files at true size: SVG and DXF, in millimetres."""

from __future__ import annotations

import io
from xml.sax.saxutils import escape

from drylamp.core.builds.common.pattern import Pattern

MARGIN_MM = 10.0
LABEL_MM = 8.0
DASHED = {"cut": "", "fold": ' stroke-dasharray="6 3"'}


def to_svg(pattern: Pattern) -> str:
    """One drawing with every piece; its width and height are given in mm, so that it prints at true size."""
    wide, high = pattern.width_mm + 2 * MARGIN_MM, pattern.height_mm + 2 * MARGIN_MM + 2 * LABEL_MM
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{high:g}mm" viewBox="0 0 {wide:g} {high:g}">',
        f"<title>{escape(pattern.title)}</title>",
    ]
    top = pattern.height_mm + MARGIN_MM
    for piece in pattern.pieces:
        lines.append(f'<g id="{escape(piece.name.replace(" ", "-"))}">')
        for line in piece.lines:
            points = " ".join(f"{x + MARGIN_MM:g},{top - y:g}" for x, y in line.points)
            lines.append(
                f'<polyline class="{line.kind}" points="{points}" fill="none" stroke="black" stroke-width="0.4"{DASHED[line.kind]}/>'
            )
        left = min(x for line in piece.lines for x, _ in line.points) + MARGIN_MM
        lines.append(
            f'<text x="{left:g}" y="{top + LABEL_MM + 4:g}" font-size="{LABEL_MM:g}">{escape(_label(piece.name, piece.count))}</text></g>'
        )
    return "\n".join([*lines, "</svg>"]) + "\n"


def to_dxf(pattern: Pattern) -> str:
    """The same as DXF R2010: layers CUT and FOLD, drawing units millimetres."""
    import ezdxf
    from ezdxf import units
    from ezdxf.enums import TextEntityAlignment

    document = ezdxf.new("R2010", setup=["linetypes"])
    document.units = units.MM
    document.layers.add("CUT", color=7)
    document.layers.add("FOLD", color=5, linetype="DASHED")
    document.layers.add("TEXT", color=8)
    space = document.modelspace()
    for piece in pattern.pieces:
        for line in piece.lines:
            points = line.points[:-1] if line.is_closed else line.points
            space.add_lwpolyline(points, close=line.is_closed, dxfattribs={"layer": line.kind.upper()})
        left = min(x for line in piece.lines for x, _ in line.points)
        text = space.add_text(_label(piece.name, piece.count), height=LABEL_MM, dxfattribs={"layer": "TEXT"})
        text.set_placement((left, -2 * LABEL_MM), align=TextEntityAlignment.LEFT)
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


def _label(name: str, count: int) -> str:
    return name if count == 1 else f"{name}, {count} times"
