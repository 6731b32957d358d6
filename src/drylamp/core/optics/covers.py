"""Covers: what one or more sheets let through, throw back and soak up, at any incidence.

References:
    Duffie & Beckman, Solar Engineering of Thermal Processes, ch. 5: Fresnel (5.1.1–5.1.2), Bouguer (5.2.1), one sheet
    (5.3.1–5.3.3) for each polarisation; sheets are stacked by adding all passes back and forth between them.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from drylamp.core.arrays import Array
from drylamp.core.tables import Cover

DIFFUSE_INCIDENCE_DEG = 60.0
"""Incidence that stands for even diffuse light (Duffie & Beckman fig. 5.4.1)."""


@dataclass(frozen=True)
class Pane:
    """One sheet: refractive index, extinction coefficient (1/m) and thickness (m)."""

    index: float
    extinction_per_m: float
    thickness_m: float


@dataclass(frozen=True)
class StackOptics:
    """Shares of the light that falls on a stack.

    Attributes:
        transmittance, reflectance: shape of the incidence
        absorptance: per sheet from the outermost, shape (sheets, *incidence)
    """

    transmittance: Array
    reflectance: Array
    absorptance: Array


def stack(panes: list[Pane], cos_incidence: ArrayLike) -> StackOptics:
    """Optics of sheets one behind the other, the first one outermost, for unpolarised light.

    Parameters
    ----------
    panes
        none is allowed and passes everything
    cos_incidence
        cosine of the incidence, 0–1, any shape
    """
    cosine = np.clip(np.asarray(cos_incidence, dtype=float), 1e-4, 1.0)
    one, other = (_stack_polarised(panes, cosine, polarisation) for polarisation in (0, 1))
    return StackOptics(
        transmittance=(one.through + other.through) / 2,
        reflectance=(one.back_front + other.back_front) / 2,
        absorptance=(one.soaked_front + other.soaked_front) / 2,
    )


@dataclass(frozen=True)
class _Pile:
    """Sheets so far, for light from the front and from behind: through, thrown back, soaked by each sheet."""

    through: Array
    back_front: Array
    back_rear: Array
    soaked_front: Array
    soaked_rear: Array


def _stack_polarised(panes: list[Pane], cosine: Array, polarisation: int) -> _Pile:
    nothing, none = np.zeros_like(cosine), np.zeros((0, *cosine.shape))
    pile = _Pile(np.ones_like(cosine), nothing, nothing, none, none)
    for pane in panes:
        pile = _add_behind(pile, *_one_sheet(pane, cosine, polarisation))
    return pile


def _add_behind(pile: _Pile, through: Array, back: Array) -> _Pile:
    """Put one more sheet behind a pile; ``bounce`` sums the passes to and fro in the space between."""
    soaked = 1.0 - through - back
    bounce = 1.0 / (1.0 - pile.back_rear * back)
    arriving = pile.through * bounce
    returned = through * bounce
    return _Pile(
        through=arriving * through,
        back_front=pile.back_front + arriving * back * pile.through,
        back_rear=back + returned * pile.back_rear * through,
        soaked_front=np.concatenate(
            [pile.soaked_front + arriving * back * pile.soaked_rear, (arriving * soaked)[None]]
        ),
        soaked_rear=np.concatenate([returned * pile.soaked_rear, (soaked + returned * pile.back_rear * soaked)[None]]),
    )


def _one_sheet(pane: Pane, cosine: Array, polarisation: int) -> tuple[Array, Array]:
    """Transmittance and reflectance of one sheet for one polarisation (0: perpendicular, 1: parallel)."""
    bent = np.sqrt(1.0 - (1.0 - cosine**2) / pane.index**2)
    if polarisation == 0:
        edge = ((cosine - pane.index * bent) / (cosine + pane.index * bent)) ** 2
    else:
        edge = ((bent - pane.index * cosine) / (bent + pane.index * cosine)) ** 2
    kept = np.exp(-pane.extinction_per_m * pane.thickness_m / bent)
    through = kept * (1.0 - edge) ** 2 / (1.0 - (edge * kept) ** 2)
    return through, edge * (1.0 + kept * through)


def normal_transmittance(row: Cover) -> float:
    """What one sheet of the usual thickness lets through when the sun stands square to it; twin-wall sheets count both skins."""
    skin = Pane(row.index, row.extinction_per_m, row.usual_thickness_m)
    return float(stack([skin] * int(row.skins), 1.0).transmittance)


def diffuse_incidence_deg(tilt_deg: float) -> tuple[float, float]:
    """Effective incidence of diffuse sky light and of ground light on a tilted cover, degrees.

    References
    ----------
    Brandemuehl & Beckman 1980: 59.7 − 0.1388 β + 0.001497 β² (sky), 90 − 0.5788 β + 0.002693 β² (ground).
    """
    sky = 59.7 - 0.1388 * tilt_deg + 0.001497 * tilt_deg**2
    ground = 90.0 - 0.5788 * tilt_deg + 0.002693 * tilt_deg**2
    return sky, ground
