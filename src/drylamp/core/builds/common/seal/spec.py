"""Builds whose cover leaks a little all round."""

from __future__ import annotations

from abc import abstractmethod
from typing import Annotated

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.checks import Number
from drylamp.core.forms import asked

GAP = "Mean gap round the cover"
GAP_MM = Annotated[Number, Field(ge=0, le=20)]


class Sealed(Build):
    """A build with a seal round its cover."""

    seal_gap_mm: GAP_MM = Field(
        default=0.5,
        title=GAP,
        description="All round; a good felt strip leaves less than half of this",
        json_schema_extra=asked("seal"),
    )

    leak_m3_h: Annotated[Number, Field(ge=0, le=1000)] | None = Field(
        default=None, description="Air that is changed, m³/h, whatever the gap would let through", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    @property
    @abstractmethod
    def rim_m(self) -> float:
        """Length of the seal."""

    @property
    def leak_m2(self) -> float:
        """Open area of the seal."""
        return self.seal_gap_mm / 1000 * self.rim_m
