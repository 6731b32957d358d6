"""A draw-off: heat at the tap against what the tank lost, and which reading is likelier wrong where they disagree."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.arrays import Array
from drylamp.core.builds.protocol import INLET, OUTLET
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.kept.spec import KeptWater
from drylamp.core.text import amount, kelvin, kilowatt_hours, litres
from drylamp.core.trials.at_tap import MAINS_DOUBT_K, flow_read
from drylamp.core.trials.culprit import Culprit, Suspect, culprits
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.figure import Figure, Found

STIRRED_K = 0.6
"""How well one reading stands for all the water once it was stirred; from memory."""
FIRST_K = 1.0
"""How well the warmest water at the tap is known from what stood on top: pipe and mixing; from memory."""
LEAST_LITRES_SHARE = 0.15
"""A draw of less of the tank than this tells nothing of its heat."""
COMPARE = "hold both thermometers in one glass of warm water and correct the one that is off"
FLOW = "the flow"


@dataclass(frozen=True)
class DrawOff:
    """What was read of a draw-off.

    Attributes:
        drawn_l: litres that came
        tap_k: mean of out less in, weighed by how long it ran
        fall_k: how much the stirred water fell
        others_k: what sun gave and walls took of it meanwhile, by the twin, as a rise of all the water
        twin_fall_k, twin_tap_k: the same of the twin
        first_k: warmest at the tap less the tank before, as read and by the twin
        over_k: tank before, less the cold water
    """

    fill_l: float
    drawn_l: float
    tap_k: float
    fall_k: float
    others_k: float
    twin_fall_k: float
    twin_tap_k: float
    first_k: tuple[float, float]
    over_k: float

    @property
    def share(self) -> float:
        """Litres drawn by litres held."""
        return self.drawn_l / self.fill_l

    @property
    def contradictions(self) -> Array:
        """What ought to be nothing, K: the balance by litre held, the warmest water against the tank, the fall against the twin."""
        balance = self.tap_k * self.share - (self.fall_k + self.others_k)
        return np.array([balance, self.first_k[0] - self.first_k[1], self.fall_k - self.twin_fall_k])

    @property
    def noise(self) -> Array:
        """Their doubts were every instrument right."""
        stirred = hypot(STIRRED_K, STIRRED_K)
        return np.array([stirred, hypot(FIRST_K, STIRRED_K), stirred])

    def suspects(self, doubts: dict[str, float]) -> list[Suspect]:
        """What each instrument would do to them by reading one too much: a kelvin, or all of the flow."""
        by_start = self.twin_fall_k / max(self.over_k, 1.0)
        pulls = {
            "the thermometer at the tap": (self.share, 1.0, 0.0),
            "the thermometer in the tank": (0.0, -1.0, -by_start),
            "the reading of the cold water": (-self.share, 0.0, by_start),
            FLOW: (self.tap_k * self.share, 0.0, -self.twin_fall_k),
        }
        return [Suspect(name, doubts[name], pull) for name, pull in pulls.items()]


def _weighed(channel: ChannelFacts) -> Array:
    """How long each reading stands for, as shares of the whole."""
    at = channel.seconds
    edges = np.concatenate((at[:1], (at[1:] + at[:-1]) / 2.0, at[-1:]))
    return np.asarray(np.diff(edges) / (at[-1] - at[0]), dtype=float)


def _draw_off(found: Found) -> tuple[DrawOff, dict[str, float]] | None:
    facts, run = found.at.facts, found.at.likely
    out, tank, inlet = facts.of_node(OUTLET), facts.of_node(TOP), facts.of_node(INLET)
    flow, load = flow_read(facts), facts.load
    if out is None or tank is None or flow is None or load is None or len(out.values) < 3 or len(tank.values) < 2:
        return None
    ends = tank.seconds[[0, -1]]
    if out.seconds[-1] <= out.seconds[0] or ends[1] < out.seconds[-1]:
        return None
    fill_l, weight = cast(KeptWater, load).fill_l, _weighed(out)
    drawn_l = float(np.interp(out.seconds, flow[0], flow[1]) @ weight) * (out.seconds[-1] - out.seconds[0]) / 60.0
    cold = float(np.mean(inlet.values)) if inlet is not None else float(run.cold_c[0])
    if drawn_l < LEAST_LITRES_SHARE * fill_l:
        return None
    twin_out, names = run.at(OUTLET, out.seconds), cast(KeptWater, load).filling.names
    begun, ended = (float(np.mean([run.at(name, np.array([at]))[0] for name in names])) for at in ends)
    inside = (run.edge_s[:-1] >= ends[0] - 1.0) & (run.edge_s[:-1] < ends[1])
    twin_tap_k = float(run.drawn[load.tap].over(run.cold_c)[inside].sum()) / drawn_l
    read = DrawOff(
        fill_l=fill_l, drawn_l=drawn_l, tap_k=float(np.array(out.values) @ weight) - cold, fall_k=tank.values[0] - tank.values[-1],
        others_k=ended - begun + twin_tap_k * drawn_l / fill_l, twin_fall_k=begun - ended, twin_tap_k=twin_tap_k,
        first_k=(max(out.values) - tank.values[0], float(np.nanmax(twin_out)) - begun), over_k=tank.values[0] - cold,
    )  # fmt: skip
    doubts = {
        "the thermometer at the tap": out.doubt,
        "the thermometer in the tank": tank.doubt,
        "the reading of the cold water": MAINS_DOUBT_K if inlet is None else inlet.doubt,
        FLOW: flow[2],
    }
    return read, doubts


def _said(story: Culprit) -> str:
    """Who is off, which way, by how much."""
    if story.suspect.name == FLOW:
        return f"{FLOW} was read {amount(abs(story.off_by), 'share', story.doubt)} too {'high' if story.off_by > 0 else 'low'}"
    return f"{story.suspect.name} reads {kelvin(abs(story.off_by), story.doubt)} too {'high' if story.off_by > 0 else 'low'}"


def draw_off(found: Found) -> Figure | None:
    """Heat at the tap, held against what the tank lost."""
    made = _draw_off(found)
    if made is None:
        return None
    read, doubts = made
    kwh = read.drawn_l * CP_WATER_J_KGK / KWH_J
    value, lost, twin = kwh * read.tap_k, kwh * (read.fall_k + read.others_k) / read.share, kwh * read.twin_tap_k
    instruments = hypot(doubts["the thermometer at the tap"], doubts["the reading of the cold water"])
    doubt = hypot(kwh * instruments, abs(value) * doubts[FLOW])
    stories = culprits(read.contradictions, read.noise, read.suspects(doubts))
    words = f"{litres(read.drawn_l)} brought {kilowatt_hours(value, doubt)} to the tap; the tank gave {kilowatt_hours(lost)} by its own thermometer."
    fault = f"Likeliest, {' or '.join(_said(story) for story in stories)}" if stories else ""
    return Figure(
        name="draw-off", needs_words=True, title="Heat at the tap", value=round(value, 3), doubt=round(doubt, 3), quantity="energy", twin=round(twin, 3), digits=2,
        grade="readings contradict each other" if stories else "readings agree", passed=not stories, words=words, fault=fault, cure=_cure(stories),
    )  # fmt: skip


def _cure(stories: list[Culprit]) -> str:
    if not stories:
        return ""
    only_flow = all(story.suspect.name == FLOW for story in stories)
    return "time a full bucket twice and mark its litres by a scale" if only_flow else COMPARE
