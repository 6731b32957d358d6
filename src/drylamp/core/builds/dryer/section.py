"""The food dryer drawn: collector, cabinet with its trays, glass, chimney, and the way of the air."""

from __future__ import annotations

import math

from drylamp.core.arrays import Array
from drylamp.core.builds.common.air_collector.links import SEGMENTS, absorber_nodes, air_nodes
from drylamp.core.builds.common.section.geometry import Flat, Frame, Stop, drawn, follow_rays, ring, sun_in_section
from drylamp.core.builds.dryer.optics import LID, WALLS, laid_in
from drylamp.core.builds.dryer.recipe import IN_CHIMNEY, OVER, UNDER, tray_air
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Ray, Section, Shape
from drylamp.core.loads.load import Load

LEG_M, WHEEL_M = 0.03, 0.07
SHEET_M, TRAY_M, MOST_FOOD_M, EDGE_M, PIECES, LEAST_WIDE = 0.012, 0.008, 0.05, 0.02, 5, 0.5


def section_of(build: FoodDryer, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw it cut along the way it faces: x to the way it faces, the cabinet's foot over the head of its collector."""
    flat = _upright(build)
    shapes = [*_collector(build), *_cabinet(build, flat), *_trays(build, load, flat), *_shaft(build, flat)]
    rays = _rays(build, toward_sun)
    sun = sun_in_section(0.0, build.facing_deg, toward_sun)
    top = build.cabinet_m
    arrows = [
        Arrow(account="air", at=flat.at(*_flap(build)[0]), toward=flat.outward(1.0, 0.25)),
        Arrow(account="walls", at=flat.at(build.depth_m + build.wall_m, top * 0.12), toward=flat.outward(1.0, 0.0)),
    ]
    dimensions = [
        Dimension(
            label="cabinet",
            start=flat.at(build.depth_m + 0.12, 0.0),
            end=flat.at(build.depth_m + 0.12, top),
            value_m=round(top, 3),
        ),
        Dimension(
            label="front to back",
            start=flat.at(0.0, -0.1),
            end=flat.at(build.depth_m, -0.1),
            value_m=round(build.depth_m, 3),
        ),
    ]
    return drawn(flat, shapes, rays, arrows, dimensions, [*_handles(build), *_vent_grip(build)], sun)


def _upright(build: FoodDryer) -> Frame:
    """The cabinet's own axes: its foot is their origin."""
    return Frame(0.0, [(0.0, 0.0)], build.foot_m)


def _leaning(build: FoodDryer) -> Frame:
    """The collector's own axes: its head stands where the cabinet's foot begins."""
    made = build.collector
    assert made is not None
    tilt = math.radians(build.tilt_deg)
    aside = made.length_m * math.cos(tilt)
    return Frame(build.tilt_deg, [(0.0, 0.0)], build.stands_m, aside)


def _collector(build: FoodDryer) -> list[Shape]:
    made = build.collector
    if made is None:
        return []
    frame, long, back = _leaning(build), made.length_m, sum(layer.thickness_m for layer in made.back)
    under = 0.0 if made.absorber == "plate" and made.air == "over" else made.depth_m
    shapes = [
        Shape(
            part="collector",
            label="back",
            ink="foam" if any(x.is_foam_like for x in made.back) else "wall",
            outline=frame.bar(0.0, long, -under - back, -under),
        ),
    ]
    step = long / SEGMENTS
    for k, (plate, air) in enumerate(zip(absorber_nodes(), air_nodes(), strict=True)):
        shapes.append(
            Shape(
                part="collector",
                label="air",
                ink="water",
                node=air,
                outline=frame.bar(k * step, (k + 1) * step, -under, made.gap_m),
            )
        )
        shapes.append(
            Shape(
                part="collector",
                label="absorber",
                ink="black",
                node=plate,
                outline=frame.bar(k * step, (k + 1) * step, -SHEET_M / 2, SHEET_M / 2),
            )
        )
    for k in range(len(made.skins)):
        high = made.gap_m + k * (made.cover.gap_m if made.cover else 0.0)
        shapes.append(
            Shape(part="collector", label="glass", ink="glass", outline=frame.bar(0.0, long, high, high + SHEET_M / 2))
        )
    shapes.append(
        Shape(
            part="inlet",
            label="inlet",
            ink="strainer",
            closed=False,
            outline=frame.path((0.0, -under), (0.0, made.gap_m)),
        )
    )
    return shapes


def _cabinet(build: FoodDryer, flat: Frame) -> list[Shape]:
    deep, high, wall = build.depth_m, build.cabinet_m, max(build.wall_m, 0.006)
    ink = "foam" if any(layer.is_foam_like for layer in build.wall) else "wall"
    lift = build.lid_rise_m
    low = build.under_m * 0.5 if build.collector is not None else 0.0
    shapes = [
        *_stand(build, flat),
        Shape(
            part="wall", label="back wall", ink=ink, node=WALLS, outline=flat.bar(deep, deep + wall, -wall, high + lift)
        ),
        Shape(part="wall", label="front wall", ink=ink, node=WALLS, outline=flat.bar(-wall, 0.0, low, high)),
        Shape(
            part="wall",
            label="floor",
            ink=ink,
            node=WALLS,
            outline=flat.bar(0.0 if build.collector is None else 0.02, deep, -wall, 0.0),
        ),
        Shape(
            part="cabinet",
            label="air under the trays",
            ink="water",
            node=UNDER,
            outline=flat.bar(0.0, deep, 0.0, build.under_m),
        ),
        Shape(
            part="cabinet",
            label="air over the trays",
            ink="water",
            node=OVER,
            outline=flat.path(
                (0.0, high - build.over_m), (deep, high - build.over_m), (deep, high + lift), (0.0, high)
            ),
        ),
    ]
    if build.collector is None:
        shapes.append(
            Shape(part="inlet", label="inlet", ink="strainer", closed=False, outline=flat.path((0.0, 0.0), (deep, 0.0)))
        )
    if build.cover is not None:
        shapes.append(
            Shape(
                part="cover",
                label="glass",
                ink="glass",
                node=f"{LID}-1",
                outline=flat.path(
                    (0.0, high), (deep, high + lift), (deep, high + lift + SHEET_M / 2), (0.0, high + SHEET_M / 2)
                ),
            )
        )
        if build.shaded:
            shapes.append(
                Shape(
                    part="cover",
                    label="cloth",
                    ink="matt",
                    outline=flat.path(
                        (0.0, high + 0.02), (deep, high + lift + 0.02), (deep, high + lift + 0.03), (0.0, high + 0.03)
                    ),
                )
            )
    else:
        shapes.append(
            Shape(
                part="wall", label="lid", ink=ink, node=WALLS, outline=flat.bar(-wall, deep + wall, high, high + wall)
            )
        )
    return shapes


def _stand(build: FoodDryer, flat: Frame) -> list[Shape]:
    """Legs under the back and under the front or the collector's foot, with a wheel where it has any."""
    ground = -build.foot_m
    ahead = 0.0 if build.collector is None else -build.collector.length_m * math.cos(math.radians(build.tilt_deg))
    front = (ahead + 0.04, -build.rise_m) if build.collector is not None else (0.02, 0.0)
    legs = [(build.depth_m - LEG_M, -0.01), (front[0], front[1])]
    shapes = [
        Shape(part="aim", label="legs", ink="beyond", outline=flat.bar(y, y + LEG_M, ground, top))
        for y, top in legs
        if top > ground
    ]
    if build.wheels is not None:
        middle = (front[0] + LEG_M / 2.0, ground + WHEEL_M)
        shapes.append(Shape(part="aim", label="wheel", ink="metal", outline=flat.path(*ring(middle, WHEEL_M))))
    return shapes


def _trays(build: FoodDryer, load: Load | None, flat: Frame) -> list[Shape]:
    """Trays, and what lies on each in a few pieces: as wide together as it is, and thick enough to show its colour."""
    shapes, deep, spacing = list[Shape](), build.depth_m, build.trays.spacing_m
    for tray in range(build.trays.count):
        low = build.under_m + tray * spacing
        mesh = flat.bar(0.01, deep - 0.01, low, low + TRAY_M)
        shapes.append(Shape(part="trays", label=f"tray {tray + 1}", ink="strainer", node=tray_air(tray), outline=mesh))
        here = [laid for laid in laid_in(load) if laid.shelf == tray]
        room = (deep - 2.0 * EDGE_M) / max(len(here) * PIECES, 1)
        for k, laid in enumerate(here):
            share = min(laid.covers_m2 / build.floor_m2 * len(here), 1.0)
            wide, high = room * (LEAST_WIDE + (1.0 - LEAST_WIDE) * share) * 0.9, min(MOST_FOOD_M, spacing * 0.45)
            for piece in range(PIECES):
                at = EDGE_M + (k * PIECES + piece + 0.5) * room - wide / 2.0
                outline = flat.bar(at, at + wide, low + TRAY_M, low + TRAY_M + high)
                shapes.append(
                    Shape(part="load", label=f"food on tray {tray + 1}", ink="matt", node=laid.node, outline=outline)
                )
    return shapes


def _shaft(build: FoodDryer, flat: Frame) -> list[Shape]:
    flap = Shape(part="vent", label="vent", ink="metal", closed=False, outline=flat.path(*_flap(build)))
    if build.chimney is None:
        return [flap]
    high, deep = build.cabinet_m, build.depth_m
    lift = build.lid_rise_m
    middle, top, half = deep * 0.75, high + lift * 0.75, build.chimney.diameter_mm / 2000.0
    shaft = flat.bar(middle - half, middle + half, top, top + build.chimney.height_m)
    return [Shape(part="chimney", label="chimney", ink="metal", node=IN_CHIMNEY, outline=shaft), flap]


def _rays(build: FoodDryer, toward_sun: Array | None) -> list[Ray]:
    """Rays on whatever glass there is."""
    rays = list[Ray]()
    if build.collector is not None:
        sun = sun_in_section(build.tilt_deg, build.facing_deg, toward_sun)
        long = build.collector.length_m
        if sun is not None:
            ends: tuple[Flat, Flat] = ((0.0, build.collector.gap_m), (long, build.collector.gap_m))
            rays += follow_rays(
                _leaning(build), sun, list(ends), [], [Stop("collector", (0.0, 0.0), (long, 0.0))], ends
            )
    if build.cover is not None and not build.shaded:
        flat = _upright(build)
        sun = sun_in_section(0.0, build.facing_deg, toward_sun)
        high, deep = build.cabinet_m, build.depth_m
        lift = build.lid_rise_m
        if sun is not None:
            over: tuple[Flat, Flat] = ((0.0, high), (deep, high + lift))
            tray = high - build.over_m
            stops = [
                Stop("trays", (0.0, tray), (deep, tray)),
                Stop("wall", (deep, 0.0), (deep, high + lift)),
                Stop("wall", (0.0, 0.0), (0.0, high)),
            ]
            rays += follow_rays(flat, sun, list(over), [], stops, over)
    return rays


FLAP_M, WIDE_OPEN_DEG = 0.12, 90.0
"""The vent's flap as it is drawn, and how far it turns."""


def _flap(build: FoodDryer) -> tuple[Flat, Flat]:
    """Where the vent's flap is hinged, and where its end is, in the cabinet's own axes."""
    high, deep = build.cabinet_m, build.depth_m
    lift = build.lid_rise_m
    hinge = (deep * 0.95, high + lift * 0.95 + 0.03)
    if build.chimney is not None:
        hinge = (deep * 0.75 + build.chimney.diameter_mm / 2000.0, high + lift * 0.75 + build.chimney.height_m + 0.02)
    turn = math.radians(WIDE_OPEN_DEG * build.vent.open_share)
    return hinge, (hinge[0] - FLAP_M * math.cos(turn), hinge[1] + FLAP_M * math.sin(turn))


def _vent_grip(build: FoodDryer) -> list[Handle]:
    """The vent's flap as a grip; none where it is set by the hour."""
    if build.vent.hours or build.vent.area_cm2 <= 0.0:
        return []
    flat = _upright(build)
    hinge, end = _flap(build)
    return [
        Handle(
            field="vent.open_share", sense=-1, title="vent", at=flat.at(*end), pivot=flat.at(*hinge), low=0, high=WIDE_OPEN_DEG, value=WIDE_OPEN_DEG * build.vent.open_share,
            unit="deg", per_deg=1.0 / WIDE_OPEN_DEG,
        )
    ]  # fmt: skip


def _handles(build: FoodDryer) -> list[Handle]:
    if build.collector is None:
        return []
    frame = _leaning(build)
    return [
        Handle(field="tilt_deg", sense=-1, title="tilt", at=frame.at(0.0, 0.0), pivot=frame.at(build.collector.length_m, 0.0), low=0, high=90, value=build.tilt_deg, unit="deg")
    ]  # fmt: skip
