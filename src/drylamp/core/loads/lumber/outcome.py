"""What became of a charge: mean, shell and core of each group, its daily loss against the safe rate, its stress, when it is dry, and the same wood outside."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, cast

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model, YesNo
from drylamp.core.heat.cells import CELLS, FIBRE_SATURATION, SHARES
from drylamp.core.heat.drying import LATENT_J_KG
from drylamp.core.loads.common.outcome import READY
from drylamp.core.loads.common.stacked import CHAMBER, ROOF, ROUND, SHADES
from drylamp.core.loads.common.wood import equilibrium_mc, shell_mc, total_shrinkage
from drylamp.core.loads.lumber.group import BoardGroup, node_of
from drylamp.core.loads.lumber.meter import meter_reads
from drylamp.core.loads.lumber.outside import dried_outside
from drylamp.core.loads.lumber.quality import (
    Risk,
    cup_mm,
    end_loss_mm,
    mould_hours,
    risk_of,
    sag_mm,
    strained,
)
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.outcome.of_load import Headline, Held, LoadOutcome, Measure, PlanStep, Stand, moment
from drylamp.core.sky.clock import days_of, instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount, capital, counted, kilograms
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

MOST_TIMES, LEAST_SHOWN_S = 240, 1800.0
WATER = Measure("mass", 0.02, 0.1, 0.3)
"""Kilograms of water that a day takes out of it; what goes faster than is safe counts against it."""
TOO_FAST = 2.0
"""Times that water over the safe rate counts off: as much over it is as bad as so much less; from memory."""
PEAK_S = 600.0
FULL_DAY = 0.9
"""Share of a day that a loss is told of."""
GETS_IN, PAST_BAFFLE = 0.7, 0.05
"""Of the sun on level ground through a roof, and past a baffle; from memory."""


class GroupResult(Model):
    """What became of a group; series share the result's ``times``, none while it is not in.

    Attributes:
        mean_mc, shell_mc, core_mc: of all, of the outer twelfth of the half thickness, of the innermost
        cells_mc: from core to face, by time
        outside_mc: mean of the same boards in their stack outside
        loss_per_day: by the result's days; none where it was not in for all of a day
        first_day_loss: in its first 24 hours
        worst_loss, worst_loss_on: the largest of them, of a stay of less than a day all that it lost; safe_per_day: the published rate, and how many days are over it
        done_at, days: when its mean is at the target
        meter_mc: what the meter shows at the end, meter_felt_mc: where it feels
        meter_done_mc: what it will show when it is dry
        shell_stress, core_stress: at the end, shares of what each bears, pulled above nothing; the worst of both
        relief_share: what a night takes off the shell's pull
        checks, honeycomb: how near
        shrunk_mm: off its width so far; cup_mm, sag_mm, end_loss_mm: hollow, between sticks, off each end; bleach_kwh_m2: light on its top layer
        outside_end_mc: mean of the stack outside at the end
    """

    node: str
    title: Sentence
    species: str
    thickness_mm: float
    wood_m3: float
    went_in: datetime
    came_out: datetime | None
    target_mc: float
    start_mc: float
    mean_mc: list[float | None]
    shell_mc: list[float | None]
    core_mc: list[float | None]
    cells_mc: list[list[float] | None]
    outside_mc: list[float | None]
    loss_per_day: list[float | None]
    first_day_loss: float | None
    worst_loss: float
    worst_loss_on: date
    safe_per_day: float | None
    days_over_safe: int
    done_at: datetime | None
    days: float | None
    end_mc: float
    shell_end_mc: float
    core_end_mc: float
    meter_mc: float
    meter_felt_mc: float
    meter_done_mc: float
    meter_unsure: YesNo
    shell_stress: float
    core_stress: float
    worst_shell_stress: float
    worst_core_stress: float
    relief_share: float | None
    checks: Risk
    honeycomb: Risk
    shrunk_mm: float
    cup_mm: float
    sag_mm: float
    end_loss_mm: float
    bleach_kwh_m2: float
    outside_end_mc: float
    outside_done_at: datetime | None

    @property
    def safe_share(self) -> float | None:
        """Its largest loss of a day by the published safe rate; none where there is none."""
        return None if self.safe_per_day is None else self.worst_loss / self.safe_per_day


class KilnDay(Model):
    """A day: the chamber's highest ten minutes, its air on the mean, what it would bring wood to, water out of the boards, how much of the sun that took, dew on the roof, hours of fan, sun on level ground."""

    day: date
    peak_c: float
    low_c: float
    mean_c: float
    mean_rh: float
    emc: float
    water_kg: float
    vapour_share: float
    dew_kg: float
    dripped_kg: float
    fan_h: float
    sun_kwh_m2: float


