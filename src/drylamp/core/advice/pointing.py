"""Pointing a build at the sun without looking at it: shadows, an indicator, a pointer, and what turning is worth."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
from pydantic import Field

from drylamp.core.advice.context import AdviceContext, Score
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Model, YesNo, require
from drylamp.core.loads.load import Load
from drylamp.core.long import Long, Step, whole
from drylamp.core.outcome.of_load import Measure, ScoreQuantity
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.sun import EARTH_TURNS_DEG_MIN
from drylamp.core.text import Sentence, degrees, metres

PIN_M = 0.10
"""The indicator: a pin of this length, square to the opening."""
STICK_M = 0.30
"""An upright stick beside the build."""
AIMED_DEG = 3.0
INTERVALS: tuple[float | None, ...] = (15.0, 30.0, 60.0, 120.0, None)
SPILL_AFTER_MIN = (0.0, 5.0, 10.0, 15.0, 20.0, 30.0, 45.0, 60.0)
MOST_SPILL = 0.1
"""Share of a dish's light that may land beside the pot before the next turn; from memory."""


class Pointing(Model):
    """Where the sun stands against a build at an instant, and how to see it without looking.

    Attributes:
        turn_deg: to turn it about the upright, clockwise from above positive
        lean_deg: to lean its opening further over, towards the horizon positive
        pin_shadow_m, pin_toward: shadow of the indicator and the way it falls on the opening; none when aimed
        stick_shadow_m, stick_bearing_deg: shadow of an upright stick on level ground
        pot_shadow_m: the same of the pot on a level tray; none without a pot
        pointer_rise_m: how far a straight pointer along the sun's direction rises on each metre of level ground
        pointer_bearing_deg: the way its high end points
    """

    is_up: YesNo
    sun_altitude_deg: float
    sun_azimuth_deg: float
    turn_deg: float
    lean_deg: float
    pin_shadow_m: float | None
    pin_toward: Literal["", "left", "right", "up", "down"]
    stick_shadow_m: float | None
    stick_bearing_deg: float
    pot_shadow_m: float | None
    pointer_rise_m: float | None
    pointer_bearing_deg: float
    words: list[Sentence]


def pointing(build: Build, load: Load | None, toward_sun: Array) -> Pointing:
    """How a build stands against the sun.

    Parameters
    ----------
    toward_sun
        unit vector east, north, up
    """
    altitude = math.degrees(math.asin(float(np.clip(toward_sun[2], -1, 1))))
    azimuth = math.degrees(math.atan2(float(toward_sun[0]), float(toward_sun[1]))) % 360.0
    tilt = build.lean_deg
    turn = (azimuth - build.facing_deg + 180.0) % 360.0 - 180.0
    lean = (90.0 - altitude) - tilt
    if altitude <= 0:
        return Pointing(
            is_up=False, sun_altitude_deg=altitude, sun_azimuth_deg=azimuth, turn_deg=turn, lean_deg=lean, pin_shadow_m=None, pin_toward="",
            stick_shadow_m=None, stick_bearing_deg=(azimuth + 180) % 360, pot_shadow_m=None, pointer_rise_m=None,
            pointer_bearing_deg=azimuth, words=["The sun is down; move the lamp to an hour of daylight."],
        )  # fmt: skip
    across, up, out = plane_axes(tilt, build.facing_deg) @ np.asarray(toward_sun, dtype=float)
    pin = None if out <= 0.02 else PIN_M * math.hypot(across, up) / out
    aimed = pin is not None and pin < PIN_M * math.tan(math.radians(AIMED_DEG))
    slope = math.tan(math.radians(altitude))
    toward: Literal["", "left", "right", "up", "down"] = ""
    if not aimed and pin is not None:  # shadows fall away from the sun
        toward = ("left" if across > 0 else "right") if abs(across) > abs(up) else ("down" if up > 0 else "up")
    high = [body.height_m for body in load.bodies_on(build.floor_m) if body.stands] if load is not None else []
    pot = high[0] / slope if high else None
    found = Pointing(
        is_up=True, sun_altitude_deg=round(altitude, 2), sun_azimuth_deg=round(azimuth, 2), turn_deg=round(turn, 1), lean_deg=round(lean, 1),
        pin_shadow_m=None if pin is None else round(pin, 4), pin_toward=toward, stick_shadow_m=round(STICK_M / slope, 4),
        stick_bearing_deg=round((azimuth + 180) % 360, 1), pot_shadow_m=None if pot is None else round(pot, 4),
        pointer_rise_m=round(slope, 3), pointer_bearing_deg=round(azimuth, 1), words=[],
    )  # fmt: skip
    return found.model_copy(update={"words": _words(build, found)})


