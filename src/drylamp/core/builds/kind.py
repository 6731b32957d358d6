"""What a kind of build says of itself to the twin, the drawing board and the trials: one row, typed, made in its own folder.

Adding a kind is adding a folder with a ``kind.py`` whose ``KIND`` is such a row; the registry finds it. What can be asked
of one build rather than of its kind is a property of the build (``build.py``).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Generic, Protocol, TypeVar

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.bright_patch import BrightPatch
from drylamp.core.builds.common.pattern import PatternPiece
from drylamp.core.builds.doubt import Doubtful
from drylamp.core.builds.fault import Fault
from drylamp.core.checks import InputProblem
from drylamp.core.common.bill import Piece
from drylamp.core.common.drawing import Section
from drylamp.core.common.drive import FlowControl, Set
from drylamp.core.common.held import Held
from drylamp.core.common.look import Accent, Account
from drylamp.core.heat.network import Network
from drylamp.core.loads.load import Load
from drylamp.core.optics.power import DiffuseAreas
from drylamp.core.sky.sun import compass
from drylamp.core.tables import Row
from drylamp.core.text import degrees


class Optics(Protocol):
    """What every kind's optics can do; what concentrates says besides by ``ring_share`` how much of the ring round the sun it takes."""

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky over a skyline, and for the ground."""

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Areas by lit node, shape (n, nodes), and area intercepted, shape (n,), for directions along the sun's path, m²."""


B = TypeVar("B", bound=Build)
B_contra = TypeVar("B_contra", bound=Build, contravariant=True)
O = TypeVar("O", bound=Optics)  # noqa: E741  the optics


@dataclass(frozen=True)
class Stuff:
    """A material that heat can spoil: the part of the drawing it belongs to, the node whose temperature it has, its row."""

    part: str
    node: str
    row: Row


@dataclass(frozen=True)
class Surface:
    """A surface that an infrared thermometer may be pointed at: its emittance, and whether glass or film lies in between."""

    emittance: float
    behind_cover: bool = False


class Patch(Protocol[B_contra]):
    """Maps the light on a tray with the sun in a direction, in so many cells along each side."""

    def __call__(self, build: B_contra, load: Load | None, toward_sun: Array, cells: int = ..., /) -> BrightPatch:
        """The map."""


def nothing_folded(build: Build) -> list[PatternPiece]:
    """No flat pattern."""
    return []


def sound_always(build: Build) -> None:
    """Refuse nothing."""


def fits_always(build: Build, load: Load) -> None:
    """Refuse nothing."""


def says_nothing(build: Build, temperature_c: Mapping[str, Array]) -> None:
    """What became of it is its load's to say."""


def goods_of_load(build: Build, load: Load | None) -> frozenset[str]:
    """Useful is what heats the load."""
    return frozenset() if load is None else load.goods


def no_drives(build: Build) -> dict[str, FlowControl]:
    """No fan, no pump."""
    return {}


def steep(build: Build) -> str:
    """The way it looks, and how steeply."""
    return f"{compass(build.facing_deg)}, {degrees(build.tilt_deg)} steep"


def over(build: Build) -> str:
    """The way its axis leans, and how far."""
    return f"{compass(build.facing_deg)}, {degrees(build.tilt_deg)} over"


@dataclass(frozen=True)
class Action(Generic[B]):
    """Something that can be done to a build: the part's card where it stands, its words, a sentence on why, and the build after it."""

    part: str
    title: str
    why: str
    note: str
    done: Callable[[B, int], B]


