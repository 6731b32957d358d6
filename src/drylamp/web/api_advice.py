"""Advice over the wire: the weakest link, schools, sayings, aiming, turning, meals, months and melts."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from flask import Response
from flask_openapi3 import APIBlueprint

from drylamp.core.advice.bench import Bench
from drylamp.core.advice.meal import MealPlan, YearPlan, meal_plan, stock_days, year_plan
from drylamp.core.advice.pointing import TurningCurve, flap_angles, pointing, turning_curve
from drylamp.core.advice.sayings import sayings_of
from drylamp.core.advice.schools import schools_of
from drylamp.core.advice.weakest import Weakest, weakest_link
from drylamp.core.builds.kinds import BUILD, kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_of
from drylamp.core.loads.load import AnyLoad, read_load
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import sun_path
from drylamp.core.sky.weather import Span
from drylamp.core.twin import Adjustments
from drylamp.store import calibrations, sites
from drylamp.web import context
from drylamp.web.advice_models import (
    Aimed,
    MealRequest,
    MomentRequest,
    SayingList,
    SchoolList,
    StockAnswer,
    StockRequest,
)
from drylamp.web.models import TwinRequest
from drylamp.web.twin_runs import source_of

api = APIBlueprint("advice", __name__, url_prefix="/api/advice")


def _ground(body: TwinRequest) -> tuple[Site, Adjustments]:
    """Site and calibration of a request, its load checked against its build."""
    with context.database() as db:
        site = sites.get_site(db, body.site_id).site
        tune = (
            Adjustments()
            if body.calibration is None
            else calibrations.get_calibration(db, body.calibration).adjustments
        )
    kind_of(body.spec).check_fit(body.spec, body.load)
    return site, tune


def _bench(body: TwinRequest) -> Bench:
    site, tune = _ground(body)
    weather = weather_of(site, source_of(site, body.day, body.sky, body.weather), Span(start=body.day, step_s=300))
    return Bench(site, body.spot, weather, tune)


def _loaded(body: TwinRequest) -> AnyLoad:
    if body.load is None:
        raise InputProblem("load", "nothing goes in; say what is to be cooked or melted first")
    return body.load


@api.post("/weakest", responses={200: Weakest})
def weakest(body: TwinRequest) -> Response:
    """Every sensible single change, ranked."""
    return context.answer(weakest_link(_bench(body), body.spec, body.load))


@api.post("/schools", responses={200: SchoolList})
def schools(body: TwinRequest) -> Response:
    """Where builders disagree, every answer run on this build."""
    return context.answer(SchoolList(schools_of(_bench(body), body.spec, body.load)))


@api.post("/sayings", responses={200: SayingList})
def sayings(body: TwinRequest) -> Response:
    """Rules of thumb put to the twin."""
    return context.answer(SayingList(sayings_of(_bench(body), body.spec, body.load)))


@api.post("/turning", responses={200: TurningCurve})
def turning(body: TwinRequest) -> Response:
    """What turning every 15, 30, 60, 120 minutes or never costs."""
    return context.answer(turning_curve(_bench(body), body.spec, body.load))


@api.post("/pointing", responses={200: Aimed})
def aimed(body: MomentRequest) -> Response:
    """How a build stands against the sun of an instant, and its flap's best angles."""
    bench = _bench(body)
    sun = sun_path(
        np.array([body.at.timestamp()]), bench.site.latitude_deg, bench.site.longitude_deg, bench.site.elevation_m
    ).direction[0]
    flap = flap_angles(bench, body.spec, body.load, sun)
    return context.answer(Aimed(pointing=pointing(body.spec, body.load, sun), flap=flap))


@api.post("/meal", responses={200: MealPlan})
def meal(body: MealRequest) -> Response:
    """How to have it ready by an hour."""
    site, tune = _ground(body)
    return context.answer(meal_plan(site, body.spot, body.spec, _loaded(body), body.day, body.wanted, tune))


@api.post("/year", responses={200: YearPlan})
def year(body: TwinRequest) -> Response:
    """Which months it works, and how many days a year."""
    site, tune = _ground(body)
    return context.answer(_year_of(site, body, tune))


@api.post("/stock", responses={200: StockAnswer})
def stock(body: StockRequest) -> Response:
    """How much of a stock can be melted between the day and a date."""
    site, tune = _ground(body)
    kilograms, days = stock_days(_year_of(site, body, tune), body.stock_kg, body.day, body.until)
    enough = kilograms >= body.stock_kg * 0.999
    words = f"About {kilograms:.1f} kg of clean wax by {body.until:%d %B}"
    words += (
        f": all of it, in about {days:.0f} days with a batch on each."
        if enough
        else f", with a batch on each of {days:.0f} days; the rest is for next year."
    )
    return context.answer(StockAnswer(kg=round(kilograms, 2), days=days, enough=enough, words=words))


def _year_of(site: Site, body: TwinRequest, tune: Adjustments) -> YearPlan:
    return _kept_year(
        site.model_dump_json(), body.spot, BUILD.dump_json(body.spec).decode(), _loaded(body).model_dump_json(), body.day.year,
        tune.model_dump_json(),
    )  # fmt: skip


@lru_cache(maxsize=32)
def _kept_year(site: str, spot: str | None, spec: str, load: str, number: int, tune: str) -> YearPlan:
    goods = read_load(load)
    assert goods is not None
    return year_plan(
        Site.model_validate_json(site),
        spot,
        BUILD.validate_json(spec),
        goods,
        number,
        Adjustments.model_validate_json(tune),
    )
