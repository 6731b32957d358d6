"""Speed and accuracy of the engine, as times and as ratios within one run: `make bench`."""

from __future__ import annotations

import ctypes
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise
from pathlib import Path
from statistics import median

import numpy as np
from scipy.integrate import solve_ivp

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.moist import boiling_c
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box.geometry import geometry_of as facets_of
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.common.coil import Coil
from drylamp.core.common.wall import WallLayer
from drylamp.core.engine import forecast
from drylamp.core.heat.advance import advance, march_inputs, matrix_for, room_for, room_for_records
from drylamp.core.heat.assemble import assemble
from drylamp.core.heat.drive import Drive, jump_substeps, reset_substeps
from drylamp.core.heat.law import Law
from drylamp.core.heat.march import Records, march
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import BOUNDARIES, Link, Node
from drylamp.core.loads.common.draws import Draw
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.optics.sun_plan import sun_plan
from drylamp.core.optics.sun_table import flux_map, table_of
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.plane import sky_light
from drylamp.core.sky.weather import ClearDay, Span, Weather
from drylamp.core.sweep import ready, run_design, sweep
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.light import lit_network
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import (
    BASIN,
    BASIN_HOSE,
    CAPPINGS,
    CHESTNUT_KILN,
    CREW_POT,
    DAIRY_TANK,
    DAIRY_TUBES,
    DISH,
    FIELD_KETTLE,
    FIELD_TEA,
    FIG_DRYER,
    FILM_KILN,
    FLAT_LOAF,
    FUNNEL,
    HEATER,
    MELTER,
    OAK,
    OVEN,
    PLUNGE_TUB,
    SHOWERS,
    SKETCH,
    SKETCH_DRYER,
    STEW,
    TERRACE,
    TUB_FRAME,
    demo_now,
)

DAY, JUNE = ClearDay(tmin_c=15, tmax_c=26), date(2025, 6, 12)
FLAP = FlapMirror(length_m=0.45, angle_deg=110)
FOUR = OVEN.model_copy(update={"flaps": MoreFlaps(lower=FLAP, left=FLAP, right=FLAP)})
OF_DAY = usual_case(TERRACE, "terrace", OVEN, STEW, JUNE)
DESIGNS = 200


def best(work: Callable[[], object], times: int) -> float:
    """Shortest of several runs, s."""
    marks = [time.perf_counter()]
    for _ in range(times):
        work()
        marks.append(time.perf_counter())
    return min(b - a for a, b in pairwise(marks))


def said(words: str, number: str) -> None:
    print(f"{words:<78} {number}", flush=True)


def scene(weather: Weather, load: PotLoad | None = None, hours: tuple[int, int] = (0, 24)) -> tuple[Network, Drive]:
    """The demo's oven and what drives it, for hours of a day."""
    line = skyline(TERRACE.spots[0])
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, TERRACE.albedo, line)
    made = lit_network(OVEN, load, sun_plan(weather.sun, light), line)
    part = slice(hours[0] * 60, hours[1] * 60)
    substeps = reset_substeps(jump_substeps(weather.wind_m_s, weather.ghi_w_m2)[part], weather.dt_s)
    drive = Drive(
        weather.dt_s, weather.air_c[part], weather.sky_c[part], weather.wind_m_s[part], weather.vapour_pa[part],
        boiling_c(weather.pressure_pa), weather.pressure_pa, made.source_w[part], substeps,
    )  # fmt: skip
    return made.network, drive


