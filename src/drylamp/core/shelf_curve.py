"""What a material does, as a curve: of light, of heat, or of both."""

from __future__ import annotations

from functools import singledispatch

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.tables import Absorber, Cover, Layer, Mirror
from drylamp.core.text import Sentence, celsius, degrees, metres, watts_m2

SUN_W_M2, AROUND_C, SIGMA = 900.0, 20.0, 5.670374419e-8
HOTTEST_C, ASLANT_DEG, THICKEST_M, FARTHEST_M = 250.0, 90.0, 0.1, 3.0
AIR_M2K_W, WARMER_K = 0.17, 80.0
"""Still air on both sides of a wall (ISO 6946), and how much warmer it is inside."""
TARGET_M = 0.05
POINTS = 19


class Does(Model):
    """A curve of what a material does: how much, 0–1, at even steps of what it depends on; both in words."""

    shares: list[float]
    words: Sentence


def _does(shares: Array, words: str) -> Does:
    return Does(shares=[round(float(share), 3) for share in np.clip(shares, 0.0, 1.0)], words=words)


@singledispatch
def does(row: Model) -> Does:
    """The curve of a row of the shelf."""
    raise TypeError(f"nothing is drawn of {type(row).__name__}")


@does.register
def _(row: Absorber) -> Does:
    """Sun taken up less heat shone off, by temperature: nothing is left where it can get no hotter in still, clear air behind no glass."""
    hot = np.linspace(AROUND_C, HOTTEST_C, POINTS)
    shone = row.emittance * SIGMA * ((hot + 273.15) ** 4 - (AROUND_C + 273.15) ** 4)
    words = f"what is left of {watts_m2(SUN_W_M2)} of sun after what it shines off, from {celsius(AROUND_C)} to {celsius(HOTTEST_C)}"
    return _does((row.absorptance * SUN_W_M2 - shone) / SUN_W_M2, words)


@does.register
def _(row: Cover) -> Does:
    """Light let through by how aslant it comes (Fresnel and Bouguer, Duffie & Beckman ch. 5)."""
    pane = Pane(row.index, row.extinction_per_m, row.usual_thickness_m)
    aslant = np.cos(np.radians(np.linspace(0.0, ASLANT_DEG, POINTS)))
    words = f"what it lets through, from the sun square on it to {degrees(ASLANT_DEG)} aslant"
    return _does(stack([pane] * int(row.skins), aslant).transmittance, words)


@does.register
def _(row: Mirror) -> Does:
    """Light within a hand's breadth of its aim by distance: slope errors double on the way back and are taken as normal."""
    far = np.linspace(0.0, FARTHEST_M, POINTS)
    spread = np.maximum(2.0 * row.slope_error_mrad / 1000.0 * far, 1e-9)
    words = f"what lands within {metres(TARGET_M)} of its aim, up to {metres(FARTHEST_M)} away"
    return _does(row.reflectance * (1.0 - np.exp(-0.5 * (TARGET_M / spread) ** 2)), words)


@does.register
def _(row: Layer) -> Does:
    """Heat that goes through by thickness, against none of it (ISO 6946, still air on both sides)."""
    thick = np.linspace(0.0, THICKEST_M, POINTS)
    words = f"what of the heat goes through, against no layer at all, up to {metres(THICKEST_M)} of it"
    return _does(AIR_M2K_W / (AIR_M2K_W + thick / row.conductivity_w_mk), words)
