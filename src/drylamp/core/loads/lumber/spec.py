"""A charge of boards: its groups, how they are stacked, and the same wood left outside beside them."""

from __future__ import annotations

from datetime import date
from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field

from drylamp.core.arrays import Array
from drylamp.core.checks import Celsius, Fraction, Hour, InputProblem, Model, Number, Positive, YesNo
from drylamp.core.forms import asked
from drylamp.core.heat.cells import BLOWN_POWER, SHARES, WOOD_CP, WOOD_CP_PER_K
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import Link, Node, Pile, Wet
from drylamp.core.loads.calendar import Calendar
from drylamp.core.loads.common.places import STACKED
from drylamp.core.loads.common.stacked import ROUND, Layer, Left, Stack, StackPlace
from drylamp.core.loads.common.wood import WETS_BY, SetTo, equilibrium_mc, wood
from drylamp.core.loads.load import Load, Reader
from drylamp.core.loads.lumber.group import MOST_GROUPS, BoardGroup, in_words, node_of
from drylamp.core.text import amount

VAPOUR, DRYING = "vapour", "drying"
STICK_WIDE_M = 0.025
"""Sticks cover so much of a face at each of their places; common practice, no source."""
PAST_OPEN, PAST_BAFFLED = 0.5, 0.15
"""Share of the air that goes past a stack without baffles, and with them; from memory."""
STILL_W_M2K, BLOWN_W_M2K = 3.0, 13.0
"""Film of boards between sticks: in still air, and at 1 m/s; the second a little over twice that of a smooth plate, as blunt ends and sticks stir it. From memory."""
PRIOR_SD = 0.25
"""Standard deviation of the logarithm of how fast a board dries against its species; from memory: trees differ."""
WARM_C = 35.0


Shelter = Literal["open", "roof", "shed"]
SHELTERS = {"open": "in the open, a sheet on top", "roof": "under eaves or a roof", "shed": "in an open shed"}


class AirStack(Model):
    """The same wood left to dry outside, beside the kiln."""

    shelter: Shelter = Field(default="roof", title="Stands", json_schema_extra=asked(options=SHELTERS))
    wind_share: Annotated[Fraction, Field(gt=0)] = Field(default=0.4, title="Wind that gets to it")
    sun_share: Fraction = Field(
        default=0.0, title="Sun on it", description="Share of its faces' light that is not kept off it"
    )
    high_m: Annotated[Number, Field(ge=0, le=3)] = Field(
        default=0.35, title="Over the ground", description="Close to the ground its lowest layers stand in damp air"
    )
    covered: YesNo = Field(default=True, title="covered against rain")
    film_w_m2k: Annotated[Positive, Field(le=100)] | None = Field(
        default=None,
        description="Film on its boards; as the wind makes it where nothing is said",
        json_schema_extra=asked(in_files_only=True),
    )


class Meter(Model):
    """The moisture meter that boards are read with."""

    sort: Literal["pin", "plate"] = Field(
        default="pin", title="Meter", json_schema_extra=asked(options={"pin": "with pins", "plate": "with a plate"})
    )
    set_to: SetTo | None = Field(
        default=None, title="Set to", description="Empty: to the wood itself", json_schema_extra=asked(table="species")
    )
    gravity: Annotated[Number, Field(ge=0.2, le=1.2)] | None = Field(
        default=None,
        title="Gravity set",
        description="Of a plate meter",
        json_schema_extra=asked(only_with={"sort": ["plate"]}),
    )
    depth_share: Annotated[Number, Field(gt=0, le=0.5)] = Field(
        default=0.25,
        title="Pins go in",
        description="Of the thickness; a quarter reads about the mean",
        json_schema_extra=asked(only_with={"sort": ["pin"]}),
    )


EndPaint = Literal["none", "paint", "wax-emulsion"]
END_PAINTS = {"none": "bare", "paint": "latex paint", "wax-emulsion": "wax emulsion"}


