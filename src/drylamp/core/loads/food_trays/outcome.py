"""What became of food on trays: when each tray is dry, what it weighs then, how near it came to mould, what was spoilt by heat."""

from __future__ import annotations

import math
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, Literal, cast

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.common.food.basket import JAR_KG_M3
from drylamp.core.loads.common.food.mould import NEAR, OVER, mould_share
from drylamp.core.loads.common.outcome import READY
from drylamp.core.loads.common.shelves import INTO
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays, node_of
from drylamp.core.outcome.of_load import Headline, Held, LoadOutcome, Measure, PlanStep, Stand, moment
from drylamp.core.sky.clock import days_of, instant_s, local_day, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, counted, kilograms
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

SHOWN_EVERY_S = 1800.0
CASE_ACTIVITY, CASE_WET = 0.45, 0.5
"""A surface drier than the first while more than this share of the water is still inside: it hardens (common practice, no source)."""
OVER_DRIED = 0.6
"""Share of the water it may keep below which it is drier than it needs to be; from memory."""
SUNNY_H = 9.0
WATER = Measure("mass", 0.002, 0.02, 0.04)
"""Kilograms of water that it gives up in a day of nine hours."""
Mould = Literal["none", "near", "over"]


class TrayResult(Model):
    """One food on one tray.

    Attributes:
        tray: on which it lay at last
        done_at, hours: when it is dry enough, and hours since it went in; none where it is not by the end
        moisture_wb: at the times of the result, share of water; none while it is not in
        weight_kg: at the end; target_kg: what the kitchen scale shows when it is done
        regained_g: water that it took back at night
        mould_share: how far on the way to visible mould it came before it was dry, and when it was half way
        hot_minutes: above what suits it
        hardened, over_dried: whether its skin dried too fast; whether it was left in too long
    """

    node: str
    title: str
    food: str
    tray: int
    went_in: datetime
    done_at: datetime | None
    hours: float | None
    moisture_wb: list[float | None]
    start_kg: float
    weight_kg: float
    target_kg: float
    regained_g: float
    mould_share: float
    near_mould_at: datetime | None
    mould: Mould
    hot_minutes: float
    hottest_c: float
    hardened: YesNo
    over_dried: YesNo


class DryingDay(Model):
    """A day: air that went through in kilograms and its flow by day, warmest air at the trays, water driven out."""

    day: date
    water_kg: float
    air_kg_s: float
    back_kg: float
    into_trays_c: float


class DryingResult(Model):
    """What became of a batch.

    Attributes:
        times: of the trays' moisture
        first, last: titles of the tray that is dry first, and of the last; empty where none is
        water_closure: water unaccounted for, as a share of what moved
        mj_kg: heat from the sun for each kilogram of water
    """

    times: list[datetime]
    trays: list[TrayResult]
    days: list[DryingDay]
    first: str
    last: str
    done_at: datetime | None
    water_kg: float
    dried_kg: float
    jars_l: float
    ran_off_kg: float
    mj_kg: float | None
    water_closure: float
    words: Sentence


class DryingResults(Model):
    """What became of food on trays."""

    drying: DryingResult | None = None


def water_in(food: FoodOnTray, run: Run) -> Array | None:
    """Kilograms of water in a food, shape (steps + 1,), NaN while it is not in the dryer; none where it never was."""
    held = None if run.damp is None else run.damp.held_kg.get(node_of(food))
    return None if held is None or np.isnan(held).all() else held


def dry_at(food: FoodOnTray, run: Run) -> int | None:
    """The edge at which a food is dry enough."""
    held = water_in(food, run)
    if held is None:
        return None
    with np.errstate(invalid="ignore"):
        below = np.flatnonzero(held <= food.safe_water_kg)
    return int(below[0]) if len(below) else None


