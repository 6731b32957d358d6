"""Phases marched one after the other, their powers booked into the ledger's accounts."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.moist import boiling_c, humidity_ratio
from drylamp.core.arrays import Array
from drylamp.core.builds.registry import accounts_of, kind_of
from drylamp.core.heat.advance import History, advance
from drylamp.core.heat.cells import CELLS
from drylamp.core.heat.closure import closure, water_closure
from drylamp.core.heat.drive import Drive, draw_parts, jump_substeps, reset_substeps
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import BOUNDARIES, GROUND, MAINS, Role
from drylamp.core.heat.pipes import Stream
from drylamp.core.heat.streams import Lots, Passed
from drylamp.core.loads.calendar import Visit
from drylamp.core.sky.ground import GROUND_DEPTH_M, ground_c, mains_c
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.twin.case import Case
from drylamp.core.twin.run import Circulated, Damped, Drawn, Run
from drylamp.core.twin.schedule import Phase


@dataclass(frozen=True)
class Outside:
    """What drives every phase of a run, worked out once.

    Attributes:
        sky_c, vapour_pa, substeps: shape (steps,)
        speed: ceiling on the speed of each flow path, and kg/s through each stream, by its name, shape (steps,)
        opening: how far what is set by the hour stands open in each flow path, by its name, shape (steps,)
        ground_c, mains_c: shape (steps,); none where no network asks for them
    """

    weather: Weather
    sky_c: Array
    vapour_pa: Array
    substeps: np.ndarray
    steam_c: float
    speed: dict[str, Array]
    opening: dict[str, Array]
    ground_c: Array | None
    mains_c: Array | None

    @classmethod
    def of(cls, case: Case, weather: Weather, networks: list[Network]) -> Outside:
        """Work it out for a case on a weather."""
        touched = {end for network in networks for link in network.links for end in (link.start, link.end)}
        touched |= {path.outside for network in networks for path in network.paths}
        drives, vents = kind_of(case.build).drives(case.build), kind_of(case.build).vents(case.build)
        shut = None if case.load is None else case.load.opens(case.site, weather)
        touched |= {stream.inlet for network in networks for stream in network.streams}
        flows = {} if case.load is None else case.load.flows(case.site, weather)
        inlet = None if case.load is None else case.load.inlet_c(weather)
        return cls(
            weather=weather,
            sky_c=weather.sky_c,
            vapour_pa=weather.vapour_pa,
            substeps=jump_substeps(weather.wind_m_s, weather.ghi_w_m2),
            steam_c=boiling_c(weather.pressure_pa),
            speed={path: control.ceiling(case.site, weather) for path, control in drives.items()} | flows,
            opening={
                path: by.ceiling(case.site, weather) * (1.0 if shut is None else shut) for path, by in vents.items()
            },
            ground_c=_ground(case, weather) if GROUND in touched else None,
            mains_c=_mains(case.site, weather, inlet) if MAINS in touched else None,
        )

    def drive(self, phase: Phase, was_on: dict[str, float]) -> Drive:
        """What the network of a phase is exposed to."""
        rows, weather, network = slice(phase.first, phase.last), self.weather, phase.lit.network
        speed, flow = self._speeds(network, rows), self._flows(network, rows)
        opening = self._openings(network, rows)
        drawn = draw_parts(network, speed, flow, weather.dt_s, phase.last - phase.first)
        return Drive(
            dt_s=weather.dt_s,
            air_c=weather.air_c[rows],
            sky_c=self.sky_c[rows],
            wind_m_s=weather.wind_m_s[rows],
            vapour_pa=self.vapour_pa[rows],
            steam_c=self.steam_c,
            pressure_pa=weather.pressure_pa,
            source_w=phase.lit.source_w[rows],
            substeps=np.maximum(reset_substeps(self.substeps[rows], weather.dt_s), drawn),
            ground_c=None if self.ground_c is None else self.ground_c[rows],
            mains_c=None if self.mains_c is None else self.mains_c[rows],
            speed=speed,
            on=np.array([was_on.get(path.name, float(path.thermostat is None)) for path in network.paths]),
            flow_kg_s=flow,
            opening=opening,
        )

    def _speeds(self, network: Network, rows: slice) -> Array | None:
        if not network.paths:
            return None
        steps = self.weather.steps
        idle = {
            path.name: np.full(steps, float(path.given_kg_s == 0)) for path in network.paths
        }  # a tap is shut unless opened
        return np.column_stack([self.speed.get(path.name, idle[path.name])[rows] for path in network.paths])

    def _openings(self, network: Network, rows: slice) -> Array | None:
        if not self.opening:
            return None
        open_ = np.ones(self.weather.steps)
        return np.column_stack([self.opening.get(path.name, open_)[rows] for path in network.paths])

    def _flows(self, network: Network, rows: slice) -> Array | None:
        if not network.streams:
            return None
        still = np.zeros(self.weather.steps)
        return np.column_stack([self.speed.get(stream.name, still)[rows] for stream in network.streams])


def _ground(case: Case, weather: Weather) -> Array:
    """Of the season, or what was given."""
    if case.ground_c is not None:
        return np.full(weather.steps, case.ground_c)
    return ground_c(case.site, weather.sun.time_s, GROUND_DEPTH_M)


def _mains(site: Site, weather: Weather, inlet_c: Array | None) -> Array:
    return mains_c(site, weather.sun.time_s) if inlet_c is None else inlet_c


def _outside_gram(weather: Weather) -> float:
    """Humidity ratio outside as the run begins, g/kg."""
    return 1000.0 * humidity_ratio(float(weather.vapour_pa[0]), weather.pressure_pa)


def _blank_damp(weather: Weather, phases: list[Phase], vapour: list[str]) -> Damped | None:
    """Empty pages for what is damp; none where no network holds any water."""
    networks = [phase.lit.network for phase in phases]
    wet = list(dict.fromkeys(node.name for network in networks for node in network.wet))
    if not wet:
        return None
    paths = list(dict.fromkeys(path.name for network in networks for path in network.paths))
    edges, steps = weather.steps + 1, weather.steps
    return Damped(
        {name: np.full(edges, np.nan) for name in wet}, {name: np.full(edges, np.nan) for name in wet}, {name: np.full(edges, np.nan) for name in vapour},
        {name: np.zeros(steps) for name in paths}, {name: np.zeros(steps) for name in paths}, np.zeros(steps),
        {name: np.zeros(steps) for name in wet}, 0.0,
        {node.name: np.full((edges, CELLS), np.nan) for network in networks for node in network.piled},
    )  # fmt: skip


@dataclass
class _Book:
    """A run as it is written, phase by phase."""

    case: Case
    weather: Weather
    temperature_c: dict[str, Array]
    mass_kg: dict[str, Array]
    account_w: dict[str, Array]
    opening_w: Array
    now_c: dict[str, float]
    left_kg: dict[str, float] = field(default_factory=dict)
    was_on: dict[str, float] = field(default_factory=dict)
    titles: dict[str, str] = field(default_factory=dict)
    roles: dict[str, Role] = field(default_factory=dict)
    visits: list[tuple[int, Visit]] = field(default_factory=list)
    water: tuple[tuple[Stream, ...], Lots] | None = None
    drawn: dict[str, Drawn] = field(default_factory=dict)
    circulated: dict[str, Circulated] = field(default_factory=dict)
    ran_s: dict[str, Array] = field(default_factory=dict)
    damp: Damped | None = None
    left_water_kg: dict[str, float] = field(default_factory=dict)
    left_cells: dict[str, Array] = field(default_factory=dict)
    water_kg: dict[str, Array] = field(default_factory=dict)
    steamed_kg: dict[str, Array] = field(default_factory=dict)
    left_boiling_kg: dict[str, float] = field(default_factory=dict)
    water_astray_kg: float = 0.0
    water_moved_kg: float = 0.0
    astray_j: float = 0.0
    sun_j: float = 0.0

    @classmethod
    def blank(cls, case: Case, weather: Weather, phases: list[Phase], first_c: dict[str, float]) -> _Book:
        nodes = {node.name: node for phase in phases for node in phase.lit.network.nodes}
        vapour = [name for name, node in nodes.items() if node.role == "vapour"]
        names = [name for name in nodes if name not in vapour]
        pipes = dict.fromkeys(stream.name for phase in phases for stream in phase.lit.network.streams)
        weighed = {name for name, node in nodes.items() if node.wet is not None and node.wet.dry_kg > 0.0}
        melting = {node.name for phase in phases for node in phase.lit.network.melting}
        edges = weather.steps + 1
        return cls(
            case, weather,
            temperature_c={name: np.full(edges, np.nan) for name in (*names, *pipes)},
            mass_kg={name: np.full(edges, np.nan) for name in names if name in melting | weighed},
            account_w={name: np.zeros(weather.steps) for name in accounts_of(case.build, case.load)},
            opening_w=np.zeros(weather.steps),
            now_c={name: float(weather.air_c[0]) for name in names} | dict.fromkeys(vapour, _outside_gram(weather)) | first_c,
            damp=_blank_damp(weather, phases, vapour),
        )  # fmt: skip

    def enter(self, phase: Phase, outside: Outside) -> Network:
        """Begin a phase: fresh goods, and what a visit changes; returns its network with what is left to melt."""
        self.now_c.update(phase.fresh_c)
        if phase.visit is not None:
            self.visits.append((phase.first, phase.visit))
            mains = float(self.weather.air_c.mean()) if outside.mains_c is None else float(outside.mains_c[phase.first])
            if phase.load is not None:
                self.now_c.update(phase.load.after(phase.visit, self.now_c, mains))
            if phase.visit.changes_air:
                air = float(self.weather.air_c[phase.first])
                self.now_c.update(dict.fromkeys(kind_of(self.case.build).open_nodes & set(self.now_c), air))
        network = phase.lit.network.with_masses({k: v for k, v in self.left_kg.items() if k not in phase.fresh_kg})
        network = network.with_boiled({k: v for k, v in self.left_boiling_kg.items() if k not in phase.fresh_kg})
        network = network.with_cells({k: v for k, v in self.left_cells.items() if k not in phase.fresh_kg})
        return network.with_water({k: v for k, v in self.left_water_kg.items() if k not in phase.fresh_kg})

    def write(self, phase: Phase, network: Network, history: History, drive: Drive) -> None:
        """Put down what a phase did."""
        edges, steps = slice(phase.first, phase.last + 1), slice(phase.first, phase.last)
        lost, taken = closure(network, history, drive)
        self.astray_j, self.sun_j = self.astray_j + abs(lost), self.sun_j + taken
        self.opening_w[steps] = phase.lit.intercepted_w[steps]
        for k, node in enumerate(network.melting):
            self.mass_kg[node.name][edges] = history.mass_kg[:, k]
            self.left_kg[node.name] = float(history.mass_kg[-1, k])
        self._boiled(phase, network, history)
        self._damp(phase, network, history)
        for k, node in enumerate(network.nodes):
            self.now_c[node.name] = float(history.temperature_c[-1, k])
            if node.name not in self.temperature_c:
                continue
            self.temperature_c[node.name][edges] = history.temperature_c[:, k]
            self.titles[node.name] = node.title
            self.roles[node.name] = node.role
        if history.passed is not None and history.lots is not None:
            self._streams(phase, network, history)
            self.water = network.streams, history.lots
        self.was_on.update(zip((path.name for path in network.paths), history.on.tolist(), strict=True))
        self._accounts(phase, network, history)
        self._taps(phase, network, history, drive)

    def _boiled(self, phase: Phase, network: Network, history: History) -> None:
        """Put down what boiled off and what is left to."""
        edges, steps = slice(phase.first, phase.last + 1), slice(phase.first, phase.last)
        for k, node in enumerate(network.boiling):
            held = self.water_kg.setdefault(node.name, np.full(self.weather.steps + 1, np.nan))
            gone = self.steamed_kg.setdefault(node.name, np.zeros(self.weather.steps))
            held[edges], gone[steps] = history.water_kg[:, k], history.steamed_kg[:, k]
            self.left_boiling_kg[node.name] = float(history.water_kg[-1, k])

    def _damp(self, phase: Phase, network: Network, history: History) -> None:
        """Put down the water of a phase."""
        held, damp = history.held, self.damp
        if held is None or damp is None:
            return
        edges, steps = slice(phase.first, phase.last + 1), slice(phase.first, phase.last)
        lost, moved = water_closure(network, history)
        self.water_astray_kg, self.water_moved_kg = self.water_astray_kg + abs(lost), self.water_moved_kg + moved
        for k, node in enumerate(network.wet):
            assert node.wet is not None
            damp.held_kg[node.name][edges] = held.water_kg[:, k]
            damp.activity[node.name][edges] = held.activity[:, k]
            damp.ran_kg[node.name][steps] = held.ran_kg[:, k]
            if node.wet.dry_kg > 0.0:
                self.mass_kg[node.name][edges] = node.wet.dry_kg + held.water_kg[:, k]
            self.left_water_kg[node.name] = float(held.water_kg[-1, k])
            self.account_w[node.wet.account][steps] -= held.carried_j[:, k] / self.weather.dt_s
        for pile, node in enumerate(network.piled):
            mine = held.cells[:, pile * CELLS : (pile + 1) * CELLS]
            damp.cells[node.name][edges], self.left_cells[node.name] = mine, mine[-1].copy()
        for name, series in damp.gram_kg.items():
            if name in network.names:
                series[edges] = history.temperature_c[:, network.index(name)]
        for f, path in enumerate(network.paths):
            damp.moved_kg[path.name][steps], damp.back_kg[path.name][steps] = held.moved_kg[:, f], held.back_kg[:, f]
        damp.away_kg[steps] = held.ran_kg[:, network.leaving].sum(axis=1)

    def _damp_closed(self) -> Damped | None:
        if self.damp is None:
            return None
        share = self.water_astray_kg / self.water_moved_kg if self.water_moved_kg > 0 else 0.0
        return replace(self.damp, closure=share)

    def lots_of(self, phase: Phase, network: Network) -> Lots | None:
        """What the pipes held when the phase before ended, or are filled with now; none where they begin as their walls."""
        if self.water is not None and self.water[0] == network.streams:
            return self.water[1]
        if not any(stream.name in phase.fresh_c for stream in network.streams):
            return None
        return network.lots_at(
            {
                stream.name: np.array(
                    [phase.fresh_c.get(stream.name, self.now_c[piece.node]) for piece in stream.pieces]
                )
                for stream in network.streams
            }
        )

    def _streams(self, phase: Phase, network: Network, history: History) -> None:
        """Put down what flowed through a phase's pipes, and what was drawn from its stores."""
        edges, steps = slice(phase.first, phase.last + 1), slice(phase.first, phase.last)
        passed = history.passed
        assert passed is not None
        kind, log = kind_of(self.case.build), passed.log[: passed.logged[0]]
        for s, stream in enumerate(network.streams):
            self.temperature_c[stream.name][edges] = passed.held_j[:, s] / (stream.water_kg * CP_WATER_J_KGK)
            self.titles[stream.name], self.roles[stream.name] = stream.title, stream.role
            gain = np.diff(passed.held_j[:, s]) / self.weather.dt_s
            over = (passed.out_j[:, s] - passed.in_j[:, s]) / self.weather.dt_s
            if stream.round is not None:
                self.account_w[kind.stored_account][steps] += gain
                apart = [k for k, link in enumerate(network.links) if link.name in stream.round.gives]
                self._goes_round(stream.name, steps, passed, s, history.link_w[:, apart].sum(axis=1) if apart else over)
                continue
            self.account_w[kind.useful_account][steps] += gain
            self.account_w[stream.account][steps] += over
            mine = log[log[:, 0] == s]
            begun = self.weather.start_s + phase.first * self.weather.dt_s
            lots = mine[:, 1] + begun, mine[:, 2], mine[:, 3]
            self._draw(stream.name, steps, passed.out_kg[:, s], passed.out_j[:, s], lots)

    def _goes_round(self, name: str, steps: slice, passed: Passed, s: int, gain_w: Array) -> None:
        none, kg = np.zeros(self.weather.steps), passed.out_kg[:, s]
        held = self.circulated.setdefault(name, Circulated(none, none.copy(), none.copy(), np.full_like(none, np.nan)))
        held.kg[steps], held.back_kg[steps], held.gain_w[steps] = kg, passed.back_kg[:, s], gain_w
        with np.errstate(invalid="ignore", divide="ignore"):
            held.celsius[steps] = np.where(kg > 0, passed.out_j[:, s] / (kg * CP_WATER_J_KGK), np.nan)

    def _taps(self, phase: Phase, network: Network, history: History, drive: Drive) -> None:
        """Put down what was drawn through paths whose flow is given."""
        steps, none = slice(phase.first, phase.last), np.zeros(0)
        for f, path in enumerate(network.paths):
            self.ran_s.setdefault(path.name, np.zeros(self.weather.steps))[steps] = history.ran_s[:, f]
            if path.led or path.fluid != "water" or path.given_kg_s <= 0 or drive.speed is None:
                continue
            out = [k for k, link in enumerate(network.links) if link.path == path.name and link.end in BOUNDARIES]
            joules = history.link_w[:, out].sum(axis=1) * self.weather.dt_s
            self._draw(
                path.name, steps, drive.speed[:, f] * path.given_kg_s * self.weather.dt_s, joules, (none, none, none)
            )

    def _draw(self, name: str, steps: slice, kg: Array, joules: Array, lots: tuple[Array, Array, Array]) -> None:
        before = self.drawn.get(name)
        if before is None:
            whole, none = self.weather.steps, np.zeros(0)
            before = Drawn(np.zeros(whole), np.full(whole, np.nan), none, none, none)
        with np.errstate(invalid="ignore", divide="ignore"):
            celsius = np.where(kg > 0, joules / (kg * CP_WATER_J_KGK), np.nan)
        before.kg[steps], before.celsius[steps] = kg, celsius
        joined = [np.concatenate(both) for both in zip((before.time_s, before.lot_kg, before.lot_c), lots, strict=True)]
        self.drawn[name] = Drawn(before.kg, before.celsius, joined[0], joined[1], joined[2])

    def _accounts(self, phase: Phase, network: Network, history: History) -> None:
        steps, kind = slice(phase.first, phase.last), kind_of(self.case.build)
        for k, link in enumerate(network.links):
            if link.account:
                comes_in = link.start in BOUNDARIES and link.end not in BOUNDARIES
                self.account_w[link.account][steps] += -history.link_w[:, k] if comes_in else history.link_w[:, k]
        gain = np.diff(history.heat_j(network), axis=0) / self.weather.dt_s
        useful = kind.useful(self.case.build, phase.load)
        for k, node in enumerate(network.nodes):
            account = kind.useful_account if node.name in useful else kind.stored_account
            self.account_w[account][steps] += gain[:, k]
        lit = phase.lit
        outer = [k for k, node in enumerate(network.nodes) if node.sun_account]
        for k in outer:
            self.account_w[network.nodes[k].sun_account][steps] -= lit.source_w[steps, k]
        through = lit.source_w[steps].sum(axis=1) - lit.source_w[steps][:, outer].sum(axis=1)
        self.account_w["mirrored"][steps] = lit.intercepted_w[steps] - through

    def closed(self, mains: Array | None) -> Run:
        """The run."""
        weather = self.weather
        return Run(
            edge_s=np.asarray(weather.start_s + weather.dt_s * np.arange(weather.steps + 1), dtype=float),
            temperature_c=self.temperature_c,
            account_w=self.account_w,
            opening_w=self.opening_w,
            plane_w_m2=weather.ghi_w_m2,
            energy_closure=self.astray_j / self.sun_j if self.sun_j > 0 else 0.0,
            titles=self.titles,
            roles=self.roles,
            weather=weather,
            mass_kg=self.mass_kg,
            visits=tuple(self.visits),
            drawn=self.drawn,
            circulated=self.circulated,
            ran_s=self.ran_s,
            mains_c=mains,
            damp=self._damp_closed(),
            water_kg=self.water_kg,
            steamed_kg=self.steamed_kg,
        )


def march_phases(case: Case, weather: Weather, phases: list[Phase], first_c: dict[str, float]) -> Run:
    """March a run's phases in order, each from where the one before it ended."""
    outside = Outside.of(case, weather, [phase.lit.network for phase in phases])
    book = _Book.blank(case, weather, phases, first_c)
    done = False
    for planned in phases:
        left = book.left_kg | book.left_water_kg
        done = done or (planned.until_done and planned.load is not None and planned.load.is_done(left))
        phase = Phase(planned.first, planned.last, planned.empty) if done and planned.empty is not None else planned
        network = book.enter(phase, outside)
        drive = outside.drive(phase, book.was_on)
        first = np.array([book.now_c[name] for name in network.names])
        history = advance(network, first, drive, lots=book.lots_of(phase, network))
        book.write(phase, network, history, drive)
    return book.closed(outside.mains_c)