@dataclass(frozen=True)
class Kind(Generic[B, O]):
    """A kind of build.

    Attributes:
        spec: its typed spec; the name of the kind is the default of ``spec.kind``
        title: in plain words
        wish: what somebody wants to do who builds one
        holds: what somebody holds in hand who uses it, the likeliest first: the quick sums about that come first
        parts: parts of its drawing that can be named, with their titles; numbered ones (``wall-0``) by what stands before the dash
        offers, refusal: what loads may do in it (stand, lie, drain …), and what it says of one that needs something else
        check_size: refuses a load that does not fit
        optics, lit_nodes: its optics, and the nodes in which they put sun, in the order of the areas
        network: its network of heat, with or without a load
        section, pattern: its drawing, and its flat pattern at true size
        stuffs, surfaces: materials that heat can spoil; surfaces that can be read from outside, by node
        bill: what it is made of, piece by piece
        accent: its own colour
        made, aimed: a few words on what it is made of, and on how it stands, for a glance
        notes: a sentence on a part's card, by part
        actions: what can be done to a build beside changing its fields
        drawn, opening, empty: words under its drawing, for what the sun meets, and for when nothing is in it
        names_stagnation: whether one asks how hot it gets empty
        side_by_side: whether it is several like things that are compared with one another, rather than with their twin
        headline: what became of it and the same in three words, from temperatures by node; for what holds no load
        accounts, useful_account, stored_account: lines of its ledger; those of what is useful, and of what it stores itself
        useful: nodes whose heat is useful
        stagnation_node: what gets hottest when it stands empty
        open_nodes: air that is changed when somebody opens it
        doubtful: parameters that trials may correct
        drives: how its fans and pumps are driven, by flow path
        vents: how far what is set by the hour stands open, by flow path
        sun_gate: the drive by which the sun gets in, as a lid that somebody opens
        passes_l_min: most that a head of water drives through it with a load, where water runs through a pipe
        has_figures_of_merit: whether the two published figures of a box cooker mean something here
        spill: share of the light that misses the load with the sun so many degrees off the axis, where it can burn something
        patch: map of the bright patch on its tray with the sun in a direction, where it has a tray
        check_build: refuses a build whose parts run into one another
        faults: what can break on it
        control: what stands beside it as its control: the same load without what is tested; none where a control is nothing that the twin knows
        concentrates: whether mirrors throw the light on from below, so that a lid stays dark and nothing is preheated
    """

    spec: type[B]
    title: str
    wish: str
    parts: Mapping[str, str]
    offers: frozenset[str]
    refusal: str
    optics: Callable[[B, Load | None], O]
    lit_nodes: Callable[[B, Load | None], list[str]]
    network: Callable[[B, Load | None, O], Network]
    section: Callable[[B, Load | None, Array | None], Section]
    stuffs: Callable[[B], list[Stuff]]
    surfaces: Callable[[B], dict[str, Surface]]
    bill: Callable[[B], list[Piece]]
    accent: Accent
    made: Callable[[B], str]
    accounts: Mapping[str, Account]
    useful_account: str
    stagnation_node: Callable[[B], str]
    doubtful: Callable[[B], list[Doubtful]]
    check_size: Callable[[B, Load], None] = fits_always
    useful: Callable[[B, Load | None], frozenset[str]] = goods_of_load
    pattern: Callable[[B], list[PatternPiece]] = nothing_folded
    drives: Callable[[B], dict[str, FlowControl]] = no_drives
    vents: Callable[[B], Mapping[str, Set]] = no_drives
    spill: Callable[[B, Load | None, Array], Array] | None = None
    patch: Patch[B] | None = None
    check_build: Callable[[B], None] = sound_always
    aimed: Callable[[B], str] = steep
    notes: Mapping[str, str] = field(default_factory=dict)
    actions: Mapping[str, Action[B]] = field(default_factory=dict)
    drawn: str = "Cut along the way it faces"
    opening: str = "opening"
    holds: tuple[Held, ...] = ("heat",)
    empty: str = "Nothing goes in; it stands empty."
    names_stagnation: bool = False
    side_by_side: bool = False
    headline: Callable[[B, Mapping[str, Array]], tuple[str, str] | None] = says_nothing
    stored_account: str = "box"
    open_nodes: frozenset[str] = field(default_factory=frozenset)
    sun_gate: str = ""
    passes_l_min: Callable[[B, Load], float] | None = None
    has_figures_of_merit: bool = False
    concentrates: bool = False
    control: Callable[[B], B] | None = None
    faults: tuple[Fault[B], ...] = ()

    @property
    def name(self) -> str:
        """Its name in files and addresses."""
        return str(self.spec.model_fields["kind"].default)

    def judged(self, build: B, load: Load | None) -> str:
        """The node that one looks at: what the load is judged by, or what gets hottest when it stands empty."""
        return self.stagnation_node(build) if load is None else load.judged

    def check_fit(self, build: B, load: Load | None) -> None:
        """Refuse a load of another sort, or one that does not fit.

        Raises
        ------
        InputProblem
            says what was given and what the kind takes.
        """
        self.check_build(build)
        if load is None:
            return
        if load.sits not in self.offers:
            raise InputProblem("load", f"{load.called} was given; {self.refusal}")
        self.check_size(build, load)
