"""What became of a load in a run: states of portions, clean wax, whistles of a pressure pot."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

import numpy as np
from pydantic import Field

from drylamp.core.checks import Model
from drylamp.core.heat.laws import LATENT_J_KG
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.portions import Portion, Portions, State, melted_through_c, state_of
from drylamp.core.loads.pot import PotLoad
from drylamp.core.loads.wax import WaxBatch
from drylamp.core.sky.site import Site
from drylamp.core.twin import Run

KG_PER_WHISTLE = 0.03
"""Steam that one whistle lets go; from memory, pots differ."""
MOST_WHISTLES = 60
ALL_RUN = 0.9
"""Share of what a batch can give that counts as all of it."""
WORTH_MELTING_KG = 0.05
"""Less clean wax than this is not worth setting the melter out; from memory."""


class PortionResult(Model):
    """How far a portion got, and when."""

    node: str
    title: str
    state: State
    hottest_c: float
    soft_at: datetime | None
    melted_at: datetime | None


class WaxResult(Model):
    """What a melter gave.

    Attributes:
        answer: whether it melts today: all of it, a part, or nothing worth the trouble
        clean_kg, yield_kg: caught clean by the end, and all that the batch could give
    """

    answer: Literal["melt", "partly", "wait"]
    clean_kg: float
    yield_kg: float
    melts_from: datetime | None
    done_at: datetime | None
    hottest_c: float
    words: str


class Results(Model):
    """What became of a load; empty lists and none where it does not apply."""

    portions: list[PortionResult] = Field(default_factory=list)
    wax: WaxResult | None = None
    whistles: list[datetime] = Field(default_factory=list)


def results_of(site: Site, load: AnyLoad | None, run: Run) -> Results:
    """Read a run's last day for what its load became."""
    if isinstance(load, Portions):
        return Results(portions=[_portion(site, portion, run) for portion in load.portions])
    if isinstance(load, WaxBatch):
        return Results(wax=_wax(site, load, run))
    if isinstance(load, PotLoad) and load.is_tight:
        return Results(whistles=whistles(site, run))
    return Results()


def _at(site: Site, second: float) -> datetime:
    return datetime.fromtimestamp(round(float(second)), site.zone)


def _first(site: Site, run: Run, reached: np.ndarray) -> datetime | None:
    return _at(site, run.edge_s[int(np.argmax(reached))]) if reached.any() else None


def _portion(site: Site, portion: Portion, run: Run) -> PortionResult:
    series, row = run.temperature_c[portion.node], portion.row
    with np.errstate(invalid="ignore"):
        soft, melted = series >= row.soft_c, series >= melted_through_c(row)
    return PortionResult(
        node=portion.node, title=portion.title, state=state_of(row, series), hottest_c=round(float(np.nanmax(series)), 1),
        soft_at=_first(site, run, soft), melted_at=_first(site, run, melted),
    )  # fmt: skip


def _wax(site: Site, load: WaxBatch, run: Run) -> WaxResult:
    caught, series = run.mass_kg["catch"], run.temperature_c["wax"]
    clean, full = float(np.nan_to_num(caught[-1])), load.yield_kg
    with np.errstate(invalid="ignore"):
        melts_from = _first(site, run, series >= load.row.melting_low_c)
        done_at = _first(site, run, caught >= 0.97 * full)
    share = clean / full if full > 0 else 0.0
    answer: Literal["melt", "partly", "wait"] = (
        "melt" if share > ALL_RUN else "partly" if clean > WORTH_MELTING_KG else "wait"
    )
    hottest = float(np.nanmax(series))
    said = {
        "melt": f"Melt today: {clean:.2f} kg of clean wax, all that the batch gives.",
        "partly": f"Partly: {clean:.2f} of {full:.2f} kg come clean today; the rest waits for the next sun.",
        "wait": f"Wait: the heap gets to {hottest:.0f} °C, and it melts from {load.row.melting_low_c:g} °C.",
    }
    return WaxResult(
        answer=answer, clean_kg=round(clean, 3), yield_kg=round(full, 3), melts_from=melts_from, done_at=done_at,
        hottest_c=round(hottest, 1), words=said[answer],
    )  # fmt: skip


def whistles(site: Site, run: Run) -> list[datetime]:
    """When a pressure pot whistles: each time so much steam has gone."""
    steam_kg = np.concatenate(
        [[0.0], np.cumsum(np.maximum(run.account_w["steam"], 0.0)) * run.weather.dt_s / LATENT_J_KG]
    )
    count = np.floor(steam_kg / KG_PER_WHISTLE).astype(int)
    return [_at(site, run.edge_s[k]) for k in (np.flatnonzero(np.diff(count) > 0) + 1)[:MOST_WHISTLES]]