def way_to_mould(food: FoodOnTray, run: Run) -> Array:
    """How far a food has come to visible mould before it was dry, as a share of the way, shape (steps + 1,)."""
    held, done = water_in(food, run), dry_at(food, run)
    share = np.zeros(len(run.edge_s))
    if held is None or run.damp is None:
        return share
    at_risk = ~np.isnan(held)
    at_risk[len(held) if done is None else done + 1 :] = False
    node = node_of(food)
    share[at_risk] = mould_share(run.damp.activity[node][at_risk], run.temperature_c[node][at_risk], run.weather.dt_s)
    return np.maximum.accumulate(share)


def _in_s(site: Site, food: FoodOnTray, load: FoodTrays, run: Run) -> float:
    first = min(f.day for f in load.foods)
    return instant_s(site.zone, local_day(site.zone, run.edge_s[0]) + timedelta(days=food.day - first), food.goes_in)


def _tray(site: Site, load: FoodTrays, food: FoodOnTray, run: Run, shown: np.ndarray) -> TrayResult | None:
    assert run.damp is not None
    node = node_of(food)
    held = water_in(food, run)
    if held is None:
        return None
    wet, celsius = run.damp.activity[node], run.temperature_c[node]
    inside = ~np.isnan(held)
    done = dry_at(food, run)
    dt, share = run.weather.dt_s, way_to_mould(food, run)
    near = np.flatnonzero(share >= NEAR)
    moved = np.diff(held[inside])
    begun = _in_s(site, food, load, run)
    with np.errstate(invalid="ignore"):
        hot = float(np.nansum(celsius > food.row.high_c) * dt / 60.0)
        moisture = held / (held + food.dry_kg)
        left = (held - food.safe_water_kg) / max(food.kg - food.target_kg, 1e-9)
        hardened = bool(np.nansum((wet < CASE_ACTIVITY) & (left > CASE_WET)) * dt > 3600.0)
        over_dried = bool(np.nanmin(held) < OVER_DRIED * food.safe_water_kg)
    ends = held[inside][-1]
    most = float(share.max())
    return TrayResult(
        node=node, title=f"{food.title}, tray {food.tray}", food=food.title, tray=_last_tray(load, food), went_in=local_time(site.zone, begun),
        done_at=None if done is None else local_time(site.zone, run.edge_s[done]), hours=None if done is None else round(float(run.edge_s[done] - begun) / 3600.0, 2),
        moisture_wb=[None if np.isnan(v) else round(float(v), 4) for v in moisture[shown]], start_kg=food.kg, weight_kg=round(float(ends) + food.dry_kg, 4),
        target_kg=round(food.target_kg, 4), regained_g=round(1000.0 * float(moved[moved > 0.0].sum()), 1), mould_share=round(most, 3),
        near_mould_at=local_time(site.zone, run.edge_s[near[0]]) if len(near) else None, mould="over" if most >= OVER else "near" if most >= NEAR else "none",
        hot_minutes=round(hot, 1), hottest_c=round(float(np.nanmax(celsius)), 2), hardened=hardened, over_dried=over_dried,
    )  # fmt: skip


def _last_tray(load: FoodTrays, food: FoodOnTray) -> int:
    """On which it lies at last."""
    lying = [part for _, stage in load.stages() for part in stage.foods if part.number == food.number]
    return lying[-1].tray if lying else food.tray


