"""What is asked of loops: when to start, the season won, hours of the pump, nights, a heater instead."""

from __future__ import annotations

from datetime import date

import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.registry import advice_of_load
from drylamp.core.advice.schools import schools_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.common.loop.questions import timer_year
from drylamp.core.loads.pool import questions
from drylamp.core.loads.pool.spec import OnWater, Pool
from drylamp.core.loads.tank.spec import LoopTank
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import GARDEN_POOL, PLUNGE_TUB, POOL_COIL, TERRACE, TUB_FRAME
from tests.posing import posed
from tests.wording import read

JUNE = date(2025, 6, 12)
DAY = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26, wind_m_s=2.0), Span(start=JUNE, step_s=300))


def on(build, load) -> AdviceContext:
    return AdviceContext(posed(TERRACE, None, build, load), DAY)


def test_a_tub_has_to_start_days_before_and_a_cover_lets_it_start_later():
    lidded = PLUNGE_TUB.model_copy(
        update={"on_water": OnWater(material="insulated-lid", on_at="19:00", off_at="11:00")}
    )
    bare = questions.ready_by(on(TUB_FRAME, PLUNGE_TUB), PLUNGE_TUB)
    kept = questions.ready_by(on(TUB_FRAME, lidded), lidded)
    assert len(kept.evenings) == questions.AHEAD_DAYS
    assert kept.evenings[-1].warmest_c > bare.evenings[-1].warmest_c + 1.0
    assert bare.days_to_warm is None
    assert "more to heat it, or a cover" in read(bare.words)
    saturday = next(row for row in kept.evenings if row.evening.weekday() == 5)
    assert saturday.latest is not None
    assert saturday.latest <= saturday.evening
    assert "it has to start on" in read(kept.words)
    warmest = [row.warmest_c for row in kept.evenings[:4]]
    assert warmest == sorted(warmest)


def test_the_latest_start_is_the_latest():
    """Begun a day later than told, the evening is missed; begun then, it is met."""
    load = GARDEN_POOL.model_copy(update={"warm_c": 27.0})
    context = on(POOL_COIL, load)
    told = questions.ready_by(context, load)
    row = next(row for row in told.evenings if row.latest is not None and row.latest.date() < row.evening.date())
    later = [r for r in told.evenings if r.latest is not None and r.evening < row.evening]
    assert row.warmest_c >= 27.0
    assert all(r.latest <= row.latest for r in later)


def test_the_season_is_longer_with_the_loop_and_longer_still_with_more(monkeypatch):
    monkeypatch.setattr(questions, "YEARS", 1)
    found = questions.season(on(POOL_COIL, GARDEN_POOL), GARDEN_POOL)
    mine = found.sizes[0]
    assert mine.days > found.without_days + 10
    assert mine.least <= mine.days <= mine.most
    assert found.sizes[1].days >= mine.days
    assert found.set_out is not None
    assert found.set_out < found.stow
    assert sum(m.with_loop for m in found.months) == pytest.approx(mine.days, abs=0.1)
    assert all(m.with_loop >= m.without - 0.4 for m in found.months)
    assert "Set it out about" in read(found.words)


def test_hours_of_the_pump_are_longer_in_summer_and_a_controller_does_about_as_well():
    found = timer_year(on(TUB_FRAME, PLUNGE_TUB), PLUNGE_TUB)
    assert found.quantity == "energy"
    june, december = found.months[5], found.months[11]

    def hours(month) -> int:
        return int(month.ends[:2]) - int(month.begins[:2])

    assert hours(june) > hours(december)
    assert all(month.best >= month.now - 0.05 for month in found.months)
    assert all(abs(month.switched - month.best) < 0.15 * max(abs(month.best), 2.0) for month in found.months)
    with pytest.raises(InputProblem, match="no pump"):
        timer_year(on(TUB_FRAME, LoopTank(pump=None)), LoopTank(pump=None))


def test_a_pump_by_night_sheds_more_than_an_open_surface_and_that_more_than_a_cover():
    found = questions.night_cooling(on(POOL_COIL, GARDEN_POOL), GARDEN_POOL)
    covered, opened, pumped = (line.shed_k for line in found.lines)
    assert 0.0 < covered < opened < pumped
    assert len({line.evening_c for line in found.lines}) == 1


def test_a_heater_claimed_for_a_day_would_boil_the_tub_and_the_page_says_so():
    asked = advice_of_load(PLUNGE_TUB).instead
    found = asked(on(TUB_FRAME, PLUNGE_TUB), PLUNGE_TUB, 6.0, 0.25)
    held = 700.0 * 4186.0 / 3.6e6
    assert found.boils_h == pytest.approx(held * (98.4 - 19.0) / 6.0, rel=0.01)
    assert "boiling" in read(found.words)
    assert found.heater_h == pytest.approx(found.heat_kwh / 6.0)
    assert found.saved == pytest.approx((found.heat_kwh - found.pump_kwh) * 0.25)
    large = asked(on(POOL_COIL, GARDEN_POOL), GARDEN_POOL, 3.0, 0.25)
    assert "boiling" not in read(large.words)


def test_a_loop_asks_nothing_of_what_has_none():
    assert advice_of_load(None).season is None
    assert advice_of_load(LoopTank()).season is None
    assert advice_of_load(LoopTank()).timer is not None
    assert advice_of_load(Pool()).ready_by is not None


def test_more_coils_are_needed_for_more_and_the_least_that_does_is_named(monkeypatch):
    monkeypatch.setattr(questions, "YEARS", 1)
    context = on(POOL_COIL, GARDEN_POOL)
    little, much = (questions.how_many(context, GARDEN_POOL, rise, 2) for rise in (0.5, 30.0))
    assert little.needed == 0
    assert read(little.lines[0].title) == "1 coil"
    gains = [line.warmer_k for line in much.lines]
    assert gains == sorted(gains)
    assert len(gains) >= 3
    assert much.needed is None
    assert "not even" in read(much.words)
    between = questions.how_many(context, GARDEN_POOL, (gains[0] + gains[1]) / 2, 2)
    assert between.needed == 1
    assert "takes 2 coils" in read(between.words)


def test_a_given_hose_is_laid_in_one_coil_or_several():
    school = next(iter(schools_of(on(POOL_COIL, GARDEN_POOL), "lay")))
    titles = [read(line.title) for line in school.lines]
    assert "1 coil of 200 m" in titles, titles
    assert len(titles) == 6
