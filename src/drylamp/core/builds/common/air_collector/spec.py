"""A collector that warms air: glass, absorber in one of its forms, the channel that air is led through, its back."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.common.cover.spec import GlazedCover, Skin
from drylamp.core.checks import Count, Fraction, Model, Number, YesNo, require
from drylamp.core.common.wall import Wall, WallLayer
from drylamp.core.forms import asked
from drylamp.core.tables import Absorber, FinishChoice, absorber

Form = Literal["plate", "mesh", "screens", "ducts"]
WITH_MESH, WITH_PLATE = {"absorber": ["mesh", "screens"]}, {"absorber": ["plate"]}
MOST_DUCTS = 40


class Panes(Model):
    """Salvaged panes that size a collector, butted end to end up the slope, or side by side."""

    count: Annotated[Count, Field(ge=1, le=12)] = Field(default=1, title="Panes")
    wide_m: Annotated[Number, Field(ge=0.1, le=3)] = Field(default=0.6, title="Each wide")
    long_m: Annotated[Number, Field(ge=0.1, le=3)] = Field(default=1.1, title="Each long")
    beside: YesNo = Field(default=False, title="side by side", description="Else one above the other")
    rests_m: Annotated[Number, Field(ge=0, le=0.1)] = Field(
        default=0.012, title="Rests on", description="What frame and bars cover of each edge"
    )

    @property
    def clear_m(self) -> tuple[float, float]:
        """Width and length of what stays clear."""
        wide, long = max(self.wide_m - 2.0 * self.rests_m, 0.1), max(self.long_m - 2.0 * self.rests_m, 0.2)
        return (wide * self.count, long) if self.beside else (wide, long * self.count)


class AirCollector(Model):
    """A flat box under glass that air is drawn up through."""

    settling: ClassVar[frozenset[str]] = frozenset(("absorber",))

    width_m: Annotated[Number, Field(ge=0.1, le=6)] = Field(default=0.6, title="Wide")
    length_m: Annotated[Number, Field(ge=0.2, le=12)] = Field(
        default=1.2, title="Long", description="The way the air goes"
    )
    panes: Panes | None = Field(
        default=None, title="Made to fit panes", description="Width and length follow from them"
    )
    cover: GlazedCover | None = Field(default=GlazedCover(), title="Glass")
    dirt_share: Fraction = Field(default=0.03, title="Dust on it", description="Share of the light that it keeps back")
    gap_m: Annotated[Number, Field(ge=0.005, le=0.3)] = Field(default=0.03, title="Glass to absorber")
    absorber: Form = Field(
        default="plate", title="Absorber",
        json_schema_extra=asked(options={"plate": "black plate", "mesh": "black fly screen, air through it", "screens": "sheet-metal screens in layers, air through them", "ducts": "blackened ducts, air in them"}),
    )  # fmt: skip
    finish: FinishChoice = Field(default="flat-black-paint", title="Painted")
    sheet: WallLayer = Field(
        default=WallLayer(material="sheet-aluminium", thickness_m=0.0007),
        title="Of",
        description="What the absorber is made of",
    )
    air: Literal["over", "under", "both"] = Field(
        default="under", title="Air goes", json_schema_extra=asked(options={"over": "over the plate, under the glass", "under": "under the plate", "both": "on both sides of it"}, only_with=WITH_PLATE)
    )  # fmt: skip
    layers: Annotated[Count, Field(ge=1, le=8)] = Field(
        default=3, title="Layers", json_schema_extra=asked(only_with=WITH_MESH)
    )
    open_share: Annotated[Number, Field(ge=0.05, le=0.95)] = Field(
        default=0.55, title="Open share of a layer", json_schema_extra=asked(only_with=WITH_MESH)
    )
    wire_mm: Annotated[Number, Field(ge=0.05, le=10)] = Field(
        default=0.28, title="Strands", description="How thick", json_schema_extra=asked(only_with=WITH_MESH)
    )
    ducts: Annotated[Count, Field(ge=1, le=MOST_DUCTS)] = Field(
        default=6, title="Ducts", json_schema_extra=asked(only_with={"absorber": ["ducts"]})
    )
    duct_mm: Annotated[Number, Field(ge=15, le=400)] = Field(
        default=75.0, title="Each wide", json_schema_extra=asked(only_with={"absorber": ["ducts"]})
    )
    turns: Annotated[Count, Field(ge=0, le=20)] = Field(
        default=0, title="Turns", description="Half turns that the air makes on its way"
    )
    depth_m: Annotated[Number, Field(ge=0.008, le=0.5)] = Field(
        default=0.05, title="Depth of the channel", description="Under the plate, or behind the mesh"
    )
    back: Wall = Field(default=[WallLayer(material="plywood", thickness_m=0.009), WallLayer(material="eps-foam", thickness_m=0.03)], title="Back", description="From the air out")  # fmt: skip

    def settled(self, path: str) -> Self:
        """Fly screen and expanded metal are as they are sold; plates are sheet."""
        usual: dict[str, dict[str, object]] = {
            "mesh": {"layers": 3, "open_share": 0.55, "wire_mm": 0.28},
            "screens": {"layers": 2, "open_share": 0.45, "wire_mm": 1.5},
        }
        return self.model_copy(update=usual.get(self.absorber, {})) if path == "absorber" else self

    def fresh(self, field: str) -> BaseModel:
        """A sash of an old window; glass as it usually is."""
        return Panes() if field == "panes" else super().fresh(field)

    @model_validator(mode="before")
    @classmethod
    def _as_wide_as_its_panes(cls, given: object) -> object:
        """Panes say how wide and long it is, whatever stood there."""
        if not isinstance(given, dict) or not given.get("panes"):
            return given
        panes = Panes.model_validate(given["panes"])
        wide, long = panes.clear_m
        return {**given, "width_m": round(wide, 4), "length_m": round(long, 4)}

    @model_validator(mode="after")
    def _has_room(self) -> AirCollector:
        require(
            self.cover is not None or self.absorber != "plate" or self.air == "under", "collector.cover",
            f"no glass was given and air {self.air} the plate; it would blow away, so put glass on or lead the air under the plate",
        )  # fmt: skip
        wide = self.ducts * self.duct_mm / 1000.0
        if self.absorber == "ducts":
            require(
                wide <= self.width_m * 1.001, "collector.ducts",
                f"{self.ducts} ducts of {self.duct_mm:g} mm are {wide:.2f} m wide beside each other in {self.width_m:g} m; give fewer or narrower ones",
            )  # fmt: skip
        return self

    def stretched(self, wide: float, long: float) -> AirCollector:
        """Wider and longer, its glass cut for it; as many more ducts as there is room for. Unchecked."""
        change = {"width_m": round(self.width_m * wide, 4), "length_m": round(self.length_m * long, 4), "panes": None}
        ducts = max(int(self.ducts * wide), 1)
        return self.model_copy(update={**change, "ducts": ducts})

    @property
    def area_m2(self) -> float:
        """Under glass."""
        return self.width_m * self.length_m

    @property
    def skins(self) -> list[Skin]:
        """Of its glass, from the innermost out."""
        return self.cover.skins if self.cover else []

    @property
    def row(self) -> Absorber:
        """What the sun meets."""
        return absorber(self.finish)

    @property
    def is_porous(self) -> bool:
        """Whether air goes through the absorber."""
        return self.absorber in ("mesh", "screens")

    @property
    def channel_m2(self) -> float:
        """Free area of the way that air is led through."""
        if self.absorber == "ducts":
            return self.ducts * math.pi * (self.duct_mm / 1000.0) ** 2 / 4.0
        return self.width_m * self.deep_m

    @property
    def deep_m(self) -> float:
        """Depth of that way."""
        if self.absorber != "plate":
            return self.depth_m + self.gap_m
        return {"over": self.gap_m, "under": self.depth_m, "both": self.gap_m + self.depth_m}[self.air]

    @property
    def hydraulic_m(self) -> float:
        """Hydraulic diameter of one channel: twice its depth; of a duct, its bore."""
        if self.absorber == "ducts":
            return self.duct_mm / 1000.0
        if self.absorber == "plate" and self.air == "both":
            return self.gap_m + self.depth_m  # each side has its own, the mean of them
        return 2.0 * self.deep_m

    @property
    def metal_j_k(self) -> float:
        """Heat capacity of the absorber."""
        layer = self.sheet.row
        each = self.sheet.thickness_m * layer.density_kg_m3 * layer.cp_j_kgk
        if self.absorber == "ducts":
            return each * self.ducts * math.pi * self.duct_mm / 1000.0 * self.length_m
        if self.is_porous:
            return each * self.area_m2 * self.layers * (1.0 - self.open_share)
        return each * self.area_m2
