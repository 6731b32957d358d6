"""Stress in a board as it dries, from the moisture of its cells: what each would shrink by, what all of them do together, what has crept.

A cell below fibre saturation would shrink by S (u_f − u)/u_f. Held to its neighbours it is stretched or pressed by the difference, less what it has crept:

    σ_i = E_i (ε − (−S (u_f − u_i)/u_f) − c_i),     Σ w_i σ_i = 0,     dc_i = (m |du_i| + dt/τ) σ_i / E_i

The shell dries first and is pulled; pulled wood that dries creeps, so that it ends longer than its core, and is pressed once the core shrinks too: the stress turns round. Damp nights swell the shell and let it creep
back. At even moisture that nothing has crept in there is none.

References:
    Mechano-sorptive creep: Ranta-Maunus 1975, Salin 1992 in form. Stiffness and strength across the grain by specific gravity G: E 2.4 G² GPa at 12 % (red oak 0.7, white pine 0.3), tension 17 G² MPa (Wood Handbook, ch. 5: red oak
    5.5, white pine 2.1), both less when wet and warm; creep m = 30 by moisture, τ = 20 days: from memory, orders of size.
"""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled
from drylamp.core.heat.cells import FIBRE_SATURATION, SHARES, SHELL_CELLS

STIFF_MPA, STRONG_MPA = 2400.0, 17.0
"""Of wood of specific gravity 1 at 12 % and 20 °C, across the grain; they go with its square."""
WET_STIFF, WET_STRONG, AT_MC = 0.55, 0.75, 0.12
"""Left of both at fibre saturation."""
WARM_STIFF, WARM_STRONG = 0.006, 0.005
"""Lost of both by the kelvin above 20 °C."""
CREEP, SLOW_S = 30.0, 20.0 * 86400.0


@compiled
def _marched(cells: Array, celsius: Array, shrinks: float, gravity: float, dt_s: float, out: Array) -> None:
    """Fill shell's and core's stress, MPa, and the strength of each, shape (n, 4)."""
    count = cells.shape[1]
    crept = np.zeros(count)
    for n in range(cells.shape[0]):
        top = stiff = 0.0
        warm = max(celsius[n] - 20.0, 0.0)
        for i in range(count):
            bound = min(cells[n, i], FIBRE_SATURATION)
            wetter = min(max((bound - AT_MC) / (FIBRE_SATURATION - AT_MC), -0.7), 1.0)
            made = (
                STIFF_MPA * gravity * gravity * (1.0 - (1.0 - WET_STIFF) * wetter) * max(1.0 - WARM_STIFF * warm, 0.3)
            )
            stiff += SHARES[i] * made
            top += SHARES[i] * made * (crept[i] - shrinks * (1.0 - bound / FIBRE_SATURATION))
        whole = top / stiff
        shell = core = shell_strong = core_strong = shell_share = 0.0
        for i in range(count):
            bound = min(cells[n, i], FIBRE_SATURATION)
            wetter = min(max((bound - AT_MC) / (FIBRE_SATURATION - AT_MC), -0.7), 1.0)
            made = (
                STIFF_MPA * gravity * gravity * (1.0 - (1.0 - WET_STIFF) * wetter) * max(1.0 - WARM_STIFF * warm, 0.3)
            )
            strong = (
                STRONG_MPA
                * gravity
                * gravity
                * (1.0 - (1.0 - WET_STRONG) * wetter)
                * max(1.0 - WARM_STRONG * warm, 0.3)
            )
            pulled = made * (whole - crept[i] + shrinks * (1.0 - bound / FIBRE_SATURATION))
            if i >= count - SHELL_CELLS:
                shell += SHARES[i] * pulled
                shell_strong += SHARES[i] * strong
                shell_share += SHARES[i]
            if i == 0:
                core, core_strong = pulled, strong
            if n + 1 < cells.shape[0]:
                moved = abs(min(cells[n + 1, i], FIBRE_SATURATION) - bound)
                crept[i] += (1.0 - np.exp(-(CREEP * moved + dt_s / SLOW_S))) * pulled / made
        out[n, 0], out[n, 1], out[n, 2], out[n, 3] = shell / shell_share, core, shell_strong / shell_share, core_strong


def stress_mpa(
    cells: Array, celsius: Array, shrinks: float, gravity: float, dt_s: float
) -> tuple[Array, Array, Array, Array]:
    """Stress across the grain in shell and core (pulled above nothing), and what each bears.

    Parameters
    ----------
    cells : array, shape (n, CELLS)
        Moisture from core to face at even times.
    celsius : array, shape (n,)
        Of the board.
    shrinks : float
        Tangential or radial, from green to dry.
    gravity : float
        Basic specific gravity.
    dt_s : float
        Between two of them.

    Returns
    -------
    Shell's stress, core's stress, shell's and core's tensile strength [MPa], each shape (n,).
    """
    out = np.empty((len(cells), 4))
    _marched(np.ascontiguousarray(cells), np.ascontiguousarray(celsius), shrinks, gravity, dt_s, out)
    return out[:, 0], out[:, 1], out[:, 2], out[:, 3]