def by_scipy(network: Network, first: np.ndarray, drive: Drive, rtol: float, atol: float) -> np.ndarray:
    """The same network through solve_ivp LSODA, its right-hand side from the same compiled laws; nothing boils."""
    inputs, room = march_inputs(network, first, drive, drive.edges[:-1]), room_for(network)
    links, count, nowhere = inputs[2], len(network.nodes), np.empty(0)
    matrix, push = np.empty((count, count)), np.empty(count)
    water = np.array([n.boils.water_kg if n.boils and n.boils.runs_out else 0.0 for n in network.nodes])
    capacity, bounds = network.capacities + CP_WATER_J_KGK * water, inputs[4].boundary_c

    def slope(t: float, y: np.ndarray) -> np.ndarray:
        n = min(int(t / drive.dt_s), len(drive.air_c) - 1)
        whole, air = np.concatenate([y, bounds[n]]), (drive.wind_m_s[n], drive.vapour_pa[n], drive.pressure_pa)
        for _ in range(2):  # films of pots go by the heat that passed through them last
            assemble(whole, *links, nowhere, air, drive.source_w[n], matrix, push, room.terms, room.steam_w)
        return (push - matrix @ y) / capacity

    at = drive.dt_s * np.arange(len(drive.air_c) + 1)
    span = (0.0, float(at[-1]))
    return solve_ivp(slope, span, first, method="LSODA", rtol=rtol, atol=atol, t_eval=at, max_step=drive.dt_s).y.T


def accuracy() -> None:
    """Worst node of whole days and of a pot swap, against LSODA at rtol 1e-9."""
    clear = weather_of(TERRACE, DAY, Span(start=JUNE))
    grey = weather_of(TERRACE, DAY.model_copy(update={"sky": "grey"}), Span(start=JUNE))
    clouds = made_up_weather(TERRACE, date(2025, 6, 1), 20, seed=3, step_s=60)
    jumps = [weather_of(TERRACE, clouds, Span(start=date(2025, 6, d))) for d in range(2, 19)]
    broken = max(jumps, key=lambda w: float(np.abs(np.diff(w.ghi_w_m2)).sum()))
    hot = {"tray": 110.0, "inside-air": 85.0, "walls": 80.0, "cover-1": 78.0, "cover-2": 46.0, "insulation": 55.0}
    for words, weather, load, hours in (
        ("clear day", clear, None, (0, 24)), ("overcast day", grey, None, (0, 24)), ("broken cloud", broken, None, (0, 24)),
        ("pot swap into a hot box, before it boils", clear, STEW, (12, 13)),
    ):  # fmt: skip
        network, drive = scene(weather, load, hours)
        cold = float(drive.air_c[0])
        first = np.array([hot.get(name, 22.0) if load else cold for name in network.names])
        apart = np.abs(advance(network, first, drive).temperature_c - by_scipy(network, first, drive, 1e-9, 1e-9))
        said(f"worst node against LSODA rtol 1e-9, {words}", f"{apart.max():.3f} K")


def march_in_c(network: Network, drive: Drive) -> Callable[[], None]:
    """The hand-written kernel, built here, ready to run on the same arrays."""
    library = Path(tempfile.mkdtemp()) / "march.so"
    source = Path(__file__).with_name("march.c")
    flags = ["-O3", "-march=native", "-ffp-contract=fast", "-shared", "-fPIC"]
    subprocess.run(["cc", *flags, "-o", str(library), str(source), "-lm"], check=True)
    kernel = ctypes.CDLL(str(library)).march_c
    law, (start, end), params = network.compiled_links
    steps, nodes, links, bounds = len(drive.air_c), len(network.nodes), len(network.links), len(BOUNDARIES)
    temperature, energy = np.empty((steps + 1, nodes)), np.empty((steps, links))
    arrays = [
        np.full(nodes, float(drive.air_c[0])), network.capacities, law, np.ascontiguousarray(start), np.ascontiguousarray(end), params, drive.boundaries(),
        np.ascontiguousarray(drive.wind_m_s), np.ascontiguousarray(drive.source_w), np.full(steps, drive.dt_s),
        drive.substeps, np.arange(steps), temperature, energy,
    ]  # fmt: skip
    at = [a.ctypes.data_as(ctypes.c_void_p) for a in arrays]
    sizes = [ctypes.c_int64(v) for v in (steps, nodes, links, bounds)]
    width, pressure = ctypes.c_int64(params.shape[1]), ctypes.c_double(drive.pressure_pa)

    def run() -> None:
        kernel(*sizes, *at[:6], width, *at[6:8], pressure, *at[8:])

    run()
    ours = advance(network, arrays[0], drive)
    assert np.abs(ours.temperature_c - temperature).max() < 1e-6, "the two kernels disagree"
    run.arrays = arrays  # type: ignore[attr-defined]  # the kernel holds their addresses
    return run


