"""A verdict shared: as JSON with the case that it was judged by, and as one HTML page that opens anywhere."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Sequence
from datetime import datetime
from typing import ClassVar, Literal

from drylamp.core.checks import Model
from drylamp.core.text import Sentence, amount, plain
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.figure import Figure
from drylamp.core.trials.verdict import Verdict
from drylamp.core.twin.case import Case
from drylamp.formats.chart_svg import INKS, Line, chart_svg
from drylamp.formats.page import NONE, page

MOST_PHOTO_BYTES = 8_000_000
"""Of pictures that one page carries; the rest are counted."""
OF_CHANNELS = ("rust", "water", "plum", "twin", "sun", "ink")


class VerdictFile(Model):
    """A verdict with what it stands on: the trial's case, and the verdict whole."""

    title: ClassVar[str] = "verdict"

    format: Literal[1] = 1
    trial: str
    started: datetime
    build_name: str
    case: Case
    verdict: Verdict


class Picture(Model):
    """A photo of the trial: what was noted with it, and its JPEG."""

    note: str
    jpeg: bytes


def to_html(
    file: VerdictFile,
    channels: Sequence[ChannelFacts],
    drawing: str,
    pictures: Sequence[Picture],
    cautions: Sequence[Sentence],
    made_on: str,
) -> str:
    """Write it as a page: headline, drawing, readings beside the twin, figures with their doubt, what was found, how sure, photos."""
    found = file.verdict
    inks = {curve.node: OF_CHANNELS[k % len(OF_CHANNELS)] for k, curve in enumerate(found.curves)}
    read = {
        node: [(t, v) for c in channels if c.node == node for t, v in zip(c.times, c.values, strict=True)]
        for node in inks
    }
    lines = [
        Line(curve.title, inks[curve.node], curve.temperature_c, dots=read[curve.node])
        for curve in found.curves
        if read[curve.node]
    ]
    chart = (
        ""
        if not lines or not found.times
        else chart_svg("readings beside the twin", found.times, [*lines, Line("air", "air", found.air_c, dash="4 3")])
    )
    shown, left = _fitting(pictures)
    return page(
        "verdict.html", file=file, found=found, drawing=drawing, chart=chart, inks=INKS, made_on=made_on, cautions=cautions, left=left, number=_number,
        pictures=[{"note": one.note, "data": b64encode(one.jpeg).decode()} for one in shown],
    )  # fmt: skip


def _number(value: float | None, figure: Figure, doubt: float | None = None) -> str:
    """A figure's number in its own unit, where it has one that nobody chooses, else in its quantity's."""
    if value is None:
        return NONE
    if not figure.unit:
        return plain(amount(value, figure.quantity, doubt))
    return f"{value:.{figure.digits}f}{'' if doubt is None else f' ± {doubt:.{figure.digits}f}'} {figure.unit}"


def _fitting(pictures: Sequence[Picture]) -> tuple[list[Picture], int]:
    """As many photos as a page carries, and how many are left out."""
    out, room = list[Picture](), MOST_PHOTO_BYTES
    for one in pictures:
        if len(one.jpeg) <= room:
            out.append(one)
            room -= len(one.jpeg)
    return out, len(pictures) - len(out)
