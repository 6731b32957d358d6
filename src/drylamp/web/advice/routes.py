"""Advice over the wire: the weakest link, schools, sayings, aiming, turning, meals, months and melts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np
from flask import Response

from drylamp.core.advice.apart import Apart, Promise
from drylamp.core.advice.building import Building
from drylamp.core.advice.chance import Chance, chance
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.direct import DirectAnswers, direct_steps
from drylamp.core.advice.drying import BasketAnswer, BatchAhead, NightWays, VentCurve, WeekYear
from drylamp.core.advice.flap import FlapYear, flap_angles, flap_year
from drylamp.core.advice.flow import FlowCurve, flow_curve
from drylamp.core.advice.grey import GreyDays
from drylamp.core.advice.kettle import BoilYear, PutOutPlan
from drylamp.core.advice.loops import HowMany, Instead, NightCooling, ReadyBy, SeasonWon, TimerYear
from drylamp.core.advice.lumber import (
    Backup,
    ChargeAhead,
    ChargeSizes,
    KilnLinks,
    Queue,
    SawSizes,
    TodayOptions,
    WeekSettings,
    WoodMoney,
)
from drylamp.core.advice.meal import MealPlan, YearPlan, meal_plan, stock_days, year_steps
from drylamp.core.advice.pointing import TurningCurve, pointing, turning_steps
from drylamp.core.advice.registry import advice_of, advice_of_load
from drylamp.core.advice.repairs import Repairs, repairs
from drylamp.core.advice.sayings import sayings_steps
from drylamp.core.advice.schools import schools_steps
from drylamp.core.advice.season import TwoPlaces, WholeYear, two_places, whole_year
from drylamp.core.advice.tilt import TiltYear, tilt_year
from drylamp.core.advice.unattended import Unattended, unattended
from drylamp.core.advice.weakest import Weakest, weakest_steps
from drylamp.core.builds.common.upkeep.sheet import UPKEEP
from drylamp.core.checks import InputProblem
from drylamp.core.kept import Kept
from drylamp.core.long import Long
from drylamp.core.sky.sun import sun_over
from drylamp.core.text import kilograms
from drylamp.store import builds
from drylamp.web import context
from drylamp.web.advice.models import (
    Aimed,
    ApartRequest,
    BackupRequest,
    BasketRequest,
    BuildingRequest,
    ChanceRequest,
    HeaterRequest,
    HowManyRequest,
    MealRequest,
    MomentRequest,
    MoneyRequest,
    RepairsRequest,
    SayingList,
    SchoolList,
    SeasonRequest,
    StockAnswer,
    StockRequest,
    TwoPlacesRequest,
    WeeklyRequest,
)
from drylamp.web.cases import advice_context, case_of, own_finishes, with_years, year_case
from drylamp.web.house import house_of, household
from drylamp.web.jobs.heavy import heavy, in_steps, kept_whole
from drylamp.web.routed import blueprint
from drylamp.web.sheets.ground import around_of, written
from drylamp.web.twin.models import TwinRequest

NO_LOOP = "no tub, pool or tank is joined to this by a loop; join it to one first"
NO_KETTLE = "there is no water for tea in this; pour some in first"
NO_FOOD = "there is no food on its trays; lay some on first"
LEAST_KG = 0.02
"""Less clean wax than this is called none."""
NO_QUEUE = "nothing waits for this kind of build; ask it of one with boards stacked in it"
NO_BOARDS = "no boards are stacked in this; stack some first"
_BATCHES: Kept[str, BatchAhead] = Kept(32)
_WEEKS: Kept[str, WeekYear] = Kept(32)
_CHARGES: Kept[str, ChargeAhead] = Kept(16)
_BY_WEEKS: Kept[str, WeekSettings] = Kept(16)
_SIZES: Kept[str, ChargeSizes] = Kept(16)
_MONEY: Kept[str, WoodMoney] = Kept(16)
_BACKUPS: Kept[str, Backup] = Kept(16)
_LINKS: Kept[str, KilnLinks] = Kept(16)
_HOW_MANY: Kept[str, HowMany] = Kept(32)
_SEASONS: Kept[str, SeasonWon] = Kept(32)
api = blueprint("advice", "/api/advice")


@api.post("/weakest", responses={200: Weakest})
@heavy()
def weakest(body: TwinRequest) -> Response:
    """Every sensible single change, ranked."""
    on, own = advice_context(body), own_finishes()
    return in_steps(f"weakest {on.key} {own}", lambda: weakest_steps(on, own))


@api.post("/schools", responses={200: SchoolList})
@heavy()
def schools(body: TwinRequest) -> Response:
    """Where builders disagree, every answer run on this build."""
    on = advice_context(body)
    return in_steps(f"schools {on.key}", lambda: schools_steps(on), SchoolList)


@api.post("/sayings", responses={200: SayingList})
@heavy()
def sayings(body: TwinRequest) -> Response:
    """Rules of thumb put to the twin."""
    on = advice_context(body)
    return in_steps(f"sayings {on.key}", lambda: sayings_steps(on), SayingList)


@api.post("/direct", responses={200: DirectAnswers})
@heavy()
def direct(body: TwinRequest) -> Response:
    """Straight answers: preheating, how long, which pot, which angle, how often to turn."""
    on = advice_context(body)
    return in_steps(f"direct {on.key}", lambda: direct_steps(on))


@api.post("/turning", responses={200: TurningCurve})
@heavy()
def turning(body: TwinRequest) -> Response:
    """What turning every 15, 30, 60, 120 minutes or never costs."""
    on = advice_context(body)
    return in_steps(f"turning {on.key}", lambda: turning_steps(on))


@api.post("/pointing", responses={200: Aimed})
def aimed(body: MomentRequest) -> Response:
    """How a build stands against the sun of an instant, and its flap's best angles."""
    on = advice_context(body)
    site = on.case.site
    at = np.array([body.at.timestamp()])
    sun = sun_over(site, at).direction[0]
    return context.answer(Aimed(pointing=pointing(on.build, on.load, sun), flap=flap_angles(on, sun)))


