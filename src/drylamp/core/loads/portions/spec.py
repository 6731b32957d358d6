"""Sweets, wax sticks and the like: small portions lying on a tray, each with its place and its own minute."""

from __future__ import annotations

import math
from itertools import count, pairwise
from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Celsius, Hour, Model, Number
from drylamp.core.forms import asked
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import Link, Melting, Node
from drylamp.core.loads.common.body import Body, Place, round_bodies
from drylamp.core.loads.common.envelope import Envelope, envelope_outlines
from drylamp.core.loads.common.outline import Outline
from drylamp.core.loads.common.places import LYING
from drylamp.core.loads.load import Load, Reader
from drylamp.core.tables import Sweet, contacts, named_in, sweets

SHARE = Annotated[Number, Field(ge=0, le=1)]
State = Literal["unchanged", "soft", "melted", "browned"]
MOST_LAYERS, LAID_W_M2K = 4, 120.0
"""Layers under the uppermost at most, and heat passed where one lies on another; from memory."""
MELTED_SHARE = 0.8
"""A portion counts as melted when so much of it has; from memory."""
EMITTANCE = 0.9
LEAST_DRAWN_M = 0.012
"""What lies flat is drawn no thinner than can be seen."""


class PortionLayer(Model):
    """A layer under a portion's uppermost: what, and how much."""

    what: Annotated[str, named_in(sweets, "what")] = Field(default="biscuit", json_schema_extra=asked(table="sweets"))
    mass_kg: Annotated[Number, Field(gt=0, le=2)] = Field(default=0.008, title="How much")

    @property
    def row(self) -> Sweet:
        """What it is made of."""
        return sweets()[self.what]


class Portion(Model):
    """One portion: what it is, how much, where it lies on the tray and when it goes in."""

    title: Annotated[str, Field(min_length=1, max_length=60)] = Field(title="Called")
    name: Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=30)] = Field(
        title="Mark", description="Short, no blanks"
    )
    what: Annotated[str, named_in(sweets, "what")] = Field(
        default="milk-chocolate", json_schema_extra=asked(table="sweets")
    )
    mass_kg: Annotated[Number, Field(gt=0, le=2)] = Field(default=0.02, title="How much")
    across: SHARE = Field(default=0.5, title="Place from the left", description="Of the tray's width, its middle")
    up: SHARE = Field(default=0.5, title="Place from the front", description="Of the tray's length, its middle")
    goes_in: Hour = Field(default="11:00", title="Goes in at")
    thickness_m: Annotated[Number, Field(ge=0.001, le=0.1)] | None = Field(
        default=None, title="So thick", description="Empty: as it usually comes"
    )
    contact: Annotated[str, named_in(contacts, "contact")] = Field(
        default="paper", title="Lies", json_schema_extra=asked(table="contacts")
    )
    layers: list[PortionLayer] = Field(
        default_factory=list, max_length=MOST_LAYERS, title="Under it", description="From above down: sweet, biscuit …"
    )

    @property
    def row(self) -> Sweet:
        """What it is made of."""
        return sweets()[self.what]

    def fresh(self, field: str) -> BaseModel:
        """One more layer is as the last; the first under a piece is a biscuit."""
        return self.layers[-1] if field == "layers" and self.layers else PortionLayer()

    @property
    def stack(self) -> list[tuple[str, str, Sweet, float]]:
        """Its layers from above down: node, title, what it is made of and kilograms."""
        below = [
            (f"layer-{k}-{self.name}", f"{self.title}, {layer.row.title.lower()}", layer.row, layer.mass_kg)
            for k, layer in enumerate(self.layers, start=2)
        ]
        return [
            (self.node, f"{self.title}, {self.row.title.lower()}" if below else self.title, self.row, self.mass_kg),
            *below,
        ]

    @property
    def thick_m(self) -> float:
        """All layers, as wide as the uppermost."""
        return sum(kg / (row.density_kg_m3 * self.area_m2) for _, _, row, kg in self.stack)

    @property
    def node(self) -> str:
        """Its node."""
        return f"portion-{self.name}"

    @property
    def area_m2(self) -> float:
        """Of its upper face."""
        return self.mass_kg / (self.row.density_kg_m3 * (self.thickness_m or self.row.thickness_m))

    @property
    def side_m(self) -> float:
        """Edge of the square that it covers."""
        return math.sqrt(self.area_m2)


