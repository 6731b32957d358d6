"""The stand-in logger: repeatable, noisy as asked, and through the real line."""

import json
import urllib.request

import numpy as np
import pytest
from click.testing import CliRunner

from drylamp.cli import main
from drylamp.commands.shared import DATA_NAME
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, TERRACE, WATER, demo_now
from drylamp.instruments.logger import Truth, samples
from tests.core.making import blank, channel, filled, minutes_after
from tests.seeded import copy_to
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


QUANTITIES = {
    "sun": ("sun", "pyranometer", 300, 1100), "wind": ("wind", "anemometer", 0.5, 5), "humidity": ("air", "humidity-probe", 0.1, 1),
    "mass": ("load", "scale", 2.0, 3.2), "moisture": ("load", "moisture-meter", 0.08, 0.4), "flow": ("loop", "flow-meter", 0.6, 3.6),
}  # fmt: skip


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_every_stand_in_reads_its_quantity_and_scatters(quantity: str):
    node, instrument, low, high = QUANTITIES[quantity]
    one = channel(node, instrument, channel="x")
    found = filled(
        blank([one], load=WATER), Truth(calibration=Calibration(), seed=3), [(5.0 * k, "x") for k in range(40)]
    )
    read = np.array(found.channels[0].values)
    assert len(read) == 40
    assert (read > low).all()
    assert (read < high).all()
    assert np.std(np.diff(read)) > 0


def test_a_pot_on_the_scale_loses_its_steam():
    hot = WATER.model_copy(update={"start_c": 90.0, "food_kg": 0.5, "lid": "none"})
    facts = blank([channel("load", "scale", channel="x")], load=hot)
    quiet = (
        filled(facts, Truth(calibration=Calibration(), seed=3), [(30.0 * k, "x") for k in range(8)]).channels[0].values
    )
    assert quiet[0] - quiet[-1] > 0.02


def test_a_clock_that_is_off_stamps_off():
    facts = blank([channel("tray")])
    right, wrong = (
        filled(facts, Truth(seed=1, clock_minutes=m), [(0.0, "tray"), (10.0, "tray")]).channels[0] for m in (0.0, -60.0)
    )
    assert (right.times[0] - wrong.times[0]).total_seconds() == 3600
    assert right.values == wrong.values


def test_gusts_and_clouds_leave_their_mark():
    start = demo_now()
    facts = blank([channel("tray"), channel("sun", "pyranometer"), channel("wind", "anemometer")], start=start)
    plan = [(2.0 * k, n) for k in range(30) for n in ("tray", "sun", "wind")]
    calm = filled(facts, Truth(seed=1), plan)
    rough = filled(facts, Truth(seed=1, gusts=(minutes_after(20, start),), clouds=(minutes_after(40, start),)), plan)
    sun, wind = (
        [np.array(f.of_node(n, q).values) for f in (calm, rough)] for n, q in (("sun", "sun"), ("wind", "wind"))
    )
    assert (sun[1] < 0.5 * sun[0]).sum() == 4
    assert (wind[1] > wind[0] + 2).sum() in (1, 2)


def get(url: str) -> dict:
    with urllib.request.urlopen(url, timeout=90) as answer:
        return json.load(answer)


def test_logger_posts_into_a_running_trial(tmp_path):
    """Two inside probes and a control, ten minutes at 600×, then again: nothing is written twice."""
    copy_to(tmp_path / DATA_NAME)
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
        lines = CliRunner().invoke(main, [*words[:-1], "1", "--csv", "--token", after["token"]])
        assert "9 readings acknowledged" in lines.output
        locked = CliRunner().invoke(main, [*words, "--token", "wrong"])
        assert locked.exit_code == 2
        assert "does not open trial 4" in locked.stderr
        none = CliRunner().invoke(main, ["stand-in", "pyranometer", *words[2:]])
        assert "no channel of that quantity" in none.output
        wrong = CliRunner().invoke(main, [*words[:5], "99"])
        assert wrong.exit_code == 2
        assert "no trial 99" in wrong.stderr
    finally:
        server.end()
