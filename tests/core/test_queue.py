"""Stacks that wait: what goes in when, what stays outside, what the months can do; and what is refused in a sentence."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta
from functools import cache

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import Queue, QueueLine
from drylamp.core.builds.kiln.spec import Door
from drylamp.core.builds.sheet import Around
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.heat.cells import SHARES
from drylamp.core.loads.common.wood import equilibrium_mc
from drylamp.core.loads.lumber.questions.dried import as_doubtful, days_to_dry, dry_in
from drylamp.core.loads.lumber.questions.queue import Planner, charges_in_a_year, queue, with_lowest
from drylamp.core.loads.lumber.sheets.waiting import WAITING, Waiting, stands_at, stands_mc
from drylamp.core.loads.lumber.store import regained
from drylamp.core.long import Step
from drylamp.core.sky.of_span import spells, usual_year
from drylamp.core.text import plain
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import TERRACE
from tests.core.kilns import POPLAR, VENTED, boards, charge

pytestmark = pytest.mark.xdist_group("queue")
"""One plan serves them all."""
TODAY = date(2025, 6, 12)
KILN = VENTED


def stack(name: str, **more: object) -> Waiting:
    return Waiting.model_validate({"name": name, "species": "poplar", "thickness_mm": 27.0, "width_mm": 150.0, "length_m": 3.0, "wood_m3": 0.5, "sawn_on": "2025-04-20"} | more)  # fmt: skip


SOON = stack("soon", wanted_by="2025-08-01")
LATER = stack("later", species="eastern-white-pine", sawn_on="2025-05-20")
RAILS = stack("rails", use="outdoors", sawn_on="2025-02-01")


def around(*stacks: Waiting) -> Around:
    return Around(TERRACE, TODAY, others={WAITING.name: list(stacks)})


@cache
def context(load=POPLAR) -> AdviceContext:
    case = usual_case(TERRACE, None, KILN, load, TODAY)
    return AdviceContext(case, weather_for(case))


def steps(*stacks: Waiting) -> Iterator[Step[Queue]]:
    return queue(context(), POPLAR, around(*stacks))


@cache
def planned() -> tuple[list[float], Queue]:
    found = list(steps(LATER, RAILS, SOON))
    return [step.share for step in found], found[-1].answer


def line(name: str) -> QueueLine:
    return next(line for line in planned()[1].lines if line.stack == name)


def test_it_goes_on_step_by_step_and_says_at_once_how_each_stack_stands():
    shares, _ = planned()
    assert shares == sorted(shares)
    assert shares[-1] == 1.0
    first = next(steps(SOON, RAILS)).answer
    assert [one.stack for one in first.lines] == ["soon", "rails"]
    assert all(0.08 < one.now_mc < 1.0 for one in first.lines)
    assert "being worked out" in plain(first.words)


def test_what_is_wanted_soonest_goes_in_first_and_what_dries_outside_stays_there():
    assert (line("soon").place, line("later").place, line("rails").place) == (1, 2, None)
    assert line("soon").goes_in == TODAY
    assert line("later").goes_in is not None
    assert line("soon").dry_on is not None
    assert line("later").goes_in >= line("soon").dry_on + timedelta(days=1), "emptied and filled in between"
    words = plain(planned()[1].words)
    assert "First soon, then later" in words
    assert "Rails may stay outside" in words
    assert line("rails").dry_outside is not None
    assert "Stays outside" in plain(line("rails").words)


def test_a_stack_outside_stands_where_the_twin_of_that_stack_stands():
    assert line("soon").now_mc == pytest.approx(stands_mc(TERRACE, SOON, TODAY), abs=1e-4)
    earlier = stands_mc(TERRACE, SOON, TODAY - timedelta(days=20))
    assert earlier > line("soon").now_mc
    read = SOON.model_copy(update={"measured_mc": 0.40, "measured_on": TODAY})
    assert stands_mc(TERRACE, read, TODAY) == pytest.approx(0.40), "what was read today counts"


def test_dates_hold_when_the_plan_is_run_again_in_other_seasons():
    """Proposals run once more through the twin keep their dates within their doubt, give or take the days between two seeds."""
    for name in ("soon", "later"):
        one = line(name)
        assert one.goes_in is not None
        assert one.early is not None
        assert one.late is not None
        assert one.early <= one.late
        its = SOON if name == "soon" else LATER
        planner = Planner(context(), [its], TODAY, POPLAR)
        cells = stands_at(TERRACE, its, one.goes_in)
        case = context().case.with_(load=planner.charge(its, 1.0, cells.tolist()))
        held = 0
        for member in range(4):
            days = days_to_dry(as_doubtful(case, member), one.goes_in, 5000 + member)
            assert days is not None
            done = one.goes_in + timedelta(days=round(days))
            slack = timedelta(days=2 + round(0.25 * (one.late - one.early).days))
            held += one.early - slack <= done <= one.late + slack
        assert held >= 3


def test_month_by_month_it_is_the_same_twin_as_over_one_stretch():
    """Spells that go on from one another against one run: alike to a day."""
    case = context().case.with_(
        load=charge(boards("poplar", 27.0, 0.7, start="measured", start_mc=0.5, target_mc=0.10))
    )
    by_spells = days_to_dry(case, date(2001, 3, 10))
    assert by_spells is not None
    assert by_spells > 20.0, "more than one spell"
    span, weather = next(spells(TERRACE, date(2001, 3, 10), date(2001, 6, 1), 41, 75))
    whole = dry_in(case.with_(span=span), weather).days
    assert whole == pytest.approx(by_spells, abs=1.5), "the chamber's air is begun anew each month, the boards are not"


def test_spells_are_pieces_of_one_usual_year_and_never_cross_new_year():
    pieces = list(spells(TERRACE, date(2025, 11, 20), date(2026, 2, 1), 41, 30))
    assert sum(span.days for span, _ in pieces) == 73
    assert all(span.start.year == 2001 for span, _ in pieces)
    assert all(weather.steps == span.days * 288 for span, weather in pieces)
    year = usual_year(TERRACE, 41)
    first = pieces[0][1]
    at = round((first.start_s - year.start_s) / 300)
    assert np.array_equal(first.air_c, year.air_c[at : at + first.steps])


def test_winter_is_slower_than_summer_and_is_said():
    months = {month.month: month for month in planned()[1].months}
    days = {k: 999.0 if m.days is None else m.days for k, m in months.items()}
    assert days[12] > 2.0 * days[7]
    assert max(m.charges_a_year for m in months.values()) > 5.0
    assert "In from November to January" in plain(planned()[1].winter)
    assert "standing outside first saves" in plain(planned()[1].air_first)
    assert "Saw for it" in plain(planned()[1].next_sawn)


@pytest.mark.parametrize(("days", "expected"), [([28.0] * 12, 365.0 / 30.0), ([363.0] * 6, 1.0)])
def test_charges_in_a_year_of_even_months(days: list[float], expected: float):
    assert charges_in_a_year(days, 0) == pytest.approx(expected, rel=1e-6)


def test_a_start_before_summer_gives_no_fewer_charges_than_the_winter_alone():
    days = [90.0, 60.0, 40.0, 30.0, 25.0, 20.0, 18.0, 20.0, 30.0, 60.0, 90.0, 110.0]
    assert 365.0 / 112.0 < charges_in_a_year(days, 3) < 365.0 / 20.0


def test_a_target_under_what_the_air_can_do_says_the_lowest_and_when():
    shady = KILN.opened(1.0).with_(fan=None, baffle=None, lining="pale-paint", dirt_share=0.6)
    case = usual_case(TERRACE, None, shady, POPLAR, TODAY)
    planner = Planner(AdviceContext(case, weather_for(case)), [SOON], TODAY, POPLAR)
    never = line("soon").model_copy(update={"dry_on": None, "target_mc": 0.04, "words": "It is never dry."})
    slow = never.model_copy(update={"target_mc": 0.20})
    told, only_slow, fine = with_lowest(planner, [never, slow, line("later")])
    words = plain(told.words)
    assert "The driest fortnight of its air, about" in words
    assert "nothing lower can be had here without heat" in words
    assert plain(only_slow.words) == "It is never dry.", "its target could be had, it only takes long"
    assert fine == line("later")


def test_a_stack_larger_than_the_kiln_goes_in_in_parts():
    planner = Planner(context(), [SOON], TODAY, POPLAR)
    assert planner.parts(SOON) == 1
    assert planner.parts(SOON.model_copy(update={"wood_m3": 4.0})) > 1


def test_boards_longer_than_kiln_or_opening_are_refused_with_what_to_do():
    long = SOON.model_copy(update={"length_m": 6.0})
    with pytest.raises(InputProblem, match="cut them, or choose a longer kiln"):
        Planner(context(), [long], TODAY, POPLAR).parts(long)
    narrow = KILN.with_(door=Door(way="rear-wall", wide_m=2.0))
    from drylamp.core.builds.registry import kind_of

    with pytest.raises(InputProblem, match="the opening in the rear wall is"):
        kind_of(narrow).check_fit(narrow, POPLAR)
    by_end = narrow.with_(door=Door(way="end-door", wide_m=0.9))
    kind_of(by_end).check_fit(by_end, POPLAR)


def test_a_kiln_that_is_full_is_free_when_its_charge_is_dry_and_it_is_emptied():
    load = charge(boards("poplar", 27.0, 0.4, start="measured", start_mc=0.2, target_mc=0.12), already_in=True)
    case = usual_case(TERRACE, None, KILN, load, TODAY)
    found = queue(AdviceContext(case, weather_for(case)), load, around(SOON))
    next(found)
    free = next(found).answer.kiln_free
    assert TODAY + timedelta(days=3) <= free <= TODAY + timedelta(days=20)
    beam = charge(boards("european-oak", 140.0, 0.4, start="green-heart", target_mc=0.06), already_in=True)
    never = usual_case(TERRACE, None, KILN, beam, TODAY)
    *_, last = queue(AdviceContext(never, weather_for(never)), beam, around(RAILS))
    assert last.answer.kiln_free == TODAY + timedelta(days=210)
    assert "What is in the kiln now is not dry within 210 days" in plain(last.answer.words)


def test_nothing_waits_and_too_much_waits():
    with pytest.raises(InputProblem, match="no stack waits"):
        next(steps())
    with pytest.raises(InputProblem, match="up to 6 are planned"):
        next(steps(*(stack(f"s{k}") for k in range(7))))


@pytest.mark.parametrize(
    ("more", "said"),
    [
        ({"use": "other"}, "say to how much moisture"),
        ({"measured_mc": 0.3}, "give both or none"),
        ({"measured_mc": 0.3, "measured_on": "2025-01-01"}, "when it was sawn"),
        ({"measured_mc": 3.0, "measured_on": "2025-06-01"}, "2.6"),
        ({"species": "unobtainium"}, "unobtainium"),
    ],
)
def test_stacks_that_cannot_be_are_refused(more: dict, said: str):
    with pytest.raises((ValidationError, InputProblem), match=said):
        stack("x", **more)


def test_stacks_of_the_future_of_long_ago_and_of_one_name_are_refused():
    with pytest.raises(InputProblem, match="was sawn by today"):
        WAITING.check(stack("x", sawn_on="2025-07-01"), [], around())
    with pytest.raises(InputProblem, match="up to three years"):
        WAITING.check(stack("x", sawn_on="2021-07-01"), [], around())
    with pytest.raises(InputProblem, match="there is a stack 'soon'"):
        WAITING.check(SOON, [SOON], around())


def test_dry_boards_in_store_go_towards_the_air_of_their_place():
    heated, damp = list(regained(TERRACE, 0.08))
    assert abs(heated[1]) < 0.004, "a heated room keeps them"
    assert heated[2] == pytest.approx(equilibrium_mc(20.0, 0.42))
    assert 0.003 < damp[1] < 0.03
    assert damp[2] > 0.12
    dry, wet = (list(regained(TERRACE, start))[1][1] for start in (0.06, 0.13))
    assert dry > wet


def test_sizes_are_said_for_what_is_to_be_planed():
    first = next(steps(stack("treads", planed_thick_mm=24.0, planed_wide_mm=120.0))).answer
    said = plain(first.sizes[0])
    assert "24 mm by 120 mm planed wants" in said
    assert "too thin" in said, "27 mm boards shrink and are planed"
    assert float(SHARES.sum()) == pytest.approx(1.0)
