"""Finishes of the user's own shelf: where they are tried, and what their doubt does to a gain."""

from __future__ import annotations

import math
from datetime import date

import pytest

from drylamp.core.advice.changes import changes_of
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.own_finishes import MOST, own_finish_changes
from drylamp.core.advice.weakest import weakest_link
from drylamp.core.engine import weather_for
from drylamp.core.shelf import says
from drylamp.core.tables import absorber
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import BASIN, BASIN_HOSE, HEATER, LIDS, OVEN, SHOWERS, STEW, TERRACE

SOOT = absorber("flat-black-paint").model_copy(
    update={"name": "measured-a", "title": "Stove soot", "absorptance": 0.97, "absorptance_doubt": 0.0}
)
UNSURE = SOOT.model_copy(update={"name": "measured-b", "title": "Soot, unsure", "absorptance_doubt": 0.06})


def context(build, load) -> AdviceContext:
    case = usual_case(TERRACE, None, build, load, date(2025, 6, 12))
    return AdviceContext(case, weather_for(case))


def test_every_surface_that_takes_a_finish_is_tried():
    parts = {change.part for change in own_finish_changes(OVEN, STEW, (SOOT,))}
    assert parts == {"tray", "lining", "wall"}
    hose = {change.part for change in own_finish_changes(BASIN_HOSE, BASIN, (SOOT,))}
    assert {"hose", "bed"} <= hose
    titles = {change.title for change in own_finish_changes(BASIN_HOSE.with_(finish=None), BASIN, (SOOT,))}
    assert "hose (clamps) in stove soot" in titles
    assert {change.title for change in own_finish_changes(LIDS, None, (SOOT,))} == {"board in stove soot"}


def test_what_is_made_of_it_already_is_not_tried_again():
    made = OVEN.with_(tray=SOOT)
    assert {change.part for change in own_finish_changes(made, STEW, (SOOT,))} == {"lining", "wall"}


def test_only_so_many_are_tried():
    many = tuple(SOOT.model_copy(update={"name": f"own-{k}"}) for k in range(MOST + 4))
    tried = {change.build.tray.name for change in own_finish_changes(OVEN, STEW, many) if change.part == "tray"}
    assert tried == {f"own-{k}" for k in range(4, MOST + 4)}


def test_their_builds_are_whole_and_stand_among_the_others():
    titles = [change.title for change in changes_of(HEATER, SHOWERS, (SOOT,))]
    assert "trough in stove soot" in titles
    assert "trough in stove soot" not in [change.title for change in changes_of(HEATER, SHOWERS)]


def test_what_is_unsure_of_a_finish_is_unsure_of_its_gain():
    """± 0.06 of absorptance: the gain's doubt is that of the same finish without doubt and half of what the ends lie apart, in quadrature."""
    lines = {line.title: line for line in weakest_link(context(HEATER, SHOWERS), (SOOT, UNSURE)).lines}
    sure, unsure = lines["trough in stove soot"], lines["trough in soot, unsure"]
    assert sure.gain == unsure.gain
    ends = [context(HEATER, SHOWERS).score(HEATER.with_(tray=UNSURE.at(a)), SHOWERS).value for a in (0.91, 1.0)]
    assert unsure.doubt == pytest.approx(math.hypot(sure.doubt, (ends[1] - ends[0]) / 2.0), rel=0.02)
    assert unsure.doubt > sure.doubt


def test_a_share_stays_within_what_there_is():
    assert UNSURE.at(1.03).absorptance == 1.0
    assert UNSURE.at(-0.1).absorptance == 0.0


def test_the_shelf_says_the_doubt():
    assert "Takes up 97 ± 6 of 100 parts of the sun" in says(UNSURE)
    assert "Takes up 97 of 100 parts" in says(SOOT)
