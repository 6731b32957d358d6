"""What is asked of how a build is put up: slopes and cuts, panes and their joints, how it is filled, what lifts, how long its timber lasts."""

from __future__ import annotations

from drylamp.core.checks import Model, YesNo
from drylamp.core.text import Sentence


class PaneLayout(Model):
    """Panes on a roof: how many along and up, metres of joint that rain can get into, those across the slope among them, and what is cut off."""

    along: int
    up: int
    pane_wide_m: float
    pane_high_m: float
    joints_m: float
    across_m: float
    waste_share: float
    words: Sentence


class Lifts(Model):
    """A part that somebody lifts: its weight, and how many people that takes."""

    part: Sentence
    kg: float
    people: int


class Building(Model):
    """How it is put up, in numbers and words.

    Attributes:
        tilt_by_walls_deg: slope that front and rear wall make; none where no rear wall was typed
        conflict: whether that and the typed tilt differ
        rafter_m, plumb_cut_deg, seat_cut_deg: of one rafter, from level
        clear_m: free over the stack
        decay_years: until its timber at the ground is weak
    """

    tilt_by_walls_deg: float | None
    conflict: YesNo
    rafter_m: float
    plumb_cut_deg: float
    seat_cut_deg: float
    clear_m: float | None
    decay_years: float
    panes: PaneLayout | None
    lifts: list[Lifts]
    slope: Sentence
    filling: Sentence
    decay: Sentence
