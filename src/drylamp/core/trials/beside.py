"""The twin beside a trial: run on the trial's own weather, wherever the build stood, and held against each reading."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.checks import Model, YesNo, require
from drylamp.core.heat.between import between
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.text import Sentence, kelvin
from drylamp.core.threads import two_at_a_time
from drylamp.core.trials.at_tap import led_by_tap, with_outlet
from drylamp.core.trials.facts import ChannelFacts, TrialFacts, swapped_back
from drylamp.core.trials.own_weather import sun_spread, trial_weather
from drylamp.core.trials.protocols import PROTOCOLS, Protocol
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case
from drylamp.core.twin.placements import Placement, placements_of, toward_sun_of
from drylamp.core.twin.prepared import Prepared, prepare
from drylamp.core.twin.run import Run

MOST_DAYS = 366
AFTER_S, PREHEAT_S = 1800.0, 3600.0
BETWEEN = ("pane", "inner", "wall")
"""What stands between what is hot and the air when a hot box is left to cool."""
WARMED_THROUGH = (0.85, 0.7, 1.0)
"""How warm insulation is when a box that was hot for some hours is left to cool, against where it would settle: likely, at least, at most; from memory."""
FIRST_MINUTES = 3.0
"""A reading in the first minutes shows what a probe came from."""


class Residual(Model):
    """One reading beside the twin; low and high are what the sun's doubt leaves open."""

    time: datetime
    minutes: float
    reading_c: float
    twin_c: float
    low_c: float
    high_c: float
    residual_k: float
    doubt_k: float
    disturbed: str


class ChannelVerdict(Model):
    """How one channel lies beside the twin."""

    channel: str
    title: str
    node: str
    doubt_k: float
    bias_k: float | None
    scatter_k: float | None
    bias_doubt_k: float | None
    real: YesNo
    residuals: list[Residual]
    words: Sentence


@dataclass(frozen=True)
class Beside:
    """A trial made ready: facts put right, light traced once, and the twin run under the likely sun.

    Attributes:
        case: site, build and load of the trial, uncorrected by any calibration
        spread: what the sun may have been as a share of the likely sun, low and high
        likely, low, high: runs under the likely sun and under both ends of its doubt
    """

    case: Case
    facts: TrialFacts
    ready: Prepared
    first_c: dict[str, float]
    spread: tuple[float, float]
    likely: Run
    low: Run
    high: Run

    @property
    def site(self) -> Site:
        """Where it was run."""
        return self.case.site

    @property
    def build(self) -> Build:
        """The build that was tested."""
        return self.case.build

    def air_at(self, time_s: Array) -> Array:
        """The trial's air temperature at instants, °C."""
        return np.asarray(np.interp(time_s, self.likely.weather.sun.time_s, self.likely.weather.air_c))

    def twin_at(self, channel: ChannelFacts, run: Run | None = None, node: str = "") -> Array:
        """What a run, the likely one where none is named, says at a channel's readings of its node or of another, °C; NaN where the node was not there."""
        return (run or self.likely).at(node or channel.node, self.facts.in_trial(channel.seconds))

    def run(self, calibration: Calibration) -> Run:
        """The twin again under a calibration, on the same sun."""
        return _march(self.facts, self.ready, self.first_c, calibration)

    def under_both_suns(self, factors: dict[str, float]) -> tuple[Run, Run]:
        """The twin under factors by name, with the least and the most that the sun may have been."""
        made, (low, high) = Calibration.made(factors), self.spread
        least, most = (made.with_factor("optical", made.optical * share) for share in (max(low, 1e-6), high))
        return self.run(least), self.run(most)

    def of(self, build: Build) -> Beside:
        """The same trial as if another build had been tested; runs under the likely sun alone."""
        end_s = float(self.likely.edge_s[-1])
        case = self.case.with_(build=build)
        ready, first_c = _prepared(case, self.facts, end_s)
        likely = _march(self.facts, ready, first_c, Calibration())
        return replace(self, case=case, ready=ready, first_c=first_c, likely=likely, low=likely, high=likely)


def case_of(site: Site, build: Build, facts: TrialFacts, last_s: float) -> Case:
    """A trial as a case: its own spot, load, weather and days; the twin beside it is the textbook's."""
    first, last = (local_day(site.zone, at) for at in (facts.started.timestamp(), last_s))
    days = min(max((last - first).days + 1, 1), MOST_DAYS)
    return Case(
        name=facts.name, site=site, spot=facts.spot, build=build, load=facts.load, weather=facts.weather,
        span=Span(start=first, days=days),
    )  # fmt: skip


