"""What became of a pot: when it was done, its whistles, the steps of its day, other sizes of the same meal."""

from __future__ import annotations

import math
from datetime import datetime, timedelta
from typing import TYPE_CHECKING, cast

import numpy as np
from pydantic import Field

from drylamp.core.checks import Model
from drylamp.core.heat.laws import LATENT_J_KG
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.outcome.of_load import KELVIN, LoadOutcome, PlanStep, moment
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import celsius
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
SIZES = (0.25, 0.5, 0.75, 1.0, 1.5, 2.0, 3.0)


class PotResults(Model):
    """What became of a pot."""

    whistles: list[datetime] = Field(default_factory=list)


def whistles(site: Site, run: Run) -> list[datetime]:
    """When a pressure pot whistles: each time so much steam has gone."""
    steam_kg = np.concatenate(
        [[0.0], np.cumsum(np.maximum(run.account_w["steam"], 0.0)) * run.weather.dt_s / LATENT_J_KG]
    )
    count = np.floor(steam_kg / KG_PER_WHISTLE).astype(int)
    heard = (np.flatnonzero(np.diff(count) > 0) + 1)[:MOST_WHISTLES]
    return [local_time(site.zone, run.edge_s[k]) for k in heard]


def results(site: Site, load: PotLoad, run: Run) -> Model:
    """Whistles of a pressure pot."""
    return PotResults(whistles=whistles(site, run) if load.is_tight else [])


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
    if load.wanted_minutes > 0:
        ready = day.target_reached_at + timedelta(minutes=load.wanted_minutes)
        held = "ready" if day.enough else "time would be up, but it cools before"
        out.append(PlanStep(time=ready, text=f"{what} {held}"))
    return out


def _first_look(load: PotLoad, outcome: Outcome) -> PlanStep:
    """When to look at a loaf for the first time, and what its crust will be like."""
    core = next(curve for curve in outcome.curves if curve.node == load.judged)
    late = [
        t
        for t, c in zip(outcome.times, core.temperature_c, strict=True)
        if c is not None and c >= load.wanted_c - LOOK_BEFORE_K
    ]
    pot = next(curve for curve in outcome.curves if curve.node == "pot")
    crust = max(c for c in pot.temperature_c if c is not None)
    crusty = (
        "its crust browns"
        if crust >= BROWNS_C
        else f"its crust stays pale and moist, the tin gets to {celsius(crust)} only"
    )
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


OUTCOME: LoadOutcome[PotLoad] = LoadOutcome(
    measure=KELVIN, steps=steps, results_model=PotResults, results=results, turned_until=turned_until, sizes=sizes
)
