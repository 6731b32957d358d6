"""The twin: build + site + weather + load → what it will do. The one entry to simulate.

A day runs from local midnight. The box stands empty until the pot goes in; the pot then stays to the end of the
day, and on a run of several days a fresh pot goes in each day at the same hour.
"""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import cached_property, lru_cache

import numpy as np
from pydantic import Field

from drylamp.core.air.moist import boiling_c
from drylamp.core.builds.kinds import BUILD, BuildSpec, kind_of
from drylamp.core.checks import Model, Positive
from drylamp.core.heat.network import (
    Drive,
    History,
    Network,
    advance,
    closure,
    jump_substeps,
    reset_substeps,
)
from drylamp.core.loads.load import AnyLoad, read_load
from drylamp.core.optics.spread import Even, over_run
from drylamp.core.optics.sun_plan import SunPlan, sun_plan
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import Array, sun_path
from drylamp.core.sky.weather import Weather


class Adjustments(Model):
    """What calibration may change in the twin: factors on its doubtful parameters; ``parts`` by the parameter's own name."""

    optical: Positive = 1.0
    loss: Positive = 1.0
    leak: Positive = 1.0
    mass: Positive = 1.0
    contact: Positive = 1.0
    parts: dict[str, Positive] = Field(default_factory=dict, description="Such as absorptance:sample-a")

    def of(self, name: str) -> float:
        """The factor of that name; 1 where nothing is said."""
        return float(getattr(self, name)) if name in _PLAIN else self.parts.get(name, 1.0)

    @staticmethod
    def made(factors: dict[str, float]) -> Adjustments:
        """Adjustments from factors by name."""
        plain = {name: value for name, value in factors.items() if name in _PLAIN}
        return Adjustments(**plain, parts={name: value for name, value in factors.items() if name not in _PLAIN})


TURNED_FROM_DEG = 5.0
LONGEST_TURNED_S = 15 * 86400.0
"""Longer runs leave the build as it stands: each turn is traced."""
MOST_PATHS, LONGEST_KEPT = 16, 2000
"""Paths of the sun kept for each build, and the most places on one; a day's is some 10 kB."""
_PLAIN = ("optical", "loss", "leak", "mass", "contact")


@dataclass(frozen=True)
class Stand:
    """Where a build stands from an instant on: its spot, and the way it faces and leans when it was turned."""

    from_s: float
    spot: str | None
    facing_deg: float | None = None
    tilt_deg: float | None = None


@dataclass(frozen=True)
class Run:
    """What a build did over a span.

    Attributes:
        edge_s: instants of the temperatures, seconds since 1970 UTC, shape (steps + 1,)
        temperature_c: by node, shape (steps + 1,); a load's nodes are NaN while it is not in the build
        mass_kg: of what melts, by node, shape (steps + 1,); NaN likewise
        account_w: mean watts of each step by account of the ledger, shape (steps,)
        opening_w: sun meeting the opening, mirror's share included, shape (steps,)
        plane_w_m2: the weather's global sun on level ground, shape (steps,)
        energy_closure: energy unaccounted for, as a share of the sun taken up
        titles: node names in plain words
        weather: what drove the run
    """

    edge_s: Array
    temperature_c: dict[str, Array]
    account_w: dict[str, Array]
    opening_w: Array
    plane_w_m2: Array
    energy_closure: float
    titles: dict[str, str]
    weather: Weather
    mass_kg: dict[str, Array]

    def at(self, node: str, time_s: Array) -> Array:
        """Temperature of a node at instants, °C; NaN where it was not in the box."""
        series = self.temperature_c[node]
        good = ~np.isnan(series)
        if not good.any():
            return np.full(len(np.atleast_1d(time_s)), np.nan)
        first, last = self.edge_s[good][0], self.edge_s[good][-1]
        out = np.interp(time_s, self.edge_s[good], series[good])
        return np.where((time_s >= first) & (time_s <= last), out, np.nan)


@dataclass(frozen=True)
class Scene:
    """A network with the sun in its nodes for the whole span."""

    network: Network
    source_w: Array
    met_w: Array


@dataclass(frozen=True)
class Filled:
    """A build with what is in it from an hour of the day on."""

    goes_in: str
    load: AnyLoad
    scene: Scene


@dataclass(frozen=True)
class _Phase:
    """Steps [first, last) with one scene; ``fresh`` nodes start at the given temperature."""

    first: int
    last: int
    scene: Scene
    fresh: dict[str, float]