def results(site: Site, load: FoodTrays, run: Run) -> Model:
    """Tray by tray."""
    if run.damp is None:
        return DryingResults()
    stride = max(1, round(SHOWN_EVERY_S / run.weather.dt_s))
    shown = np.arange(0, len(run.edge_s), stride)
    trays = [found for food in load.numbered if (found := _tray(site, load, food, run, shown)) is not None]
    done = sorted((tray for tray in trays if tray.done_at is not None), key=lambda tray: tray.hours or 0.0)
    all_done = len(done) == len(load.foods)
    water = sum(tray.start_kg - tray.weight_kg for tray in trays)
    sun = float(run.opening_w.sum()) * run.weather.dt_s
    dried = sum(food.target_kg for food in load.foods)
    jars = sum(1000.0 * food.target_kg / JAR_KG_M3[food.row.group] for food in load.foods)
    finished = max(tray.done_at for tray in done if tray.done_at is not None) if all_done and done else None
    whole = DryingResult(
        times=[local_time(site.zone, run.edge_s[i]) for i in shown], trays=trays, days=_days(site, load, run), first=done[0].title if done else "",
        last=done[-1].title if all_done and done else "", done_at=finished, water_kg=round(water, 3), dried_kg=round(dried, 3), jars_l=round(jars, 2),
        ran_off_kg=round(float(run.damp.away_kg.sum()), 4), mj_kg=round(sun / 1e6 / water, 2) if water > 0.01 else None, water_closure=run.damp.closure,
        words=_words(load, trays, finished),
    )  # fmt: skip
    return DryingResults(drying=whole)


def _lost(load: FoodTrays, run: Run) -> Array:
    """Water that left the food in each step, kg: what is laid in or taken out with it has not."""
    held = [water for food in load.numbered if (water := water_in(food, run)) is not None]
    return sum((np.nan_to_num(-np.diff(water)) for water in held), np.zeros(run.weather.steps))


def _days(site: Site, load: FoodTrays, run: Run) -> list[DryingDay]:
    assert run.damp is not None
    lost = _lost(load, run)
    path = next(iter(run.damp.moved_kg))
    moved, back, out = run.damp.moved_kg[path], run.damp.back_kg[path], list[DryingDay]()
    lit, warm = run.opening_w > 1.0, run.temperature_c[INTO]
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        steps = (run.edge_s[:-1] >= begin) & (run.edge_s[:-1] < end)
        if not steps.any():
            continue
        sunny = steps & lit
        flow = float(moved[sunny].mean()) / run.weather.dt_s if sunny.any() else 0.0
        out.append(
            DryingDay(
                day=day, water_kg=round(float(lost[steps].sum()), 3), air_kg_s=round(flow, 5), back_kg=round(float(back[steps].sum()), 2),
                into_trays_c=round(float(np.nanmax(warm[:-1][steps])), 2),
            )
        )  # fmt: skip
    return out


def _words(load: FoodTrays, trays: list[TrayResult], finished: datetime | None) -> str:
    spoilt = [tray.title for tray in trays if tray.mould == "over"]
    if spoilt:
        return f"{spoilt[0]} is likely to mould before it is dry: discard it if it does."
    if finished is not None:
        days = (finished.date() - min(tray.went_in for tray in trays).date()).days + 1
        weight = sum(tray.target_kg for tray in trays)
        return f"Dry on day {days} at {finished:%H:%M}: {kilograms(weight)} of {load.title}."
    wet = [tray for tray in trays if tray.done_at is None]
    gone = sum(tray.start_kg - tray.weight_kg for tray in trays)
    driest, wettest = (pick(trays, key=lambda tray: tray.moisture_wb[-1] or 0.0) for pick in (min, max))
    low, high = (round(100.0 * (tray.moisture_wb[-1] or 0.0)) for tray in (driest, wettest))
    left = f"{low} to {high} % water" if low != high else f"{high} % water"
    return f"{kilograms(gone)} of water is out by then; {counted(len(wet), 'tray')} {'is' if len(wet) == 1 else 'are'} not dry yet, with {left} left in {'it' if len(wet) == 1 else 'them'}."


def done_at(load: FoodTrays, run: Run) -> float | None:
    """When the last of it is dry, seconds since 1970."""
    edges = [dry_at(food, run) for food in load.numbered]
    return (
        None
        if any(edge is None for edge in edges)
        else float(max(run.edge_s[edge] for edge in edges if edge is not None))
    )


def enough(load: FoodTrays, run: Run, day: Held) -> bool:
    """Whether all was dry by the end of a day."""
    done = done_at(load, run)
    return done is not None and bool((run.edge_s[day.edges] >= done).any())


