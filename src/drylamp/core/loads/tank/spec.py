"""A barrel or tank that a loop warms: its layers, its lagging, what is drawn of it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Count, Fraction, Model, Number, Positive, YesNo
from drylamp.core.common.coil import Coil
from drylamp.core.common.drawing import Beside, Point
from drylamp.core.common.look import Account
from drylamp.core.common.wall import Wall, WallLayer, wall_w_m2k
from drylamp.core.forms import asked
from drylamp.core.heat.pipes import Piece, Stream, Tube
from drylamp.core.loads.common.kept.spec import KeptWater
from drylamp.core.loads.common.loop.ends import LOOP, PIPES, PUMPED, StoreEnds
from drylamp.core.loads.common.loop.spec import OUTSIDE_W_M2K, Looped
from drylamp.core.loads.common.places import FLOWING
from drylamp.core.loads.common.plumbing import Plumbed

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

STORE, TAPPED = "store", "tapped"
VESSEL, COIL = "vessel", "coil"
SWELLS_SHARE = 0.04
"""How much more room water takes hot than cold: 4 % from 10 to 90 °C (CoolProp)."""


class Exchanger(Model):
    """A coil in a tank, through which a closed loop gives its heat."""

    coil: Coil = Field(default=Coil(material="copper", pipe_m=10.0, bore_mm=13.0, outer_mm=15.0), title="Pipe")
    vessel_l: Annotated[Number, Field(ge=0, le=500)] = Field(
        default=4.0, title="Room to expand", description="The expansion vessel's share for its water"
    )
    antifreeze: YesNo = Field(default=True, title="filled with antifreeze")


class LoopTank(Looped, KeptWater):
    """A barrel or tank with a loop to what the sun heats."""

    called: ClassVar[str] = "a tank on a loop"
    sits: ClassVar[str] = FLOWING
    door: ClassVar[str] = "Join it to a barrel or tank"
    planned: ClassVar[str] = "wash"

    kind: Literal["loop-tank"] = "loop-tank"
    fill_l: Annotated[Positive, Field(le=20000)] = Field(default=120.0, title="Water in it")
    layers: Annotated[Count, Field(ge=1, le=10)] = Field(
        default=5, title="Layers", description="How finely top and bottom are told apart, 1 to 10"
    )
    tall_m: Annotated[Number, Field(ge=0.1, le=6)] = Field(default=0.9, title="Its water stands")
    lagging: Wall = Field(
        default=[WallLayer(material="glass-wool", thickness_m=0.05)], title="Round it", description="From the water out"
    )
    gives_share: Fraction = Field(default=0.9, title="Comes back at", description="Share of the water's height")
    takes_share: Fraction = Field(default=0.05, title="Goes out at", description="Share of the water's height")
    shut_tight: YesNo = Field(
        default=False, title="Shut tight", description="No float valve, no open top: it needs room to expand"
    )
    exchanger: Exchanger | None = Field(
        default=None, title="Coil in it", description="The loop's own water stays apart from the tank's"
    )
    expansion_l: Annotated[Number, Field(ge=0, le=2000)] = Field(
        default=0.0, title="Room to expand", json_schema_extra=asked(only_with={"shut_tight": [True]})
    )

    @model_validator(mode="after")
    def _goes_through(self) -> Self:
        if abs(self.gives_share - self.takes_share) * self.tall_m < 0.02:
            raise ValueError(
                f"gives_share {self.gives_share:g} and takes_share {self.takes_share:g} are one height; what comes in would go straight out again, so take it out below"
            )
        return self

    @model_validator(mode="after")
    def _may_swell(self) -> Self:
        needs = SWELLS_SHARE * self.fill_l
        if self.shut_tight and self.expansion_l < needs:
            raise ValueError(
                f"expansion_l {self.expansion_l:g}: a closed loop with {self.fill_l:g} litres swells by {needs:.1f} when it gets hot, and bursts without room and a relief "
                f"valve; give {needs:.1f} or more, or leave it open"
            )
        return self

    def fresh(self, field: str) -> BaseModel:
        """A pump, or a coil in it, as it usually is."""
        return (
            Exchanger()
            if field == "exchanger"
            else self.usual[field]()
            if field in self.usual
            else super().fresh(field)
        )

    @classmethod
    def begun(cls) -> Self:
        """A barrel of 120 litres."""
        return cls()

    @property
    def title(self) -> str:
        """In words."""
        return "water in a tank on a loop"

    @property
    def asked_l_min(self) -> float:
        """Nothing is driven through the coil by mains or barrel."""
        return 0.0

    @property
    def ends(self) -> StoreEnds:
        """Where the loop goes in and out, or where its coil begins and ends."""
        takes, gives = self.takes_share * self.tall_m, self.gives_share * self.tall_m
        open_ends = StoreEnds(self.filling.names, self.tall_m, takes, gives)
        if self.exchanger is None:
            return open_ends
        beside, coil = open_ends.way, self.exchanger.coil
        own = Tube(coil.free_mm / 1000.0, coil.wall_m + coil.lime_mm / 1000.0, coil.skin_w_mk)
        each, falls = coil.pipe_m / len(beside), (takes - gives) / len(beside)
        inside = tuple(Piece(f"{COIL}-{k + 1}", each, falls, own) for k in range(len(beside)))
        links = tuple(f"{piece.node} in the {layer}" for piece, layer in zip(inside, beside, strict=True))
        return StoreEnds([VESSEL], self.tall_m, takes, gives, inside, links, beside[-1])

    @property
    def may_freeze(self) -> bool:
        """Not where its own water is no plain water."""
        return self.exchanger is None or not self.exchanger.antifreeze

    @property
    def floor_m2(self) -> float:
        """Its floor, and its top."""
        return self.fill_l / 1000.0 / self.tall_m

    @property
    def faces_m2(self) -> float:
        """All round: hull, top and bottom of an upright cylinder."""
        return math.pi * 2.0 * math.sqrt(self.floor_m2 / math.pi) * self.tall_m + 2.0 * self.floor_m2

    @property
    def loses_w_k(self) -> float:
        """Through its lagging and the air round it."""
        return self.faces_m2 / (1.0 / wall_w_m2k(self.lagging) + 1.0 / OUTSIDE_W_M2K)

    @property
    def accounts(self) -> Mapping[str, Account]:
        """What the tank loses and gives."""
        return {
            STORE: Account("lost by the tank", "tank", "foam"),
            PIPES: Account("lost by the pipes to it", "pipes", "rust"),
            TAPPED: Account("drawn from the tank", "drawn", "plum"),
            PUMPED: Account("given by the pump", "pump", "rule", "the pump"),
        }

    def flows(self, site: Site, weather: Weather) -> dict[str, Array]:
        """What is drawn, and what lets the loop run."""
        return {**super().flows(site, weather), LOOP: self.loop_ceiling(site, weather)}

    def plumbed(self, stream: Stream) -> Plumbed:
        """Round through the tank."""
        from drylamp.core.loads.tank.recipe import plumbed  # brings the machinery that computes with it

        return plumbed(self, stream)

    def beside(self, inlet: Point, outlet: Point, left_m: float) -> Beside:
        """Drawn to the left of what warms it."""
        from drylamp.core.loads.tank.section import beside  # it knows this class

        return beside(self, inlet, outlet, left_m)


LOAD = LoopTank
