"""Planted faults: a night's log of a kiln tells which of the things that break is broken, and when none is."""

from __future__ import annotations

from datetime import datetime
from functools import cache

import pytest

from drylamp.core.builds.build import Build
from drylamp.core.builds.kiln.faults import FAULTS
from drylamp.core.builds.registry import KINDS
from drylamp.core.sky.weather import ClearDay
from drylamp.core.text import plain
from drylamp.core.trials.beside import beside
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.faults import stories, what_broke
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import BARN_KILN, TERRACE
from drylamp.instruments.logger import Truth, samples
from tests.kinds.specimens import specimen

BY_NAME = {fault.name: fault for fault in FAULTS}
NODES = ("chamber", "baffle", "over-baffle", "air")
NIGHT = PROTOCOLS["kiln-night"]


def broken(names: tuple[str, ...]) -> Build:
    build: Build = BARN_KILN
    for name in names:
        build = BY_NAME[name].broken(build) or build  # type: ignore[arg-type]
    return build


@cache
def night(names: tuple[str, ...], seed: int = 1) -> TrialFacts:
    """A day and its night of a kiln whose own factors are not the textbook's either."""
    channels = [
        ChannelFacts(channel=n, title=n, node=n, doubt=0.7, device="logger", times=[], values=[]) for n in NODES
    ]
    bare = TrialFacts(
        name="x", protocol="kiln-night", started=datetime.fromisoformat("2025-06-09T08:00:00+02:00"), spot=None, weather=ClearDay(tmin_c=11.0, tmax_c=24.0, rh=0.55), load=None,
        preheated=False, channels=channels, events=[],
    )  # fmt: skip
    truth = Truth(calibration=Calibration(optical=0.95, loss=1.08, leak=1.2), noise_k=0.4, bias=0.5, seed=seed, build=broken(names))  # fmt: skip
    read: dict[str, list] = {}
    for sample in samples(TERRACE, BARN_KILN, bare, truth, NIGHT.reading_minutes):
        read.setdefault(sample.channel, []).append(sample)
    filled = [
        c.model_copy(update={"times": [s.time for s in read[c.channel]], "values": [round(s.value, 1) for s in read[c.channel]]})
        for c in channels
    ]  # fmt: skip
    return bare.model_copy(update={"channels": filled})


def figure(names: tuple[str, ...], seed: int = 1) -> Figure:
    made = what_broke(Found(beside(TERRACE, BARN_KILN, night(names, seed)), None, None, [], []))
    assert made is not None
    return made


@pytest.mark.parametrize("seed", [1, 2])
def test_a_sound_kiln_is_not_accused(seed: int):
    assert not figure((), seed).fault
    assert figure((), seed).passed


@pytest.mark.parametrize("names", [("torn-film",), ("stuck-fan",), ("torn-film", "stuck-fan")])
def test_what_was_planted_is_found_and_named(names: tuple[str, ...]):
    made = figure(names)
    assert made.passed is False
    for name in names:
        assert BY_NAME[name].title in plain(made.fault)
        assert BY_NAME[name].cure in plain(made.cure)
    assert made.value == len(names)
    assert plain(made.brief).startswith("broken: ")


def test_a_swollen_door_and_open_vents_are_not_told_apart_by_force():
    """Both change air; the log may name either, or neither, and says so where it cannot tell."""
    told = stories(beside(TERRACE, BARN_KILN, night(("vents-open",))))
    sound = next(story for story in told if not story.faults)
    opened = next(story for story in told if [f.name for f in story.faults] == ["vents-open"])
    assert opened.chi2 < sound.chi2 + 8.0


def test_few_readings_and_long_logs_tell_no_story():
    short = night(())
    few = short.model_copy(update={"channels": [c.model_copy(update={"times": c.times[:2], "values": c.values[:2]}) for c in short.channels]})  # fmt: skip
    assert stories(beside(TERRACE, BARN_KILN, few)) == []
    assert what_broke(Found(beside(TERRACE, BARN_KILN, few), None, None, [], [])) is None


@pytest.mark.parametrize("kind", list(KINDS))
def test_faults_are_builds_that_can_be(kind: str):
    build, _ = specimen(kind)
    names = [fault.name for fault in KINDS[kind].faults]
    assert len(set(names)) == len(names)
    for fault in KINDS[kind].faults:
        made = fault.broken(build)
        assert fault.part in KINDS[kind].parts
        assert made is None or type(build).model_validate(made.model_dump()) != build