@api.post("/flap-year", responses={200: FlapYear})
@heavy()
def flap_by_month(body: TwinRequest) -> Response:
    """Its mirror's best angle by the month, and one for the year."""
    found = flap_year(advice_context(body))
    if found is None:
        raise InputProblem("spec", "this build has no mirror whose angle is set by hand; put one on first")
    return context.answer(found)


@api.post("/tilt-year", responses={200: TiltYear})
@heavy()
def tilt_by_month(body: TwinRequest) -> Response:
    """Its best tilt by the month, fixed marks, and one for the year."""
    return context.answer(tilt_year(advice_context(body)))


@api.post("/flow", responses={200: FlowCurve})
def flow(body: MomentRequest) -> Response:
    """Outlet, heat and efficiency at every flow, at an instant."""
    return context.answer(flow_curve(advice_context(body), body.at.timestamp()))


@api.post("/grey", responses={200: GreyDays})
@heavy()
def grey(body: TwinRequest) -> Response:
    """What one, two and three grey days leave of what stays over nights."""
    on, asked = _of_load(body, "grey_days", "nothing in this build stays over nights; fill it with water first")
    return context.answer(asked(on, on.load))


@api.post("/timer", responses={200: TimerYear})
@heavy()
def timer(body: TwinRequest) -> Response:
    """The best hours of a loop's pump by the month."""
    on, asked = _of_load(body, "timer")
    return context.answer(asked(on, on.load))


@api.post("/instead", responses={200: Instead})
@heavy()
def heater_instead(body: HeaterRequest) -> Response:
    """What a heater would take for a loop's heat."""
    on, asked = _of_load(body, "instead")
    return context.answer(asked(on, on.load, body.heater_kw, body.price_kwh))


@api.post("/ready-by", responses={200: ReadyBy})
@heavy()
def ready(body: TwinRequest) -> Response:
    """When a loop has to start for which evening."""
    on, asked = _of_load(body, "ready_by")
    return context.answer(asked(on, on.load))