def score(load: FoodTrays, run: Run, begun_s: float) -> float | None:
    """Kilograms of water that had to go, in each nine hours from laying in to when the last is dry; of what is not, as much as went."""
    gone = 0.0
    for food in load.numbered:
        held = water_in(food, run)
        if held is not None:
            gone += food.kg - max(float(np.nanmin(held)) + food.dry_kg, food.target_kg)
    done = done_at(load, run)
    hours = ((float(run.edge_s[-1]) if done is None else done) - begun_s) / 3600.0
    return SUNNY_H * gone / hours if hours > 0.0 and math.isfinite(gone) else None


def daily(results: Model) -> dict[date, str]:
    """Water driven out."""
    found = cast(DryingResults, results).drying
    return {} if found is None else {day.day: f"{kilograms(day.water_kg)} of water out" for day in found.days}


def stands(results: Model) -> dict[date, Stand]:
    """Water left in the wettest of the trays that are not dry by the evening."""
    found = cast(DryingResults, results).drying
    if found is None:
        return {}
    out = dict[date, Stand]()
    for row, time in enumerate(found.times):
        left = [
            wet
            for tray in found.trays
            if (tray.done_at is None or tray.done_at > time) and (wet := tray.moisture_wb[row]) is not None
        ]
        begun = any(tray.went_in <= time for tray in found.trays)
        if begun:
            out[time.date()] = Stand(f"{100.0 * max(left):.0f} % water", False) if left else Stand("dry", True)
    return _until_done(out)


def _until_done(days: dict[date, Stand]) -> dict[date, Stand]:
    """Nothing is told of what lies in a jar."""
    done = next((day for day, stand in days.items() if stand.done), None)
    return {day: stand for day, stand in days.items() if done is None or day <= done}


def headline(results: Model) -> Headline | None:
    """When it is dry."""
    found = cast(DryingResults, results).drying
    if found is None:
        return None
    brief = f"{kilograms(found.water_kg)} of water out" if found.done_at is None else f"dry {found.done_at:%a %H:%M}"
    return Headline(found.words, brief)


def steps(load: FoodTrays, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Cut, lay in, look, take out tray by tray."""
    goes_in = moment(outcome, load.first_in)
    minutes = sum(food.kg * food.row.prepare_min_kg for food in load.foods)
    out = [
        PlanStep(time=moment(outcome, READY), text=get_ready),
        PlanStep(
            time=goes_in - timedelta(minutes=minutes),
            text=f"cut {load.title}: {kilograms(load.amount_kg)}; weigh each tray",
        ),
        PlanStep(time=goes_in, text=f"{kilograms(load.amount_kg)} of {load.title} in"),
    ]
    if load.night == "taken-in":
        out += [
            PlanStep(time=moment(outcome, load.taken_in), text="take the trays in for the night"),
            PlanStep(time=moment(outcome, load.put_back), text="put them back out"),
        ]
    if load.night == "covered":
        out.append(PlanStep(time=moment(outcome, load.taken_in), text="stuff the vents for the night"))
    found = cast(DryingResults, outcome.results).drying
    for tray in [] if found is None else found.trays:
        if tray.near_mould_at is not None:
            out.append(PlanStep(time=tray.near_mould_at, text=f"{tray.title}: half way to mould; warm it or eat it"))
        if tray.done_at is not None:
            out.append(
                PlanStep(
                    time=tray.done_at, text=f"{tray.title} dry: it weighs {kilograms(tray.target_kg)}; take it out"
                )
            )
    return sorted(out, key=lambda step: step.time)


OUTCOME: LoadOutcome[FoodTrays] = LoadOutcome(
    measure=WATER, steps=steps, results_model=DryingResults, results=results, headline=headline, score=score, enough=enough,
    counts="water that had to go, for each nine hours until the last is dry",
    done_at=done_at, daily=daily, stands=stands, counts_minutes=False, otherwise="Finish it in an oven at its lowest, door ajar.",
)  # fmt: skip
