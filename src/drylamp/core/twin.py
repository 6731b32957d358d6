"""The twin: build + site + weather + load → what it will do. The one entry to simulate.

A day runs from local midnight. The box stands empty until the pot goes in; the pot then stays to the end of the
day, and on a run of several days a fresh pot goes in each day at the same hour.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np

from drylamp.core.air.moist import boiling_c
from drylamp.core.builds.box_oven_optics import BoxOptics, part_names
from drylamp.core.builds.kinds import BuildSpec, kind_of
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

ACCOUNTS = ("mirrored", "cover", "walls", "leak", "vent", "steam", "box", "food")
ACCOUNT_TITLES = {
    "mirrored": "thrown back before it could heat",
    "cover": "lost through the cover",
    "walls": "lost through walls and floor",
    "leak": "lost with leaking air",
    "vent": "carried off through the vent",
    "steam": "gone as steam",
    "box": "stored in the box itself",
    "food": "into pot and food",
}


@dataclass(frozen=True)
class Adjustments:
    """What calibration may change in the twin: factors on its doubtful parameters."""

    optical: float = 1.0
    loss: float = 1.0
    leak: float = 1.0


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
    return simulate_with_empty(site, spot_name, build, load, weather, adjustments, want_empty=False)[0]


def simulate_with_empty(
    site: Site,
    spot_name: str | None,
    build: BuildSpec,
    load: PotLoad | None,
    weather: Weather,
    adjustments: Adjustments | None = None,
    want_empty: bool = True,
) -> tuple[Run, Run]:
    """Run the twin with its load and empty on the same weather, tracing the empty box once.

    Returns:
        The loaded run and the empty one; the same run twice without a load or when the empty one is not wanted.
    """
    line = skyline(site.spot(spot_name))
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, line)
    plan = sun_plan(weather.sun, light)
    tune = adjustments or Adjustments()
    with ThreadPoolExecutor(max_workers=2) as both:  # the ray tracer lets other threads run
        first = both.submit(scene_of, build, None, plan, line, tune)
        loaded = None if load is None else scene_of(build, load, plan, line, tune)
        empty = first.result()
    run = _march_phases(build, weather, _phases(site, weather, load, empty, loaded))
    if load is None or not want_empty:
        return run, run
    return run, _march_phases(build, weather, _phases(site, weather, None, empty, None))


def scene_of(build: BuildSpec, load: PotLoad | None, plan: SunPlan, skyline_deg: Array, tune: Adjustments) -> Scene:
    """The network of a build with the sun in its nodes at every step of a plan."""
    kind = kind_of(build)
    optics: BoxOptics = kind.optics(build, load)
    network = adjusted(kind.network(build, load, optics), tune)
    power, met = optics.sun_into_parts(plan, skyline_deg)
    source = np.zeros((len(met), len(network.nodes)))
    for column, part in enumerate(part_names(build, load)):
        source[:, network.index(part)] += power[:, column] * tune.optical
    return Scene(network, source, met)


def adjusted(network: Network, tune: Adjustments) -> Network:
    """Scale the losses of a network by calibration's factors."""
    if tune == Adjustments():
        return network
    factor = {"cover": tune.loss, "walls": tune.loss, "leak": tune.leak}
    links = []
    for link in network.links:
        scale = factor.get(link.account, 1.0)
        params = (link.params[0] * scale, *link.params[1:]) if link.params else ()
        links.append(replace(link, params=params))
    return Network(network.nodes, tuple(links))


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
        put, end = (_step_at(weather, moment) for moment in (goes_in, midnight))
        if put > done:
            phases.append(_Phase(done, put, empty, {}))
        if end > max(put, done):
            phases.append(_Phase(max(put, done), end, loaded, fresh))
        done = end
    return phases


def _step_at(weather: Weather, moment: datetime) -> int:
    return int(np.clip(round((moment.timestamp() - weather.start_s) / weather.dt_s), 0, weather.steps))


def _march_phases(build: BuildSpec, weather: Weather, phases: list[_Phase]) -> Run:
    names = list(dict.fromkeys(name for phase in phases for name in phase.scene.network.names))
    temperature = {name: np.full(weather.steps + 1, np.nan) for name in names}
    accounts = {name: np.zeros(weather.steps) for name in ACCOUNTS}
    opening, now = np.zeros(weather.steps), {name: float(weather.air_c[0]) for name in names}
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
    useful = kind_of(build).useful_nodes
    for index, node in enumerate(network.nodes):
        accounts["food" if node.name in useful else "box"][steps] += node.capacity_j_k * rise[:, index]
    accounts["mirrored"][steps] = phase.scene.met_w[steps] - phase.scene.source_w[steps].sum(axis=1)
