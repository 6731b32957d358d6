"""Scrambled Sobol points, the same ones every time.

The sequences that every run needs lie in ``points.npz``, so that no run has to import scipy.stats for them (a third of a
second); ``scripts/write_points`` made them, and a test holds them against scipy.
"""

from __future__ import annotations

import io
from functools import cache
from importlib import resources

import numpy as np

from drylamp.core.arrays import Array

KEPT: tuple[tuple[int, int, int], ...] = ((20, 2, 128), (20, 4, 4096), (41, 12, 1024))
"""Seed, dimensions and count of each sequence that is kept."""


@cache
def _kept() -> dict[str, Array]:
    content = resources.files("drylamp.core.optics").joinpath("points.npz").read_bytes()
    with np.load(io.BytesIO(content)) as found:
        return {name: found[name] for name in found.files}


def made(seed: int, dimensions: int, count: int) -> Array:
    """Points worked out by scipy.stats.qmc, shape (count, dimensions)."""
    from scipy.stats import qmc

    return np.asarray(qmc.Sobol(dimensions, scramble=True, rng=np.random.default_rng(seed)).random(count))


def sobol(seed: int, dimensions: int, count: int) -> Array:
    """The first points of a sequence, shape (count, dimensions), free to be changed.

    References
    ----------
    Sobol 1967, scrambled after Matoušek 1998, as in scipy.stats.qmc.Sobol.
    """
    kept = _kept().get(f"{seed}-{dimensions}")
    return made(seed, dimensions, count) if kept is None or count > len(kept) else kept[:count].copy()
