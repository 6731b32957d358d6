"""Trials of a charge whose truth is known, and the kiln as it is drawn."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from functools import cache

import numpy as np
import pytest

from drylamp.core.builds.kiln.section import section_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.common.stacked import CHAMBER, ROUND
from drylamp.core.loads.lumber.figures import read_of, twin_reads
from drylamp.core.loads.lumber.outcome import kept_of
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.text import plain
from drylamp.core.trials.beside import beside
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.figure import Figure
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import TERRACE
from tests.core.kilns import TIGHT, boards, charge

JUNE = date(2025, 6, 10)
STARTED = datetime.fromisoformat("2025-06-10T08:00:00+02:00")
DAY = ClearDay(tmin_c=13.0, tmax_c=25.0, rh=0.6)
LOAD = charge(
    boards("poplar", 27.0, 0.5, start="measured", start_mc=0.30, target_mc=0.10),
    boards("sweet-chestnut", 54.0, 0.2, start="measured", start_mc=0.28, target_mc=0.12),
)


@cache
def truth(factor: float, days: int = 70) -> Run:
    """What the boards really do: they give up water ``factor`` times as fast as their species."""
    span = Span(start=JUNE, days=days, step_s=300)
    case = Case(
        site=TERRACE, build=TIGHT, load=LOAD, weather=DAY, span=span, calibration=Calibration(parts={"drying": factor})
    )
    return simulate(case, weather_of(TERRACE, DAY, span))


def facts(read_on: list[int], factor: float, off: float = 1.0) -> TrialFacts:
    """A charge-check with the meter read on those days; ``off``: a meter that reads so many times as much."""
    run = truth(factor)
    times = [STARTED + timedelta(days=day, hours=2) for day in read_on]
    channels = []
    for group in LOAD.numbered:
        node = f"boards-{group.number}"
        values = twin_reads(LOAD, group, run, np.array([time.timestamp() for time in times]))
        channels.append(
            ChannelFacts(
                channel=node, title=group.name, node=node, is_control=False, doubt=0.01, quantity="moisture",
                times=times, values=[float(off * value) for value in values],
            )
        )  # fmt: skip
    return TrialFacts(
        name="x", protocol="charge-check", started=STARTED, spot=None, weather=DAY, load=LOAD, preheated=False, channels=channels, events=[],
    )  # fmt: skip


def figures(read_on: list[int], factor: float) -> dict[str, Figure]:
    return {figure.name: figure for figure in judge(TERRACE, TIGHT, facts(read_on, factor)).figures}


def done_day(factor: float) -> float:
    """Day on which all of it really is at its target."""
    run = truth(factor)
    began = STARTED.timestamp()
    last = 0.0
    for group in LOAD.numbered:
        kept = kept_of(group, run)
        dry = int(np.argmax(kept.mean <= group.target_mc))
        assert dry > 0
        last = max(last, (run.edge_s[kept.first + dry] - began) / 86400.0)
    return last


@pytest.mark.parametrize("factor", [0.75, 1.2])
def test_readings_narrow_the_day_on_which_all_is_dry(factor: float):
    true = done_day(factor)
    doubts = []
    for read_on in ([0], [0, 2, 4, 7], [0, 2, 4, 7, 11, 14]):
        figure = figures(read_on, factor)["boards-dry-by"]
        doubts.append(figure.doubt if figure.doubt is not None else 60.0)
        if len(read_on) > 1:
            assert abs(figure.value - true) <= figure.doubt + 0.5
    assert doubts[0] > doubts[1] >= doubts[2]
    assert f"{factor:.1f}"[:2] in figure.words


def test_a_trial_of_meter_readings_alone_is_judged():
    """Weeks of a charge are often read with nothing but a meter; nothing asks for a thermometer."""
    verdict = judge(TERRACE, TIGHT, facts([0, 4, 7, 11], 0.8))
    assert verdict.channels == []
    assert verdict.main == "boards-1"
    assert plain(verdict.headline).startswith("All dry by")
    assert plain(verdict.brief).startswith("dry by")
    assert "8 readings, none of them by a thermometer inside" in plain(verdict.how_sure)
    nothing = facts([0], 1.0)
    empty = nothing.model_copy(
        update={"channels": [c.model_copy(update={"times": [], "values": []}) for c in nothing.channels]}
    )
    with pytest.raises(InputProblem, match="no reading inside the build yet"):
        judge(TERRACE, TIGHT, empty)


def test_the_wettest_group_stands_beside_its_twin():
    figure = figures([0, 4, 7], 1.0)["boards-now"]
    assert figure.value == pytest.approx(figure.twin, abs=0.3), "the twin was right"
    assert "sweet chestnut" in figure.words.lower()
    assert "Its target is 12" in figure.words
    slow = figures([0, 4, 7, 11], 0.7)["boards-now"]
    assert slow.value > slow.twin + 0.5


def test_a_meter_above_fibre_saturation_is_called_a_guess():
    given = facts([0, 4], 1.0, off=1.6)
    figure = {figure.name: figure for figure in judge(TERRACE, TIGHT, given).figures}["boards-now"]
    assert "a guess" in figure.words


def test_readings_before_a_group_went_in_have_no_twin():
    later = LOAD.model_copy(
        update={"groups": [LOAD.groups[0], LOAD.groups[1].model_copy(update={"in_on": date(2025, 6, 14)})]}
    )
    given = facts([0, 2, 6], 1.0).model_copy(update={"load": later})
    at = beside(TERRACE, TIGHT, given)
    chestnut = later.numbered[1]
    read = next(read for read in read_of(later, at) if read.group == chestnut)
    shown = twin_reads(later, chestnut, at.likely, read.seconds)
    assert list(np.isnan(shown)) == [True, True, False]


# --- drawn ---


NOON = np.array([0.0, -0.5, 0.866])


def shapes(part: str, build=TIGHT, load=LOAD):
    return [shape for shape in section_of(build, load, NOON).shapes if shape.part == part]


def low_and_high(shape) -> tuple[float, float]:
    heights = [y for _, y in shape.outline]
    return min(heights), max(heights)


def test_the_stack_is_drawn_board_by_board_the_thickest_lowest():
    layers = [shape for shape in shapes("load") if shape.node]
    assert {shape.node for shape in layers} == {"boards-1", "boards-2"}
    chestnut = max(low_and_high(shape)[1] for shape in layers if shape.node == "boards-2")
    poplar = min(low_and_high(shape)[0] for shape in layers if shape.node == "boards-1")
    assert chestnut < poplar
    sticks = [shape for shape in shapes("load") if shape.label == "stick"]
    rows = {low_and_high(shape)[0] for shape in layers}
    assert len(sticks) == len(rows), "sticks under every layer"
    assert not shapes("load", load=None)


def test_boards_stay_inside_the_walls():
    chamber = next(shape for shape in shapes("chamber") if shape.node == CHAMBER)
    wide = [x for x, _ in chamber.outline]
    for shape in shapes("load"):
        assert min(wide) <= min(x for x, _ in shape.outline)
        assert max(x for x, _ in shape.outline) <= max(wide)


def test_the_air_goes_round_only_with_a_fan():
    fan = next(shape for shape in shapes("fan") if shape.runs == ROUND)
    assert fan.label == "fan"
    assert any(shape.label == "way of the air" for shape in shapes("fan"))
    assert not shapes("fan", TIGHT.with_(fan=None))


def test_rays_end_on_the_baffle_and_without_it_deeper():
    onto = {ray.lands_on for ray in section_of(TIGHT, LOAD, NOON).rays}
    assert "baffle" in onto
    bare = {ray.lands_on for ray in section_of(TIGHT.with_(baffle=None), LOAD, NOON).rays}
    assert "baffle" not in bare
    assert bare & {"floor", "wall"}


def test_grips_turn_the_roof_and_open_the_vents():
    handles = {handle.field: handle for handle in section_of(TIGHT, LOAD, None).handles}
    assert handles["tilt_deg"].value == TIGHT.tilt_deg
    grip = handles["vents.open_share"]
    assert grip.value * grip.per_deg == pytest.approx(TIGHT.vents.open_share)
    wide = {handle.field: handle for handle in section_of(TIGHT.opened(1.0), LOAD, None).handles}["vents.open_share"]
    assert wide.at != grip.at
    assert wide.pivot == grip.pivot
    by_hour = TIGHT.with_(
        vents=TIGHT.vents.model_copy(update={"settings": TIGHT.vents.settings or [TIGHT.vents.fresh("settings")]})
    )
    assert "vents.open_share" not in {handle.field for handle in section_of(by_hour, LOAD, None).handles}


def test_a_trailer_has_wheels_and_a_lean_to_its_wall():
    assert "wheel" in {shape.label for shape in shapes("aim", TIGHT.with_(form="trailer"))}
    assert "the wall it leans on" in {shape.label for shape in shapes("aim", TIGHT.with_(form="lean-to"))}
    assert {shape.label for shape in shapes("aim")} == {"ground"}


def test_two_skins_are_two_sheets():
    assert len(shapes("cover")) == 2, "twin-wall"
    single = TIGHT.with_(cover=TIGHT.cover.model_copy(update={"material": "window-glass", "thickness_m": 0.004}))
    assert len(shapes("cover", single)) == 1
