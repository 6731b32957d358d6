"""What a set of samples tells of its finishes: absorptance and emittance, and a wall of blocks from one block."""

from __future__ import annotations

import re

import numpy as np
from pydantic import Field

from drylamp.core.builds.common.side_by_side import Sample, SideBySide
from drylamp.core.checks import InputProblem, Model, YesNo
from drylamp.core.sky.clock import day_edges_s, local_day
from drylamp.core.tables import Absorber
from drylamp.core.text import Sentence, amount, celsius, kilowatt_hours, metres, square_metres
from drylamp.core.trials.beside import Beside, placements
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.fit import Fit, FittedParameter, fit
from drylamp.core.trials.own_weather import trial_weather
from drylamp.core.twin.prepared import prepare
from drylamp.core.twin.run import Run

DARK_W_M2 = 20.0
WARM_K = 3.0
GIVEN_HOURS = 4.0
IN_19_OF_20 = 1.96
"""Standard deviations to each side that hold 19 cases of 20 (normal distribution)."""


class Property(Model):
    """An estimate with the range that holds it in 19 cases of 20, beside the listed value."""

    value: float
    low: float
    high: float
    listed: float
    told: YesNo


class FinishEstimate(Model):
    """Absorptance and emittance of one sample; emittance only where it was read warm in the dark."""

    sample: str
    title: str
    absorptance: Property
    emittance: Property | None
    row: Absorber | None = Field(description="As the shelf may take it; none where the readings do not tell")
    words: Sentence


def estimate_finishes(at: Beside) -> tuple[list[FinishEstimate], Fit | None]:
    """Absorptance of every sample that was read, with wind in doubt; emittance too where readings go into the dark."""
    build = at.build.side_by_side
    if build is None:
        return [], None
    read = [sample for sample in build.samples if at.facts.of_node(sample.node) is not None]
    dark = [sample for sample in read if _read_in_the_dark(at, sample)]
    names = (
        [f"absorptance:{sample.node}" for sample in read] + ["loss"] + [f"emittance:{sample.node}" for sample in dark]
    )
    try:
        found = fit(at, names)
    except InputProblem:
        return [], None
    return [_estimate(sample, found, sample in dark) for sample in read], found


def dark_readings(at: Beside, channel: ChannelFacts) -> np.ndarray:
    """Which readings were taken after the sun had left, shape (n,)."""
    sun = np.interp(channel.seconds, at.likely.weather.sun.time_s, at.likely.opening_w)
    area = at.build.opening_m2
    return np.asarray(sun / area < DARK_W_M2)


def _read_in_the_dark(at: Beside, sample: Sample) -> bool:
    channel = at.facts.of_node(sample.node)
    if channel is None:
        return False
    air = at.air_at(channel.seconds)
    return int((dark_readings(at, channel) & (np.array(channel.values) - air > WARM_K)).sum()) >= 3


def _property(fitted: FittedParameter, listed: float) -> Property:
    value, low, high = (min(listed * factor, 1.0) for factor in (fitted.value, fitted.low, fitted.high))
    return Property(value=round(value, 3), low=round(low, 3), high=round(high, 3), listed=listed, told=fitted.told)


def _estimate(sample: Sample, found: Fit, in_the_dark: bool) -> FinishEstimate:
    takes = _property(found.of(f"absorptance:{sample.node}"), sample.row.absorptance)
    gives = _property(found.of(f"emittance:{sample.node}"), sample.row.emittance) if in_the_dark else None
    words = f"{sample.title}: absorptance {takes.value:.2f} ({takes.low:.2f} to {takes.high:.2f}; listed {takes.listed:.2f})"
    if gives is None:
        words += f", emittance held at the listed {sample.row.emittance:.2f}: only readings after dark would tell it"
    elif not gives.told:
        words += f", emittance not told by these readings (listed {gives.listed:.2f})"
    else:
        words += f", emittance {gives.value:.2f} ({gives.low:.2f} to {gives.high:.2f}; listed {gives.listed:.2f})"
    return FinishEstimate(
        sample=sample.name, title=sample.title, absorptance=takes, emittance=gives, row=_row(sample, takes, gives), words=words + "."
    )  # fmt: skip


