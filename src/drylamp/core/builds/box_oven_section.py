"""The box oven's section drawing, and the rays of the chosen hour in it."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.drawing import Arrow, Dimension, Handle, Ink, Point, Ray, Section, Shape
from drylamp.core.loads.pot import PotLoad
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.sun import Array

DIRECT_RAYS = 7
MIRROR_RAYS = 6
FOAM_LIKE_BELOW_W_MK = 0.08


class _Frame:
    """From the opening's own axes (y up the slope, z outward from the tray) to the paper."""

    def __init__(self, build: BoxOven) -> None:
        tilt = np.radians(build.tilt_deg)
        self.along = np.array([-np.cos(tilt), np.sin(tilt)])
        self.out = np.array([np.sin(tilt), np.cos(tilt)])
        thick = build.wall_thickness_m
        corners = [(-thick, -thick), (build.length_m + thick, -thick)]
        self.lift = 0.0
        self.lift = -min(self.at(y, z)[1] for y, z in corners)

    def at(self, y: float, z: float) -> Point:
        """Paper coordinates of a point of the box."""
        spot = y * self.along + z * self.out
        return (float(spot[0]), float(spot[1] + self.lift))

    def path(self, *points: tuple[float, float]) -> list[Point]:
        """Paper coordinates of several points."""
        return [self.at(y, z) for y, z in points]


def section_of(build: BoxOven, load: PotLoad | None, toward_sun: Array | None) -> Section:
    """Draw the box cut along the way it faces, with rays when the sun (east, north, up) is given and up."""
    frame = _Frame(build)
    shapes = [*_prop(build, frame), *_walls(build, frame), *_inside(build, load, frame), *_top(build, frame)]
    flat = _sun_on_paper(build, toward_sun)
    rays = [] if flat is None else _trace(build, load, frame, flat)
    points = [p for shape in shapes for p in shape.outline]
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    ground = Shape(
        part="aim",
        label="ground",
        ink="ground",
        outline=[(float(low[0]) - 0.25, 0.0), (float(high[0]) + 0.25, 0.0)],
        closed=False,
    )
    return Section(
        shapes=[ground, *shapes],
        rays=rays,
        arrows=_arrows(build, frame),
        dimensions=_dimensions(build, frame),
        handles=_handles(build, frame),
        sun_toward=None if flat is None else (float(flat[0]), float(flat[1])),
        extent=((float(low[0]), float(min(low[1], 0.0))), (float(high[0]), float(high[1]))),
    )


def _prop(build: BoxOven, frame: _Frame) -> list[Shape]:
    """The leg that holds the tilted box up; none where the box lies level."""
    thick = build.wall_thickness_m
    x, y = frame.at(build.length_m + 0.4 * thick, -thick)
    if y < 0.01:
        return []
    return [
        Shape(
            part="aim",
            label="prop",
            ink="wall",
            outline=[(x - 0.012, 0), (x + 0.012, 0), (x + 0.012, y), (x - 0.012, y)],
        )
    ]


def _walls(build: BoxOven, frame: _Frame) -> list[Shape]:
    shapes, inner = [], 0.0
    for number, part in enumerate(build.wall):
        outer = inner + part.thickness_m
        row = part.row
        ink: Ink = "foam" if row.conductivity_w_mk < FOAM_LIKE_BELOW_W_MK else "wall"
        top, far = build.height_m, build.length_m
        outline = frame.path(
            (-inner, top), (-outer, top), (-outer, -outer), (far + outer, -outer), (far + outer, top),
            (far + inner, top), (far + inner, -inner), (-inner, -inner),
        )  # fmt: skip
        shapes.append(Shape(part=f"wall-{number}", label=row.title, ink=ink, outline=outline))
        inner = outer
    return shapes


def _inside(build: BoxOven, load: PotLoad | None, frame: _Frame) -> list[Shape]:
    far, top = build.length_m, build.height_m
    lining = Shape(
        part="lining", label="lining", ink="lining", closed=False,
        outline=frame.path((0, top), (0, 0), (far, 0), (far, top)),
    )  # fmt: skip
    tray = Shape(
        part="tray", label="tray", ink="black",
        outline=frame.path((0.0, 0.0), (far, 0.0), (far, 0.008), (0.0, 0.008)),
    )  # fmt: skip
    if load is None:
        return [lining, tray]
    radius, middle = load.pot_diameter_m / 2, far / 2
    level = load.food_kg / load.contents.density_kg_m3 / load.top_m2
    foot = 0.01
    food = Shape(
        part="load", label=load.contents.title, ink="water",
        outline=frame.path(
            (middle - radius, foot), (middle + radius, foot), (middle + radius, foot + level),
            (middle - radius, foot + level),
        ),
    )  # fmt: skip
    pot = Shape(
        part="load", label="pot", ink="metal", closed=load.lid != "none",
        outline=frame.path(
            (middle - radius, foot + load.pot_height_m), (middle - radius, foot), (middle + radius, foot),
            (middle + radius, foot + load.pot_height_m),
        ),
    )  # fmt: skip
    return [lining, tray, food, pot]


