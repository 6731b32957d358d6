"""What advice is made of: entries that live with the kind, the part or the load they are about, and the machines' own types.

Functions of entries take the advice context (a day at a spot under a calibration), the build and what is in it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Generic, Literal, TypeVar

from drylamp.core.advice.apart import Apart, Difference, Promise
from drylamp.core.advice.building import Building
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.drying import BasketAnswer, BatchAhead, NightWays, VentCurve, WeekYear
from drylamp.core.advice.grey import GreyDays
from drylamp.core.advice.kettle import BoilYear, PutOutPlan
from drylamp.core.advice.loops import HowMany, Instead, NightCooling, ReadyBy, SeasonWon, TimerYear
from drylamp.core.advice.lumber import Backup
from drylamp.core.builds.build import Build
from drylamp.core.checks import Model
from drylamp.core.loads.load import Load
from drylamp.core.long import Long
from drylamp.core.outcome.flag import Flag, Level
from drylamp.core.outcome.of_load import Measure, ScoreQuantity
from drylamp.core.outcome.registry import results_of
from drylamp.core.outcome.summary import DayOutcome
from drylamp.core.quantities import Quantity
from drylamp.core.twin.case import Case
from drylamp.core.twin.run import Run

B_contra = TypeVar("B_contra", bound=Build, contravariant=True)
G_contra = TypeVar("G_contra", bound=Load | None, contravariant=True)
"""Goods: what is in the build, or nothing."""

Ruling = Literal["holds", "holds partly", "does not matter here", "wrong"]


@dataclass(frozen=True)
class Change:
    """One change.

    Attributes:
        title, part: what it is called, and the part it is about
        build, load: with it
        price: what it costs new
        spread: builds at the ends of its own doubt
        hours: of work that it takes; from memory
        choice: whether it is no gain or loss but another wish, as less food
    """

    title: str
    part: str
    build: Build
    load: Load | None
    price: float
    spread: tuple[Build, ...] = ()
    hours: float = 1.0
    choice: bool = False


@dataclass(frozen=True)
class Rule(Generic[B_contra, G_contra]):
    """Sensible single changes to a part, and the hours of work that such a one takes (from memory)."""

    part: str
    changes: Callable[[B_contra, G_contra], Iterator[Change]]
    hours: float = 1.0


@dataclass(frozen=True)
class Tuned(Generic[B_contra, G_contra]):
    """Changes to a part that are found by trying a day: its best setting."""

    part: str
    changes: Callable[[AdviceContext, B_contra, G_contra], Iterator[Change]]
    hours: float = 0.1


@dataclass(frozen=True)
class Option:
    """One school's answer as a build and a load."""

    title: str
    build: Build
    load: Load | None


@dataclass(frozen=True)
class Scored:
    """Another measure than the load's own: the more the better; none where an answer cannot be run."""

    measure: Measure
    value: Callable[[AdviceContext, Option], float | None]


@dataclass(frozen=True)
class School(Generic[B_contra, G_contra]):
    """A question that builders disagree on, with the answers; fewer than two where it does not arise.

    ``scored`` where the load's own score says nothing of it; ``straight`` is the question as people ask it who want one answer.
    """

    name: str
    question: str
    options: Callable[[AdviceContext, B_contra, G_contra], list[Option]]
    scored: Scored | None = None
    straight: str = ""


@dataclass(frozen=True)
class Found:
    """What a saying's test found: its effect in the score's unit (positive when the saying is right), and its words.

    ``ruling`` is for tests that rule by more than the size of the effect; ``quantity`` and ``counts`` for those that measure something else than the score.
    """

    effect: float
    words: str
    ruling: Ruling | None = None
    quantity: ScoreQuantity | None = None
    counts: str = ""


@dataclass(frozen=True)
class Saying(Generic[B_contra, G_contra]):
    """A rule of thumb and its test; one that does not apply gives none."""

    name: str
    words: str
    test: Callable[[AdviceContext, B_contra, G_contra], Found | None]


@dataclass(frozen=True)
class Seen:
    """What a caution may look at beside the build and its load: the case, its runs without and with the load, its first day."""

    case: Case
    empty: Run
    run: Run
    day: DayOutcome | None

    @cached_property
    def results(self) -> Model:
        """What became of the load, worked out once for all cautions."""
        return results_of(self.case.site, self.case.load, self.run)


@dataclass(frozen=True)
class Caution(Generic[B_contra, G_contra]):
    """A caution and its test, which says when it applies and with what numbers; each ends in what to do."""

    name: str
    test: Callable[[Seen, B_contra, G_contra], list[Flag]]


