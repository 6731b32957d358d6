"""The angle of a mirror that is set by hand: for this instant, for as long as the load is in, and month by month."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.light import LIT, MONTHS, STEP_S, beam_of, light_by_sky, month_sky, on_load
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.checks import Model
from drylamp.core.loads.load import Load
from drylamp.core.text import Sentence, degrees, month_name

STEP_DEG = 5.0
USUAL_START_H, USUAL_HOURS = 11.0, 3.0
"""When a build without a load is used, and for how long a meal takes."""
SAME_LIGHT = 0.01
"""A setting that comes within this share of the best is as good: nobody sets a mirror closer."""


class FlapAngles(Model):
    """Light that reaches the load (or the tray) with the mirror at each angle, as a share of the best.

    Attributes:
        best_now_deg, best_meal_deg: best for this instant, and as one setting for as long as it is wanted
        meal_loss: what the one setting loses against following the best each quarter of an hour, as a share
        wanted_for: words for how long it is wanted
    """

    angles_deg: list[float]
    now: list[float]
    meal: list[float]
    best_now_deg: float
    best_meal_deg: float
    meal_loss: float
    wanted_for: str
    path: str = Field(description="Field of the build that holds the angle")
    words: Sentence


class FlapMonth(Model):
    """A month's best setting under a clear sky.

    Attributes:
        light_m2: with it, mean over the month's middle day of the area of beam that the load or tray takes up, weighted by the beam
        fixed_share, now_share: of that light, with one setting for the year, and as it stands
        bare_share: without any mirror
    """

    month: int
    best_deg: float
    light_m2: float
    fixed_share: float
    now_share: float
    bare_share: float


class FlapYear(Model):
    """The best setting by the month, and one for all of them."""

    months: list[FlapMonth]
    fixed_deg: float
    path: str
    words: Sentence


def flap_angles(context: AdviceContext, toward_sun: Array) -> FlapAngles | None:
    """Try the mirror that is set by hand at every angle; none without one."""
    if context.build.flap_angle_deg is None:
        return None
    window, wanted_for = _window(context)
    beam, weather = beam_of(context, context.weather)[window], context.weather
    toward = np.vstack([toward_sun[None], weather.sun.direction[window]])
    angles = _angles(context.build)
    table = np.array([on_load(context.build.with_flap_at(a), context.load, toward) for a in angles])
    now, meal = table[:, 0], table[:, 1:] @ beam if len(window) else table[:, 0]
    follow = float(table[:, 1:].max(axis=0) @ beam) if len(window) else float(meal.max())
    loss = 1.0 - float(meal.max()) / follow if follow > 0 else 0.0
    best_now, best_meal = float(angles[int(np.argmax(now))]), float(angles[int(np.argmax(meal))])
    opens = "Best angle now" if toward_sun[2] > 0 else "Best angle (sun down)"
    words = (
        f"{opens}: {degrees(best_now)}. One setting for {wanted_for}: {degrees(best_meal)}; following the sun with it instead would bring "
        f"{loss * 100:.0f} % more light."
    )
    return FlapAngles(
        angles_deg=angles.tolist(), now=np.round(now / max(now.max(), 1e-9), 4).tolist(),
        meal=np.round(meal / max(float(meal.max()), 1e-9), 4).tolist(), best_now_deg=best_now, best_meal_deg=best_meal,
        meal_loss=round(loss, 4), wanted_for=wanted_for, path=context.build.flap_path, words=words,
    )  # fmt: skip


def best_flap_deg(context: AdviceContext) -> float | None:
    """The one setting that brings most light for as long as it is wanted: what every page says of it; none without a mirror that is set by hand."""
    found = flap_angles(context, np.array([0.0, 0.0, -1.0]))
    return None if found is None else found.best_meal_deg


def flap_year(context: AdviceContext) -> FlapYear | None:
    """Try it at every angle on the middle day of every month, clear sky; none without one."""
    build = context.build
    if build.flap_angle_deg is None:
        return None
    angles = _angles(build)
    settings = [*(build.with_flap_at(a) for a in angles), build, build.without_flap()]
    skies = [month_sky(context, month) for month in MONTHS]
    light = np.array([light_by_sky(setting, context.load, skies) for setting in settings]).T
    tried, now, bare = light[:, :-2], light[:, -2], light[:, -1]
    best, fixed = tried.argmax(axis=1), int(tried.sum(axis=0).argmax())
    most = np.maximum(tried.max(axis=1), 1e-9)
    months = [
        FlapMonth(
            month=m, best_deg=float(angles[best[k]]), light_m2=round(float(most[k]), 4), fixed_share=round(float(tried[k, fixed] / most[k]), 4),
            now_share=round(float(now[k] / most[k]), 4), bare_share=round(float(bare[k] / most[k]), 4),
        )
        for k, m in enumerate(MONTHS)
    ]  # fmt: skip
    lost = 1.0 - float(tried[:, fixed].sum() / most.sum())
    return FlapYear(
        months=months, fixed_deg=float(angles[fixed]), path=build.flap_path, words=_year_words(float(angles[fixed]), lost, bare / most)
    )  # fmt: skip


def _year_words(fixed_deg: float, lost: float, bare: Array) -> str:
    """What setting it by the month is worth, and in which months it is worth most to have it at all."""
    names = [month_name(m) for m in MONTHS]
    gains = 1.0 / np.maximum(bare, 1e-9) - 1.0
    best, least = int(gains.argmax()), int(gains.argmin())
    said = f"One setting for the whole year: {degrees(fixed_deg)}. "
    said += (
        "Setting it by the month brings no more light. "
        if lost < SAME_LIGHT
        else f"Setting it by the month brings {100 * lost / (1 - lost):.0f} % more light over the year. "
    )
    return said + (
        f"Well set, it adds most in {names[best]} ({100 * gains[best]:.0f} % more light than without it) and least in {names[least]} "
        f"({100 * max(gains[least], 0.0):.0f} %)."
    )


def _angles(build: Build) -> Array:
    low, high = build.flap_range_deg
    return np.arange(low, high + STEP_DEG / 2.0, STEP_DEG)


def _window(context: AdviceContext) -> tuple[NDArray[np.intp], str]:
    """Steps of the day on which light is wanted, and words for them."""
    weather, load = context.weather, context.load
    up, every = weather.sun.direction[:, 2] > LIT, max(1, round(STEP_S / weather.dt_s))
    if load is not None and load.calendar.always_in:
        return up.nonzero()[0][::every], "the whole day"
    begun = context.put_in_s() if load is not None else weather.start_s + 3600.0 * USUAL_START_H
    times = weather.sun.time_s
    within = (times >= begun) & (times <= begun + 3600.0 * USUAL_HOURS)
    planned = Load.planned if load is None else load.planned
    return (within & up).nonzero()[0][::every], f"the {USUAL_HOURS:.0f} hours of the {planned}"
