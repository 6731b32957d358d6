"""The stand-in logger: two probes in an oven whose true parameters only it knows.

It speaks as a small microcontroller would: it asks the API what the trial is, then posts readings as JSON over HTTP,
a few at a time, at true speed or faster. Noise, drift and drop-outs come from a seed.
"""

from __future__ import annotations

import json
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime

import numpy as np

from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.sky.site import Site
from drylamp.core.trials.verdict import TrialFacts, trial_twin
from drylamp.core.twin import Adjustments


@dataclass(frozen=True)
class Truth:
    """What the stand-in knows and nobody else: the oven's true factors, and how good its probes are."""

    adjustments: Adjustments = field(default_factory=lambda: Adjustments(optical=0.93, loss=1.05, leak=4.0))
    noise_k: float = 0.3
    drift_k_h: float = 0.0
    drop_out: float = 0.0
    seed: int = 1


@dataclass(frozen=True)
class Sample:
    """One value of one probe."""

    channel: str
    time: datetime
    value_c: float


def samples(site: Site, build: BuildSpec, facts: TrialFacts, truth: Truth, minutes: list[float]) -> Iterator[Sample]:
    """What the probes would read at minutes after the trial's start, drop-outs left out.

    A control channel stands outside in the same sun: air temperature and a share of the sun on level ground.
    """
    random = np.random.default_rng(truth.seed)
    end = facts.started.timestamp() + max(minutes) * 60.0
    run = trial_twin(site, build, facts, end, truth.adjustments)
    for minute in minutes:
        second = facts.started.timestamp() + minute * 60.0
        moment = datetime.fromtimestamp(second, UTC)
        for channel in facts.channels:
            noise, lost = float(random.normal(0.0, truth.noise_k)), float(random.random()) < truth.drop_out
            if lost:
                continue
            step = int(np.clip((second - run.weather.start_s) // run.weather.dt_s, 0, run.weather.steps - 1))
            air = float(run.weather.air_c[step])
            if channel.is_control:
                true_c = air + 0.02 * float(run.plane_w_m2[step])
            elif channel.node == "air":
                true_c = air
            else:
                true_c = float(run.at(channel.node, np.array([second]))[0])
            if not np.isnan(true_c):
                yield Sample(channel.channel, moment, round(true_c + noise + truth.drift_k_h * minute / 60.0, 2))


def run_logger(
    url: str, trial_id: int, speed: float, every_s: float, minutes: float, truth: Truth, say: Callable[[str], None]
) -> int:
    """Post readings to a running trial; return how many were acknowledged.

    Args:
        speed: 1 is true time; 600 posts ten minutes of readings each second
        every_s: seconds of trial time between rounds
        minutes: trial time to cover from the last reading on file

    Raises:
        OSError, urllib.error.URLError: the server cannot be reached.
    """
    about = _call(f"{url}/api/trials/{trial_id}/logger-setup")
    facts = TrialFacts.model_validate_json(json.dumps(about["facts"]))
    site, build = Site.model_validate(about["site"]), BuildSpec.model_validate(about["spec"])
    begin = float(about["covered_minutes"])
    plan = [begin + k * every_s / 60.0 for k in range(int(minutes * 60.0 / every_s) + 1)]
    acknowledged, started = 0, time.monotonic()
    batch: list[Sample] = []
    for sample in samples(site, build, facts, truth, plan):
        batch.append(sample)
        due = started + (sample.time.timestamp() - facts.started.timestamp() - begin * 60.0) / speed
        if len(batch) >= 2 * len(facts.channels) or due > time.monotonic():
            time.sleep(max(0.0, due - time.monotonic()))
            acknowledged += _post(url, trial_id, batch)
            batch = []
    if batch:
        acknowledged += _post(url, trial_id, batch)
    say(f"{acknowledged} readings acknowledged")
    return acknowledged


def _post(url: str, trial_id: int, batch: list[Sample]) -> int:
    body = {
        "source": "logger",
        "readings": [
            {"channel": s.channel, "time": s.time.isoformat(), "value": s.value_c, "unit": "C"} for s in batch
        ],
    }
    answer = _call(f"{url}/api/trials/{trial_id}/readings", body)
    return int(answer["written"]) + int(answer["repeated"])


def _call(url: str, body: dict[str, object] | None = None) -> dict[str, object]:
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(url, data=data, headers={"Content-Type": "application/json"})
    with urllib.request.urlopen(request, timeout=30) as answer:
        return dict(json.load(answer))