class LumberResult(Model):
    """What became of a charge.

    Attributes:
        times: of the groups' series
        emc: of the chamber at those times
        done_at: when the last group is dry
        vapour_share: of the sun on the roof that went into their water
        mould_hours: damper than 80 % between 10 and 40 °C
        rain: whether rain was counted outside
    """

    times: list[datetime]
    emc: list[float]
    chamber_rh: list[float]
    groups: list[GroupResult]
    days: list[KilnDay]
    done_at: datetime | None
    water_kg: float
    vapour_share: float
    dripped_kg: float
    mould_hours: float
    rain: YesNo
    water_closure: float
    words: Sentence


class LumberResults(Model):
    """What became of a charge of boards."""

    lumber: LumberResult | None = None


# --- series of a run ---


@dataclass(frozen=True)
class Kept:
    """A group in a run: its edges inside [first, last], its cells there, its mean."""

    group: BoardGroup
    first: int
    last: int
    cells: Array
    celsius: Array

    @property
    def mean(self) -> Array:
        """Shape (last − first + 1,)."""
        return np.asarray(self.cells @ SHARES)

    @property
    def shell(self) -> Array:
        """The outer twelfth."""
        return shell_mc(self.cells)

    @property
    def core(self) -> Array:
        """The innermost."""
        return self.cells[:, 0]

    def row_at(self, run: Run, second: float) -> int | None:
        """Row of its cells at an instant; none while it is not in."""
        row = round((second - float(run.edge_s[self.first])) / run.weather.dt_s)
        return row if 0 <= row < len(self.cells) else None

    def over(self, run: Run, values: Array) -> Array:
        """Laid out over the run's edges, NaN outside."""
        out = np.full(len(run.edge_s), np.nan)
        out[self.first : self.last + 1] = values
        return out


def kept_of(group: BoardGroup, run: Run) -> Kept | None:
    """A group in a run; none where it never was in."""
    cells = None if run.damp is None else run.damp.cells.get(node_of(group))
    if cells is None:
        return None
    inside = np.flatnonzero(~np.isnan(cells[:, 0]))
    if not len(inside):
        return None
    first, last = int(inside[0]), int(inside[-1])
    return Kept(group, first, last, cells[first : last + 1], run.temperature_c[node_of(group)][first : last + 1])


def all_kept(load: LumberCharge, run: Run) -> list[Kept]:
    """Its groups that were in a run."""
    return [kept for group in load.numbered if (kept := kept_of(group, run)) is not None]


def chamber_rh(run: Run) -> Array:
    """Relative humidity of the chamber at the run's edges."""
    return run.relative_humidity(CHAMBER)


def dry_edge(kept: Kept) -> int | None:
    """Edge of the run at which a group's mean is at its target."""
    below = np.flatnonzero(kept.mean <= kept.group.target_mc + 1e-9)
    return kept.first + int(below[0]) if len(below) else None


def water_lost(load: LumberCharge, run: Run) -> Array:
    """Water that left the boards in each step, kg."""
    out = np.zeros(run.weather.steps)
    for kept in all_kept(load, run):
        out[kept.first : kept.last] -= kept.group.dry_kg * np.diff(kept.mean)
    return out


# --- the result ---


