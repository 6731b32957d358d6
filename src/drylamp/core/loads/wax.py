"""A batch of comb, cappings or old wax: what of it melts, drips through the strainer and is caught clean."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, field_validator

from drylamp.core.checks import Celsius, Fraction, Model, Number
from drylamp.core.heat.laws import Law
from drylamp.core.heat.network import Link, Melting, Node
from drylamp.core.loads.body import HHMM, Body, Place, round_bodies
from drylamp.core.tables import Wax, find, waxes

Form = Literal["old-comb", "cappings", "blocks"]
Strainer = Literal["none", "mesh", "cloth", "paper"]


@dataclass(frozen=True)
class FormRow:
    """How a batch lies: share of wax, kilograms in a litre as heaped, share of the wax that the residue keeps; from memory."""

    title: str
    wax_share: float
    heaped_kg_m3: float
    kept_share: float
    absorptance: float


FORMS: dict[Form, FormRow] = {
    "old-comb": FormRow("old brood comb", 0.45, 120.0, 0.30, 0.92),
    "cappings": FormRow("cappings", 0.85, 180.0, 0.06, 0.60),
    "blocks": FormRow("blocks and stubs", 0.98, 550.0, 0.02, 0.60),
}
DRAIN_MINUTES: dict[Strainer, float] = {"none": 4.0, "mesh": 6.0, "cloth": 12.0, "paper": 25.0}
"""Time in which two thirds of the free liquid get through; from memory."""
RESIDUE_CP_J_KGK = 1600.0
CATCH_SHARE = 0.22
"""Share of the floor's length, at its lower end, that the catch tray takes."""
CATCH_KG_M2, CATCH_CP = 6.0, 470.0
EDGE_W_MK = 0.3
"""Between heap and catch tray, by metre of their common edge; from memory."""


class WaxBatch(Model):
    """What is laid on the sloped floor of a melter in one go."""

    kind: Literal["wax"] = "wax"
    material: str = "beeswax"
    form: Form = "cappings"
    batch_kg: Annotated[Number, Field(gt=0, le=60)] = 1.5
    wax_share: Annotated[Fraction, Field(gt=0)] | None = Field(
        default=None, description="By mass; the form's own where not given"
    )
    strainer: Strainer = "cloth"
    start_c: Annotated[Celsius, Field(ge=-10, le=60)] = 18.0
    goes_in: Annotated[str, Field(pattern=HHMM)] = "09:30"

    @field_validator("material")
    @classmethod
    def _known(cls, name: str) -> str:
        find(waxes(), name, "material")
        return name

    @property
    def row(self) -> Wax:
        """The wax."""
        return waxes()[self.material]

    @property
    def how(self) -> FormRow:
        """How it lies."""
        return FORMS[self.form]

    @property
    def title(self) -> str:
        """In words."""
        return f"{self.how.title} of {self.row.title.lower()}" if self.material != "beeswax" else self.how.title

    @property
    def wax_kg(self) -> float:
        """Wax in the batch."""
        return self.batch_kg * (self.how.wax_share if self.wax_share is None else self.wax_share)

    @property
    def yield_kg(self) -> float:
        """Most clean wax that can be caught: the residue keeps some."""
        return self.wax_kg * (1.0 - self.how.kept_share)

    @property
    def judged(self) -> str:
        """What is looked at."""
        return "wax"

    @property
    def wanted_c(self) -> float:
        """Melted right through."""
        return self.row.melting_high_c

    @property
    def wanted_minutes(self) -> float:
        """Counted in kilograms instead."""
        return 0.0

    @property
    def under(self) -> None:
        """No bowl over it."""
        return None

    def laid_m2(self, floor_m2: float) -> float:
        """Floor that the heap covers: as thin as there is room for."""
        return max(floor_m2 * (1.0 - CATCH_SHARE) * 0.9, 1e-3)

    def heap_m(self, floor_m2: float) -> float:
        """Depth of the heap."""
        return self.batch_kg / self.how.heaped_kg_m3 / self.laid_m2(floor_m2)

    def bodies_on(self, floor_m: tuple[float, float]) -> list[Body]:
        """Heap and catch tray on a floor of a width and a length."""
        width_m, length_m = floor_m
        heap, catch = self.laid_m2(width_m * length_m), width_m * length_m * CATCH_SHARE * 0.9
        long = heap / width_m
        absorptance = self.how.absorptance if self.material == "beeswax" else self.row.absorptance
        return [
            Body("wax", self.title, heap, heap, long, absorptance, 0.95, up=CATCH_SHARE + (1 - CATCH_SHARE) / 2, wide_m=width_m, long_m=long, foot_w_m2k=15.0),
            Body("catch", "catch tray", catch, catch, length_m * CATCH_SHARE, 0.5, 0.9, up=CATCH_SHARE / 2, wide_m=width_m, long_m=catch / width_m, foot_w_m2k=8.0),
        ]  # fmt: skip

    @property
    def fresh_c(self) -> dict[str, float]:
        """Temperatures of what goes in."""
        return {"wax": self.start_c, "catch": self.start_c}

    def stages(self) -> list[tuple[str, WaxBatch]]:
        """What is in the build from when on."""
        return [(self.goes_in, self)]

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """Nodes and links of heap and catch tray at their place."""
        row, kept = self.row, self.wax_kg * self.how.kept_share
        residue = max(self.batch_kg - self.wax_kg, 0.02 * self.batch_kg) * RESIDUE_CP_J_KGK
        melting = (row.cp_j_kgk, row.latent_j_kg, row.melting_low_c, row.melting_high_c)
        rate = 1.0 / (60.0 * DRAIN_MINUTES[self.strainer])
        bodies = self.bodies_on(place.floor_m)
        nodes = [
            Node("wax", residue, self.title, Melting(self.wax_kg, *melting, "catch", rate, kept)),
            Node("catch", CATCH_KG_M2 * bodies[1].foot_m2 * CATCH_CP, "caught wax", Melting(0.0, *melting)),
        ]
        more, links = round_bodies(bodies, None, place)
        links.append(Link("strainer", Law.CONDUCTANCE, "wax", "catch", (EDGE_W_MK * place.floor_m[0],)))
        return nodes + more, links
