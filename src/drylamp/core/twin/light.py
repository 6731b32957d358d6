"""Sun in the nodes of a network, step by step, wherever a build stands and whichever way it was turned.

A build that was turned about the upright meets the sun as the unturned build would meet a sun turned back by as much, so
all stretches of a run that share one lean are traced in one go.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.heat.network import Network
from drylamp.core.kept import Kept
from drylamp.core.loads.load import Load
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over, power_over_run
from drylamp.core.optics.sun_plan import SunPlan, sun_plan
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.twin.placements import Placement

MOST_PATHS, LONGEST_KEPT = 16, 2000
"""Paths of the sun kept for each build, and the most places on one; a day's is some 10 kB."""
MOST_TRACED = 1024
"""Builds, loads and leans whose optics are kept."""


@dataclass(frozen=True)
class LitNetwork:
    """A network with the sun in its nodes over a span.

    Attributes:
        source_w: sun into each node, shape (steps, nodes)
        intercepted_w: sun that the opening intercepts, shape (steps,)
    """

    network: Network
    source_w: Array
    intercepted_w: Array

    def lit_in(self, share: Array) -> LitNetwork:
        """The same with the sun dimmed step by step, as by a cloth over the glass; shape (steps,)."""
        return LitNetwork(self.network, self.source_w * share[:, None], self.intercepted_w * share)

    def dimmed(self, share_of: Mapping[str, Array]) -> LitNetwork:
        """The same with the sun into some nodes dimmed step by step; what does not get there was thrown back."""
        source = self.source_w.copy()
        for node, share in share_of.items():
            source[:, self.network.index(node)] *= share
        return LitNetwork(self.network, source, self.intercepted_w)


@dataclass(frozen=True)
class SpotLight:
    """A run's light at a spot: its skyline, and the plan of the sun over it."""

    skyline_deg: Array
    plan: SunPlan

    @classmethod
    def of(cls, site: Site, spot: str | None, weather: Weather) -> SpotLight:
        """Work it out.

        Raises
        ------
        InputProblem
            the spot is unknown.
        """
        line = skyline(site.spot(spot))
        light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, line)
        return cls(line, sun_plan(weather.sun, light))


