"""Builds of evacuated tubes, one or many."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import Self

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.builds.common.vacuum_tube.wings import Wings

CLEAR_M = 0.001
"""So near the glass a wing may come."""
OPENS_DEG = (20.0, 140.0)
"""Openings of wings that are tried."""


class Tubed(Build, ABC):
    """A build of evacuated tubes."""

    @property
    @abstractmethod
    def tube_of(self) -> VacuumTube:
        """One of its tubes."""

    @property
    @abstractmethod
    def tubes(self) -> int:
        """How many of them there are."""

    @property
    @abstractmethod
    def wings_of(self) -> Wings | None:
        """Mirrors beside each of them."""

    @abstractmethod
    def with_wings(self, wings: Wings | None) -> Self:
        """A copy with others."""

    @property
    def largest_mirror_m2(self) -> float:
        """One wing."""
        return 0.0 if self.wings_of is None else self.wings_of.chord_m * self.tube_of.lit_m

    def without_mirrors(self) -> Self:
        """The tubes alone."""
        return self.with_wings(None)

    @property
    def flap_angle_deg(self) -> float | None:
        """How far its wings are opened."""
        return None if self.wings_of is None else self.wings_of.open_deg

    @property
    def flap_path(self) -> str:
        """Of that."""
        return "wings.open_deg"

    @property
    def flap_range_deg(self) -> tuple[float, float]:
        """Openings that are tried: those in which the wings clear the tube."""
        low, high = OPENS_DEG
        assert self.wings_of is not None
        while low < high and not self.clear(self.wings_of.model_copy(update={"open_deg": low})):
            low += 5.0
        return low, high

    def clear(self, wings: Wings) -> bool:
        """Whether wings keep off the glass."""
        return wings.nearest_m() >= self.tube_of.outer_m / 2.0 - CLEAR_M

    def without_flap(self) -> Self:
        """The tubes alone."""
        return self.with_wings(None)

    def with_flap_at(self, angle_deg: float) -> Self:
        """Wings opened so far."""
        assert self.wings_of is not None
        return self.with_wings(self.wings_of.model_copy(update={"open_deg": angle_deg}))
