"""A pot, tin or jar and what is in it."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal, Self, TypeVar

from pydantic import BaseModel, Field, model_validator

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.checks import Celsius, Count, Hour, NotNegative, Number, unknown_name
from drylamp.core.forms import asked
from drylamp.core.heat.parts import Link, Node
from drylamp.core.loads.common.body import Body, Place
from drylamp.core.loads.common.envelope import FOG_SHARE, Envelope, envelope_outlines
from drylamp.core.loads.common.outline import Outline
from drylamp.core.loads.common.places import STANDING
from drylamp.core.loads.load import Enveloped, Liquid, Load, Wanted
from drylamp.core.loads.pot import heat
from drylamp.core.tables import Absorber, FinishChoice, Food, Vessel, absorber, contacts, foods, named_in, vessels

CLEAR_LID_SHARE = 0.85
"""Sun through a clear lid, from memory."""
FOOD_ABSORPTANCE = 0.90
"""Wet food, from memory."""
MOIST_SHARE = 0.2
UNDER_BOILING_K = 1.0
"""What is said to be boiling is held against so much less."""
SLOWER_10_K = 2.5
"""How many times as long cooking takes for each 10 K less; from memory (2 to 3 for starch and pulses)."""
LEAST_DRY_SHARE = 0.02
"""Of the heat of what is in a pot, what stays when its water is gone; of plain water the scale and the salt."""


class PotLoad(Load):
    """A pot of food: what, how much, in what, when it goes in and what is wanted of it."""

    unnamed_in_old_files: ClassVar[bool] = True
    called: ClassVar[str] = "a pot"
    sits: ClassVar[str] = STANDING
    size_fields: ClassVar[tuple[str, str]] = ("pot_diameter_m", "pot_height_m")
    takes_trivet: ClassVar[bool] = True
    spoken_of: ClassVar[frozenset[str]] = frozenset(("pot", "food", "water", "core", "stew", "contents"))
    door: ClassVar[str] = "Put a pot in"
    settling: ClassVar[frozenset[str]] = frozenset(("food", "vessel", "food_kg", "dry_kg", "persons"))

    kind: Literal["pot"] = "pot"
    food: Annotated[str, named_in(foods, "food")] = Field(default="water", json_schema_extra=asked(table="foods"))
    persons: Annotated[Count, Field(ge=1, le=200)] | None = Field(
        default=None, title="For so many people", description="Or say how much"
    )
    dry_kg: Annotated[Number, Field(gt=0, le=50)] | None = Field(
        default=None,
        title="Raw and dry",
        description="It brings its water",
        json_schema_extra=asked(only_with={"food": [row.name for row in foods().values() if row.water_per_kg > 0]}),
    )
    food_kg: Annotated[Number, Field(gt=0, le=50)] = Field(
        default=1.5, title="How much", description="As it stands in the pot, water and all"
    )
    start_c: Annotated[Celsius, Field(ge=0, le=95)] = Field(default=20.0, title="Goes in at")
    goes_in: Hour = Field(default="10:30", title="At")
    target_c: Annotated[Celsius, Field(gt=0, le=200)] | None = Field(
        default=None, title="Target", description="Empty: what the food wants"
    )
    hold_minutes: NotNegative | None = Field(default=None, title="Held for", description="Empty: what the food wants")
    vessel: Annotated[str, named_in(vessels, "vessel")] = Field(
        default="thin-enamel", title="Kind of pot", json_schema_extra=asked(table="vessels")
    )
    pot_finish: FinishChoice = "black-enamel"
    lid: Literal["black", "clear", "none"] = Field(
        default="black",
        json_schema_extra=asked(options={"black": "black lid", "clear": "clear lid", "none": "no lid"}),
    )
    lid_fits: Literal["loose", "tight"] = Field(
        default="loose", title="The lid lies",
        json_schema_extra=asked(options={"loose": "loose on its rim", "tight": "tight, with a heavy or clamped rim"}, only_with={"lid": ["black", "clear"]}),
    )  # fmt: skip
    contact: Annotated[str, named_in(contacts, "contact")] | None = Field(
        default=None, title="It stands", description="Empty: as usual there", json_schema_extra=asked(table="contacts")
    )
    whistles: Annotated[Count, Field(ge=1, le=60)] | None = Field(
        default=None,
        title="Done after whistles",
        description="Empty: by time at the valve",
        json_schema_extra=asked(only_with={"vessel": [row.name for row in vessels().values() if row.valve_c > 0]}),
    )
    under: Envelope | None = Field(default=None, title="Bag or bowl", description="Over the pot")
    pot_diameter_m: Annotated[Number, Field(gt=0.02, le=1)] = Field(default=0.20, title="Pot across")
    pot_height_m: Annotated[Number, Field(gt=0.01, le=1)] = Field(default=0.12, title="Pot high")
    pot_kg: Annotated[Number, Field(gt=0, le=30)] = Field(default=0.9, title="Pot weighs")

    @model_validator(mode="after")
    def _fits(self) -> PotLoad:
        litres = self.food_kg / self.contents.density_kg_m3 * 1000
        holds = math.pi / 4 * self.pot_diameter_m**2 * self.pot_height_m * 1000
        if litres > holds * 1.02:
            raise ValueError(
                f"food_kg {self.food_kg:g} ({litres:.1f} L) does not fit a pot that holds {holds:.1f} L; "
                "take less food or a larger pot"
            )
        if self.is_tight and litres > holds * 2 / 3 * 1.02:
            raise ValueError(
                f"food_kg {self.food_kg:g} ({litres:.1f} L) fills a pressure pot of {holds:.1f} L by more than two thirds; "
                "take less, or its valve clogs"
            )
        brought = self.dry_kg and self.dry_kg * (1.0 + self.contents.water_per_kg)
        if brought and abs(brought - self.food_kg) > 0.02 * self.food_kg:
            raise ValueError(
                f"dry_kg {self.dry_kg:g} makes {brought:.2f} kg with its water, and food_kg {self.food_kg:g} was given; leave one of them out"
            )
        if self.is_tight and self.lid != "black":
            raise ValueError(f"lid '{self.lid}' was given; a pressure pot has its own black lid")
        if self.whistles is not None and not self.is_tight:
            raise ValueError("whistles were given; only a pressure pot whistles")
        if self.under is not None and (
            self.under.diameter_m < self.pot_diameter_m or self.under.height_m < self.pot_height_m
        ):
            raise ValueError("the bag or bowl is smaller than the pot; take a larger one")
        return self

    def settled(self, path: str) -> Self:
        """Another food wants what it wants; another kind of pot has its own mass, finish and lid."""
        if path == "vessel":
            return self.model_copy(update=_as_built(self))
        if path == "food":
            return _measured(self.model_copy(update={"target_c": None, "hold_minutes": None}), "persons")
        return _measured(self, path) if path in ("food_kg", "dry_kg", "persons") else self

    def fresh(self, field: str) -> BaseModel:
        """A bag comes large enough for the pot."""
        bagged = self.enveloped(0.04, 0.05)[0].load.envelope
        return bagged if field == "under" and bagged is not None else super().fresh(field)

    @property
    def title(self) -> str:
        """What is in it, in lower case."""
        return self.contents.title.lower()

    @property
    def contents(self) -> Food:
        """The food's row."""
        return foods()[self.food]

    @property
    def wall(self) -> Vessel:
        """The pot's row."""
        return vessels()[self.vessel]

    @property
    def is_tight(self) -> bool:
        """Whether it is a pressure pot."""
        return self.wall.valve_c > 0

    @property
    def finish(self) -> Absorber:
        """The pot's surface."""
        return absorber(self.pot_finish)

    @property
    def has_core(self) -> bool:
        """Whether it warms from outside in instead of stirring itself."""
        return self.contents.piece_m > 0

    @property
    def is_slab(self) -> bool:
        """Whether it bakes as one piece: a loaf that goes in all at once."""
        return self.has_core and self.contents.handling == "all-in"

    @property
    def judged(self) -> str:
        """The node that is held against the target."""
        return "core" if self.has_core else "contents"

    @property
    def wanted_c(self) -> float:
        """Target: the user's, else the food's own."""
        return self.contents.target_c if self.target_c is None else self.target_c

    @property
    def wanted_minutes(self) -> float:
        """Minutes to hold the target: the user's, else the food's own."""
        return self.contents.hold_minutes if self.hold_minutes is None else self.hold_minutes

    @property
    def is_moist(self) -> bool:
        """Whether its water keeps it at boiling, as all but nuts and toasted grain."""
        return self.contents.water_share > MOIST_SHARE

    def wanted_where(self, boils_c: float) -> Wanted:
        """Moist food gets no hotter than water boils at there: a little under it then, and for longer."""
        most = boils_c - UNDER_BOILING_K
        if self.is_tight or not self.is_moist or self.wanted_c <= most:
            return Wanted(self.wanted_c, self.wanted_minutes)
        return Wanted(most, self.wanted_minutes * SLOWER_10_K ** ((self.wanted_c - most) / 10.0))

    @property
    def food_capacity_j_k(self) -> float:
        """Heat capacity of the contents."""
        return self.food_kg * self.contents.cp_j_kgk

    @property
    def pot_capacity_j_k(self) -> float:
        """Heat capacity of pot and lid."""
        return self.pot_kg * self.wall.cp_j_kgk

    @property
    def top_m2(self) -> float:
        """Area of the lid or of the open food."""
        return math.pi / 4 * self.pot_diameter_m**2

    @property
    def side_m2(self) -> float:
        """Area of the side."""
        return math.pi * self.pot_diameter_m * self.pot_height_m

    @property
    def wetted_m2(self) -> float:
        """Area that the contents touch."""
        depth = self.food_kg / self.contents.density_kg_m3 / self.top_m2
        return self.top_m2 + math.pi * self.pot_diameter_m * min(depth, self.pot_height_m)

    @property
    def absorptance(self) -> float:
        """Of side and top together, by area."""
        top = {
            "black": self.finish.absorptance,
            "clear": CLEAR_LID_SHARE * (1.0 - FOG_SHARE) * FOOD_ABSORPTANCE,
            "none": FOOD_ABSORPTANCE,
        }
        return self._by_area(self.finish.absorptance, top[self.lid])

    @property
    def emittance(self) -> float:
        """Of side and top together, by area."""
        top = {"black": self.finish.emittance, "clear": 0.88, "none": 0.95}
        return self._by_area(self.finish.emittance, top[self.lid])

    @property
    def free_share(self) -> float:
        """How freely vapour leaves before it boils: 1 without a lid, a third of it through the crust of a loaf; a loose lid lets about 1/50
        by, a tight one a tenth of that, a pressure pot none (from memory).
        """
        if self.is_tight:
            return 0.0
        if self.lid != "none":
            return 0.02 if self.lid_fits == "loose" else 0.002
        return 0.3 if self.has_core else 1.0

    @property
    def fogs(self) -> float:
        """How much of what closes the space round it stands fogged, 0–1: all of it without a lid, as the lid lets steam by with one (from memory)."""
        if self.is_tight:
            return 0.0
        return 1.0 if self.lid == "none" else 0.3 if self.lid_fits == "loose" else 0.1

    @property
    def water_in_kg(self) -> float:
        """Water in what is in the pot."""
        return self.food_kg * self.contents.water_share

    @property
    def dry_j_k(self) -> float:
        """Heat capacity of its contents without their water; never nothing."""
        return max(self.food_capacity_j_k - self.water_in_kg * CP_WATER_J_KGK, LEAST_DRY_SHARE * self.food_capacity_j_k)

    def _by_area(self, side: float, top: float) -> float:
        return (side * self.side_m2 + top * self.top_m2) / (self.side_m2 + self.top_m2)

    @property
    def first_in(self) -> str:
        """When it goes in."""
        return self.goes_in

    @property
    def envelope(self) -> Envelope | None:
        """The bag or bowl over it."""
        return self.under

    @property
    def goods(self) -> frozenset[str]:
        """Pot and contents."""
        return frozenset(("contents", "core", "crust", "pot"))

    @property
    def amount_kg(self) -> float:
        """Its contents."""
        return self.food_kg

    @property
    def water_kg(self) -> float | None:
        """Its contents, where they are plain water."""
        return self.food_kg if self.food == "water" else None

    def bodies_on(self, floor_m: tuple[float, float]) -> list[Body]:
        """The pot; the floor does not matter to it."""
        return heat.bodies(self)

    def outlines(self, floor_m: tuple[float, float]) -> list[Outline]:
        """The contents up to their level, the pot round them, bag or bowl over it."""
        level = min(self.food_kg / self.contents.density_kg_m3 / self.top_m2, self.pot_height_m)
        out = [
            Outline("water", self.contents.title, self.pot_diameter_m, level),
            Outline("metal", self.wall.title, self.pot_diameter_m, self.pot_height_m, closed=self.lid != "none"),
        ]
        return [*out, *envelope_outlines(self.under)]

    @property
    def fresh_c(self) -> dict[str, float]:
        """Temperatures of what goes in."""
        return dict.fromkeys(("contents", "core", "crust", "pot"), self.start_c)

    def stages(self) -> list[tuple[str, Self]]:
        """What is in the build from when on."""
        return [(self.goes_in, self)]

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """Nodes and links of pot and contents at their place."""
        return heat.inside(self, place)

    def enveloped(self, wider_m: float, higher_m: float) -> list[Enveloped]:
        """The same under an oven bag, and under a glass bowl."""
        wide, high = self.pot_diameter_m + wider_m, self.pot_height_m + higher_m
        out = []
        for name, thick, title in (("oven-bag", 0.000025, "an oven bag"), ("borosilicate-bowl", 0.005, "a glass bowl")):
            over = Envelope(material=name, thickness_m=thick, diameter_m=wide, height_m=high)
            out.append(Enveloped(title, self.model_copy(update={"under": over}), over.row.price_m2 * over.hull_m2))
        return out

    def bare(self) -> Self:
        """The same without bag or bowl."""
        return self.model_copy(update={"under": None})

    def liquid(self) -> Liquid | None:
        """Its contents, where they stir themselves."""
        if self.has_core:
            return None
        level = self.food_kg / self.contents.density_kg_m3 / self.top_m2
        return Liquid(self.title, level, self.pot_diameter_m, self.pot_height_m)

    def scale_kg(self, steam_kg: float) -> float | None:
        """Pot and contents less the steam that left."""
        return self.food_kg + self.pot_kg - steam_kg


