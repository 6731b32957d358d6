"""What became of a pot: when it was done, its whistles, the steps of its day, other sizes of the same meal."""

from __future__ import annotations

import math
from datetime import datetime, timedelta
from typing import TYPE_CHECKING, cast

import numpy as np
from pydantic import Field

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.checks import Model
from drylamp.core.heat.boil import BOILING_LATENT_J_KG
from drylamp.core.loads.pot.heat import shares_of
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.outcome.of_load import HEAT, JUDGED_HOURS, KELVIN, LoadOutcome, PlanStep, Way, moment
from drylamp.core.sky.clock import days_of, instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import celsius, kelvin
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

KG_PER_WHISTLE = 0.03
"""Steam that one whistle lets go; from memory, pots differ."""
MOST_WHISTLES = 60
PREHEAT = timedelta(minutes=30)
"""Half an hour empty in the sun before the food goes in; common practice, no source."""
LOOK_BEFORE_K = 4.0
"""A loaf is first looked at when its core is so far below done; from memory."""
BROWNS_C = 140.0
"""Crusts brown from about here on; from memory."""
REST_W_M2K = 12.0
"""Heat that a pot in the shade gives to the air, wind and radiation together; from memory."""
DANGER_LOW_C, DANGER_HIGH_C, DANGER_HOURS, DANGER_HOURS_HOT, HOT_DAY_C = 5.0, 60.0, 2.0, 1.0, 32.0
"""Time in the danger zone: USDA FSIS (5–60 °C, two hours, one above 32 °C), from memory."""
SIZES = (0.25, 0.5, 0.75, 1.0, 1.5, 2.0, 3.0)


AT_BOILING_K = 0.1
"""As near to its boiling point it boils."""
DRY_SHARE = 0.05
"""Water left of what went in, under which it counts as dry."""
SCORCH_C, CRUST_BURNS_C, DRY_FOOD_BURNS_C = 130.0, 220.0, 190.0
"""Where food sticks to a wall and burns, a crust turns black, nuts and grain burn; from memory."""


class PotResults(Model):
    """What became of a pot.

    Attributes:
        steam_kg: water that left it on the first day, as vapour and as steam
        dry_at, scorched_at: when it had boiled dry, when it burnt; none: it did not
    """

    whistles: list[datetime] = Field(default_factory=list)
    steam_kg: float = 0.0
    dry_at: datetime | None = None
    scorched_at: datetime | None = None


def whistles(site: Site, run: Run) -> list[datetime]:
    """When a pressure pot whistles: each time so much steam has gone."""
    steam_kg = np.concatenate([[0.0], np.cumsum(run.steam_kg)])
    count = np.floor(steam_kg / KG_PER_WHISTLE).astype(int)
    heard = (np.flatnonzero(np.diff(count) > 0) + 1)[:MOST_WHISTLES]
    return [local_time(site.zone, run.edge_s[k]) for k in heard]


def results(site: Site, load: PotLoad, run: Run) -> Model:
    """Whistles of a pressure pot, the water that left, and when it was dry or burnt."""

    def at(second: float | None) -> datetime | None:
        return None if second is None else local_time(site.zone, second)

    day = next(iter(days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1]))))
    first = (run.edge_s[:-1] >= day[1]) & (run.edge_s[:-1] < day[2])
    return PotResults(
        whistles=whistles(site, run) if load.is_tight else [], steam_kg=round(float(run.steam_kg[first].sum()), 3),
        dry_at=at(dry_at(load, run)), scorched_at=at(scorched_at(load, run)),
    )  # fmt: skip


def dry_at(load: PotLoad, run: Run) -> float | None:
    """When nearly all water had left what is in the pot, seconds since 1970; nothing to tell of what goes in dry."""
    if not load.is_moist:
        return None
    left = sum(np.nan_to_num(kg, nan=load.water_in_kg) for kg in run.water_kg.values())
    return _first(run, np.asarray(left) < DRY_SHARE * load.water_in_kg) if run.water_kg else None


def scorched_at(load: PotLoad, run: Run) -> float | None:
    """When it began to burn: at the wall where it is thick or dry, as a crust, or as nuts and grain do."""
    food = run.temperature_c["crust" if "crust" in run.temperature_c else "contents"]
    most = CRUST_BURNS_C if load.contents.crust_share > 0 else SCORCH_C if load.is_moist else DRY_FOOD_BURNS_C
    with np.errstate(invalid="ignore"):
        burns = food > most
        if load.is_moist and load.contents.film_w_m2k > 0 and not load.contents.crust_share:
            burns |= run.temperature_c["pot"] > SCORCH_C
    return _first(run, burns)


