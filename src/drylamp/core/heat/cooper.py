"""Cooper's film of boiling water: plain numbers, so that specs that ask for it import nothing compiled.

References:
    Cooper 1984, h = 55 p_r^0.12 (−log p_r)^−0.55 M^−½ q^0.67 at a roughness of 1 µm.
"""

from __future__ import annotations

import math

CRITICAL_PA, MOLAR_G, STANDARD_PRESSURE_PA = 22.064e6, 18.015, 101325.0


def cooper_w_m2k(pressure_pa: float) -> float:
    """Cooper's film of boiling water at 1 W/m², to be multiplied by the flux to the power of 0.67."""
    reduced = pressure_pa / CRITICAL_PA
    return float(55.0 * reduced**0.12 * (-math.log10(reduced)) ** -0.55 / math.sqrt(MOLAR_G))
