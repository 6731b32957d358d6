"""The twin: build + site + weather + load → what it will do. The one entry to simulate.

A day runs from local midnight. The box stands empty until the pot goes in; the pot then stays to the end of the
day, and on a run of several days a fresh pot goes in each day at the same hour.
"""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np
from pydantic import Field

from drylamp.core.air.moist import boiling_c
from drylamp.core.builds.kinds import BuildSpec, kind_of
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
from drylamp.core.loads.pot import PotLoad
from drylamp.core.optics.sun_plan import SunPlan, sun_plan
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import Array
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


_PLAIN = ("optical", "loss", "leak", "mass", "contact")


@dataclass(frozen=True)
class Stand:
    """Where a build stands from an instant on: its spot, and the way it faces when it was turned."""

    from_s: float
    spot: str | None
    facing_deg: float | None = None


@dataclass(frozen=True)
class Run:
    """What a build did over a span.

    Attributes:
        edge_s: instants of the temperatures, seconds since 1970 UTC, shape (steps + 1,)
        temperature_c: by node, shape (steps + 1,); a pot's nodes are NaN while it is not in the box
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
        empty, loaded: its scenes without and with the load
    """

    site: Site
    build: BuildSpec
    load: PotLoad | None
    weather: Weather
    empty: Scene
    loaded: Scene | None

    def in_the_dark(self) -> Prepared:
        """The same with the sun kept off, as by a cloth over the glass."""

        def dark(scene: Scene) -> Scene:
            return Scene(scene.network, np.zeros_like(scene.source_w), np.zeros_like(scene.met_w))

        return replace(self, empty=dark(self.empty), loaded=None if self.loaded is None else dark(self.loaded))

    def run(
        self,
        adjustments: Adjustments | None = None,
        with_load: bool = True,
        first_c: dict[str, float] | None = None,
        put_s: float | None = None,
    ) -> Run:
        """March it.

        Args:
            first_c: temperatures of nodes at the start; the first step's air where not given
            put_s: when the load goes in once for all; each day at its own hour where not given
        """
        tune = adjustments or Adjustments()
        empty = tuned(self.empty, tune, self.build)
        loaded = None if self.loaded is None or not with_load else tuned(self.loaded, tune, self.build)
        load = self.load if loaded is not None else None
        if loaded is not None and put_s is not None:
            phases = _put_once(self.weather, self.load, empty, loaded, put_s, first_c or {})
        else:
            phases = _phases(self.site, self.weather, load, empty, loaded)
        return _march_phases(self.build, self.weather, phases, first_c or {})


def prepare(site: Site, stands: Sequence[Stand], build: BuildSpec, load: PotLoad | None, weather: Weather) -> Prepared:
    """Trace the light of a run, wherever the build stands and whichever way it was turned in its course.

    Raises:
        InputProblem: a spot is unknown or the load does not fit.
    """
    parts = [_standing(site, stand, build, load, weather) for stand in stands]
    empty, loaded = parts[0]
    for stand, (next_empty, next_loaded) in zip(stands[1:], parts[1:], strict=True):
        since = weather.sun.time_s >= stand.from_s
        empty = _from_then(empty, next_empty, since)
        loaded = None if loaded is None or next_loaded is None else _from_then(loaded, next_loaded, since)
    return Prepared(site, build, load, weather, empty, loaded)


def _standing(
    site: Site, stand: Stand, build: BuildSpec, load: PotLoad | None, weather: Weather
) -> tuple[Scene, Scene | None]:
    line = skyline(site.spot(stand.spot))
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, line)
    plan = sun_plan(weather.sun, light)
    if stand.facing_deg is not None:
        build = build.model_copy(update={"facing_deg": stand.facing_deg % 360.0})
    with ThreadPoolExecutor(max_workers=2) as both:  # the ray tracer lets other threads run
        first = both.submit(scene_of, build, None, plan, line)
        loaded = None if load is None else scene_of(build, load, plan, line)
        return first.result(), loaded


def _from_then(before: Scene, after: Scene, since: np.ndarray) -> Scene:
    source = np.where(since[:, None], after.source_w, before.source_w)
    return Scene(before.network, source, np.where(since, after.met_w, before.met_w))


