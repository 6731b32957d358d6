"""A build seen from above and from the front, from its section and how far it reaches across that: outlines to scale, hidden edges left out."""

from __future__ import annotations

import numpy as np

from drylamp.core.checks import Model, YesNo
from drylamp.core.common.drawing import Section, Shape

NOT_BUILT = frozenset(("ground", "beyond"))
"""Inks of what is drawn round a build and is none of it."""
LEAST_M = 0.004
"""Thinner edges would be a line on a line."""


class Outline(Model):
    """A part's outline in a view: a rectangle, or the round that fills it; metres from the view's lower left corner."""

    part: str
    label: str
    left_m: float
    low_m: float
    wide_m: float
    high_m: float
    is_round: YesNo


class View(Model):
    """A view with its own size."""

    title: str
    wide_m: float
    high_m: float
    outlines: list[Outline]


def views(section: Section, across_m: float, is_round: bool = False) -> list[View]:
    """Seen from the front, up in the drawing, and from above, the way it faces to the right; none where nobody knows how far it reaches across."""
    built = [shape for shape in section.shapes if shape.ink not in NOT_BUILT and len(shape.outline) > 1]
    if across_m <= 0.0 or not built:
        return []
    points = np.array([point for shape in built for point in shape.outline])
    low, high = points.min(axis=0), points.max(axis=0)
    front = View(
        title="From the front", wide_m=across_m, high_m=float(high[1] - low[1]),
        outlines=_distinct([_front(shape, across_m, float(low[1]), is_round) for shape in built]),
    )  # fmt: skip
    above = View(
        title="From above, its front to the right", wide_m=float(high[0] - low[0]), high_m=across_m,
        outlines=_distinct([_above(shape, across_m, float(low[0]), is_round) for shape in built]),
    )  # fmt: skip
    return [front, above]


def _front(shape: Shape, across_m: float, low_m: float, is_round: bool) -> Outline:
    y = [point[1] for point in shape.outline]
    return Outline(part=shape.part, label=shape.label, left_m=0.0, low_m=min(y) - low_m, wide_m=across_m, high_m=max(y) - min(y), is_round=is_round and shape.ink == "mirror")  # fmt: skip


def _above(shape: Shape, across_m: float, left_m: float, is_round: bool) -> Outline:
    x = [point[0] for point in shape.outline]
    return Outline(part=shape.part, label=shape.label, left_m=min(x) - left_m, low_m=0.0, wide_m=max(x) - min(x), high_m=across_m, is_round=is_round and shape.ink == "mirror")  # fmt: skip


def _distinct(outlines: list[Outline]) -> list[Outline]:
    """The largest first, so that what lies before it is seen; what is as thin as a line, or drawn already, is left out."""
    found: dict[tuple[float, ...], Outline] = {}
    for one in sorted(outlines, key=lambda one: -one.wide_m * one.high_m):
        if min(one.wide_m, one.high_m) >= LEAST_M:
            found.setdefault(tuple(round(v, 3) for v in (one.left_m, one.low_m, one.wide_m, one.high_m)), one)
    return list(found.values())
