"""Boards alike in a charge: one wood, one thickness, one moisture as they go in."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self, get_args

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Count, Day, Fraction, Model, Number, Positive, require
from drylamp.core.forms import asked
from drylamp.core.heat.cells import CELLS, SHARES, Numbers
from drylamp.core.loads.common.wood import ACTIVATION_J_MOL, FREE, GROWS, INCH_M, WoodName, safe_loss_per_day
from drylamp.core.tables import Species, species
from drylamp.core.text import amount
from drylamp.core.units import BOARD_FOOT_M3

MOST_GROUPS = 8
AIR_DRIED_MC = 0.20
"""Boards that stood outside for their time; common practice, no source."""
MEASURED_FIRST_MC = 0.30
"""What stands in the field until somebody types what was measured: fibre saturation."""
Start = Literal["green-heart", "green-sap", "air-dried", "measured"]
STARTS = {
    "green-heart": "green, heartwood",
    "green-sap": "green, sapwood",
    "air-dried": "air-dried",
    "measured": "as measured",
}
GreenStart = Literal["green-heart", "green-sap"]
GREEN = {start: STARTS[start] for start in get_args(GreenStart)}
MC = Annotated[Number, Field(gt=0.02, le=2.6)]


class OwnWood(Model):
    """A wood that no row of the table knows, by its own numbers."""

    name: Annotated[str, Field(min_length=1, max_length=40)] = "own wood"
    basic_specific_gravity: Annotated[Number, Field(ge=0.1, le=1.2)]
    radial_shrinkage: Annotated[Fraction, Field(le=0.2)] = 0.045
    tangential_shrinkage: Annotated[Fraction, Field(le=0.25)] = 0.085
    green_heart_mc: MC = 0.7
    green_sap_mc: MC = 0.9
    diffusion_m2_s: Annotated[Positive, Field(le=1e-7)] = Field(description="At 60 °C and fibre saturation")
    activation_j_mol: Annotated[Positive, Field(le=100000)] = ACTIVATION_J_MOL
    grows: Annotated[Number, Field(ge=0, le=30)] = Field(
        default=GROWS, description="Exponent of diffusion per unit of moisture below fibre saturation"
    )
    free: Annotated[Positive, Field(le=50)] = Field(
        default=FREE, description="Diffusion of free water over that of bound water at fibre saturation"
    )
    safe_1in_per_day: Positive | None = None
    safe_2in_per_day: Positive | None = None

    @property
    def row(self) -> Species:
        """As the table would have it."""
        return Species(
            name="own", title=self.name, basic_specific_gravity=self.basic_specific_gravity, radial_shrinkage=self.radial_shrinkage, tangential_shrinkage=self.tangential_shrinkage,
            green_heart_mc=self.green_heart_mc, green_sap_mc=self.green_sap_mc, diffusion_m2_s=self.diffusion_m2_s, safe_1in_per_day=self.safe_1in_per_day,
            safe_2in_per_day=self.safe_2in_per_day, pin_slope=1.0, pin_offset=0.0, source="typed",
        )  # fmt: skip


class BoardGroup(Model):
    """Boards alike: one species, one thickness, one moisture as they go in."""

    settling: ClassVar[frozenset[str]] = frozenset(("start",))

    species: WoodName = Field(default="poplar", title="Wood", json_schema_extra=asked(table="species"))
    own: OwnWood | None = Field(
        default=None,
        description="A wood by its own numbers, in place of one by name",
        json_schema_extra=asked(in_files_only=True),
    )
    thickness_mm: Annotated[Number, Field(ge=6, le=150)] = Field(default=27.0, title="Thick")
    width_mm: Annotated[Number, Field(ge=20, le=900)] = Field(default=180.0, title="Wide")
    length_m: Annotated[Number, Field(ge=0.2, le=15)] = Field(default=2.2, title="Long")
    wood_m3: Annotated[Number, Field(gt=0, le=200)] = Field(default=0.5, title="How much")
    board_feet: Annotated[Number, Field(gt=0, le=80000)] | None = Field(
        default=None,
        description="The same in board feet, in place of m³; read once and kept as m³",
        json_schema_extra=asked(in_files_only=True),
    )
    start: Start = Field(default="green-heart", title="Goes in", json_schema_extra=asked(options=STARTS))
    start_mc: MC | None = Field(
        default=None,
        title="Moisture",
        description="By meter or oven, on dry weight",
        json_schema_extra=asked(only_with={"start": ["measured"]}),
    )
    profile: list[MC] | None = Field(
        default=None, min_length=2, max_length=50, description="Moisture as it goes in from the core to the face, evenly spaced; in place of one for all", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    as_left: list[Annotated[Number, Field(ge=0, le=2.6)]] | None = Field(
        default=None, min_length=CELLS, max_length=CELLS, description="Moisture of the twin's own cells from the core to the face, as a run before left them", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    outside_as_left: list[Annotated[Number, Field(ge=0, le=2.6)]] | None = Field(
        default=None, min_length=CELLS, max_length=CELLS, description="The same of its boards outside", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    target_mc: Annotated[Fraction, Field(ge=0.02, le=0.4)] = Field(
        default=0.10, title="Dried to", description="6 to 8 % for indoors, 10 to 12 % for sheds"
    )
    cut: Literal["flat", "quarter"] = Field(
        default="flat", title="Sawn", json_schema_extra=asked(options={"flat": "flat", "quarter": "quarter"})
    )
    in_on: Day | None = Field(default=None, title="In on", description="Empty: on the day that is looked at")
    out_on: Day | None = Field(default=None, title="Out on", description="Empty: stays")
    number: Annotated[Count, Field(ge=0, le=MOST_GROUPS)] = Field(
        default=0,
        description="Its number among all that goes in; 0: as it stands in the list",
        json_schema_extra=asked(in_files_only=True),
    )

    @model_validator(mode="before")
    @classmethod
    def _in_m3(cls, given: object) -> object:
        """Board feet become m³, one number for one thing."""
        if not isinstance(given, dict) or not isinstance(given.get("board_feet"), int | float):
            return given
        if "wood_m3" in given:
            raise ValueError(
                f"both wood_m3 {given['wood_m3']} and board_feet {given['board_feet']} were given; give one of them"
            )
        return {key: value for key, value in given.items() if key != "board_feet"} | {
            "wood_m3": given["board_feet"] * BOARD_FOOT_M3
        }

    @model_validator(mode="after")
    def _dries(self) -> BoardGroup:
        require(
            self.start != "measured" or self.start_mc is not None or self.profile is not None or self.as_left is not None, "start_mc",
            "nothing was given for boards that go in as measured; type what the meter or the oven says",
        )  # fmt: skip
        require(
            self.row.diffusion_m2_s is not None, "species",
            f"how fast water goes through {in_words(self.row)} is not known; choose a wood like it, such as {_alike(self.row)}, or type its diffusion in a file",
        )  # fmt: skip
        require(
            self.in_on is None or self.out_on is None or self.out_on > self.in_on, "out_on",
            f"{self.out_on} was given; allowed is a day after {self.in_on}, when it goes in",
        )  # fmt: skip
        return self

    def settled(self, path: str) -> Self:
        """Boards that are measured begin at what green ones hold, until somebody types what the meter said."""
        if path != "start":
            return self
        measured = self.start == "measured"
        return self.model_copy(
            update={
                "start_mc": MEASURED_FIRST_MC
                if measured and self.start_mc is None
                else self.start_mc
                if measured
                else None,
                "as_left": None,
                "outside_as_left": None,
            }
        )

    def sawn(self, start: Start) -> Self:
        """The same as it begins afresh, whatever was measured or left of it."""
        return self.model_copy(
            update={"start": start, "start_mc": None, "profile": None, "as_left": None, "outside_as_left": None}
        )

    @property
    def row(self) -> Species:
        """As the table knows it; what is typed in its place is made such a row."""
        return species()[self.species] if self.own is None else self.own.row

    @property
    def title(self) -> str:
        """Wood and thickness, for sentences."""
        return f"{in_words(self.row)} of {amount(self.thickness_mm, 'length_mm')}"

    @property
    def name(self) -> str:
        """The same in plain letters, for whatever has one name."""
        return f"{in_words(self.row)} {self.thickness_mm:g} mm"

    @property
    def thick_in(self) -> float:
        """Thickness as safe rates know it."""
        return self.thickness_mm / 1000.0 / INCH_M

    @property
    def mean_mc(self) -> float:
        """As it goes in."""
        if self.profile is not None or self.as_left is not None:
            return float(SHARES @ self.cells)
        if self.start == "measured":
            assert self.start_mc is not None
            return self.start_mc
        return {"green-heart": self.row.green_heart_mc, "green-sap": self.row.green_sap_mc, "air-dried": AIR_DRIED_MC}[
            self.start
        ]

    @property
    def cells(self) -> Array:
        """Moisture from the core to the face, shape (CELLS,)."""
        if self.as_left is not None:
            return np.array(self.as_left)
        if self.profile is None:
            return np.full(CELLS, self.mean_mc)
        middles = np.cumsum(SHARES) - SHARES / 2.0
        return np.interp(middles, np.linspace(0.0, 1.0, len(self.profile)), self.profile)

    @property
    def outside_cells(self) -> Array:
        """The same of the boards outside."""
        return self.cells if self.outside_as_left is None else np.array(self.outside_as_left)

    @property
    def dry_kg(self) -> float:
        """Oven-dry."""
        return self.wood_m3 * 1000.0 * self.row.basic_specific_gravity

    @property
    def board(self) -> Numbers:
        """The numbers of one, both isotherms alike."""
        row, own = self.row, self.own
        assert row.diffusion_m2_s is not None
        activation, grows, free = (
            (ACTIVATION_J_MOL, GROWS, FREE) if own is None else (own.activation_j_mol, own.grows, own.free)
        )
        return (
            self.thickness_mm / 2000.0,
            row.diffusion_m2_s,
            activation,
            grows,
            free,
            1000.0 * row.basic_specific_gravity,
            1.0,
        )

    @property
    def safe_per_day(self) -> float | None:
        """Most that it may lose in a day; none where nothing is published."""
        if self.row.safe_1in_per_day is None or self.row.safe_2in_per_day is None:
            return None
        return safe_loss_per_day(self.row, self.thick_in)


PROPER = ("European", "American", "Norway", "Scots", "Sitka", "Douglas")
"""Names that keep their capital within a sentence."""


def in_words(row: Species) -> str:
    """A wood's name as it stands within a sentence."""
    return row.title if row.title.startswith(PROPER) else row.title[:1].lower() + row.title[1:]


def _alike(row: Species) -> str:
    """The wood nearest in density whose diffusion is known."""
    known = [other for other in species().values() if other.diffusion_m2_s is not None]
    return min(known, key=lambda other: abs(other.basic_specific_gravity - row.basic_specific_gravity)).title


def node_of(group: BoardGroup) -> str:
    """Node of a group that has its number."""
    return f"boards-{group.number}"
