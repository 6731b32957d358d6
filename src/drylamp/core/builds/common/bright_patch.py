"""The map of the bright patch on a tray."""

from __future__ import annotations

from datetime import datetime

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
        floor: what the map is of, in a word
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
    floor: str
    words: Sentence


class PatchHour(Model):
    """The map of an hour, coarser, and how much of the light there came by way of a mirror.

    Attributes:
        suns: as in the larger map
        mean_suns: over the whole of it
        mirror_share: of the mean, what it would lack without any mirror; below 0 where the mirror takes more than it brings
    """

    at: datetime
    suns: list[list[float]]
    peak_suns: float
    mean_suns: float
    mirror_share: float


class PatchDay(Model):
    """Where the light lies hour by hour."""

    hours: list[PatchHour]
    floor: str
    words: Sentence