def results(site: Site, load: LumberCharge, run: Run) -> Model:
    """Group by group, day by day."""
    if run.damp is None:
        return LumberResults()
    stride = max(1, round(LEAST_SHOWN_S / run.weather.dt_s), math.ceil(len(run.edge_s) / MOST_TIMES))
    shown = np.arange(0, len(run.edge_s), stride)
    rh = chamber_rh(run)
    groups = [_group(site, load, kept, run, shown) for kept in all_kept(load, run)]
    lost, sun = water_lost(load, run), float(run.opening_w.sum()) * run.weather.dt_s
    done = [group.done_at for group in groups]
    finished = max(at for at in done if at is not None) if groups and all(at is not None for at in done) else None
    celsius = run.temperature_c[CHAMBER]
    whole = LumberResult(
        times=[local_time(site.zone, run.edge_s[i]) for i in shown], emc=[round(equilibrium_mc(float(celsius[i]), float(rh[i])), 4) for i in shown],
        chamber_rh=[round(float(rh[i]), 3) for i in shown], groups=groups, days=_days(site, run, rh, lost), done_at=finished, water_kg=round(float(lost.sum()), 2),
        vapour_share=round(float(lost.sum()) * LATENT_J_KG / sun, 4) if sun > 0.0 else 0.0, dripped_kg=round(float(_off_roof(run).sum()), 3),
        mould_hours=round(mould_hours(celsius[:-1], rh[:-1], run.weather.dt_s), 1), rain=run.weather.rain_mm_h is not None, water_closure=run.damp.closure,
        words=_words(groups, run),
    )  # fmt: skip
    return LumberResults(lumber=whole)


def _group(site: Site, load: LumberCharge, kept: Kept, run: Run, shown: np.ndarray) -> GroupResult:
    group, zone, dt = kept.group, site.zone, run.weather.dt_s
    mean, shell, core = kept.mean, kept.shell, kept.core
    done, strain = dry_edge(kept), strained(group, kept.cells, kept.celsius, dt)
    losses, first = _losses(site, kept, run), _first_day(kept, run)
    told = [loss for loss in (*losses.values(), first) if loss is not None] or [float(mean[0] - mean[-1])]
    worst = max(told)
    worst_on = next(
        (day for day, loss in losses.items() if loss == worst), local_time(zone, run.edge_s[kept.first]).date()
    )
    safe = group.safe_per_day
    outside = dried_outside(load, group, run.weather, kept.first)
    out_mean = outside.mean_mc
    out_done = np.flatnonzero(out_mean <= group.target_mc)
    reading = meter_reads(load.meter, group, kept.cells[-1], float(kept.celsius[-1]))
    evenly = np.full(CELLS, group.target_mc) if done is None else kept.cells[done - kept.first]
    rate_share = worst / safe if safe is not None else strain.worst_shell
    dried_by = float(SHARES @ np.maximum(FIBRE_SATURATION - kept.cells[-1], 0.0)) / FIBRE_SATURATION
    shrunk = dried_by * total_shrinkage(group.row, group.cut) * group.width_mm
    return GroupResult(
        node=node_of(group), title=group.title, species=group.row.title, thickness_mm=group.thickness_mm, wood_m3=group.wood_m3, went_in=local_time(zone, run.edge_s[kept.first]),
        came_out=None if kept.last == len(run.edge_s) - 1 else local_time(zone, run.edge_s[kept.last]), target_mc=group.target_mc, start_mc=round(float(mean[0]), 4),
        mean_mc=_shown(kept.over(run, mean), shown), shell_mc=_shown(kept.over(run, shell), shown), core_mc=_shown(kept.over(run, core), shown),
        cells_mc=[[round(float(u), 4) for u in kept.cells[i - kept.first]] if kept.first <= i <= kept.last else None for i in shown], outside_mc=_shown(out_mean, shown),
        loss_per_day=[None if loss is None else round(loss, 5) for loss in losses.values()], first_day_loss=None if first is None else round(first, 5), worst_loss=round(worst, 5), worst_loss_on=worst_on,
        safe_per_day=None if safe is None else round(safe, 5), days_over_safe=0 if safe is None else sum(loss > safe for loss in told),
        done_at=None if done is None else local_time(zone, run.edge_s[done]), days=None if done is None else round((run.edge_s[done] - run.edge_s[kept.first]) / 86400.0, 2),
        end_mc=round(float(mean[-1]), 4), shell_end_mc=round(float(shell[-1]), 4), core_end_mc=round(float(core[-1]), 4), meter_mc=round(reading.shown_mc, 4), meter_felt_mc=round(reading.felt_mc, 4),
        meter_done_mc=round(meter_reads(load.meter, group, evenly, 20.0).shown_mc, 4), meter_unsure=reading.unsure, shell_stress=round(float(strain.shell_share[-1]), 3),
        core_stress=round(float(strain.core_share[-1]), 3), worst_shell_stress=round(strain.worst_shell, 3), worst_core_stress=round(strain.worst_core, 3),
        relief_share=None if strain.relief_share is None else round(strain.relief_share, 3), checks=risk_of(rate_share),
        honeycomb=risk_of(strain.worst_core), shrunk_mm=round(shrunk, 2), cup_mm=round(cup_mm(load, group, float(mean[-1])), 2), sag_mm=round(sag_mm(load, group), 2),
        end_loss_mm=round(end_loss_mm(load.end_paint, group, rate_share), 1), bleach_kwh_m2=round(_light_kwh_m2(load, kept, run), 2), outside_end_mc=round(float(out_mean[kept.last]), 4),
        outside_done_at=None if not len(out_done) else local_time(zone, run.edge_s[int(out_done[0])]),
    )  # fmt: skip


