"""Air between cylinders and light in sleeves, against published values and limits."""

from __future__ import annotations

import math

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.builds.common.round.links import annulus, between_cylinders
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sleeved_tubes.optics import PIECES, SleeveOptics
from drylamp.core.builds.sleeved_tubes.spec import Bottles, SleevedTubes
from drylamp.core.engine import weather_for
from drylamp.core.heat.laws import annulus_w_k
from drylamp.core.loads.common.draws import Running
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.weather import Span
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import PERGOLA_BARREL, PERGOLA_TUBES, SOUTHERN, TERRACE

LEVEL = SleevedTubes(facing_deg=180.0, tilt_deg=0.0, rows=1, lit_m=1.0, ends_m=0.0, bottles=Bottles(card=None))


def test_annulus_is_raithby_and_hollands():
    """Incropera & DeWitt, example 9.5: a tube of 0.1 m at 120 °C in a shield of 0.12 m at 35 °C loses 100 W a metre by convection (from memory)."""
    watts = annulus_w_k(*annulus(1.0, 0.1, 0.12), 120.0, 35.0, 101325.0) * 85.0
    assert watts == pytest.approx(100.0, rel=0.06)


def test_a_narrow_annulus_only_conducts():
    """Two millimetres of air: 2 π k / ln(D₂/D₁)."""
    g = annulus_w_k(*annulus(1.0, 0.020, 0.024), 40.0, 30.0, 101325.0)
    assert g == pytest.approx(2 * math.pi * 0.0268 / math.log(1.2), rel=0.02)


def test_concentric_cylinders_shine_as_the_formula():
    assert between_cylinders(0.9, 0.9, 1.0) == pytest.approx(1 / (1 / 0.9 + 1 / 0.9 - 1))
    assert between_cylinders(0.5, 0.9, 0.0) == pytest.approx(0.5)


def areas(build: SleevedTubes, direction: np.ndarray) -> np.ndarray:
    return SleeveOptics.of(build, None).absorbed_m2(np.atleast_2d(direction))[0][0]


def test_a_bare_thin_sleeve_lets_the_tube_take_its_width():
    """Square on, a black tube takes D L times what two faces of PET let through: (1 − ((n − 1)/(n + 1))²)² to first order, n 1.57."""
    tube = areas(LEVEL.with_(finish="super-black-paint"), np.array([0.0, 0.0, 1.0]))[:PIECES].sum()
    once = 1 - (0.57 / 2.57) ** 2
    through = once * once * math.exp(-120 * 0.0003)
    alpha = LEVEL.with_(finish="super-black-paint").row.absorptance
    assert tube == pytest.approx(0.025 * through * alpha, rel=0.02)


def test_light_along_the_tube_is_lost_and_across_it_is_not():
    """Towards its end a tube shows nothing; across it a cylinder is as wide at 60° as at noon."""
    up, side, along = (
        np.array([0, 0, 1.0]),
        np.array([math.sin(1.0), 0, math.cos(1.0)]),
        np.array([0, math.sin(1.5), math.cos(1.5)]),
    )
    square, across, end_on = (areas(LEVEL, d)[:PIECES].sum() for d in (up, side, along))
    assert across == pytest.approx(square, rel=0.02)
    assert end_on < 0.12 * square


def test_rows_shade_one_another_low_over_their_side():
    close = LEVEL.with_(rows=20, pitch_mm=90.0)
    low = np.array([math.sin(1.45), 0.0, math.cos(1.45)])
    per_row = areas(close, low).sum() / 20
    alone = areas(LEVEL, low).sum()
    assert per_row < 0.35 * alone


def test_what_is_taken_up_is_never_more_than_meets_it():
    rng = np.random.default_rng(3)
    directions = rng.normal(size=(200, 3))
    directions /= np.linalg.norm(directions, axis=1)[:, None]
    for build in (PERGOLA_TUBES, PERGOLA_TUBES.with_(joined="series"), LEVEL):
        parts, met = SleeveOptics.of(build, None).absorbed_m2(directions)
        assert (parts >= -1e-12).all()
        assert (parts.sum(axis=1) <= met + 1e-12).all()
        below = directions @ plane_axes(build.tilt_deg, build.facing_deg)[2] < 0
        assert (parts[below].sum(axis=1) == 0).all()


def ran(build, load, site=TERRACE, day="2025-06-12", days=1):
    from datetime import date

    begins = date.fromisoformat(day)
    case = usual_case(site, None, build, load, begins).with_(span=Span(start=begins, days=days, step_s=60))
    run = simulate(case, weather_for(case))
    assert run.energy_closure < 1e-9
    return run


RUNS = RunningWater(running=[Running(begins="09:00", ends="17:00", l_min=1.0)], mains_c=15.0)


def kilowatt_hours(run) -> float:
    return float(run.carried_w("water").sum()) * 60.0 / 3.6e6


def test_bottles_are_worth_most_in_the_cold():
    """In a cool spring wind the same tubes without bottles give far less; a bottle is a glazing."""
    sleeved = ran(PERGOLA_TUBES, RUNS, day="2025-03-12")
    thin = PERGOLA_TUBES.with_(bottles=Bottles(card=None))
    assert kilowatt_hours(sleeved) > kilowatt_hours(ran(thin, RUNS, day="2025-03-12"))
    assert float(np.nanmax(ran(PERGOLA_TUBES, None).temperature_c["tube-12"])) > 45.0


def test_both_hemispheres():
    north = kilowatt_hours(ran(PERGOLA_TUBES, RUNS))
    south = kilowatt_hours(ran(PERGOLA_TUBES.with_(facing_deg=0.0), RUNS, SOUTHERN, "2025-12-12"))
    assert south == pytest.approx(north, rel=0.25)


def test_the_pergolas_barrel_runs_backwards_at_night_until_it_is_raised_or_has_a_valve():
    """A barrel beside the tubes' foot is colder in the morning than one that stands over them, or than one with a check valve."""
    found = {}
    for name, change in (("low", {}), ("raised", {"above_m": 1.3}), ("valve", {"check_valve": True})):
        load = PERGOLA_BARREL.model_copy(update={"start_c": 36.0, "draws": [], **change})
        run = ran(PERGOLA_TUBES, load, days=2)
        found[name] = (float(run.circulated[LOOP].back_kg.sum()), float(run.temperature_c["water"][int(1.25 * 1440)]))
    assert found["low"][0] > 20.0
    assert found["valve"][0] == 0.0
    assert found["raised"][0] < 0.3 * found["low"][0]
    assert found["raised"][1] > found["low"][1]


def test_lengths_bottles_and_elbows_come_out_of_the_lit_length():
    build = SleevedTubes(facing_deg=180.0, rows=6, lit_m=1.2, ends_m=0.1, bottles=Bottles(covers_mm=250.0))
    assert (build.bottles_needed, build.elbows_needed, build.cut_m) == (30, 12, pytest.approx(1.4))
    snake = build.with_(joined="series")
    assert (snake.elbows_needed, snake.tube_m, snake.tubes) == (10, pytest.approx(8.4), 1)
    assert kind_of(build).made(build) == "6 tubes, 30 bottles"


def test_what_does_not_fit_is_refused_with_a_sentence():
    with pytest.raises(ValidationError, match="2 mm of air all round"):
        SleevedTubes(facing_deg=180.0, bottles=Bottles(diameter_mm=26.0), pitch_mm=60.0)
    with pytest.raises(ValidationError, match="or more"):
        SleevedTubes(facing_deg=180.0, pitch_mm=60.0)