def flag(level: Level, part: str, text: str) -> list[Flag]:
    """One flag, as a caution gives it."""
    return [Flag(level=level, part=part, text=text)]


@dataclass(frozen=True)
class Burns:
    """Where a burn is warned of in the drawing, and what to do about hot parts."""

    part: str
    advice: str


@dataclass(frozen=True)
class LimitWords:
    """How a material's limit is spoken of: how the build stood, what to do near the limit, and what else helps above it."""

    standing: str
    if_near: str
    if_too_hot: str = ""


@dataclass(frozen=True)
class BuildAdvice(Generic[B_contra]):
    """Everything that is said of a kind of build.

    Attributes:
        burns, limits: words of the general cautions
        get_ready: first step of a day
        turn: how it is turned to the sun, as a step of the day
        vents, apart: how far to open its vent; why it is not like another, or as was promised
        differences: what differs between two of it, as its builder would name it, where that is finer than its parts
        backup: what back-up heat of a power, until a temperature, at a price for a kilowatt-hour brings
        building: how it is put up and filled, with panes of a width and a height where somebody asks about those
    """

    burns: Burns
    limits: LimitWords
    get_ready: str
    turn: str = "turn it to the sun"
    changes: tuple[Rule[B_contra, Load | None], ...] = ()
    tuned: tuple[Tuned[B_contra, Load | None], ...] = ()
    schools: tuple[School[B_contra, Load | None], ...] = ()
    sayings: tuple[Saying[B_contra, Load | None], ...] = ()
    cautions: tuple[Caution[B_contra, Load | None], ...] = ()
    vents: Callable[[AdviceContext, B_contra], VentCurve] | None = None
    backup: Callable[[AdviceContext, B_contra, float, float, float], Backup] | None = None
    building: Callable[[AdviceContext, B_contra, tuple[float, float] | None], Building] | None = None
    apart: Callable[[AdviceContext, B_contra, Promise], Apart] | None = None
    differences: Callable[[B_contra, B_contra], list[Difference]] | None = None


@dataclass(frozen=True)
class YearAsked:
    """What is asked of each of many made-up years: what is counted, in which quantity, and one year's answer; none where it is never done."""

    counts: str
    quantity: Quantity
    member: Callable[[int], float | None]


@dataclass(frozen=True)
class LoadAdvice(Generic[G_contra]):
    """Everything that is said of a load, in whatever build it is.

    ``grey_days`` says what grey days leave of it, where it stays over nights; the others answer what is asked of loops, tubs and pools, of kettles, and of food on trays;
    ``answers`` what else may be asked of it, by the question's name: functions of the context, the load, and what the question brings; ``longer`` those that take so long that they answer step by step;
    ``year`` what one of many made-up years comes to.
    """

    changes: tuple[Rule[Build, G_contra], ...] = ()
    tuned: tuple[Tuned[Build, G_contra], ...] = ()
    schools: tuple[School[Build, G_contra], ...] = ()
    sayings: tuple[Saying[Build, G_contra], ...] = ()
    cautions: tuple[Caution[Build, G_contra], ...] = field(default_factory=tuple)
    grey_days: Callable[[AdviceContext, G_contra], GreyDays] | None = None
    timer: Callable[[AdviceContext, G_contra], TimerYear] | None = None
    instead: Callable[[AdviceContext, G_contra, float, float], Instead] | None = None
    ready_by: Callable[[AdviceContext, G_contra], ReadyBy] | None = None
    season: Callable[[AdviceContext, G_contra], SeasonWon] | None = None
    night: Callable[[AdviceContext, G_contra], NightCooling] | None = None
    how_many: Callable[[AdviceContext, G_contra, float, int], HowMany] | None = None
    put_out: Callable[[AdviceContext, G_contra], PutOutPlan] | None = None
    boils: Callable[[AdviceContext, G_contra], BoilYear] | None = None
    batch: Callable[[AdviceContext, G_contra], BatchAhead] | None = None
    nights: Callable[[AdviceContext, G_contra], NightWays] | None = None
    weekly: Callable[[AdviceContext, G_contra, float, int], WeekYear] | None = None
    basket: Callable[[AdviceContext, G_contra, str, float | None, float | None], BasketAnswer] | None = None
    answers: Mapping[str, Callable[..., Model]] = field(default_factory=dict)
    year: Callable[[AdviceContext, G_contra], YearAsked] | None = None
    longer: Mapping[str, Callable[..., Long[Any]]] = field(default_factory=dict)