LOAD = PotLoad


def in_vessel(load: PotLoad, name: str) -> PotLoad:
    """The same food in another kind of pot of the same size: its own mass, finish and lid.

    Raises
    ------
    InputProblem
        no such pot.
    """
    if name not in vessels():
        raise unknown_name("vessel", name, vessels())
    other = load.model_copy(update={"vessel": name})
    return PotLoad.model_validate(other.model_dump() | _as_built(other))


P = TypeVar("P", bound=PotLoad)
FULL, FULL_TIGHT, LEAST_FULL = 0.95, 0.66, 0.2
"""A pot that is fuller, or emptier, is exchanged for another."""
FILLED, FILLED_TIGHT = 0.7, 0.6
"""How full the other one is."""


def _measured(load: P, by: str) -> P:
    """How much there is follows from what was said last: people, what was weighed raw, or all of it; the pot follows the food."""
    row = load.contents
    brings = 1.0 + row.water_per_kg
    persons, kg = load.persons, load.food_kg
    if by == "persons" and persons is not None:
        kg = round(persons * row.kg_each, 3)
    elif by == "dry_kg" and load.dry_kg is not None:
        persons, kg = None, round(load.dry_kg * brings, 3)
    elif by == "food_kg":
        persons = None
    dry = round(kg / brings, 3) if row.water_per_kg > 0 and (load.dry_kg is not None or by == "persons") else None
    return _potted(load.model_copy(update={"persons": persons, "food_kg": kg, "dry_kg": dry}))


def _potted(load: P) -> P:
    """In a pot of the same kind and shape that it fills well, where it does not fit this one or is lost in it."""
    litres = load.food_kg / load.contents.density_kg_m3 * 1000.0
    holds = math.pi / 4.0 * load.pot_diameter_m**2 * load.pot_height_m * 1000.0
    if LEAST_FULL <= litres / holds <= (FULL_TIGHT if load.is_tight else FULL):
        return load
    by = (litres / (FILLED_TIGHT if load.is_tight else FILLED) / holds) ** (1.0 / 3.0)
    size = {name: max(round(getattr(load, name) * by, 2), 0.04) for name in ("pot_diameter_m", "pot_height_m")}
    other = load.model_copy(update=size)
    return other.model_copy(update={"pot_kg": _as_built(other)["pot_kg"]})


def _as_built(load: PotLoad) -> dict[str, object]:
    """Mass, finish and lid of a pot of its kind and size."""
    row = load.wall
    mass = round(row.wall_kg_m2 * (load.side_m2 + 2 * load.top_m2), 2)
    return {
        "pot_kg": mass, "pot_finish": row.finish, "lid": row.lid, "whistles": load.whistles if row.valve_c > 0 else None,
    }  # fmt: skip
