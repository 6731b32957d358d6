"""A charge's trial read board by board: planted settings, paint, peaks and a stack of another age are found and named."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from functools import cache

import numpy as np
import pytest

from drylamp.core.builds.kiln.figures import fan_hours
from drylamp.core.builds.protocol import PUMP
from drylamp.core.loads.common.stacked import CHAMBER, ROUND
from drylamp.core.loads.common.wood import pin_meter_mc, specific_gravity
from drylamp.core.loads.lumber.figures.beside_stack import kiln_against_stack
from drylamp.core.loads.lumber.figures.noted import end_paint, meter_setting, wettest_board
from drylamp.core.loads.lumber.figures.peaks import climb_back
from drylamp.core.loads.lumber.outside import usually_outside
from drylamp.core.tables import species
from drylamp.core.text import plain
from drylamp.core.trials.beside import Beside, beside
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.verdict import judge
from drylamp.demo.scenario import TERRACE
from tests.core.kilns import TIGHT, boards, charge
from tests.core.test_kiln_trials import DAY, STARTED

LOAD = charge(boards("european-oak", 27.0, 0.4, start="measured", start_mc=0.26, target_mc=0.10))
OAK = LOAD.numbered[0]
BOARDS = [f"O{k}" for k in range(1, 5)]
READ_ON = "2025-06-20"
OVEN = (0.17, 0.18, 0.19, 0.20)


def facts(sheets: dict[str, list[dict]], channels: list[ChannelFacts] | None = None) -> TrialFacts:
    return TrialFacts(
        name="x", protocol="charge-check", started=STARTED, spot=None, weather=DAY, load=LOAD, preheated=False, channels=channels or [], events=[], sheets=sheets,
    )  # fmt: skip


def found(given: TrialFacts) -> Found:
    return Found(beside(TERRACE, TIGHT, given), None, None, [], [])


def by_oven() -> dict[str, list[dict]]:
    """Four sample boards, cut on the first day and weighed when they are read."""
    sections = [
        {"board": board, "on": "2025-06-10", "wet_kg": 0.126, "dry_kg": 0.10, "board_kg": 5.04} for board in BOARDS
    ]
    weighings = [
        {"board": board, "on": READ_ON, "kg": round(4.0 * (1.0 + mc), 4)}
        for board, mc in zip(BOARDS, OVEN, strict=True)
    ]
    return {"sections": sections, "weighings": weighings}


def read(shown: list[float], **how: object) -> dict[str, list[dict]]:
    rows = [{"board": board, "on": READ_ON, "reading_mc": mc, **how} for board, mc in zip(BOARDS, shown, strict=True)]
    return {"metered": rows, **by_oven()}


def setting(shown: list[float], **how: object) -> Figure:
    figure = meter_setting(found(facts(read(shown, **how))))
    assert figure is not None
    return figure


def test_a_meter_that_is_set_right_agrees_with_the_oven():
    figure = setting([mc * 1.01 for mc in OVEN])
    assert figure.passed
    assert not figure.fault
    assert "Over 4 pairs" in plain(figure.words)


@pytest.mark.parametrize("basis", ["green", "oven-dry"])
def test_a_gravity_on_the_wrong_basis_is_found_by_the_oven_and_named(basis: str):
    """Planted: the booklet expects gravity at 12 %, somebody keyed in another."""
    basic = OAK.row.basic_specific_gravity
    shown = [mc * specific_gravity(basic, "12 %") / specific_gravity(basic, basis) for mc in OVEN]
    figure = setting(shown, sort="plate", expects="12 %")
    if abs(shown[0] / OVEN[0] - 1.0) > 0.08:
        assert f"gravity is that of the wood on {basis} volume" in plain(figure.fault).replace(
            "on oven-dry", "on oven-dry"
        )
        assert "gravity of European oak on the volume at 12 %" in plain(figure.cure)
    else:
        assert figure.passed, "so small a difference is within what boards scatter by"


def test_a_plate_left_at_another_wood_is_found_by_its_gravity():
    poplar = specific_gravity(species()["poplar"].basic_specific_gravity, "12 %")
    right = specific_gravity(OAK.row.basic_specific_gravity, "12 %")
    figure = setting([mc * right / poplar for mc in OVEN], sort="plate", expects="12 %")
    assert f"stands at about {poplar:.2f}" in plain(figure.fault)
    assert f"set it to {right:.2f}" in plain(figure.cure)
    assert plain(judge(TERRACE, TIGHT, facts(read([mc * right / poplar for mc in OVEN], sort="plate"))).headline).startswith("The meter's gravity")  # fmt: skip


def test_pins_left_at_another_wood_are_found():
    pine = species()["loblolly-pine"]

    def shown(true: float) -> float:
        values = np.linspace(0.02, 0.5, 2000)
        as_read = np.array([pin_meter_mc(float(v), OAK.row, pine, 20.0) for v in values])
        return float(np.interp(true, as_read, values))

    figure = setting([shown(mc * 1.15) for mc in OVEN])
    assert figure.value == pytest.approx(100.0 * (np.mean([pin_meter_mc(shown(mc * 1.15), OAK.row, OAK.row, 20.0) / mc for mc in OVEN]) - 1.0), abs=1.0)  # fmt: skip
    assert "no setting explains that" in plain(figure.words) or "set as for" in plain(figure.fault)


def test_a_setting_that_was_written_down_is_put_right_and_is_no_fault():
    figure = meter_setting(found(facts({"metered": read(list(OVEN), sort="plate", gravity=0.4)["metered"]})))
    assert figure is not None
    assert not figure.fault
    assert "The meter is set wrong: gravity set to 0.40" in plain(figure.words)
    assert "4 readings put right" in plain(figure.words)


def test_the_verdict_asks_for_no_thermometer_and_counts_what_was_written():
    verdict = judge(TERRACE, TIGHT, facts(read(list(OVEN))))
    assert verdict.channels == []
    names = [figure.name for figure in verdict.figures]
    assert names[:3] == ["boards-dry-by", "wettest-board", "meter-setting"]
    assert "12 readings, none of them by a thermometer inside" in plain(verdict.how_sure)


def test_boards_by_oven_and_meter_narrow_the_finish():
    nothing = judge(TERRACE, TIGHT, facts({"metered": [{"board": "O1", "on": "2025-06-10", "reading_mc": 0.26}]}))
    told = judge(TERRACE, TIGHT, facts(read(list(OVEN))))
    before, after = (
        next(figure for figure in verdict.figures if figure.name == "boards-dry-by") for verdict in (nothing, told)
    )
    assert before.doubt is not None
    assert after.doubt is not None
    assert after.doubt < 0.8 * before.doubt
    assert "as fast as their species" in plain(after.words)


def test_the_wettest_board_speaks_for_its_group():
    figure = wettest_board(found(facts(read(list(OVEN)))))
    assert figure is not None
    assert (figure.value, figure.passed) == (20.0, False)
    dry = wettest_board(found(facts(read([0.08, 0.09, 0.095, 0.07]))))
    assert dry is not None
    assert dry.passed
    assert plain(dry.brief) == "1 group may come out"


def test_end_paint_has_its_worth_only_where_both_sides_were_looked_at():
    followed = [{"board": f"B{k}", "group": 1, "ends": "paint" if k % 2 else "none"} for k in range(8)]
    seen = [{"board": f"B{k}", "on": READ_ON, "end_check_mm": 10.0 if k % 2 else 50.0 + k} for k in range(8)]
    figure = end_paint(found(facts({"followed": followed, "inspected": seen, "metered": read(list(OVEN))["metered"]})))
    assert figure is not None
    assert figure.value == pytest.approx(43.0)
    assert figure.grade == "real"
    assert end_paint(found(facts({"followed": followed, "metered": read(list(OVEN))["metered"]}))) is None


# --- kiln against a stack of another age and thickness ---


def stack(sawn: date, thick: float, mc: float) -> Figure:
    row = {"on": READ_ON, "group": 1, "mc": round(mc, 4), "sawn_on": sawn.isoformat(), "thickness_mm": thick}
    figure = kiln_against_stack(found(facts(read([0.14] * 4) | {"stack-read": [row]})))
    assert figure is not None
    return figure


def outside(sawn: date, thick: float) -> float:
    own = OAK.model_copy(update={"thickness_mm": thick, "start": "green-heart", "start_mc": None})
    return usually_outside(TERRACE, LOAD.model_copy(update={"groups": [own]}), sawn, date(2025, 6, 20))


def test_age_and_thickness_are_taken_off_and_the_rest_is_the_kilns():
    sawn, thick = date(2025, 2, 1), 40.0
    mc = outside(sawn, thick)
    figure = stack(sawn, thick, mc)
    equal = usually_outside(TERRACE, LOAD, date(2025, 6, 10), date(2025, 6, 20))
    assert figure.value == pytest.approx(100.0 * (equal - 0.14), abs=0.3), "an equal stack against the kiln"
    words = plain(figure.words)
    assert "Not a fair pair" in words
    assert "129 days before" in words
    assert "40 mm thick, not 27 mm" in words
    assert "look at its roof" not in words


def test_a_stack_that_is_unlike_its_twin_is_said_to_be():
    figure = stack(date(2025, 2, 1), 40.0, 0.5 * outside(date(2025, 2, 1), 40.0))
    assert "look at its roof and its place" in plain(figure.words)


# --- peaks, fan ---


@cache
def long_twin() -> Beside:
    """Twenty days of the twin, read in the chamber every hour."""
    times = [STARTED + timedelta(hours=k) for k in range(24 * 20)]
    channel = ChannelFacts(channel="c", title="chamber air", node=CHAMBER, doubt=0.5, device="logger", times=times, values=[20.0] * len(times))  # fmt: skip
    return beside(TERRACE, TIGHT, facts({}, [channel]))


def chamber(change: float = 0.0) -> Found:
    """As the twin has it, with so many kelvin taken off by the end."""
    at = long_twin()
    channel = at.facts.channels[0]
    seconds = channel.seconds
    fall = change * (seconds - seconds[0]) / (seconds[-1] - seconds[0])
    values = [float(v) for v in at.likely.at(CHAMBER, seconds) - fall]
    given = at.facts.model_copy(update={"channels": [channel.model_copy(update={"values": values})]})
    from dataclasses import replace

    return Found(replace(at, facts=given), None, None, [], [])


def test_peaks_that_climb_back_as_the_twin_does_pass():
    figure = climb_back(chamber())
    assert figure is not None
    assert figure.passed
    assert figure.value == pytest.approx(figure.twin, abs=0.5)


def test_a_kiln_that_no_longer_climbs_is_named():
    figure = climb_back(chamber(14.0))
    assert figure is not None
    assert figure.passed is False
    assert "no longer climbs back" in plain(figure.words)


def fan(share: float) -> Figure | None:
    at = long_twin()
    ran = float(at.likely.ran_s[ROUND].sum()) / 3600.0
    times = [STARTED, STARTED + timedelta(days=19)]
    meter = ChannelFacts(channel="h", title="hours", node=PUMP, quantity="hours", doubt=0.1, times=times, values=[100.0, 100.0 + share * ran])  # fmt: skip
    from dataclasses import replace

    return fan_hours(Found(replace(at, facts=at.facts.model_copy(update={"channels": [meter]})), None, None, [], []))


def test_a_stuck_fan_is_told_by_its_counter():
    good, stuck = fan(0.95), fan(0.05)
    assert good is not None
    assert stuck is not None
    assert good.passed
    assert not good.fault
    assert "stands still" in plain(stuck.fault)


def test_a_log_of_four_days_tells_nothing_of_peaks():
    times = [STARTED + timedelta(hours=k) for k in range(96)]
    channel = ChannelFacts(channel="c", title="chamber air", node=CHAMBER, doubt=0.5, times=times, values=[30.0] * 96)
    assert climb_back(found(facts({}, [channel]))) is None
    assert isinstance(times[0], datetime)
