"""What every load is and can say of itself, so that nobody outside its room has to ask which one it is."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING, ClassVar, Self

from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.common.drawing import Beside, Point
from drylamp.core.common.look import Account
from drylamp.core.heat.parts import Link, Node
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.calendar import DAILY, Calendar, Visit
from drylamp.core.loads.common.body import Body, Place
from drylamp.core.loads.common.envelope import FOG_SHARE, Envelope
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.filling import Filling
from drylamp.core.loads.common.outline import Outline
from drylamp.core.loads.common.plumbing import Plumbed
from drylamp.core.loads.common.shelves import Laid, Shelf
from drylamp.core.loads.common.stacked import Layer, Left, Stack, StackPlace
from drylamp.core.loads.common.sunlit import Sunlit

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather


@dataclass(frozen=True)
class Reader:
    """Something that an instrument can be put to, one of several of its sort: its channel's name, title and node."""

    name: str
    title: str
    node: str


@dataclass(frozen=True)
class Wanted:
    """A temperature, and for how many minutes."""

    celsius: float
    minutes: float


@dataclass(frozen=True)
class Enveloped:
    """A load with a bag or bowl over it: what that is called, and what it costs new."""

    title: str
    load: Load
    price: float


@dataclass(frozen=True)
class Liquid:
    """A liquid in something that stands: its name, how high it stands, and the vessel's width and rim, m."""

    title: str
    level_m: float
    diameter_m: float
    rim_m: float


