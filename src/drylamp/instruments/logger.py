"""Stand-in instruments: probes, gauges, meters and scales at a build whose true parameters only they know.

They speak as a small microcontroller would: they ask the API what the trial is, then post readings over HTTP as JSON or as
lines of CSV, a few at a time, at true speed or faster. Noise, drift, drop-outs, gusts, clouds and a clock that is off
come from a seed or are switched on.
"""

from __future__ import annotations

import json
import math
import time
import urllib.request
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from typing import Literal

import numpy as np

from drylamp.core.air.moist import saturation_pressure_pa, vapour_of_ratio_pa
from drylamp.core.air.properties import density_kg_m3
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.coil.rows import row_number
from drylamp.core.builds.protocol import INLET
from drylamp.core.builds.registry import BUILD
from drylamp.core.loads.common.wood import equilibrium_mc
from drylamp.core.loads.load import Load
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.trials.at_tap import with_outlet
from drylamp.core.trials.beside import case_of, lead_s, placements, put_in_s
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.instruments import BASE_UNIT, RELATIVE, Quantity, out_of_base
from drylamp.core.trials.own_weather import trial_weather
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.prepared import prepare
from drylamp.core.twin.run import Run

GUST_M_S, GUST_S = 7.0, 150.0
CLOUD_SHARE, CLOUD_S = 0.35, 480.0
BOARD_FIRST_MC, BOARD_RATE_PER_H = 0.32, 0.02
HEATED_S = 4 * 3600.0
METER_SHOWED_H = 412.0
"""What an hour meter had counted before."""
PUMP_L_MIN = 3.0
"""A small pump on a panel in full sun."""


@dataclass(frozen=True)
class Truth:
    """What the stand-in knows and nobody else: the build's true factors, the weather's accidents, how good its probes are.

    Attributes:
        noise_k: scatter of thermometers; other instruments scatter by a quarter of their doubt
        bias: how far each channel is off for good, as a share of half its doubt, drawn by lot
        gusts, clouds: instants at which one passes
        build: what really stands there, where that is not what was drawn
        load, weather: what was really in it, and the weather as it really was, where those are not what was noted
        off: how far single channels are off for good
        set_to: the wood that a moisture meter is set to; the board's own where nothing is said
        rows: how what runs is shared out among rows side by side; alike where nothing is said
    """

    calibration: Calibration = field(default_factory=lambda: Calibration(optical=0.93, loss=1.05, leak=4.0))
    noise_k: float = 0.3
    drift_k_h: float = 0.0
    drop_out: float = 0.0
    seed: int = 1
    bias: float = 0.0
    gusts: tuple[datetime, ...] = ()
    clouds: tuple[datetime, ...] = ()
    clock_minutes: float = 0.0
    rows: tuple[float, ...] = ()
    build: Build | None = None
    load: Load | None = None
    weather: Weather | None = None
    off: Mapping[str, float] = field(default_factory=dict)
    set_to: str = ""


@dataclass(frozen=True)
class Sample:
    """One value of one instrument, in its quantity's base."""

    channel: str
    time: datetime
    value: float


Planned = tuple[float, str]
"""Minute after the trial's start, and channel."""


def samples(site: Site, build: Build, facts: TrialFacts, truth: Truth, minutes: list[float]) -> Iterator[Sample]:
    """What the instruments would read at minutes after the trial's start, all channels at once, drop-outs left out."""
    return read_plan(site, build, facts, truth, [(minute, c.channel) for minute in minutes for c in facts.channels])


def round_plan(facts: TrialFacts, nodes: list[str], minutes: list[float], seconds_each: float = 12.0) -> list[Planned]:
    """Rounds with one probe: from sample to sample, the board, and the first sample again; then what hangs there anyway."""
    on = {c.node: c.channel for c in reversed(facts.channels)}
    walked = [on[node] for node in nodes if node in on]
    others = [c.channel for c in facts.channels if c.channel not in walked]
    out = []
    for minute in minutes:
        order = [*walked, walked[0]]
        out += [(minute + k * seconds_each / 60.0, name) for k, name in enumerate(order)]
        out += [(minute + len(order) * seconds_each / 60.0, name) for name in others]
    return out