def simulate(
    site: Site,
    spot_name: str | None,
    build: BuildSpec,
    load: PotLoad | None,
    weather: Weather,
    adjustments: Adjustments | None = None,
) -> Run:
    """Run the twin.

    Raises:
        InputProblem: the spot is unknown or the load does not fit.
    """
    return prepare(site, [Stand(weather.start_s, spot_name)], build, load, weather).run(adjustments)


def simulate_with_empty(
    site: Site,
    spot_name: str | None,
    build: BuildSpec,
    load: PotLoad | None,
    weather: Weather,
    adjustments: Adjustments | None = None,
) -> tuple[Run, Run]:
    """Run the twin with its load and empty on the same weather, tracing the empty box once.

    Returns:
        The loaded run and the empty one; the same run twice without a load.
    """
    ready = prepare(site, [Stand(weather.start_s, spot_name)], build, load, weather)
    run = ready.run(adjustments)
    return run, run if load is None else ready.run(adjustments, with_load=False)


def scene_of(build: BuildSpec, load: PotLoad | None, plan: SunPlan, skyline_deg: Array) -> Scene:
    """The network of a build with the sun in its nodes at every step of a plan."""
    kind = kind_of(build)
    optics = kind.optics(build, load)
    network = kind.network(build, load, optics)
    power, met = optics.sun_into_parts(plan, skyline_deg)
    source = np.zeros((len(met), len(network.nodes)))
    for column, part in enumerate(kind.parts(build, load)):
        source[:, network.index(part)] += power[:, column]
    return Scene(network, source, met)


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


def _phases(site: Site, weather: Weather, load: PotLoad | None, empty: Scene, loaded: Scene | None) -> list[_Phase]:
    if load is None or loaded is None:
        return [_Phase(0, weather.steps, empty, {})]
    phases = []
    day = datetime.fromtimestamp(weather.start_s, site.zone).date()
    hour, minute = (int(part) for part in load.goes_in.split(":"))
    fresh = {"contents": load.start_c, "pot": load.start_c}
    done = 0
    while done < weather.steps:
        goes_in = datetime(day.year, day.month, day.day, hour, minute, tzinfo=site.zone)
        day += timedelta(days=1)
        midnight = datetime(day.year, day.month, day.day, tzinfo=site.zone)
        put, end = (_step_at(weather, moment.timestamp()) for moment in (goes_in, midnight))
        if put > done:
            phases.append(_Phase(done, put, empty, {}))
        if end > max(put, done):
            phases.append(_Phase(max(put, done), end, loaded, fresh))
        done = end
    return phases


def _put_once(
    weather: Weather, load: PotLoad | None, empty: Scene, loaded: Scene, put_s: float, first_c: dict[str, float]
) -> list[_Phase]:
    """The load goes in at an instant and stays."""
    assert load is not None
    fresh = {name: first_c.get(name, load.start_c) for name in ("contents", "pot")}
    put = _step_at(weather, put_s)
    before = [_Phase(0, put, empty, {})] if put > 0 else []
    return [*before, _Phase(put, weather.steps, loaded, fresh)]


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
    for phase in phases:
        network = phase.scene.network
        steps = slice(phase.first, phase.last)
        now.update(phase.fresh)
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
        _book(build, phase, history, accounts, weather.dt_s)
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
    )


def _book(build: BuildSpec, phase: _Phase, history: History, accounts: dict[str, Array], dt_s: float) -> None:
    """Put a phase's powers into the ledger's accounts."""
    network, steps = phase.scene.network, slice(phase.first, phase.last)
    for k, link in enumerate(network.links):
        if link.account:
            accounts[link.account][steps] += history.link_w[:, k]
    rise = np.diff(history.temperature_c, axis=0) / dt_s
    kind = kind_of(build)
    for index, node in enumerate(network.nodes):
        account = kind.useful_account if kind.useful(node.name) else "box"
        accounts[account][steps] += node.capacity_j_k * rise[:, index]
    accounts["mirrored"][steps] = phase.scene.met_w[steps] - phase.scene.source_w[steps].sum(axis=1)
