"""An insulating lid over the cover, shut from an hour in the evening to one in the morning."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, model_validator

from drylamp.core.checks import Hour, Number
from drylamp.core.common.wall import THICKNESS, WallLayer
from drylamp.core.tables import FinishChoice, LayerChoice, absorber

DULL = 0.9
"""Emittance of foam, felt, wood as they come; common practice, no source."""


class NightLid(WallLayer):
    """What it is made of, and when it is shut."""

    material: LayerChoice = Field(default="xps-foam", title="Of")
    thickness_m: THICKNESS = Field(default=0.03)
    gap_m: Annotated[Number, Field(ge=0, le=0.3)] = Field(
        default=0.0, title="Air under it", description="Between cover and lid; 0: it lies on the cover"
    )
    inner: FinishChoice | None = Field(
        default=None, title="Inner face", description="Looks down over that air; empty: dull, as it comes"
    )
    shut_at: Hour = Field(default="19:30", title="Shut at")
    open_at: Hour = Field(default="08:30", title="Opened at")

    @model_validator(mode="after")
    def _moves(self) -> Self:
        if self.shut_at == self.open_at:
            raise ValueError(f"shut_at and open_at are both {self.shut_at}; give two hours, or take the lid off")
        return self

    @property
    def inner_emittance(self) -> float:
        """Of the face over the cover."""
        return DULL if self.inner is None else absorber(self.inner).emittance