def read_plan(site: Site, build: Build, facts: TrialFacts, truth: Truth, plan: list[Planned]) -> Iterator[Sample]:
    """What the instruments would read at planned times.

    A control beside the build stands in the same sun: air temperature and a share of the sun on level ground.
    """
    random = np.random.default_rng(truth.seed)
    begun = facts.started.timestamp()
    run = _true_run(site, build, facts, truth, begun + max(minute for minute, _ in plan) * 60.0 + 60.0)
    by_name, stands = {c.channel: c for c in facts.channels}, replace(truth, build=truth.build or build)
    off = {
        name: truth.bias * c.doubt / 2.0 * float(random.normal()) + truth.off.get(name, 0.0)
        for name, c in by_name.items()
    }
    for minute, name in plan:
        channel, second = by_name[name], begun + minute * 60.0
        noise, lost = float(random.normal()), float(random.random()) < truth.drop_out
        true = _true_value(channel, run, facts, stands, second)
        if lost or np.isnan(true):
            continue
        scatter = truth.noise_k if channel.quantity == "temperature" else channel.doubt / 4.0
        if channel.quantity in RELATIVE:
            scatter *= abs(true)
        drift = truth.drift_k_h * minute / 60.0 if channel.quantity == "temperature" else 0.0
        moment = datetime.fromtimestamp(second + 60.0 * truth.clock_minutes, UTC)
        yield Sample(name, moment, round(true + off[name] + scatter * noise + drift, 4))


def _true_run(site: Site, build: Build, facts: TrialFacts, truth: Truth, end_s: float) -> Run:
    begun, hot = facts.started.timestamp(), PROTOCOLS[facts.protocol].starts_hot
    before = HEATED_S if hot else lead_s(facts)
    likely = trial_weather(site, facts, begun - before, end_s) if truth.weather is None else truth.weather
    weather = _with_accidents(likely, truth)
    if hot:  # hours of sun first, then a cloth over the glass
        weather = _in_the_dark_from(weather, begun)
    put = begun - before if hot and facts.load is not None else put_in_s(facts)
    case = case_of(site, truth.build or build, facts, end_s)
    case = case if truth.load is None else case.with_(load=truth.load)
    run = prepare(case, weather, placements(case, facts, weather)).run(truth.calibration, put_s=put)
    return with_outlet(run, facts.load)


def _in_the_dark_from(weather: Weather, since_s: float) -> Weather:
    lit = (weather.sun.time_s < since_s).astype(float)
    return replace(
        weather, ghi_w_m2=weather.ghi_w_m2 * lit, dni_w_m2=weather.dni_w_m2 * lit, dhi_w_m2=weather.dhi_w_m2 * lit
    )


def _with_accidents(weather: Weather, truth: Truth) -> Weather:
    at, wind, share = weather.sun.time_s, weather.wind_m_s.copy(), np.ones(weather.steps)
    for gust in truth.gusts:
        wind[(at >= gust.timestamp()) & (at < gust.timestamp() + GUST_S)] = GUST_M_S
    for cloud in truth.clouds:
        share[(at >= cloud.timestamp()) & (at < cloud.timestamp() + CLOUD_S)] = CLOUD_SHARE
    return replace(
        weather,
        wind_m_s=wind,
        ghi_w_m2=weather.ghi_w_m2 * share,
        dni_w_m2=weather.dni_w_m2 * share**2,
        dhi_w_m2=weather.dhi_w_m2 * np.sqrt(share),
    )


