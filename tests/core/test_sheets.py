"""Rows that a sawyer writes down, and what is made of them."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError
from scipy.stats import ttest_ind

from drylamp.core.builds.sheet import Around
from drylamp.core.checks import InputProblem
from drylamp.core.loads.common.wood import BASIS_MC, pin_meter_mc, specific_gravity
from drylamp.core.loads.lumber.sheets.followed import FOLLOWED, Followed
from drylamp.core.loads.lumber.sheets.inspected import INSPECTED, PAINT, Inspected, compared, share_kept, worth
from drylamp.core.loads.lumber.sheets.metered import METERED, Metered, corrected, last_read
from drylamp.core.loads.lumber.sheets.weighed import SECTIONS, WEIGHINGS, CutSection, Weighing, boards_mc, moisture
from drylamp.core.sheets import SHEETS, check_row, find_sheet, read_row, read_rows, sheets_of, with_rows
from drylamp.core.tables import species
from drylamp.core.text import plain
from drylamp.demo.scenario import CHESTNUT_KILN, OVEN, STEW, TERRACE
from tests.core.kilns import boards, charge

TODAY = date(2025, 6, 12)
LOAD = charge(
    boards("european-oak", 27.0, 0.4, start="measured", start_mc=0.30, target_mc=0.10),
    boards("poplar", 27.0, 0.3, start="measured", start_mc=0.30, target_mc=0.12),
)
OAK, POPLAR = LOAD.numbered


def around(**rows: list) -> Around:
    return Around(TERRACE, TODAY, CHESTNUT_KILN, LOAD, others=rows)


def on(day: int) -> str:
    return f"2025-06-{day:02d}"


def metered(board: str, day: int, shown: float, **more: object) -> Metered:
    return Metered.model_validate({"board": board, "on": on(day), "reading_mc": shown, **more})


def said(page) -> str:
    return " ".join(plain(words) for words in page.words)


# --- which sheets there are ---


def test_a_charge_of_boards_has_its_sheets_and_a_pot_has_none():
    names = [sheet.name for sheet in sheets_of("trial", CHESTNUT_KILN, LOAD)]
    assert names == ["followed", "sections", "weighings", "metered", "inspected", "stack-read"]
    assert list(sheets_of("trial", OVEN, STEW)) == []


def test_every_build_has_a_book_of_upkeep_and_a_kiln_has_prices_too():
    assert [sheet.name for sheet in sheets_of("build", OVEN, STEW)] == ["upkeep", "claims", "use", "done"]
    assert [sheet.name for sheet in sheets_of("build", CHESTNUT_KILN, None)] == [
        "upkeep",
        "claims",
        "use",
        "done",
        "prices",
    ]
    assert [sheet.name for sheet in sheets_of("site", None, None)] == ["pile", "house", "waiting"]


def test_a_sheet_that_is_not_there_is_refused_with_those_that_are():
    with pytest.raises(InputProblem, match="metered"):
        find_sheet("meter", "trial", CHESTNUT_KILN, LOAD)


@pytest.mark.parametrize("name", list(SHEETS))
def test_every_sheet_answers_for_no_rows_and_has_a_form(name: str):
    sheet = SHEETS[name].sheet
    here = around()
    page = sheet.page([], here)
    assert page.lines == []
    assert [plain(column) for column in page.columns]
    form = sheet.form(here)
    assert {field.name for field in form} == set(sheet.row.model_fields)
    assert all(field.title for field in form)
    assert set(sheet.fresh([], here)) == set(sheet.row.model_fields)


def test_a_row_that_can_no_longer_be_read_is_none_and_blanks_nothing():
    given = [{"board": "a", "on": on(1), "kg": 3.0}, {"board": "a", "kg": "heavy"}]
    read = read_rows(WEIGHINGS, given)
    assert [row is None for row in read] == [False, True]
    assert len(with_rows(around(), {"weighings": given, "unheard-of": [{}]}).rows(WEIGHINGS)) == 1


def test_the_next_row_begins_as_the_last_one_was_set():
    last = metered("O1", 2, 0.15, sort="plate", gravity=0.5, expects="green")
    fresh = METERED.fresh([last], around())
    assert (fresh["gravity"], fresh["expects"], fresh["on"]) == (0.5, "green", "2025-06-12")
    assert fresh["board"] == ""
    assert fresh["reading_mc"] is None


def test_too_many_rows_are_refused():
    row = metered("O1", 2, 0.15)
    with pytest.raises(InputProblem, match="allowed are 2000"):
        check_row(METERED, row, [row] * 2000, around())


# --- oven-dry sections and sample boards (ASTM D4442) ---


def test_sections_and_boards_come_out_exactly():
    first = CutSection.model_validate({"board": "O1", "on": on(1), "wet_kg": 0.15, "dry_kg": 0.12, "board_kg": 5.0})
    other = CutSection.model_validate({"board": "O1", "on": on(1), "wet_kg": 0.13, "dry_kg": 0.10})
    assert first.mc == pytest.approx(0.25)
    assert moisture(0.13, 0.10) == pytest.approx(0.30)
    weighed = [Weighing.model_validate({"board": "O1", "on": on(8), "kg": 4.6})]
    mean, dry = 0.275, 5.0 / 1.275
    found = boards_mc([first, other], weighed)["O1"]
    assert [day.day for day, _ in found] == [1, 8]
    assert found[0][1] == pytest.approx(mean, abs=1e-12)
    assert found[1][1] == pytest.approx(4.6 / dry - 1.0, abs=1e-12)


def test_a_section_heavier_dry_than_wet_is_refused_in_a_sentence():
    with pytest.raises((ValidationError, InputProblem), match="no section gets heavier in the oven"):
        read_row(SECTIONS, {"board": "O1", "on": on(1), "wet_kg": 0.12, "dry_kg": 0.15})


def test_a_board_is_weighed_only_where_its_sections_are_known_and_never_under_its_dry_weight():
    section = CutSection.model_validate({"board": "O1", "on": on(1), "wet_kg": 0.15, "dry_kg": 0.12, "board_kg": 5.0})
    here = around(sections=[section])
    good = Weighing.model_validate({"board": "O1", "on": on(5), "kg": 4.2})
    WEIGHINGS.check(good, [], here)
    with pytest.raises(InputProblem, match=r"below the .* that it would weigh oven-dry"):
        WEIGHINGS.check(good.model_copy(update={"kg": 3.9}), [], here)
    with pytest.raises(InputProblem, match="known: O1"):
        WEIGHINGS.check(good.model_copy(update={"board": "O2"}), [], here)
    with pytest.raises(InputProblem, match="write its sections first"):
        WEIGHINGS.check(good, [], around())


def test_a_loss_over_the_safe_rate_is_said():
    section = CutSection.model_validate({"board": "O1", "on": on(1), "wet_kg": 0.18, "dry_kg": 0.12, "board_kg": 6.0})
    rows = [Weighing.model_validate({"board": "O1", "on": on(3), "kg": 5.4})]
    page = WEIGHINGS.page(rows, around(sections=[section], followed=[Followed(board="O1", group=1)]))
    assert "7.5 % a day, more than the safe" in said(page)
    assert plain(page.lines[0].cells[3]) == "35 %"
    assert plain(page.lines[0].cells[4]) == "4.4 kg", "4 kg dry and a tenth of water"


def test_two_sections_that_are_unlike_are_flagged():
    rows = [
        CutSection.model_validate({"board": "O1", "on": on(1), "wet_kg": wet, "dry_kg": 0.1}) for wet in (0.13, 0.15)
    ]
    assert all("wet pocket" in plain(line.warning) for line in SECTIONS.page(rows, around()).lines)


# --- the meter ---


def test_pins_are_put_right_as_the_quick_sum_does():
    row = metered("O1", 2, 0.14, set_to="douglas-fir", wood_c=30.0)
    found = corrected(row, OAK)
    assert found.mc == pytest.approx(pin_meter_mc(0.14, OAK.row, species()["douglas-fir"], 30.0))
    assert "set to hard maple, not European oak" in corrected(metered("O1", 2, 0.14, set_to="hard-maple"), OAK).wrong
    alone = corrected(metered("O1", 2, 0.14), OAK)
    assert (alone.wrong, alone.unsure) == ("", False)


@pytest.mark.parametrize(("expects", "typed"), [("12 %", "green"), ("green", "12 %"), ("oven-dry", "green")])
def test_a_gravity_on_the_wrong_basis_is_named_and_converted(expects: str, typed: str):
    basic = OAK.row.basic_specific_gravity
    gravity = round(specific_gravity(basic, typed), 3)
    found = corrected(metered("O1", 2, 0.15, sort="plate", gravity=gravity, expects=expects), OAK)
    assert found.mc == pytest.approx(0.15 * gravity / specific_gravity(basic, expects))
    assert "is its gravity" in found.wrong
    assert "this meter expects that" in found.wrong
    right = corrected(
        metered("O1", 2, 0.15, sort="plate", gravity=specific_gravity(basic, expects), expects=expects), OAK
    )
    assert right.wrong == ""
    assert right.mc == pytest.approx(0.15)


def test_gravity_grows_as_the_volume_dries():
    for row in species().values():
        on_bases = [specific_gravity(row.basic_specific_gravity, basis) for basis in BASIS_MC]
        assert on_bases == sorted(on_bases)
        assert on_bases[0] == row.basic_specific_gravity


@pytest.mark.parametrize(("shown", "unsure"), [(0.34, True), (0.12, False), (0.04, True)])
def test_above_fibre_saturation_and_under_what_pins_tell_a_reading_is_a_guess(shown: float, unsure: bool):
    assert corrected(metered("O1", 2, shown), OAK).unsure is unsure
    line = METERED.page([metered("O1", 2, shown)], around()).lines[0]
    assert ("a guess" in plain(line.warning)) is unsure


def test_the_wettest_board_says_whether_its_group_comes_out():
    followed = [Followed(board=f"O{k}", group=1) for k in (1, 2)] + [Followed(board="P1", group=2)]
    rows = [metered("O1", 2, 0.20), metered("O1", 9, 0.085), metered("O2", 9, 0.115), metered("P1", 9, 0.10)]
    here = around(followed=followed, metered=rows)
    assert list(last_read(rows, here)) == ["O2", "P1", "O1"]
    words = said(METERED.page(rows, here))
    assert "O2 is wettest at 11.5 %" in words
    assert "1 of 2 boards over 10.0 %: it stays in" in words
    assert "the wettest, P1, is at 10.0 %" in words
    assert "it may come out" in words


def test_readings_of_one_day_at_one_board_count_by_their_mean():
    rows = [metered("O1", 9, 0.10), metered("O1", 9, 0.14, place="end")]
    assert last_read(rows, around())["O1"][1] == pytest.approx(0.12)


def test_a_final_check_is_drawn_as_boards_by_moisture():
    rows = [metered(f"O{k}", 9, value) for k, value in enumerate((0.071, 0.074, 0.083, 0.091, 0.124))]
    bars = METERED.page(rows, around()).bars
    assert bars is not None
    assert sum(int(plain(bar.says).split()[0]) for bar in bars.bars) == 5
    assert [bar.picked for bar in bars.bars] == [float(plain(bar.title)) >= 12.0 for bar in bars.bars]
    assert METERED.page(rows[:3], around()).bars is None, "three boards are no picture"


def test_pins_deeper_than_the_middle_are_refused():
    with pytest.raises(InputProblem, match="middle of this board"):
        METERED.check(metered("O1", 2, 0.1, depth_mm=20.0), [], around())


def test_boards_have_marks_of_their_own_and_groups_that_are_there():
    with pytest.raises(InputProblem, match="followed already"):
        FOLLOWED.check(Followed(board="O1"), [Followed(board="O1")], around())
    with pytest.raises(InputProblem, match="this charge has 1"):
        FOLLOWED.check(Followed(board="O2", group=3), [], around())


# --- what was seen on boards ---


def seen(board: str, day: int, end: float, **more: object) -> Inspected:
    return Inspected.model_validate({"board": board, "on": on(day), "end_check_mm": end, **more})


def test_the_worth_of_paint_has_the_interval_of_welch():
    painted, bare = np.array([6.0, 9.0, 4.0, 12.0]), np.array([55.0, 71.0, 62.0, 48.0, 80.0])
    found = worth(painted, bare, 0.0)
    outside = ttest_ind(bare, painted, equal_var=False).confidence_interval(0.95)
    assert found.difference == pytest.approx(bare.mean() - painted.mean())
    assert found.doubt == pytest.approx((outside.high - outside.low) / 2.0, rel=1e-6)
    assert found.real
    assert worth(painted, painted + 1.0, 2.0).real is False


def test_half_the_boards_painted_is_a_fair_trial_and_has_a_verdict():
    followed = [Followed(board=f"O{k}", group=1, ends="wax-emulsion" if k % 2 else "none") for k in range(8)]
    rows = [seen(f"O{k}", 9, 8.0 + k if k % 2 else 60.0 + 3.0 * k) for k in range(8)]
    here = around(followed=followed)
    assert "a fair trial" in said(FOLLOWED.page(followed, here))
    words = said(INSPECTED.page(rows, here))
    assert "Longest end check: painted ends 12 mm (4 boards), bare ones 69 mm (4)" in words
    assert "real" in words
    assert "Bare ends were to lose about 108 mm" in words
    found = compared(rows, here, PAINT)
    assert found is not None
    assert plain(share_kept(found, here)).startswith("over the whole charge 0.03")
    assert compared(rows[:4], here, PAINT) is None, "two a side tell nothing"


def test_cup_and_bow_stand_beside_what_weights_and_sticks_were_to_leave():
    rows = [seen(f"O{k}", 9, 0.0, cup_mm=2.0, bow_mm=25.0) for k in range(4)]
    words = said(INSPECTED.page(rows, around()))
    assert "Cup 2 mm where" in words
    assert "bow 25 mm where" in words
    assert "Sticks nearer to one another" in words
    flat = [row.model_copy(update={"bow_mm": 0.0}) for row in rows]
    assert "Sticks nearer" not in said(INSPECTED.page(flat, around()))


def test_checks_that_grew_since_the_last_look_are_named():
    rows = [seen("O1", 2, 10.0), seen("O2", 2, 5.0), seen("O1", 9, 31.0), seen("O2", 9, 5.0)]
    words = said(INSPECTED.page(rows, around()))
    assert "checks grew in O1:" in words
    calm = [seen("O1", 2, 10.0), seen("O1", 9, 11.0)]
    assert "Nothing grew" in said(INSPECTED.page(calm, around()))


def test_a_check_longer_than_the_board_is_refused():
    with pytest.raises(InputProblem, match="was given; the board is"):
        INSPECTED.check(seen("O1", 2, 3200.0), [], around())
    assert "split" in plain(INSPECTED.page([seen("O1", 2, 1800.0)], around()).lines[0].warning)