def march_alone(network: Network, first: np.ndarray, drive: Drive) -> Callable[[], Records]:
    """The compiled marcher of a dense network and nothing beside it, ready to run; it gives what it wrote down."""
    inputs, room = march_inputs(network, first, drive, drive.edges[:-1]), room_for(network)
    melting, boiling = network.compiled_melting(), network.compiled_boiling()
    records = room_for_records(network, len(drive.air_c))

    def run() -> Records:
        march(*inputs, melting, boiling, records, room, *matrix_for(network), None, None)
        return records

    return run


def march_speed() -> None:
    weather = weather_of(TERRACE, DAY, Span(start=JUNE))
    network, drive = scene(weather)
    first = np.full(len(network.nodes), weather.air_c[0])
    in_c = march_in_c(network, drive)
    alone = march_alone(network, first, drive)
    # one run of each by turns: this machine changes its speed while one is measured
    pairs = [(best(alone, 1), best(in_c, 1)) for _ in range(600)]
    ours, ratio = min(pair[0] for pair in pairs), median(a / b for a, b in pairs)
    lsoda = best(lambda: by_scipy(network, first, drive, 1e-4, 1e-4), 2)
    said(
        f"march of one day, {len(network.nodes)} nodes, {len(network.links)} links, 1-minute steps",
        f"{ours * 1e3:.2f} ms",
    )
    said("solve_ivp LSODA rtol 1e-4 on the same network / ours", f"{lsoda / ours:.0f} x (wanted: 60)")
    said("ours / the same method hand-written in C", f"{ratio:.2f} (wanted: at most 1.5)")


