"""A batch of comb, cappings or old wax: what of it melts, drips through the strainer and is caught clean."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field

from drylamp.core.checks import Celsius, Fraction, Hour, Number, YesNo, require
from drylamp.core.forms import asked
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import Link, Melting, Node
from drylamp.core.loads.calendar import DAILY, Calendar
from drylamp.core.loads.common.body import Body, Place, round_bodies
from drylamp.core.loads.common.outline import Outline
from drylamp.core.loads.common.places import CATCH_SHARE, DRAINING, runs
from drylamp.core.loads.load import Load
from drylamp.core.tables import Wax, named_in, waxes

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
CATCH_KG_M2, CATCH_CP = 6.0, 470.0
ALL_RUN = 0.9
"""Share of what a batch can give that counts as all of it."""
FILLS_AT_MOST = 0.8
"""Share of the height under the glass that a heap may take."""
LEAST_DRAWN_M, CATCH_DRAWN_M, MOST_DRAWN_M = 0.012, 0.02, 0.09
EDGE_W_MK = 0.3
"""Between heap and catch tray, by metre of their common edge; from memory."""


class WaxBatch(Load):
    """What is laid on the sloped floor of a melter in one go."""

    called: ClassVar[str] = "a batch of wax"
    sits: ClassVar[str] = DRAINING
    spoken_of: ClassVar[frozenset[str]] = frozenset(("wax", "heap", "comb", "cappings"))
    door: ClassVar[str] = "Lay a batch in"
    planned: ClassVar[str] = "melting"
    wanted_by: ClassVar[str] = "17:00"
    is_stock: ClassVar[bool] = True
    settling: ClassVar[frozenset[str]] = frozenset(("form",))

    kind: Literal["wax"] = "wax"
    material: Annotated[str, named_in(waxes, "material")] = Field(
        default="beeswax", title="Wax", json_schema_extra=asked(table="waxes")
    )
    form: Form = Field(
        default="cappings",
        title="As",
        json_schema_extra=asked(options={name: row.title for name, row in FORMS.items()}),
    )
    batch_kg: Annotated[Number, Field(gt=0, le=60)] = Field(default=1.5, title="Batch")
    wax_share: Annotated[Fraction, Field(gt=0)] | None = Field(
        default=None, title="Wax in it", description="By mass; empty: what is usual for it"
    )
    strainer: Strainer = Field(
        default="cloth", title="Strained through", json_schema_extra=asked(options={"none": "no strainer"})
    )
    goes_in: Hour = Field(default="09:30", title="Laid in at")
    start_c: Annotated[Celsius, Field(ge=-10, le=60)] = Field(default=18.0, title="Goes in at")
    stays: YesNo = Field(
        default=False, title="left lying over nights", description="Until it has run; else fresh each day"
    )

    def settled(self, path: str) -> Self:
        """Comb of another form holds what is usual for that."""
        return self.model_copy(update={"wax_share": None}) if path == "form" else self

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
    def first_in(self) -> str:
        """When it is laid in."""
        return self.goes_in

    @property
    def calendar(self) -> Calendar:
        """Fresh each day, or left lying over nights until it has run."""
        return Calendar("batch") if self.stays else DAILY

    @property
    def amount_kg(self) -> float:
        """The whole batch, residue and all."""
        return self.batch_kg

    @property
    def goods(self) -> frozenset[str]:
        """Heap and caught wax."""
        return frozenset(("wax", "catch"))

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
            Body("wax", self.title, heap, heap, long, absorptance, 0.95, up=CATCH_SHARE + (1 - CATCH_SHARE) / 2, wide_m=width_m, long_m=long, contact="heap"),
            Body("catch", "catch tray", catch, catch, length_m * CATCH_SHARE, 0.5, 0.9, up=CATCH_SHARE / 2, wide_m=width_m, long_m=catch / width_m, contact="uneven"),
        ]  # fmt: skip

    def outlines(self, floor_m: tuple[float, float]) -> list[Outline]:
        """Heap and catch tray, lying."""
        heap, catch = self.bodies_on(floor_m)
        deep = min(max(self.heap_m(floor_m[0] * floor_m[1]), LEAST_DRAWN_M), MOST_DRAWN_M)
        return [
            Outline("pale", heap.title, heap.long_m, deep, up=heap.up),
            Outline("metal", catch.title, catch.long_m, CATCH_DRAWN_M, up=catch.up),
        ]

    def check_room(self, floor_m2: float, height_m: float) -> None:
        """Refuse a heap that comes up to the glass.

        Raises
        ------
        InputProblem
            it does; says how much may be laid in at once.
        """
        deep, most = self.heap_m(floor_m2), FILLS_AT_MOST * height_m
        fits = self.batch_kg * most / deep
        require(
            deep <= most, "load.batch_kg",
            f"{self.batch_kg:g} kg was given; they would lie {deep * 100:.0f} cm deep in a box of {height_m * 100:.0f} cm, "
            f"lay in up to {fits:.1f} kg at once",
        )  # fmt: skip

    def is_done(self, mass_kg: Mapping[str, float]) -> bool:
        """Whether all that it can give has been caught."""
        return mass_kg.get("catch", 0.0) >= ALL_RUN * self.yield_kg

    @property
    def fresh_c(self) -> dict[str, float]:
        """Temperatures of what goes in."""
        return {"wax": self.start_c, "catch": self.start_c}

    def stages(self) -> list[tuple[str, Self]]:
        """What is in the build from when on."""
        return [(self.goes_in, self)]

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """Nodes and links of heap and catch tray at their place."""
        row, kept = self.row, self.wax_kg * self.how.kept_share
        residue = max(self.batch_kg - self.wax_kg, 0.02 * self.batch_kg) * RESIDUE_CP_J_KGK
        melting = (row.cp_j_kgk, row.latent_j_kg, row.melting_low_c, row.melting_high_c)
        rate = runs(place.slope_deg) / (60.0 * DRAIN_MINUTES[self.strainer])
        bodies = self.bodies_on(place.floor_m)
        nodes = [
            Node("wax", residue, self.title, Melting(self.wax_kg, *melting, "catch", rate, kept), "wanted"),
            Node("catch", CATCH_KG_M2 * bodies[1].foot_m2 * CATCH_CP, "caught wax", Melting(0.0, *melting), "caught"),
        ]
        more, links = round_bodies(bodies, None, place)
        links.append(Link("strainer", Law.CONDUCTANCE, "wax", "catch", (EDGE_W_MK * place.floor_m[0],)))
        return nodes + more, links


LOAD = WaxBatch
