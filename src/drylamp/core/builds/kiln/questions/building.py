"""How a lumber kiln is put up and filled."""

from __future__ import annotations

import math

from drylamp.core.advice.building import Building, Lifts, PaneLayout
from drylamp.core.advice.context import AdviceContext
from drylamp.core.builds.kiln.spec import GROUNDS, LumberKiln
from drylamp.core.checks import require
from drylamp.core.tables import timbers
from drylamp.core.text import amount, counted, degrees, kilograms, metres
from drylamp.core.units import BOARD_FOOT_M3

SAME_DEG = 1.0
EAVES_M, OVERLAP_M = 0.15, 0.05
"""How far a rafter goes over the front wall, and one pane over another; common practice, no source."""
FLAT_DEG = 25.0
"""Under this slope rain stands in joints across it; common practice, no source."""
FRAME_KG_M2, LIFT_KG = 8.0, 25.0
"""Rafters and battens of a roof, and what one person lifts without harm; from memory."""
IN_SOIL = {"soil": 1.0, "stones": 2.5, "concrete": 5.0}
"""How many times as long timber lasts on stones or on concrete under a membrane as in the soil; from memory."""
OILED, PRESSED_YEARS = 1.3, 25.0
"""Years that a brushed preservative adds, times; years in the soil of pine that was treated under pressure; from memory."""
ROOM_M = 0.3


def building(context: AdviceContext, build: LumberKiln, pane_m: tuple[float, float] | None) -> Building:
    """Slopes, panes, filling and decay.

    Parameters
    ----------
    pane_m
        width and height of the panes that are at hand; none: they are not asked about

    Raises
    ------
    InputProblem
        a pane is larger than the roof.
    """
    stack = None if context.load is None else context.load.stacked()
    clear = None if stack is None else build.clear_m(stack.deep_m) - stack.high_m
    by_walls = build.tilt_by_walls_deg
    conflict = by_walls is not None and abs(by_walls - build.tilt_deg) > SAME_DEG
    years = decay_years(build)
    return Building(
        tilt_by_walls_deg=None if by_walls is None else round(by_walls, 1), conflict=conflict, rafter_m=round(build.roof_m + EAVES_M, 3), plumb_cut_deg=round(90.0 - build.tilt_deg, 1),
        seat_cut_deg=round(build.tilt_deg, 1), clear_m=None if clear is None else round(clear, 3), decay_years=round(years, 0), panes=None if pane_m is None else panes(build, *pane_m), lifts=list(_lifts(build)),
        slope=_slope(build, by_walls, conflict), filling=_filling(build, clear, 0.0 if stack is None else stack.m3), decay=_decay(build, years),
    )  # fmt: skip


def _slope(build: LumberKiln, by_walls: float | None, conflict: bool) -> str:
    cuts = f"Rafters {metres(build.roof_m + EAVES_M)} with {metres(EAVES_M)} over the front; the cut on wall and sill {degrees(build.tilt_deg)} from level, the upright cuts {degrees(90.0 - build.tilt_deg)} from the rafter's edge"
    if by_walls is None:
        return f"A front wall of {metres(build.front_m)} and a roof {metres(build.roof_m)} long at {degrees(build.tilt_deg)} make a rear wall of {metres(build.back_m)}. {cuts}."
    if not conflict:
        return f"Front, rear wall and depth make {degrees(by_walls)}, as typed. {cuts}."
    rear = build.front_m + build.run_m * math.tan(math.radians(build.tilt_deg))
    return (
        f"Front wall {metres(build.front_m)}, rear wall {metres(build.rear_m or 0.0)} over {metres(build.run_m)} make {degrees(by_walls)}; {degrees(build.tilt_deg)} is typed, and the twin goes by that. "
        f"Build the rear wall {metres(rear)} high, or type {degrees(by_walls)}. {cuts} as typed."
    )