def beside(site: Site, build: Build, facts: TrialFacts, end_s: float | None = None) -> Beside:
    """Run the twin on a trial's own weather, from its start (or the hour of preheating before) to an instant.

    Raises
    ------
    InputProblem
        a spot is unknown, or the load does not fit the build.
    """
    facts = led_by_tap(swapped_back(facts))
    last_s = facts.last_s() + AFTER_S if end_s is None else end_s
    case = case_of(site, build, facts, last_s)
    ready, first_c = _prepared(case, facts, last_s)
    spread = sun_spread(facts, ready.weather)
    shares = (1.0, max(spread[0], 1e-6), spread[1])
    begins = [first_c] * 3 if not first_c else [_first_temperatures(facts, ready, warm) for warm in WARMED_THROUGH]
    likely, low, high = (
        _march(facts, ready, begin, Calibration(optical=share)) for begin, share in zip(begins, shares, strict=True)
    )
    return Beside(case, facts, ready, first_c, spread, likely, low, high)


def trial_twin(site: Site, build: Build, facts: TrialFacts, end_s: float, calibration: Calibration) -> Run:
    """The twin of a trial under a calibration, up to an instant."""
    facts = led_by_tap(facts)
    ready, first_c = _prepared(case_of(site, build, facts, end_s), facts, end_s)
    return _march(facts, ready, first_c, calibration)


def trial_twins(
    site: Site, build: Build, facts: TrialFacts, end_s: float, calibrations: Sequence[Calibration]
) -> list[Run]:
    """The same under each of several, on light traced once."""
    facts = led_by_tap(facts)
    ready, first_c = _prepared(case_of(site, build, facts, end_s), facts, end_s)
    return two_at_a_time(lambda one: _march(facts, ready, first_c, one), calibrations)


def _prepared(case: Case, facts: TrialFacts, end_s: float) -> tuple[Prepared, dict[str, float]]:
    begun = facts.started.timestamp()
    weather = trial_weather(case.site, facts, begun - lead_s(facts), max(end_s, begun + 120.0))
    ready = prepare(case, weather, placements(case, facts, weather))
    protocol = _protocol(facts)
    if protocol is None or not protocol.starts_hot:
        return ready, {}
    return ready.in_the_dark(), _first_temperatures(facts, ready, WARMED_THROUGH[0])


def _protocol(facts: TrialFacts) -> Protocol | None:
    return PROTOCOLS.get(facts.protocol)


def _ran_before(facts: TrialFacts) -> bool:
    """Whether water ran through it before the trial began."""
    protocol = _protocol(facts)
    return protocol is not None and protocol.runs_before


def lead_s(facts: TrialFacts) -> float:
    """For how long the twin runs before a trial begins."""
    return PREHEAT_S if facts.preheated or _ran_before(facts) else 0.0


def put_in_s(facts: TrialFacts) -> float | None:
    """When the load went in, seconds since 1970: with the trial, or before it where it had been running; none without one."""
    if facts.load is None:
        return None
    return facts.started.timestamp() - (PREHEAT_S if _ran_before(facts) else 0.0)


def _march(facts: TrialFacts, ready: Prepared, first_c: dict[str, float], calibration: Calibration) -> Run:
    return with_outlet(ready.run(calibration, first_c=first_c, put_s=put_in_s(facts)), facts.load)


def placements(case: Case, facts: TrialFacts, weather: Weather) -> list[Placement]:
    """Where the build stood and how it faced, from the trial's events; turned without a number means to the sun.

    A build that is turned by habit is taken to have been, unless the trial notes its turns or moves.
    """
    site, build = case.site, case.build
    if not any(event.row.asks in ("spot", "facing") for event in facts.events):
        return placements_of(facts.spot, build, weather)
    now = Placement(0.0, facts.spot)
    if build.tracking == "both":  # nobody leaves it standing
        now = toward_sun_of(site, build, facts.spot, facts.started.timestamp())
    out = [now]
    for event in sorted(facts.events, key=lambda e: e.time):
        since = event.time.timestamp()
        if event.row.asks == "spot":
            now = replace(now, from_s=since, spot=event.note.strip() or now.spot)
        elif event.row.asks == "facing":
            noted = _bearing(event.note)
            now = toward_sun_of(site, build, now.spot, since)
            now = now if noted is None else replace(now, facing_deg=noted)
        else:
            continue
        out.append(now)
    return out


