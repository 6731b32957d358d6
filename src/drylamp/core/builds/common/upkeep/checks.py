"""What is looked at on a build, by the parts that it has; how often is common practice, no source."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of


@dataclass(frozen=True)
class Check:
    """Something to look at.

    Attributes:
        parts: parts of a build that it is for; any of them
        every_days: how often
        look: what to look for, as an instruction
        moves: calibration factors that it moves when it is bad
    """

    name: str
    title: str
    parts: frozenset[str]
    every_days: int
    look: str
    moves: frozenset[str] = frozenset()


def _check(name: str, title: str, parts: str, every_days: int, look: str, *moves: str) -> Check:
    return Check(name, title, frozenset(parts.split()), every_days, look, frozenset(moves))


CHECKS: tuple[Check, ...] = (
    _check("cover", "Cover", "cover bottles", 90, "look for tears, cracks, yellow or blind panes; wash it", "optical", "loss", "leak"),
    _check("mirror", "Mirrors", "mirror behind", 60, "wash them with soft water; look for blind or lifted edges", "optical"),
    _check("seals", "Seals and gaps", "seal", 120, "hold a smoking wick along every joint on a windy day", "leak"),
    _check("door", "Door or lid", "chamber cabinet box lid", 120, "does it close without force, has it swollen or sunk", "leak"),
    _check("paint", "Dark paint", "baffle tray tubes hose collector sheet lining coil", 365, "grey, chalky or flaking paint takes in less sun", "optical"),
    _check("insulation", "Walls and insulation", "wall floor base under", 365, "press it: wet or sagging insulation keeps nothing", "loss"),
    _check("vents", "Vents", "vents vent chimney", 60, "move each through its whole way; oil the hinge, clean the screen"),
    _check("fan", "Fans", "fan", 60, "does each turn freely and the right way; dust, bearings, the panel's glass; note the hours that they ran"),
    _check("level", "Level", "aim", 180, "put a level on it both ways: what has sunk leaks, and water runs the wrong way"),
    _check("foot", "Posts and sills at the ground", "chamber frame cabinet aim", 180, "push a screwdriver into them at the ground: soft is rotten"),
    _check("pipes", "Pipes and valves", "coil hose header inlet tubes", 90, "drips, lime, a valve that does not shut; before frost: is it drained"),
)  # fmt: skip


def checks_of(build: Build) -> Iterator[Check]:
    """What is looked at on a build, in its order; what may break in its own way stands in its kind's row."""
    kind = kind_of(build)
    parts = set(kind.parts)
    for check in CHECKS:
        if check.parts & parts:
            yield check