class LumberCharge(Load):
    """Boards stacked to dry."""

    called: ClassVar[str] = "a charge of boards"
    sits: ClassVar[str] = STACKED
    spoken_of: ClassVar[frozenset[str]] = frozenset(("board", "boards", "wood", "lumber", "stack", "charge"))
    door: ClassVar[str] = "Stack boards in it"
    planned: ClassVar[str] = "charge"
    wanted_by: ClassVar[str] = "18:00"
    is_stock: ClassVar[bool] = True
    looked_days: ClassVar[int] = 14
    has_target: ClassVar[bool] = False
    meter_title: ClassVar[str] = "hours of the fan"
    told_by: ClassVar[frozenset[str]] = frozenset(("metered", "weighings", "sections"))

    kind: Literal["lumber-charge"] = "lumber-charge"
    groups: list[BoardGroup] = Field(default=[BoardGroup()], min_length=1, max_length=MOST_GROUPS, title="Boards")
    goes_in: Hour = Field(default="08:00", title="In and out at")
    already_in: YesNo = Field(
        default=False,
        description="Those without a day have been in it since before the run began",
        json_schema_extra=asked(in_files_only=True),
    )
    sticker_mm: Annotated[Number, Field(ge=4, le=80)] = Field(default=22.0, title="Sticks thick")
    sticker_apart_m: Annotated[Number, Field(ge=0.1, le=1.5)] = Field(default=0.5, title="Sticks apart")
    stack_deep_m: Annotated[Number, Field(ge=0.2, le=4)] = Field(
        default=1.1, title="Stack along the air", description="How far air goes between its boards"
    )
    baffled: YesNo = Field(default=True, title="baffles beside and over it, so that air goes through it")
    weights_kg_m2: Annotated[Number, Field(ge=0, le=1000)] = Field(
        default=0.0, title="Weights on top", description="For each square metre of the stack", json_schema_extra=asked()
    )
    end_paint: EndPaint = Field(default="none", title="Ends", json_schema_extra=asked(options=END_PAINTS))
    top_cover: YesNo = Field(default=False, title="covered on top against bleaching")
    start_c: Annotated[Celsius, Field(ge=-30, le=60)] = Field(default=15.0, title="Goes in at")
    outside: AirStack = Field(default=AirStack(), title="The same wood outside")
    meter: Meter = Field(default=Meter(), title="Read with")
    spends: YesNo = Field(
        default=True, description="Air cools and moistens along the stack", json_schema_extra=asked(in_files_only=True)
    )
    still_w_m2k: Annotated[Positive, Field(le=100)] | None = Field(
        default=None, description="Film of its boards in still air", json_schema_extra=asked(in_files_only=True)
    )
    blown_w_m2k: Annotated[Number, Field(ge=0, le=200)] | None = Field(
        default=None, description="Film with the fan at full", json_schema_extra=asked(in_files_only=True)
    )
    wets_by: Annotated[Number, Field(ge=0.6, le=1.0)] = Field(
        default=WETS_BY,
        description="Moisture that wetting wood comes to over that of drying wood",
        json_schema_extra=asked(in_files_only=True),
    )

    @classmethod
    def begun(cls) -> Self:
        """Green boards of an inch."""
        return cls()

    def fresh(self, field: str) -> BaseModel:
        """The same boards, thicker."""
        last = self.groups[-1]
        return last.model_copy(update={"thickness_mm": 54.0 if last.thickness_mm < 50.0 else 27.0, "number": 0})

    @property
    def numbered(self) -> list[BoardGroup]:
        """What goes in, each with its number."""
        return [
            group if group.number else group.model_copy(update={"number": k + 1}) for k, group in enumerate(self.groups)
        ]

    def of_number(self, number: int) -> BoardGroup | None:
        """The group of that number; none where there is none."""
        return next((group for group in self.numbered if group.number == number), None)

    def all_of(self, group: BoardGroup) -> Self:
        """The whole volume of one group alone."""
        return self.model_copy(update={"groups": [group.model_copy(update={"wood_m3": self.wood_m3})]})

    @property
    def thickest_alone(self) -> Self:
        """The group that the kiln waits for, the wettest of the thickest, by the whole volume."""
        return self.all_of(max(self.groups, key=lambda group: (group.thickness_mm, group.mean_mc)))

    @property
    def title(self) -> str:
        """Its woods."""
        names = list(dict.fromkeys(in_words(group.row) for group in self.groups))
        return ", ".join(names[:3]) + (" and more" if len(names) > 3 else "")

    @property
    def pumped(self) -> str:
        """Round through the stack, by its build's fans."""
        return ROUND

    @property
    def calendar(self) -> Calendar:
        """In and out on days of its own."""
        return Calendar("charge")

    @property
    def first_in(self) -> str:
        """Hour of its first day."""
        return self.goes_in

    @property
    def judged(self) -> str:
        """Of those that go in first the thickest, and of these the wettest."""

        def before_others(group: BoardGroup) -> tuple[int, float, float]:
            return -(group.in_on or date.min).toordinal(), group.thickness_mm, group.mean_mc

        return node_of(max(self.numbered, key=before_others))

    @property
    def wanted_c(self) -> float:
        """No temperature is wanted of wood; warm enough to dry."""
        return WARM_C

    @property
    def goods(self) -> frozenset[str]:
        """All of it."""
        return frozenset(node_of(group) for group in self.numbered)

    @property
    def wood_m3(self) -> float:
        """Of all groups."""
        return sum(group.wood_m3 for group in self.groups)

    @property
    def amount_kg(self) -> float:
        """As it goes in."""
        return sum(group.dry_kg * (1.0 + group.mean_mc) for group in self.groups)

    @property
    def fresh_c(self) -> dict[str, float]:
        """As it goes in."""
        return {node_of(group): self.start_c for group in self.numbered}

    def times(self, share: float) -> Self:
        """The same with so many times as much of each."""
        return self.model_copy(
            update={"groups": [group.model_copy(update={"wood_m3": group.wood_m3 * share}) for group in self.groups]}
        )

    def afresh(self) -> Self:
        """The same boards as they go in, all together."""
        blank = {"in_on": None, "out_on": None, "as_left": None, "outside_as_left": None, "number": 0}
        groups = [group.model_copy(update=blank) for group in self.groups]
        return self.model_copy(update={"groups": groups, "already_in": False})

    # --- when ---

    @property
    def begins_on(self) -> date | None:
        """Day on which the first of it goes in; none: whenever it is looked at."""
        days = [group.in_on for group in self.groups]
        return None if any(day is None for day in days) else min((day for day in days if day is not None), default=None)

    def left_by(self, left: Left, on: date) -> Self:
        """The same as a run leaves it at the beginning of a day, the boards outside too."""
        from drylamp.core.loads.lumber.outside import dried_outside  # compiled

        groups, warm = list[BoardGroup](), [self.start_c]
        for group in self.numbered:
            if group.in_on is not None and group.in_on >= on:
                groups.append(group)
                continue
            found = left.cells.get(node_of(group))
            if found is None or np.isnan(found[-1, 0]):
                continue
            first = int(np.argmax(~np.isnan(found[:, 0])))
            outside = dried_outside(self, group, left.weather, first).cells[-1]
            warm.append(float(left.celsius[node_of(group)][-1]))
            groups.append(
                group.model_copy(
                    update={"as_left": found[-1].tolist(), "outside_as_left": outside.tolist(), "in_on": None}
                )
            )
        return self.model_copy(update={"groups": groups, "already_in": True, "start_c": round(warm[-1], 2)})

    def _timeline(self) -> list[tuple[date | None, list[BoardGroup]]]:
        """What lies in it from which day on; none is the first day of the run."""
        days = sorted({day for group in self.groups for day in (group.in_on, group.out_on) if day is not None})
        at_first = any(group.in_on is None for group in self.groups)
        return [(day, self._lying(day)) for day in ([None] if at_first else []) + days]

    def _lying(self, day: date | None) -> list[BoardGroup]:
        return [
            group
            for group in self.numbered
            if (group.in_on is None or (day is not None and group.in_on <= day))
            and (day is None or group.out_on is None or group.out_on > day)
        ]

    def stages(self) -> list[tuple[str, Self]]:
        """What is in from when on."""
        hour = "00:00" if self.already_in else self.goes_in
        return [
            (hour if day is None else self.goes_in, self.model_copy(update={"groups": lying}))
            for day, lying in self._timeline()
        ]

    def days_from(self, first: date) -> list[int]:
        """Days after the first of a run.

        Raises
        ------
        InputProblem
            something goes in or comes out before the run begins.
        """
        out = []
        for day, _ in self._timeline():
            if day is not None and day < first:
                raise InputProblem(
                    "load.groups", f"boards go in or come out on {day}, the run begins on {first}; begin it then, or give their moisture on {first} as measured"
                )  # fmt: skip
            out.append(0 if day is None else (day - first).days)
        return out

    # --- as a stack ---

    @property
    def layers(self) -> float:
        """How many layers of boards the stack has, all as long as the longest."""
        return max(self.wood_m3 / (self._plan_m2 * self._mean_thick_m), 1.0)

    @property
    def _plan_m2(self) -> float:
        return self.stack_deep_m * self.long_m

    @property
    def long_m(self) -> float:
        """Its longest board."""
        return max((group.length_m for group in self.groups), default=0.0)

    @property
    def _mean_thick_m(self) -> float:
        """Of a layer."""
        whole = sum(group.wood_m3 for group in self.groups)
        return sum(group.wood_m3 * group.thickness_mm for group in self.groups) / whole / 1000.0

    def faces_m2(self, group: BoardGroup) -> float:
        """Both faces of a group's boards that sticks leave bare."""
        bare = 1.0 - min(STICK_WIDE_M / self.sticker_apart_m, 0.5)
        return 2.0 * group.wood_m3 / (group.thickness_mm / 1000.0) * bare

    def stacked(self) -> Stack | None:
        """As its build sees it; none where everything is out."""
        if not self.groups:
            return None
        gap, layers = self.sticker_mm / 1000.0, self.layers
        return Stack(
            long_m=self.long_m, deep_m=self.stack_deep_m, high_m=layers * (self._mean_thick_m + gap), open_m2=layers * gap * self.long_m, gap_m=gap,
            faces_m2=sum(self.faces_m2(group) for group in self.groups), top_m2=self._plan_m2, past_share=PAST_BAFFLED if self.baffled else PAST_OPEN,
            wet_kg=self.amount_kg, m3=self.wood_m3,
        )  # fmt: skip

    @property
    def top_share(self) -> float:
        """Of all faces, what sees the sky from above."""
        return self._plan_m2 / sum(self.faces_m2(group) for group in self.groups)

    def read_by_meter(self, node: str, cells: Array, celsius: float) -> float | None:
        """What its meter shows on a group."""
        from drylamp.core.loads.lumber.meter import meter_reads

        group = next((group for group in self.numbered if node_of(group) == node), None)
        return None if group is None else meter_reads(self.meter, group, cells, celsius).shown_mc

    def read_with(self, set_to: str) -> Self:
        """The same, its meter set to another wood."""
        wood(set_to, "set_to")
        return self.model_copy(update={"meter": self.meter.model_copy(update={"set_to": set_to})})

    def said_of_air(self, celsius: float, rh: float) -> str:
        """The moisture that such air brings wood to."""
        mc = equilibrium_mc(celsius, min(max(rh, 0.01), 0.99))
        driest = min(group.target_mc for group in self.groups)
        short = "" if mc <= driest else f", above the {100.0 * driest:.1f} % that is wanted"
        return f"{amount(celsius, 'temperature')} and {100.0 * rh:.0f} % bring wood to {100.0 * mc:.1f} %{short}."

    def layered(self) -> list[Layer]:
        """The thickest lowest."""
        out = list[Layer]()
        for group in sorted(self.numbered, key=lambda one: -one.thickness_mm):
            thick = group.thickness_mm / 1000.0
            count = max(round(group.wood_m3 / (self._plan_m2 * thick)), 1)
            out += [Layer(node_of(group), group.name, thick, group.width_mm / 1000.0)] * count
        return out

    def in_stack(self, place: StackPlace) -> tuple[list[Node], list[Link]]:
        """Each group in the air of the chamber."""
        stack, nodes, links = self.stacked(), list[Node](), list[Link]()
        for group in self.numbered if stack is not None else []:
            assert stack is not None
            name, dry = node_of(group), group.dry_kg
            blown = BLOWN_W_M2K * place.full_m_s**BLOWN_POWER if self.blown_w_m2k is None else self.blown_w_m2k
            pile = Pile(
                (*group.board[:-1], self.wets_by), tuple(group.cells.tolist()), self.faces_m2(group), stack.faces_m2, blown if place.full_w_k > 0.0 else 0.0,
                1.0 / place.full_w_k if place.full_w_k > 0.0 else 0.0, self.spends,
            )  # fmt: skip
            wet = Wet(
                place.vapour, place.air, dry * float(SHARES @ group.cells), STILL_W_M2K if self.still_w_m2k is None else self.still_w_m2k, VAPOUR, dry, path=place.path,
                calibrated_by=DRYING, pile=pile,
            )  # fmt: skip
            nodes.append(Node(name, dry * (WOOD_CP + WOOD_CP_PER_K * WARM_C), group.name, role="several", wet=wet))
            links += [
                Link(f"{name} dries", Law.WET, name, place.vapour, ()),
                Link(f"air to {name}", Law.FILMED, place.air, name, ()),
            ]
        return nodes, links

    def readers(self) -> dict[str, list[Reader]]:
        """Groups are read one by one."""
        return {"boards": [Reader(node_of(group), group.name, node_of(group)) for group in self.numbered]}


LOAD = LumberCharge