def _bearing(note: str) -> float | None:
    """A bearing that was noted, degrees; none where the note begins with no number."""
    try:
        return float(note.split()[0]) % 360.0
    except (ValueError, IndexError):
        return None


def _first_temperatures(facts: TrialFacts, ready: Prepared, warmed: float) -> dict[str, float]:
    """Where a box that starts hot begins: at its first readings; panes and walls without a probe where heat that passes puts them,
    insulation so far warmed through.
    """
    read = {c.node: c.values[0] for c in facts.inside()}
    require(bool(read), "readings", "this trial has no reading inside the build yet; take at least one")
    network, weather = ready.fullest.network, ready.weather
    inside = float(np.mean(list(read.values())))
    guess = np.array([read.get(name, inside) for name in network.names])
    free = [k for k, node in enumerate(network.nodes) if node.name not in read and node.role in BETWEEN]
    found = between(
        network, guess, free, float(weather.air_c[0]), float(weather.sky_c[0]), float(weather.wind_m_s[0]), weather.pressure_pa
    )  # fmt: skip
    air_c = float(weather.air_c[0])
    for k in free:
        if network.nodes[k].role == "inner":
            found[k] = air_c + warmed * (found[k] - air_c)
    return dict(zip(network.names, found.tolist(), strict=True))


def residuals(channel: ChannelFacts, at: Beside) -> list[Residual]:
    """A channel's readings beside the twin; none where the twin has nothing to say."""
    twin, cold, hot = (at.twin_at(channel, run) for run in (at.likely, at.low, at.high))
    rows = []
    for k, time in enumerate(channel.times):
        if np.isnan(twin[k]):
            continue
        band = abs(float(hot[k] - cold[k])) / 2.0
        rows.append(
            Residual(
                time=time,
                minutes=at.facts.minutes_in(time),
                reading_c=channel.values[k],
                twin_c=round(float(twin[k]), 2),
                low_c=round(float(min(cold[k], hot[k])), 2),
                high_c=round(float(max(cold[k], hot[k])), 2),
                residual_k=round(channel.values[k] - float(twin[k]), 2),
                doubt_k=round(float(np.hypot(channel.doubt_at(k), band)), 2),
                disturbed=at.facts.disturbed(time),
            )
        )
    return rows


def channel_verdict(channel: ChannelFacts, at: Beside) -> ChannelVerdict:
    """How far a channel runs over or under the twin on the mean of its undisturbed readings, and whether that is real."""
    rows = residuals(channel, at)
    fair = fair_rows(rows)
    if not fair:
        words = (
            f"{channel.title}: every reading stands in a disturbed time or at the start, so nothing can be said yet."
        )
        return ChannelVerdict(
            channel=channel.channel, title=channel.title, node=channel.node, doubt_k=channel.doubt, bias_k=None,
            scatter_k=None, bias_doubt_k=None, real=False, residuals=rows, words=words,
        )  # fmt: skip
    residual = np.array([row.residual_k for row in fair])
    bias, scatter = float(residual.mean()), float(residual.std(ddof=1)) if len(fair) > 1 else 0.0
    shared = float(np.mean([row.doubt_k for row in fair]))
    doubt = float(np.hypot(shared, 2.0 * scatter / np.sqrt(len(fair))))
    real = abs(bias) > doubt
    side = "over" if bias > 0 else "under"
    if real:
        words = f"{channel.title} runs {kelvin(abs(bias))} {side} the twin (± {kelvin(doubt)}): a real difference."
    else:
        words = f"{channel.title} lies {kelvin(abs(bias))} {side} the twin, within the doubt of ± {kelvin(doubt)}: no difference shown."
    return ChannelVerdict(
        channel=channel.channel, title=channel.title, node=channel.node, doubt_k=channel.doubt, bias_k=round(bias, 2),
        scatter_k=round(scatter, 2), bias_doubt_k=round(doubt, 2), real=real, residuals=rows, words=words,
    )  # fmt: skip


def is_fair(minutes: float, disturbed: str) -> bool:
    """Whether a reading so long after the start may be held against the twin, with what disturbed it."""
    return not disturbed and minutes >= FIRST_MINUTES


def fair_rows(rows: Sequence[Residual]) -> list[Residual]:
    """Readings that may be held against the twin."""
    return [row for row in rows if is_fair(row.minutes, row.disturbed)]
