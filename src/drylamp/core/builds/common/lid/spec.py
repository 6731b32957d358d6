"""An insulating lid over the cover, shut from an hour in the evening to one in the morning."""

from __future__ import annotations

from typing import Self

from pydantic import Field, model_validator

from drylamp.core.builds.common.wall.spec import THICKNESS, WallLayer
from drylamp.core.checks import Hour
from drylamp.core.tables import LayerChoice


class NightLid(WallLayer):
    """What it is made of, and when it is shut."""

    material: LayerChoice = Field(default="xps-foam", title="Of")
    thickness_m: THICKNESS = Field(default=0.03)
    shut_at: Hour = Field(default="19:30", title="Shut at")
    open_at: Hour = Field(default="08:30", title="Opened at")

    @model_validator(mode="after")
    def _moves(self) -> Self:
        if self.shut_at == self.open_at:
            raise ValueError(f"shut_at and open_at are both {self.shut_at}; give two hours, or take the lid off")
        return self
