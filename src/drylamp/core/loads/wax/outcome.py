"""What became of a batch of wax: what was caught clean, whether it is worth melting today, the steps of its day."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TYPE_CHECKING, Literal, cast

import numpy as np

from drylamp.core.checks import Model
from drylamp.core.loads.wax.spec import ALL_RUN, Strainer, WaxBatch
from drylamp.core.outcome.of_load import (
    KELVIN,
    KG_AN_HOUR,
    MEAN_WORDS,
    Headline,
    Held,
    LoadOutcome,
    PlanStep,
    Way,
    mean_rise,
    moment,
    reached,
)
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, celsius, kelvin, kilograms
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

WORTH_MELTING_KG = 0.05
"""Less clean wax than this is not worth setting the melter out; from memory."""
WHOLLY_RUN = 0.97
"""Share of the yield from which on nothing more is waited for."""
SET_OUT = timedelta(minutes=30)
SHORTEST_H = 0.25
THROUGH: dict[Strainer, str] = {"none": "no strainer", "mesh": "mesh", "cloth": "cloth", "paper": "paper"}


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
    words: Sentence


class WaxResults(Model):
    """What became of a batch of wax."""

    wax: WaxResult | None = None


def results(site: Site, load: WaxBatch, run: Run) -> Model:
    """What was caught by the end of the run."""
    caught, series = run.mass_kg["catch"], run.temperature_c["wax"]
    clean, full = _caught_at_last(run), load.yield_kg

    def first(got: np.ndarray) -> datetime | None:
        return local_time(site.zone, run.edge_s[int(np.argmax(got))]) if got.any() else None

    with np.errstate(invalid="ignore"):
        melts_from, done_at = first(series >= load.row.melting_low_c), first(caught >= WHOLLY_RUN * full)
    share = clean / full if full > 0 else 0.0
    answer: Literal["melt", "partly", "wait"] = (
        "melt" if share > ALL_RUN else "partly" if clean > WORTH_MELTING_KG else "wait"
    )
    hottest = float(np.nanmax(series))
    said = {
        "melt": f"Melt today: {kilograms(clean)} of clean wax, all that the batch gives.",
        "partly": f"Partly: {kilograms(clean)} of {kilograms(full)} come clean today; the rest waits for the next sun.",
        "wait": f"Wait: the heap gets to {celsius(hottest)}, and it melts from {celsius(load.row.melting_low_c)}.",
    }
    found = WaxResult(
        answer=answer, clean_kg=round(clean, 3), yield_kg=round(full, 3), melts_from=melts_from, done_at=done_at,
        hottest_c=round(hottest, 1), words=said[answer],
    )  # fmt: skip
    return WaxResults(wax=found)


def _caught_at_last(run: Run) -> float:
    """Clean wax by the last time the tray was in, kg."""
    caught = run.mass_kg["catch"]
    seen = caught[~np.isnan(caught)]
    return float(seen[-1]) if len(seen) else 0.0


def done_at(load: WaxBatch, run: Run) -> float | None:
    """When all that it gives was caught, seconds since 1970."""
    return reached(run.edge_s, np.nan_to_num(run.mass_kg["catch"]), ALL_RUN * load.yield_kg)


def enough(load: WaxBatch, run: Run, day: Held) -> bool:
    """Whether all that it gives had been caught by the end of a day."""
    return bool(np.nan_to_num(run.mass_kg["catch"][day.edges]).max() >= ALL_RUN * load.yield_kg)


def score(load: WaxBatch, run: Run, begun_s: float) -> float | None:
    """Kilograms of clean wax an hour from laying in to the end of its run: more of it counts, and so does sooner."""
    done = done_at(load, run)
    lit = np.flatnonzero(run.opening_w > 1.0)
    end = done if done is not None else float(run.edge_s[lit[-1] + 1]) if len(lit) else float(run.edge_s[-1])
    kilograms = ALL_RUN * load.yield_kg if done is not None else _caught_at_last(run)
    return kilograms / max((end - begun_s) / 3600.0, SHORTEST_H)


def steps(load: WaxBatch, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Set out, lay in, and when it runs."""
    goes_in, wax = moment(outcome, load.goes_in), cast(WaxResults, outcome.results).wax
    assert wax is not None
    out = [
        PlanStep(time=goes_in - SET_OUT, text=f"{get_ready}, {THROUGH[load.strainer]} in place"),
        PlanStep(time=goes_in, text=f"{kilograms(load.batch_kg)} of {load.title} in, spread flat"),
    ]
    if wax.melts_from is not None and wax.answer != "wait":
        out.append(PlanStep(time=wax.melts_from, text="it begins to run"))
    if wax.done_at is not None:
        done = f"all run: {kilograms(wax.clean_kg)} clean; cover the glass or lay in the next batch"
        out.append(PlanStep(time=wax.done_at, text=done))
    else:
        out.append(PlanStep(time=outcome.days[0].peak_at + timedelta(hours=3), text=wax.words))
    return out


def headline(results: Model) -> Headline | None:
    """Whether it melts today, how much comes clean, and from when till when it runs."""
    wax = cast(WaxResults, results).wax
    if wax is None:
        return None
    brief = "wait for sun" if wax.answer == "wait" else f"{kilograms(wax.clean_kg)} clean"
    if wax.answer == "wait" or wax.melts_from is None:
        return Headline(wax.words, brief)
    done = "" if wax.done_at is None else f" and is done at {wax.done_at:%H:%M}"
    return Headline(f"{wax.words} It begins to run at {wax.melts_from:%H:%M}{done}.", brief)


def melts_nothing(load: WaxBatch, run: Run, begun_s: float) -> bool:
    """Whether no clean wax worth the trouble is caught, so that a rate of it says nothing."""
    return _caught_at_last(run) <= WORTH_MELTING_KG


def short_of(load: WaxBatch, run: Run) -> str:
    """How far the heap stays under its melting, or what else keeps it from running."""
    if _caught_at_last(run) > WORTH_MELTING_KG:
        return ""
    hottest, low = float(np.nanmax(run.temperature_c["wax"])), load.row.melting_low_c
    if hottest >= low:
        return f"Nothing runs clean today though it melts, {celsius(hottest)} at most: the floor is too level, or the strainer too tight."
    return f"It does not melt today: {celsius(hottest)} at most, {kelvin(low - hottest)} short of where {load.row.title.lower()} begins to melt."


OUTCOME: LoadOutcome[WaxBatch] = LoadOutcome(
    measure=KG_AN_HOUR, steps=steps, results_model=WaxResults, results=results, headline=headline, score=score, enough=enough,
    counts="clean wax for each hour from laying in until all has run, or the sun is gone", short=short_of,
    ways=(Way(KELVIN, f"{MEAN_WORDS}, as nothing melts today", lambda load, run, begun_s: mean_rise(["wax"], run, begun_s), melts_nothing),),
    done_at=done_at, clean_kg=lambda load, run: _caught_at_last(run), otherwise="Wait for a better day.",
)  # fmt: skip
