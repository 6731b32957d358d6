"""What is asked of a food dryer: how far to open its vent, and why it is not as hot as was promised."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

import numpy as np

from drylamp.core.advice.apart import Apart, Difference, Promise, apart
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.drying import VentCurve, VentPoint
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.air_collector.links import absorber_nodes, air_nodes
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Vent
from drylamp.core.builds.dryer.spec import DRAUGHT, FoodDryer
from drylamp.core.checks import InputProblem
from drylamp.core.common.wall import wall_w_m2k
from drylamp.core.loads.common.shelves import INTO
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.sun import compass
from drylamp.core.sky.weather import Span
from drylamp.core.text import amount, celsius, degrees, metres, square_metres
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import climate_day

OPENINGS = (0.05, 0.1, 0.2, 0.3, 0.45, 0.6, 0.8, 1.0)
FLAT_SHARE = 0.95
"""Openings that dry at least so much of what the best one does count as good enough."""
AIR_KG_M3, STEP_S = 1.12, 300
NEARLY_SHUT = 0.1
WARMER_K = 10.0
JUNE, DECEMBER = 6, 12


def vent_curve(context: AdviceContext, build: FoodDryer) -> VentCurve:
    """Temperature, air and drying against the opening of the vent, on the context's day."""
    load = context.load
    if load is None:
        raise InputProblem("load", "its trays are bare; lay something on them, so that there is something to dry")
    wanted = load.wanted_c
    begun = context.put_in_s()

    holds_m3 = build.floor_m2 * build.cabinet_m + (
        0.0 if build.collector is None else build.collector.channel_m2 * build.collector.length_m
    )

    def at(share: float) -> VentPoint:
        run = context.run(build.opened(share), load)
        lit = run.opening_w > 0.25 * run.opening_w.max()
        moved = np.zeros(1) if run.damp is None else run.damp.moved_kg[DRAUGHT][lit]
        score = outcome_of(load).score(load, run, begun)
        done = outcome_of(load).done_at(load, run)
        m3_h = float(moved.mean()) / run.weather.dt_s * 3600.0 / AIR_KG_M3
        return VentPoint(
            open_share=share, into_trays_c=round(float(np.nanmax(run.temperature_c[INTO])), 2), flow_m3_h=round(m3_h, 2), changes_h=round(m3_h / holds_m3, 1),
            dries=round(score or 0.0, 4), hours=None if done is None else round((done - begun) / 3600.0, 2),
        )  # fmt: skip

    points = two_at_a_time(at, OPENINGS)
    best = max(points, key=lambda p: p.dries)
    near = min(points, key=lambda p: abs(p.into_trays_c - wanted))
    flat = [p.open_share for p in points if p.dries >= FLAT_SHARE * best.dries]
    shut = points[0]
    words = (
        f"Dries fastest {100 * best.open_share:.0f} % open, {celsius(best.into_trays_c)} into the trays; from {100 * flat[0]:.0f} to {100 * flat[-1]:.0f} % it makes little difference. "
        f"Nearest to {celsius(wanted)}: {100 * near.open_share:.0f} % open. Nearly shut it is {celsius(shut.into_trays_c)} hot and dries {100 * (1 - shut.dries / best.dries):.0f} % slower."
    )
    return VentCurve(
        points=points,
        best_share=best.open_share,
        wanted_c=wanted,
        for_wanted_share=near.open_share,
        flat_from=flat[0],
        flat_to=flat[-1],
        words=words,
    )


@dataclass(frozen=True)
class _Group:
    """Fields that make one difference: its title, its card, where the first of them stands, and how it is said of a build."""

    title: str
    part: str
    fields: tuple[str, ...]
    said: Callable[[FoodDryer], str]


def _collector(build: FoodDryer) -> AirCollector:
    assert build.collector is not None
    return build.collector


def _glass(build: FoodDryer) -> str:
    cover = _collector(build).cover
    return "none" if cover is None else f"{cover.layers} of {cover.row.title.lower()}"


def _vent(vent: Vent) -> str:
    return f"{amount(vent.area_cm2 * vent.open_share, 'area_cm2')} open"


OF_COLLECTOR = (
    _Group("collector's area", "collector", ("width_m", "length_m"), lambda b: square_metres(_collector(b).area_m2)),
    _Group("absorber", "collector", ("absorber", "air", "layers", "open_share", "wire_mm", "ducts", "duct_mm", "finish", "sheet"), lambda b: _absorber(_collector(b))),
    _Group("glass", "collector", ("cover", "dirt_share"), _glass),
    _Group("gap and channel", "collector", ("gap_m", "depth_m", "turns"), lambda b: f"{metres(_collector(b).gap_m)} and {metres(_collector(b).depth_m)}"),
    _Group("collector's back", "collector", ("back",), lambda b: f"U {wall_w_m2k(_collector(b).back):.1f} W/m²K"),
)  # fmt: skip
OF_BUILD = (
    _Group("aim", "aim", ("tilt_deg", "facing_deg"), lambda b: f"{degrees(b.tilt_deg)} steep, {compass(b.facing_deg)}"),
    _Group("walls and gaps", "wall", ("wall", "lining", "leak_cm2"), lambda b: f"U {wall_w_m2k(b.wall):.1f} W/m²K, gaps {amount(b.leak_cm2, 'area_cm2')}"),
    _Group("vent", "vent", ("vent", "wind_share"), lambda b: _vent(b.vent)),
    _Group("inlet", "inlet", ("inlet",), lambda b: amount(b.inlet.area_cm2, "area_cm2")),
    _Group("chimney", "chimney", ("chimney",), lambda b: "none" if b.chimney is None else metres(b.chimney.height_m)),
    _Group("fan", "fan", ("fan",), lambda b: "none" if b.fan is None else f"{b.fan.free_m3_h:g} m³/h"),
    _Group("cabinet and trays", "trays", ("trays", "width_m", "depth_m", "under_m", "over_m"), lambda b: f"{b.amount} of {square_metres(b.floor_m2)}"),
    _Group("glass over the trays", "cover", ("cover", "glass_tilt_deg", "shaded"), lambda b: "none" if b.cover is None else "shaded" if b.shaded else "in the sun"),
    _Group("duct", "collector", ("joint",), lambda b: "none" if b.joint is None else metres(b.joint.length_m)),
)  # fmt: skip
NAMES = {"plate": "black plate", "mesh": "black fly screen", "screens": "metal screens", "ducts": "blackened ducts"}


