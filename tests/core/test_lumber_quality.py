"""What drying does to boards: stress from the profile, what a meter shows, and what each thing that one does to a stack changes, alone."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest

from drylamp.core.heat.cells import CELLS, FIBRE_SATURATION, SHARES, SHELL_CELLS
from drylamp.core.loads.common.wood import pin_meter_mc
from drylamp.core.loads.lumber.meter import meter_reads
from drylamp.core.loads.lumber.outside import dried_outside
from drylamp.core.loads.lumber.quality import cup_mm, end_loss_mm, mould_hours, sag_mm, saw_for, strained
from drylamp.core.loads.lumber.spec import AirStack, Meter
from drylamp.core.loads.lumber.stress import stress_mpa
from drylamp.core.tables import species
from tests.core.kilns import TIGHT, boards, charge, clear, found, ran
from tests.reference.test_boards import OAK, dried

GROUP = boards("northern-red-oak", 27.0, 0.5, start="green-heart")
HOUR = 3600.0


def stress(cells, celsius=30.0):
    return stress_mpa(cells, np.full(len(cells), celsius), 0.086, 0.56, HOUR)


def test_at_even_moisture_there_is_no_stress():
    for moisture in (0.8, 0.25, 0.10):
        shell, core, _, _ = stress(np.full((50, CELLS), moisture))
        assert np.abs(shell).max() < 1e-9
        assert np.abs(core).max() < 1e-9


def test_the_shell_is_pulled_first_and_pressed_later():
    cells, _ = dried(OAK, 0.8, 45.0, 0.45, 60, dt_s=HOUR)
    shell, core, bears, _ = stress(cells)
    early, late = int(np.argmax(shell)), int(np.argmin(shell))
    assert shell[early] > 1.0
    assert shell[late] < -1.0, "the stress turns round"
    assert early < late
    assert core[early] < 0.0 < core[late]
    assert 2.0 < bears.mean() < 7.0, (
        "tension across the grain of red oak 5.5 MPa at 12 % (Wood Handbook ch. 5, from memory)"
    )


def test_forces_balance_over_the_board():
    """Shell and core pull against each other: what the shell is pulled by, the rest is pressed by."""
    gradient = np.linspace(0.28, 0.12, CELLS).reshape(1, -1).repeat(2, axis=0)
    shell, core, _, _ = stress(gradient)
    assert shell[0] > 0.0 > core[0]
    assert shell[0] * SHARES[-SHELL_CELLS:].sum() < -core[0] * (1 - SHARES[-SHELL_CELLS:].sum())


def test_quicker_drying_pulls_harder_and_denser_wood_bears_more():
    slow, fast = (
        stress(dried(OAK, 0.8, celsius, rh, 40, dt_s=HOUR)[0], celsius)[0].max()
        for celsius, rh in ((30.0, 0.85), (50.0, 0.30))
    )
    assert fast > slow + 0.3
    _, _, dense, _ = stress_mpa(np.full((2, CELLS), 0.12), np.full(2, 20.0), 0.1, 0.6, HOUR)
    _, _, light, _ = stress_mpa(np.full((2, CELLS), 0.12), np.full(2, 20.0), 0.06, 0.34, HOUR)
    assert dense[0] == pytest.approx(6.1, abs=0.3)
    assert light[0] == pytest.approx(2.0, abs=0.2), "white pine 2.1 MPa (Wood Handbook ch. 5, from memory)"


def test_damp_nights_relieve_the_shell():
    load = charge(GROUP)
    run = ran(TIGHT, load, clear(date(2025, 6, 10), 14))
    group = found(load, run).groups[0]
    assert 0.05 < group.relief_share <= 1.0
    steady = strained(GROUP, dried(OAK, 0.8, 45.0, 0.45, 14, dt_s=HOUR)[0], np.full(14 * 24, 45.0), HOUR)
    assert steady.relief_share is None or steady.relief_share < group.relief_share


# --- the meter ---


def test_pins_read_the_moisture_at_their_depth_and_a_plate_what_is_near_it():
    cells = np.linspace(0.24, 0.08, CELLS)
    shallow, deep = (meter_reads(Meter(depth_share=share), GROUP, cells, 20.0) for share in (0.05, 0.5))
    assert shallow.felt_mc < deep.felt_mc
    assert deep.felt_mc == pytest.approx(0.24, abs=0.01)
    assert pin_meter_mc(deep.shown_mc, GROUP.row, GROUP.row, 20.0) == pytest.approx(deep.felt_mc, abs=1e-6), (
        "the published correction turned round"
    )
    plate = meter_reads(Meter(sort="plate"), GROUP, cells, 20.0)
    assert cells[-1] < plate.felt_mc < cells[0]


def test_a_wrong_setting_reads_wrong_and_warm_wood_reads_wetter():
    cells = np.full(CELLS, 0.12)
    right = meter_reads(Meter(), GROUP, cells, 20.0).shown_mc
    assert right == pytest.approx(0.12, abs=0.002)
    assert meter_reads(Meter(), GROUP, cells, 45.0).shown_mc > right + 0.01
    pine = meter_reads(Meter(sort="plate", set_to="eastern-white-pine"), GROUP, cells, 20.0).shown_mc
    assert pine == pytest.approx(0.12 * 0.56 / 0.34, rel=0.01)
    assert meter_reads(Meter(sort="plate", gravity=0.56), GROUP, cells, 20.0).shown_mc == pytest.approx(0.12, abs=0.001)
    assert meter_reads(Meter(), GROUP, np.full(CELLS, 0.5), 20.0).unsure


# --- one thing at a time ---


WHOLE = charge(boards("northern-red-oak", 27.0, 0.6, start="green-heart"), sticker_mm=20.0)
WEATHER = clear(date(2025, 6, 10), 10)


def result(**change):
    load = WHOLE.model_copy(update=change)
    return found(load, ran(TIGHT, load, WEATHER)).groups[0]


def test_sticks_change_how_fast_it_dries():
    """Thin sticks leave less air between the boards: outside, where no fan drives it through, it is spent sooner."""
    thin, thick = result(sticker_mm=8.0), result(sticker_mm=32.0)
    assert thin.outside_end_mc > thick.outside_end_mc + 0.01
    assert abs(thin.end_mc - thick.end_mc) > 0.001


def test_sticks_farther_apart_sag_more():
    assert result(sticker_apart_m=0.9).sag_mm > 10.0 * result(sticker_apart_m=0.4).sag_mm


def test_baffles_change_how_fast_it_dries():
    assert result(baffled=False).end_mc > result(baffled=True).end_mc + 0.001


def test_weights_change_the_cup():
    dry = [boards("northern-red-oak", 27.0, 0.6, start="measured", start_mc=0.15)]
    assert 0.0 < result(groups=dry, weights_kg_m2=120.0).cup_mm < 0.5 * result(groups=dry, weights_kg_m2=0.0).cup_mm


def test_end_paint_changes_what_the_ends_lose():
    bare, paint, wax = (result(end_paint=paint).end_loss_mm for paint in ("none", "paint", "wax-emulsion"))
    assert bare > paint > wax > 0.0


def test_a_top_cover_changes_the_light_on_the_top_layer():
    open_roof = TIGHT.with_(baffle=None)
    bare, covered = (
        found(load, ran(open_roof, load, WEATHER)).groups[0].bleach_kwh_m2
        for load in (WHOLE, WHOLE.model_copy(update={"top_cover": True}))
    )
    assert bare > 5.0
    assert covered == 0.0
    assert result().bleach_kwh_m2 < bare, "a baffle keeps most of it off"


def test_quarter_sawn_boards_stay_flat():
    flat, quarter = (cup_mm(WHOLE, boards("northern-red-oak", 27.0, 0.6, cut=cut), 0.10) for cut in ("flat", "quarter"))
    assert flat > 0.0 == quarter
    assert sag_mm(WHOLE, boards("northern-red-oak", 54.0, 0.6)) < sag_mm(WHOLE, GROUP)
    assert end_loss_mm("none", GROUP, 1.0) == pytest.approx(4 * 27.0)


def test_sizes_to_saw_for_are_the_planed_size_and_what_goes():
    """200 mm of red oak planed at 10 %: dry it must be 205.5, and it shrinks by 8.6 % × 20/30 of its green width (Wood Handbook table 4-3)."""
    group = boards("northern-red-oak", 27.0, 0.5, target_mc=0.10)
    found_ = saw_for(group, 200.0, 4.0, "width", 1.5)
    assert found_.sawn_mm == pytest.approx(205.5 / (1 - 0.086 * 20 / 30), rel=1e-6)
    assert saw_for(group, 200.0, 4.0, "thickness", 1.5).sawn_mm < found_.sawn_mm


def test_mould_counts_damp_warm_hours():
    celsius, rh = np.array([5.0, 20.0, 20.0, 45.0]), np.array([0.95, 0.95, 0.6, 0.95])
    assert mould_hours(celsius, rh, HOUR) == 1.0


# --- the stack outside ---


def test_shelter_wind_sun_and_height_change_the_stack_outside():
    load = charge(boards("poplar", 27.0, 0.5))

    def end(**change):
        stack = load.model_copy(update={"outside": AirStack(**change)})
        return float(dried_outside(stack, stack.groups[0], WEATHER, 0).mean_mc[-1])

    usual = end()
    assert end(wind_share=0.9) < usual - 0.05
    assert end(sun_share=0.5) < usual
    assert end(high_m=0.0) > usual + 0.01
    assert end(film_w_m2k=15.0) < usual - 0.05


def test_rain_wets_what_stands_open_and_is_said_to_be_left_out_where_nobody_wrote_it():
    from dataclasses import replace

    load = charge(boards("poplar", 27.0, 0.5, start="air-dried"))
    wet = replace(WEATHER, rain_mm_h=np.where((np.arange(WEATHER.steps) // 288) % 2 == 0, 1.0, 0.0))
    open_, shed = (
        float(
            dried_outside(
                load.model_copy(update={"outside": AirStack(shelter=where, covered=False)}), load.groups[0], wet, 0
            ).mean_mc[-1]
        )
        for where in ("open", "shed")
    )
    assert open_ > shed + 0.03
    assert found(load, ran(TIGHT, load, wet)).rain
    assert not found(load, ran(TIGHT, load, WEATHER)).rain


def test_woods_without_a_published_rate_say_so():
    assert boards("eastern-white-pine", 27.0, 0.1).safe_per_day is None
    assert boards("white-oak", 25.4, 0.1).safe_per_day == pytest.approx(species()["white-oak"].safe_1in_per_day)
    assert FIBRE_SATURATION == 0.30
