"""A chart of curves over the hours as SVG that stands alone: ink on paper, each curve named at its end."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from xml.sax.saxutils import escape

import numpy as np

from drylamp.core.common.look import Ink

WIDE, HIGH, LEFT, RIGHT, TOP, FOOT = 900.0, 340.0, 46.0, 190.0, 12.0, 30.0
INKS: dict[str, str] = {"rust": "#9A3B1F", "water": "#2A6A7C", "plum": "#6A3D66", "twin": "#4E6B34", "sun": "#9A6A00", "ink": "#22201C", "air": "#6B665C"}  # fmt: skip
STEPS = (1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)
NAME_APART = 15.0


@dataclass(frozen=True)
class Line:
    """A curve: its name, ink, dash, values at the chart's times, and dots at times of their own."""

    name: str
    ink: Ink | str
    values: Sequence[float | None]
    dash: str = ""
    dots: Sequence[tuple[datetime, float]] = field(default_factory=tuple)


def chart_svg(title: str, times: Sequence[datetime], lines: Sequence[Line], unit: str = "°C") -> str:
    """Draw curves over their common times."""
    begin, end = times[0].timestamp(), times[-1].timestamp()
    known = [v for line in lines for v in (*line.values, *(d for _, d in line.dots)) if v is not None]
    low, high = (min(known), max(known)) if known else (0.0, 1.0)
    step = next((s for s in STEPS if (high - low) / s <= 7), STEPS[-1])
    low, high = step * np.floor(low / step), step * max(np.ceil(high / step), np.floor(low / step) + 1)

    def at(when: float, value: float) -> tuple[float, float]:
        x = LEFT + (when - begin) / max(end - begin, 1.0) * (WIDE - LEFT - RIGHT)
        return x, TOP + (high - value) / (high - low) * (HIGH - TOP - FOOT)

    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE:.0f} {HIGH:.0f}" width="{WIDE:.0f}" role="img" font-family="sans-serif" font-size="12">',
        f"<title>{escape(title)}</title>",
    ]
    for value in np.arange(low, high + step / 2, step):
        _, y = at(begin, float(value))
        parts.append(f'<path d="M{LEFT} {y:.1f}H{WIDE - RIGHT}" stroke="#D8CFBC"/><text x="{LEFT - 6}" y="{y + 4:.1f}" text-anchor="end">{value:g}</text>')  # fmt: skip
    parts.append(f'<text x="4" y="{TOP + 2}" font-size="11">{escape(unit)}</text>')
    parts += _hours(times, at(begin, low)[1], lambda when: at(when, low)[0])
    ends = _apart([at(end, _last(line))[1] for line in lines])
    for line, y in zip(lines, ends, strict=True):
        parts += _line(line, times, at, y)
    return "\n".join([*parts, "</svg>"]) + "\n"


def _last(line: Line) -> float:
    known = [v for v in line.values if v is not None]
    return known[-1] if known else 0.0


def _apart(wanted: list[float]) -> list[float]:
    """Heights of names, moved down until none lies on another."""
    order = sorted(range(len(wanted)), key=lambda k: wanted[k])
    out, floor = [0.0] * len(wanted), -np.inf
    for k in order:
        out[k] = max(wanted[k], floor + NAME_APART)
        floor = out[k]
    over = max(floor - (HIGH - FOOT), 0.0)
    return [y - over for y in out]


def _line(line: Line, times: Sequence[datetime], at: object, name_y: float) -> list[str]:
    assert callable(at)
    colour, out, run = INKS.get(line.ink, INKS["ink"]), [], list[str]()
    for when, value in [*zip(times, line.values, strict=True), (times[-1], None)]:
        if value is None:
            if len(run) > 1:
                out.append(f'<polyline points="{" ".join(run)}" fill="none" stroke="{colour}" stroke-width="2" stroke-dasharray="{line.dash}"/>')  # fmt: skip
            run = []
        else:
            x, y = at(when.timestamp(), value)
            run.append(f"{x:.1f},{y:.1f}")
    for when, value in line.dots:
        if times[0] <= when <= times[-1]:
            x, y = at(when.timestamp(), value)
            out.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="3" fill="#FAF6EC" stroke="{colour}" stroke-width="1.5"/>')
    out.append(
        f'<text x="{WIDE - RIGHT + 6}" y="{name_y + 4:.1f}" fill="{colour}" font-weight="600">{escape(line.name)}</text>'
    )
    return out


def _hours(times: Sequence[datetime], y: float, x_of: object) -> list[str]:
    """Marks below: hours of a day, days of more."""
    assert callable(x_of)
    span_h = (times[-1] - times[0]).total_seconds() / 3600.0
    by_day = span_h > 60.0
    every = max(1, round(span_h / 24.0 / 10.0)) if by_day else 3 if span_h > 14 else 1
    out, seen = [], set()
    for when in times:
        mark = when.toordinal() if by_day else (when.toordinal(), when.hour)
        number = when.toordinal() - times[0].toordinal() if by_day else when.hour
        if mark in seen:
            continue
        seen.add(mark)
        if number % every == 0:
            said = f"{when.day}.{when.month}." if by_day else f"{when:%H}"
            out.append(f'<text x="{x_of(when.timestamp()):.1f}" y="{y + 18:.1f}" text-anchor="middle">{said}</text>')
    return out
