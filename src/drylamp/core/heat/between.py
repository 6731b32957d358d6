"""Temperatures of what nobody measured, from those of what somebody did: where heat that passes stands still."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.heat.laws import FIRST_OF_WATER, conductance_w_k
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import BOUNDARIES, SKY

ROUNDS = 12


def between(
    network: Network, guess_c: Array, free: list[int], air_c: float, sky_c: float, wind_m_s: float, pressure_pa: float
) -> Array:
    """The guess with the free nodes at the temperatures at which as much heat leaves them as comes, sun left out, °C, shape (nodes,).

    What is neither air nor sky outside counts as being as warm as the air. Found by going round with each link's conductance as it is at the last temperatures; links of flows and vapour carry nothing here.
    """
    law, ends, params = network.compiled_links
    outside = {SKY: sky_c}
    whole = np.concatenate([guess_c, [outside.get(name, air_c) for name in BOUNDARIES]])
    for _ in range(ROUNDS):
        pull, push = np.zeros(len(whole)), np.zeros(len(whole))
        for k in range(len(law)):
            if law[k] >= FIRST_OF_WATER:
                continue
            i, j = int(ends[0, k]), int(ends[1, k])
            p, q, r, s = params[k, :4]
            g = conductance_w_k(int(law[k]), p, q, r, s, whole[i], whole[j], wind_m_s, pressure_pa)
            for one, other in ((i, j), (j, i)):
                pull[one] += g
                push[one] += g * whole[other]
        for k in free:
            if pull[k] > 0.0:
                whole[k] = push[k] / pull[k]
    return np.asarray(whole[: len(guess_c)])
