"""What moves air or water through a build: the pull of a warm column, or a fan or pump, against a chain of losses.

A *path* is a chain of parts one after the other (screen, collector, trays, vent): each resists with a loss
coefficient on the speed in its own free area. One flow through all of them settles where drive meets loss::

    Σ g Hⱼ (ρ_out − ρⱼ)  +  Δp₀ s² − Δp₀ (Q/Q₀)²  =  ½ ρ Q² Σ ζᵢ/Aᵢ²  +  k Q
      stack, by column        fan at speed s            turbulent losses    laminar losses

which is a quadratic in Q and is solved as one; wind past the outlet adds its suction. What comes out of a tap or a metering pump is *given* instead. A path that would draw the other way
(a cold column) stands still, as behind a flap, unless it goes *both ways*: then it runs backwards, and a laminar loss keeps it smooth through nothing.

References:
    ASHRAE Handbook Fundamentals: stack pressure, ventilation; fittings' losses ζ ½ρV². Fan laws (Q ∝ s, Δp ∝ s², P ∝ s³):
    ASHRAE Handbook HVAC Systems and Equipment, fans. A fan curve as a parabola through shut-off pressure and free
    delivery is common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from drylamp.core.air.constants import CP_AIR, CP_WATER_J_KGK, GRAVITY, OPENING_LOSS
from drylamp.core.air.properties import density_kg_m3
from drylamp.core.air.thermostat import Thermostat
from drylamp.core.checks import require
from drylamp.core.compiled import inlined, woven

DENSITY_WATER = 988.0
"""Water at about 50 °C."""
SWITCH = 9
GIVEN = SWITCH + 5
"""First of a path's five numbers that say whether two temperatures switch it, which, and at what differences; what is given after them."""
STOP = GIVEN + 1
"""First of three numbers of what stops it: node, °C, and whether above (1) or below (−1), nothing (0)."""
BOTH_WAYS, VENT, WIND, COLUMNS = STOP + 3, STOP + 4, STOP + 5, STOP + 6
"""Whether it may run backwards; Σ ζ/A² of what is set by the hour; the wind's pressure coefficient; and where its columns begin, two numbers each."""
SLOW_M_S, SMOOTH_KG_M3 = 0.02, 1.15
"""Speed below which an opening's loss is laminar: a Reynolds number of some 100 in an opening of 10 cm (Idelchik, losses at small Re; from memory)."""


@dataclass(frozen=True)
class Loss:
    """One part in the way: its free area and loss coefficient on the speed there, or a laminar loss (Pa per m³/s)."""

    name: str
    area_m2: float
    zeta: float = OPENING_LOSS
    laminar_pa_s_m3: float = 0.0

    def __post_init__(self) -> None:
        """Refuse an area of nothing: close a path by its setting, not by dividing by zero."""
        require(self.area_m2 > 0, f"path.{self.name}.area_m2", f"{self.area_m2:g} was given; allowed is above 0")
        require(self.zeta >= 0, f"path.{self.name}.zeta", f"{self.zeta:g} was given; allowed is 0 or more")


@dataclass(frozen=True)
class Mover:
    """A fan or pump by its shut-off pressure and its free delivery at full speed."""

    shut_off_pa: float
    free_m3_s: float

    def __post_init__(self) -> None:
        """Refuse a fan that cannot blow."""
        require(self.shut_off_pa > 0, "fan.shut_off_pa", f"{self.shut_off_pa:g} was given; allowed is above 0")
        require(self.free_m3_s > 0, "fan.free_m3_s", f"{self.free_m3_s:g} was given; allowed is above 0")


