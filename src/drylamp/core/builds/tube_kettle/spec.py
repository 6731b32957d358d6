"""The tube kettle: an evacuated tube on feet, its mouth up, with mirrors that fold out beside it."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.turning.spec import MINUTES, Turned, turned_every
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.builds.common.vacuum_tube.tubed import Tubed
from drylamp.core.builds.common.vacuum_tube.wings import Wings
from drylamp.core.checks import Azimuth, Model, Number, Tilt, require
from drylamp.core.forms import asked
from drylamp.core.tables import Layer, LayerChoice, layer


class Notch(Model):
    """A notch of its feet."""

    at_deg: Tilt = Field(default=45.0, title="Tilt")


class TubeKettle(Tubed, Turned):
    """An evacuated tube that water is poured into."""

    kind: Literal["tube-kettle"] = "tube-kettle"
    facing_deg: Azimuth = faces("The way its lower end looks")
    tilt_deg: Tilt = Field(
        default=45.0, title="Tilt", description="Of what looks at the sun, from level", json_schema_extra=asked("aim")
    )
    notches: list[Notch] = Field(
        default=[Notch(at_deg=20.0), Notch(at_deg=45.0), Notch(at_deg=60.0)], max_length=6, title="Notches of its feet",
        description="Tilts that it can be set to", json_schema_extra=asked("aim"),
    )  # fmt: skip
    lies: Literal["up", "across"] = Field(
        default="up", title="The tube lies",
        json_schema_extra=asked("aim", options={"up": "up the slope, mouth on top", "across": "level, across the slope"}),
    )  # fmt: skip
    tube: VacuumTube = Field(default=VacuumTube(), title="Tube", json_schema_extra=asked("tube"))
    wings: Wings | None = Field(
        default=Wings(), title="Wings", description="Mirrors folded out beside it", json_schema_extra=asked("mirror")
    )
    stopper: Literal["vented", "tight"] = Field(
        default="vented", title="Stopper", json_schema_extra=asked("holder", options={"vented": "laid on, vapour gets out", "tight": "pressed in, tight"}),
    )  # fmt: skip
    holder: LayerChoice = Field(
        default="petg-print",
        title="Holder at the mouth",
        description="What touches the hot neck",
        json_schema_extra=asked("holder"),
    )
    feet_m: Annotated[Number, Field(ge=0.02, le=3)] = Field(
        default=0.30, title="Feet, from side to side", json_schema_extra=asked("feet")
    )
    weighs_kg: Annotated[Number, Field(ge=0.05, le=100)] = Field(
        default=1.4, title="Weighs, empty", description="Tube, wings and feet", json_schema_extra=asked("feet")
    )
    turned_minutes: MINUTES | None = turned_every(None)

    @model_validator(mode="after")
    def _wings_clear_the_tube(self) -> TubeKettle:
        if self.wings is not None:
            near, thick = self.wings.nearest_m(), self.tube.outer_m / 2.0
            require(
                self.clear(self.wings), "wings.below_m",
                f"a wing comes to {1000.0 * near:.0f} mm from the tube's axis, and the tube is {1000.0 * thick:.0f} mm thick there; set the hinge lower or "
                "farther out, open the wings wider, or take a wider pipe",
            )  # fmt: skip
        return self

    def fresh(self, field: str) -> BaseModel:
        """Half-pipes just wide enough for the tube."""
        return Wings() if field == "wings" else super().fresh(field)

    @property
    def holder_row(self) -> Layer:
        """What holds the mouth."""
        return layer(self.holder)

    @property
    def opening_m2(self) -> float:
        """From tip to tip of the wings, or the tube's own width."""
        wide = self.tube.outer_m if self.wings is None else max(self.wings.spread_m, self.tube.outer_m)
        return wide * self.tube.lit_m

    @property
    def across_m(self) -> float:
        """Along its tube."""
        return self.tube.length_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """Its bore and length."""
        return self.tube.bore_m, self.tube.length_m

    @property
    def tube_of(self) -> VacuumTube:
        """Its tube."""
        return self.tube

    @property
    def tubes(self) -> int:
        """One."""
        return 1

    @property
    def wings_of(self) -> Wings | None:
        """Its wings."""
        return self.wings

    def with_wings(self, wings: Wings | None) -> Self:
        """A copy with others."""
        return self.with_(wings=wings)

    @property
    def marks_deg(self) -> list[float]:
        """Notches of its feet."""
        return [notch.at_deg for notch in self.notches]