@dataclass(frozen=True)
class Prepared:
    """A build on a weather with all light traced, ready to run under any adjustments.

    Attributes:
        site, build, load, weather: what it was made for
        empty: its scene without the load
        stages: its scenes as the load goes in, one after the other
    """

    site: Site
    build: BuildSpec
    load: AnyLoad | None
    weather: Weather
    empty: Scene
    stages: tuple[Filled, ...]

    @property
    def fullest(self) -> Scene:
        """The scene with everything in."""
        return self.stages[-1].scene if self.stages else self.empty

    def in_the_dark(self, from_s: float | None = None) -> Prepared:
        """The same with the sun kept off, as by a cloth over the glass; from an instant on where one is given."""
        return self._lit_in(self.weather.sun.time_s < (-np.inf if from_s is None else from_s))

    def uncovered(self, from_s: float) -> Prepared:
        """The same with the sun kept off until an instant."""
        return self._lit_in(self.weather.sun.time_s >= from_s)

    def _lit_in(self, steps: np.ndarray) -> Prepared:
        lit = steps.astype(float)

        def shaded(scene: Scene) -> Scene:
            return Scene(scene.network, scene.source_w * lit[:, None], scene.met_w * lit)

        stages = tuple(replace(stage, scene=shaded(stage.scene)) for stage in self.stages)
        return replace(self, empty=shaded(self.empty), stages=stages)

    def run(
        self,
        adjustments: Adjustments | None = None,
        with_load: bool = True,
        first_c: dict[str, float] | None = None,
        put_s: float | None = None,
        goes_in: str | None = None,
    ) -> Run:
        """March it.

        Args:
            first_c: temperatures of nodes at the start; the first step's air where not given
            put_s: when the load goes in once for all; each day at its own hour where not given
            goes_in: another hour of the day for all of the load
        """
        tune = adjustments or Adjustments()
        empty = tuned(self.empty, tune, self.build)
        stages = [replace(stage, scene=tuned(stage.scene, tune, self.build)) for stage in self.stages if with_load]
        if goes_in is not None:
            stages = [replace(stage, goes_in=goes_in) for stage in stages[-1:]]
        if stages and put_s is not None:
            phases = _put_once(self.weather, empty, stages, put_s, first_c or {})
        else:
            phases = _phases(self.site, self.weather, empty, stages)
        return _march_phases(self.build, self.weather, phases, first_c or {})


def prepare(site: Site, stands: Sequence[Stand], build: BuildSpec, load: AnyLoad | None, weather: Weather) -> Prepared:
    """Trace the light of a run, wherever the build stands and whichever way it was turned in its course.

    What comes from the even sky is worked out once for each spot, as the build first stands there.

    Raises:
        InputProblem: a spot is unknown or the load does not fit.
    """
    loads: Sequence[tuple[str, AnyLoad]] = [] if load is None else load.stages()
    lights = {spot: _Light.of(site, spot, weather) for spot in dict.fromkeys(stand.spot for stand in stands)}
    with ThreadPoolExecutor(max_workers=2) as both:  # the ray tracer lets other threads run
        made = both.map(
            lambda one: _over_stands(stands, build, one, weather, lights), [None, *(part for _, part in loads)]
        )
        empty, *filled = made
    stages = [Filled(hour, part, scene) for (hour, part), scene in zip(loads, filled, strict=True)]
    return Prepared(site, build, load, weather, empty, tuple(stages))


@dataclass(frozen=True)
class _Light:
    """A run's light at a spot."""

    skyline_deg: Array
    plan: SunPlan

    @classmethod
    def of(cls, site: Site, spot: str | None, weather: Weather) -> _Light:
        line = skyline(site.spot(spot))
        light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, line)
        return cls(line, sun_plan(weather.sun, light))


def _over_stands(
    stands: Sequence[Stand], build: BuildSpec, load: AnyLoad | None, weather: Weather, lights: dict[str | None, _Light]
) -> Scene:
    """One scene over all stands, each with its own stretch of the run."""
    times, even = weather.sun.time_s, dict[str | None, Even]()
    edges = [0, *(int(np.searchsorted(times, stand.from_s)) for stand in stands[1:]), len(times)]
    keys = build.model_dump_json(), "" if load is None else load.model_dump_json()
    sources, met, network = [], [], None
    for stand, first, last in zip(stands, edges, edges[1:], strict=False):
        if last <= first and network is not None:
            continue
        light, traced = lights[stand.spot], _kept_traced(*keys, stand.facing_deg, stand.tilt_deg)
        if stand.spot not in even:
            even[stand.spot] = traced.even(light.skyline_deg)
        network = traced.network if network is None else network
        scene = _scene(build, load, light.plan.between(first, last), traced, even[stand.spot], network)
        sources.append(scene.source_w)
        met.append(scene.met_w)
    assert network is not None
    return Scene(network, np.concatenate(sources), np.concatenate(met))


