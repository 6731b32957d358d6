"""Cautions for one build, from its own numbers, each ending in what to do. None of them declares anything safe."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.coupons import Coupons
from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.loads.load import AnyLoad
from drylamp.core.outcome import DayOutcome, Flag
from drylamp.core.tables import absorber
from drylamp.core.twin import Run

BURN_C = 55.0
BURN_ADVICE = {
    "tray": "Wear dry oven gloves and set the pot on something firm.",
    "board": "Hold the probe by its handle and wear gloves to lift a sample.",
}
HEAVY_KG = 12.0
"""What one person lifts without thinking; from memory."""
GALE_M_S = 15.0
AIR_KG_M3 = 1.2
FLAT_PLATE_FORCE = 1.3
"""Force coefficient of a flat plate square to the wind, from memory."""
DANGER_LOW_C, DANGER_HIGH_C, DANGER_HOURS = 5.0, 60.0, 2.0
"""Time in the danger zone: USDA FSIS (5–60 °C, two hours)."""


def cautions(build: BuildSpec, load: AnyLoad | None, empty: Run, run: Run, day: DayOutcome | None) -> list[Flag]:
    """All cautions that apply to this build on this run."""
    if isinstance(build, Coupons):
        return [*_hot_parts(empty, "board"), *_glass(build), *_samples(build)]
    found = [*_hot_parts(empty, "tray"), *_mirror(build), *_glass(build), *_fumes(build)]
    if load is not None:
        found += [*_food(load, run, day), _steam()]
    found.append(
        Flag(
            level="note",
            part="box",
            text="Look inside before closing: animals shelter in warm boxes. An adult handles hot parts.",
        )
    )
    return found


def _hot_parts(empty: Run, part: str) -> list[Flag]:
    hot = {
        empty.titles[node]: float(np.nanmax(series))
        for node, series in empty.temperature_c.items()
        if node != "inside-air" and np.nanmax(series) > BURN_C
    }
    if not hot:
        return []
    parts = ", ".join(f"{title} {value:.0f} °C" for title, value in hot.items())
    return [
        Flag(
            level="warn",
            part=part,
            text=f"Burns: {parts} on this day. {BURN_ADVICE[part]}",
        )
    ]


def _mirror(build: BoxOven) -> list[Flag]:
    area = build.largest_mirror_m2
    if area == 0.0:
        return []
    force = 0.5 * AIR_KG_M3 * GALE_M_S**2 * FLAT_PLATE_FORCE * area
    return [
        Flag(
            level="warn",
            part="mirror",
            text="Eyes: never look at the sun or its image in the mirror. Wear dark glasses, aim by the bright patch on the pot, "
            "and turn or cover the mirror when nobody is there.",
        ),
        Flag(
            level="note",
            part="mirror",
            text=f"Wind: a gale of {GALE_M_S:g} m/s pushes the largest mirror with about {force:.0f} N ({force / 9.81:.0f} kg). "
            "Lock the stays and weigh the box down.",
        ),
    ]


def _glass(build: BuildSpec) -> list[Flag]:
    if not any("glass" in skin.row.name for skin in build.skins):
        return []
    return [
        Flag(
            level="note",
            part="cover",
            text="Glass: no cold water on hot panes; tape or frame sharp edges; tempered glass where it can fall.",
        )
    ]


def _samples(build: Coupons) -> list[Flag]:
    """Paints, edges and weight of a set of samples."""
    found = [
        Flag(
            level="warn",
            part="board",
            text="Fumes: spray and cure the samples outdoors, away from flames, and let them air for the days the maker names. "
            "Old paint under the primer may hold lead: do not sand it dry.",
        ),
        Flag(
            level="note",
            part="sample-0",
            text="Edges: cut sheet and lids are sharp; file them, and wear gloves. An adult does the cutting.",
        ),
    ]
    whole = build.sample_kg * len(build.samples)
    if whole > HEAVY_KG:
        text = f"Weight: the samples come to {whole:.0f} kg. Carry them one by one and brace the board before it is tilted."
        found.append(Flag(level="warn", part="board", text=text))
    return found


def _fumes(build: BoxOven) -> list[Flag]:
    named = [absorber(build.tray), absorber(build.lining)] + [part.row for part in build.wall]
    doubtful = list(dict.fromkeys(row.title for row in named if not row.food_safe))
    if not doubtful:
        return [
            Flag(
                level="note",
                part="lining",
                text="Fumes: bake the empty oven in full sun for a day before food goes in.",
            )
        ]
    return [
        Flag(
            level="warn",
            part="lining",
            text=f"Fumes: {', '.join(doubtful)} may give off fumes when hot or is not meant for food. "
            "Keep it behind foil or card, cure and air it out in the sun for days before food goes in.",
        )
    ]


def _food(load: AnyLoad, run: Run, day: DayOutcome | None) -> list[Flag]:
    found = []
    if day is not None and day.enough is False:
        short = "does not reach" if day.target_reached_at is None else "does not hold long enough at"
        found.append(
            Flag(
                level="stop",
                part="load",
                text=f"{load.contents.title} {short} {load.wanted_c:.0f} °C on this day (peak {day.peak_c:.0f} °C). "
                "Take less food, start earlier, or plan another way to cook it before you start.",
            )
        )
    hours = _danger_hours(run)
    if hours > DANGER_HOURS:
        found.append(
            Flag(
                level="warn",
                part="load",
                text=f"Food: it spends {hours:.1f} h between 5 and 60 °C before it is hot (advice is under {DANGER_HOURS:g} h). "
                "Start with hot water, less food or a preheated box; check the thickest part with a probe.",
            )
        )
    if "meat" in load.food:
        found.append(
            Flag(
                level="warn",
                part="load",
                text="Meat: 74 °C for poultry, 71 °C minced, measured with a probe in the thickest part, before it is eaten.",
            )
        )
    return found


def _danger_hours(run: Run) -> float:
    """Hours from going in until the contents first pass the danger zone."""
    series = run.temperature_c["contents"]
    inside = np.flatnonzero(~np.isnan(series))
    if len(inside) == 0:
        return 0.0
    rising = series[inside][: int(np.argmax(series[inside])) + 1]
    return float(np.sum((rising > DANGER_LOW_C) & (rising < DANGER_HIGH_C)) * run.weather.dt_s / 3600.0)


def _steam() -> Flag:
    return Flag(level="note", part="load", text="Steam: open cover and lid away from your face, gloves on.")
