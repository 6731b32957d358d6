"""Figures of a trial with running water: watts by bucket and stopwatch, what each row passes, the collector's line."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.arrays import Array
from drylamp.core.builds.common.protocols import LET_AIR_OUT
from drylamp.core.builds.protocol import INLET, OUTLET
from drylamp.core.text import amount, celsius, litres_a_minute, watts
from drylamp.core.trials.at_tap import MAINS_DOUBT_K, flow_read, rows_read
from drylamp.core.trials.beside import is_fair
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.twin.run import Run

STARVED_SHARE = 0.6
"""A row that passes less of an equal share than this holds air, is kinked or is dirty; common practice, no source."""
LEAST_POINTS, LEAST_SPREAD_M2K_W = 4, 0.01
"""A line needs so many points, and warm ones so far from cold ones in (water − air) / sun."""
TEST_SUN_W_M2 = 700.0
"""Least sun of a collector test (ISO 9806, from memory)."""


@dataclass(frozen=True)
class Points:
    """Undisturbed readings of what ran, each shape (n,): instants, kg/s, °C in and out, and their doubts.

    Attributes:
        apart_doubt_k: doubt of out less in: one thermometer's own error drops out
    """

    time_s: Array
    kg_s: Array
    in_c: Array
    out_c: Array
    flow_doubt_share: float
    apart_doubt_k: float

    @property
    def watts(self) -> Array:
        """Carried off by the water."""
        return self.kg_s * CP_WATER_J_KGK * (self.out_c - self.in_c)

    def doubt_w(self, shared_only: bool = False) -> float:
        """Doubt of the mean watts: what all readings share, and what they scatter by."""
        mean = float(self.watts.mean())
        warmer = max(abs(float((self.out_c - self.in_c).mean())), 0.05)
        shared = abs(mean) * hypot(self.flow_doubt_share, self.apart_doubt_k / warmer)
        few = len(self.time_s) < 2 or shared_only
        return shared if few else hypot(shared, 2.0 * float(self.watts.std(ddof=1)) / sqrt(len(self.time_s)))


def points_of(found: Found) -> Points | None:
    """Readings of the outlet with flow and inlet at their instants; none where flow or outlet was not read."""
    facts = found.at.facts
    out, flow, load = facts.of_node(OUTLET), flow_read(facts), facts.load
    if out is None or flow is None or load is None:
        return None
    fair = np.array([is_fair(facts.minutes_in(time), facts.disturbed(time)) for time in out.times])
    if not fair.any():
        return None
    at, inlet = out.seconds[fair], facts.of_node(INLET)
    came = np.interp(at, found.at.likely.weather.sun.time_s, found.at.likely.cold_c)
    apart = hypot(out.doubt, MAINS_DOUBT_K)
    if inlet is not None:
        came = np.interp(at, inlet.seconds, inlet.values)
        same = bool(out.device) and out.device == inlet.device
        apart = out.doubt / 2.0 if same else hypot(out.doubt, inlet.doubt)
    return Points(at, np.interp(at, flow[0], flow[1]) / 60.0, came, np.array(out.values)[fair], flow[2], apart)


def _twin_w(run: Run, found: Found, points: Points) -> float:
    """Mean of what the twin's water carried off at the points' instants."""
    load = found.at.facts.load
    assert load is not None
    return float(np.interp(points.time_s, run.weather.sun.time_s, run.carried_w(load.tap)).mean())


def tap_power(found: Found) -> Figure | None:
    """Watts that the water carried off."""
    points = points_of(found)
    if points is None:
        return None
    value, doubt = float(points.watts.mean()), points.doubt_w()
    low, twin, high = (_twin_w(run, found, points) for run in (found.at.low, found.at.likely, found.at.high))
    share = "" if twin <= 0 else f", {amount(value / twin, 'share')} of it"
    words = (
        f"{litres_a_minute(60.0 * float(points.kg_s.mean()))} came in at {celsius(float(points.in_c.mean()))} and out at {celsius(float(points.out_c.mean()))}: "
        f"{watts(value, doubt)}. The twin says {watts(twin)} ({watts(low)} to {watts(high)} by the sun's doubt){share}."
    )
    return Figure(
        name="tap-power", needs_words=True, title="Carried off by the water", value=round(value, 1), doubt=round(doubt, 1), quantity="power", twin=round(twin, 1),
        grade="", words=words,
    )  # fmt: skip


def rows(found: Found) -> Figure | None:
    """What the row that passes least has of an equal share."""
    read = rows_read(found.at.facts)
    if len(read) < 2:
        return None
    flow = {number: float(np.mean(channel.values)) for number, channel in read.items()}
    whole = sum(flow.values())
    if whole <= 0:
        return None
    least = min(flow, key=lambda number: flow[number])
    share, doubt = flow[least] * len(flow) / whole, read[least].doubt * flow[least] * len(flow) / whole
    starved = share + doubt < STARVED_SHARE
    passed = ", ".join(f"row {number} {litres_a_minute(value)}" for number, value in flow.items())
    said = f"Row {least} passes {litres_a_minute(flow[least])} of {litres_a_minute(whole)}"
    return Figure(
        name="rows", needs_words=True, title=f"Row {least}, of an equal share", value=round(share, 3), doubt=round(doubt, 3), quantity="share", twin=1.0,
        grade=f"row {least} hardly runs" if starved else "all rows run", passed=not starved, words=f"By rows: {passed}.",
        fault=f"{said}: air, a kink or dirt sits in it" if starved else "", cure=LET_AIR_OUT if starved else "",
    )  # fmt: skip


@dataclass(frozen=True)
class CollectorLine:
    """η = η₀ − a₁ (Tm − Ta) / G, with the doubts of both."""

    share: float
    loss_w_m2k: float
    share_doubt: float
    loss_doubt: float


def collector_line(efficiency: Array, reduced_m2k_w: Array) -> CollectorLine | None:
    """Fit the line of a collector by least squares; none where the points are too few or too close together.

    Parameters
    ----------
    efficiency, reduced_m2k_w
        heat as a share of the sun, and (mean water − air) / sun, shape (n,)

    References
    ----------
    ISO 9806 (mean fluid temperature, first order); Duffie & Beckman, section 6.17.
    """
    if len(efficiency) < LEAST_POINTS or float(np.ptp(reduced_m2k_w)) < LEAST_SPREAD_M2K_W:
        return None
    line, covariance = np.polyfit(reduced_m2k_w, efficiency, 1, cov=True)
    slope, share = 2.0 * np.sqrt(np.diag(covariance))
    return CollectorLine(float(line[1]), -float(line[0]), float(share), float(slope))


def _line(found: Found) -> tuple[CollectorLine, CollectorLine | None, Points] | None:
    """As measured and as the twin has it, by the sun that met the coil."""
    points = points_of(found)
    if points is None:
        return None
    run, build = found.at.likely, found.at.build
    middle = run.weather.sun.time_s
    sun = np.interp(points.time_s, middle, run.opening_w)
    air = found.at.air_at(points.time_s)
    reduced = ((points.in_c + points.out_c) / 2.0 - air) * build.opening_m2 / np.maximum(sun, 1.0)
    lit = sun > 0.5 * TEST_SUN_W_M2 * build.opening_m2
    measured = collector_line((points.watts / np.maximum(sun, 1.0))[lit], reduced[lit])
    if measured is None:
        return None
    twin_out = run.at(OUTLET, points.time_s)
    twin_w = points.kg_s * CP_WATER_J_KGK * (twin_out - points.in_c)
    twin_x = ((points.in_c + twin_out) / 2.0 - air) * build.opening_m2 / np.maximum(sun, 1.0)
    good = lit & ~np.isnan(twin_out)
    return measured, collector_line((twin_w / np.maximum(sun, 1.0))[good], twin_x[good]), points


def collector_share(found: Found) -> Figure | None:
    """Share of the sun that it takes while the water is as warm as the air."""
    lines = _line(found)
    if lines is None:
        return None
    line, twin, points = lines
    beside = "" if twin is None else f"; the twin has {twin.share:.2f} and {twin.loss_w_m2k:.1f} W/m²K"
    shared = abs(line.share) * points.doubt_w(shared_only=True) / max(abs(float(points.watts.mean())), 1.0)
    doubt = hypot(line.share_doubt, shared)
    words = (
        f"It takes {line.share:.2f} ± {doubt:.2f} of the sun while the water is as warm as the air, and loses {line.loss_w_m2k:.1f} ± {line.loss_doubt:.1f} W "
        f"by each square metre and kelvin over it{beside}. Good glazed plates: 0.70 to 0.82, and 3 to 8 (from memory)."
    )
    return Figure(
        name="collector-share", needs_words=True, title="Share of the sun, water as warm as the air", value=round(line.share, 3), doubt=round(doubt, 3), quantity="plain",
        twin=None if twin is None else round(twin.share, 3), grade="", words=words, digits=2,
    )  # fmt: skip


def collector_loss(found: Found) -> Figure | None:
    """What it loses by each square metre and kelvin over the air."""
    lines = _line(found)
    if lines is None:
        return None
    line, twin, _ = lines
    return Figure(
        name="collector-loss", title="Loss", value=round(line.loss_w_m2k, 2), doubt=round(line.loss_doubt, 2), quantity="plain", unit="W/m²K",
        twin=None if twin is None else round(twin.loss_w_m2k, 2), grade="", words=f"Loss {line.loss_w_m2k:.1f} ± {line.loss_doubt:.1f} W/m²K.", digits=1,
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {
    "tap-power": tap_power, "rows": rows, "collector-share": collector_share, "collector-loss": collector_loss,
}  # fmt: skip
