"""When several readings contradict each other: which one is likelier wrong, and by how much.

Each *contradiction* is a balance that ought to be nothing, linear in how far each instrument is off. All being as good as
their doubts say is the one story; each other story lets one instrument be off by any amount. What a story leaves unexplained
is its chi-square.

References:
    Generalised least squares (Aitken 1935); quantiles of chi-square as tabulated.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import chdtri

from drylamp.core.arrays import Array

TOLD_APART = 3.0
"""Two stories whose chi-square differs by less than this are not told apart (about one in five)."""


@dataclass(frozen=True)
class Suspect:
    """An instrument: its name in words, its doubt, and what each contradiction would be if it read one too much."""

    name: str
    doubt: float
    pulls: tuple[float, ...]


@dataclass(frozen=True)
class Culprit:
    """One story: who is off, by how much (with its doubt), and how much it leaves unexplained."""

    suspect: Suspect
    off_by: float
    doubt: float
    unexplained: float


def _left(off: Array, covariance: Array) -> float:
    return float(off @ np.linalg.solve(covariance, off))


def culprits(contradictions: Array, noise: Array, suspects: list[Suspect]) -> list[Culprit]:
    """Return the stories that explain contradictions, likeliest first; empty where all agree within their doubts.

    Parameters
    ----------
    contradictions
        what ought to be nothing, shape (n,)
    noise
        doubt of each by itself, every instrument being right, shape (n,)
    """
    pulls = np.array([suspect.pulls for suspect in suspects])
    spread = np.array([suspect.doubt / 2.0 for suspect in suspects])
    honest = np.diag((noise / 2.0) ** 2) + (pulls.T * spread**2) @ pulls
    if _left(contradictions, honest) <= float(chdtri(len(contradictions), 0.05)):
        return []
    stories = []
    for suspect, pull, own in zip(suspects, pulls, spread, strict=True):
        others = honest - own**2 * np.outer(pull, pull)
        weighed = np.linalg.solve(others, pull)
        off_by = float(weighed @ contradictions) / float(weighed @ pull)
        rest = _left(contradictions - off_by * pull, others)
        stories.append(Culprit(suspect, off_by, 2.0 / float(np.sqrt(weighed @ pull)), rest))
    stories.sort(key=lambda story: story.unexplained)
    return [story for story in stories if story.unexplained < stories[0].unexplained + TOLD_APART]