@dataclass(frozen=True)
class FlowPath:
    """A flow path.

    Attributes:
        name: for links to carry heat along
        losses: the chain, in any order
        columns: warm columns one above the other, each a node and its height in metres; losses are at the first's density
        outside: the boundary (or node) whose column stands beside them
        mover: a fan or pump, or none
        fluid: air or water
        open_share: setting of the vent or valve, 0 shut to 1 open; scales every area
        thermostat: two temperatures that switch its fan or pump inside the march, or none
        given_kg_s: what passes at full speed whatever stands against it, as from a tap; 0 where the balance decides
        led: whether what flows in a pipe decides (``heat.siphon``), unless something is given
        vents: more of the chain, what somebody sets by the hour
        wind: pressure coefficient at the inlet less that at the outlet: what the wind's own pressure ½ρV² adds to the drive
        both_ways: whether it may run backwards
    """

    name: str
    losses: tuple[Loss, ...]
    columns: tuple[tuple[str, float], ...]
    outside: str
    mover: Mover | None = None
    fluid: Literal["air", "water"] = "air"
    open_share: float = 1.0
    thermostat: Thermostat | None = None
    given_kg_s: float = 0.0
    led: bool = False
    vents: tuple[Loss, ...] = ()
    wind: float = 0.0
    both_ways: bool = False

    def __post_init__(self) -> None:
        """Refuse a path without parts, a setting beyond shut and open. A column may lead down."""
        if self.given_kg_s > 0 or self.led:
            return
        require(len(self.losses) > 0, f"path.{self.name}", "has no parts; give at least one opening")
        require(len(self.columns) > 0, f"path.{self.name}.columns", "has no column; give at least one, of no height")
        good = 0 <= self.open_share <= 1
        require(good, f"path.{self.name}.open_share", f"{self.open_share:g} was given; allowed is 0 to 1")

    @property
    def effective_m2(self) -> float:
        """Free area of one sharp opening that would resist like the whole chain."""
        total = sum(part.zeta / part.area_m2**2 for part in self.losses)
        return math.sqrt(OPENING_LOSS / total) * self.open_share if total > 0 else math.inf


def path_row(path: FlowPath, index: Mapping[str, int]) -> NDArray[np.float64]:
    """A path as the marcher wants it, shape (COLUMNS + 2 columns,); ``index`` numbers nodes and boundaries.

    Columns: is water, outside, Σ ζ/A², Σ laminar, shut-off pressure, free delivery, is open, cp, how many columns,
    then the thermostat's five numbers, what is given, what stops it, whether it goes both ways, what is set by the hour, the wind's coefficient, and node and height
    of each column.
    """
    share = max(path.open_share, 1e-9)
    turbulent = sum(part.zeta / part.area_m2**2 for part in path.losses) / share**2
    laminar = sum(part.laminar_pa_s_m3 for part in path.losses) / share
    vents = sum(part.zeta / part.area_m2**2 for part in path.vents)
    if path.both_ways and turbulent > 0.0:
        laminar += 0.5 * SMOOTH_KG_M3 * math.sqrt(OPENING_LOSS * (turbulent + vents)) * SLOW_M_S
    mover = (path.mover.shut_off_pa, path.mover.free_m3_s) if path.mover else (0.0, 1.0)
    is_water = path.fluid == "water"
    cp = CP_WATER_J_KGK if is_water else CP_AIR
    is_open = 1.0 if path.open_share > 0 else 0.0
    row = np.zeros(COLUMNS + 2 * len(path.columns))
    row[:SWITCH] = [float(is_water), index[path.outside], turbulent, laminar, *mover, is_open, cp, len(path.columns)]
    switch = path.thermostat
    if switch is not None:
        row[SWITCH:GIVEN] = [1.0, index[switch.warm], index[switch.cool], switch.on_k, switch.off_k]
        if switch.stop is not None:
            row[STOP:BOTH_WAYS] = [index[switch.stop.node], switch.stop.at_c, 1.0 if switch.stop.above else -1.0]
    row[GIVEN] = path.given_kg_s
    row[BOTH_WAYS:COLUMNS] = [float(path.both_ways), vents, path.wind]
    for k, (node, height) in enumerate(path.columns):
        row[COLUMNS + 2 * k], row[COLUMNS + 2 * k + 1] = index[node], height
    return row