def _top(build: BoxOven, frame: _Frame) -> list[Shape]:
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
    for edge, (hinge, tip) in _mirror_ends(build).items():
        label = "mirror" if edge == "upper" else "lower mirror"
        shapes.append(Shape(part="mirror", label=label, ink="mirror", outline=frame.path(hinge, tip), closed=False))
    return shapes


def _mirror_ends(build: BoxOven) -> dict[str, tuple[tuple[float, float], tuple[float, float]]]:
    """Hinge and tip of the mirrors that the cut goes through, by edge."""
    out = {}
    for edge, foot, inward in (("upper", build.length_m, -1.0), ("lower", 0.0, 1.0)):
        flap = build.mirrors.get(edge)
        if flap is not None:
            angle = np.radians(flap.angle_deg)
            across, rise = flap.length_m * float(np.cos(angle)), flap.length_m * float(np.sin(angle))
            out[edge] = ((foot, build.height_m), (foot + inward * across, build.height_m + rise))
    return out


def _arrows(build: BoxOven, frame: _Frame) -> list[Arrow]:
    far, top, thick = build.length_m, build.height_m, build.wall_thickness_m

    def outward(y: float, z: float) -> Point:
        vector = y * frame.along + z * frame.out
        return (float(vector[0]), float(vector[1]))

    return [
        Arrow(account="cover", at=frame.at(far * 0.22, top + 0.03), toward=outward(0, 1)),
        Arrow(account="walls", at=frame.at(far + thick, top * 0.4), toward=outward(1, 0)),
        Arrow(account="leak", at=frame.at(-thick, top), toward=outward(-0.8, 0.6)),
        Arrow(account="steam", at=frame.at(far * 0.72, top + 0.03), toward=outward(0, 1)),
    ]


def _dimensions(build: BoxOven, frame: _Frame) -> list[Dimension]:
    far, top, thick = build.length_m, build.height_m, build.wall_thickness_m
    out = [
        Dimension(
            label="length",
            start=frame.at(0, -thick - 0.05),
            end=frame.at(far, -thick - 0.05),
            value_m=build.length_m,
        ),
        Dimension(
            label="height",
            start=frame.at(-thick - 0.05, 0),
            end=frame.at(-thick - 0.05, top),
            value_m=build.height_m,
        ),
    ]
    if build.mirror is not None:
        (hy, hz), (ty, tz) = _mirror_ends(build)["upper"]
        off = 0.04
        start, end = frame.at(hy + off, hz), frame.at(ty + off, tz)
        out.append(Dimension(label="mirror", start=start, end=end, value_m=build.mirror.length_m))
    return out


def _handles(build: BoxOven, frame: _Frame) -> list[Handle]:
    out = [
        Handle(
            field="tilt_deg", title="tilt of the opening", at=frame.at(0, build.height_m),
            pivot=frame.at(build.length_m, build.height_m), low=0, high=90, value=build.tilt_deg, unit="deg",
        )
    ]  # fmt: skip
    if build.mirror is not None:
        hinge, tip = _mirror_ends(build)["upper"]
        out.append(
            Handle(
                field="mirror.angle_deg", title="angle of the mirror", at=frame.at(*tip), pivot=frame.at(*hinge),
                low=45, high=175, value=build.mirror.angle_deg, unit="deg",
            )
        )  # fmt: skip
    return out


def _sun_on_paper(build: BoxOven, toward_sun: Array | None) -> Array | None:
    """The sun's direction in the opening's own (y, z), or None when it is down or behind."""
    if toward_sun is None or toward_sun[2] <= 0:
        return None
    axes = plane_axes(build.tilt_deg, build.facing_deg)
    flat = np.array([axes[1] @ toward_sun, axes[2] @ toward_sun])
    size = float(np.hypot(*flat))
    if size < 0.05:
        return None
    frame = _Frame(build)
    return np.asarray((flat[0] * frame.along + flat[1] * frame.out) / size)


