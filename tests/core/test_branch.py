"""A variant taken over into what it branched off."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.branch import Branch, taken_over
from drylamp.core.checks import InputProblem
from drylamp.demo.scenario import BASIN, BASIN_HOSE, HEATER, OVEN, SHOWERS, STEW

AT = Branch(OVEN, STEW)
FIELDS = {
    "facing_deg": st.sampled_from([150.0, 180.0, 210.0]),
    "tilt_deg": st.sampled_from([10.0, 20.0]),
    "leak": st.none(),
}


def turned(**fields: float) -> Branch:
    return Branch(OVEN.with_(**fields), STEW)


def test_what_each_changed_is_in_it():
    made = taken_over(AT, turned(facing_deg=150.0), turned(tilt_deg=33.0))
    assert (made.build.facing_deg, made.build.tilt_deg) == (150.0, 33.0)
    assert made.both == []


def test_where_both_changed_one_thing_the_variants_counts_and_it_is_named():
    made = taken_over(AT, turned(facing_deg=150.0), turned(facing_deg=200.0))
    assert made.build.facing_deg == 200.0
    assert made.both == ["faces"]
    assert taken_over(AT, turned(facing_deg=150.0), turned(facing_deg=150.0)).both == []


def test_another_kind_is_taken_whole():
    made = taken_over(AT, AT, Branch(HEATER, SHOWERS))
    assert (made.build, made.load, made.both) == (HEATER, SHOWERS, [])
    assert taken_over(AT, turned(facing_deg=150.0), Branch(HEATER, SHOWERS)).both == ["the build"]


def test_what_is_in_it_comes_along():
    assert taken_over(AT, AT, Branch(OVEN, None)).load is None
    other = STEW.model_copy(update={"put_in": "10:30"})
    assert taken_over(AT, turned(tilt_deg=12.0), Branch(OVEN, other)).load == other


def test_two_changes_that_do_not_go_together_are_refused():
    base = Branch(BASIN_HOSE, BASIN)
    shorter = Branch(BASIN_HOSE.with_(length_m=1.2), BASIN)
    longer = Branch(
        BASIN_HOSE.with_(coil=BASIN_HOSE.coil.model_copy(update={"pipe_m": 100.0}), length_m=BASIN_HOSE.length_m), BASIN
    )
    with pytest.raises(InputProblem, match="does not fit to what was changed here since"):
        taken_over(base, shorter, longer)


@given(
    st.sampled_from([150.0, 180.0, 210.0]), st.sampled_from([10.0, 20.0, 40.0]), st.sampled_from([150.0, 180.0, 210.0])
)
def test_a_side_that_changed_nothing_gives_way(facing: float, tilt: float, other: float):
    changed = turned(facing_deg=facing, tilt_deg=tilt)
    assert taken_over(AT, AT, changed).build == changed.build
    assert taken_over(AT, changed, AT).build == changed.build
    assert taken_over(AT, changed, turned(facing_deg=other)).build.tilt_deg == tilt
