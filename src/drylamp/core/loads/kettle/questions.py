"""What is asked of a kettle: when to put it out for which hour, how long it takes by the month, and what the kitchen's would take."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.kettle import BoilAt, BoilMonth, BoilYear, PutOut, PutOutPlan
from drylamp.core.advice.loops import Instead
from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.kettle.outcome import gained_w
from drylamp.core.loads.kettle.spec import KettleWater, Pour
from drylamp.core.outcome.of_load import reached
from drylamp.core.sky.clock import day_edges_s, instant_s, local_day, local_time
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import compass, sun_over
from drylamp.core.sky.weather import clear_days
from drylamp.core.text import amount, celsius, degrees, kilowatt_hours, minutes, month_name
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import climate_day
from drylamp.core.twin.prepared import Prepared

OPENINGS = 3
QUARTER_S, LONGEST_QUARTERS = 900.0, 16
LOOKS_BEFORE_S = 2700.0
"""It is turned to where the sun stands so long before the tea."""
LONGEST_S = LONGEST_QUARTERS * QUARTER_S
"""Nobody puts water out earlier before his tea than this."""
TILTS = (15.0, 30.0, 45.0, 60.0, 75.0)
KITCHEN_SHARE = 0.85
"""Of a kitchen kettle's electricity that ends in the water; from memory."""
NOON_BEFORE_S, NOON_STEP_S = 1800.0, 300.0
STEP_S = 120.0
FOREVER = float("inf")


@dataclass(frozen=True)
class _Stand:
    """A way to set it up, traced."""

    facing_deg: float
    tilt_deg: float
    open_deg: float | None
    ready: Prepared


def _marks(build: Build) -> list[float]:
    return build.marks_deg or [build.tilt_deg]


def _ways(build: Build, facing_deg: float) -> Iterator[Build]:
    """Every mark of its feet, turned some way, with its wings as they are and at a few openings."""
    for tilt in _marks(build):
        stood = build.turned_to(facing_deg, tilt)
        yield stood
        if stood.flap_angle_deg is not None:
            for angle in np.linspace(*stood.flap_range_deg, OPENINGS):
                yield stood.with_flap_at(float(angle))


def _hot_s(ready: Prepared, load: KettleWater, put_s: float) -> tuple[Array, Array]:
    """Instants, and the water's temperature from when it was put out."""
    run = ready.run(put_s=put_s)
    inside = run.edge_s >= put_s
    return run.edge_s[inside], run.temperature_c[TOP][inside]


def put_out(context: AdviceContext, load: KettleWater) -> PutOutPlan:
    """Try every mark and some openings, turned to where the sun stands before the tea, and find out how late each may be put out."""
    site, day = context.case.site, local_day(context.case.site.zone, context.weather.start_s)
    one = load.model_copy(update={"pours": load.pours[:1]})
    rows = [_row(context, one, instant_s(site.zone, day, pour.wanted_at)) for pour in load.pours]
    return PutOutPlan(target_c=load.target_c, rows=rows, words=" ".join(_row_words(load, row) for row in rows))


def _stands(context: AdviceContext, load: KettleWater, wanted_s: float) -> list[_Stand]:
    sun = sun_over(context.case.site, np.array([wanted_s - LOOKS_BEFORE_S]))
    facing = float(sun.azimuth_deg[0])
    return two_at_a_time(
        lambda way: _Stand(facing, way.tilt_deg, way.flap_angle_deg, context.ready(way, load)),
        _ways(context.build, facing),
    )


def _row(context: AdviceContext, load: KettleWater, wanted_s: float) -> PutOut:
    zone, tries = context.case.site.zone, [_Try(stand, load, wanted_s) for stand in _stands(context, load, wanted_s)]
    good, quarters = None, LONGEST_QUARTERS
    for tried in tries:
        fewest = tried.fewest(quarters)
        if fewest is not None and (
            good is None or (fewest, tried.takes_s(fewest)) < (quarters, good.takes_s(quarters))
        ):
            good, quarters = tried, fewest
    stand = max(tries, key=lambda tried: tried.at_wanted_c(LONGEST_QUARTERS)) if good is None else good
    return PutOut(
        wanted_at=local_time(zone, wanted_s), latest=None if good is None else local_time(zone, wanted_s - quarters * QUARTER_S), facing_deg=stand.stand.facing_deg,
        tilt_deg=stand.stand.tilt_deg, open_deg=stand.stand.open_deg, minutes=None if good is None else stand.takes_s(quarters) / 60.0, warmest_c=stand.at_wanted_c(quarters),
    )  # fmt: skip


