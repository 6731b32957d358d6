"""What a build lost by its own calibrations, and what mending that cost the last time."""

from __future__ import annotations

import re
from datetime import date

import numpy as np
import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.repairs import repairs
from drylamp.core.advice.worn import worn
from drylamp.core.builds.common.upkeep.sheet import Finding
from drylamp.core.builds.sheet import as_learnt
from drylamp.core.engine import weather_for
from drylamp.core.sky.weather import Span
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import OVEN, STEW, TERRACE

JUNE = date(2025, 6, 12)


def context(load=STEW) -> AdviceContext:
    case = usual_case(TERRACE, "terrace", OVEN, load, JUNE).with_(span=Span(start=JUNE, step_s=300))
    return AdviceContext(case, weather_for(case))


def learnt(*rows: tuple[date, dict[str, float]]):
    return [as_learnt(on, factors, {}, "trial") for on, factors in rows]


MAY, LAST_YEAR = date(2025, 5, 10), date(2024, 5, 4)
DULLER = learnt((LAST_YEAR, {"optical": 1.0}), (MAY, {"optical": 0.85}))
WASHED = Finding(on=date(2024, 9, 1), check="mirror", state="mended", price=12.0, work_hours=0.5)


def test_it_lost_what_the_twin_loses_and_says_what_to_look_at_and_what_that_cost():
    on = context()
    (words,) = worn(on, [WASHED], DULLER)
    ready = on.ready(OVEN, None)
    air = on.weather.air_c
    rise = [
        float(np.nanmax(ready.run(Calibration(optical=o), with_load=False).temperature_c["tray"][1:] - air))
        for o in (0.85, 1.0)
    ]
    (said,) = [float(found) for found in re.findall(r"⦃([\d.]+) share⦄", words)]
    assert said == pytest.approx(1.0 - rise[0] / rise[1], abs=1e-4)
    assert "since May 2024" in words
    assert "wash" in words
    assert "September 2024" in words
    assert "price" in words


def test_it_is_the_build_that_is_told_of_whatever_is_in_it():
    assert worn(context(None), [], DULLER) == worn(context(), [], DULLER)


def test_what_got_better_or_hardly_moved_is_not_spoken_of():
    assert worn(context(), [], learnt((LAST_YEAR, {"optical": 0.85}), (MAY, {"optical": 1.0}))) == []
    assert worn(context(), [], learnt((LAST_YEAR, {"optical": 1.0}), (MAY, {"optical": 0.995}))) == []
    assert worn(context(), [], DULLER[:1]) == []
    assert worn(context(), [], learnt((LAST_YEAR, {"loss": 1.0}), (MAY, {"optical": 0.8}))) == []


def test_the_worst_comes_first_and_stands_with_the_repairs():
    both = learnt((LAST_YEAR, {"optical": 1.0, "loss": 1.0}), (MAY, {"optical": 0.7, "loss": 1.6}))
    told = worn(context(), [], both)
    assert len(told) == 2
    shares = [float(re.search(r"⦃([\d.]+) share⦄", words)[1]) for words in told]
    assert shares == sorted(shares, reverse=True)
    found = repairs(context(), [], both)
    assert found.worn == told
    assert found.lines == []


@pytest.mark.parametrize("price", [0.0, 30.0])
def test_without_a_bill_no_price_is_made_up(price: float):
    row = WASHED.model_copy(update={"price": price, "work_hours": 0.0})
    (words,) = worn(context(), [row] if price else [], DULLER)
    assert ("September 2024" in words) == bool(price)
