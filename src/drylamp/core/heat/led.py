"""Films of air that is led along or through something: flat channels, round ducts, wires.

References:
    Flat channel heated on one side: Duffie & Beckman 3.14.6 (turbulent, Kays & Crawford: 0.0158 Re^0.8) and 3.14.7 (laminar with its entrance, Heaton et al. 1964, Pr 0.7).
    Round duct: Incropera & DeWitt 8.57 (laminar with its entrance, Hausen) and 8.60 (turbulent, Dittus & Boelter). Wires across the stream:
    Churchill & Bernstein 1977 at small Reynolds numbers (Incropera 7.54). The larger of laminar and turbulent, so that nothing jumps; still air's film is added by cubes
    (mixed convection, Incropera 9.9).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.air.constants import PRANDTL
from drylamp.core.compiled import inlined

FIRST_LED, FIRST_AFTER_LED = 24, 27
"""Laws from the first number on, and before the second, know how fast their air is led."""
VISCOSITY_KG_MS = 1.92e-5
"""Of air at 45 °C (CoolProp: 1.93e-5)."""
TURBULENT_FROM = 1400.0
"""Reynolds number below which 0.0158 Re^0.8 is under 5.4."""
STILL_M = 0.3
"""Length by which still air on a led surface is reckoned: it hardly matters, being turbulent."""


@inlined
def channel_nusselt(reynolds: float, thin: float) -> float:
    """Of a flat channel with one warm side; ``thin`` is its hydraulic diameter over its length."""
    entrance = reynolds * PRANDTL * thin
    power = np.log(entrance)
    laminar = 5.4 + 0.00190 * np.exp(1.71 * power) / (1.0 + 0.00563 * np.exp(1.17 * power))
    if reynolds < TURBULENT_FROM:
        return float(laminar)
    return float(max(laminar, 0.0158 * reynolds**0.8))


@inlined
def tube_nusselt(reynolds: float, thin: float) -> float:
    """Of a round duct; ``thin`` is its diameter over its length."""
    entrance = reynolds * PRANDTL * thin
    laminar = 3.66 + 0.0668 * entrance / (1.0 + 0.04 * np.cbrt(entrance) ** 2)
    return float(max(laminar, 0.023 * reynolds**0.8 * PRANDTL**0.4))


@inlined
def wires_nusselt(reynolds: float) -> float:
    """Of a wire across the stream, by its own diameter."""
    return float(0.3 + 0.62 * np.sqrt(reynolds) * np.cbrt(PRANDTL) / (1.0 + (0.4 / PRANDTL) ** (2.0 / 3.0)) ** 0.25)


@inlined
def led_nusselt(law: int, reynolds: float, thin: float) -> float:
    """By the number of the law."""
    if law == 24:
        return channel_nusselt(reynolds, thin)
    if law == 25:
        return tube_nusselt(reynolds, thin)
    return wires_nusselt(reynolds)