def panes(build: LumberKiln, wide_m: float, high_m: float) -> PaneLayout:
    """The layout with the fewest metres of joint across the slope, then the fewest of all; panes may be laid either way."""
    ways = []
    for wide, high in {(wide_m, high_m), (high_m, wide_m)}:
        if wide <= build.length_m + 1e-9 and high <= build.roof_m + OVERLAP_M:
            along, up = math.ceil(build.length_m / wide - 1e-9), _up(build.roof_m, high)
            across = (up - 1) * build.length_m
            ways.append((across, across + (along - 1) * build.roof_m, along, up, wide, high))
    require(
        bool(ways), "pane_wide_m", f"{metres(wide_m)} by {metres(high_m)} was given; the roof is {metres(build.length_m)} by {metres(build.roof_m)}, so no whole pane goes on it: cut it first"
    )  # fmt: skip
    across, joints, along, up, wide, high = min(ways)
    waste = 1.0 - build.length_m * build.roof_m / (along * wide * up * high)
    rain = (
        f" {metres(across)} of that runs across the slope; at {degrees(build.tilt_deg)} rain runs over it, one pane over the other by {metres(OVERLAP_M)}."
        if across and build.tilt_deg >= FLAT_DEG
        else f" {metres(across)} of that runs across a slope of only {degrees(build.tilt_deg)}: rain stands there and leaks in. Longer panes, or steeper than {degrees(FLAT_DEG)}."
        if across
        else " None of it runs across the slope."
    )
    words = f"{counted(along * up, 'pane')} of {metres(wide)} by {metres(high)}, {along} along and {up} up: {metres(joints)} of joint.{rain}"
    return PaneLayout(
        along=along, up=up, pane_wide_m=wide, pane_high_m=high, joints_m=round(joints, 2), across_m=round(across, 2), waste_share=round(max(waste, 0.0), 3), words=words,
    )  # fmt: skip


def _up(roof_m: float, high_m: float) -> int:
    """Panes one over the other."""
    return 1 if high_m >= roof_m - 1e-9 else math.ceil((roof_m - OVERLAP_M) / (high_m - OVERLAP_M) - 1e-9)


def _lifts(build: LumberKiln) -> list[Lifts]:
    glass = sum(skin.row.density_kg_m3 * skin.thickness_m * (2 if skin.row.skins > 1 else 1) for skin in build.skins)
    roof = build.roof_m2 * (glass + FRAME_KG_M2)
    wall = sum(layer.row.density_kg_m3 * layer.thickness_m for layer in build.wall) + FRAME_KG_M2
    wide, high = build.door.wide_m or build.length_m, build.door.high_m or build.back_m
    found = {
        "rear-wall": ("the rear wall's opening, as one panel", wide * high * wall), "end-door": ("the door", wide * high * wall), "lifting-roof": ("the roof, lifted at its eaves", roof / 2.0),
        "forks": ("the rear wall's opening, as one panel", wide * high * wall),
    }  # fmt: skip
    title, kg = found[build.door.way]
    return [Lifts(part=title, kg=round(kg, 0), people=max(math.ceil(kg / LIFT_KG), 1))]


def _filling(build: LumberKiln, clear: float | None, m3: float) -> str:
    each = build.hours_m3
    words = f"Filled and emptied by {WAYS_SAID[build.door.way]}: about {amount(each, 'hours')} of people's work for a cubic metre, {60.0 * each * BOARD_FOOT_M3:.1f} min a board foot (from memory)"
    if clear is None:
        return f"{words}."
    room = f"; {metres(clear)} are free over the stack" + ("" if clear >= ROOM_M else f": too little to lay the last boards by hand, leave {metres(ROOM_M)}")  # fmt: skip
    lifted = _lifts(build)[0]
    heavy = f" {lifted.part.capitalize()} weighs about {kilograms(lifted.kg)}: {f'{lifted.people} people' if lifted.people > 1 else 'one person'}, or a winch; never under a roof that is only leaned."
    return f"{words}, {amount(each * m3, 'hours')} for this charge{room}.{heavy}"


WAYS_SAID = {
    "rear-wall": "its rear wall", "end-door": "a door in its end", "lifting-roof": "its lifted roof", "forks": "forks through its rear wall",
}  # fmt: skip


def decay_years(build: LumberKiln) -> float:
    """Until its timber at the ground is weak; from memory."""
    made = build.frame
    soil = timbers()[made.timber].ground_years
    soil = max(soil, PRESSED_YEARS) if made.treated == "pressure" else soil * (OILED if made.treated == "brushed" else 1.0)  # fmt: skip
    return soil * IN_SOIL[made.stands]


def _decay(build: LumberKiln, years: float) -> str:
    made = build.frame
    title = timbers()[made.timber].title
    told = f"{title} {GROUNDS[made.stands]}: about {years:.0f} years until it is weak at the ground (EN 350 classes, years from memory)"
    if made.stands == "soil":
        return f"{told}; on stones about {IN_SOIL['stones'] * years:.0f}."
    return f"{told}. Keep soil, leaves and splash off it."
