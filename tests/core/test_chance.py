"""Many made-up years: the same again, figures from the first year on, and no year more than somebody waits for."""

from __future__ import annotations

import calendar
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import date
from itertools import islice

import numpy as np
import pytest

from drylamp.core.advice.chance import chance, so_far
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import YearAsked
from drylamp.core.advice.meal import done_at
from drylamp.core.advice.registry import advice_of_load
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.years import FromFile
from drylamp.core.text import plain
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import prepare
from drylamp.demo.scenario import FIG_DRYER, FIGS, OVEN, PLUNGE_TUB, STEW, TERRACE, TUB_FRAME
from tests.core.kilns import VENTED, boards, charge

DAY = date(2025, 6, 12)
PINE = charge(boards("eastern-white-pine", 25.4, 0.6, start="measured", start_mc=0.9, target_mc=0.12))


def context(build=VENTED, load=PINE, site=TERRACE) -> AdviceContext:
    case = usual_case(site, None, build, load, DAY)
    return AdviceContext(case, weather_for(case))


def test_a_charge_by_chance_is_the_same_again_and_begins_with_its_middle_tree():
    one, again = (list(chance(context(), 5)) for _ in range(2))
    assert [step.share for step in one] == pytest.approx([0.2, 0.4, 0.6, 0.8, 1.0])
    assert one[-1].answer == again[-1].answer
    assert one[0].answer.members == one[-1].answer.members[:1]
    members = [m for m in one[-1].answer.members if m is not None]
    assert len(members) == 5
    assert members[0] < max(members), "not the slowest tree"
    assert "days until all of it is dry, from 12 June" in plain(one[-1].answer.words)


def test_quantiles_are_those_of_the_years_and_never_counts_as_late():
    asked = YearAsked("days until it is dry", "count", lambda year: None)
    never = so_far(asked, [None, None], 2)
    assert never.never == 1.0
    assert (never.low, never.likely, never.high) == (None, None, None)
    assert "In 100 of 100 it is not done as far as the twin looks" in plain(never.words)
    mixed = so_far(asked, [12.0, None, 10.0, 30.0, 14.0], 30)
    assert (mixed.low, mixed.likely, mixed.high) == (10.0, 14.0, None)
    assert mixed.never == pytest.approx(0.2)
    assert mixed.years == 30
    whole = so_far(asked, [float(k) for k in range(1, 11)], 10)
    assert (whole.low, whole.high) == (1.0, 10.0)


def test_daily_loads_count_days_of_a_year():
    found = next(iter(chance(context(OVEN, STEW), 2))).answer
    assert found.quantity == "count"
    assert 100 < (found.members[0] or 0) <= 365
    assert "days of a year" in plain(found.words)


@pytest.mark.parametrize(("build", "load", "counts"), [(FIG_DRYER, FIGS, "days until"), (TUB_FRAME, PLUNGE_TUB, "how well")])  # fmt: skip
def test_batches_and_what_stands_have_an_answer_too(build, load, counts: str):
    assert advice_of_load(load).year is None, "nobody names them; their calendar says what to count"
    found = next(iter(chance(context(build, load), 1))).answer
    assert plain(found.counts).startswith(counts)
    assert found.members[0] is None or np.isfinite(found.members[0])


def test_stopping_runs_no_more_than_two_years_ahead():
    ran: list[int] = []
    on = context()
    own = advice_of_load(PINE).year
    assert own is not None
    asked = own(on, PINE)
    from drylamp.core.advice import chance as machine

    def member(year: int) -> float | None:
        ran.append(year)
        return asked.member(year) if year < 1 else 1.0

    assert list(islice(machine._members(member, 100), 3)) is not None
    assert max(ran) <= 3


@pytest.mark.parametrize(("years", "said"), [(0, "allowed are 1 to 200"), (500, "allowed are 1 to 200")])
def test_too_many_years_are_refused(years: int, said: str):
    with pytest.raises(InputProblem, match=said):
        next(chance(context(), years))


def test_an_empty_build_and_a_place_without_clearness_are_refused():
    with pytest.raises(InputProblem, match="put something in first"):
        next(chance(context(load=None), 2))
    months = [month.model_copy(update={"clearness": None}) for month in TERRACE.months]
    dim = TERRACE.model_copy(update={"climate": months})
    with pytest.raises(InputProblem, match="no monthly clearness"):
        next(chance(context(site=dim), 2))


# --- years of a weather file ---


def of_file(years: int = 3):
    records = made_up_weather(TERRACE, date(2016, 1, 1), 366 * years + 2, seed=8)
    made = context(OVEN, STEW)
    return replace(made, measured=FromFile(TERRACE, records))


def test_a_files_years_are_counted_as_it_holds_them_and_called_so():
    on = of_file()
    found = list(chance(on, 30))[-1].answer
    assert found.years == len(found.members) == 3
    assert "Over 3 years of the file" in plain(found.words)
    mine = sum(
        calendar.monthrange(2025, month)[1]
        for month in range(1, 13)
        if done_at(prepare(on.case, on.years.day(date(2025, month, 15), 1)).run(), STEW) is not None
    )
    assert found.members[1] == mine


def test_a_place_without_clearness_has_chances_by_a_file():
    bare = TERRACE.model_copy(update={"climate": [m.model_copy(update={"clearness": None}) for m in TERRACE.climate]})
    case = usual_case(bare, None, OVEN, STEW, DAY)
    on = AdviceContext(case, weather_for(case))
    with pytest.raises(InputProblem, match="bring a weather file"):
        list(chance(on, 2))
    records = made_up_weather(TERRACE, date(2018, 1, 1), 367, seed=8)
    with_file = replace(on, measured=FromFile(bare, records))
    assert len(list(chance(with_file, 5))[-1].answer.members) == 1


def test_an_executor_of_ones_own_gives_the_same():
    with ThreadPoolExecutor(1) as one:
        mine = list(chance(context(OVEN, STEW), 4, one))[-1].answer
    assert mine == list(chance(context(OVEN, STEW), 4))[-1].answer


def test_a_year_with_a_hole_in_it_is_none():
    records = made_up_weather(TERRACE, date(2018, 1, 1), 800, seed=8)
    keep = np.ones(len(records.time_s), dtype=bool)
    keep[100:130] = False
    holed = replace(records, **{name: getattr(records, name)[keep] for name in ("time_s", "ghi_w_m2", "air_c", "rh", "wind_m_s")}, dni_w_m2=None, dhi_w_m2=None, pressure_pa=None, rain_mm_h=None)  # fmt: skip
    assert [year for year, _ in FromFile(TERRACE, holed).whole] == [2019]
