"""Verdicts on made-up trials whose truth is known."""

from __future__ import annotations

from datetime import datetime

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import ChannelFacts, EventFacts, TrialFacts
from drylamp.core.trials.plausible import check_temperature
from drylamp.core.trials.protocols import PROTOCOLS, find_protocol
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, STEW, TERRACE, WATER
from drylamp.instruments.logger import Truth, samples

START = datetime.fromisoformat("2025-06-03T11:00:00+02:00")


def made_trial(
    truth: Truth, nodes: tuple[str, ...] = ("inside-air", "tray"), load: PotLoad | None = None, doubt_k: float = 0.7,
    minutes: tuple[float, ...] = (0, 5, 10, 20, 30, 45, 60, 75, 90, 105, 120), events: list[EventFacts] | None = None,
    control: bool = False, sky: str = "clear", preheated: bool = False,
) -> TrialFacts:  # fmt: skip
    channels = [ChannelFacts(channel=n, title=n, node=n, doubt=doubt_k, times=[], values=[]) for n in nodes]
    if control:
        channels.append(
            ChannelFacts(
                channel="control", title="tin", node="outside", is_control=True, doubt=doubt_k, times=[], values=[]
            )
        )
    facts = TrialFacts(
        name="t", protocol="free-log", started=START, spot="terrace", weather=ClearDay(tmin_c=14, tmax_c=25, sky=sky),
        load=load, preheated=preheated, channels=channels, events=events or [],
    )  # fmt: skip
    found = list(samples(TERRACE, OVEN, facts, truth, list(minutes)))
    filled = []
    for channel in channels:
        mine = [s for s in found if s.channel == channel.channel]
        filled.append(channel.model_copy(update={"times": [s.time for s in mine], "values": [s.value for s in mine]}))
    return facts.model_copy(update={"channels": filled})


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_leaky_seal_is_named(seed: int):
    truth = Truth(calibration=Calibration(leak=6.0), noise_k=0.3, seed=seed)
    verdict = judge(TERRACE, OVEN, made_trial(truth))
    assert verdict.likely_cause == "leak"
    assert all(c.real and c.bias_k < 0 for c in verdict.channels)
    assert "renew the seal" in " ".join(verdict.sentences)


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_dirty_glass_is_named(seed: int):
    truth = Truth(calibration=Calibration(optical=0.7), noise_k=0.3, seed=seed)
    verdict = judge(TERRACE, OVEN, made_trial(truth))
    assert verdict.likely_cause == "optical"
    assert "wash cover and mirror" in " ".join(verdict.sentences)


@pytest.mark.parametrize("seed", range(5))
def test_true_twin_is_not_blamed(seed: int):
    verdict = judge(TERRACE, OVEN, made_trial(Truth(calibration=Calibration(), noise_k=0.4, seed=seed)))
    assert not any(c.real for c in verdict.channels)
    assert verdict.likely_cause == ""


def test_better_than_the_twin_is_said_so():
    verdict = judge(TERRACE, OVEN, made_trial(Truth(calibration=Calibration(optical=1.25), noise_k=0.2)))
    assert "over the twin" in verdict.headline
    assert "nothing needs changing" in " ".join(verdict.sentences)


def test_vague_sky_widens_the_doubt():
    truth = Truth(calibration=Calibration(), noise_k=0.2)
    clear, broken = (
        judge(TERRACE, OVEN, made_trial(truth, sky=sky)).channels[1].bias_doubt_k for sky in ("clear", "broken")
    )
    assert broken > 2 * clear


def test_coarse_thermometer_cannot_tell():
    truth = Truth(calibration=Calibration(optical=0.97), noise_k=0.2)
    assert not judge(TERRACE, OVEN, made_trial(truth, doubt_k=8.0)).channels[1].real


def test_readings_after_an_opening_are_not_held_against_the_twin():
    truth = Truth(calibration=Calibration(), noise_k=0.1)
    event = EventFacts(kind="opened", time=datetime.fromisoformat("2025-06-03T11:58:00+02:00"))
    facts = made_trial(truth, events=[event])
    tray = facts.channels[1]
    spoiled = [
        v - 30 if 59 <= (t - START).total_seconds() / 60 <= 61 else v
        for t, v in zip(tray.times, tray.values, strict=True)
    ]
    facts = facts.model_copy(update={"channels": [facts.channels[0], tray.model_copy(update={"values": spoiled})]})
    verdict = judge(TERRACE, OVEN, facts)
    assert not verdict.channels[1].real
    assert "after opened shown but not held against the twin" in " ".join(verdict.sentences)
    without = judge(TERRACE, OVEN, facts.model_copy(update={"events": []}))
    assert without.channels[1].scatter_k > 5