def ladder(count: int) -> Network:
    """A network of so many nodes, each beside one or two before it, as pipes along panes are."""
    nodes = tuple(Node(f"n{k}", 500.0 + 300.0 * (k % 7), "") for k in range(count))
    beside = [(k, j) for k in range(1, count) for j in {(k - 1) // 2, k - 1} if k % 2 or j == k - 1]
    links = [
        Link(f"l{k}-{j}", Law.RADIATION if k % 3 else Law.CONDUCTANCE, f"n{k}", f"n{j}", (0.2,)) for k, j in beside
    ]
    return Network(nodes, (Link("wind", Law.WIND, "n0", "air", (0.5,)), *links))


def wide_march_speed() -> None:
    """A step of networks of many nodes, through sparse factors."""
    weather = weather_of(TERRACE, DAY, Span(start=JUNE))
    for count in (20, 41, 61, 124):
        network = ladder(count)
        drive = replace(scene(weather)[1], source_w=np.full((weather.steps, count), 5.0))
        first = np.full(count, 20.0)
        took = best(lambda network=network, first=first, drive=drive: advance(network, first, drive), 20)
        said(f"a step with {count} nodes, {len(network.links)} links", f"{took / weather.steps * 1e6:.1f} µs")


def sweep_speed() -> None:
    records = made_up_weather(TERRACE, date(2024, 12, 31), 367, seed=1, step_s=60)
    weather = weather_of(TERRACE, records, Span(start=date(2025, 1, 1), days=365, step_s=60))
    at = ready(TERRACE, "terrace", weather)
    one = best(lambda: run_design(OVEN, at), 3)
    steps = len(at.drive.air_c)
    said(f"one design, one year of 1-minute weather ({steps} steps after merging calm nights)", f"{one:.2f} s")
    designs = [design(k) for k in range(DESIGNS)]
    rates = []
    for workers, some in ((1, designs[:40]), (2, designs)):
        with ThreadPoolExecutor(workers) as threads:
            begun = time.perf_counter()
            found = sweep(TERRACE, "terrace", some, weather, threads)
            rates.append(len(some) / (time.perf_counter() - begun))
        worst = max(f.energy_closure for f in found)
        said(
            f"sweep of {len(some)} designs, {workers} worker{'s' * (workers > 1)}",
            f"{rates[-1]:.2f} design-years/s; closure {worst:.0e}",
        )
    said(
        "gain of the second core, and of lanes over one design after the other",
        f"{rates[1] / rates[0]:.2f} x, {rates[1] * one / 2.0:.2f} x (wanted rate: 10)",
    )
    alone = [run_design(build, at) for build in designs[:3]]
    apart = max(
        float(np.abs(a.temperature_c[n] - b.temperature_c[n]).max())
        for a, b in zip(alone, found, strict=False)
        for n in a.temperature_c
    )
    said("lanes against the single march over the year", f"{apart:.1e} K (wanted: 0.02)")


def design(k: int) -> BoxOven:
    """One of many: tilt, wool, mirror and seal differ."""
    wall = [OVEN.wall[0], WallLayer(material="sheep-wool", thickness_m=0.02 + 0.01 * (k % 7)), OVEN.wall[-1]]
    mirror = FlapMirror(length_m=0.3 + 0.05 * (k % 5), angle_deg=95 + 5 * (k % 6))
    return OVEN.model_copy(
        update={"tilt_deg": 10 + 2.0 * (k % 21), "wall": wall, "mirror": mirror, "seal_gap_mm": 0.2 + 0.1 * (k % 9)}
    )


def first_calls() -> None:
    """The first forecast of a process, compiled afresh and read from the cache."""
    code = (
        "import time; from drylamp.demo.scenario import warm_case; import drylamp.core.optics.trace; "
        "t = time.perf_counter(); warm_case(); print(time.perf_counter() - t)"
    )
    with tempfile.TemporaryDirectory() as cache:
        env = {**os.environ, "NUMBA_CACHE_DIR": cache}
        cold, warm = (
            float(
                subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True, check=True).stdout
            )
            for _ in range(2)
        )
    said(
        "first call compiled / first call from the cache",
        f"{cold:.1f} s / {warm:.2f} s = {cold / warm:.1f} (wanted: 5)",
    )


def rays_speed() -> None:
    facets = facets_of(FOUR, None)
    noon = np.array([0.0, 0.3, 0.95]) / np.hypot(0.3, 0.95)
    table_of(facets, nodes=5), flux_map(facets, "floor", noon)
    said("ray table of a four-flap box over the whole sky", f"{best(lambda: table_of(facets), 2):.2f} s (wanted: 1.5)")
    said("flux map of one hour", f"{best(lambda: flux_map(facets, 'floor', noon), 3) * 1e3:.0f} ms (wanted: 100)")


def advice_speed() -> None:
    """The weakest link and a season for every kind, traced afresh."""
    from drylamp.core.advice.context import AdviceContext
    from drylamp.core.advice.meal import year_plan
    from drylamp.core.advice.weakest import weakest_link
    from drylamp.core.kept import forget_everything

    weather = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26.5), Span(start=date(2025, 6, 12), step_s=300))
    for words, build, load in (
        ("box", OVEN, STEW), ("funnel", FUNNEL, FLAT_LOAF), ("dish", DISH, CREW_POT), ("melter", MELTER, CAPPINGS),
    ):  # fmt: skip
        case = usual_case(TERRACE, "terrace", build, load, JUNE)
        at = AdviceContext(case, weather)
        weakest_link(at)
        spent = []
        for _ in range(3):
            forget_everything()
            begun = time.perf_counter()
            count = len(weakest_link(at).lines)
            spent.append(time.perf_counter() - begun)
        begun = time.perf_counter()
        year_plan(case)
        year = time.perf_counter() - begun
        said(
            f"weakest link of a {words}, {count} changes, each under 4–5 calibrations",
            f"{median(spent):.2f} s (wanted for 20: 1); a year by months with chances {year:.1f} s (wanted: 2)",
        )