def _turned(build: BuildSpec, facing_deg: float | None, tilt_deg: float | None) -> BuildSpec:
    """The build as it was turned."""
    change: dict[str, float] = {}
    if facing_deg is not None:
        change["facing_deg"] = facing_deg % 360.0
    if tilt_deg is not None:
        change["tilt_deg"] = min(max(tilt_deg, 0.0), 90.0)
    return build.model_copy(update=change) if change else build


def between_turns(site: Site, build: BuildSpec, at_s: float) -> BuildSpec:
    """The build as it stands half-way between two turns at an instant; as it is where nobody turns it or the sun is low."""
    every = getattr(build, "turned_minutes", None)
    if every is None:
        return build
    then = sun_path(np.array([at_s - 30.0 * every]), site.latitude_deg, site.longitude_deg, site.elevation_m)
    if then.altitude_deg[0] < TURNED_FROM_DEG:
        return build
    tilt = 90.0 - float(then.altitude_deg[0]) if build.kind == "dish" else None
    return _turned(build, round(float(then.azimuth_deg[0]), 2), None if tilt is None else round(tilt, 2))


def stands_of(site: Site, spot: str | None, build: BuildSpec, weather: Weather) -> list[Stand]:
    """Where a build stands through a run, turned to the sun as often as it says: boxes and funnels about the upright, a
    dish after the sun's height too. The first turn of a day is for the sun as it stands a little above the ground.
    """
    first = Stand(weather.start_s, spot)
    every = getattr(build, "turned_minutes", None)
    if every is None or weather.steps * weather.dt_s > LONGEST_TURNED_S:
        return [first]
    sun = weather.sun
    out, due = [first], -np.inf
    for k in np.flatnonzero(sun.altitude_deg > TURNED_FROM_DEG):
        if sun.time_s[k] >= due:
            tilt = 90.0 - float(sun.altitude_deg[k]) if build.kind == "dish" else None
            out.append(Stand(float(sun.time_s[k]) - weather.dt_s / 2, spot, float(sun.azimuth_deg[k]), tilt))
            due = sun.time_s[k] + 60.0 * every
        if k + 1 < len(sun.time_s) and sun.altitude_deg[k + 1] <= TURNED_FROM_DEG:
            due = -np.inf  # the next morning begins afresh
    return out


def prepare_at(site: Site, spot: str | None, build: BuildSpec, load: AnyLoad | None, weather: Weather) -> Prepared:
    """Trace the light of a run at one spot, turned to the sun as the build says.

    Raises:
        InputProblem: the spot is unknown or the load does not fit.
    """
    return prepare(site, stands_of(site, spot, build, weather), build, load, weather)


def simulate(
    site: Site,
    spot_name: str | None,
    build: BuildSpec,
    load: AnyLoad | None,
    weather: Weather,
    adjustments: Adjustments | None = None,
) -> Run:
    """Run the twin.

    Raises:
        InputProblem: the spot is unknown or the load does not fit.
    """
    return prepare_at(site, spot_name, build, load, weather).run(adjustments)


def simulate_with_empty(
    site: Site,
    spot_name: str | None,
    build: BuildSpec,
    load: AnyLoad | None,
    weather: Weather,
    adjustments: Adjustments | None = None,
) -> tuple[Run, Run]:
    """Run the twin with its load and empty on the same weather, tracing the empty box once.

    Returns:
        The loaded run and the empty one; the same run twice without a load.
    """
    ready = prepare_at(site, spot_name, build, load, weather)
    run = ready.run(adjustments)
    return run, run if load is None else ready.run(adjustments, with_load=False)


def scene_of(build: BuildSpec, load: AnyLoad | None, plan: SunPlan, skyline_deg: Array) -> Scene:
    """The network of a build with the sun in its nodes at every step of a plan."""
    traced = _traced(build, load)
    return _scene(build, load, plan, traced, traced.even(skyline_deg), traced.network)


