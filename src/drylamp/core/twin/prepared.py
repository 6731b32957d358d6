"""The one entry to simulate: a case made ready on a weather with all light traced, and marched under any calibration.

A daily load goes into the empty build at its hour and stays to midnight; a fresh one goes in the next day. A batch stays
until it is done, a standing load is always there (``schedule``).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

import numpy as np

from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import require
from drylamp.core.loads.load import Load
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.indoors import surrounded
from drylamp.core.sky.weather import Weather
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.calibration import Calibration, calibrated
from drylamp.core.twin.case import Case
from drylamp.core.twin.light import LitNetwork, SpotLight, lit_over
from drylamp.core.twin.march import march_phases
from drylamp.core.twin.placements import Placement, placements_of
from drylamp.core.twin.run import Run
from drylamp.core.twin.schedule import Filled, phases_of


@dataclass(frozen=True)
class Prepared:
    """A case on a weather with all light traced, ready to run under any calibration.

    Attributes:
        case, weather: what it was made for
        empty: its lit network without the load
        stages: its lit networks as the load goes in, one after the other
    """

    case: Case
    weather: Weather
    empty: LitNetwork
    stages: tuple[Filled, ...]

    @property
    def fullest(self) -> LitNetwork:
        """The lit network with everything in."""
        return self.stages[-1].lit if self.stages else self.empty

    def in_the_dark(self, from_s: float | None = None) -> Prepared:
        """The same with the sun kept off, as by a cloth over the glass; from an instant on where one is given."""
        return self._lit_in(self.weather.sun.time_s < (-np.inf if from_s is None else from_s))

    def shaded_between(self, from_s: float, until_s: float) -> Prepared:
        """The same with the sun kept off for a while, as by a cloud that passes."""
        times = self.weather.sun.time_s
        return self._lit_in((times < from_s) | (times >= until_s))

    def uncovered(self, from_s: float) -> Prepared:
        """The same with the sun kept off until an instant."""
        return self._lit_in(self.weather.sun.time_s >= from_s)

    @property
    def _kept_in_shade(self) -> LitNetwork:
        """The empty build before its load goes in: in the dark, where both are put out together."""
        load = self.case.load
        dark = load is not None and load.brings_out
        return self.empty.lit_in(np.zeros(self.weather.steps)) if dark else self.empty

    def _lit_in(self, steps: np.ndarray) -> Prepared:
        share = steps.astype(float)
        stages = tuple(replace(stage, lit=stage.lit.lit_in(share)) for stage in self.stages)
        return replace(self, empty=self.empty.lit_in(share), stages=stages)

    def run(
        self,
        calibration: Calibration | None = None,
        with_load: bool = True,
        first_c: dict[str, float] | None = None,
        put_s: float | None = None,
        goes_in: str | None = None,
    ) -> Run:
        """March it.

        Parameters
        ----------
        calibration : Calibration, optional
            Another one than the case's own.
        with_load : bool
            Whether anything goes in.
        first_c : dict, optional
            Temperatures of nodes at the start [°C], over the case's own; the first step's air where neither says any.
        put_s : float, optional
            When the load goes in once for all [s since 1970 UTC]; by its calendar where not given.
        goes_in : str, optional
            Another hour of the day for all of the load.

        Returns
        -------
        Run
            Temperatures, powers and masses step by step; its ledger closes.
        """
        factors, build = calibration or self.case.calibration, self.case.build
        before = self._kept_in_shade if with_load else self.empty
        empty = calibrated(before, factors, build, None)
        stages = [
            replace(stage, lit=calibrated(stage.lit, factors, build, stage.load)) for stage in self.stages if with_load
        ]
        if goes_in is not None:
            stages = [replace(stage, goes_in=goes_in) for stage in stages[-1:]]
        begins = self.case.first_c | (first_c or {})
        phases = phases_of(self.case.site, self.weather, empty, stages, begins, put_s)
        return march_phases(self.case, self.weather, phases, begins)


def prepare(case: Case, weather: Weather, placements: Sequence[Placement] | None = None) -> Prepared:
    """Trace the light of a run.

    Parameters
    ----------
    case : Case
        What is run; its own weather and span are not looked at.
    weather : Weather
        What drives the run.
    placements : sequence of Placement, optional
        Where the build stands in the course of it; at the case's spot, turned as the build says, where not given.

    Raises
    ------
    InputProblem
        The spot is unknown or the load does not fit the build.
    """
    build, load = case.build, case.load
    kind_of(build).check_fit(build, load)
    weather = surrounded(case.site.spot(case.spot), weather)
    stands = placements_of(case.spot, build, weather) if placements is None else placements
    parts: list[tuple[str, Load]] = [] if load is None else load.stages()
    lights = {spot: SpotLight.of(case.site, spot, weather) for spot in dict.fromkeys(at.spot for at in stands)}
    empty, *filled = two_at_a_time(
        lambda part: lit_over(stands, build, part, weather, lights), [None, *(part for _, part in parts)]
    )
    kind = kind_of(build)
    gate = kind.drives(build).get(kind.sun_gate)
    if gate is not None:
        share = gate.ceiling(case.site, weather)
        empty, filled = empty.lit_in(share), [lit.lit_in(share) for lit in filled]
    dimmed = [
        lit.dimmed(dims) if (dims := part.dims(case.site, weather)) else lit
        for (_, part), lit in zip(parts, filled, strict=True)
    ]
    first = local_day(case.site.zone, weather.start_s)
    after = [0] * len(parts) if load is None else load.days_from(first) or [0] * len(parts)
    last = local_day(case.site.zone, weather.start_s + weather.steps * weather.dt_s - 1.0)
    require(
        not after or first + timedelta(days=min(after)) <= last, "load",
        f"the first of it goes in on {first + timedelta(days=min(after, default=0))}, and {last} is the last day that is run; run longer, or begin later",
    )  # fmt: skip
    stages = [Filled(hour, part, lit, day) for (hour, part), lit, day in zip(parts, dimmed, after, strict=True)]
    return _check_first(Prepared(case, weather, empty, tuple(stages)))


def simulate(case: Case, weather: Weather) -> Run:
    """Run the twin.

    Raises
    ------
    InputProblem
        the spot is unknown or the load does not fit.
    """
    return prepare(case, weather).run()


def simulate_with_empty(case: Case, weather: Weather) -> tuple[Run, Run]:
    """Run the twin with its load and empty on the same weather, tracing the empty build once.

    Returns
    -------
    The loaded run and the empty one; the same run twice without a load.
    """
    ready = prepare(case, weather)
    run = ready.run()
    return run, run if case.load is None else ready.run(with_load=False)


def _check_first(ready: Prepared) -> Prepared:
    """Refuse first temperatures of what is not there.

    Raises
    ------
    InputProblem
        names the parts that are.
    """
    known = [node.name for node in ready.fullest.network.readable]
    for name in ready.case.first_c:
        require(
            name in known, f"first_c.{name}", f"'{name}' is no part of this build; its parts are {', '.join(known)}"
        )
    return ready