def _words(build: Build, at: Pointing) -> list[str]:
    side = "right (clockwise from above)" if at.turn_deg > 0 else "left (anticlockwise from above)"
    said = [
        "It faces the sun." if abs(at.turn_deg) < AIMED_DEG else f"Turn it {degrees(abs(at.turn_deg))} to the {side}."
    ]
    if build.axis_leans:
        more = "lean its axis further over" if at.lean_deg > 0 else "stand its axis more upright"
        said.append(
            "Its axis is at the sun's height."
            if abs(at.lean_deg) < AIMED_DEG
            else f"Then {more} by {degrees(abs(at.lean_deg))}."
        )
    if at.pin_shadow_m is None:
        said.append("Indicator: the sun is behind the opening, the pin throws no shadow on it.")
    elif at.pin_toward == "":
        said.append(
            f"Indicator: the {metres(PIN_M)} pin, square to the opening, throws no shadow worth seeing: it is aimed."
        )
    else:
        said.append(
            f"Indicator: the {metres(PIN_M)} pin, square to the opening, throws {metres(at.pin_shadow_m)} of shadow, {at.pin_toward}; it shows none when aimed."
        )
    said.append(
        f"Level: a {metres(STICK_M)} stick stood on the tray throws {metres(at.stick_shadow_m or 0)} of shadow towards bearing "
        f"{degrees(at.stick_bearing_deg)} if the tray is level; longer or off that line, it leans."
    )  # fmt: skip
    said.append(
        f"Pointer: lay a straight rod to rise {metres(at.pointer_rise_m or 0)} on each {metres(1.0)} towards bearing "
        f"{degrees(at.pointer_bearing_deg)}, until it throws only a dot of shadow. A light held along it, from the high end down, shows at "
        "dusk or under cloud where this hour's sun lands; never sight along it at the sun."
    )  # fmt: skip
    return said


class TurningLine(Model):
    """One habit of turning: how well the load does, and the light that reaches the build, against turning every quarter of an hour."""

    minutes: float | None
    score: float
    minutes_to_target: float | None
    behind: float
    light_share: float


class SpillPoint(Model):
    """Share of a dish's light that misses the pot so long after turning."""

    minutes: float
    share: float


class TurningCurve(Model):
    """What turning every 15, 30, 60, 120 minutes or never costs."""

    quantity: ScoreQuantity
    counts: Sentence
    lines: list[TurningLine]
    spill: list[SpillPoint]
    words: Sentence
    enough_minutes: float | None = Field(
        description="The laziest habit that loses nothing worth speaking of and is safe; none where that is never, or where none is"
    )


def turning_curve(context: AdviceContext) -> TurningCurve:
    """Run every habit of turning on the context's day.

    Raises
    ------
    InputProblem
        nobody turns this kind of build.
    """
    return whole(turning_steps(context))