@api.post("/season", responses={200: SeasonWon})
@heavy()
def season(body: TwinRequest) -> Response:
    """Days of the year that a loop wins."""
    on, asked = _of_load(body, "season")
    return context.answer(_SEASONS.get(on.key, lambda: asked(on, on.load)))


@api.post("/how-many", responses={200: HowMany})
@heavy()
def how_many(body: HowManyRequest) -> Response:
    """How much to heat it with it takes for so much warmer water."""
    on, asked = _of_load(body, "how_many")
    key = f"{on.key} {body.rise_k} {body.weeks}"
    return context.answer(_HOW_MANY.get(key, lambda: asked(on, on.load, body.rise_k, body.weeks)))


@api.post("/night", responses={200: NightCooling})
@heavy()
def night(body: TwinRequest) -> Response:
    """Ways to cool a tub or pool by night."""
    on, asked = _of_load(body, "night")
    return context.answer(asked(on, on.load))


@api.post("/put-out", responses={200: PutOutPlan})
@heavy()
def put_out(body: TwinRequest) -> Response:
    """When to put a kettle out for which hour, and how to set it up."""
    on, asked = _of_load(body, "put_out", NO_KETTLE)
    return context.answer(asked(on, on.load))


@api.post("/boils", responses={200: BoilYear})
@heavy()
def boils(body: TwinRequest) -> Response:
    """How long a kettle takes by the month, at every mark of its feet."""
    on, asked = _of_load(body, "boils", NO_KETTLE)
    return context.answer(asked(on, on.load))


def _of_load(body: TwinRequest, what: str, otherwise: str = NO_LOOP) -> tuple[AdviceContext, Callable[..., Any]]:
    """The day that it is asked for, and what answers.

    Raises
    ------
    InputProblem
        the load has no answer to it.
    """
    on = advice_context(body)
    said = advice_of_load(on.load)
    found = said.answers.get(what) or getattr(said, what, None)
    if found is None:
        raise InputProblem("load", otherwise)
    return on, found


def _of_build(body: TwinRequest, what: str, otherwise: str) -> tuple[AdviceContext, Callable[..., Any]]:
    """The same of what a build's kind answers.

    Raises
    ------
    InputProblem
        the kind has no answer to it.
    """
    on = advice_context(body)
    found = getattr(advice_of(on.build), what)
    if found is None:
        raise InputProblem("spec", otherwise)
    return on, found


@api.post("/batch", responses={200: BatchAhead})
@heavy()
def batch(body: TwinRequest) -> Response:
    """When a batch will be dry, tray by tray, and by chance."""
    on, asked = _of_load(body, "batch", NO_FOOD)
    return context.answer(_BATCHES.get(on.key, lambda: asked(on, on.load)))


@api.post("/nights", responses={200: NightWays})
@heavy()
def nights(body: TwinRequest) -> Response:
    """Ways to spend the nights of a batch."""
    on, asked = _of_load(body, "nights", NO_FOOD)
    return context.answer(asked(on, on.load))


@api.post("/weekly", responses={200: WeekYear})
@heavy()
def weekly(body: WeeklyRequest) -> Response:
    """Kilograms a week by the month, and the size for so much."""
    on, asked = _of_load(body, "weekly", NO_FOOD)
    key = f"{on.key} {body.wanted_kg} {body.month}"
    return context.answer(_WEEKS.get(key, lambda: asked(on, on.load, body.wanted_kg, body.month)))


@api.post("/basket", responses={200: BasketAnswer})
def basket(body: BasketRequest) -> Response:
    """From a bucket to jars."""
    on, asked = _of_load(body, "basket", NO_FOOD)
    return context.answer(asked(on, on.load, body.food, body.litres, body.kg))


@api.post("/charge", responses={200: ChargeAhead})
@heavy()
def charge(body: TwinRequest) -> Response:
    """When a charge of boards will be dry, group by group, and by chance."""
    on, asked = _of_load(body, "charge", NO_BOARDS)
    return context.answer(_CHARGES.get(on.key, lambda: asked(on, on.load)))


