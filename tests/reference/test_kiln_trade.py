"""Kilns against what the trade sees of them: every band on a case that is written out (``tests/core/kilns.py``). Common practice, no source, where none is named."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest

from drylamp.core.advice.cautions import cautions
from drylamp.core.advice.entries import Seen
from drylamp.core.builds.kiln.spec import AirChanges, LumberKiln
from drylamp.core.heat.boards import arrhenius
from drylamp.core.loads.common.stacked import CHAMBER
from drylamp.core.loads.common.wood import ACTIVATION_J_MOL, equilibrium_mc
from drylamp.core.loads.lumber.outcome import chamber_rh, kept_of
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.twin.run import Run
from tests.core.kilns import RULE_BF_M2, THIN, TIGHT, boards, case_of, charge, clear, found, ran, rule_m3, usual

ROOMY = {"depth_m": 3.0, "front_m": 1.6}
"""High enough for a charge of the rule's size."""
JUNE, APRIL, OCTOBER = date(2025, 6, 5), date(2025, 4, 1), date(2025, 10, 1)


def peaks(run: Run) -> np.ndarray:
    """Highest ten minutes of each day."""
    celsius, day = run.temperature_c[CHAMBER], round(86400.0 / run.weather.dt_s)
    mean = 0.5 * (celsius[1:] + celsius[:-1])
    return np.array(
        [(0.5 * (mean[k : k + day - 1] + mean[k + 1 : k + day])).max() for k in range(0, len(mean) - day + 1, day)]
    )


def pine(build: LumberKiln, share: float, thick: float = 25.4, **start: object) -> LumberCharge:
    return charge(
        boards("eastern-white-pine", thick, rule_m3(build, share), length_m=3.4, target_mc=0.10, **start),
        stack_deep_m=1.2,
    )


def oak(name: str, build: LumberKiln, share: float, thick: float) -> LumberCharge:
    return charge(
        boards(name, thick, rule_m3(build, share), length_m=3.4, target_mc=0.10, start="green-heart"), stack_deep_m=1.2
    )


# Two thin films and bare walls at 38–43° N (the terrace lies at 41.2).
@pytest.mark.parametrize("month", [6, 7, 8])
def test_empty_peaks_by_air_changes(month):
    weather = clear(date(2025, month, 15), 4)
    top = {
        ach: peaks(ran(THIN.with_(changes=AirChanges(calm_per_h=ach)), None, weather))[-1] for ach in (2.0, 10.0, 30.0)
    }
    assert 55.0 <= top[10.0] <= top[2.0] <= 72.0
    assert top[30.0] < 52.0


def test_insulated_opaque_and_tight_passes_80_and_warns():
    weather = clear(date(2025, 7, 15), 3)
    run = ran(TIGHT, None, weather)
    assert peaks(run)[-1] > 80.0
    case = case_of(TIGHT, None, date(2025, 7, 15), 3)
    said = [flag.text for flag in cautions(Seen(case, run, run, None))]
    assert any("passes" in text and "80" in text for text in said)


def test_a_wet_charge_pulls_the_peak_down_and_it_climbs_back():
    """Thin films: 4 to 28 K, a tight insulated box: 19 to 50 K, the more the larger, from 15 to 150 litres of wood on a square metre of roof."""
    weather = clear(date(2025, 7, 1), 24)
    for build, low, high in ((THIN, 4.0, 28.0), (TIGHT, 19.0, 50.0)):
        empty, drops = peaks(ran(build, None, weather)), []
        for litres_m2 in (15.0, 60.0, 150.0):
            load = charge(
                boards("scots-pine", 25.4, litres_m2 / 1000.0 * build.roof_m2, length_m=3.4, start="green-sap"),
                stack_deep_m=1.2,
            )
            top = peaks(ran(build, load, weather))
            drops.append(float(empty[1] - top[1]))
            assert top[-1] > top[1] + 5.0, "it climbs back"
        assert low <= drops[0] < drops[1] < drops[2] <= high, drops


@pytest.mark.parametrize(
    ("share", "start", "least", "most"),
    [
        (1 / 3, {"start": "measured", "start_mc": 0.27}, 7.0, 14.5), (1.0, {"start": "measured", "start_mc": 0.27}, 14.0, 21.0),
        (1 / 3, {"start": "green-sap"}, 14.0, 28.5), (1.0, {"start": "green-sap"}, 31.0, 56.0),
    ],
)  # fmt: skip
def test_days_of_one_inch_pine_to_ten_per_cent_in_summer(share, start, least, most):
    """From 27 %: one to two weeks at a third of the rule's size, two to three at all of it; from green 2 to 4 weeks, and 4½ to 8."""
    build = THIN.with_(**ROOMY)
    load = pine(build, share, **start)
    assert load.wood_m3 / build.roof_m2 / 0.002359737 == pytest.approx(share * RULE_BF_M2)
    assert least <= found(load, ran(build, load, usual(JUNE, 70))).groups[0].days <= most


