"""How steep, month by month: the tilt that brings most light, fixed marks beside it, and one tilt for the year."""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.light import MONTHS, STEP_S, light_by_sky, month_sky
from drylamp.core.builds.common.turning.advice import EQUINOX_MARK, SUMMER_MARK, WINTER_MARK
from drylamp.core.checks import Model
from drylamp.core.text import Sentence, degrees, month_name

STEP_DEG = 10.0
MARKS = (SUMMER_MARK, EQUINOX_MARK, WINTER_MARK)
"""Notches that makers of stands like; a build with its own is tried at those."""
AS_GOOD = 0.03


class TiltMark(Model):
    """A fixed tilt, and its light against the best of the month."""

    tilt_deg: float
    share: float


class TiltMonth(Model):
    """A month's best tilt under a clear sky; light as it stands and at each mark, as shares of it."""

    month: int
    best_deg: float
    now_share: float
    marks: list[TiltMark]


class TiltYear(Model):
    """The year, and one tilt for all of it."""

    marks_deg: list[float]
    months: list[TiltMonth]
    fixed_deg: float
    fixed_loss: float
    words: Sentence


def tilt_year(context: AdviceContext) -> TiltYear:
    """Try tilts from level to upright, and the marks, on the middle day of every month."""
    build, load = context.build, context.load
    marks = build.marks_deg or list(MARKS)
    tried = np.unique(np.concatenate((np.arange(0.0, 90.0 + STEP_DEG / 2.0, STEP_DEG), marks)))
    skies = [month_sky(context, month) for month in MONTHS]
    light = np.array(
        [light_by_sky(stood, load, skies) for stood in (*(build.with_(tilt_deg=float(t)) for t in tried), build)]
    ).T
    weight = np.array([float(beam.sum()) * STEP_S for beam, _ in skies])
    each, now = light[:, :-1], light[:, -1]
    most, best = np.maximum(each.max(axis=1), 1e-9), tried[each.argmax(axis=1)]
    over_year = weight @ each
    fixed = int(over_year.argmax())
    loss = 1.0 - float(over_year[fixed] / (weight @ most))
    months = [
        TiltMonth(
            month=m, best_deg=float(best[k]), now_share=round(float(now[k] / most[k]), 4),
            marks=[TiltMark(tilt_deg=mark, share=round(float(each[k, int(np.searchsorted(tried, mark))] / most[k]), 4)) for mark in marks],
        )
        for k, m in enumerate(MONTHS)
    ]  # fmt: skip
    return TiltYear(
        marks_deg=marks,
        months=months,
        fixed_deg=float(tried[fixed]),
        fixed_loss=round(loss, 4),
        words=_words(months, float(tried[fixed]), loss),
    )


def _words(months: list[TiltMonth], fixed_deg: float, loss: float) -> str:
    flat, steep = (pick(months, key=lambda m: m.best_deg) for pick in (min, max))
    said = f"It is best flattest in {month_name(flat.month)} ({degrees(flat.best_deg)}) and steepest in {month_name(steep.month)} ({degrees(steep.best_deg)}). One tilt for the year is {degrees(fixed_deg)}"
    if loss < AS_GOOD:
        return f"{said}; setting it by the month brings no more than {100 * loss:.0f} % more light over the year."
    return f"{said}; setting it by the month brings {100 * loss / (1 - loss):.0f} % more light over the year."