class Load(Model, ABC):
    """A load."""

    unnamed_in_old_files: ClassVar[bool] = False
    """Whether a load that does not say what it is, as in the first files, is this one."""
    called: ClassVar[str]
    """What a refusal calls it, with its article."""
    sits: ClassVar[str]
    """What it needs of its place: to stand, to lie, to drain …; a kind of build says which of these it offers."""
    size_fields: ClassVar[tuple[str, str]] = ("", "")
    """Fields that hold its diameter and height, for a refusal to name."""
    takes_trivet: ClassVar[bool] = False
    """Whether it stands on feet over the bottom where there is a trivet."""

    spoken_of: ClassVar[frozenset[str]] = frozenset()
    """Words by which a logger's column speaks of what is judged of it."""
    door: ClassVar[str]
    """Words of the button that puts it in."""
    planned: ClassVar[str] = "meal"
    """What one plans with it."""
    wanted_by: ClassVar[str] = "14:30"
    """The hour by which one usually wants it."""
    tap: ClassVar[str] = ""
    """The path or stream by which water of it leaves; empty where none does."""
    brings_out: ClassVar[bool] = False
    """Whether what holds it stands in the shade until it goes in, as with water that must not meet hot glass."""
    is_stock: ClassVar[bool] = False
    """Whether there is a stock of it, to be worked off over a summer."""

    has_target: ClassVar[bool] = True
    """Whether a temperature is wanted of it."""
    looked_days: ClassVar[int] = 1
    """Days over which advice on it is tried."""

    told_by: ClassVar[frozenset[str]] = frozenset()
    """Sheets whose rows tell of it without any reading."""
    also_lit: ClassVar[str] = ""
    """What of it the sun meets beside what it is in, in a few words; empty where nothing."""

    kind: str

    @classmethod
    def begun(cls) -> Self:
        """What it is when somebody has just put it in."""
        return cls.model_validate({})

    @classmethod
    def kind_name(cls) -> str:
        """The name of its kind in files and addresses."""
        return str(cls.model_fields["kind"].default)

    @property
    @abstractmethod
    def title(self) -> str:
        """What it is, in lower case."""

    @property
    @abstractmethod
    def first_in(self) -> str:
        """Hour at which the first of it goes in."""

    @property
    def envelope(self) -> Envelope | None:
        """The bag or bowl over it."""
        return None

    @property
    def fogs(self) -> float:
        """How much of what closes the space round it stands fogged, 0–1."""
        return 0.0

    @property
    def clear_share(self) -> float:
        """Light that gets through that, against a dry sheet."""
        return 1.0 - FOG_SHARE * self.fogs

    @property
    def calendar(self) -> Calendar:
        """When it is in its build."""
        return DAILY

    @property
    @abstractmethod
    def judged(self) -> str:
        """The node that is held against the target."""

    @property
    @abstractmethod
    def wanted_c(self) -> float:
        """Temperature that is wanted of it."""

    @property
    def wanted_minutes(self) -> float:
        """Minutes for which it is to hold that."""
        return 0.0

    def wanted_where(self, boils_c: float) -> Wanted:
        """What is wanted of it at a place where water boils at a temperature."""
        return Wanted(self.wanted_c, self.wanted_minutes)

    @property
    @abstractmethod
    def goods(self) -> frozenset[str]:
        """Nodes whose heat counts as useful."""

    @property
    @abstractmethod
    def amount_kg(self) -> float:
        """How much of it there is."""

    @property
    def water_kg(self) -> float | None:
        """Plain water, where that is all it holds: what the published tests of cookers are made with."""
        return None

    def bodies_on(self, floor_m: tuple[float, float]) -> list[Body]:
        """What it shows to sun and air on a floor of a width and a length; nothing where it does not stand or lie on one."""
        return []

    def outlines(self, floor_m: tuple[float, float]) -> list[Outline]:
        """How it is drawn on a floor; nothing where what holds it draws it."""
        return []

    @property
    @abstractmethod
    def fresh_c(self) -> dict[str, float]:
        """Temperatures of its nodes as it goes in."""

    @abstractmethod
    def stages(self) -> list[tuple[str, Self]]:
        """What is in the build from which hour on; of a batch by ``stage_days`` too."""

    @property
    def stage_days(self) -> list[int]:
        """Days after the first on which its stages begin, where they do not all on one day; empty: they do."""
        return []

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """Its nodes and links at its place; none where it has no single one."""
        return [], []

    def laid(self) -> list[Laid]:
        """What of it lies on which level, where it is laid out on several in a stream of air; nothing else is."""
        return []

    def on_shelves(self, shelves: Sequence[Shelf]) -> tuple[list[Node], list[Link]]:
        """Its nodes and links on those levels."""
        return [], []

    def stacked(self) -> Stack | None:
        """What a build sees of it where it is a stack that air passes; none where it is not."""
        return None

    @property
    def begins_on(self) -> date | None:
        """Day of the calendar on which it goes in; none: whenever it is looked at."""
        return None

    def afresh(self) -> Self:
        """The same as it goes in, on whatever day somebody looks at."""
        return self

    def left_by(self, left: Left, on: date) -> Load:
        """The same as a run leaves it at the beginning of a day."""
        return self

    def read_by_meter(self, node: str, cells: Array, celsius: float) -> float | None:
        """What a moisture meter shows on boards of a node, by their moisture from core to face and their warmth; none where it has none."""
        return None

    def read_with(self, set_to: str) -> Self:
        """The same, its meter set to another wood; itself where nothing is read by a meter."""
        return self

    def said_of_air(self, celsius: float, rh: float) -> str:
        """What air means for it, in a sentence; empty where nothing in particular."""
        return ""

    def layered(self) -> list[Layer]:
        """Its layers from the lowest up, as they are drawn."""
        return []

    def in_stack(self, place: StackPlace) -> tuple[list[Node], list[Link]]:
        """Its nodes and links there."""
        return [], []

    def days_from(self, first: date) -> list[int]:
        """Days after the first of a run on which its stages begin."""
        return self.stage_days

    @property
    def laid_kg(self) -> Mapping[str, float]:
        """Weight at first of what only gets lighter while it is in, by node, so that a weight that rises is asked about."""
        return {}

    def check_room(self, floor_m2: float, height_m: float) -> None:
        """Refuse to lie deeper than there is room for.

        Raises
        ------
        InputProblem
            it does; says how much of it would fit.
        """

    def enveloped(self, wider_m: float, higher_m: float) -> list[Enveloped]:
        """The same under a bag, and under a bowl, so much larger than what stands; none where it takes neither."""
        return []

    def bare(self) -> Self:
        """The same without bag or bowl."""
        return self

    def liquid(self) -> Liquid | None:
        """A liquid that minds leaning; none where nothing would run."""
        return None

    def readers(self) -> dict[str, list[Reader]]:
        """Several like things in it that a protocol reads one by one, by the word that the protocol has for them."""
        return {}

    def scale_kg(self, steam_kg: float) -> float | None:
        """What a scale under it shows after so much steam has left; none where it is not weighed whole."""
        return None

    def is_done(self, mass_kg: Mapping[str, float]) -> bool:
        """Whether a batch may come out, by what has melted, dried or run off."""
        return False

    @property
    def accounts(self) -> Mapping[str, Account]:
        """Lines of the ledger that it has of its own, beside those of what it is in."""
        return {}

    def plumbed(self, stream: Stream) -> Plumbed:
        """What runs through a pipe, as it comes in and goes on: from the mains and away, where nothing else is said."""
        return Plumbed(stream)

    def beside(self, inlet: Point, outlet: Point, left_m: float) -> Beside | None:
        """What is drawn beside what it is joined to: ``inlet`` and ``outlet`` on the paper, and how far that reaches to the left; none where it has nothing there."""
        return None

    @property
    def foot_m(self) -> float:
        """How much lower than the lower edge of what it is joined to it stands on the ground, m; nothing for what is in its build."""
        return 0.0

    def sunlit(self) -> Sunlit | None:
        """Sun that it takes up itself, apart from what it is in; none where it has none of its own."""
        return None

    def dims(self, site: Site, weather: Weather) -> dict[str, Array]:
        """Share of its own sun that gets to a node, by the node, shape (steps,), as where somebody covers it."""
        return {}

    def opens(self, site: Site, weather: Weather) -> Array | None:
        """Share of their setting to which vents are left open for it, shape (steps,), as where it is shut up for the night; none: all of it."""
        return None

    meter_title: ClassVar[str] = "hours of the pump"
    """What a counter of hours on ``pumped`` is called."""

    @property
    def pumped(self) -> str:
        """Its path along which a pump or fan moves something, whose hours a meter may count; empty where none does."""
        return ""

    @property
    def filling(self) -> Filling | None:
        """Water that fills what holds it, where it is that."""
        return None

    @property
    def asked_l_min(self) -> float:
        """The fastest that water is let through it, by plan."""
        return 0.0

    @property
    def barrel_m(self) -> float | None:
        """How high the water stands that drives it; none: the mains do."""
        return None

    def fed(self, as_read: Fed) -> Load:
        """The same with flow and inlet as they were read."""
        return self

    def flows(self, site: Site, weather: Weather) -> dict[str, Array]:
        """What is drawn or runs through, by the name of its path or stream, mean of each step, kg/s, shape (steps,)."""
        return {}

    def at_flow(self, l_min: float) -> Self | None:
        """The same with so much running through it all day; none where nothing runs."""
        return None

    @property
    def flow_l_min(self) -> float | None:
        """What runs through it while it runs; none where nothing does."""
        return None

    def inlet_c(self, weather: Weather) -> Array | None:
        """Water that comes in, mean of each step, °C, shape (steps,); none: the mains of the season."""
        return None

    def after(self, visit: Visit, temperature_c: Mapping[str, float], mains_c: float) -> dict[str, float]:
        """Temperatures of its nodes after a visit, those that changed."""
        return {}


def standing_on(load: Load | None, floor_m: tuple[float, float]) -> tuple[float, float] | None:
    """Diameter and height of what stands: the bowl or bag where there is one, else the pot; none where things only lie."""
    if load is None:
        return None
    if load.envelope is not None:
        return load.envelope.diameter_m, load.envelope.height_m
    return next(((b.diameter_m, b.height_m) for b in load.bodies_on(floor_m) if b.stands), None)
