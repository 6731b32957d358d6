"""Constants of air that need no working out."""

CP_AIR = 1007.0
PRANDTL = 0.71
GRAVITY = 9.80665