def _light_kwh_m2(load: LumberCharge, kept: Kept, run: Run) -> float:
    """Light on the top layer while it was in: what gets past the baffle, if there is one, on walls, floor and stack alike; none under a cover."""
    if load.top_cover:
        return 0.0
    past = PAST_BAFFLE if SHADES in run.temperature_c else 1.0
    sun = float(run.plane_w_m2[kept.first : kept.last].sum()) * run.weather.dt_s / 3.6e6
    return GETS_IN * past * sun


def _shown(series: Array, shown: np.ndarray) -> list[float | None]:
    return [None if np.isnan(value) else round(float(value), 4) for value in series[shown]]


def _losses(site: Site, kept: Kept, run: Run) -> dict[date, float | None]:
    """Loss of the mean by day, scaled to whole days; none of days on which it was in for less than most of one."""
    mean, out = kept.over(run, kept.mean), dict[date, float | None]()
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        first, last = (
            int(np.clip(round((at - run.edge_s[0]) / run.weather.dt_s), kept.first, kept.last)) for at in (begin, end)
        )
        share = (last - first) * run.weather.dt_s / 86400.0
        out[day] = float(mean[first] - mean[last]) / share if share > FULL_DAY else None
    return out


def _first_day(kept: Kept, run: Run) -> float | None:
    """Loss of its first 24 hours; none where it is not in for so long."""
    day = round(86400.0 / run.weather.dt_s)
    return float(kept.mean[0] - kept.mean[day]) if kept.last - kept.first >= day else None


def _off_roof(run: Run) -> Array:
    """Dew that ran off the roof in each step, out by a gutter or back on the floor, shape (steps,)."""
    nothing = np.zeros(run.weather.steps)
    return nothing if run.damp is None else run.damp.ran_kg.get(ROOF, nothing)


