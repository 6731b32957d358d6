"""Pointing a build at the sun without looking at it: shadows, an indicator, a pointer, the flap's angle, and what turning is worth."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from drylamp.core.advice.bench import Bench, Score, put_in, score_of, unit_of
from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.dish import Dish
from drylamp.core.builds.dish_optics import spill
from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.kinds import AnyBuild, BuildSpec, kind_of
from drylamp.core.builds.melter import Melter
from drylamp.core.checks import Model
from drylamp.core.loads.load import AnyLoad
from drylamp.core.sky.dome import plane_axes, skyline
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.sun import Array

PIN_M = 0.10
"""The indicator: a pin of this length, square to the opening."""
STICK_M = 0.30
"""An upright stick beside the build."""
AIMED_DEG = 3.0
INTERVALS: tuple[float | None, ...] = (15.0, 30.0, 60.0, 120.0, None)
FLAP_ANGLES = np.arange(60.0, 161.0, 5.0)
SPILL_AFTER_MIN = (0.0, 5.0, 10.0, 15.0, 20.0, 30.0, 45.0, 60.0)
EARTH_TURNS_DEG_MIN = 0.25


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

    is_up: bool
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
    words: list[str]


def pointing(build: BuildSpec, load: AnyLoad | None, toward_sun: Array) -> Pointing:
    """How a build stands against the sun.

    Args:
        toward_sun: unit vector east, north, up
    """
    altitude = math.degrees(math.asin(float(np.clip(toward_sun[2], -1, 1))))
    azimuth = math.degrees(math.atan2(float(toward_sun[0]), float(toward_sun[1]))) % 360.0
    tilt = build.lean_deg if isinstance(build, Funnel) else build.tilt_deg
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
    pot = load.pot_height_m / slope if load is not None and load.kind == "pot" else None
    found = Pointing(
        is_up=True, sun_altitude_deg=round(altitude, 2), sun_azimuth_deg=round(azimuth, 2), turn_deg=round(turn, 1), lean_deg=round(lean, 1),
        pin_shadow_m=None if pin is None else round(pin, 4), pin_toward=toward, stick_shadow_m=round(STICK_M / slope, 4),
        stick_bearing_deg=round((azimuth + 180) % 360, 1), pot_shadow_m=None if pot is None else round(pot, 4),
        pointer_rise_m=round(slope, 3), pointer_bearing_deg=round(azimuth, 1), words=[],
    )  # fmt: skip
    return found.model_copy(update={"words": _words(build, found)})


def _words(build: AnyBuild, at: Pointing) -> list[str]:
    side = "right (clockwise from above)" if at.turn_deg > 0 else "left (anticlockwise from above)"
    said = ["It faces the sun." if abs(at.turn_deg) < AIMED_DEG else f"Turn it {abs(at.turn_deg):.0f}° to the {side}."]
    if isinstance(build, Dish | Funnel):
        more = "lean its axis further over" if at.lean_deg > 0 else "stand its axis more upright"
        said.append(
            "Its axis is at the sun's height."
            if abs(at.lean_deg) < AIMED_DEG
            else f"Then {more} by {abs(at.lean_deg):.0f}°."
        )
    if at.pin_shadow_m is None:
        said.append("Indicator: the sun is behind the opening, the pin throws no shadow on it.")
    elif at.pin_toward == "":
        said.append("Indicator: the 10 cm pin, square to the opening, throws no shadow worth seeing: it is aimed.")
    else:
        said.append(
            f"Indicator: the 10 cm pin, square to the opening, throws {at.pin_shadow_m * 100:.0f} cm of shadow, {at.pin_toward}; it shows none when aimed."
        )
    said.append(
        f"Level: a 30 cm stick stood on the tray throws {(at.stick_shadow_m or 0) * 100:.0f} cm of shadow towards bearing "
        f"{at.stick_bearing_deg:.0f}° if the tray is level; longer or off that line, it leans."
    )  # fmt: skip
    said.append(
        f"Pointer: lay a straight rod to rise {(at.pointer_rise_m or 0) * 100:.0f} cm on each metre towards bearing "
        f"{at.pointer_bearing_deg:.0f}°, until it throws only a dot of shadow. A light held along it, from the high end down, shows at "
        "dusk or under cloud where this hour's sun lands; never sight along it at the sun."
    )  # fmt: skip
    return said


class FlapAngles(Model):
    """Light that reaches the load (or the tray) with the flap at each angle, as a share of the beam through the opening alone.

    Attributes:
        best_now_deg, best_meal_deg: best for this instant, and as one setting for the hours of the meal
        meal_loss: what the one setting loses against following the best each half hour, as a share
    """

    angles_deg: list[float]
    now: list[float]
    meal: list[float]
    best_now_deg: float
    best_meal_deg: float
    meal_loss: float
    words: str


def flap_angles(
    bench: Bench, build: BuildSpec, load: AnyLoad | None, toward_sun: Array, hours: float = 3.0
) -> FlapAngles | None:
    """Try the upper flap at every angle; none without one."""
    if not isinstance(build, BoxOven | Melter) or build.mirror is None:
        return None
    times, weather = bench.weather.sun.time_s, bench.weather
    begun = put_in(bench.site, load, weather) if load is not None else weather.start_s + 11 * 3600.0
    window = np.flatnonzero(
        (times >= begun) & (times <= begun + 3600.0 * hours) & (weather.sun.direction[:, 2] > 0.02)
    )[::15]
    line = skyline(bench.site.spot(bench.spot))
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, bench.site.albedo, line)
    toward = np.vstack([toward_sun[None], weather.sun.direction[window]])
    beam = light.beam_w_m2[window]
    table = np.array([_on_load(build, load, float(angle), toward) for angle in FLAP_ANGLES])
    now, meal = table[:, 0], table[:, 1:] @ beam if len(window) else table[:, 0]
    follow = float(table[:, 1:].max(axis=0) @ beam) if len(window) else float(meal.max())
    loss = 1.0 - float(meal.max()) / follow if follow > 0 else 0.0
    best_now, best_meal = float(FLAP_ANGLES[int(np.argmax(now))]), float(FLAP_ANGLES[int(np.argmax(meal))])
    words = (
        f"Best flap now: {best_now:.0f}°. One setting for the {hours:.0f} hours of the meal: {best_meal:.0f}°; "
        f"following the sun with it instead would bring {loss * 100:.0f} % more light."
    )
    return FlapAngles(
        angles_deg=FLAP_ANGLES.tolist(), now=np.round(now / max(now.max(), 1e-9), 4).tolist(),
        meal=np.round(meal / max(float(meal.max()), 1e-9), 4).tolist(), best_now_deg=best_now, best_meal_deg=best_meal,
        meal_loss=round(loss, 4), words=words if toward_sun[2] > 0 else words.replace("Best flap now", "Best flap (sun down)"),
    )  # fmt: skip


def _on_load(build: BoxOven | Melter, load: AnyLoad | None, angle_deg: float, toward: Array) -> Array:
    """Area of beam in load and tray for each direction, with the flap at an angle."""
    assert build.mirror is not None
    turned = build.model_copy(update={"mirror": build.mirror.model_copy(update={"angle_deg": angle_deg})})
    kind = kind_of(turned)
    areas, _ = kind.optics(turned, load).along_path(toward)
    wanted = [k for k, part in enumerate(kind.parts(turned, load)) if part == "tray" or kind.useful(part)]
    return np.asarray(areas[:, wanted].sum(axis=1))


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

    unit: str
    lines: list[TurningLine]
    spill: list[SpillPoint]
    words: str


def turning_curve(bench: Bench, build: BuildSpec, load: AnyLoad | None) -> TurningCurve:
    """Run every habit of turning on the bench's day."""
    found: list[tuple[float | None, Score, float]] = []
    for every in INTERVALS:
        turned = build.model_copy(update={"turned_minutes": every})
        run = bench.run(turned, load)
        taken = float((run.opening_w - run.account_w["mirrored"]).sum())
        found.append((every, score_of(bench.site, turned, load, run), taken))
    best, most = found[0][1], max(found[0][2], 1e-9)
    lines = [
        TurningLine(
            minutes=every, score=round(score.value, 2), minutes_to_target=None if score.minutes is None else round(score.minutes, 1),
            behind=round(best.value - score.value, 2), light_share=round(taken / most, 4),
        )
        for every, score, taken in found
    ]  # fmt: skip
    curve = []
    if isinstance(build, Dish):
        after = np.array(SPILL_AFTER_MIN)
        curve = [
            SpillPoint(minutes=float(m), share=round(float(s), 4))
            for m, s in zip(after, spill(build, load, after * EARTH_TURNS_DEG_MIN), strict=True)
        ]
    unit = unit_of(load)
    return TurningCurve(unit=unit, lines=lines, spill=curve, words=_turning_words(lines, unit))


def _turning_words(lines: list[TurningLine], unit: str) -> str:
    digits = 2 if unit == "kg/h" else 1
    allowed = [line for line in lines if line.behind <= (0.02 if unit == "kg/h" else 1.0)]
    lazy = allowed[-1]
    never = lines[-1]
    how = "It may stand as it is" if lazy.minutes is None else f"Turning every {lazy.minutes:.0f} min is enough"
    return f"{how}; never turning it costs {never.behind:.{digits}f} {unit} and {100 * (1 - never.light_share):.0f} % of the light."
