"""An insulating lid over the cover, shut from an hour in the evening to one in the morning."""

from __future__ import annotations

from typing import ClassVar, Self

from pydantic import Field, model_validator

from drylamp.core.builds.common.wall.spec import THICKNESS
from drylamp.core.checks import Model
from drylamp.core.loads.common.draws import HOUR
from drylamp.core.tables import Layer, LayerChoice, layer


class NightLid(Model):
    """What it is made of, and when it is shut."""

    settling: ClassVar[frozenset[str]] = frozenset(("material",))

    material: LayerChoice = Field(default="xps-foam", title="Of")
    thickness_m: THICKNESS = Field(default=0.03)
    shut_at: HOUR = Field(default="19:30", title="Shut at")
    open_at: HOUR = Field(default="08:30", title="Opened at")

    @model_validator(mode="after")
    def _moves(self) -> Self:
        if self.shut_at == self.open_at:
            raise ValueError(f"shut_at and open_at are both {self.shut_at}; give two hours, or take the lid off")
        return self

    def settled(self, path: str) -> Self:
        """Other stuff comes as thick as it usually is."""
        return self.model_copy(update={"thickness_m": self.row.usual_thickness_m}) if path == "material" else self

    @property
    def row(self) -> Layer:
        """What it is made of."""
        return layer(self.material)

    @property
    def shut_w_m2k(self) -> float:
        """What it conducts when shut, W/m²K."""
        return self.row.conductivity_w_mk / self.thickness_m