def path_rows(paths: Sequence[FlowPath], index: Mapping[str, int]) -> NDArray[np.float64]:
    """Several of them, as wide as the one with most columns, shape (paths, width)."""
    rows = [path_row(path, index) for path in paths]
    out = np.zeros((len(rows), max((len(row) for row in rows), default=COLUMNS)))
    for line, row in zip(out, rows, strict=True):
        line[: len(row)] = row
    return out


@inlined
def settled_m3_s(drive_pa: float, turbulent: float, laminar: float) -> float:
    """Flow at which drive = turbulent Q² + laminar Q; nothing without a drive."""
    if drive_pa <= 0.0:
        return 0.0
    # the form of the quadratic's root that does not cancel when either loss is small
    return 2.0 * drive_pa / (laminar + math.sqrt(laminar * laminar + 4.0 * turbulent * drive_pa))


@inlined
def stack_pa(height_m: float, column_c: float, outside_c: float, pressure_pa: float) -> float:
    """Pull of a warm column of air, Pa; negative when it is the colder one."""
    return GRAVITY * height_m * (density_kg_m3(outside_c, pressure_pa) - density_kg_m3(column_c, pressure_pa))


@inlined
def water_lift_pa(height_m: float, column_c: float, outside_c: float) -> float:
    """Pull of a warm column of water (thermosiphon), Pa; density falls by 0.045 % per K near 50 °C (CoolProp)."""
    return GRAVITY * height_m * DENSITY_WATER * 4.5e-4 * (column_c - outside_c)


@woven
def path_kg_s(
    paths: NDArray[np.float64], f: int, temperature_c: NDArray[np.float64], speed: float, opening: float, wind_m_s: float,
    pressure_pa: float,
) -> float:  # fmt: skip
    """Mass flow through path number f of a table of them, kg/s, below nothing backwards; temperatures by node and boundary."""
    if paths[f, 6] == 0.0 or opening <= 0.0:
        return 0.0
    if paths[f, GIVEN] > 0.0:
        return float(paths[f, GIVEN] * speed)
    outside, first = temperature_c[np.uint64(paths[f, 1])], temperature_c[np.uint64(paths[f, COLUMNS])]
    is_water = paths[f, 0] == 1.0
    density = DENSITY_WATER if is_water else density_kg_m3(first, pressure_pa)
    drive = paths[f, 4] * speed * speed + 0.5 * paths[f, WIND] * density * wind_m_s * wind_m_s
    for k in range(int(paths[f, 8])):
        at = np.uint64(COLUMNS + 2 * k)
        column, height = temperature_c[np.uint64(paths[f, at])], paths[f, at + np.uint64(1)]
        if is_water:
            drive += water_lift_pa(height, column, outside)
        else:
            drive += stack_pa(height, column, outside, pressure_pa)
    losses = paths[f, 2] + paths[f, VENT] / (opening * opening)
    turbulent = 0.5 * density * losses + paths[f, 4] / (paths[f, 5] * paths[f, 5])
    if drive < 0.0 and paths[f, BOTH_WAYS] == 1.0:
        return -density * settled_m3_s(-drive, turbulent, paths[f, 3])
    return density * settled_m3_s(drive, turbulent, paths[f, 3])


def flow_kg_s(
    path: FlowPath, temperature_c: Mapping[str, float], pressure_pa: float, speed: float = 1.0, opening: float = 1.0, wind_m_s: float = 0.0
) -> float:  # fmt: skip
    """Mass flow through a path at given temperatures of its nodes and boundaries, kg/s; below nothing it runs backwards."""
    index = {name: k for k, name in enumerate(temperature_c)}
    temperatures = np.array(list(temperature_c.values()), dtype=float)
    return float(path_kg_s(path_rows([path], index), 0, temperatures, speed, opening, wind_m_s, pressure_pa))