def api_speed() -> None:
    from drylamp.web.app import create_app
    from drylamp.web.settings import Settings

    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(data=Path(folder) / "yard.sqlite3", now=demo_now))
        client = app.test_client()
        client.post("/api/sites", json=TERRACE.model_dump(mode="json"))
        for words, build, load, field, first in (
            ("one mirror", OVEN, STEW, "height_m", 0.24), ("four mirrors", FOUR, STEW, "height_m", 0.24), ("turned box", OVEN.with_(turned_minutes=30.0), STEW, "height_m", 0.24),
            ("funnel", FUNNEL, STEW, "throat_m", 0.3), ("turned funnel", FUNNEL.with_(turned_minutes=15.0), STEW, "throat_m", 0.3), ("dish", DISH, CREW_POT, "pot_offset_m", 0.0),
            ("melter", MELTER, CAPPINGS, "height_m", 0.12), ("batch box", HEATER, SHOWERS, "height_m", 0.24), ("hose coil", BASIN_HOSE, BASIN, "width_m", 1.0),
        ):  # fmt: skip
            spent = []
            for k in range(15):
                spec = build.model_copy(update={field: first + 0.002 * k}).model_dump(mode="json")
                body = {
                    "site_id": 1,
                    "spot": "terrace",
                    "spec": spec,
                    "load": load.model_dump(mode="json"),
                    "day": "2025-06-12",
                }
                begun = time.perf_counter()
                assert client.post("/api/twin/day", json=body).status_code == 200
                spent.append(time.perf_counter() - begun)
            said(
                f"changed dimension, day answered by the API, {words}, median of 15",
                f"{median(spent[2:]) * 1e3:.0f} ms (wanted: 150)",
            )
        app.config["DATABASE"].close()


def forecasts() -> None:
    day = best(lambda: forecast(OF_DAY, weather_of(TERRACE, DAY, Span(start=JUNE))), 5)
    said("day forecast in process, weather, loaded and empty run, cautions", f"{day * 1e3:.0f} ms")
    year = weather_of(TERRACE, DAY, Span(start=date(2025, 1, 1), days=365))
    turned = OF_DAY.with_(build=OVEN.with_(turned_minutes=30.0))
    for words, case, wanted in (("", OF_DAY, 2), (", turned every 30 min", turned, 4)):
        spent = best(lambda case=case: simulate(case, year), 2)
        said(f"year of one build, 300 s steps, a meal a day{words}", f"{spent:.2f} s (wanted: {wanted})")


def water_speed() -> None:
    """A week and a year of water with draws."""
    twice = [Draw(at="07:30", take_l=15, l_min=5), Draw(at="19:00", take_l=40, l_min=5)]
    for words, build, load in (
        ("batch box, drawn directly", HEATER, SHOWERS.model_copy(update={"draws": twice})),
        ("batch box, through a coil", HEATER.with_(coil=Coil(pipe_m=20)), SHOWERS.model_copy(update={"draws": twice})),
        ("hose coil", BASIN_HOSE, BASIN.model_copy(update={"draws": twice})),
    ):
        case = usual_case(TERRACE, "terrace", build, load, JUNE)
        for span, wanted in (
            (Span(start=JUNE, days=7, step_s=60), 0.3),
            (Span(start=date(2025, 1, 1), days=365, step_s=300), 2.5),
        ):
            weather = weather_of(TERRACE, DAY, span)
            spent = best(lambda case=case, weather=weather: simulate(case, weather), 3)
            said(
                f"{span.days} days of a {words}, two draws a day, {span.step_s or 300:.0f} s steps",
                f"{spent:.2f} s (wanted: {wanted})",
            )


