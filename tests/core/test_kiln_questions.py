"""What is asked of a charge of boards: when it is dry, vents today and by the week, sizes, changes, schools, sayings, cautions; each able to come out both ways."""

from __future__ import annotations

from datetime import date

import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.registry import advice_of_load
from drylamp.core.advice.sayings import sayings_of
from drylamp.core.advice.schools import schools_of
from drylamp.core.advice.weakest import weakest_link
from drylamp.core.builds.kiln.spec import KilnFan, KilnVents, LumberKiln
from drylamp.core.engine import forecast
from drylamp.core.loads.lumber.outcome import score
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.sky.weather import Weather
from drylamp.core.text import plain
from tests.core.kilns import (
    DRY_PINE,
    MIXED,
    POPLAR,
    THIN,
    TIGHT,
    VENTED,
    boards,
    case_of,
    charge,
    clear,
    found,
    ran,
    rule_m3,
    usual,
)

JUNE, DECEMBER = date(2025, 6, 12), date(2025, 12, 5)
ROOMY = {"depth_m": 3.0, "front_m": 1.6}
OAK = charge(boards("white-oak", 25.4, rule_m3(THIN, 1 / 3), start="green-heart"))


def context(
    build: LumberKiln, load: LumberCharge | None, weather: Weather | None = None, first: date = JUNE
) -> AdviceContext:
    return AdviceContext(case_of(build, load, first, 14), weather or clear(first, 14))


def asked(name: str, build: LumberKiln, load: LumberCharge, first: date = JUNE):
    on = context(build, load, None, first)
    return advice_of_load(load).answers[name](on, load)


# --- when it is dry ---


def test_a_charge_ahead_says_when_by_chance_and_against_the_stack():
    answer = asked("charge", VENTED, POPLAR)
    group = answer.groups[0]
    assert group.early_days < group.likely_days < group.late_days
    assert answer.chance == 1.0
    assert group.outside_mc_then > group.target_mc + 0.03
    assert group.meter_mc == pytest.approx(0.13, abs=0.02)
    assert len(answer.times) == len(group.mean_mc) == len(group.cells_mc)
    assert sum(answer.cell_widths) == pytest.approx(1.0)
    peaks = [day.peak_c for day in answer.days]
    assert max(peaks[:4]) < answer.empty_peak_c - 15.0
    assert max(peaks[-5:]) > max(peaks[:4]) + 10.0
    for words in (answer.words, answer.pull, answer.beside, answer.peaks):
        assert plain(words).endswith(".")
    assert "Wetting by rain is left out" in plain(answer.beside)


def test_mixed_thickness_is_judged_and_what_is_ready_first_is_to_be_taken_out():
    answer = asked("charge", VENTED, MIXED)
    assert "take it out by itself" in plain(answer.pull)
    chestnut, poplar = answer.groups
    assert poplar.likely_days < chestnut.likely_days - 10.0


def test_a_target_below_what_this_air_brings_wood_to_is_said_with_the_lowest_and_when():
    damp = charge(boards("poplar", 20.0, 0.3, start="air-dried", target_mc=0.02))
    said = plain(asked("charge", THIN.opened(1.0), damp, DECEMBER).words)
    assert "is below what its air brings wood to" in said
    assert "driest fortnight" in said
    assert "Not dry within" in said


# --- vents, sizes, changes ---


def test_today_says_what_each_opening_does_and_what_it_saves():
    answer = asked("today", VENTED, OAK.times(0.6))
    assert [option.is_mine for option in answer.options] == [True, False, False]
    shut = next(option for option in answer.options if plain(option.title) == "vents shut")
    wide = next(option for option in answer.options if plain(option.title) == "vents wide open")
    assert shut.peak_c > wide.peak_c + 1.0
    assert shut.rh > wide.rh
    assert wide.next_day[0] > shut.next_day[0]
    assert shut.worst_share > 1.0, "green oak in June is at risk whatever the vents"
    assert "times the safe rate" in plain(answer.words)
    calm = asked("today", VENTED, charge(boards("poplar", 54.0, 1.0, start="air-dried")))
    assert "safe rate" not in plain(calm.words)


def test_weeks_set_the_vents_and_are_no_slower_than_leaving_them():
    answer = asked("weeks", VENTED, POPLAR)
    assert answer.days is not None
    assert answer.days <= answer.days_as_is + 2.0
    shares = [week.open_share for week in answer.weeks]
    assert shares[0] > shares[-1] == 0.0, "open while it is wet, shut once it is dry"
    means = [week.mean_mc[0] for week in answer.weeks]
    assert means == sorted(means, reverse=True)
    kind = asked("weeks", VENTED, OAK.times(0.6))
    assert "safe rate" in plain(kind.weeks[0].why)