def _absorber(made: AirCollector) -> str:
    return f"{NAMES[made.absorber]}{f', air {made.air}' if made.absorber == 'plate' else ''}"


def differences(mine: FoodDryer, theirs: FoodDryer) -> list[Difference]:
    """What differs, as a builder would name it."""
    out = [_difference(group, mine, theirs) for group in OF_BUILD if _values(mine, group) != _values(theirs, group)]
    one, other = mine.collector, theirs.collector
    if one is None or other is None:
        if one is not other:
            whole = _Group(
                "collector",
                "collector",
                ("collector",),
                lambda b: "none" if b.collector is None else square_metres(b.collector.area_m2),
            )
            out.append(_difference(whole, mine, theirs))
        return out
    inner = [group for group in OF_COLLECTOR if _values(one, group) != _values(other, group)]
    return [*(_of_collector(group, mine, theirs) for group in inner), *out]


def _values(of: FoodDryer | AirCollector, group: _Group) -> list[object]:
    return [getattr(of, field) for field in group.fields]


def _difference(group: _Group, mine: FoodDryer, theirs: FoodDryer) -> Difference:
    change = {field: getattr(theirs, field) for field in group.fields}
    return Difference(
        group.title,
        group.part,
        group.fields[0],
        group.said(mine),
        group.said(theirs),
        lambda build: build.with_(**change),
    )


def _of_collector(group: _Group, mine: FoodDryer, theirs: FoodDryer) -> Difference:
    change = {field: getattr(_collector(theirs), field) for field in group.fields}

    def taken(build: Build) -> Build:
        assert isinstance(build, FoodDryer)
        return build.with_(collector=_collector(build).model_copy(update=change))

    return Difference(
        group.title, group.part, f"collector.{group.fields[0]}", group.said(mine), group.said(theirs), taken
    )


def explained(context: AdviceContext, build: FoodDryer, promise: Promise) -> Apart:
    """Why it is not as another is, or as was promised."""
    theirs = promise.other if isinstance(promise.other, FoodDryer) else build
    if promise.other is not None and not isinstance(promise.other, FoodDryer):
        raise InputProblem(
            "other", f"it is {promise.other.kind}, this is a food dryer; compare it with another food dryer"
        )
    theirs = _as_typed(theirs, promise)
    load = context.load
    high = 60.0 if load is None else load.wanted_c + 15.0
    return apart(context, build, differences(build, theirs), promise.promised_c, _conditions(context, build), high)


def _as_typed(build: FoodDryer, promise: Promise) -> FoodDryer:
    made = build.collector
    if made is None or (promise.area_m2 is None and promise.absorber is None):
        return build
    change: dict[str, object] = {}
    if promise.area_m2 is not None:
        change["length_m"] = min(max(promise.area_m2 / made.width_m, 0.2), 12.0)
    if promise.absorber is not None:
        change["absorber"] = promise.absorber
    other = AirCollector.model_validate(made.model_dump() | change)
    return build.with_(collector=other.settled("absorber") if promise.absorber is not None else other)


def _conditions(context: AdviceContext, build: FoodDryer) -> list[tuple[str, float]]:
    """Where and when a promise might be true."""
    site, load = context.case.site, context.load
    day = local_day(site.zone, context.weather.start_s)
    month = JUNE if site.latitude_deg >= 0.0 else DECEMBER
    longest = date(day.year, month, 21)
    at_best = weather_of(site, climate_day(site, longest), Span(start=longest, step_s=STEP_S))
    loaded = context.run(build, load)
    found = [("as it is, into the trays", _top(loaded.temperature_c[INTO]))]
    if build.collector is not None:
        found += [
            ("at the collector's outlet", _top(loaded.temperature_c[air_nodes()[-1]])),
            ("on the absorber itself", _top(loaded.temperature_c[absorber_nodes()[-1]])),
        ]
    found += [
        ("empty", _top(context.run(build, None).temperature_c[INTO])),
        ("with its vent nearly shut", _top(context.run(build.opened(NEARLY_SHUT), load).temperature_c[INTO])),
        (
            f"on a clear {longest:%d %B}",
            _top(AdviceContext(context.case, at_best).run(build, load).temperature_c[INTO]),
        ),
        (
            f"in air {amount(WARMER_K, 'difference')} warmer",
            _top(context.on(air_c=context.weather.air_c + WARMER_K).run(build, load).temperature_c[INTO]),
        ),
    ]
    return found


def _top(series: np.ndarray) -> float:
    return float(np.nanmax(series))
