"""Sun on any plane, by the Hay–Davies sky.

Hay and Davies treat the bright ring round the sun as beam. Here that share is *added to the beam* once, so
that mirrors, covers and the skyline act on it as on the beam, and the rest of the diffuse is even over the dome.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.sky.dome import DOME_DIRECTIONS, hemisphere, is_open, plane_axes, sun_share
from drylamp.core.sky.sun import SunPath

LOWEST_SIN = 0.01745
"""pvlib's floor for the sine of the sun's altitude in the ratio Rb (1°)."""


@dataclass(frozen=True)
class SkyLight:
    """What reaches a spot, split by where it comes from; each shape (n,), W/m².

    Attributes:
        beam_w_m2: normal to the sun, with the ring round it; zero while the sun is below the skyline
        dome_w_m2: level irradiance that an open, even dome would give
        ground_w_m2: reflected off level ground, per m² of ground
        ring_w_m2: of the beam, the ring round the sun, which what concentrates takes only in part
    """

    beam_w_m2: Array
    dome_w_m2: Array
    ground_w_m2: Array
    ring_w_m2: Array

    def at(self, rows: slice | np.ndarray) -> SkyLight:
        """Of some steps alone."""
        parts = (self.beam_w_m2, self.dome_w_m2, self.ground_w_m2, self.ring_w_m2)
        return SkyLight(*(np.ascontiguousarray(part[rows]) for part in parts))


def sky_light(sun: SunPath, ghi: Array, dni: Array, dhi: Array, albedo: float, skyline_deg: Array) -> SkyLight:
    """Split sun on level ground into beam, even dome and ground.

    References
    ----------
    Hay & Davies 1980, as in pvlib.irradiance.haydavies: the ring's share is DNI / extraterrestrial.
    """
    sine = sun.direction[:, 2]
    up = sine > 0
    share = np.where(up, dni / np.maximum(sun.extraterrestrial_w_m2, 1.0), 0.0)
    ring = dhi * share / np.maximum(sine, LOWEST_SIN)
    seen = np.where(up, sun_share(skyline_deg, sun.direction), 0.0)
    return SkyLight(
        beam_w_m2=(dni + ring) * seen, dome_w_m2=dhi * (1.0 - share), ground_w_m2=albedo * ghi, ring_w_m2=ring * seen
    )


def on_plane(sun: SunPath, light: SkyLight, tilt_deg: float, azimuth_deg: float, skyline_deg: Array) -> Array:
    """Total sun on a bare plane, W/m², shape (n,)."""
    normal = plane_axes(tilt_deg, azimuth_deg)[2]
    beam = light.beam_w_m2 * np.maximum(sun.direction @ normal, 0.0)
    dome = light.dome_w_m2 * dome_share(normal, skyline_deg)
    ground = light.ground_w_m2 * (1.0 - normal[2]) / 2.0
    return np.asarray(beam + dome + ground)


def dome_share(normal: Array, skyline_deg: Array) -> float:
    """How much of an even dome a plane sees, as a share of what open level ground sees."""
    directions = hemisphere(DOME_DIRECTIONS)
    weight = np.maximum(directions @ normal, 0.0) * is_open(skyline_deg, directions)
    return float(2.0 / DOME_DIRECTIONS * weight.sum())
