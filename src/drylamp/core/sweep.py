"""Many designs over one long weather: what each would do standing empty, minute by minute, kept by the hour.

Everything that does not depend on the design (the sun's path, light, sky, which steps may be merged) is made once.
Designs of one shape are marched in lanes, so many at once (``heat/lanes.py``); blocks of them go to an executor's workers, whose compiled loops let threads run side by side.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import TypeVar

import numpy as np

from drylamp.core.air.moist import boiling_c
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.heat.abreast import advance_lanes, shape_of
from drylamp.core.heat.advance import History, advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive, jump_substeps, merged
from drylamp.core.heat.lanes import LANES
from drylamp.core.optics.sun_plan import SunPlan, sun_plan
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.twin.calibration import TEXTBOOK, Calibration, calibrated
from drylamp.core.twin.light import LitNetwork, lit_network

HOUR_S = 3600.0
T = TypeVar("T")


@dataclass(frozen=True)
class Stood:
    """What one design did.

    Attributes:
        temperature_c: by node at the hours' edges, shape (hours + 1,)
        account_kwh: heat lost by account of the ledger
        sun_kwh: sun taken up
        energy_closure: energy unaccounted for, as a share of the sun taken up
    """

    temperature_c: dict[str, Array]
    account_kwh: dict[str, float]
    sun_kwh: float
    energy_closure: float


@dataclass(frozen=True)
class Ready:
    """A span of weather at a spot, made ready for any design: plan of the sun, merged drive without sun, skyline."""

    plan: SunPlan
    drive: Drive
    skyline_deg: Array
    keep: int


def ready(site: Site, spot: str | None, weather: Weather) -> Ready:
    """Make a span of weather ready."""
    line = skyline(site.spot(spot))
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, line)
    drive = Drive(
        dt_s=weather.dt_s,
        air_c=weather.air_c,
        sky_c=weather.sky_c,
        wind_m_s=weather.wind_m_s,
        vapour_pa=weather.vapour_pa,
        steam_c=boiling_c(weather.pressure_pa),
        pressure_pa=weather.pressure_pa,
        source_w=np.zeros((weather.steps, 1)),
        substeps=jump_substeps(weather.wind_m_s, weather.ghi_w_m2),
    )
    lit = light.beam_w_m2 + light.dome_w_m2 + light.ground_w_m2 > 0.0
    calm = merged(drive, lit)
    # a merged block is dark, so its first step's light stands for all of it
    plan = sun_plan(weather.sun, light, calm.edges[:-1])
    return Ready(plan, calm, line, round(HOUR_S / weather.dt_s))


def run_design(build: Build, at: Ready, calibration: Calibration | None = None) -> Stood:
    """Run one design over the whole span, empty, from the first hour's air."""
    lit = _lit(build, at, calibration)
    drive = replace(at.drive, source_w=lit.source_w)
    history = advance(lit.network, np.full(len(lit.network.nodes), float(drive.air_c[0])), drive, at.keep)
    return _stood(lit, history, drive)


def run_designs(builds: Sequence[Build], at: Ready, calibration: Calibration | None = None) -> list[Stood]:
    """Run several, those of one shape side by side in lanes; results in the order given."""
    lit = [_lit(build, at, calibration) for build in builds]
    found: dict[int, Stood] = {}
    for block in _blocks([shape_of(one.network) for one in lit]):
        if len(block) == 1:
            found[block[0]] = run_design(builds[block[0]], at, calibration)
            continue
        networks, first = (
            [lit[k].network for k in block],
            np.full(len(lit[block[0]].network.nodes), float(at.drive.air_c[0])),
        )
        histories = advance_lanes(networks, first, at.drive, [lit[k].source_w for k in block], at.keep)
        for k, history in zip(block, histories, strict=True):
            found[k] = _stood(lit[k], history, replace(at.drive, source_w=lit[k].source_w))
    return [found[k] for k in range(len(builds))]


def _blocks(shapes: Sequence[object]) -> list[Sequence[int]]:
    """Numbers of designs that are marched together: of one shape, as many as there are lanes; one that has none is alone."""
    by_shape: dict[object, list[int]] = {}
    for k, shape in enumerate(shapes):
        by_shape.setdefault(("alone", k) if shape is None else shape, []).append(k)
    return [block for mine in by_shape.values() for block in _even(mine)]


def _even(items: Sequence[T]) -> list[Sequence[T]]:
    """As few blocks of at most so many as there are lanes, all about as long."""
    count = max(math.ceil(len(items) / LANES), 1)
    return [items[len(items) * k // count : len(items) * (k + 1) // count] for k in range(count) if items]


def _lit(build: Build, at: Ready, calibration: Calibration | None) -> LitNetwork:
    return calibrated(lit_network(build, None, at.plan, at.skyline_deg), calibration or TEXTBOOK, build, None)


def _stood(lit: LitNetwork, history: History, drive: Drive) -> Stood:
    lost, sun = closure(lit.network, history, drive)
    accounts: dict[str, float] = {}
    for k, link in enumerate(lit.network.links):
        if link.account:
            kwh = float(history.link_w[:, k].sum()) * history.dt_s / 3.6e6
            accounts[link.account] = accounts.get(link.account, 0.0) + kwh
    shone_j = np.diff(drive.edges) @ lit.source_w * drive.dt_s
    for node, joules in zip(lit.network.nodes, shone_j.tolist(), strict=True):
        if node.sun_account:
            accounts[node.sun_account] = accounts.get(node.sun_account, 0.0) - joules / 3.6e6
    temperatures = {name: history.temperature_c[:, k] for k, name in enumerate(lit.network.names)}
    return Stood(temperatures, accounts, sun / 3.6e6, abs(lost) / sun if sun > 0 else 0.0)


def sweep(
    site: Site, spot: str | None, builds: Sequence[Build], weather: Weather, executor: Executor | None = None
) -> list[Stood]:
    """Run designs side by side on one weather; results in the order given, the same whatever the executor."""
    at = ready(site, spot, weather)
    blocks = _even(builds)
    if executor is not None:
        return [one for block in executor.map(lambda block: run_designs(block, at), blocks) for one in block]
    with ThreadPoolExecutor() as threads:
        return [one for block in threads.map(lambda block: run_designs(block, at), blocks) for one in block]
