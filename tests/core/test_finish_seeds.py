"""The finish after each reading: its nine cases in ten hold the truth about nine times in ten, and narrow as readings come."""

from __future__ import annotations

from datetime import date
from functools import cache

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.loads.lumber.figures.dry_by import METER_SHARE, SHARED_SHARE
from drylamp.core.loads.lumber.outcome import kept_of
from drylamp.core.loads.lumber.spec import PRIOR_SD
from drylamp.core.sky.of_span import usual_weather_of
from drylamp.core.sky.weather import Span
from drylamp.core.trials.narrowed import Told, factors, weighed
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case, climate_day
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import TERRACE
from tests.core.kilns import TIGHT, boards, charge

BEGAN, DAYS, SEEDS = date(2025, 5, 20), 90, 100
READ_ON = (3, 7, 10, 14, 17, 21)
LOAD = charge(boards("european-oak", 27.0, 0.5, start="measured", start_mc=0.30, target_mc=0.10))
PER_DAY, HOURLY = 288, 12


@cache
def curves() -> tuple[Array, Array]:
    """Mean moisture by the step under each factor that the verdict runs, shape (factors, steps), and days."""
    span = Span(start=BEGAN, days=DAYS, step_s=300)
    weather = usual_weather_of(TERRACE, span, 41)
    group, rows = LOAD.numbered[0], []
    for factor in factors(PRIOR_SD):
        case = Case(site=TERRACE, build=TIGHT, load=LOAD, weather=climate_day(TERRACE, BEGAN), span=span, calibration=Calibration(parts={"drying": float(factor)}))  # fmt: skip
        kept = kept_of(group, simulate(case, weather))
        assert kept is not None
        rows.append(kept.mean)
    return np.array(rows), np.arange(len(rows[0])) / PER_DAY


@cache
def fine_curves() -> Array:
    """The same under each of the finer row of factors, by the hour."""
    return weighed(PRIOR_SD, []).between(curves()[0][:, ::HOURLY])


@cache
def done_days() -> Array:
    """Day on which it is dry under each of them."""
    dry = fine_curves() <= LOAD.groups[0].target_mc
    return np.where(dry.any(axis=1), np.argmax(dry, axis=1) / 24.0, DAYS + 1.0)


@cache
def seeded(seed: int) -> tuple[float, list[tuple[float, float]]]:
    """The day on which it really is dry, and the interval after each reading; errors of single readings and one that all share, as the verdict takes them to be."""
    random = np.random.default_rng(seed)
    means, _ = curves()
    prior = weighed(PRIOR_SD, [])
    log = float(np.clip(PRIOR_SD * random.standard_normal(), prior.fine[0], prior.fine[-1]))
    nearest = int(np.argmin(np.abs(prior.fine - log)))
    truth = fine_curves()[nearest]
    shared = SHARED_SHARE * random.standard_normal()
    told, ends = list[Told](), list[tuple[float, float]]()
    for day in READ_ON:
        twin, true = means[:, day * PER_DAY], float(truth[day * 24])
        shown = true * (1.0 + shared + METER_SHARE * random.standard_normal())
        told.append(Told(twin, shown, METER_SHARE * shown, SHARED_SHARE * shown))
        by = weighed(PRIOR_SD, told)
        found = by.summed(done_days(), float(DAYS + 2))
        assert found.low_s is not None
        assert found.high_s is not None
        ends.append((found.low_s, found.high_s))
    return float(done_days()[nearest]), ends


def test_nine_cases_in_ten_are_about_nine_in_ten_after_every_reading():
    found = [seeded(seed) for seed in range(SEEDS)]
    for k in range(len(READ_ON)):
        held = sum(ends[k][0] <= truth <= ends[k][1] for truth, ends in found)
        assert 82 <= held <= 97, f"after reading {k + 1}: {held} of {SEEDS}"


def test_each_reading_narrows_it():
    widths = np.array([[high - low for low, high in seeded(seed)[1]] for seed in range(SEEDS)])
    mean = widths.mean(axis=0)
    assert (np.diff(mean) < 0.0).all(), mean
    before = done_days()
    assert mean[-1] < 0.7 * (np.quantile(before, 0.95) - np.quantile(before, 0.05))
