"""The kiln drawn: roof, baffle, walls, the stack board by board, and the way of the air."""

from __future__ import annotations

import math
from collections.abc import Callable

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import Flat, Frame, Stop, drawn, follow_rays, ring, sun_in_section
from drylamp.core.builds.kiln.optics import BAFFLE, FLOOR, WALLS
from drylamp.core.builds.kiln.spec import LumberKiln
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Ray, Section, Shape
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.common.stacked import CHAMBER, ROUND
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

SHEET_M, LEAST_WALL_M, FAN_M, FLAP_M, WHEEL_M = 0.02, 0.03, 0.16, 0.16, 0.3
TRAILER_M, LINES_M, EDGE_M, HEAD_M = 0.55, 0.05, 0.06, 0.09
WIDE_OPEN_DEG, MOST_LAYERS = 80.0, 40
DARK = 0.7
"""Takes more of the sun than this: drawn black."""


def section_of(build: LumberKiln, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw it cut along the way it faces: x to the way it faces, the floor's front edge at its foot."""
    flat = Frame(0.0, [(0.0, 0.0)], _foot_m(build))
    shapes = [
        *_stand(build, flat),
        *_shell(build, flat),
        *_roof(build, flat),
        *_baffle(build, flat),
        *_stack(build, load, flat),
        *_air(build, flat),
        *_vents(build, flat),
    ]
    deep, back = build.deep_m, build.back_m
    arrows = [
        Arrow(
            account="cover",
            at=flat.at(0.5 * build.run_m, build.front_m + 0.5 * build.rise_m),
            toward=flat.outward(-math.sin(math.radians(build.tilt_deg)), math.cos(math.radians(build.tilt_deg))),
        ),
        Arrow(account="walls", at=flat.at(-_wall_m(build.wall), 0.5 * build.front_m), toward=flat.outward(-1.0, 0.0)),
        Arrow(
            account="air",
            at=flat.at(deep + _wall_m(build.wall), _vent_heights(build)[1]),
            toward=flat.outward(1.0, 0.2),
        ),
    ]
    dimensions = [
        Dimension(label="front to back", start=flat.at(0.0, -0.22), end=flat.at(deep, -0.22), value_m=round(deep, 3)),
        Dimension(
            label="back wall", start=flat.at(deep + 0.42, 0.0), end=flat.at(deep + 0.42, back), value_m=round(back, 3)
        ),
        Dimension(
            label="front", start=flat.at(-0.28, 0.0), end=flat.at(-0.28, build.front_m), value_m=round(build.front_m, 3)
        ),
    ]
    sun = sun_in_section(0.0, build.facing_deg, toward_sun)
    return drawn(flat, shapes, _rays(build, flat, toward_sun), arrows, dimensions, _handles(build, flat), sun)


def _foot_m(build: LumberKiln) -> float:
    return TRAILER_M if build.form == "trailer" else _wall_m(build.floor)


def _wall_m(wall: list[WallLayer]) -> float:
    return max(sum(layer.thickness_m for layer in wall), LEAST_WALL_M)


def _stand(build: LumberKiln, flat: Frame) -> list[Shape]:
    """Wheels of a trailer, the wall that it leans on."""
    if build.form == "trailer":
        low = WHEEL_M - TRAILER_M
        return [
            Shape(part="aim", label="wheel", ink="metal", outline=flat.path(*ring((0.55 * build.deep_m, low), WHEEL_M)))
        ]
    if build.form == "lean-to":
        behind = build.deep_m + _wall_m(build.wall)
        return [
            Shape(
                part="aim",
                label="the wall it leans on",
                ink="beyond",
                outline=flat.bar(behind, behind + 0.2, -_wall_m(build.floor), build.back_m + 0.5),
            )
        ]
    return []


def _shell(build: LumberKiln, flat: Frame) -> list[Shape]:
    deep, wall, floor = build.deep_m, _wall_m(build.wall), _wall_m(build.floor)
    ink = "foam" if any(layer.is_foam_like for layer in build.wall) else "wall"
    under = "foam" if any(layer.is_foam_like for layer in build.floor) else "wall"
    shapes = [
        Shape(
            part="chamber",
            label="chamber",
            ink="water",
            node=CHAMBER,
            outline=flat.path(
                (0.0, 0.0), (deep, 0.0), (deep, build.back_m), (build.run_m, build.back_m), (0.0, build.front_m)
            ),
        ),
        Shape(part="floor", label="floor", ink=under, node=FLOOR, outline=flat.bar(-wall, deep + wall, -floor, 0.0)),
        Shape(part="wall", label="front wall", ink=ink, node=WALLS, outline=flat.bar(-wall, 0.0, 0.0, build.front_m)),
        Shape(
            part="wall", label="back wall", ink=ink, node=WALLS, outline=flat.bar(deep, deep + wall, 0.0, build.back_m)
        ),
    ]
    if deep - build.run_m > 1e-3:
        shapes.append(
            Shape(
                part="wall",
                label="roof that is not glazed",
                ink=ink,
                node=WALLS,
                outline=flat.bar(build.run_m, deep + wall, build.back_m, build.back_m + wall),
            )
        )
    return shapes


def _slope(build: LumberKiln) -> Callable[[float, float], Flat]:
    """Points by how far up the roof they lie, and how far out of it."""
    tilt = math.radians(build.tilt_deg)

    def at(up: float, out: float) -> Flat:
        return up * math.cos(tilt) - out * math.sin(tilt), build.front_m + up * math.sin(tilt) + out * math.cos(tilt)

    return at


def _roof(build: LumberKiln, flat: Frame) -> list[Shape]:
    at, long, out, shapes = _slope(build), build.roof_m, 0.0, list[Shape]()
    for skin in build.skins:
        thick = max(skin.thickness_m, SHEET_M / 2)
        shapes.append(
            Shape(
                part="cover",
                label="roof",
                ink="glass",
                outline=flat.path(at(0.0, out), at(long, out), at(long, out + thick), at(0.0, out + thick)),
            )
        )
        out += thick + max(skin.gap_m, SHEET_M)
    return shapes


def _baffle_line(build: LumberKiln) -> tuple[float, float, float]:
    """Where the baffle begins and ends up the slope, and how deep it lies under the roof."""
    assert build.baffle is not None
    bare = 0.5 * (1.0 - build.baffle.share) * build.roof_m
    ends = max(bare, 0.04 * build.roof_m)
    return ends, build.roof_m - ends, -build.baffle.gap_m


def _baffle(build: LumberKiln, flat: Frame) -> list[Shape]:
    made = build.baffle
    if made is None:
        return []
    at, (low, high, under) = _slope(build), _baffle_line(build)
    ink = "black" if absorber(made.finish).absorptance > DARK else "pale"
    return [
        Shape(
            part="baffle",
            label="air over the baffle",
            ink="water",
            outline=flat.path(at(low, under), at(high, under), at(high, 0.0), at(low, 0.0)),
        ),
        Shape(
            part="baffle",
            label="baffle",
            ink=ink,
            node=BAFFLE,
            outline=flat.path(at(low, under), at(high, under), at(high, under - SHEET_M), at(low, under - SHEET_M)),
        ),
    ]


def _stack(build: LumberKiln, load: Load | None, flat: Frame) -> list[Shape]:
    """The stack end on, layer by layer from the floor: each board, its sticks between."""
    stack = None if load is None else load.stacked()
    if load is None or stack is None:
        return []
    shapes, low = list[Shape](), LINES_M
    back = build.deep_m - EDGE_M
    front = back - stack.deep_m
    for layer in load.layered()[:MOST_LAYERS]:
        shapes.append(
            Shape(part="load", label="stick", ink="pale", outline=flat.bar(front, back, low - stack.gap_m, low))
        )
        count = max(int(stack.deep_m / layer.wide_m), 1)
        wide = stack.deep_m / count
        shapes += [
            Shape(
                part="load",
                label=layer.title,
                ink="matt",
                node=layer.node,
                outline=flat.bar(front + k * wide, front + (k + 0.94) * wide, low, low + layer.thick_m),
            )
            for k in range(count)
        ]
        low += layer.thick_m + stack.gap_m
    return shapes


def _air(build: LumberKiln, flat: Frame) -> list[Shape]:
    """The fan at the ridge, and the way round."""
    if build.fan is None:
        return []
    at, gap = _slope(build), 0.5 * (build.baffle.gap_m if build.baffle is not None else 0.2)
    up = at(build.roof_m - FAN_M, -gap)
    fan = Shape(
        part="fan",
        label="fan",
        ink="metal",
        runs=ROUND,
        outline=flat.path(*ring((up[0] + 0.02, up[1] - 0.04), FAN_M / 2)),
    )
    back, foot = build.deep_m - 0.5 * EDGE_M, 0.3 * build.front_m
    ways = [
        [(min(up[0] + FAN_M, back), up[1] - FAN_M), (back, up[1] - 2.0 * FAN_M), (back, foot)],
        [(0.35 * build.deep_m, foot), (0.12 * build.deep_m, foot), at(0.06 * build.roof_m, -2.0 * gap)],
    ]
    return [
        fan,
        *(
            Shape(part="fan", label="way of the air", ink="beyond", closed=False, outline=flat.path(*way))
            for way in ways
        ),
        *(_head(flat, way) for way in ways),
    ]


def _head(flat: Frame, way: list[Flat]) -> Shape:
    """The head of an arrow at the end of a line."""
    (y0, z0), (y1, z1) = way[-2:]
    long = max(math.hypot(y1 - y0, z1 - z0), 1e-6)
    along = (y1 - y0) / long * HEAD_M, (z1 - z0) / long * HEAD_M
    aside = -0.5 * along[1], 0.5 * along[0]
    points = [
        (y1, z1),
        (y1 - along[0] + aside[0], z1 - along[1] + aside[1]),
        (y1 - along[0] - aside[0], z1 - along[1] - aside[1]),
    ]
    return Shape(part="fan", label="way of the air", ink="beyond", outline=flat.path(*points))


def _vent_heights(build: LumberKiln) -> tuple[float, float]:
    low = min(0.15, 0.2 * build.back_m)
    return low, min(low + build.vents.apart_m, build.back_m - 0.12)


def _flap(build: LumberKiln, high: float) -> tuple[Flat, Flat]:
    """Where a vent's flap is hinged, and where its end is."""
    turn = math.radians(WIDE_OPEN_DEG * build.vents.open_share)
    hinge = (build.deep_m + _wall_m(build.wall), high + FLAP_M / 2)
    return hinge, (hinge[0] + FLAP_M * math.sin(turn), hinge[1] - FLAP_M * math.cos(turn))


def _vents(build: LumberKiln, flat: Frame) -> list[Shape]:
    heights = zip(_vent_heights(build), (build.vents.low_cm2, build.vents.high_cm2), strict=True)
    return [
        Shape(part="vents", label="vent", ink="metal", closed=False, outline=flat.path(*_flap(build, high)))
        for high, cm2 in heights
        if cm2 > 0.0
    ]


def _handles(build: LumberKiln, flat: Frame) -> list[Handle]:
    """The roof's tilt at its ridge, and the high vent's flap where nothing sets it by the hour."""
    at = _slope(build)
    out = [
        Handle(
            field="tilt_deg",
            sense=-1,
            title="tilt",
            at=flat.at(*at(build.roof_m, 0.0)),
            pivot=flat.at(*at(0.0, 0.0)),
            low=0,
            high=85,
            value=build.tilt_deg,
            unit="deg",
        )
    ]
    if build.vents.settings or build.vents.high_cm2 <= 0.0:
        return out
    hinge, end = _flap(build, _vent_heights(build)[1])
    grip = Handle(
        field="vents.open_share", sense=-1, title="vents", at=flat.at(*end), pivot=flat.at(*hinge), low=0, high=WIDE_OPEN_DEG, value=WIDE_OPEN_DEG * build.vents.open_share, unit="deg",
        per_deg=1.0 / WIDE_OPEN_DEG,
    )  # fmt: skip
    return [*out, grip]


def _rays(build: LumberKiln, flat: Frame, toward_sun: Array | None) -> list[Ray]:
    """Rays through the roof to the baffle, or to what lies under it."""
    sun = sun_in_section(0.0, build.facing_deg, toward_sun)
    if sun is None:
        return []
    at, deep = _slope(build), build.deep_m
    ends: tuple[Flat, Flat] = (at(0.0, 0.0), at(build.roof_m, 0.0))
    stops = [
        Stop("floor", (0.0, 0.0), (deep, 0.0)),
        Stop("wall", (deep, 0.0), (deep, build.back_m)),
        Stop("wall", (0.0, 0.0), (0.0, build.front_m)),
    ]
    if build.baffle is not None:
        low, high, under = _baffle_line(build)
        stops.insert(0, Stop("baffle", at(low, under), at(high, under)))
    return follow_rays(flat, sun, list(ends), [], stops, ends)