def _true_value(channel: ChannelFacts, run: Run, facts: TrialFacts, truth: Truth, second: float) -> float:
    weather = run.weather
    step = int(np.clip((second - weather.start_s) // weather.dt_s, 0, weather.steps - 1))
    air_c, rh, sun = float(weather.air_c[step]), float(weather.rh[step]), float(weather.ghi_w_m2[step])
    hours = max((second - facts.started.timestamp()) / 3600.0, 0.0)
    dry = equilibrium_mc(air_c, rh)
    values: dict[Quantity, Callable[[], float]] = {
        "temperature": lambda: _temperature(channel, run, step, second),
        "sun": lambda: sun,
        "wind": lambda: _blows_m_s(channel, run, truth.build, step),
        "humidity": lambda: _humidity(channel, run, step, rh),
        "mass": lambda: _mass_kg(channel, run, facts, step),
        "moisture": lambda: _moisture(
            channel, run, facts, step, dry + (BOARD_FIRST_MC - dry) * math.exp(-BOARD_RATE_PER_H * hours)
        ),
        "flow": lambda: _flow_l_min(channel, run, facts, step, truth),
        "hours": lambda: METER_SHOWED_H + _ran_h(run, facts, second),
    }
    return values[channel.quantity]()


def _temperature(channel: ChannelFacts, run: Run, step: int, second: float) -> float:
    air = float(run.weather.air_c[step])
    if channel.is_control and channel.node not in run.temperature_c:
        return air + 0.02 * float(run.plane_w_m2[step])
    if channel.node == "air":
        return air
    if channel.node == INLET and run.went_round is not None:
        return float(run.went_round.in_c(run.weather.dt_s)[step])
    if channel.node == INLET and run.mains_c is not None:
        return float(run.mains_c[step])
    if channel.node not in run.temperature_c:
        return float("nan")
    return float(run.at(channel.node, np.array([second]))[0])


def _blows_m_s(channel: ChannelFacts, run: Run, build: Build | None, step: int) -> float:
    """Wind, or the air that a build draws where the meter is held into that."""
    held = None if build is None else build.blown_m2.get(channel.node)
    if held is None or run.damp is None:
        return float(run.weather.wind_m_s[step])
    path, free_m2 = held
    moved = (run.damp.moved_kg[path][step] - run.damp.back_kg[path][step]) / run.weather.dt_s
    return (
        abs(float(moved))
        / density_kg_m3(float(run.temperature_c[channel.node][step]), run.weather.pressure_pa)
        / max(free_m2, 1e-6)
    )


def _humidity(channel: ChannelFacts, run: Run, step: int, outside: float) -> float:
    """In the damp air of a build where the probe hangs there, else outside."""
    gram = None if run.damp is None else run.damp.gram_kg.get(f"{channel.node}-vapour")
    if gram is None:
        return outside
    vapour_pa = vapour_of_ratio_pa(float(gram[step]) / 1000.0, run.weather.pressure_pa)
    return min(vapour_pa / float(saturation_pressure_pa(run.temperature_c[channel.node][step])), 1.0)


def _moisture(channel: ChannelFacts, run: Run, facts: TrialFacts, step: int, otherwise: float) -> float:
    """What a meter shows on the boards of a build; of a lone board that dries in the open where it has none."""
    cells = None if run.damp is None else run.damp.cells.get(channel.node)
    if cells is None or facts.load is None or np.isnan(cells[step, 0]):
        return otherwise
    shown = facts.load.read_by_meter(channel.node, cells[step], float(run.temperature_c[channel.node][step]))
    return otherwise if shown is None else shown


def _flow_l_min(channel: ChannelFacts, run: Run, facts: TrialFacts, step: int, truth: Truth) -> float:
    """What goes round through a build's loop, runs through its tap or one of its rows; a small pump's flow where there is none."""
    if facts.load is None or not facts.load.tap:
        return PUMP_L_MIN * min(max(float(run.weather.ghi_w_m2[step]) / 1000.0, 0.0), 1.0)
    moved = run.went_round or run.drawn[facts.load.tap]
    whole = float(moved.kg[step]) * 60.0 / run.weather.dt_s
    row = row_number(channel.node)
    if row is None:
        return whole
    shares = truth.rows or (1.0,) * sum(row_number(c.node) is not None for c in facts.channels)
    return whole * shares[row - 1] / sum(shares)


def _ran_h(run: Run, facts: TrialFacts, second: float) -> float:
    """Hours that a load's pump ran since the trial began; a step that is not over yet by its part."""
    if facts.load is None or not facts.load.pumped:
        return 0.0
    ran = np.concatenate(([0.0], np.cumsum(run.ran_s.get(facts.load.pumped, np.zeros(run.weather.steps)))))
    begun, now = np.interp([facts.started.timestamp(), second], run.edge_s, ran)
    return float(now - begun) / 3600.0


def _mass_kg(channel: ChannelFacts, run: Run, facts: TrialFacts, step: int) -> float:
    """Wax on the scale, or a pot: what went in less the steam that left."""
    if channel.node in run.mass_kg:
        return float(run.mass_kg[channel.node][step])
    left_kg = float(run.steam_kg[: step + 1].sum())
    shown = None if facts.load is None else facts.load.scale_kg(left_kg)
    return float("nan") if shown is None else shown


@dataclass(frozen=True)
class Posting:
    """How a stand-in posts.

    Attributes:
        speed: 1 is true time; 600 posts ten minutes of readings each second
        every_s: seconds of trial time between rounds
        minutes: trial time to cover from the last reading on file
        form: of the body
        quantities: which instruments it plays; all of the trial's where empty
    """

    speed: float
    every_s: float
    minutes: float
    form: Literal["json", "csv"] = "json"
    quantities: tuple[str, ...] = ()


def run_logger(url: str, trial_id: int, token: str, how: Posting, truth: Truth, say: Callable[[str], None]) -> int:
    """Post readings to a running trial; return how many were acknowledged.

    Raises:
        OSError, urllib.error.URLError: the server cannot be reached or refuses.
    """
    about = _call(f"{url}/api/trials/{trial_id}/logger-setup", token)
    facts = TrialFacts.model_validate_json(json.dumps(about["facts"]))
    site, build = Site.model_validate(about["site"]), BUILD.validate_python(about["spec"])
    if truth.set_to and facts.load is not None:
        truth = replace(truth, load=facts.load.read_with(truth.set_to))
    begin = float(str(about["covered_minutes"]))
    plan = [
        (begin + k * how.every_s / 60.0, c.channel)
        for k in range(int(how.minutes * 60.0 / how.every_s) + 1)
        for c in facts.channels
        if not how.quantities or c.quantity in how.quantities
    ]
    if not plan:
        say("the trial has no channel of that quantity")
        return 0
    units = {c.channel: BASE_UNIT[c.quantity] for c in facts.channels}
    acknowledged, started = 0, time.monotonic()
    batch: list[Sample] = []
    for sample in read_plan(site, build, facts, truth, plan):
        batch.append(sample)
        due = started + (sample.time.timestamp() - facts.started.timestamp() - begin * 60.0) / how.speed
        if len(batch) >= 2 * len(facts.channels) or due > time.monotonic():
            time.sleep(max(0.0, due - time.monotonic()))
            acknowledged += _post(url, trial_id, token, batch, units, how.form)
            batch = []
    if batch:
        acknowledged += _post(url, trial_id, token, batch, units, how.form)
    say(f"{acknowledged} readings acknowledged")
    return acknowledged


def _post(url: str, trial_id: int, token: str, batch: list[Sample], units: dict[str, str], form: str) -> int:
    rows = [
        (s.time.isoformat(), s.channel, round(out_of_base(s.value, units[s.channel]), 3), units[s.channel])
        for s in batch
    ]
    if form == "csv":
        lines = ["time,channel,value,unit", *(f"{at},{channel},{value},{unit}" for at, channel, value, unit in rows)]
        answer = _call(f"{url}/api/trials/{trial_id}/ingest", token, "\n".join(lines).encode(), "text/csv")
    else:
        readings = [{"time": at, "channel": channel, "value": value, "unit": unit} for at, channel, value, unit in rows]
        body = json.dumps({"readings": readings}).encode()
        answer = _call(f"{url}/api/trials/{trial_id}/ingest", token, body, "application/json")
    return int(str(answer["written"])) + int(str(answer["repeated"]))


def _call(url: str, token: str, data: bytes | None = None, kind: str = "application/json") -> dict[str, object]:
    headers = {"Content-Type": kind, "Authorization": f"Bearer {token}"}
    with urllib.request.urlopen(urllib.request.Request(url, data=data, headers=headers), timeout=30) as answer:
        return dict(json.load(answer))