def _row(sample: Sample, takes: Property, gives: Property | None) -> Absorber | None:
    """The finish with what was measured in the place of what was listed, its doubt as a standard deviation."""
    if not takes.told:
        return None
    warm = sample.row.emittance if gives is None or not gives.told else gives.value
    return sample.row.model_copy(
        update={
            "name": f"measured-{re.sub('[^a-z0-9]+', '-', sample.name.lower()).strip('-')}", "title": f"{sample.title}, as measured", "price_m2": sample.price_m2 or sample.row.price_m2,
            "absorptance": takes.value, "emittance": warm, "absorptance_doubt": round((takes.high - takes.low) / 2.0 / IN_19_OF_20, 3),
            "source": f"measured beside other samples; it is listed as {takes.listed:.2f}",
        }
    )  # fmt: skip


class WallLine(Model):
    """One square metre of wall of one kind of block: how warm at dusk, and what it gives back in the hours after."""

    sample: str
    title: str
    dusk_c: float
    later_c: float
    stored_kwh_m2: float
    given_kwh_m2: float
    doubt_kwh_m2: float
    wall_m2: float
    wall_kwh: float
    wall_doubt_kwh: float
    words: Sentence


def wall_of(at: Beside, found: Fit | None, wall_m2: float = 1.0) -> list[WallLine]:
    """From single blocks with warm sides to a wall without: the fitted twin with sides wrapped and no gaps, into the evening."""
    build = at.build.side_by_side
    if build is None or all(len(build.slices_of(sample)) == 1 for sample in build.samples):
        return []
    joined = build.as_a_wall()
    weather = trial_weather(at.site, at.facts, at.likely.weather.start_s, _midnight_s(at))
    case = at.case.with_(build=joined, load=None)
    run = prepare(case, weather, placements(case, at.facts, weather)).run(None if found is None else found.calibration)
    lit = np.flatnonzero(run.opening_w / joined.opening_m2 > DARK_W_M2)
    if not len(lit):
        return []
    dusk = int(lit[-1]) + 1
    later = min(dusk + round(GIVEN_HOURS * 3600.0 / weather.dt_s), weather.steps)
    return [_wall_line(at, joined, sample, run, (dusk, later), wall_m2) for sample in build.samples]


def _midnight_s(at: Beside) -> float:
    zone = at.site.zone
    return day_edges_s(zone, local_day(zone, at.facts.started.timestamp()))[1]


def _wall_line(
    at: Beside, build: SideBySide, sample: Sample, run: Run, steps: tuple[int, int], wall_m2: float
) -> WallLine:
    dusk, later = steps
    stuff = build.stuff_of(sample)
    depth, names, row = build.slices_of(sample), build.slice_nodes(sample), stuff.row
    weight = np.array(depth) * row.density_kg_m3 * row.cp_j_kgk / 3.6e6

    def over_air(step: int) -> float:
        """Heat over that of blocks at the air of dusk, kWh/m²."""
        return float(
            sum(
                w * (run.temperature_c[n][step] - run.weather.air_c[dusk - 1])
                for w, n in zip(weight, names, strict=True)
            )
        )

    stored, given = over_air(dusk), over_air(dusk) - over_air(later)
    face = run.temperature_c[sample.node]
    doubt = given * _share_in_doubt(at, sample)
    hours = (later - dusk) * run.weather.dt_s / 3600.0
    words = (
        f"A wall of {sample.title} blocks, {metres(stuff.thickness_m)} thick, stands at {celsius(face[dusk])} when the sun leaves it "
        f"and gives back {amount(given, 'exposure', doubt)} in {hours:.1f} h."
    )
    if wall_m2 != 1.0:
        words += f" {square_metres(wall_m2)} of it: {kilowatt_hours(given * wall_m2, doubt * wall_m2)}."
    return WallLine(
        sample=sample.name, title=sample.title, dusk_c=round(float(face[dusk]), 1), later_c=round(float(face[later]), 1),
        stored_kwh_m2=round(stored, 3), given_kwh_m2=round(given, 3), doubt_kwh_m2=round(doubt, 3), wall_m2=wall_m2, wall_kwh=round(given * wall_m2, 2),
        wall_doubt_kwh=round(doubt * wall_m2, 2), words=words,
    )  # fmt: skip


def _share_in_doubt(at: Beside, sample: Sample) -> float:
    """What the block's own readings leave open of its rise over the air, as a share; a quarter where it was not read."""
    channel = at.facts.of_node(sample.node)
    if channel is None:
        return 0.25
    air = at.air_at(channel.seconds)
    rise = float(np.max(np.array(channel.values) - air))
    return min(float(np.hypot(channel.doubt / max(rise, 1.0), 0.08)), 1.0)
