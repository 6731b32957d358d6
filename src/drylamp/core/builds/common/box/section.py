"""A box's section drawing, wedge or tilted box, and the rays of the chosen hour in it."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.box.geometry import behind_ends
from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.section.geometry import (
    Flat,
    Frame,
    Mirror2,
    Stop,
    drawn,
    follow_rays,
    load_drawn,
    offset_path,
    sun_in_section,
)
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Ink, Section, Shape
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

TRAY_M = 0.008
MIRROR_PARTS = {"upper": "mirror", "lower": "mirror", "behind": "behind"}
MIRROR_WORDS = {"upper": "mirror", "lower": "lower mirror", "behind": "mirror behind it"}
"""Parts and labels of the mirrors that the cut goes through."""


def inner_path(build: Box) -> list[Flat]:
    """The cut of the inside: front wall down, floor, back wall up, in the opening's (y, z)."""
    front, back = (0.0, build.height_m), (build.length_m, build.height_m)
    if not build.is_wedge:
        return [front, (0.0, 0.0), (build.length_m, 0.0), back]
    tilt = np.radians(build.tilt_deg)
    up, level = (float(np.sin(tilt)), float(np.cos(tilt))), (float(np.cos(tilt)), -float(np.sin(tilt)))
    foot = (front[0] - build.height_m * up[0], front[1] - build.height_m * up[1])
    rear = (foot[0] + build.floor_length_m * level[0], foot[1] + build.floor_length_m * level[1])
    return [front, foot, rear, back]