def _scene(
    build: BuildSpec, load: AnyLoad | None, plan: SunPlan, traced: Traced, even: Even, network: Network
) -> Scene:
    kind = kind_of(build)
    power, met = over_run(plan, traced.areas(plan.directions), even)
    source = np.zeros((len(met), len(network.nodes)))
    for column, part in enumerate(kind.parts(build, load)):
        source[:, network.index(part)] += power[:, column]
    return Scene(network, source, met)


class Traced:
    """A build's optics and network, and what has been traced of them: other weather under the same sun costs no rays."""

    def __init__(self, build: BuildSpec, load: AnyLoad | None) -> None:
        self._build, self._load = build, load
        self._optics = kind_of(build).optics(build, load)
        self._areas: dict[bytes, Array] = {}
        self._even: dict[bytes, Even] = {}

    @cached_property
    def network(self) -> Network:
        """Its network, made when it is asked for: a build that was only turned keeps the one it had."""
        return kind_of(self._build).network(self._build, self._load, self._optics)

    def areas(self, directions: Array) -> Array:
        """Areas by part, what is met last, along the sun's path, shape (knots, parts + 1)."""
        if len(directions) > LONGEST_KEPT:
            return np.column_stack(self._optics.along_path(directions))
        key = directions.tobytes()
        kept = self._areas.get(key)
        if kept is None:
            if len(self._areas) >= MOST_PATHS:
                self._areas.clear()
            kept = self._areas[key] = np.column_stack(self._optics.along_path(directions))
        return kept

    def even(self, skyline_deg: Array) -> Even:
        """Areas for the even sky over a skyline, and for the ground."""
        key = skyline_deg.tobytes()
        if key not in self._even:
            self._even[key] = self._optics.even(skyline_deg)
        return self._even[key]


def _traced(build: BuildSpec, load: AnyLoad | None) -> Traced:
    return _kept_traced(build.model_dump_json(), "" if load is None else load.model_dump_json(), None, None)


@lru_cache(maxsize=1024)
def _kept_traced(build: str, load: str, facing_deg: float | None, tilt_deg: float | None) -> Traced:
    return Traced(_turned(_read_build(build), facing_deg, tilt_deg), _read_load(load))


@lru_cache(maxsize=64)
def _read_build(text: str) -> BuildSpec:
    return BUILD.validate_json(text)


@lru_cache(maxsize=64)
def _read_load(text: str) -> AnyLoad | None:
    return read_load(text)


def tuned(scene: Scene, tune: Adjustments, build: BuildSpec) -> Scene:
    """Scale sun, losses and heat capacities of a scene by calibration's factors; food and samples keep their own mass."""
    if tune == Adjustments():
        return scene
    network, kind = scene.network, kind_of(build)
    links = tuple(
        replace(link, params=(link.params[0] * tune.of(link.tuned_by), *link.params[1:])) if link.tuned_by else link
        for link in network.links
    )
    nodes = tuple(
        node if kind.useful(node.name) else replace(node, capacity_j_k=node.capacity_j_k * tune.mass)
        for node in network.nodes
    )
    share = np.array([tune.optical * tune.of(f"absorptance:{node.name}") for node in network.nodes])
    return Scene(Network(nodes, links, network.paths), scene.source_w * share, scene.met_w)


def _phases(site: Site, weather: Weather, empty: Scene, stages: Sequence[Filled]) -> list[_Phase]:
    """Each day anew: empty until the first goes in, then stage by stage to midnight."""
    if not stages:
        return [_Phase(0, weather.steps, empty, {})]
    phases = []
    day = datetime.fromtimestamp(weather.start_s, site.zone).date()
    done = 0
    while done < weather.steps:
        puts = [_step_at(weather, _instant(site, day, stage.goes_in)) for stage in stages]
        day += timedelta(days=1)
        end = _step_at(weather, _instant(site, day, "00:00"))
        phases += _one_filling(empty, stages, done, puts, end, {})
        done = max(end, done + 1)
    return phases


def _one_filling(
    empty: Scene, stages: Sequence[Filled], first: int, puts: list[int], end: int, first_c: dict[str, float]
) -> list[_Phase]:
    """Phases from ``first`` to ``end``; what was in before keeps its temperature when more goes in."""
    phases = [_Phase(first, puts[0], empty, {})] if puts[0] > first else []
    before: set[str] = set()
    for stage, put, until in zip(stages, puts, [*puts[1:], end], strict=True):
        fresh = {name: first_c.get(name, value) for name, value in stage.load.fresh_c.items() if name not in before}
        before |= set(stage.load.fresh_c)
        if until > max(put, first):
            phases.append(_Phase(max(put, first), until, stage.scene, fresh))
    return phases