def test_sizes_find_the_charge_that_gives_most():
    answer = asked("sizes", VENTED.with_(**ROOMY), POPLAR)
    days = [size.days for size in answer.sizes if size.days is not None]
    assert days == sorted(days), "more takes longer"
    best = max((size for size in answer.sizes if size.m3_per_month is not None), key=lambda size: size.m3_per_month)
    assert answer.best_m3 == best.wood_m3
    assert "sun is the limit" in plain(answer.words)
    thick = asked(
        "sizes", VENTED.with_(**ROOMY), charge(boards("white-oak", 54.0, 0.2, start="air-dried", target_mc=0.14))
    )
    assert "the wood itself is the limit" in plain(thick.words)


def test_links_rank_changes_by_days_and_name_the_risk():
    answer = asked("links", VENTED, POPLAR)
    told = [line.sooner_days for line in answer.lines if line.sooner_days is not None]
    assert told == sorted(told, reverse=True)
    by_title = {plain(line.title): line for line in answer.lines}
    assert by_title["without fans"].sooner_days < 0.0
    assert by_title["one more film over the roof"].sooner_days > -1.0
    assert plain(answer.words).endswith(".")


def test_saw_gives_green_sizes():
    answer = asked("saw", VENTED, MIXED)
    assert all(line.sawn_wide_mm > line.wide_mm + 5.0 for line in answer.lines)


def test_the_weakest_link_is_told_from_a_fortnight():
    found_ = weakest_link(context(VENTED, POPLAR))
    gains = {plain(line.title): line.gain for line in found_.lines}
    assert gains["without fans"] < 0.0 < gains["roof wiped"]
    assert plain(found_.best).startswith("Weakest link")


# --- schools, both ways ---


def ahead(name: str, on: AdviceContext) -> tuple[str, bool]:
    """The answer that is ahead, and whether it matters."""
    answer = next(iter(schools_of(on, name)))
    best = min(answer.lines, key=lambda line: line.behind)
    return plain(best.title), "does not matter" not in plain(answer.words)


PINE = charge(boards("eastern-white-pine", 25.4, rule_m3(THIN, 0.6), start="green-sap"))
GREY = usual(date(2025, 11, 5), 14)


def both(name: str, one: AdviceContext, other: AdviceContext) -> tuple[str, str]:
    return ahead(name, one)[0], ahead(name, other)[0]


def test_tilt_flat_in_june_and_steep_in_december():
    kiln = THIN.with_(**ROOMY)
    june, december = both("tilt", context(kiln, PINE), context(kiln, PINE, clear(DECEMBER, 14), DECEMBER))
    assert june != december


def test_one_skin_or_two():
    """Two keep heat in; under thick old glass the second costs more sun than it saves, on a charge that keeps everything cool."""
    dim = TIGHT.cover.model_copy(update={"material": "corrugated-grp", "thickness_m": 0.004, "layers": 2})
    cool = context(THIN.with_(cover=dim), PINE, clear(date(2025, 7, 1), 14), date(2025, 7, 1))
    assert ahead("skins", context(THIN, PINE, GREY, date(2025, 11, 5))) == ("2 skins", True)
    assert ahead("skins", cool) == ("1 skin", True)


def test_bare_walls_or_insulated():
    assert ahead("breathing", context(THIN, DRY_PINE, GREY, date(2025, 11, 5)))[0] == "insulated and tight"
    oak = context(TIGHT.with_(dirt_share=0.6, frame_share=0.6), DRY_PINE, usual(date(2025, 7, 5), 14), date(2025, 7, 5))
    assert ahead("breathing", oak)[0] == "bare boards that breathe"


def test_vents_shut_early_or_open():
    assert ahead("early-vents", context(VENTED, PINE)) == ("wide open", True)
    assert ahead("early-vents", context(VENTED, DRY_PINE))[0] == "vents shut"


def test_fans_by_day_or_by_night_too():
    damp = context(VENTED.with_(fan=KilnFan()), DRY_PINE, GREY, date(2025, 11, 5))
    assert ahead("night-fans", context(THIN, PINE))[0] == "day and night"
    assert ahead("night-fans", damp)[0] != "day and night"


