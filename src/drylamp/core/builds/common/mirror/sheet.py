"""Builds that are a mirror themselves: a sheet bent or folded round what it heats."""

from __future__ import annotations

from abc import abstractmethod

from pydantic import Field

from drylamp.core import tables
from drylamp.core.builds.build import Build
from drylamp.core.forms import asked
from drylamp.core.tables import Mirror, MirrorChoice


class MirrorSheet(Build):
    """A build whose own sheet is the mirror."""

    mirror: MirrorChoice = Field(default="kitchen-foil", json_schema_extra=asked("mirror"))

    @property
    def mirror_row(self) -> Mirror:
        """Its mirror surface."""
        return tables.mirror(self.mirror)

    @property
    @abstractmethod
    def has_mirror(self) -> bool:
        """Whether the sheet stands up and mirrors, or lies flat."""

    @property
    def largest_mirror_m2(self) -> float:
        """Its mouth stands for the sheet that the wind gets hold of."""
        return self.opening_m2 if self.has_mirror else 0.0