@api.post("/today", responses={200: TodayOptions})
@heavy()
def today(body: TwinRequest) -> Response:
    """What shutting or opening the vents does to a charge, the next day and over the fortnight."""
    on, asked = _of_load(body, "today", NO_BOARDS)
    return context.answer(asked(on, on.load))


@api.post("/weeks", responses={200: WeekSettings})
@heavy()
def weeks(body: TwinRequest) -> Response:
    """Vents of a kiln week by week."""
    on, asked = _of_load(body, "weeks", NO_BOARDS)
    return context.answer(_BY_WEEKS.get(on.key, lambda: asked(on, on.load)))


@api.post("/charge-sizes", responses={200: ChargeSizes})
@heavy()
def charge_sizes(body: TwinRequest) -> Response:
    """How much to lay in under a roof."""
    on, asked = _of_load(body, "sizes", NO_BOARDS)
    return context.answer(_SIZES.get(on.key, lambda: asked(on, on.load)))


@api.post("/charge-links", responses={200: KilnLinks})
@heavy()
def charge_links(body: TwinRequest) -> Response:
    """Every sensible change over a whole charge: days and risk."""
    on, asked = _of_load(body, "links", NO_BOARDS)
    return context.answer(_LINKS.get(on.key, lambda: asked(on, on.load)))


@api.post("/saw", responses={200: SawSizes})
def saw(body: TwinRequest) -> Response:
    """Green sizes to saw for."""
    on, asked = _of_load(body, "saw", NO_BOARDS)
    return context.answer(asked(on, on.load))


@api.post("/money", responses={200: WoodMoney})
@heavy()
def what_it_earns(body: MoneyRequest) -> Response:
    """What a build costs and earns, by the prices that were typed for it."""
    on, asked = _of_load(body, "money", NO_BOARDS)
    with context.database() as db:
        around = around_of(db, "build", body.build_id)
    return context.answer(_MONEY.get(f"{on.key} {written(around)}", lambda: asked(on, on.load, around)))


@api.post("/backup", responses={200: Backup})
@heavy()
def what_backup_brings(body: BackupRequest) -> Response:
    """What back-up heat brings through the cold half of the year."""
    on, asked = _of_build(body, "backup", "this kind of build takes no back-up heat; ask it of a lumber kiln")
    key = f"{on.key} {body.power_w} {body.until_c} {body.kwh_price}"
    return context.answer(_BACKUPS.get(key, lambda: asked(on, on.build, body.power_w, body.until_c, body.kwh_price)))


@api.post("/building", responses={200: Building})
def how_it_is_put_up(body: BuildingRequest) -> Response:
    """Slopes, cuts, panes, filling, and how long its timber lasts."""
    on, asked = _of_build(body, "building", "nothing is said of how this kind of build is put up; ask it of a lumber kiln")  # fmt: skip
    pane = None if body.pane_wide_m is None or body.pane_high_m is None else (body.pane_wide_m, body.pane_high_m)
    return context.answer(asked(on, on.build, pane))


@api.post("/repairs", responses={200: Repairs})
@heavy()
def what_to_mend(body: RepairsRequest) -> Response:
    """What of a build's open findings to mend first."""
    with context.database() as db:
        around = around_of(db, "build", body.build_id)
    return context.answer(repairs(advice_context(body), around.rows(UPKEEP), around.learnt))


@api.post("/vent", responses={200: VentCurve})
@heavy()
def vent(body: TwinRequest) -> Response:
    """How far to open the vent."""
    on, asked = _of_build(body, "vents", "this build has no vent that air is drawn through; ask it of a dryer")
    return context.answer(asked(on, on.build))


@api.post("/apart", responses={200: Apart})
@heavy()
def told_apart(body: ApartRequest) -> Response:
    """Why a build is not like another, or not as was promised."""
    on, asked = _of_build(body, "apart", "nothing is told apart for this kind of build; ask it of a dryer")
    promise = Promise(body.other, body.area_m2, body.absorber, body.promised_c)
    return context.answer(asked(on, on.build, promise))


