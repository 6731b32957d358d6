"""The stand-in logger: repeatable, noisy as asked, and through the real line."""

import json
import urllib.request

import numpy as np
from click.testing import CliRunner

from drylamp.cli import main
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.demo.scenario import OVEN, TERRACE, demo_now
from drylamp.instruments.logger import Truth, samples
from tests.serving import Server

FACTS = TrialFacts(
    name="t", protocol="free-log", started=demo_now(), spot="terrace", weather=ClearDay(tmin_c=14, tmax_c=25), load=None,
    preheated=False, events=[],
    channels=[ChannelFacts(channel="tray", title="tray", node="tray", doubt=1, times=[], values=[])],
)  # fmt: skip
MINUTES = [0.5 * k for k in range(120)]


def values(truth: Truth) -> np.ndarray:
    return np.array([s.value for s in samples(TERRACE, OVEN, FACTS, truth, MINUTES)])


def test_one_seed_one_series():
    assert (values(Truth(seed=4)) == values(Truth(seed=4))).all()
    assert (values(Truth(seed=4)) != values(Truth(seed=5))).any()


def test_noise_is_as_asked():
    still, noisy = values(Truth(noise_k=0.0)), values(Truth(noise_k=2.0))
    assert 1.5 < np.std(noisy - still) < 2.5


def test_drift_grows_by_the_hour():
    still, drifting = values(Truth(noise_k=0.0)), values(Truth(noise_k=0.0, drift_k_h=3.0))
    assert drifting[-1] - still[-1] == 3.0 * MINUTES[-1] / 60 or abs(drifting[-1] - still[-1] - 2.975) < 0.02


def test_drop_outs_leave_gaps():
    assert 60 < len(values(Truth(drop_out=0.3))) < 105


def get(url: str) -> dict:
    with urllib.request.urlopen(url, timeout=20) as answer:
        return json.load(answer)


def test_logger_posts_into_a_running_trial(tmp_path):
    """Two inside probes and a control, ten minutes at 600×, then again: nothing is written twice."""
    server = Server(tmp_path, "demo")
    try:
        before = get(f"{server.url}/api/trials/4")["reading_count"]
        words = ["stand-in", "logger", "--url", server.url, "--trial", "4", "--speed", "600", "--minutes", "10"]
        result = CliRunner().invoke(main, words)
        assert result.exit_code == 0, result.output
        assert "63 readings acknowledged" in result.output
        after = get(f"{server.url}/api/trials/4")
        assert after["reading_count"] == before + 63
        assert {r["source"] for r in after["readings"]} == {"hand", "logger"}
        again = CliRunner().invoke(main, [*words[:-1], "1"])
        assert "9 readings acknowledged" in again.output
        wrong = CliRunner().invoke(main, [*words[:5], "99"])
        assert wrong.exit_code == 2
        assert "no trial 99" in wrong.stderr
    finally:
        server.end()
