"""What a build did over a span."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.moist import boiling_c, vapour_of_ratio_pa
from drylamp.core.arrays import Array
from drylamp.core.heat.parts import Role
from drylamp.core.loads.calendar import Visit
from drylamp.core.sky.weather import Weather, saturation_pressures


@dataclass(frozen=True)
class Drawn:
    """What came out of a tap or a pipe.

    Attributes:
        kg, celsius: in each step, and how warm on the mean (NaN where nothing came), shape (steps,)
        time_s, lot_kg, lot_c: lot by lot as they left, of pipes only, shape (lots,)
    """

    kg: Array
    celsius: Array
    time_s: Array
    lot_kg: Array
    lot_c: Array

    def over(self, cold_c: Array) -> Array:
        """Kilograms times kelvin above the cold water of each step, shape (steps,)."""
        return np.nan_to_num(self.kg * (self.celsius - cold_c))


@dataclass(frozen=True)
class Circulated:
    """What went round through a loop.

    Attributes:
        kg, back_kg: in each step, and how much of it backwards, shape (steps,)
        gain_w: heat that it brought into the store over what it took out, mean of each step, shape (steps,)
        celsius: of what came back, on the mean (NaN where nothing went), shape (steps,)
    """

    kg: Array
    back_kg: Array
    gain_w: Array
    celsius: Array

    def in_c(self, dt_s: float) -> Array:
        """Temperature of what went in, on the mean: what came back less what it brought, °C (NaN where nothing went), shape (steps,)."""
        return np.asarray(
            self.celsius - self.gain_w * dt_s / (np.where(self.kg > 0.0, self.kg, np.nan) * CP_WATER_J_KGK)
        )


@dataclass(frozen=True)
class Damped:
    """Water in what is damp, and the air that carried it.

    Attributes:
        held_kg, activity: of what holds water, by node, and water activity at its surface, shape (steps + 1,); NaN while it is not in the build
        gram_kg: humidity ratio of the air, by its vapour node, shape (steps + 1,)
        moved_kg, back_kg: air that each path moved in each step, forwards and backwards, shape (steps,)
        away_kg: water that ran off and out of the build in each step, shape (steps,)
        ran_kg: what ran off each thing that holds it, out or on to another, by node, shape (steps,)
        closure: water unaccounted for, as a share of what was given and taken
        cells: moisture of boards from core to face, by node, shape (steps + 1, cells); NaN likewise
    """

    held_kg: dict[str, Array]
    activity: dict[str, Array]
    gram_kg: dict[str, Array]
    moved_kg: dict[str, Array]
    back_kg: dict[str, Array]
    away_kg: Array
    ran_kg: dict[str, Array]
    closure: float
    cells: dict[str, Array] = field(default_factory=dict)


@dataclass(frozen=True)
class Run:
    """What a build did over a span.

    Attributes:
        edge_s: instants of the temperatures, seconds since 1970 UTC, shape (steps + 1,)
        temperature_c: by node, shape (steps + 1,); a load's nodes are NaN while it is not in the build
        mass_kg: of what melts or dries, by node, shape (steps + 1,); NaN likewise
        account_w: mean watts of each step by account of the ledger, shape (steps,)
        opening_w: sun intercepted by the opening, mirror's share included, shape (steps,)
        plane_w_m2: the weather's global sun on level ground, shape (steps,)
        energy_closure: energy unaccounted for, as a share of the sun taken up
        titles, roles: node names in plain words, and what each is there for
        weather: what drove the run
        visits: what was done to the load, with the step at whose beginning it was
        drawn: what came out of taps and pipes, by its path or stream
        circulated: what went round, by its stream
        ran_s: seconds in each step that a fan or pump ran, weighed by its speed, by its path, shape (steps,)
        mains_c: water that comes in, shape (steps,); none where no network asks for it
        damp: what was damp; none where nothing is
        water_kg: left in what boils, by node, shape (steps + 1,); NaN while it is not in the build
        steamed_kg: what left of it as steam and vapour in each step, by node, shape (steps,)
    """

    edge_s: Array
    temperature_c: dict[str, Array]
    account_w: dict[str, Array]
    opening_w: Array
    plane_w_m2: Array
    energy_closure: float
    titles: dict[str, str]
    roles: dict[str, Role]
    weather: Weather
    mass_kg: dict[str, Array]
    visits: tuple[tuple[int, Visit], ...] = ()
    drawn: dict[str, Drawn] = field(default_factory=dict)
    mains_c: Array | None = None
    circulated: dict[str, Circulated] = field(default_factory=dict)
    ran_s: dict[str, Array] = field(default_factory=dict)
    damp: Damped | None = None
    water_kg: dict[str, Array] = field(default_factory=dict)
    steamed_kg: dict[str, Array] = field(default_factory=dict)

    @property
    def boils_c(self) -> float:
        """Temperature at which water boils there, °C."""
        return boiling_c(self.weather.pressure_pa)

    @property
    def steam_kg(self) -> Array:
        """Water that left all of it in each step, kg, shape (steps,)."""
        return sum(self.steamed_kg.values(), np.zeros(self.weather.steps))

    def relative_humidity(self, air: str) -> Array:
        """Of an air whose vapour is a node beside it, 0–1 at the edges, shape (steps + 1,)."""
        assert self.damp is not None
        vapour = vapour_of_ratio_pa(self.damp.gram_kg[f"{air}-vapour"] / 1000.0, self.weather.pressure_pa)
        return np.clip(vapour / saturation_pressures(self.temperature_c[air]), 0.0, 1.0)

    @property
    def cold_c(self) -> Array:
        """Water that comes in, where a network asks for it, shape (steps,)."""
        assert self.mains_c is not None
        return self.mains_c

    @property
    def drawn_kg_k(self) -> Array:
        """Kilograms times kelvin above cold water that all taps took in each step, shape (steps,)."""
        return sum((tap.over(self.cold_c) for tap in self.drawn.values()), np.zeros(self.weather.steps))

    @property
    def went_round(self) -> Circulated | None:
        """What went through its loop; none where it has none."""
        return next(iter(self.circulated.values()), None)

    def carried_w(self, tap: str) -> Array:
        """Heat that water carried, mean of each step, shape (steps,): round its loop, or off by a tap over cold water."""
        loop = self.went_round
        return self.drawn[tap].over(self.cold_c) * CP_WATER_J_KGK / self.weather.dt_s if loop is None else loop.gain_w

    def at(self, node: str, time_s: Array) -> Array:
        """Temperature of a node at instants, °C; NaN where it was not in the build."""
        series = self.temperature_c[node]
        good = ~np.isnan(series)
        if not good.any():
            return np.full(len(np.atleast_1d(time_s)), np.nan)
        first, last = self.edge_s[good][0], self.edge_s[good][-1]
        out = np.interp(time_s, self.edge_s[good], series[good])
        return np.where((time_s >= first) & (time_s <= last), out, np.nan)
