"""Hot water on the skin: how long it takes to burn."""

from __future__ import annotations

import numpy as np

SCALD_C = 49.0
"""From here on water burns (Moritz & Henriques 1947, from memory)."""
SCALD_S = ((44.0, 21600.0), (49.0, 300.0), (54.0, 30.0), (60.0, 5.0), (65.0, 2.0), (70.0, 1.0))
"""Seconds to a serious burn by temperature: Moritz & Henriques 1947, from memory."""


def scald_s(celsius_: float) -> float:
    """Seconds to a serious burn, between the published points by the logarithm."""
    at, seconds = zip(*SCALD_S, strict=True)
    return float(np.exp(np.interp(celsius_, at, np.log(seconds))))