def test_one_thickness_or_mixed():
    two = charge(
        boards("eastern-white-pine", 25.4, 0.3, start="green-sap"), boards("white-oak", 50.8, 0.3, start="air-dried")
    )
    other = charge(
        boards("eastern-white-pine", 25.4, 0.3, start="air-dried"), boards("scots-pine", 50.8, 0.3, start="green-sap")
    )
    thin_first, thick_first = both("mixed", context(THIN, two), context(THIN, other))
    assert "white pine" in thin_first
    assert "Scots pine" in thick_first


def test_clear_roof_or_opaque():
    assert ahead("clear-roof", context(THIN, PINE)) == ("clear roof over a dark baffle", True)
    blind = context(
        TIGHT.with_(dirt_share=0.6, frame_share=0.6), DRY_PINE, usual(date(2025, 7, 5), 14), date(2025, 7, 5)
    )
    assert ahead("clear-roof", blind) == ("opaque dark roof", True)


def test_black_inside_or_pale():
    """Pale is kinder where black drives boards over their safe rate."""
    assert ahead("inside-colour", context(THIN, PINE)) == ("black inside", True)
    few = charge(boards("white-oak", 25.4, 0.08, start="green-heart"))
    assert ahead("inside-colour", context(TIGHT, few))[0] == "pale inside"


def test_what_goes_faster_than_is_safe_counts_against_it():
    few = charge(boards("white-oak", 25.4, 0.08, start="green-heart"))
    run = ran(TIGHT, few, clear(JUNE, 4))
    group = found(few, run).groups[0]
    assert group.worst_loss > 1.5 * group.safe_per_day
    lost = few.groups[0].dry_kg * (group.start_mc - group.end_mc)
    assert score(few, run, 0.0) < lost / 4.0


# --- sayings, both ways ---


def ruling(name: str, on: AdviceContext) -> str:
    return next(line.ruling for line in sayings_of(on) if line.name == name)


def test_two_kelvin_warmer_dries_in_summer_and_stops_short_in_winter():
    assert ruling("two-kelvin", context(THIN, POPLAR)) == "holds"
    assert (
        ruling(
            "two-kelvin", context(THIN, charge(boards("poplar", 27.0, 0.5, target_mc=0.06)), GREY, date(2025, 11, 5))
        )
        == "holds partly"
    )


def test_a_kiln_halves_the_time_of_some_and_not_of_others():
    airy = context(TIGHT, charge(boards("sweet-chestnut", 54.0, 0.4, start="air-dried")))
    assert ruling("kiln-halves", airy) in ("holds", "holds partly")
    full = charge(boards("scots-pine", 25.4, 1.3, start="green-sap"), outside={"wind_share": 0.9})
    assert ruling("kiln-halves", context(THIN.with_(fan=None), full)) == "wrong"


def test_a_year_for_each_inch_is_right_for_thick_oak_and_wrong_for_pine():
    thick = charge(boards("white-oak", 76.0, 0.4, start="green-heart"))
    assert ruling("inch-a-year", context(THIN, thick, GREY, date(2025, 11, 5))) in ("holds", "holds partly")
    assert ruling("inch-a-year", context(THIN, PINE)) == "wrong"


def test_gaps_are_vents_enough_where_they_gape_and_not_where_it_is_tight():
    gaping = VENTED.with_(leak_cm2=900.0)
    assert ruling("gaps-are-vents", context(gaping, DRY_PINE)) in ("holds", "does not matter here")
    tight = VENTED.with_(leak_cm2=2.0, vents=KilnVents(low_cm2=1500.0, high_cm2=1500.0, open_share=0.3))
    assert ruling("gaps-are-vents", context(tight, PINE)) in ("wrong", "holds partly")


# --- cautions ---


def said(build: LumberKiln, load: LumberCharge | None, first: date = JUNE) -> list[str]:
    case = case_of(build, load, first, 1)
    outcome, _ = forecast(case, clear(first, 1))
    return [f"{flag.level}: {plain(flag.text)}" for flag in outcome.flags]


def test_a_cold_kiln_does_not_warn_of_heat_and_a_dry_one_not_of_mould():
    winter = " ".join(said(THIN.with_(dirt_share=0.6, frame_share=0.6, outer="pale-paint"), DRY_PINE, DECEMBER))
    assert "heat exhaustion" not in winter
    damp = " ".join(said(THIN.opened(0.0), charge(boards("scots-pine", 27.0, 1.3, start="green-sap"))))
    assert "mould" in damp
    assert "mould" not in winter
    cover = " ".join(said(THIN, charge(boards("poplar", 27.0, 0.5), weights_kg_m2=80.0)))
    assert "none slides off" in cover