def loop_speed() -> None:
    """A day, a week and a year of six coils, a tub and a controller; a day of a kettle, and all three of a row of tubes."""
    six = TUB_FRAME.with_(coils=6, joined="parallel", width_m=7.5)
    assert PLUNGE_TUB.pump is not None
    pump = PLUNGE_TUB.pump.model_copy(update={"how": "difference", "free_l_min": 30.0})
    day, week = (Span(start=JUNE, step_s=60), 0.15), (Span(start=JUNE, days=7, step_s=60), 0.3)
    year = Span(start=date(2025, 1, 1), days=365, step_s=300), 2.5
    for words, build, load, spans in (
        ("six coils, a tub and a controller", six, PLUNGE_TUB.model_copy(update={"pump": pump}), (day, week, year)),
        ("a tube kettle", FIELD_KETTLE, FIELD_TEA, (day,)),
        ("a row of tubes and a tank", DAIRY_TUBES, DAIRY_TANK, (day, week, year)),
    ):
        case = usual_case(TERRACE, "terrace", build, load, JUNE)
        for span, wanted in spans:
            weather = weather_of(TERRACE, DAY, span)
            spent = best(lambda case=case, weather=weather: simulate(case, weather), 3)
            said(f"{span.days} days of {words}, {span.step_s or 300:.0f} s steps", f"{spent:.2f} s (wanted: {wanted})")


def dryer_speed() -> None:
    """A batch of four days through the API, what is asked of it, and a year of weekly batches."""
    from drylamp.web.app import create_app
    from drylamp.web.settings import Settings

    six = FIG_DRYER.with_(trays=FIG_DRYER.trays.model_copy(update={"count": 6}))
    figs = FoodTrays(foods=[FoodOnTray(tray=k, food="fig", kg=0.4) for k in range(1, 7)])
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(data=Path(folder) / "yard.sqlite3", now=demo_now))
        client = app.test_client()
        client.post("/api/sites", json=TERRACE.model_dump(mode="json"))

        def asked(path: str, k: int, build: FoodDryer = six, **more: object) -> float:
            spec = build.with_(stands_m=0.3 + 0.01 * k).model_dump(mode="json")
            body = {"site_id": 1, "spec": spec, "load": figs.model_dump(mode="json"), "day": "2025-09-10", **more}
            begun = time.perf_counter()
            assert client.post(path, json=body).status_code == 200
            return time.perf_counter() - begun

        batch = median([asked("/api/twin/ahead", k, days=4) for k in range(9)][1:])
        said("four-day batch of six trays at 60 s, through the API, median of 8", f"{batch * 1e3:.0f} ms (wanted: 250)")
        sketch = SKETCH.model_dump(mode="json")
        apart = median([asked("/api/advice/apart", k, SKETCH_DRYER, other=sketch, promised_c=65.0) for k in range(3)])
        said("all orders of six differences (64 runs)", f"{apart:.1f} s (wanted: 12)")
        said("days to dry by chance, 12 weeks of 6 days", f"{asked('/api/advice/batch', 20):.1f} s")
        said("kilograms a week by the month, 24 weeks", f"{asked('/api/advice/weekly', 21):.1f} s")
        app.config["DATABASE"].close()
    weeks = [Span(start=date(2025, 1, 1) + timedelta(days=7 * week), days=7, step_s=300) for week in range(52)]
    dried = [
        (usual_case(TERRACE, None, six, figs, span.start).with_(span=span), weather_of(TERRACE, DAY, span))
        for span in weeks
    ]
    with ThreadPoolExecutor(max_workers=2) as both:
        spent = best(lambda: list(both.map(lambda pair: simulate(*pair), dried)), 2)
    said("a year of weekly batches at 300 s, weather at hand, two at a time", f"{spent:.2f} s (wanted: 3)")


