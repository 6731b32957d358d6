"""Food on trays: what lies on which from when on, how it is cut, what is done with it at night, and when trays change places."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Celsius, Count, Fraction, Hour, Model, Number, require
from drylamp.core.forms import asked
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import Link, Node, Wet
from drylamp.core.loads.calendar import INDOORS_C, Calendar
from drylamp.core.loads.common.food.typed import OwnFood
from drylamp.core.loads.common.places import LAID
from drylamp.core.loads.common.shelves import INTO, Laid, Shelf
from drylamp.core.loads.load import Load, Reader
from drylamp.core.sky.clock import days_of, instant_s
from drylamp.core.tables import Produce, named_in, produce

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from drylamp.core.loads.common.food.piece import Piece
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

Night = Literal["left", "covered", "taken-in"]
DRY_CP_J_KGK = 1500.0
STILL_FILM_W_M2K = 6.5
"""Natural convection on both sides of a piece 4 cm wide, 20 K colder than its air: 0.54 and 0.27 Ra^¼ on a quarter of its width (McAdams 1954; Incropera 9.30–9.32)."""
LONG_WAVE_W_M2K = 6.0
"""4 σ T³ at 35 °C: from bare mesh and walls, about as warm as the air."""
COVERED_SHARE = 0.03
"""To which vents are shut for the night with a cloth stuffed in; from memory."""
ABSORPTANCE = {"fruit": 0.75, "vegetable": 0.75, "leaf": 0.80, "mushroom": 0.65, "meat": 0.80}
EMITTANCE = 0.95
"""Of food, by group, and of all; from memory."""
WETTEST_KG_M3 = 1000.0
MARGIN = 0.05
"""Of the water that is safe to leave in; from memory."""
MOST_FOODS = 24
VAPOUR, DRYING = "vapour", "drying"
PRIOR_SD = 0.35
"""Standard deviation of the logarithm of how fast water comes out: 10 kJ/mol between 40 and 60 °C are 0.23, cut and variety as much again; from memory."""
CALLED = "on tray"


class FoodOnTray(Model):
    """One food on one tray."""

    settling: ClassVar[frozenset[str]] = frozenset(("food",))

    tray: Annotated[Count, Field(ge=1, le=16)] = Field(
        default=1, title="Tray", description="1: the first that the air meets"
    )
    food: Annotated[str, named_in(produce, "food")] = Field(
        default="fig", title="Food", json_schema_extra=asked(table="produce")
    )
    own: OwnFood | None = Field(
        default=None,
        description="A food by its own numbers, in place of one by name",
        json_schema_extra=asked(in_files_only=True),
    )
    kg: Annotated[Number, Field(gt=0, le=200)] = Field(default=1.0, title="Prepared weight")
    slice_mm: Annotated[Number, Field(gt=0, le=60)] | None = Field(
        default=None, title="Cut", description="Thick; empty: as usual"
    )
    start_wb: Annotated[Fraction, Field(gt=0.02, lt=0.99)] | None = Field(
        default=None, title="Water in it", description="Share of its weight as it goes in; empty: fresh"
    )
    target_wb: Annotated[Fraction, Field(gt=0.0, lt=0.9)] | None = Field(
        default=None, title="Dried to", description="Share of water that is safe to keep; empty: as usual"
    )
    day: Annotated[Count, Field(ge=1, le=60)] = Field(default=1, title="Day")
    goes_in: Hour = Field(default="09:00", title="In at")
    out_day: Annotated[Count, Field(ge=1, le=60)] | None = Field(
        default=None,
        description="Day on which it is taken out, whatever it is like",
        json_schema_extra=asked(in_files_only=True),
    )
    comes_out: Hour = Field(default="18:00", description="At", json_schema_extra=asked(in_files_only=True))
    number: Annotated[Count, Field(ge=0, le=MOST_FOODS)] = Field(
        default=0,
        description="Its number among all that goes in; 0: as it stands in the list",
        json_schema_extra=asked(in_files_only=True),
    )

    def settled(self, path: str) -> Self:
        """Another food is cut as it usually is."""
        return (
            self.model_copy(update={"slice_mm": None, "start_wb": None, "target_wb": None}) if path == "food" else self
        )

    @property
    def row(self) -> Produce:
        """As the table knows it; what is typed in its place is made such a row."""
        own = self.own
        if own is None:
            return produce()[self.food]
        like = next(row for row in produce().values() if row.group == own.group)
        change = {"name": own.name, "title": own.name, "fresh_wb": own.fresh_wb, "safe_wb": own.safe_wb, "thick_m": own.thick_m, "low_c": own.low_c, "high_c": own.high_c, "cut": "slices", "open_sides": 2.0, "source": "typed"}  # fmt: skip
        return like.model_copy(update=change)

    @property
    def title(self) -> str:
        """Its name without how it is cut."""
        return self.row.title.split(",")[0].lower()

    @property
    def wet(self) -> float:
        """Share of water as it goes in."""
        return self.row.fresh_wb if self.start_wb is None else self.start_wb

    @property
    def safe(self) -> float:
        """Share of water that it is dried to: as typed, or what is safe less a margin for its thickest pieces."""
        return self.row.safe_wb * (1.0 - MARGIN) if self.target_wb is None else self.target_wb

    @property
    def dry_kg(self) -> float:
        """Without any water."""
        return self.kg * (1.0 - self.wet)

    @property
    def target_kg(self) -> float:
        """What a kitchen scale shows when it is done."""
        return self.dry_kg / (1.0 - self.safe)

    @property
    def safe_water_kg(self) -> float:
        """Water that is left in it then."""
        return self.target_kg - self.dry_kg

    @property
    def thick_m(self) -> float:
        """As it is cut."""
        return self.row.thick_m if self.slice_mm is None else self.slice_mm / 1000.0

    @property
    def covers_m2(self) -> float:
        """Of the tray."""
        return self.kg / WETTEST_KG_M3 / self.thick_m

    @model_validator(mode="after")
    def _dries(self) -> FoodOnTray:
        require(
            self.safe < self.wet, "target_wb",
            f"dried to {self.safe:g} was given for {self.title} with {self.wet:g} water as it goes in; allowed is below that",
        )  # fmt: skip
        if self.out_day is not None:
            require(
                (self.out_day, self.comes_out) > (self.day, self.goes_in),
                "out_day",
                f"day {self.out_day} at {self.comes_out} is not after it went in",
            )
        return self


class Swap(Model):
    """Trays change places."""

    day: Annotated[Count, Field(ge=1, le=60)] = Field(default=2, title="Day")
    hour: Hour = Field(default="09:00", title="At")
    how: Literal["reversed", "up-one"] = Field(default="reversed", title="How", json_schema_extra=asked(options={"reversed": "the whole stack turned over", "up-one": "each one up, the top one down"}))  # fmt: skip


class FoodTrays(Load):
    """Food laid out to dry."""

    called: ClassVar[str] = "food on trays"
    sits: ClassVar[str] = LAID
    spoken_of: ClassVar[frozenset[str]] = frozenset(("food", "fruit", "tray", "slices", "leaves"))
    door: ClassVar[str] = "Lay food on the trays"
    planned: ClassVar[str] = "drying"
    wanted_by: ClassVar[str] = "18:00"
    is_stock: ClassVar[bool] = True

    kind: Literal["food-trays"] = "food-trays"
    foods: list[FoodOnTray] = Field(default=[FoodOnTray()], min_length=1, max_length=MOST_FOODS, title="On the trays")
    night: Night = Field(
        default="left", title="At night", json_schema_extra=asked(options={"left": "left in the dryer", "covered": "left in it, vents stuffed shut", "taken-in": "taken indoors"})
    )  # fmt: skip
    taken_in: Hour = Field(
        default="20:00", title="From", json_schema_extra=asked(only_with={"night": ["covered", "taken-in"]})
    )
    put_back: Hour = Field(
        default="08:00", title="To", json_schema_extra=asked(only_with={"night": ["covered", "taken-in"]})
    )
    start_c: Annotated[Celsius, Field(ge=-5, le=60)] = Field(default=18.0, title="Goes in at")
    swaps: list[Swap] = Field(default_factory=list, max_length=12, title="Trays change places")

    @classmethod
    def begun(cls) -> Self:
        """Halved figs on the three lowest trays."""
        return cls(foods=[FoodOnTray(tray=k) for k in (1, 2, 3)])

    def fresh(self, field: str) -> BaseModel:
        """The same food on the next tray; a swap a day later."""
        if field == "foods":
            last = self.foods[-1]
            return last.model_copy(update={"tray": min(last.tray + 1, 16), "number": 0})
        return Swap(day=self.swaps[-1].day + 1) if self.swaps else Swap()

    @property
    def numbered(self) -> list[FoodOnTray]:
        """What goes in, each with its number."""
        return [food if food.number else food.model_copy(update={"number": k + 1}) for k, food in enumerate(self.foods)]

    @property
    def title(self) -> str:
        """Its foods."""
        names = list(dict.fromkeys(food.title for food in self.foods))
        return ", ".join(names[:3]) + (" and more" if len(names) > 3 else "")

    @property
    def calendar(self) -> Calendar:
        """A batch: over nights, until all of it is done."""
        if self.night == "taken-in":
            return Calendar("batch", taken_in=self.taken_in, put_back=self.put_back, indoors_c=INDOORS_C)
        return Calendar("batch")

    def opens(self, site: Site, weather: Weather) -> Array | None:
        """Vents are stuffed for the night where it is covered."""
        if self.night != "covered":
            return None
        middle, out = weather.sun.time_s, np.ones(weather.steps)
        for day, begin, end in days_of(site.zone, weather.start_s, weather.start_s + weather.steps * weather.dt_s):
            today = slice(*np.searchsorted(middle, (begin, end)))
            shut, open_ = instant_s(site.zone, day, self.taken_in), instant_s(site.zone, day, self.put_back)
            out[today][(middle[today] >= shut) | (middle[today] < open_)] = COVERED_SHARE
        return out

    @property
    def first_in(self) -> str:
        """When the first of it goes in."""
        return self.stages()[0][0]

    @property
    def judged(self) -> str:
        """The air that comes to the trays."""
        return INTO

    @property
    def wanted_c(self) -> float:
        """Air that suits it, at least."""
        return max(food.row.low_c for food in self.foods)

    @property
    def goods(self) -> frozenset[str]:
        """All of it."""
        return frozenset(node_of(food) for food in self.numbered)

    @property
    def laid_kg(self) -> dict[str, float]:
        """Each food, as laid in."""
        return {node_of(food): food.kg for food in self.numbered}

    @property
    def amount_kg(self) -> float:
        """As laid in."""
        return sum(food.kg for food in self.foods)

    @property
    def fresh_c(self) -> dict[str, float]:
        """As it goes in."""
        return {node_of(food): self.start_c for food in self.numbered}

    def _timeline(self) -> list[tuple[tuple[int, str], list[FoodOnTray]]]:
        """What lies where from which day and hour on; nothing once all is taken out."""
        foods = self.numbered
        when = {(food.day, food.goes_in) for food in foods} | {
            (food.out_day, food.comes_out) for food in foods if food.out_day is not None
        }
        swaps: list[tuple[int, str, str]] = sorted((swap.day, swap.hour, swap.how) for swap in self.swaps)
        first = min(when)
        times = sorted(when | {(day, hour) for day, hour, _ in swaps if (day, hour) > first})
        return [(at, self._lying(foods, swaps, at)) for at in times]

    def _lying(
        self, foods: list[FoodOnTray], swaps: list[tuple[int, str, str]], at: tuple[int, str]
    ) -> list[FoodOnTray]:
        """What is in at a time, each on the tray that it has come to."""
        here = [f for f in foods if (f.day, f.goes_in) <= at and (f.out_day is None or (f.out_day, f.comes_out) > at)]
        top, out = max(food.tray for food in foods), list[FoodOnTray]()
        for food in here:
            tray = food.tray
            for day, hour, how in swaps:
                if (food.day, food.goes_in) < (day, hour) <= at:
                    tray = top + 1 - tray if how == "reversed" else tray % top + 1
            out.append(food.model_copy(update={"tray": tray}))
        return out

    def stages(self) -> list[tuple[str, Self]]:
        """What is in from when on."""
        return [(hour, self.model_copy(update={"foods": lying, "swaps": []})) for (_, hour), lying in self._timeline()]

    @property
    def stage_days(self) -> list[int]:
        """Days after the first."""
        first = self._timeline()[0][0][0]
        return [day - first for (day, _), _ in self._timeline()]

    def laid(self) -> list[Laid]:
        """On which tray."""
        return [
            Laid(node_of(food), food.tray - 1, food.kg, food.covers_m2, ABSORPTANCE[food.row.group], EMITTANCE)
            for food in self.numbered
        ]

    def on_shelves(self, shelves: Sequence[Shelf]) -> tuple[list[Node], list[Link]]:
        """Each food in the air of its tray."""
        from drylamp.core.loads.common.food.piece import ACTIVATION_J_MOL, dry_basis

        nodes, links = list[Node](), list[Link]()
        for food in self.numbered:
            shelf, name = shelves[food.tray - 1], node_of(food)
            bare = max(1.0 - sum(f.covers_m2 for f in self.foods if f.tray == food.tray) / shelf.area_m2, 0.0)
            wet = Wet(
                shelf.vapour, shelf.air, dry_basis(food.wet) * food.dry_kg, STILL_FILM_W_M2K, VAPOUR, food.dry_kg, tuple(piece_of(food).numbers), ACTIVATION_J_MOL,
                path=shelf.path, speed_m_s=shelf.speed_m_s, shines_w_m2k=LONG_WAVE_W_M2K * EMITTANCE * bare, calibrated_by=DRYING,
            )  # fmt: skip
            nodes.append(
                Node(name, food.dry_kg * DRY_CP_J_KGK, f"{food.title} {CALLED} {food.tray}", role="several", wet=wet)
            )
            links += [
                Link(f"{name} dries", Law.WET, name, shelf.vapour, ()),
                Link(f"air to {name}", Law.FILMED, shelf.air, name, ()),
            ]
        return nodes, links

    def readers(self) -> dict[str, list[Reader]]:
        """Trays are weighed one by one."""
        return {
            "food": [Reader(node_of(food), f"{food.title}, tray {food.tray}", node_of(food)) for food in self.numbered]
        }

    def is_done(self, mass_kg: Mapping[str, float]) -> bool:
        """Whether all of it is dry enough; ``mass_kg`` is water by node."""
        return all(mass_kg.get(node_of(food), np.inf) <= food.safe_water_kg for food in self.numbered)


def node_of(food: FoodOnTray) -> str:
    """Node of a food that has its number."""
    return f"food-{food.number}"


def piece_of(food: FoodOnTray) -> Piece:
    """Its pieces as they dry."""
    from drylamp.core.loads.common.food.own import piece_of_own
    from drylamp.core.loads.common.food.piece import Piece

    if food.own is None:
        return Piece.of(food.row, food.thick_m)
    return piece_of_own(food.own, food.thick_m)


LOAD = FoodTrays
