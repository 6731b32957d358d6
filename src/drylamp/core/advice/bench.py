"""Where changes, schools and sayings are tried: one day of one site, and one number for how well a load did on it."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Literal

import numpy as np

from drylamp.core.builds.kinds import BuildSpec, kind_of
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.portions import Portions
from drylamp.core.loads.wax import WaxBatch
from drylamp.core.outcome import reached
from drylamp.core.results import ALL_RUN
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.twin import Adjustments, Prepared, Run, prepare_at

JUDGED_HOURS = 4.0
"""A load is judged by how warm it is over so long after it went in: it saturates neither at boiling nor at a target."""
PROPERTY_SHARE = 0.15
"""Doubt of a gain from what is doubtful about the materials themselves, as a share of it; from memory."""
RAY_NOISE_K, RAY_NOISE_KG_H = 0.2, 0.003


@dataclass(frozen=True)
class Score:
    """How well a load did.

    Attributes:
        value: kelvin (mean over the hours after it went in), or kilograms of clean wax an hour from laying in to the end of
            its run: more of it counts, and so does sooner
        minutes: to the target, where there is one and it is reached
        peak_c: the hottest it got
    """

    value: float
    minutes: float | None
    peak_c: float


@dataclass(frozen=True)
class Bench:
    """A day at a spot under a calibration."""

    site: Site
    spot: str | None
    weather: Weather
    adjustments: Adjustments

    def ready(self, build: BuildSpec, load: AnyLoad | None) -> Prepared:
        """A build on this day, traced."""
        return prepare_at(self.site, self.spot, build, load, self.weather)

    def run(self, build: BuildSpec, load: AnyLoad | None) -> Run:
        """A build on this day."""
        return self.ready(build, load).run(self.adjustments)

    def score(self, build: BuildSpec, load: AnyLoad | None) -> Score:
        """How well it does."""
        return score_of(self.site, build, load, self.run(build, load))

    def scores(
        self, cases: Sequence[tuple[BuildSpec, AnyLoad | None]], tunes: Sequence[Adjustments]
    ) -> list[list[Score]]:
        """How well each does under each of several adjustments, two at a time."""

        def one(case: tuple[BuildSpec, AnyLoad | None]) -> list[Score]:
            ready = self.ready(*case)
            return [score_of(self.site, *case, ready.run(tune)) for tune in tunes]

        with ThreadPoolExecutor(max_workers=2) as both:
            return list(both.map(one, cases))

    def doubtful(self, build: BuildSpec) -> list[Adjustments]:
        """The calibration itself, and it with each doubtful parameter moved by its spread."""
        moved = [self.adjustments]
        for parameter in kind_of(build).doubtful(build):
            if parameter.name in ("optical", "loss", "leak", "mass"):
                factor = self.adjustments.of(parameter.name) * float(np.exp(parameter.prior))
                moved.append(self.adjustments.model_copy(update={parameter.name: factor}))
        return moved

    def on(self, **change: object) -> Bench:
        """The same bench under other weather."""
        return replace(self, weather=replace(self.weather, **change))  # type: ignore[arg-type]


def unit_of(load: AnyLoad | None) -> Literal["K", "kg/h"]:
    """What a score is counted in."""
    return "kg/h" if isinstance(load, WaxBatch) else "K"


def noise_of(load: AnyLoad | None) -> float:
    """What the rays alone leave open of a score."""
    return RAY_NOISE_KG_H if isinstance(load, WaxBatch) else RAY_NOISE_K


def put_in(site: Site, load: AnyLoad, weather: Weather) -> float:
    """Instant at which a load goes in on a run's first day, seconds since 1970."""
    day = datetime.fromtimestamp(weather.start_s, site.zone)
    hours, minutes = (int(part) for part in load.goes_in.split(":"))
    return (day.replace(hour=0, minute=0) + timedelta(hours=hours, minutes=minutes)).timestamp()


def score_of(site: Site, build: BuildSpec, load: AnyLoad | None, run: Run) -> Score:
    """One number for a run; without a load the hottest of what would get hottest."""
    if load is None:
        peak = float(np.nanmax(run.temperature_c[kind_of(build).hot_node(build)]))
        return Score(peak, None, peak)
    series = run.temperature_c[load.judged]
    begun = put_in(site, load, run.weather)
    when = reached(run.edge_s, series, load.wanted_c)
    minutes = None if when is None else (when - begun) / 60.0
    peak = float(np.nanmax(series))
    if isinstance(load, WaxBatch):
        return Score(_wax_kg_h(load, run, begun), minutes, peak)
    nodes = [portion.node for portion in load.portions] if isinstance(load, Portions) else [load.judged]
    window = (run.edge_s >= begun) & (run.edge_s <= begun + 3600.0 * JUDGED_HOURS)
    means = [
        float(np.nanmean(run.temperature_c[node][window]))
        for node in nodes
        if not np.isnan(run.temperature_c[node][window]).all()
    ]
    return Score(float(np.mean(means)) if means else peak, minutes, peak)


def _wax_kg_h(load: WaxBatch, run: Run, begun_s: float) -> float:
    caught = np.nan_to_num(run.mass_kg["catch"])
    done = reached(run.edge_s, caught, ALL_RUN * load.yield_kg)
    lit = np.flatnonzero(run.opening_w > 1.0)
    end = done if done is not None else float(run.edge_s[lit[-1] + 1]) if len(lit) else float(run.edge_s[-1])
    kilograms = ALL_RUN * load.yield_kg if done is not None else float(caught[-1])
    return kilograms / max((end - begun_s) / 3600.0, 0.25)


def doubt_of(gains: Sequence[float], load: AnyLoad | None) -> float:
    """Doubt of a gain: how it moves with each doubtful parameter, what materials leave open, and the rays' noise."""
    moved = np.array(gains[1:]) - gains[0]
    return float(np.sqrt((moved**2).sum() + (PROPERTY_SHARE * gains[0]) ** 2 + noise_of(load) ** 2))