def kiln_speed() -> None:
    """Half a year of three groups, and what is asked of a charge through the API after each change of a vent or skin."""
    from drylamp.web.app import create_app
    from drylamp.web.settings import Settings

    kiln = CHESTNUT_KILN.with_(depth_m=2.6)
    three = LumberCharge(
        groups=[
            BoardGroup(species="white-oak", thickness_mm=27.0, wood_m3=0.4), BoardGroup(species="poplar", thickness_mm=27.0, wood_m3=0.3, start="green-sap"),
            BoardGroup(species="eastern-white-pine", thickness_mm=27.0, wood_m3=0.3),
        ]
    )  # fmt: skip
    case = usual_case(TERRACE, None, kiln, three, date(2025, 4, 1)).with_(
        span=Span(start=date(2025, 4, 1), days=180, step_s=300)
    )
    weather = weather_of(TERRACE, DAY, case.span)
    said(
        "180 days of a kiln, three groups, 300 s steps", f"{best(lambda: simulate(case, weather), 3):.2f} s (wanted: 2)"
    )
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(data=Path(folder) / "yard.sqlite3", now=demo_now))
        client = app.test_client()
        client.post("/api/sites", json=TERRACE.model_dump(mode="json"))

        def asked(path: str, k: int, load: LumberCharge = three) -> float:
            spec = kiln.opened(0.2 + 0.01 * k).model_dump(mode="json")
            body = {"site_id": 1, "spec": spec, "load": load.model_dump(mode="json"), "day": "2025-05-10"}
            begun = time.perf_counter()
            answer = client.post(path, json=body)
            assert answer.status_code == 200, answer.get_json()
            return time.perf_counter() - begun

        for words, path, wanted, times in (
            ("fourteen days after a vent is set", "/api/twin/ahead", 0.4, 7), ("the whole charge after it", "/api/advice/charge", 2.5, 4),
            ("vents shut, as they are, and open today", "/api/advice/today", None, 3), ("vents week by week", "/api/advice/weeks", None, 2), ("best size of a charge", "/api/advice/charge-sizes", None, 2),
            ("what each change brings, in days and in risk", "/api/advice/charge-links", 15, 2), ("weakest link, from a fortnight", "/api/advice/weakest", 3, 2),
        ):  # fmt: skip
            spent = median([asked(path, k) for k in range(times + 1)][1:])
            said(
                f"{words}, through the API, median of {times}",
                f"{spent:.2f} s" + (f" (wanted: {wanted})" if wanted else ""),
            )
        slow = three.model_copy(update={"groups": [three.groups[0].model_copy(update={"thickness_mm": 54.0})]})
        spent = median([asked("/api/advice/charge", k, slow) for k in range(3)][1:])
        said("a charge that is not dry within seven months, by chance", f"{spent:.2f} s")
        app.config["DATABASE"].close()


def long_answers() -> None:
    """Thirty years of a charge, and a year's queue of three stacks: the first figures, and all of it."""
    from drylamp.core.advice.chance import chance
    from drylamp.core.advice.context import AdviceContext
    from drylamp.core.builds.sheet import Around
    from drylamp.core.engine import weather_for
    from drylamp.core.loads.lumber.questions import queue
    from drylamp.core.loads.lumber.sheets.waiting import WAITING, Waiting
    from drylamp.demo.sawyer import STACKS

    case = usual_case(TERRACE, None, FILM_KILN, OAK, date(2025, 6, 12))
    on = AdviceContext(case, weather_for(case))
    around = Around(TERRACE, date(2025, 6, 12), others={WAITING.name: [Waiting.model_validate(row) for row in STACKS]})
    for words, make, wanted in (
        ("thirty years of one charge", lambda: chance(on), "3 and 60"), ("a year's queue of three stacks", lambda: queue(on, OAK, around), "3, -"),
    ):  # fmt: skip
        begun, first = time.perf_counter(), 0.0
        for _ in make():
            first = first or time.perf_counter() - begun
        said(
            f"{words}: first figures, all of it",
            f"{first:.1f} s, {time.perf_counter() - begun:.1f} s (wanted: {wanted})",
        )


def machine() -> None:
    """How fast this machine is just now: rates above scale with it."""
    spent = best(lambda: sum(i * i for i in range(10**6)), 5)
    said("this machine just now: a million squares in plain Python", f"{spent * 1e3:.0f} ms")


def main() -> None:
    for part in (
        first_calls,
        accuracy,
        march_speed,
        wide_march_speed,
        forecasts,
        water_speed,
        loop_speed,
        dryer_speed,
        kiln_speed,
        long_answers,
        rays_speed,
        api_speed,
        advice_speed,
        machine,
        sweep_speed,
        machine,
    ):
        part()


if __name__ == "__main__":
    main()
