"""Speed of the twin, as times and as ratios within one run: `make bench`."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import date
from itertools import pairwise

import numpy as np
from scipy.integrate import solve_ivp

from drylamp.core.air.moist import boiling_c
from drylamp.core.engine import forecast, weather_of
from drylamp.core.heat.network import Drive, Network, advance, sun_substeps
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin import Adjustments, _scene, simulate
from drylamp.demo.scenario import OVEN, STEW, TERRACE

DAY = ClearDay(tmin_c=15, tmax_c=26)


def best(work: Callable[[], object], times: int) -> float:
    """Shortest of several runs, s."""
    marks = [time.perf_counter()]
    for _ in range(times):
        work()
        marks.append(time.perf_counter())
    return min(b - a for a, b in pairwise(marks))


def scene(weather) -> tuple[Network, Drive]:
    line = skyline(TERRACE.spots[0])
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, TERRACE.albedo, line)
    made = _scene(OVEN, None, weather, light, line, Adjustments())
    drive = Drive(
        weather.dt_s, weather.air_c, weather.sky_c, weather.wind_m_s, weather.vapour_pa, boiling_c(weather.pressure_pa),
        weather.pressure_pa, made.source_w, sun_substeps(weather.ghi_w_m2, weather.dt_s),
    )  # fmt: skip
    return made.network, drive


def by_scipy(network: Network, drive: Drive, rtol: float) -> np.ndarray:
    """The same network through solve_ivp LSODA, its right-hand side from the same compiled laws."""
    from drylamp.core.heat.march import link_terms

    law, start, end, params = network.compiled_links()
    count, capacity = len(network.nodes), network.capacities
    bounds = np.column_stack([drive.air_c, drive.sky_c, np.full(len(drive.air_c), drive.steam_c)])

    def slope(t: float, y: np.ndarray) -> np.ndarray:
        n = min(int(t / drive.dt_s), len(drive.air_c) - 1)
        whole = np.concatenate([y, bounds[n]])
        flow = drive.source_w[n].copy()
        for k in range(len(law)):
            i, j = start[k], end[k]
            g, h, c = link_terms(law[k], params[k], whole[i], whole[j], drive.wind_m_s[n], drive.vapour_pa[n], drive.pressure_pa)
            q = g * whole[i] - h * whole[j] + c
            if i < count:
                flow[i] -= q
            if j < count:
                flow[j] += q
        return flow / capacity

    at = drive.dt_s * np.arange(len(drive.air_c) + 1)
    first = np.full(count, drive.air_c[0])
    return solve_ivp(slope, (0, at[-1]), first, method="LSODA", rtol=rtol, atol=1e-4, t_eval=at, max_step=600).y.T


def main() -> None:
    cold = time.perf_counter()
    day = weather_of(TERRACE, DAY, Span(start=date(2025, 6, 12)))
    forecast(TERRACE, "terrace", OVEN, STEW, day)
    first = time.perf_counter() - cold
    warm = best(lambda: forecast(TERRACE, "terrace", OVEN, STEW, weather_of(TERRACE, DAY, Span(start=date(2025, 6, 12)))), 5)
    print(f"day forecast, first call in this process {first * 1000:7.0f} ms, warm {warm * 1000:6.1f} ms")
    year = weather_of(TERRACE, DAY, Span(start=date(2025, 1, 1), days=365))
    spent = best(lambda: simulate(TERRACE, "terrace", OVEN, STEW, year), 2)
    print(f"year of one build, 300 s steps, a meal a day     {spent:7.2f} s")
    network, drive = scene(day)
    start = np.full(len(network.nodes), day.air_c[0])
    ours = best(lambda: advance(network, start, drive), 5)
    theirs = best(lambda: by_scipy(network, drive, 1e-4), 1)
    apart = np.abs(advance(network, start, drive).temperature_c - by_scipy(network, drive, 1e-8)).max()
    print(f"march of one day {ours * 1000:.2f} ms; solve_ivp LSODA rtol 1e-4 {theirs * 1000:.0f} ms: {theirs / ours:.0f}x; worst node {apart:.3f} K")


if __name__ == "__main__":
    main()
