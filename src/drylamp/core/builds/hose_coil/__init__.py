"""Hose coils: a pipe in the sun, flat on a bed or in the air, bare or under a cover."""