def _days(site: Site, run: Run, rh: Array, lost: Array) -> list[KilnDay]:
    assert run.damp is not None
    celsius, out = run.temperature_c[CHAMBER], list[KilnDay]()
    wide = max(1, round(PEAK_S / run.weather.dt_s))
    steps_c = 0.5 * (celsius[1:] + celsius[:-1])
    smooth = np.convolve(steps_c, np.full(wide, 1.0 / wide), mode="valid") if len(steps_c) >= wide else steps_c
    ran, dew, dripped = run.ran_s.get(ROUND), run.damp.held_kg.get(ROOF), _off_roof(run)
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        steps = np.flatnonzero((run.edge_s[:-1] >= begin - 1.0) & (run.edge_s[:-1] < end - 1.0))
        if not len(steps):
            continue
        part = smooth[steps[0] : max(steps[-1] + 2 - wide, steps[0] + 1)]
        sun, mean_c, mean_rh = (
            float(run.opening_w[steps].sum()) * run.weather.dt_s,
            float(steps_c[steps].mean()),
            float(rh[steps].mean()),
        )
        out.append(
            KilnDay(
                day=day, peak_c=round(float(part.max()), 2), low_c=round(float(steps_c[steps].min()), 2), mean_c=round(mean_c, 2), mean_rh=round(mean_rh, 3), emc=round(equilibrium_mc(mean_c, min(mean_rh, 0.99)), 4),
                water_kg=round(float(lost[steps].sum()), 3), vapour_share=round(float(lost[steps].sum()) * LATENT_J_KG / sun, 4) if sun > 1.0 else 0.0,
                dew_kg=0.0 if dew is None else round(float(np.nanmax(dew[steps])), 3), dripped_kg=round(float(dripped[steps].sum()), 3), fan_h=0.0 if ran is None else round(float(ran[steps].sum()) / 3600.0, 2),
                sun_kwh_m2=round(float(run.plane_w_m2[steps].sum()) * run.weather.dt_s / 3.6e6, 3),
            )
        )  # fmt: skip
    return out


def percent(moisture: float) -> str:
    """A moisture content as sawyers say it."""
    return f"{100.0 * moisture:.1f} %" if moisture < 0.3 else f"{100.0 * moisture:.0f} %"


def _words(groups: list[GroupResult], run: Run) -> str:
    days = (run.edge_s[-1] - run.edge_s[0]) / 86400.0
    if not groups:
        return "Nothing was in it."
    ends = f"after {counted(round(days), 'day')}" if days > 1.5 else "at the end of the day"
    first = "; ".join(_stands(group, ends) for group in groups)
    said = f"{capital(first)}."
    over = [group for group in groups if group.days_over_safe]
    if over:
        worst = max(over, key=lambda group: group.safe_share or 0.0)
        said += f" {capital(worst.title)} loses up to {percent(worst.worst_loss)} a day, where {percent(worst.safe_per_day or 0.0)} is the published safe rate."
    return said


def _stands(group: GroupResult, ends: str) -> str:
    if group.days is None or group.done_at is None:
        return f"{group.title} is at {percent(group.end_mc)} (shell {percent(group.shell_end_mc)}, core {percent(group.core_end_mc)}) {ends}"
    if group.days < 0.5:
        return f"{group.title} is dry already, at {percent(group.start_mc)}"
    return f"{group.title} comes to {percent(group.target_mc)} on {group.done_at:%d %B}"


def done_at(load: LumberCharge, run: Run) -> float | None:
    """When the last group is dry, seconds since 1970."""
    edges = [None if (kept := kept_of(group, run)) is None else dry_edge(kept) for group in load.numbered]
    return (
        None
        if any(edge is None for edge in edges)
        else float(max(run.edge_s[edge] for edge in edges if edge is not None))
    )


def enough(load: LumberCharge, run: Run, day: Held) -> bool:
    """Whether all of it was dry by the end of a day."""
    done = done_at(load, run)
    return done is not None and bool((run.edge_s[day.edges] >= done).any())


def score(load: LumberCharge, run: Run, begun_s: float) -> float | None:
    """Kilograms of water a day that go out of it until it is dry, or the run ends; what went faster than is safe counted off."""
    done = done_at(load, run)
    last = len(run.edge_s) - 1 if done is None else round((done - run.edge_s[0]) / run.weather.dt_s)
    days = max(float(run.edge_s[last] - run.edge_s[0]) / 86400.0, 1.0 / 24.0)
    too_fast = sum(_too_fast_kg(kept, run, last) for kept in all_kept(load, run))
    return (float(water_lost(load, run)[:last].sum()) - TOO_FAST * too_fast) / days