def _trace(build: BoxOven, load: PotLoad | None, frame: _Frame, toward: Array) -> list[Ray]:
    """Follow rays in the section: straight in, and by way of the mirror."""
    y_sun, z_sun = float(toward @ frame.along), float(toward @ frame.out)
    rays, ends = [], _mirror_ends(build)
    if z_sun > 0.02:
        for k in range(DIRECT_RAYS):
            y = build.length_m * (k + 0.5) / DIRECT_RAYS
            entry = (y, build.height_m)
            if not any(_crosses(entry, (y_sun, z_sun), *mirror) for mirror in ends.values()):
                rays.append(_ray(build, load, frame, [entry], (y_sun, z_sun), (-y_sun, -z_sun), False))
    for edge, mirror in ends.items():
        others = [other for name, other in ends.items() if name != edge]
        rays += _mirrored(build, load, frame, (y_sun, z_sun), edge, mirror, others)
    return rays


def _mirrored(
    build: BoxOven, load: PotLoad | None, frame: _Frame, sun: tuple[float, float], edge: str,
    mirror: tuple[tuple[float, float], tuple[float, float]], others: list[tuple[tuple[float, float], tuple[float, float]]],
) -> list[Ray]:  # fmt: skip
    """Rays by way of one mirror, as long as no other mirror stands in their way to it."""
    (hy, hz), (ty, tz) = mirror
    angle = np.radians(build.mirrors[edge].angle_deg)
    normal = ((-1.0 if edge == "upper" else 1.0) * float(np.sin(angle)), -float(np.cos(angle)))
    facing = sun[0] * normal[0] + sun[1] * normal[1]
    if facing <= 0.02:
        return []
    onward = (-sun[0] + 2 * facing * normal[0], -sun[1] + 2 * facing * normal[1])
    rays = []
    for k in range(MIRROR_RAYS):
        share = (k + 0.5) / MIRROR_RAYS
        bounce = (hy + share * (ty - hy), hz + share * (tz - hz))
        if any(_crosses(bounce, sun, *other) for other in others):
            continue
        if onward[1] < -1e-6:
            reach = (bounce[1] - build.height_m) / -onward[1]
            y = bounce[0] + reach * onward[0]
            if 0 <= y <= build.length_m:
                rays.append(_ray(build, load, frame, [bounce, (y, build.height_m)], sun, onward, True))
                continue
        away = (bounce[0] + 0.4 * onward[0], bounce[1] + 0.4 * onward[1])
        start = (bounce[0] + 0.6 * sun[0], bounce[1] + 0.6 * sun[1])
        rays.append(Ray(points=frame.path(start, bounce, away), by_mirror=True, lands_on="missed"))
    return rays


def _ray(
    build: BoxOven, load: PotLoad | None, frame: _Frame, knots: list[tuple[float, float]], sun: tuple[float, float],
    inward: tuple[float, float], by_mirror: bool,
) -> Ray:  # fmt: skip
    """Lengthen a ray back towards the sun and on to the first thing inside."""
    first, last = knots[0], knots[-1]
    start = (first[0] + 0.6 * sun[0], first[1] + 0.6 * sun[1])
    distance, hit = _first_inside(build, load, last, inward)
    end = (last[0] + distance * inward[0], last[1] + distance * inward[1])
    return Ray(points=frame.path(start, *knots, end), by_mirror=by_mirror, lands_on=hit)


def _first_inside(
    build: BoxOven, load: PotLoad | None, at: tuple[float, float], going: tuple[float, float]
) -> tuple[float, str]:
    found = [(at[1] / -going[1], "tray")] if going[1] < -1e-9 else []
    if going[0] < -1e-9:
        found.append((at[0] / -going[0], "walls"))
    if going[0] > 1e-9:
        found.append(((build.length_m - at[0]) / going[0], "walls"))
    if load is not None:
        radius, middle, height = load.pot_diameter_m / 2, build.length_m / 2, load.pot_height_m
        for side in (middle - radius, middle + radius):
            if abs(going[0]) > 1e-9:
                s = (side - at[0]) / going[0]
                if s > 0 and 0 <= at[1] + s * going[1] <= height:
                    found.append((s, "pot"))
        if going[1] < -1e-9:
            s = (at[1] - height) / -going[1]
            if abs(at[0] + s * going[0] - middle) <= radius:
                found.append((s, "pot"))
    return min(found)


def _crosses(
    at: tuple[float, float], going: tuple[float, float], one: tuple[float, float], other: tuple[float, float]
) -> bool:
    """Whether a ray from ``at`` meets the segment."""
    edge = (other[0] - one[0], other[1] - one[1])
    cross = going[0] * edge[1] - going[1] * edge[0]
    if abs(cross) < 1e-12:
        return False
    off = (one[0] - at[0], one[1] - at[1])
    along = (off[0] * edge[1] - off[1] * edge[0]) / cross
    share = (off[0] * going[1] - off[1] * going[0]) / cross
    return along > 1e-9 and 0 <= share <= 1
