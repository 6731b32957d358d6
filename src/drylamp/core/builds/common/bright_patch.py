"""The map of the bright patch on a tray."""

from __future__ import annotations

from drylamp.core.checks import Model
from drylamp.core.text import Sentence


class SpotLight(Model):
    """Something that lies on the tray, and the beam on it as a multiple of the beam outside.

    ``path`` leads to the record of the load whose ``across`` and ``up`` it lies by; empty where it cannot be moved.
    """

    node: str
    title: str
    across: float
    up: float
    wide: float
    long: float
    suns: float
    path: str = ""


class BrightPatch(Model):
    """Beam on the tray, cell by cell, as a multiple of the beam outside; rows run up the slope, columns to the right.

    Attributes:
        width_m, length_m: of the tray
        standing_m: across what stands on its middle, pot, bowl or bag
        centre_across, centre_up: middle of the light as shares of the tray; None in the dark
        shares: of the beam that comes through the cover, where it lands first
    """

    suns: list[list[float]]
    peak_suns: float
    mean_suns: float
    width_m: float
    length_m: float
    standing_m: float | None
    centre_across: float | None
    centre_up: float | None
    shares: dict[str, float]
    spots: list[SpotLight]
    words: Sentence