def turning_steps(context: AdviceContext) -> Long[TurningCurve]:
    """The same, habit by habit; words when all of them were run."""
    build, load = context.build, context.load
    require(build.tracking != "none", "spec.kind", "nobody turns this kind of build; it stays as it stands")
    found: list[tuple[float | None, Score, float, bool]] = []
    for every in INTERVALS:
        turned = build.with_(turned_minutes=every)
        run = context.run(turned, load)
        taken = float((run.opening_w - run.account_w["mirrored"]).sum())
        lingers = load is not None and outcome_of(load).too_long(load, run, context.case.site)
        found.append((every, context.score_of(turned, load, run), taken, lingers))
        yield Step(len(found) / len(INTERVALS), _curve(context, found))


def _curve(context: AdviceContext, found: list[tuple[float | None, Score, float, bool]]) -> TurningCurve:
    """What stands of it after some habits."""
    build, load, measure = context.build, context.load, context.measure
    best, most = found[0][1], max(found[0][2], 1e-9)
    lines = [
        TurningLine(
            minutes=every, score=round(score.value, 2), minutes_to_target=None if score.minutes is None else round(score.minutes, 1),
            behind=round(best.value - score.value, 2), light_share=round(taken / most, 4),
        )
        for every, score, taken, _ in found
    ]  # fmt: skip
    curve = (
        [SpillPoint(minutes=m, share=round(_spill_after(build, load, m), 4)) for m in SPILL_AFTER_MIN]
        if _spills(build)
        else []
    )
    fast_enough = [lingers <= found[0][3] for *_, lingers in found]
    allowed = [
        line
        for line, fast in zip(lines, fast_enough, strict=True)
        if fast and _spills_little(build, load, line.minutes)
    ]
    if len(found) < len(INTERVALS):
        return TurningCurve(
            quantity=measure.quantity, counts=context.counts, lines=lines, spill=curve, words="", enough_minutes=None
        )
    lazy = next((line for line in reversed(allowed) if line.behind <= measure.small), None)
    words = _spill_words(build, load) if lazy is None else _turning_words(lazy, lines[-1], measure)
    if not all(fast_enough):
        words += " Seldomer, the food stays lukewarm for too long."
    return TurningCurve(
        quantity=measure.quantity, counts=context.counts, lines=lines, spill=curve, words=words, enough_minutes=None if lazy is None else lazy.minutes
    )  # fmt: skip


def _spills(build: Build) -> bool:
    """Whether light that misses the load is hot enough to burn something."""
    return kind_of(build).spill is not None


def _spill_after(build: Build, load: Load | None, minutes: float) -> float:
    """Share that misses the load so long after turning; nothing where there is no focus."""
    spilt = kind_of(build).spill
    return 0.0 if spilt is None else float(spilt(build, load, np.array([minutes * EARTH_TURNS_DEG_MIN]))[0])


def _spills_little(build: Build, load: Load | None, minutes: float | None) -> bool:
    """Whether no more than a tenth lands beside the load by the next turn; what has no focus spills nothing hot."""
    if not _spills(build):
        return True
    return minutes is not None and _spill_after(build, load, minutes) <= MOST_SPILL


def _spill_words(build: Build, load: Load | None) -> str:
    """The longest time between turns that keeps the light on the pot, where none of the tried ones does."""
    kept = [m for m in range(1, int(INTERVALS[0] or 0)) if _spill_after(build, load, float(m)) <= MOST_SPILL]
    tail = (
        "its light lands beside the pot, on whatever stands there: keep that place clear, and cover it when you leave."
    )
    if not kept:
        return f"Even just turned, more than a tenth of {tail}"
    return f"Turn it at least every {kept[-1]} min: later, more than a tenth of {tail}"


def _turning_words(lazy: TurningLine, never: TurningLine, measure: Measure) -> str:
    how = "It may stand as it is" if lazy.minutes is None else f"Turning every {lazy.minutes:.0f} min is enough"
    if never.behind < measure.small:
        return f"{how}; turning it would bring nothing here."
    return f"{how}; never turning it costs {measure.said(never.behind)} and {100 * (1 - never.light_share):.0f} % of the light."
