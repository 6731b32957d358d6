"""Constants of air and water that need no working out."""

CP_AIR = 1007.0
PRANDTL = 0.71
GRAVITY = 9.80665
CP_WATER_J_KGK = 4186.0
"""Mean of 0–100 °C; within 0.9 % all over."""
KWH_J = 3.6e6
STEFAN_BOLTZMANN = 5.670374419e-8
OPENING_LOSS = 2.8
"""ζ of a sharp opening: 1/Cd² with Cd = 0.6 (ASHRAE Handbook Fundamentals)."""