def _first(run: Run, is_so: np.ndarray) -> float | None:
    return float(run.edge_s[int(np.argmax(is_so))]) if is_so.any() else None


def _heard(outcome: Outcome) -> list[datetime]:
    return cast(PotResults, outcome.results).whistles


def steps(load: PotLoad, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Get ready, put in, and what follows on this day."""
    day, what, goes_in = outcome.days[0], load.title, moment(outcome, load.goes_in)
    out = [PlanStep(time=goes_in - PREHEAT, text=get_ready), PlanStep(time=goes_in, text=f"put the {what} in")]
    if load.whistles is not None:
        return out + _whistled(load, outcome)
    if day.target_reached_at is None:
        out.append(PlanStep(time=day.peak_at, text=f"peak of {celsius(day.peak_c)}: the {what} does not get there"))
        return out
    if load.is_slab:
        out.append(_first_look(load, outcome))
    out.append(PlanStep(time=day.target_reached_at, text=f"{what} at {celsius(outcome.target_c)}"))
    minutes = load.wanted_where(outcome.boiling_c).minutes
    if minutes > 0:
        ready = day.target_reached_at + timedelta(minutes=minutes)
        held = "ready" if day.enough else "time would be up, but it cools before"
        out.append(PlanStep(time=ready, text=f"{what} {held}"))
    return out


def _first_look(load: PotLoad, outcome: Outcome) -> PlanStep:
    """When to look at a loaf for the first time, and what its crust will be like."""
    core = next(curve for curve in outcome.curves if curve.node == load.judged)
    late = [
        t
        for t, c in zip(outcome.times, core.temperature_c, strict=True)
        if c is not None and c >= load.wanted_where(outcome.boiling_c).celsius - LOOK_BEFORE_K
    ]
    outer = next(curve for name in ("crust", "contents") for curve in outcome.curves if curve.node == name)
    crust = max(c for t, c in zip(outcome.times, outer.temperature_c, strict=True) if c is not None and t <= late[0])
    crusty = "its crust is brown by then" if crust >= BROWNS_C else f"its crust is still pale, {celsius(crust)}"
    return PlanStep(time=late[0], text=f"first look at the {load.title}, not before; {crusty}")


def _whistled(load: PotLoad, outcome: Outcome) -> list[PlanStep]:
    """Counted whistles, then a rest in the shade until the pot may be opened."""
    heard, wanted = _heard(outcome), load.whistles or 0
    if len(heard) < wanted:
        peak = outcome.days[0].peak_at
        return [
            PlanStep(time=peak, text=f"only {len(heard)} of {wanted} whistles on this day: plan another way to cook it")
        ]
    done = heard[wanted - 1]
    air_c = float(np.interp(done.timestamp(), [t.timestamp() for t in outcome.times], outcome.air_c))
    opens = done + timedelta(minutes=rest_minutes(load, air_c, outcome.boiling_c))
    return [
        PlanStep(time=heard[0], text="first whistle"),
        PlanStep(time=done, text=f"whistle number {wanted}: cover or turn the dish away, pot into the shade"),
        PlanStep(time=opens, text="open it now at the earliest, and only when its pin has dropped"),
    ]


def rest_minutes(load: PotLoad, air_c: float, boiling_c: float) -> float:
    """Minutes in the shade from the valve's temperature down to open boiling, as one lump that cools to the air."""
    capacity = load.food_capacity_j_k + load.pot_capacity_j_k
    loses = REST_W_M2K * (load.side_m2 + load.top_m2)
    return capacity / loses * math.log((load.wall.valve_c - air_c) / (boiling_c - air_c)) / 60.0


def turned_until(load: PotLoad, outcome: Outcome) -> datetime | None:
    """Once the last wanted whistle is heard, it is covered."""
    heard = _heard(outcome)
    counted = load.whistles is not None and len(heard) >= load.whistles
    return heard[(load.whistles or 1) - 1] if counted else None


def sizes(load: PotLoad) -> list[PotLoad]:
    """Other sizes of the same meal in a pot of the same shape."""
    out = []
    for share in SIZES:
        size = share ** (1 / 3)
        change = {
            "food_kg": round(load.food_kg * share, 3), "pot_kg": round(load.pot_kg * size**2, 3), "under": None if size > 1 else load.under,
            "pot_diameter_m": round(load.pot_diameter_m * size, 4), "pot_height_m": round(load.pot_height_m * size, 4),
        }  # fmt: skip
        out.append(load.model_copy(update=change))
    return out


def danger_hours(load: PotLoad, run: Run, site: Site) -> list[float]:
    """Hours of each day from going in until what is judged first passes the danger zone; each day's is a meal of its own."""
    out = []
    for day, _, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        put = instant_s(site.zone, day, load.first_in)
        series = run.temperature_c[load.judged][(run.edge_s >= put) & (run.edge_s < end)]
        if len(series) == 0 or np.isnan(series).all():
            continue
        rising = series[: int(np.nanargmax(series)) + 1]
        out.append(float(np.sum((rising > DANGER_LOW_C) & (rising < DANGER_HIGH_C)) * run.weather.dt_s / 3600.0))
    return out or [0.0]


def danger_most(run: Run) -> float:
    """Hours in the danger zone that are advised at most on a day as warm."""
    return DANGER_HOURS_HOT if float(run.weather.air_c.max()) > HOT_DAY_C else DANGER_HOURS


def too_long(load: PotLoad, run: Run, site: Site) -> bool:
    """Whether it spends more hours lukewarm than is advised."""
    return load.is_moist and load.food != "water" and max(danger_hours(load, run, site)) > danger_most(run)


def _window(run: Run, begun_s: float) -> np.ndarray:
    return (run.edge_s[:-1] >= begun_s - 1.0) & (run.edge_s[:-1] < begun_s + 3600.0 * JUDGED_HOURS)


def heat_taken_w(load: PotLoad, run: Run, begun_s: float) -> float | None:
    """Heat that the food took up over the hours after it went in, steam of boiling counted, vapour under it and its pot's own heat not, mean, W."""
    inside = np.flatnonzero(_window(run, begun_s))
    if len(inside) == 0:
        return None
    first, last, joules = inside[0], inside[-1] + 1, 0.0
    for node, share in shares_of(load).items():
        series = run.temperature_c[node]
        boiling = series[first + 1 : last + 1] > boiling_of(load, run) - AT_BOILING_K
        gone = np.where(boiling, run.steamed_kg[node][first:last], 0.0)
        heat = (load.dry_j_k * share + CP_WATER_J_KGK * run.water_kg[node]) * series
        with_it = gone * (BOILING_LATENT_J_KG + CP_WATER_J_KGK * series[first:last])
        joules += float(heat[last] - heat[first]) + float(with_it.sum())
    return float(joules / ((last - first) * run.weather.dt_s))


def boiling_of(load: PotLoad, run: Run) -> float:
    """Where its water boils: at its valve, or as high as the place is, °C."""
    return load.wall.valve_c if load.is_tight else run.boils_c


def stands_at_boiling(load: PotLoad, run: Run, begun_s: float) -> bool:
    """Whether it boils, or is as hot as it is wanted, within those hours: from there on a temperature says nothing any more."""
    series = run.temperature_c[load.judged][:-1][_window(run, begun_s)]
    limit = min(load.wanted_where(run.boils_c).celsius, boiling_of(load, run) - AT_BOILING_K)
    return bool((np.nan_to_num(series, nan=-273.0) >= limit).any())


def short_of(load: PotLoad, run: Run) -> str:
    """How far it stays under what it wants."""
    wanted, peak = load.wanted_where(run.boils_c).celsius, float(np.nanmax(run.temperature_c[load.judged]))
    return (
        ""
        if peak >= wanted
        else f"It does not cook {load.title} today: {celsius(peak)} at most, {kelvin(wanted - peak)} short of {celsius(wanted)}."
    )


OUTCOME: LoadOutcome[PotLoad] = LoadOutcome(
    measure=KELVIN,
    short=short_of,
    ways=(
        Way(
            HEAT,
            f"heat that the food takes up over the {JUDGED_HOURS:.0f} hours after it goes in, the steam of boiling counted",
            heat_taken_w,
            stands_at_boiling,
        ),
    ),
    steps=steps,
    results_model=PotResults,
    results=results,
    turned_until=turned_until,
    sizes=sizes,
)
