"""Facets for shapes that builds share: a hinged flap, the inside of a box, a dish, a trough."""

from __future__ import annotations

import itertools

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.optics.geometry import Facet, rectangle


def hinged_flap(
    name: str, hinge: tuple[Array, Array], inward: Array, outward: Array, length_m: float, angle_deg: float,
    reflectance: float, slope_error_mrad: float = 0.0,
) -> Facet:  # fmt: skip
    """A flat mirror hinged along an edge of an opening.

    Parameters
    ----------
    hinge
        the two ends of the edge
    inward
        unit vector in the opening's plane, from the hinge over the opening
    outward
        unit normal of the opening
    angle_deg
        between opening and mirror; 0 lies on the opening, 180 in its plane beyond the hinge
    """
    angle = np.radians(angle_deg)
    first, last = (np.asarray(p, dtype=float) for p in hinge)
    rise = length_m * (np.cos(angle) * np.asarray(inward) + np.sin(angle) * np.asarray(outward))
    facing = np.sin(angle) * np.asarray(inward) - np.cos(angle) * np.asarray(outward)
    if np.cross(last - first, rise) @ facing < 0:
        first, last = last, first
    return rectangle(
        name, first, last - first, rise, "mirror", reflectance=reflectance, slope_error_mrad=slope_error_mrad
    )


def box_inside(width_m: float, length_m: float, height_m: float) -> tuple[Facet, ...]:
    """Floor and walls as receivers; x across (middle 0), y from 0 to the length, z from 0 to the opening."""
    half = width_m / 2
    x, y, z = np.array([width_m, 0, 0]), np.array([0, length_m, 0]), np.array([0, 0, height_m])
    low = np.array([-half, 0.0, 0.0])
    return (
        rectangle("floor", low, x, y, "receiver"),
        rectangle("walls", low, z, x, "receiver"),
        rectangle("walls", low + y, x, z, "receiver"),
        rectangle("walls", low, y, z, "receiver"),
        rectangle("walls", low + x, z, y, "receiver"),
    )


def dish(
    name: str, diameter_m: float, focal_m: float, reflectance: float, slope_error_mrad: float = 0.0, rings: int = 12,
    sectors: int = 36,
) -> tuple[Facet, ...]:  # fmt: skip
    """A paraboloid z = r²/(4 f) of triangles, its lowest point at the origin, looking up z."""
    require(diameter_m > 0, "dish.diameter_m", f"{diameter_m:g} was given; allowed is above 0")
    require(focal_m > 0, "dish.focal_m", f"{focal_m:g} was given; allowed is above 0")
    radii = np.linspace(0.0, diameter_m / 2, rings + 1)
    turns = np.linspace(0.0, 2 * np.pi, sectors + 1)

    def point(r: float, turn: float) -> Array:
        return np.array([r * np.cos(turn), r * np.sin(turn), r * r / (4 * focal_m)])

    out = []
    for inner, outer in itertools.pairwise(radii):
        for one, two in itertools.pairwise(turns):
            a, b, c, d = point(inner, one), point(outer, one), point(outer, two), point(inner, two)
            out.append(Facet(name, np.array([a, b, c]), "mirror", reflectance, slope_error_mrad))
            if inner > 0:
                out.append(Facet(name, np.array([a, c, d]), "mirror", reflectance, slope_error_mrad))
    return tuple(out)


def trough(
    name: str, width_m: float, focal_m: float, length_m: float, reflectance: float, slope_error_mrad: float = 0.0,
    strips: int = 40,
) -> tuple[Facet, ...]:  # fmt: skip
    """A parabolic trough z = x²/(4 f) of flat strips along y, lowest line at the origin, looking up z."""
    require(width_m > 0 and length_m > 0, "trough", "its width and length must be above 0")
    require(focal_m > 0, "trough.focal_m", f"{focal_m:g} was given; allowed is above 0")
    edges = np.linspace(-width_m / 2, width_m / 2, strips + 1)
    height = edges**2 / (4 * focal_m)
    along = np.array([0.0, length_m, 0.0])
    out = []
    for k in range(strips):
        corner = np.array([edges[k], -length_m / 2, height[k]])
        across = np.array([edges[k + 1] - edges[k], 0.0, height[k + 1] - height[k]])
        out.append(
            rectangle(name, corner, across, along, "mirror", reflectance=reflectance, slope_error_mrad=slope_error_mrad)
        )
    return tuple(out)