@api.post("/meal", responses={200: MealPlan})
@heavy()
def meal(body: MealRequest) -> Response:
    """How to have it ready by an hour."""
    return context.answer(meal_plan(case_of(body)[0], body.wanted))


@api.post("/year", responses={200: YearPlan})
@heavy()
def year(body: TwinRequest) -> Response:
    """Which months it works, and how many days a year."""
    return in_steps(*_year_of(body))


@api.post("/stock", responses={200: StockAnswer})
@heavy()
def stock(body: StockRequest) -> Response:
    """How much of a stock can be melted between the day and a date."""
    caught_kg, days = stock_days(kept_whole(*_year_of(body)), body.stock_kg, body.day, body.until)
    if caught_kg < LEAST_KG:
        words = f"No clean wax runs by {body.until:%d %B} on usual days here: it does not get warm enough. Look at what would change that under next, or wait for warmer months."
        return context.answer(StockAnswer(kg=0.0, days=0.0, enough=False, words=words))
    enough = caught_kg >= body.stock_kg * 0.999
    words = f"About {kilograms(caught_kg)} of clean wax by {body.until:%d %B}"
    words += (
        f": all of it, in about {days:.0f} days with a batch on each."
        if enough
        else f", with a batch on each of {days:.0f} days; the rest is for next year."
    )
    return context.answer(StockAnswer(kg=round(caught_kg, 2), days=days, enough=enough, words=words))


def _year_of(body: TwinRequest) -> tuple[str, Callable[[], Long[YearPlan]]]:
    asked = year_case(body)
    return f"year {asked.key}", lambda: year_steps(asked)


@api.post("/chance", responses={200: Chance})
@heavy("long")
def many_years(body: ChanceRequest) -> Response:
    """Run a load through many years: those that a weather file holds, where one of several years is asked for, or made-up ones."""
    on = with_years(advice_context(body), body)
    whose = "" if on.measured is None else on.measured.records.origin
    return in_steps(f"chance {on.key} {body.years} {whose}", lambda: chance(on, body.years))


@api.post("/queue", responses={200: Queue})
@heavy("long")
def what_goes_in_when(body: TwinRequest) -> Response:
    """Propose what of the site's stacks goes into a build when, for a year."""
    on = advice_context(body)
    asked = advice_of_load(on.load).longer.get("queue")
    if asked is None:
        raise InputProblem("load", NO_QUEUE)
    with context.database() as db:
        around = replace(around_of(db, "site", body.site_id), today=body.day)
    return in_steps(f"queue {on.key} {body.day} {written(around)}", lambda: asked(on, on.load, around))


@api.post("/whole-year", responses={200: WholeYear})
@heavy()
def year_won(body: SeasonRequest) -> Response:
    """A year at a place: useful heat by month and hour, how often it gets done, what it saves and costs."""
    return in_steps(*_year_at(body))


@api.post("/two-places", responses={200: TwoPlaces})
@heavy()
def two_years(body: TwoPlacesRequest) -> Response:
    """The same year here and at another place, held side by side."""
    there = body.model_copy(update={"site_id": body.there, "spot": None})
    return context.answer(two_places(*(kept_whole(*_year_at(one)) for one in (body, there))))


def _year_at(body: SeasonRequest) -> tuple[str, Callable[[], Long[WholeYear]]]:
    with context.database() as db:
        home = household(db, builds.get_build(db, body.build_id))
    case = year_case(body)
    return f"whole year {case.key} {home.key}", lambda: whole_year(case, home)


@api.post("/unattended", responses={200: Unattended})
@heavy()
def left_alone(body: TwinRequest) -> Response:
    """How to leave it while nobody is there, by the hours that stand on the shelf."""
    with context.database() as db:
        house = house_of(db, body.site_id)
    return context.answer(unattended(advice_context(body), house))