def section_of(build: Box, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the box cut along the way it faces, with rays when the sun (east, north, up) is given and up."""
    inner = inner_path(build)
    outer = outer_path(build)
    frame = Frame(build.tilt_deg, outer)
    floor = (inner[1], inner[2])
    goods, stops = load_drawn(load, frame, floor, pot_axis(build, frame), build.floor_m)
    shapes = [
        *_prop(outer, frame),
        *_walls(build, inner, frame),
        *_inside(build, inner, frame),
        *goods,
        *_top(build, frame),
    ]
    sun = sun_in_section(build.tilt_deg, build.facing_deg, toward_sun)
    rays = []
    if sun is not None:
        stops += [Stop("tray", *floor), Stop("walls", inner[0], inner[1]), Stop("walls", inner[2], inner[3])]
        ends = mirror_ends(build)
        mirrors = [_as_mirror(*cut) for cut in ends.values()]
        across = [inner[0], inner[3], *(tip for _, tip in ends.values())]
        rays = follow_rays(frame, sun, across, mirrors, stops, (inner[0], inner[3]))
    return drawn(
        frame, shapes, rays, _arrows(build, frame), _dimensions(build, inner, frame), _handles(build, frame), sun
    )


def pot_axis(build: Box, frame: Frame) -> Flat:
    """The way a pot stands, in the opening's (y, z)."""
    if build.has_level_shelf or build.is_wedge:
        return frame.up
    return (0.0, 1.0)


def _prop(outer: list[Flat], frame: Frame) -> list[Shape]:
    """The leg that holds a tilted box up; none where it lies level."""
    x, y = frame.at(*outer[2])
    if y < 0.01:
        return []
    x += 0.02
    leg = [(x - 0.012, 0.0), (x + 0.012, 0.0), (x + 0.012, y), (x - 0.012, y)]
    return [Shape(part="aim", label="prop", ink="wall", outline=leg)]


def outer_path(build: Box) -> list[Flat]:
    """The cut of the outside, as far down as the floor is thick."""
    inner, thick, deep = inner_path(build), build.wall_thickness_m, build.floor_thickness_m
    front, back = _side(inner[:2], deep, down=True), _side(inner[2:], deep, down=False)
    return [*offset_path(front, thick), *offset_path(back, thick)]


def _side(wall: list[Flat], by: float, *, down: bool) -> list[Flat]:
    """A wall's inner line, drawn on past the floor."""
    top, foot = (wall[0], wall[1]) if down else (wall[1], wall[0])
    size = float(np.hypot(foot[0] - top[0], foot[1] - top[1]))
    end = (foot[0] + by * (foot[0] - top[0]) / size, foot[1] + by * (foot[1] - top[1]) / size)
    return [top, end] if down else [end, top]


def _walls(build: Box, inner: list[Flat], frame: Frame) -> list[Shape]:
    """Layers round the hollow: in one piece where the floor is built as the walls, else the floor's between them."""
    if not build.floor and not build.under_tray:
        return [*_strips("wall", build.wall, inner, frame), *_lid_frame(build, inner, frame)]
    deep = build.floor_thickness_m
    sides = [_side(inner[:2], deep, down=True), _side(inner[2:], deep, down=False)]
    shapes = [shape for side in sides for shape in _strips("wall", build.wall, side, frame)]
    return [*shapes, *_strips("floor", build.floor_layers, inner[1:3], frame), *_lid_frame(build, inner, frame)]


def _strips(part: str, layers: list[WallLayer], line: list[Flat], frame: Frame) -> list[Shape]:
    """Layers side by side along a line, from the inside out."""
    shapes, done = [], 0.0
    for number, layer in enumerate(layers):
        near, far = offset_path(line, done) if done else line, offset_path(line, done + layer.thickness_m)
        ink: Ink = "foam" if layer.is_foam_like else "wall"
        name = f"{part}-{number}" if part == "wall" else part
        shapes.append(Shape(part=name, label=layer.row.title, ink=ink, outline=frame.path(*near, *reversed(far))))
        done += layer.thickness_m
    return shapes


def _lid_frame(build: Box, inner: list[Flat], frame: Frame) -> list[Shape]:
    """The lid's frame at both ends of the cut: the uppermost strip of the hollow's sides."""
    if build.frame is None:
        return []
    out = []
    for top, foot, outward in ((inner[0], inner[1], -1.0), (inner[3], inner[2], 1.0)):
        share = build.frame.height_m / float(np.hypot(foot[0] - top[0], foot[1] - top[1]))
        low = (top[0] + share * (foot[0] - top[0]), top[1] + share * (foot[1] - top[1]))
        away = outward * build.frame.width_m
        corners = frame.path(low, top, (top[0] + away, top[1]), (low[0] + away, low[1]))
        out.append(Shape(part="frame", label="frame of the lid", ink="wall", outline=corners))
    return out


def _inside(build: Box, inner: list[Flat], frame: Frame) -> list[Shape]:
    lining = Shape(part="lining", label="lining", ink="lining", closed=False, outline=frame.path(*inner))
    raised = offset_path([inner[1], inner[2]], -TRAY_M)
    tray = Shape(
        part="tray", label="tray", ink="black", takes_up=absorber(build.tray).absorptance,
        outline=frame.path(inner[1], inner[2], *reversed(raised)),
    )  # fmt: skip
    return [lining, tray]


def _top(build: Box, frame: Frame) -> list[Shape]:
    shapes, top, far = [], build.height_m, build.length_m
    z = top
    for k, skin in enumerate(build.skins):
        sheet = max(skin.thickness_m, 0.004)
        outline = frame.path((-0.01, z), (far + 0.01, z), (far + 0.01, z + sheet), (-0.01, z + sheet))
        shapes.append(Shape(part="cover", label=f"cover {k + 1}", ink="glass", outline=outline))
        z += skin.thickness_m + skin.gap_m
    for edge in ("left", "right"):
        flap = build.mirrors.get(edge)
        if flap is not None:  # stands along the cut: seen from the side, beyond it
            rise = max(flap.length_m * float(np.sin(np.radians(flap.angle_deg))), 0.01)
            outline = frame.path((0.0, top), (far, top), (far, top + rise), (0.0, top + rise))
            shapes.append(Shape(part="mirror", label=f"{edge} mirror, beyond the cut", ink="beyond", outline=outline))
    for edge, (hinge, tip) in mirror_ends(build).items():
        ends = (tip, hinge) if edge == "lower" else (hinge, tip)  # the back lies to the left
        path = frame.path(*ends)
        shapes.append(
            Shape(part=MIRROR_PARTS[edge], label=MIRROR_WORDS[edge], ink="mirror", outline=path, closed=False)
        )
    return shapes


def mirror_ends(build: Box) -> dict[str, tuple[Flat, Flat]]:
    """Hinge and tip of the mirrors that the cut goes through, by edge."""
    out = {}
    for edge, foot, inward in (("upper", build.length_m, -1.0), ("lower", 0.0, 1.0)):
        flap = build.mirrors.get(edge)
        if flap is not None:
            angle = np.radians(flap.angle_deg)
            across, rise = flap.length_m * float(np.cos(angle)), flap.length_m * float(np.sin(angle))
            out[edge] = ((foot, build.height_m), (foot + inward * across, build.height_m + rise))
    if build.mirror_behind is not None:
        low, high = behind_ends(build, build.mirror_behind)
        out["behind"] = ((float(low[1]), float(low[2])), (float(high[1]), float(high[2])))
    return out


def _as_mirror(foot: Flat, tip: Flat) -> Mirror2:
    """Its bright face looks to the side where the opening is: to the front from behind it, to the back from before it."""
    along = np.array(tip) - np.array(foot)
    out = np.array([-along[1], along[0]]) / np.linalg.norm(along)
    toward_front = out if foot[0] > 0.0 else -out
    return Mirror2(foot, tip, (float(toward_front[0]), float(toward_front[1])))


def _arrows(build: Box, frame: Frame) -> list[Arrow]:
    far, top, thick = build.length_m, build.height_m, build.wall_thickness_m
    return [
        Arrow(account="cover", at=frame.at(far * 0.22, top + 0.03), toward=frame.outward(0, 1)),
        Arrow(account="walls", at=frame.at(far + thick, top * 0.4), toward=frame.outward(1, 0)),
        Arrow(account="floor", at=frame.at(far * 0.15, -build.floor_thickness_m), toward=frame.outward(0, -1)),
        *(
            [Arrow(account="frame", at=frame.at(far + thick, top), toward=frame.outward(0.8, 0.6))]
            if build.frame
            else []
        ),
        Arrow(account="leak", at=frame.at(-thick, top), toward=frame.outward(-0.8, 0.6)),
        Arrow(account="steam", at=frame.at(far * 0.72, top + 0.03), toward=frame.outward(0, 1)),
    ]


def _dimensions(build: Box, inner: list[Flat], frame: Frame) -> list[Dimension]:
    away = max(build.wall_thickness_m, build.floor_thickness_m) + 0.05
    below, before = offset_path(inner[1:3], away), offset_path(inner[0:2], away)
    out = [
        Dimension(label="length", start=frame.at(*below[0]), end=frame.at(*below[1]), value_m=build.floor_length_m),
        Dimension(label="height", start=frame.at(*before[1]), end=frame.at(*before[0]), value_m=build.height_m),
    ]
    if build.mirror is not None:
        (hy, hz), (ty, tz) = mirror_ends(build)["upper"]
        off = 0.04
        start, end = frame.at(hy + off, hz), frame.at(ty + off, tz)
        out.append(Dimension(label="mirror", start=start, end=end, value_m=build.mirror.length_m))
    return out


def _handles(build: Box, frame: Frame) -> list[Handle]:
    out = [
        Handle(
            field="tilt_deg", sense=-1, title="tilt of the opening", at=frame.at(0, build.height_m),
            pivot=frame.at(build.length_m, build.height_m), low=0, high=90, value=build.tilt_deg, unit="deg",
        )
    ]  # fmt: skip
    if build.mirror is not None:
        hinge, tip = mirror_ends(build)["upper"]
        out.append(
            Handle(
                field="mirror.angle_deg", title="angle of the mirror", at=frame.at(*tip), pivot=frame.at(*hinge),
                low=45, high=175, value=build.mirror.angle_deg, unit="deg",
            )
        )  # fmt: skip
    if build.mirror_behind is not None:
        foot, tip = mirror_ends(build)["behind"]
        out.append(
            Handle(
                field="behind.lean_deg", title="lean of the mirror behind", at=frame.at(*tip), pivot=frame.at(*foot),
                low=-45, high=60, value=build.mirror_behind.lean_deg, unit="deg",
            )
        )  # fmt: skip
    return out