def test_first_figure_is_measured_on_a_steady_tray():
    long = tuple(float(m) for m in range(0, 211, 15))
    truth = Truth(calibration=Calibration(), noise_k=0.1)
    figure = judge(TERRACE, OVEN, made_trial(truth, minutes=long)).figures[0]
    assert figure.value == pytest.approx(figure.twin, abs=2.5 * figure.doubt)
    assert figure.grade == "grade A"
    early = judge(TERRACE, OVEN, made_trial(truth, minutes=(0, 5, 10))).figures[0]
    assert early.value is None
    assert "still warming" in early.words


def test_time_to_target_beside_the_twin():
    minutes = tuple(float(m) for m in range(0, 241, 10))
    truth = Truth(calibration=Calibration(), noise_k=0.2)
    figures = {
        f.name: f for f in judge(TERRACE, OVEN, made_trial(truth, ("contents",), WATER, minutes=minutes)).figures
    }
    reached = figures["minutes-to-target"]
    assert reached.value == pytest.approx(reached.twin, abs=6)
    assert 0.1 < figures["f2"].value < 0.7
    assert figures["f1"].value is None


def test_preheating_is_known_to_the_twin():
    truth = Truth(calibration=Calibration(), noise_k=0.1)
    facts = made_trial(truth, ("contents", "tray"), STEW, preheated=True)
    verdict = judge(TERRACE, OVEN, facts)
    assert not any(c.real for c in verdict.channels)
    cold = judge(TERRACE, OVEN, facts.model_copy(update={"preheated": False}))
    early = next(c for c in cold.channels if c.node == "tray").residuals[1]
    assert early.residual_k > 5


def test_measured_air_replaces_the_noted_one():
    facts = made_trial(Truth(calibration=Calibration(), noise_k=0.0), ("tray", "air"))
    hot = facts.channels[1].model_copy(update={"values": [v + 10 for v in facts.channels[1].values]})
    moved = judge(TERRACE, OVEN, facts.model_copy(update={"channels": [facts.channels[0], hot]}))
    assert "air as measured" in moved.weather
    assert moved.channels[0].bias_k < -5


def test_control_is_paired_in_time():
    verdict = judge(TERRACE, OVEN, made_trial(Truth(noise_k=0.1), ("tray",), control=True))
    assert verdict.control.real
    assert "real" in verdict.control.words


def test_nothing_to_judge():
    facts = made_trial(Truth(), minutes=(0, 5))
    empty = [c.model_copy(update={"times": [], "values": []}) for c in facts.channels]
    with pytest.raises(InputProblem, match="no reading inside the build"):
        judge(TERRACE, OVEN, facts.model_copy(update={"channels": empty}))
    odd = [facts.channels[0].model_copy(update={"node": "cellar"})]
    with pytest.raises(InputProblem, match="no channel names a part"):
        judge(TERRACE, OVEN, facts.model_copy(update={"channels": odd}))


def test_protocols_are_data():
    assert PROTOCOLS["quick-look"].reading_minutes == [0, 5, 10, 30, 60]
    assert PROTOCOLS["free-log"].reading_minutes == []
    with pytest.raises(InputProblem, match="known: quick-look, "):
        find_protocol("guess")


@pytest.mark.parametrize(("value", "expected", "last", "minutes", "digital", "code"), [
    (150, 65, None, None, False, "unit"), (150, 148, None, None, False, ""), (150, None, 66, 5, False, "unit"),
    (25, 24, None, None, False, ""), (77, 25, None, None, False, "unit"), (500, None, None, None, False, "impossible"),
    (85, None, None, None, True, "stuck"), (85, None, None, None, False, ""), (150, None, 30, 1, False, "jump"),
    (90, None, 30, 60, False, ""),
])  # fmt: skip
def test_plausibility(value, expected, last, minutes, digital, code):
    assert check_temperature(value, expected, last, minutes, digital).code == code
