"""How a board is cut into cells, and the numbers that tell of it; nothing here computes."""

from __future__ import annotations

import numpy as np

WIDTHS = (0.145, 0.145, 0.14, 0.13, 0.115, 0.10, 0.081666666666666667, 0.06, 1.0 / 18.0, 1.0 / 36.0)
"""Shares of the half thickness, from the core to the face; the two outermost are its outer twelfth."""
CELLS, SHELL_CELLS = len(WIDTHS), 2
SHARES = np.array(WIDTHS)
FIBRE_SATURATION = 0.30
"""Moisture content above which water is free (Wood Handbook, ch. 4)."""
FREED_OVER = 0.06
"""Moisture over which free water takes over above fibre saturation, so that nothing jumps."""
BOARD_WIDTH = 7
"""Numbers of a board: half thickness m, diffusivity at 60 °C and fibre saturation m²/s, activation J/mol, how diffusion grows with moisture, free water's diffusivity by that of bound water, dry matter
kg/m³ of green volume, and wetting isotherm over drying isotherm."""
Numbers = tuple[float, float, float, float, float, float, float]
WOOD_CP, WOOD_CP_PER_K = 1159.4, 3.867
"""Of dry wood at 0 °C, J/kgK, and what a kelvin adds (Wood Handbook, ch. 4: 0.1031 + 0.003867 T in kJ/kgK, T in K)."""
BLOWN_POWER = 0.7
"""Of the film of a stack with the speed of its air; from memory 0.5 laminar to 0.8 turbulent."""