def _put_once(
    weather: Weather, empty: Scene, stages: Sequence[Filled], put_s: float, first_c: dict[str, float]
) -> list[_Phase]:
    """The first part of the load goes in at an instant, the others as long after it as their hours say, and all stay."""
    minute = [60.0 * int(stage.goes_in[:2]) + int(stage.goes_in[3:]) for stage in stages]
    puts = [_step_at(weather, put_s + 60.0 * (m - minute[0])) for m in minute]
    return _one_filling(empty, stages, 0, puts, weather.steps, first_c)


def _instant(site: Site, day: date, hour: str) -> float:
    hours, minutes = (int(part) for part in hour.split(":"))
    return datetime(day.year, day.month, day.day, hours, minutes, tzinfo=site.zone).timestamp()


def _step_at(weather: Weather, instant_s: float) -> int:
    return int(np.clip(round((instant_s - weather.start_s) / weather.dt_s), 0, weather.steps))


def _march_phases(build: BuildSpec, weather: Weather, phases: list[_Phase], first_c: dict[str, float]) -> Run:
    names = list(dict.fromkeys(name for phase in phases for name in phase.scene.network.names))
    temperature = {name: np.full(weather.steps + 1, np.nan) for name in names}
    accounts = {name: np.zeros(weather.steps) for name in kind_of(build).accounts}
    opening, now = np.zeros(weather.steps), {name: float(weather.air_c[0]) for name in names} | first_c
    sky, vapour, substeps = weather.sky_c, weather.vapour_pa, jump_substeps(weather.wind_m_s, weather.ghi_w_m2)
    steam = boiling_c(weather.pressure_pa)
    astray = sun_in = 0.0
    titles: dict[str, str] = {}
    masses = {node.name: np.full(weather.steps + 1, np.nan) for phase in phases for node in phase.scene.network.melting}
    left_kg: dict[str, float] = {}
    for phase in phases:
        steps = slice(phase.first, phase.last)
        now.update(phase.fresh)
        network = phase.scene.network.with_masses({k: v for k, v in left_kg.items() if k not in phase.fresh})
        drive = Drive(
            dt_s=weather.dt_s,
            air_c=weather.air_c[steps],
            sky_c=sky[steps],
            wind_m_s=weather.wind_m_s[steps],
            vapour_pa=vapour[steps],
            steam_c=steam,
            pressure_pa=weather.pressure_pa,
            source_w=phase.scene.source_w[steps],
            substeps=reset_substeps(substeps[steps], weather.dt_s),
        )
        history = advance(network, np.array([now[name] for name in network.names]), drive)
        lost, taken = closure(network, history, drive)
        astray, sun_in = astray + abs(lost), sun_in + taken
        opening[steps] = phase.scene.met_w[steps]
        _book(build, phase, network, history, accounts, weather.dt_s)
        for k, node in enumerate(network.melting):
            masses[node.name][phase.first : phase.last + 1] = history.mass_kg[:, k]
            left_kg[node.name] = float(history.mass_kg[-1, k])
        for index, node in enumerate(network.nodes):
            temperature[node.name][phase.first : phase.last + 1] = history.temperature_c[:, index]
            now[node.name] = float(history.temperature_c[-1, index])
            titles[node.name] = node.title
    edge = np.asarray(weather.start_s + weather.dt_s * np.arange(weather.steps + 1), dtype=float)
    return Run(
        edge_s=edge,
        temperature_c=temperature,
        account_w=accounts,
        opening_w=opening,
        plane_w_m2=weather.ghi_w_m2,
        energy_closure=astray / sun_in if sun_in > 0 else 0.0,
        titles=titles,
        weather=weather,
        mass_kg=masses,
    )


def _book(
    build: BuildSpec, phase: _Phase, network: Network, history: History, accounts: dict[str, Array], dt_s: float
) -> None:
    """Put a phase's powers into the ledger's accounts."""
    steps = slice(phase.first, phase.last)
    for k, link in enumerate(network.links):
        if link.account:
            accounts[link.account][steps] += history.link_w[:, k]
    gain = np.diff(history.heat_j(network), axis=0) / dt_s
    kind = kind_of(build)
    for index, node in enumerate(network.nodes):
        account = kind.useful_account if kind.useful(node.name) else "box"
        accounts[account][steps] += gain[:, index]
    accounts["mirrored"][steps] = phase.scene.met_w[steps] - phase.scene.source_w[steps].sum(axis=1)
