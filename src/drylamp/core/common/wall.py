"""A wall of layers from the inside out."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field

from drylamp.core import tables
from drylamp.core.air.constants import GRAVITY, STEFAN_BOLTZMANN
from drylamp.core.checks import Model, Number
from drylamp.core.forms import asked
from drylamp.core.tables import Layer, LayerChoice

FOAM_LIKE_BELOW_W_MK = 0.08
"""What conducts less keeps heat in as foam, wool or straw does; from memory."""
Flow = Literal["aside", "down"]
"""The way that heat runs."""
GAP_K, GAP_APART_K, PLAIN_EMITTANCE = 323.0, 10.0, 0.9
GAP_NU_ALPHA = 1.80e-5 * 2.55e-5
"""Of air at 50 °C: kinematic viscosity times diffusivity (CoolProp), m⁴/s²."""
THICKNESS = Annotated[Number, Field(ge=0.00001, le=0.5)]


class WallLayer(Model):
    """One layer of a wall."""

    settling: ClassVar[frozenset[str]] = frozenset(("material",))

    material: LayerChoice = Field(title="Of")
    thickness_m: THICKNESS
    r_m2k_w: Annotated[Number, Field(gt=0, le=50)] | None = Field(
        default=None, description="Its R value where that is known better than what it conducts, m²K/W", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    def settled(self, path: str) -> Self:
        """Other stuff comes as thick as it usually is."""
        return self.model_copy(update={"thickness_m": self.row.usual_thickness_m}) if path == "material" else self

    @property
    def row(self) -> Layer:
        """Its material."""
        return tables.layer(self.material)

    @property
    def resistance_m2k_w(self) -> float:
        """As typed, or its thickness by what it conducts; heat runs aside through it, as through an upright wall."""
        return self.resistance_to("aside")

    def resistance_to(self, flow: Flow) -> float:
        """Against heat that runs aside or down."""
        if self.r_m2k_w is not None:
            return self.r_m2k_w
        return (
            1.0 / gap_w_m2k(self.thickness_m, self.row, flow)
            if self.row.is_gap
            else self.thickness_m / self.row.conductivity_w_mk
        )

    @property
    def is_foam_like(self) -> bool:
        """Whether it is there to keep heat in."""
        return self.row.conductivity_w_mk < FOAM_LIKE_BELOW_W_MK


Wall = Annotated[list[WallLayer], Field(min_length=1, max_length=6)]


def wall_thickness_m(wall: list[WallLayer]) -> float:
    """All layers together, m."""
    return sum(layer.thickness_m for layer in wall)


def nested(wall: list[WallLayer]) -> Iterator[tuple[int, WallLayer, float, float]]:
    """Layers from the inside out: place, layer, and how thick those inside it are without it and with it, m."""
    inside = 0.0
    for k, layer in enumerate(wall):
        yield k, layer, inside, inside + layer.thickness_m
        inside += layer.thickness_m


def gap_w_m2k(thickness_m: float, row: Layer, flow: Flow) -> float:
    """Conductance of a gap of air between two faces some 50 °C warm and 10 K apart, W/m²K.

    References
    ----------
    Upright: ElSherbiny, Raithby & Hollands 1982, Nu = 0.0605 Ra^⅓; with heat running down it only conducts. Long-wave between parallel faces,
    4 σ T³ / (1/ε₁ + 1/ε₂ − 1), one of them plain (Duffie & Beckman 3.8).
    """
    rayleigh = GRAVITY * GAP_APART_K / GAP_K * thickness_m**3 / GAP_NU_ALPHA
    nusselt = max(1.0, 0.0605 * rayleigh ** (1.0 / 3.0)) if flow == "aside" else 1.0
    shines = 4.0 * STEFAN_BOLTZMANN * GAP_K**3 / (1.0 / max(row.emittance, 0.01) + 1.0 / PLAIN_EMITTANCE - 1.0)
    return nusselt * row.conductivity_w_mk / thickness_m + shines


def wall_w_m2k(wall: list[WallLayer], flow: Flow = "aside") -> float:
    """Conductance of the layers, films left out, W/m²K."""
    return 1.0 / sum(part.resistance_to(flow) for part in wall)


def wall_j_m2k(wall: list[WallLayer]) -> float:
    """Heat capacity of the layers, J/m²K."""
    return sum(p.thickness_m * p.row.density_kg_m3 * p.row.cp_j_kgk for p in wall)


EDGE_SHAPE, CORNER_SHAPE = 0.54, 0.15
"""Conduction shape factors of a thick wall round a hollow: by metre of inner edge, and by corner as a multiple of its thickness (Langmuir, Adams & Meikle 1913, as in Incropera & DeWitt table 4.1); good while each side is longer than a fifth of the thickness."""


def conducts_w_mk(wall: list[WallLayer]) -> float:
    """What the layers conduct as if they were one stuff: thickness over resistance, W/mK."""
    return wall_thickness_m(wall) / sum(part.resistance_m2k_w for part in wall)


def edges_w_k(wall: list[WallLayer], other: list[WallLayer], length_m: float) -> float:
    """Heat that runs through the edges where two walls meet, beside what goes straight through their faces, W/K; half of it is each one's."""
    return EDGE_SHAPE * length_m * (conducts_w_mk(wall) + conducts_w_mk(other)) / 2.0


def corner_w_k(wall: list[WallLayer], floor: list[WallLayer]) -> float:
    """The same of a corner where two walls meet a floor, W/K."""
    mean = (2.0 * conducts_w_mk(wall) + conducts_w_mk(floor)) / 3.0
    return CORNER_SHAPE * (2.0 * wall_thickness_m(wall) + wall_thickness_m(floor)) / 3.0 * mean
