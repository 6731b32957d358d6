"""One trial over many boxes: whose ran hottest, by what, and what is left to hands."""

from __future__ import annotations

from datetime import timedelta

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.class_day import MOST_BOXES, Box, class_day, times_of
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import START, blank, channel, filled

PLAIN = Truth(calibration=Calibration(), noise_k=0.0)
DAY = ClearDay(tmin_c=14, tmax_c=25, wind_m_s=1.0)
BARE = OVEN.without_mirrors()


def chart(
    name: str, build=OVEN, off_k: float = 0.0, late_min: float = 0.0, rows: int = 8, device: str = ""
) -> ChannelFacts:
    """A child's readings: the twin of its box, so much off, so many minutes after the others."""
    facts = blank([channel("inside-air", "probe", channel=name, title=name.title(), device=device)], weather=DAY)
    made = blank([channel("inside-air", "probe")], weather=DAY)
    (one,) = filled(made, PLAIN, [(15.0 * (k + 1) + late_min, "inside-air") for k in range(rows)], build).channels
    return facts.channels[0].model_copy(
        update={"times": one.times, "values": [v + off_k + 0.2 * (-1) ** k for k, v in enumerate(one.values)]}
    )


def a_class(*charts: ChannelFacts) -> TrialFacts:
    return blank(list(charts), weather=DAY)


def of(facts: TrialFacts, **likes) -> list[Box]:
    return [
        Box(c.channel, likes.get(c.channel, OVEN), "as drawn" if c.channel not in likes else "like the bare one")
        for c in facts.channels
    ]


def test_boxes_are_ranked_and_read_at_whatever_minute_they_are():
    """One is 6 K hotter by hand; another is read five minutes later each time, which is no merit of its own."""
    facts = a_class(chart("oda"), chart("pell", off_k=6.0), chart("nim", late_min=5.0))
    found = class_day(TERRACE, OVEN, facts, of(facts))
    assert next(line.name for line in found.lines) == "Pell"
    by_name = {line.name: line for line in found.lines}
    assert by_name["Pell"].rank == 1
    assert by_name["Oda"].rank == by_name["Nim"].rank == 2
    assert by_name["Oda"].over_k == pytest.approx(by_name["Nim"].over_k, abs=0.3)
    assert by_name["Pell"].over_k - by_name["Oda"].over_k == pytest.approx(6.0, abs=0.1)
    assert by_name["Pell"].hands_real
    assert "Pell" in found.words[0]
    assert any("More than building and doubt explain" in words and "Pell" in words for words in found.words)


def test_what_a_box_is_built_like_explains_its_part_and_hands_the_rest():
    facts = a_class(chart("oda"), chart("pell", BARE), chart("nim", BARE, off_k=-5.0))
    found = class_day(TERRACE, OVEN, facts, of(facts, pell=BARE, nim=BARE))
    by_name = {line.name: line for line in found.lines}
    assert by_name["Oda"].rank == 1
    assert by_name["Oda"].explained_k is None
    assert by_name["Pell"].explained_k < 0
    assert by_name["Pell"].differs
    gap = by_name["Pell"].hands_k - by_name["Nim"].hands_k
    assert gap == pytest.approx(5.0, abs=0.2)
    assert by_name["Nim"].hands_real
    assert "look for a gap" in by_name["Nim"].words


def test_what_lies_within_the_doubt_shares_a_rank_unless_one_probe_read_both():
    """A probe's own error of 1 K leaves 0.9 K open between two probes; one probe that walks tells it."""
    apart = a_class(chart("oda"), chart("pell", off_k=0.9))
    assert {line.rank for line in class_day(TERRACE, OVEN, apart, of(apart)).lines} == {1}
    walked = a_class(chart("oda", device="one probe"), chart("pell", off_k=0.9, device="one probe"))
    assert [line.rank for line in class_day(TERRACE, OVEN, walked, of(walked)).lines] == [1, 2]


def test_over_and_under_the_class_add_up_to_nothing():
    facts = a_class(*(chart(f"child{k}", off_k=float(k)) for k in range(5)))
    found = class_day(TERRACE, OVEN, facts, of(facts))
    assert sum(line.over_k for line in found.lines) == pytest.approx(0.0, abs=0.05)


def test_before_anything_is_read_nobody_is_ranked():
    empty = channel("inside-air", channel="oda", title="Oda")
    facts = a_class(empty, chart("pell", rows=1))
    found = class_day(TERRACE, OVEN, facts, of(facts))
    assert {line.rank for line in found.lines} == {None}
    assert "type the charts" in found.words[0]
    assert "too few readings" in found.lines[0].words


def test_hours_of_a_chart_go_over_midnight_and_too_many_boxes_are_refused():
    assert times_of("09:30", 15, 60) == ["09:30", "09:45", "10:00", "10:15", "10:30"]
    assert times_of("23:45", 30, 60) == ["23:45", "00:15", "00:45"]
    with pytest.raises(InputProblem, match="allowed is a minute"):
        times_of("09:30", 0)
    facts = a_class(chart("oda"))
    with pytest.raises(InputProblem, match="1 to 24"):
        class_day(TERRACE, OVEN, facts, of(facts) * (MOST_BOXES + 1))
    assert START + timedelta(minutes=15) == facts.channels[0].times[0]
