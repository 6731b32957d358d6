"""Loads that stay over nights, are taken in, stand for good, or are come to during the day."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from pydantic import Field

from drylamp.core.engine import forecast
from drylamp.core.loads.calendar import Calendar, Visit
from drylamp.core.loads.wax.spec import WaxBatch
from drylamp.core.sky.clock import instant_s
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.case import Case, usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.core.twin.schedule import step_at
from drylamp.demo.scenario import CAPPINGS, MELTER, TERRACE

FIRST = date(2025, 4, 2)
COOL = ClearDay(tmin_c=4, tmax_c=14, sky="broken")
SPAN = Span(start=FIRST, days=4, step_s=300)
WEATHER = weather_of(TERRACE, COOL, SPAN)
BIG = CAPPINGS.model_copy(update={"batch_kg": 4.2})
HEAP = "wax"


class Told(WaxBatch):
    """Wax that is handled as a test says."""

    told: Calendar
    drawn_kg: list[float] = Field(default_factory=list)

    @property
    def calendar(self) -> Calendar:
        return self.told

    def after(self, visit, now_c, mains_c):
        if visit.kind == "drawn":
            self.drawn_kg.append(visit.amount)
            return {HEAP: mains_c}
        return {}


def handled(**how) -> Told:
    return Told(**BIG.model_dump(), told=Calendar(**how))


def run_with(load: WaxBatch) -> Run:
    return simulate(case_with(load), WEATHER)


def case_with(load: WaxBatch) -> Case:
    return usual_case(TERRACE, None, MELTER, load, FIRST).with_(span=SPAN)


def at(run: Run, day: int, hour: str) -> int:
    return step_at(run.weather, instant_s(TERRACE.zone, date(2025, 4, day), hour))


def test_what_is_fresh_each_day_is_gone_at_midnight():
    heap = run_with(BIG).temperature_c[HEAP]
    for day in (3, 4, 5):
        morning = heap[at(run_with(BIG), day, "01:00") : at(run_with(BIG), day, "09:50")]
        assert np.isnan(morning).all()


def test_a_batch_lies_over_nights_and_goes_on_melting_where_it_was():
    run = run_with(BIG.model_copy(update={"stays": True}))
    heap, left = run.temperature_c[HEAP], run.mass_kg[HEAP]
    begun = at(run, 2, "10:00")
    there = ~np.isnan(heap)
    assert not there[:begun].any()
    assert there[begun : at(run, 3, "12:00")].all()
    assert (np.diff(left[there]) <= 1e-12).all(), "nothing is laid in again"
    midnight = at(run, 3, "00:00")
    assert abs(heap[midnight + 1] - heap[midnight]) < 2.0
    assert run.energy_closure < 1e-9


def test_a_batch_comes_out_once_it_has_run():
    sunny = weather_of(TERRACE, ClearDay(tmin_c=16, tmax_c=29), Span(start=date(2025, 6, 12), days=3, step_s=300))
    load = CAPPINGS.model_copy(update={"stays": True})
    run = simulate(usual_case(TERRACE, None, MELTER, load, date(2025, 6, 12)), sunny)
    caught, heap = run.mass_kg["catch"], run.temperature_c[HEAP]
    midnights = [step_at(sunny, instant_s(TERRACE.zone, date(2025, 6, day), "00:00")) for day in (13, 14)]
    done = next(step for step in midnights if load.is_done({"catch": caught[step]}))
    assert not np.isnan(heap[done - 1])
    assert np.isnan(heap[done + 1 :]).all()


def test_a_batch_that_stays_is_counted_once_in_the_outcome():
    outcome, _ = forecast(case_with(BIG.model_copy(update={"stays": True})), WEATHER)
    daily, _ = forecast(case_with(BIG), WEATHER)
    assert len(outcome.days) == len(daily.days) == 4
    assert outcome.energy_closure < 1e-9


def test_a_batch_taken_in_for_the_night_is_put_back_at_the_warmth_of_indoors():
    run = run_with(handled(kind="batch", taken_in="19:00", put_back="08:00", indoors_c=19.5))
    heap, left = run.temperature_c[HEAP], run.mass_kg[HEAP]
    for day in (3, 4):
        away, back = at(run, day, "19:00"), at(run, day + 1, "08:00")
        assert np.isnan(heap[away + 1 : back]).all()
        assert heap[back] == pytest.approx(19.5)
        assert left[back] == pytest.approx(left[away]), "what had run stays run"
    kinds = [visit.kind for _, visit in run.visits]
    assert kinds[:4] == ["taken-in", "put-back"] * 2
    assert run.energy_closure < 1e-9


def test_what_stands_is_there_from_the_first_step_to_the_last():
    run = run_with(handled(kind="standing"))
    heap = run.temperature_c[HEAP]
    assert not np.isnan(heap).any()
    assert heap[0] == BIG.fresh_c[HEAP]
    assert np.abs(np.diff(heap)).max() < 6.0, "no jump at any midnight"


def test_somebody_draws_from_it_and_opens_it_every_day():
    visits = (Visit("14:00", "drawn", 1.5), Visit("12:00", "opened"))
    load = handled(kind="standing", visits=visits)
    run, shut = run_with(load), run_with(handled(kind="standing"))
    assert load.drawn_kg == [1.5] * 4
    assert [visit.kind for _, visit in run.visits] == ["opened", "drawn"] * 4
    noon, two = at(run, 2, "12:00"), at(run, 2, "14:00")
    assert run.temperature_c["inside-air"][noon] == pytest.approx(WEATHER.air_c[noon])
    assert shut.temperature_c["inside-air"][noon] > WEATHER.air_c[noon] + 5
    assert run.temperature_c[HEAP][two] == pytest.approx(float(WEATHER.air_c.mean())), (
        "no mains here: the run's mean air"
    )
    assert run.energy_closure < 1e-9