class Portions(Load):
    """Portions on a tray."""

    called: ClassVar[str] = "a tray of portions"
    sits: ClassVar[str] = LYING
    spoken_of: ClassVar[frozenset[str]] = frozenset(("portion", "sweet", "chocolate"))
    door: ClassVar[str] = "Lay portions in"

    kind: Literal["portions"] = "portions"
    portions: list[Portion] = Field(min_length=1, max_length=12)
    start_c: Annotated[Celsius, Field(ge=-20, le=60)] = Field(default=20.0, title="They go in at")
    under: Envelope | None = Field(default=None, title="Bag or bowl", description="Over them")

    @classmethod
    def begun(cls) -> Self:
        """Two of a sort, side by side."""
        return cls(
            portions=[Portion(title=f"portion {n}", name=f"portion-{n}", across=x) for n, x in ((1, 0.25), (2, 0.75))]
        )

    def fresh(self, field: str) -> BaseModel:
        """One more portion is as the last, in front; a bowl is large enough for a few."""
        if field != "portions":
            return Envelope(diameter_m=0.24, height_m=0.12)
        taken = {portion.name for portion in self.portions}
        number = next(n for n in count(len(taken) + 1) if f"portion-{n}" not in taken)
        like = {"name": f"portion-{number}", "title": f"portion {number}", "across": 0.5, "up": 0.25}
        return self.portions[-1].model_copy(update=like)

    @model_validator(mode="after")
    def _told_apart(self) -> Portions:
        names = [portion.name for portion in self.portions]
        twice = sorted({name for name in names if names.count(name) > 1})
        if twice:
            raise ValueError(f"'{twice[0]}' names two portions; give each its own name")
        return self

    @property
    def title(self) -> str:
        """In words."""
        whats = list(dict.fromkeys(portion.row.title.lower() for portion in self.portions))
        return f"{len(self.portions)} portions of {', '.join(whats)}" if len(self.portions) > 1 else whats[0]

    @property
    def first_in(self) -> str:
        """When the first goes in."""
        return min(portion.goes_in for portion in self.portions)

    @property
    def envelope(self) -> Envelope | None:
        """The bowl over them."""
        return self.under

    @property
    def amount_kg(self) -> float:
        """All portions."""
        return sum(kg for portion in self.portions for _, _, _, kg in portion.stack)

    @property
    def goods(self) -> frozenset[str]:
        """Each portion."""
        return frozenset(node for portion in self.portions for node, *_ in portion.stack)

    @property
    def judged(self) -> str:
        """The first portion stands for all where one number is wanted."""
        return self.portions[0].node

    @property
    def wanted_c(self) -> float:
        """Melted right through."""
        return self.portions[0].row.melting_high_c

    def bodies_on(self, floor_m: tuple[float, float]) -> list[Body]:
        """Each portion, lying; the floor's size does not matter to them."""
        return [
            Body(
                p.node, p.stack[0][1], p.area_m2 + 4 * p.side_m * p.thick_m, p.area_m2, p.side_m, p.row.absorptance,
                EMITTANCE, across=p.across, up=p.up, wide_m=p.side_m, long_m=p.side_m, contact=p.contact,
                path=f"portions.{k}", foot=p.stack[-1][0],
            )
            for k, p in enumerate(self.portions)
        ]  # fmt: skip

    def outlines(self, floor_m: tuple[float, float]) -> list[Outline]:
        """Each portion in its place, bowl over them."""
        lying = [Outline("pale", p.title, p.side_m, LEAST_DRAWN_M, up=p.up) for p in self.portions]
        return [*lying, *envelope_outlines(self.under)]

    def readers(self) -> dict[str, list[Reader]]:
        """Each portion may have its probe."""
        return {"portions": [Reader(node, title, node) for p in self.portions for node, title, *_ in p.stack]}

    @property
    def fresh_c(self) -> dict[str, float]:
        """Temperatures of what goes in."""
        return {node: self.start_c for portion in self.portions for node, *_ in portion.stack}

    def stages(self) -> list[tuple[str, Self]]:
        """What is in the build from when on: everything that has gone in by then."""
        hours = sorted({portion.goes_in for portion in self.portions})
        return [
            (hour, self.model_copy(update={"portions": [p for p in self.portions if p.goes_in <= hour]}))
            for hour in hours
        ]

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """Nodes and links of the portions at their place."""
        nodes = [
            Node(
                node, 0.02 * kg * row.cp_j_kgk, title,
                Melting(kg, row.cp_j_kgk, row.latent_j_kg, row.melting_low_c, row.melting_high_c), "several",
            )
            for p in self.portions for node, title, row, kg in p.stack
        ]  # fmt: skip
        more, links = round_bodies(self.bodies_on(place.floor_m), self.under, place)
        return nodes + more, links + [link for p in self.portions for link in _between_layers(p)]


def _between_layers(portion: Portion) -> list[Link]:
    """What passes from each layer to the one under it: half of each, and where they touch."""
    out = []
    for (upper, _, above, above_kg), (lower, _, below, below_kg) in pairwise(portion.stack):
        halves = sum(kg / (row.density_kg_m3 * portion.area_m2) / (2.0 * row.conductivity_w_mk) for row, kg in ((above, above_kg), (below, below_kg)))  # fmt: skip
        passes = portion.area_m2 / (halves + 1.0 / LAID_W_M2K)
        out.append(Link(f"{upper} on {lower}", Law.CONDUCTANCE, upper, lower, (passes,)))
    return out


LOAD = Portions


def melted_through_c(row: Sweet) -> float:
    """Temperature at which a portion counts as melted."""
    return row.melting_low_c + MELTED_SHARE * (row.melting_high_c - row.melting_low_c)


def state_of(row: Sweet, celsius: Array) -> State:
    """The furthest that a portion has got, from its temperatures since it went in."""
    hottest = float(np.nanmax(celsius)) if np.isfinite(celsius).any() else -273.0
    if hottest >= row.browns_c:
        return "browned"
    if hottest >= melted_through_c(row):
        return "melted"
    return "soft" if hottest >= row.soft_c else "unchanged"