def _too_fast_kg(kept: Kept, run: Run, last: int) -> float:
    """Water that went over the safe rate, day by day from going in."""
    safe, day = kept.group.safe_per_day, round(86400.0 / run.weather.dt_s)
    if safe is None:
        return 0.0
    until = max(min(last, kept.last) - kept.first, 0)
    by_day = kept.mean[: until + 1 : day]
    return kept.group.dry_kg * float(np.maximum(-np.diff(by_day) - safe, 0.0).sum())


def daily(results: Model) -> dict[date, str]:
    """Water driven out, and the day's peak."""
    found = cast(LumberResults, results).lumber
    return (
        {}
        if found is None
        else {
            day.day: f"{kilograms(day.water_kg)} of water out, peak {amount(day.peak_c, 'temperature')}"
            for day in found.days
        }
    )


def stands(results: Model) -> dict[date, Stand]:
    """Moisture of the group that has farthest to go by the evening."""
    found = cast(LumberResults, results).lumber
    if found is None:
        return {}
    out = dict[date, Stand]()
    for row, time in enumerate(found.times):
        wet = [
            (mean - group.target_mc, mean)
            for group in found.groups
            if (group.done_at is None or group.done_at > time) and (mean := group.mean_mc[row]) is not None
        ]
        if wet:
            out[time.date()] = Stand(percent(max(wet)[1]), False)
        elif any(group.done_at is not None and group.done_at <= time for group in found.groups):
            out[time.date()] = Stand("dry", True)
            if found.done_at is not None and found.done_at <= time:
                break
    return out


def headline(results: Model) -> Headline | None:
    """When it is dry, or how far it is."""
    found = cast(LumberResults, results).lumber
    if found is None or not found.groups:
        return None
    if found.done_at is not None:
        return Headline(found.words, f"dry {found.done_at:%d %b}")
    wettest = max(found.groups, key=lambda group: group.end_mc - group.target_mc)
    return Headline(found.words, f"{percent(wettest.end_mc)}, {kilograms(found.water_kg)} of water out")


def steps(load: LumberCharge, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Look, read the meter, shut or open, pull."""
    out = [PlanStep(time=moment(outcome, READY), text=get_ready)]
    found = cast(LumberResults, outcome.results).lumber
    first = outcome.times[0]
    for group in [] if found is None else found.groups:
        if group.went_in.date() == first.date() and not (load.already_in and group.went_in.hour == 0):
            out.append(
                PlanStep(
                    time=max(group.went_in, out[0].time),
                    text=f"{group.title} in: {amount(group.wood_m3, 'timber')}; read the meter on three boards and weigh a sample board",
                )
            )
        if group.days_over_safe:
            out.append(
                PlanStep(
                    time=moment(outcome, READY) + timedelta(minutes=5),
                    text=f"{group.title}: shut the vents by half, the loss of a day is over the safe rate",
                )
            )
        if group.done_at is not None:
            out.append(
                PlanStep(
                    time=max(group.done_at, moment(outcome, READY)),
                    text=f"{group.title} dry: the meter shows {percent(group.meter_done_mc)}; pull it",
                )
            )
    return sorted(out, key=lambda step: step.time)


def put_s(site: Site, day: date, load: LumberCharge) -> float:
    """When it goes in on a day, seconds since 1970."""
    return instant_s(site.zone, day, load.goes_in)


OUTCOME: LoadOutcome[LumberCharge] = LoadOutcome(
    measure=WATER, steps=steps, results_model=LumberResults, results=results, headline=headline, score=score, enough=enough, done_at=done_at, daily=daily, stands=stands,
    counts="water a day that goes out of it until it is dry, what went faster than is safe counted off",
    counts_minutes=False, otherwise="Leave it in, or finish it indoors by a stove.",
)  # fmt: skip