class Traced:
    """A build's optics and network, and what has been traced of them: other weather under the same sun costs no rays."""

    def __init__(self, build: Build, load: Load | None) -> None:
        self.build, self.load = build, load
        self._optics = kind_of(build).optics(build, load)
        self._own = None if load is None else load.sunlit()
        self._areas: Kept[bytes, Array] = Kept(MOST_PATHS)
        self._diffuse: Kept[bytes, DiffuseAreas] = Kept(MOST_PATHS)

    @cached_property
    def network(self) -> Network:
        """Its network, made when it is asked for: a build that was only turned keeps the one it had."""
        return kind_of(self.build).network(self.build, self.load, self._optics)

    @cached_property
    def lit_nodes(self) -> list[str]:
        """Nodes that the sun gets to, in the order of the areas; the load's own last."""
        names = kind_of(self.build).lit_nodes(self.build, self.load)
        return names if self._own is None else [*names, self._own.node]

    @property
    def ring_share(self) -> float:
        """Share of the light round the sun that it takes as it takes the beam."""
        return float(getattr(self._optics, "ring_share", 1.0))

    def areas(self, directions: Array) -> Array:
        """Areas by lit node, what is intercepted last, along the sun's path, shape (knots, nodes + 1)."""

        def trace() -> Array:
            areas = np.column_stack(self._optics.along_path(directions))
            return areas if self._own is None else _joined(areas, np.column_stack(self._own.areas(directions)))

        return trace() if len(directions) > LONGEST_KEPT else self._areas.get(directions.tobytes(), trace)

    def diffuse(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky over a skyline, and for the ground."""

        def over_dome() -> DiffuseAreas:
            found = self._optics.diffuse_areas(skyline_deg)
            if self._own is None:
                return found
            own = diffuse_areas_over(skyline_deg, self._own.areas)
            return DiffuseAreas(_joined(found.dome, own.dome), _joined(found.ground, own.ground))

        return self._diffuse.get(skyline_deg.tobytes(), over_dome)


def _joined(build: Array, own: Array) -> Array:
    """Areas of a build and of what its load has of its own, what is intercepted by both last."""
    met = build[..., -1:] + own[..., -1:]
    return np.concatenate((build[..., :-1], own[..., :-1], met), axis=-1)


_TRACED: Kept[tuple[str, str, float | None], Traced] = Kept(MOST_TRACED)


def traced(build: Build, load: Load | None) -> Traced:
    """The optics of a build as it stands, kept."""
    return traced_by_lean(build, load)(None)


def traced_by_lean(build: Build, load: Load | None) -> Callable[[float | None], Traced]:
    """The optics of a build by the degrees that it leans when it was turned, or as it says; each kept."""
    what = build.model_dump_json(), "" if load is None else load.model_dump_json()
    return lambda tilt_deg: _TRACED.get((*what, tilt_deg), lambda: Traced(build.turned_to(None, tilt_deg), load))


def lit_network(build: Build, load: Load | None, plan: SunPlan, skyline_deg: Array) -> LitNetwork:
    """The network of a build, left as it stands, with the sun in its nodes at every step of a plan."""
    found = traced(build, load)
    source, intercepted = _in_nodes(
        found.network, found, plan, found.areas(plan.directions), found.diffuse(skyline_deg)
    )
    return LitNetwork(found.network, source, intercepted)


def _in_nodes(
    network: Network, found: Traced, plan: SunPlan, areas: Array, diffuse: DiffuseAreas
) -> tuple[Array, Array]:
    power, intercepted = power_over_run(plan, areas, diffuse, found.ring_share)
    source = np.zeros((len(network.nodes), len(intercepted))).T  # whole columns are written here, and read by lanes
    for column, name in enumerate(found.lit_nodes):
        source[:, network.index(name)] += power[:, column]
    return source, intercepted


@dataclass(frozen=True)
class _Stretch:
    """Steps [first, last) of a run on one placement, with its part of the sun's plan."""

    first: int
    last: int
    placement: Placement
    plan: SunPlan


def lit_over(
    placements: Sequence[Placement], build: Build, load: Load | None, weather: Weather, lights: dict[str | None, SpotLight]
) -> LitNetwork:  # fmt: skip
    """One lit network over all placements of a run, each with its own stretch.

    What comes from the diffuse sky is worked out once for each spot, as the build first stands there.
    """
    stretches = _stretches(placements, weather, lights)
    leaning = traced_by_lean(build, load)
    network = leaning(stretches[0].placement.tilt_deg).network
    source, intercepted = np.zeros((weather.steps, len(network.nodes))), np.zeros(weather.steps)
    first_there: dict[str | None, DiffuseAreas] = {}
    for stretch in stretches:
        spot = stretch.placement.spot
        if spot not in first_there:
            as_it_stood = traced_by_lean(build.turned_to(stretch.placement.facing_deg, None), load)
            there = as_it_stood(stretch.placement.tilt_deg)
            first_there[spot] = there.diffuse(lights[spot].skyline_deg)
    seen = _seen_by(stretches, build.facing_deg)
    for tilt, mine in _by_tilt(stretches).items():
        found = leaning(tilt)
        areas = found.areas(seen[mine[0]] if len(mine) == 1 else np.concatenate([seen[k] for k in mine]))
        done = 0
        for k in mine:
            stretch, rows = stretches[k], slice(stretches[k].first, stretches[k].last)
            part, done = areas[done : done + len(seen[k])], done + len(seen[k])
            source[rows], intercepted[rows] = _in_nodes(
                network, found, stretch.plan, part, first_there[stretch.placement.spot]
            )
    return LitNetwork(network, source, intercepted)


def _stretches(
    placements: Sequence[Placement], weather: Weather, lights: dict[str | None, SpotLight]
) -> list[_Stretch]:
    times = weather.sun.time_s
    edges = [0, *(int(np.searchsorted(times, at.from_s)) for at in placements[1:]), len(times)]
    found = [
        _Stretch(first, last, at, lights[at.spot].plan.between(first, last))
        for at, first, last in zip(placements, edges, edges[1:], strict=False)
        if last > first
    ]
    assert found, "a run has at least one step"
    return found


def _by_tilt(stretches: list[_Stretch]) -> dict[float | None, list[int]]:
    out: dict[float | None, list[int]] = {}
    for k, stretch in enumerate(stretches):
        out.setdefault(stretch.placement.tilt_deg, []).append(k)
    return out


def _seen_by(stretches: list[_Stretch], built_deg: float) -> list[Array]:
    """Each stretch's directions as the unturned build meets them: turned about the upright by as much as it was, the other way."""
    sizes = [len(stretch.plan.directions) for stretch in stretches]
    facings = [stretch.placement.facing_deg for stretch in stretches]
    turns = np.repeat([0.0 if f is None else np.radians(f - built_deg) for f in facings], sizes)  # clockwise from above
    directions = np.concatenate([stretch.plan.directions for stretch in stretches])
    east, north, sine, cosine = directions[:, 0], directions[:, 1], np.sin(turns), np.cos(turns)
    seen = np.column_stack((east * cosine - north * sine, east * sine + north * cosine, directions[:, 2]))
    ends = np.cumsum(sizes)
    return [seen[end - size : end] for size, end in zip(sizes, ends, strict=True)]