def test_two_inch_hardwood_against_the_stack_outside():
    """Of the stack's moisture six months from April a thin kiln keeps 0.45 to 0.75, an insulated one 0.2 to 0.5; from October the thin one 0.7 to 1.0."""
    kept = {}
    for name, build, first in (("thin", THIN, APRIL), ("tight", TIGHT, APRIL), ("winter", THIN, OCTOBER)):
        build = build.with_(**ROOMY)
        load = oak("hard-maple", build, 1 / 3, 50.8)
        group = found(load, ran(build, load, usual(first, 183))).groups[0]
        kept[name] = group.end_mc / group.outside_end_mc
    assert 0.45 <= kept["thin"] <= 0.75
    assert 0.20 <= kept["tight"] <= 0.50
    assert 0.70 <= kept["winter"] <= 1.0


def test_one_inch_oak_through_a_winter():
    """An insulated, lightly loaded kiln filled at summer's end has its shell at 10 % or less by mid-April; mean and core beside it."""
    build = TIGHT.with_(**ROOMY)
    load = oak("northern-red-oak", build, 0.2, 25.4)
    group = found(load, ran(build, load, usual(date(2025, 9, 15), 212))).groups[0]
    assert group.shell_end_mc <= 0.10
    assert group.shell_end_mc < group.end_mc < group.core_end_mc < 0.12


def test_double_thickness_in_a_full_charge():
    """2.3 to 2.8 times as long: the sun is the limit, not the wood alone."""
    build = THIN.with_(**ROOMY)
    days = [
        found(load, ran(build, load, usual(date(2025, 5, 10), 120))).groups[0].days
        for load in (pine(build, 1.0, thick, start="green-heart") for thick in (25.4, 50.8))
    ]
    assert 2.3 <= days[1] / days[0] <= 2.8


def test_one_inch_green_white_oak_in_july_flags_the_safe_rate():
    """A third of the rule's size; its first day loses more with vents open, and later days turn round, as shut is hotter (safe rate: FPL-GTR-118, from memory)."""
    build = THIN.with_(**ROOMY)
    load = oak("white-oak", build, 1 / 3, 25.4)
    shut, open_ = (
        found(load, ran(build.opened(share), load, usual(date(2025, 7, 1), 14))).groups[0] for share in (0.0, 1.0)
    )
    assert shut.worst_loss > shut.safe_per_day == pytest.approx(0.025)
    assert shut.checks == "high"
    assert open_.first_day_loss > shut.first_day_loss
    assert sum(x for x in shut.loss_per_day[2:] if x) > sum(x for x in open_.loss_per_day[2:] if x)


def test_pine_dries_before_oak_in_one_charge():
    build = THIN.with_(**ROOMY)
    load = charge(
        *(
            boards(name, 25.4, 0.3, length_m=3.0, start="green-heart", target_mc=0.12)
            for name in ("eastern-white-pine", "yellow-poplar", "white-oak")
        )
    )
    pine_, poplar, white_oak = found(load, ran(build, load, usual(date(2025, 5, 10), 120))).groups
    assert pine_.days < poplar.days < (white_oak.days or 999.0)


def test_a_charge_left_for_long_stands_at_what_its_air_brings_wood_to():
    build = TIGHT.with_(**ROOMY)
    load = charge(boards("yellow-poplar", 12.0, 0.05, length_m=2.0, start="measured", start_mc=0.12, target_mc=0.05))
    run = ran(build, load, usual(date(2025, 6, 1), 60))
    celsius, rh = run.temperature_c[CHAMBER][-288 * 14 :: 12], chamber_rh(run)[-288 * 14 :: 12]
    emc = np.array([equilibrium_mc(float(t), float(h)) for t, h in zip(celsius, rh, strict=True)])
    moves = np.array([arrhenius(float(t), ACTIVATION_J_MOL) for t in celsius])
    mean = kept_of(load.numbered[0], run).mean[-1]
    assert mean == pytest.approx((emc * moves).sum() / moves.sum(), abs=0.015), (
        "warm hours count for more, as water moves in them"
    )
    assert emc.min() < mean < emc.mean()


def test_energy_and_water_close_over_half_a_year_of_three_groups():
    build = THIN.with_(**ROOMY)
    load = charge(
        boards("white-oak", 50.8, 0.4, in_on=date(2025, 4, 1)),
        boards("poplar", 27.0, 0.4, in_on=date(2025, 4, 20), out_on=date(2025, 6, 15)),
        boards("scots-pine", 27.0, 0.3, in_on=date(2025, 6, 15)),
    )
    run = ran(build, load, usual(APRIL, 180))
    assert run.energy_closure < 1e-12
    assert run.damp.closure < 1e-11
    assert float(np.nanmin(run.damp.cells["boards-1"])) > 0.0
    result = found(load, run)
    assert [group.came_out is not None for group in result.groups] == [False, True, False]
    gone = sum(
        group.wood_m3 * 1000.0 * gravity * (group.start_mc - group.end_mc)
        for group, gravity in zip(result.groups, (0.60, 0.37, 0.42), strict=True)
    )
    assert result.water_kg == pytest.approx(gone, rel=0.002)