@dataclass
class _Try:
    """A way to set it up, put out so many quarters of an hour before it is wanted; each is run once."""

    stand: _Stand
    load: KettleWater
    wanted_s: float
    _seen: dict[int, tuple[float, float]] = field(default_factory=dict)

    def _run(self, quarters: int) -> tuple[float, float]:
        """Seconds until it is hot, and its warmth when it is wanted."""
        if quarters not in self._seen:
            put_s = self.wanted_s - quarters * QUARTER_S
            times, series = _hot_s(self.stand.ready, self.load, put_s)
            hot = reached(times, series, self.load.target_c)
            self._seen[quarters] = (
                FOREVER if hot is None else hot - put_s,
                float(np.interp(self.wanted_s, times, series)),
            )
        return self._seen[quarters]

    def takes_s(self, quarters: int) -> float:
        """How long it takes to be hot."""
        return self._run(quarters)[0]

    def at_wanted_c(self, quarters: int) -> float:
        """How warm it is when it is wanted."""
        return self._run(quarters)[1]

    def fewest(self, most: int) -> int | None:
        """The fewest quarters of an hour, up to so many, after which it is hot in time; none where even those do not do."""
        if most < 1 or self.takes_s(most) > most * QUARTER_S:
            return None
        low, high = 0, most
        while high - low > 1:
            middle = (low + high) // 2
            low, high = (low, middle) if self.takes_s(middle) <= middle * QUARTER_S else (middle, high)
        return high


def _row_words(load: KettleWater, row: PutOut) -> str:
    wings = "" if row.open_deg is None else f", wings open {degrees(row.open_deg)}"
    if row.latest is None or row.minutes is None:
        return f"By {row.wanted_at:%H:%M} it will not be {celsius(load.target_c)} on this day: {celsius(row.warmest_c)} at {degrees(row.tilt_deg)}{wings}."
    way = f"facing {compass(row.facing_deg)}, at {degrees(row.tilt_deg)}{wings}"
    return f"For {row.wanted_at:%H:%M} put it out by {row.latest:%H:%M}, {way}: hot after {minutes(row.minutes)}."


# --- by the month ---


def boils(context: AdviceContext, load: KettleWater) -> BoilYear:
    """Half an hour before noon on each month's clear day, at every mark and at tilts between."""
    marks = _marks(context.build)
    months = two_at_a_time(lambda month: _month(context, load, month, marks), range(1, 13))
    return BoilYear(target_c=load.target_c, marks_deg=marks, months=months, words=_year_words(load, months))


def _month(context: AdviceContext, load: KettleWater, month: int, marks: list[float]) -> BoilMonth:
    case = context.case
    middle = date(local_day(case.site.zone, context.weather.start_s).year, month, 15)
    noon_s, usual = _noon_s(case.site, middle), climate_day(case.site, middle, "clear")
    put_s = noon_s - NOON_BEFORE_S
    there = AdviceContext(case, clear_days(case.site, usual, put_s, put_s + LONGEST_S, STEP_S))
    at = {tilt: _minutes(there, load, tilt, put_s) for tilt in {*marks, *TILTS}}
    best = min(at.items(), key=lambda pair: FOREVER if pair[1] is None else pair[1])
    return BoilMonth(
        month=month, marks=[BoilAt(tilt_deg=tilt, minutes=at[tilt]) for tilt in marks], best=BoilAt(tilt_deg=best[0], minutes=best[1])
    )  # fmt: skip


def _noon_s(site: Site, day: date) -> float:
    """When the sun stands highest, to five minutes."""
    sun = sun_over(site, np.arange(*day_edges_s(site.zone, day), NOON_STEP_S))
    return float(sun.time_s[int(np.argmax(sun.altitude_deg))])


def _minutes(there: AdviceContext, load: KettleWater, tilt: float, put_s: float) -> float | None:
    one = load.model_copy(update={"pours": [Pour(goes_in="00:00", wanted_at="23:59")]})
    times, series = _hot_s(there.ready(there.build.with_(tilt_deg=tilt), one), one, put_s)
    hot = reached(times, series, load.target_c)
    return None if hot is None else (hot - put_s) / 60.0


def _year_words(load: KettleWater, months: list[BoilMonth]) -> str:
    hot = [m for m in months if m.best.minutes is not None]
    if not hot:
        return f"In no month of the year does it get to {celsius(load.target_c)} around noon; less water, or wings."
    quick, slow = (pick(hot, key=lambda m: m.best.minutes or 0.0) for pick in (min, max))
    said = (
        f"Around noon of a clear day it takes {minutes(quick.best.minutes or 0.0)} in {month_name(quick.month)} at {degrees(quick.best.tilt_deg)}, and {minutes(slow.best.minutes or 0.0)} in "
        f"{month_name(slow.month)} at {degrees(slow.best.tilt_deg)}."
    )
    return said if len(hot) == 12 else f"{said} In {12 - len(hot)} months it does not get there."


# --- the kitchen's ---


def instead(context: AdviceContext, load: KettleWater, kettle_kw: float, price_kwh: float) -> Instead:
    """What a kitchen kettle takes for the same water."""
    held = load.fill_l * CP_WATER_J_KGK * (load.target_c - load.start_c) / KWH_J
    run = context.run(context.build, load)
    heat = float(np.maximum(gained_w(run), 0.0).sum()) * run.weather.dt_s / KWH_J
    each, cups = held / KITCHEN_SHARE, len(load.pours)
    saved, takes_h = each * cups * price_kwh, each / kettle_kw
    words = (
        f"A kitchen kettle of {amount(1000.0 * kettle_kw, 'power')} takes {kilowatt_hours(each)} and {minutes(60.0 * takes_h)} for each filling: the sun saves {amount(saved, 'price')} a "
        f"day with {cups} of them. It takes patience, not money."
    )
    return Instead(heat_kwh=heat, pump_kwh=0.0, heater_h=takes_h * cups, saved=saved, boils_h=takes_h, words=words)
