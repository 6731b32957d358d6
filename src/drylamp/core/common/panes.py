"""Panes beside and over one another: what opening they close, how many metres of joint that makes, and whether rain gets in there.

::

      across = 3              up the slope ↑
    ┌────┬────┬────┐
    │    │    │    │  along = 2     upright joints: (across - 1) · length
    ├────┼────┼────┤  ← level joints: (along - 1) · width; water that runs down meets these
    └────┴────┴────┘
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from drylamp.core.text import Sentence, amount, degrees, metres

REST_M = 0.012
"""What a pane lies on its frame with, each side; common practice, no source."""
LAP_M = 0.05
"""By which an upper pane lies over a lower one; common practice, no source."""
STEEP_DEG = 20.0
"""From which on water runs off over a lap; common practice, no source (glaziers lap at 15 to 25° at least)."""
Risk = Literal["none", "low", "some", "high"]


@dataclass(frozen=True)
class Layout:
    """Panes alike in rows and columns.

    Attributes:
        across, along: how many side by side, and over one another up the slope
        wide_m, long_m: of the opening that they close
        upright_m, level_m: joints that run up the slope, and across it
    """

    across: int
    along: int
    wide_m: float
    long_m: float
    upright_m: float
    level_m: float

    @property
    def count(self) -> int:
        """Panes in it."""
        return self.across * self.along

    @property
    def joint_m(self) -> float:
        """All joints."""
        return self.upright_m + self.level_m

    def risk(self, tilt_deg: float) -> Risk:
        """How likely rain gets in at its joints."""
        if self.joint_m <= 0.0:
            return "none"
        if self.level_m <= 0.0:
            return "low"
        return "some" if tilt_deg >= STEEP_DEG else "high"

    def said(self, tilt_deg: float) -> Sentence:
        """Joints and rain in a sentence."""
        told: dict[Risk, Sentence] = {
            "none": "One pane, no joint: rain has no way in.",
            "low": f"{amount(self.upright_m, 'distance')} of joint, all of it up the slope: a bar with a strip over it keeps rain out.",
            "some": f"{amount(self.joint_m, 'distance')} of joint, {amount(self.level_m, 'distance')} of it across the slope: lap the upper pane {metres(LAP_M)} over the lower one, or rain gets in.",
            "high": f"{amount(self.joint_m, 'distance')} of joint, {amount(self.level_m, 'distance')} of it across a slope of only {degrees(tilt_deg)}: water stands there and gets in, so lean it more, or take one pane.",
        }  # fmt: skip
        return told[self.risk(tilt_deg)]


def _laid(across: int, along: int, wide: float, long: float) -> Layout:
    """So many panes of a width and a length, laid; each overlaps the one below it."""
    whole_wide, whole_long = across * wide, along * long - (along - 1) * LAP_M
    return Layout(
        across, along, whole_wide - 2.0 * REST_M, whole_long - 2.0 * REST_M, (across - 1) * whole_long, (along - 1) * whole_wide
    )  # fmt: skip


def layouts(long_m: float, wide_m: float, count: int) -> Iterator[Layout]:
    """Every way to lay so many panes alike, or fewer of them, upright or lying.

    Parameters
    ----------
    long_m, wide_m
        of a pane
    count
        that there are
    """
    turned = {(wide_m, long_m), (long_m, wide_m)}
    for wide, long in sorted(turned):
        for across in range(1, count + 1):
            for along in range(1, count // across + 1):
                yield _laid(across, along, wide, long)


@dataclass(frozen=True)
class Glazing:
    """An opening closed by panes of the pile, each cut to what is wanted of it.

    Attributes:
        chosen: places in the list of those that are taken, in the order they are laid
        upright: whether they stand side by side, their joints up the slope
        joint_m: all joints
    """

    chosen: tuple[int, ...]
    upright: bool
    joint_m: float


def glazing(wide_m: float, long_m: float, panes: Sequence[tuple[float, float]]) -> Glazing | None:
    """Close an opening with as little joint as panes of any sizes allow: side by side, or one over the other; none where they do not reach.

    A pane may be cut, and laid either way. Of strips side by side each must be as long as the opening; few wide ones make the
    least joint, so the widest go first. Nothing is lapped here that stands side by side.

    Parameters
    ----------
    wide_m, long_m
        of the opening, what lies on the frame counted in
    panes
        sizes of what there is, m
    """
    columns = _strips(wide_m, long_m, panes, 0.0)
    rows = _strips(long_m, wide_m, panes, LAP_M)
    found = [
        *([] if columns is None else [Glazing(columns, True, (len(columns) - 1) * long_m)]),
        *([] if rows is None else [Glazing(rows, False, (len(rows) - 1) * wide_m)]),
    ]
    return min(found, key=lambda one: (one.joint_m, not one.upright), default=None)


def _strips(over_m: float, deep_m: float, panes: Sequence[tuple[float, float]], lap_m: float) -> tuple[int, ...] | None:
    """The fewest panes, each as deep as is wanted, that reach over a length; none where all of them do not."""
    reach = [(max((a for a, b in ((w, d), (d, w)) if b >= deep_m - 1e-9), default=0.0), k) for k, (w, d) in enumerate(panes)]  # fmt: skip
    chosen, covered = list[int](), 0.0
    for wide, k in sorted(reach, key=lambda one: (-one[0], one[1])):
        if wide <= lap_m:
            break
        covered += wide - (lap_m if chosen else 0.0)
        chosen.append(k)
        if covered >= over_m - 1e-9:
            return tuple(chosen)
    return None
