"""The box oven as facets, for boxes with mirrors on more than the upper edge and for the map of the bright patch."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.panes import panes_of
from drylamp.core.loads.pot import PotLoad
from drylamp.core.optics.scene import Cylinder, Facet, Scene, rectangle
from drylamp.core.optics.shapes import box_inside, hinged_flap
from drylamp.core.sky.sun import Array

FLOOR, WALLS, POT, COVER = "floor", "walls", "pot", "cover"


def scene_of(build: BoxOven, load: PotLoad | None) -> Scene:
    """Cover, floor, walls, pot and flaps in the opening's axes: x across, y up the slope, z from the tray outward."""
    half, length, top = build.width_m / 2, build.length_m, build.height_m
    corners = {
        "low-left": np.array([-half, 0.0, top]),
        "low-right": np.array([half, 0.0, top]),
        "high-right": np.array([half, length, top]),
        "high-left": np.array([-half, length, top]),
    }
    across, up = corners["low-right"] - corners["low-left"], corners["high-left"] - corners["low-left"]
    cover = rectangle(COVER, corners["low-left"], across, up, "cover", panes=tuple(panes_of(build.skins)))
    facets = [cover, *box_inside(build.width_m, length, top), *_flaps(build, corners)]
    pots: tuple[Cylinder, ...] = ()
    if load is not None:
        foot, height = np.array([0.0, length / 2, 0.0]), np.array([0.0, 0.0, load.pot_height_m])
        pots = (Cylinder(POT, foot, height, load.pot_diameter_m / 2),)
    return Scene(tuple(facets), pots)


def _flaps(build: BoxOven, corners: dict[str, Array]) -> list[Facet]:
    hinges = {
        "upper": ("high-left", "high-right", [0.0, -1.0, 0.0]),
        "lower": ("low-left", "low-right", [0.0, 1.0, 0.0]),
        "left": ("low-left", "high-left", [1.0, 0.0, 0.0]),
        "right": ("low-right", "high-right", [-1.0, 0.0, 0.0]),
    }
    outward, out = np.array([0.0, 0.0, 1.0]), []
    for edge, flap in build.mirrors.items():
        first, last, inward = hinges[edge]
        hinge, row = (corners[first], corners[last]), flap.row
        shape = (flap.length_m, flap.angle_deg, row.reflectance, row.slope_error_mrad)
        out.append(hinged_flap(f"flap-{edge}", hinge, np.array(inward), outward, *shape))
    return out
