"""The hose coil: turns of pipe on a frame, what they lie on, what lies over them."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.coil.rows import row_readers
from drylamp.core.builds.common.cover.covered import Covered
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.mirror.flapped import Flapped
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.builds.common.turning.spec import Turned
from drylamp.core.checks import Azimuth, Count, Fraction, Model, Number, Tilt, YesNo, require
from drylamp.core.common.coil import Coil
from drylamp.core.common.wall import Wall, WallLayer
from drylamp.core.forms import asked
from drylamp.core.loads.load import Reader
from drylamp.core.tables import Absorber, FinishChoice, absorber
from drylamp.core.text import counted

MOST_COILS, LONGEST_M = 6, 12.0
SIDE = Annotated[Number, Field(ge=0.1, le=LONGEST_M)]


class Mesh(Model):
    """A dark wire mesh under the hose: it takes up light between the turns and hands it on where they lie on it."""

    finish: FinishChoice = Field(default="flat-black-paint", title="Finish")
    covers_share: Annotated[Number, Field(gt=0, lt=1)] = Field(
        default=0.4, title="Wire", description="Share of its area; the rest is holes"
    )
    gap_m: Annotated[Number, Field(ge=0.003, le=0.3)] = Field(default=0.03, title="Over the bed")
    contact_w_m2k: Annotated[Number, Field(ge=0, le=300)] = Field(
        default=12.0, title="Contact with the hose, W/m²K", description="Over the hose's width"
    )

    @property
    def row(self) -> Absorber:
        """Its finish."""
        return absorber(self.finish)


class HoseCoil(Covered, Turned, Flapped):
    """A flat coil of pipe in the sun."""

    kind: Literal["hose-coil"] = "hose-coil"
    facing_deg: Azimuth = faces("The way it looks")
    tilt_deg: Tilt = Field(default=25.0, title="Tilt", description="From level", json_schema_extra=asked("aim"))
    width_m: SIDE = Field(default=1.2, title="Frame, width", json_schema_extra=asked("frame"))
    length_m: SIDE = Field(
        default=1.2, title="Frame, length", description="Up the slope", json_schema_extra=asked("frame")
    )
    coil: Coil = Field(
        default=Coil(material="black-pe", pipe_m=40.0, bore_mm=13.0, outer_mm=16.0),
        title="Each coil",
        json_schema_extra=asked("hose"),
    )
    coils: Annotated[Count, Field(ge=1, le=MOST_COILS)] = Field(
        default=1, title="Coils", json_schema_extra=asked("hose")
    )
    joined: Literal["series", "parallel"] = Field(
        default="series", title="Joined",
        json_schema_extra=asked("hose", options={"series": "one after the other", "parallel": "side by side"}),
    )  # fmt: skip
    pitch_mm: Annotated[Number, Field(ge=4, le=400)] = Field(
        default=20.0,
        title="From turn to turn",
        description="Middle to middle; as wide as the pipe: close-wound",
        json_schema_extra=asked("hose"),
    )
    layers: Annotated[Count, Field(ge=1, le=3)] = Field(
        default=1, title="Layers", description="Wound over one another; the lower ones lie in the shade of the top one",
        json_schema_extra=asked("hose"),
    )  # fmt: skip
    finish: FinishChoice | None = Field(
        default=None, title="Painted", description="Empty: as it comes", json_schema_extra=asked("hose")
    )
    clamped_share: Fraction = Field(
        default=0.0, title="Under clamps and slats", description="Share of its length", json_schema_extra=asked("hose")
    )
    clamps: FinishChoice = Field(
        default="bare-wood", title="Clamps", description="Their finish", json_schema_extra=asked("hose")
    )
    bed: FinishChoice | None = Field(
        default="black-card",
        title="Bed",
        description="What it lies on; empty: a cross of slats, free air below",
        json_schema_extra=asked("bed"),
    )
    under: Wall = Field(
        default=[WallLayer(material="xps-foam", thickness_m=0.03)], title="Under the bed", description="From the bed down",
        json_schema_extra=asked("bed"),
    )  # fmt: skip
    on_ground: YesNo = Field(
        default=False, title="On the ground", description="Terrace, flat roof or soil below, not free air", json_schema_extra=asked("bed")
    )  # fmt: skip
    contact_w_m2k: Annotated[Number, Field(ge=0, le=300)] = Field(
        default=12.0, title="Contact with the bed, W/m²K", description="Over its width; lying loose about 12, pressed or glued 50 and more",
        json_schema_extra=asked("bed"),
    )  # fmt: skip
    leak_m3_h: Annotated[Number, Field(ge=0, le=1000)] | None = Field(
        default=None, description="Air that is changed under its cover, where that is known, m³/h", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    mesh: Mesh | None = Field(
        default=None, title="Mesh over the bed", description="The hose lies on it", json_schema_extra=asked("mesh")
    )
    cover: GlazedCover | None = Field(default=None, title="Cover", json_schema_extra=asked("cover"))
    cover_gap_m: Annotated[Number, Field(ge=0.0, le=0.3)] = Field(
        default=0.03, title="Over the hose", description="0: it lies on it", json_schema_extra=asked("cover")
    )
    mirror: FlapMirror | None = Field(
        default=None, title="Reflector", description="Flat, hinged on the frame's upper edge, as wide as the frame", json_schema_extra=asked("mirror")
    )  # fmt: skip
    sheet: FinishChoice | None = Field(
        default=None,
        title="Dark sheet on the hose",
        description="Opaque, touching it; empty: none",
        json_schema_extra=asked("sheet"),
    )

    @model_validator(mode="after")
    def _turns_have_room(self) -> HoseCoil:
        require(
            self.pitch_mm >= self.coil.outer_mm, "pitch_mm",
            f"{self.pitch_mm:g} mm from turn to turn was given for a pipe {self.coil.outer_mm:g} mm thick; allowed is {self.coil.outer_mm:g} or more",
        )  # fmt: skip
        return self

    @model_validator(mode="after")
    def _mesh_has_a_bed(self) -> HoseCoil:
        require(
            self.mesh is None or self.bed is not None, "mesh",
            "a mesh was given and no bed; it lies over the bed of a box, so give the bed a finish or take the mesh out",
        )  # fmt: skip
        return self

    def fresh(self, field: str) -> BaseModel:
        """A cover and a mesh as they usually are; under the bed one more layer of foam."""
        if field == "cover":
            return GlazedCover(material="pe-film", thickness_m=0.0002)
        usual: dict[str, type[BaseModel]] = {"mesh": Mesh, "mirror": FlapMirror}
        return usual[field]() if field in usual else super().fresh(field)

    def readers(self) -> dict[str, list[Reader]]:
        """Coils side by side share what runs, and not always alike."""
        return row_readers(self.tubes)

    @property
    def row(self) -> Absorber:
        """What the sun meets on the hose, clamps and all."""
        pipe, clamps = self.coil.row, absorber(self.clamps)
        bare = absorber(self.finish) if self.finish is not None else None
        takes, gives = (pipe.absorptance, pipe.emittance) if bare is None else (bare.absorptance, bare.emittance)
        share = self.clamped_share
        mixed = {
            "name": "hose",
            "source": "mean of hose and clamps",
            "absorptance": (1 - share) * takes + share * clamps.absorptance,
            "emittance": (1 - share) * gives + share * clamps.emittance,
        }
        return pipe.skin.model_copy(update=mixed)

    @property
    def diameter_m(self) -> float:
        """Outside of the pipe."""
        return self.coil.outer_mm / 1000.0

    @property
    def pitch_m(self) -> float:
        """From turn to turn."""
        return self.pitch_mm / 1000.0

    @property
    def hose_m(self) -> float:
        """All of the pipe."""
        return self.coil.pipe_m * self.coils

    @property
    def tubes(self) -> int:
        """Pipes side by side."""
        return self.coils if self.joined == "parallel" else 1

    @property
    def tube_m(self) -> float:
        """Length of each of them."""
        return self.hose_m / self.tubes

    @property
    def plan_m2(self) -> float:
        """Area that its turns lie on."""
        return self.hose_m * self.pitch_m / self.layers

    @property
    def stack_m(self) -> float:
        """How high its layers stand."""
        return self.diameter_m * self.layers

    @property
    def glazed_m(self) -> tuple[float, float] | None:
        """Its frame where it is covered."""
        return None if self.cover is None else (self.width_m, self.length_m)

    def stretched(self, wide: float, long: float) -> HoseCoil | None:
        """A wider and longer frame with as much more hose on it."""
        coil = self.coil.model_copy(update={"pipe_m": round(self.coil.pipe_m * wide * long, 2)})
        return self.resized(
            width_m=round(self.width_m * wide, 3),
            length_m=round(self.length_m * long, 3),
            coil=coil.model_dump(),
            mirror=None if self.mirror is None else self.mirror.longer(long).model_dump(),
        )

    def with_hose(self, long_m: float) -> HoseCoil | None:
        """A frame as much larger as the hose is longer."""
        by = math.sqrt(long_m / self.hose_m)
        return self.stretched(by, by)

    def larger(self) -> HoseCoil | None:
        """One more coil, in a wider frame: no higher, so that the same pump fills it."""
        wider = self.width_m * (self.coils + 1) / self.coils
        if self.coils >= MOST_COILS or wider > LONGEST_M:
            return None
        return self.with_(coils=self.coils + 1, width_m=wider)

    def fewest(self) -> HoseCoil:
        """One coil in its part of the frame."""
        return self.with_(coils=1, width_m=self.width_m / self.coils)

    @property
    def amount(self) -> str:
        """Its coils."""
        return counted(self.coils, "coil")

    @property
    def frame_m2(self) -> float:
        """Area of the frame."""
        return self.width_m * self.length_m

    @property
    def turns(self) -> int:
        """Turns of flat spirals that fill its area, all layers."""
        return self.layers * max(1, round(math.sqrt(self.plan_m2 / math.pi) / self.pitch_m))

    @property
    def opening_m2(self) -> float:
        """What its turns cover of the frame."""
        return self.plan_m2

    @property
    def across_m(self) -> float:
        """Its frame."""
        return self.width_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """The frame."""
        return self.width_m, self.length_m

    @property
    def largest_mirror_m2(self) -> float:
        """Its reflector."""
        return 0.0 if self.mirror is None else self.width_m * self.mirror.length_m

    @property
    def touches(self) -> bool:
        """Whether the cover lies on the hose."""
        return self.cover is not None and self.cover_gap_m < 0.003
