"""Cautions for one build, from its own numbers, each ending in what to do. None of them declares anything safe.

Each is an entry: for which kinds it is, and a test on the build and its runs that says when it applies and with what numbers.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.coupons import Coupons
from drylamp.core.builds.dish import Dish
from drylamp.core.builds.dish_optics import shape_of, spill
from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.kinds import AnyBuild, BuildSpec
from drylamp.core.builds.melter import Melter
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.pot import PotLoad
from drylamp.core.loads.wax import WaxBatch
from drylamp.core.optics.dish_light import spot_radius_m
from drylamp.core.outcome import DayOutcome, Flag
from drylamp.core.sky.site import Site
from drylamp.core.tables import absorber
from drylamp.core.twin import Run

BURN_C = 55.0
BURN_ADVICE = {
    "box-oven": "Wear dry oven gloves and set the pot on something firm.",
    "funnel": "Wear dry oven gloves; lift the pot straight up, out of the light.",
    "dish": "Turn the dish away or cover it before you reach for the pot, and wear dry oven gloves.",
    "melter": "Gloves and long sleeves: molten wax sticks to skin. Let it set before you move the tray.",
    "coupons": "Hold the probe by its handle and wear gloves to lift a sample.",
}
BURN_PART = {"box-oven": "tray", "funnel": "load", "dish": "load", "melter": "tray", "coupons": "board"}
HEAVY_KG = 12.0
"""What one person lifts without thinking; from memory."""
GALE_M_S = 15.0
AIR_KG_M3 = 1.2
FLAT_PLATE_FORCE = 1.3
"""Force coefficient of a flat plate square to the wind, from memory."""
DANGER_LOW_C, DANGER_HIGH_C, DANGER_HOURS, DANGER_HOURS_HOT, HOT_DAY_C = 5.0, 60.0, 2.0, 1.0, 32.0
"""Time in the danger zone: USDA FSIS (5–60 °C, two hours, one above 32 °C), from memory."""
LEANS_DEG = 8.0
"""Above this a pot of liquid no longer stands well; from memory."""
SPOT_SHARE = 0.9


@dataclass(frozen=True)
class Seen:
    """What a caution may look at: the build, its load, and its runs without and with it."""

    site: Site
    build: BuildSpec
    load: AnyLoad | None
    empty: Run
    run: Run
    day: DayOutcome | None


@dataclass(frozen=True)
class Caution:
    """One entry: its name, the kinds of build that it looks at, and its test."""

    name: str
    kinds: tuple[str, ...]
    test: Callable[[Seen], list[Flag]]


def cautions(seen: Seen) -> list[Flag]:
    """All cautions that apply to this build on this run, in the order of the entries."""
    return [flag for entry in CAUTIONS if seen.build.kind in entry.kinds for flag in entry.test(seen)]


def _flag(level: Literal["stop", "warn", "note"], part: str, text: str) -> list[Flag]:
    return [Flag(level=level, part=part, text=text)]


def _hot_parts(seen: Seen) -> list[Flag]:
    hot: dict[str, float] = {}
    for run in (seen.empty, seen.run):
        for node, series in run.temperature_c.items():
            if node not in ("inside-air", "bowl-air", "core") and np.nanmax(series) > BURN_C:
                hot[run.titles[node]] = max(hot.get(run.titles[node], 0.0), float(np.nanmax(series)))
    if not hot:
        return []
    parts = ", ".join(f"{title} {value:.0f} °C" for title, value in hot.items())
    kind = seen.build.kind
    return _flag("warn", BURN_PART[kind], f"Burns: {parts} on this day. {BURN_ADVICE[kind]}")


def _mirror_m2(build: AnyBuild) -> float:
    """Area of the largest mirror."""
    if isinstance(build, BoxOven):
        return build.largest_mirror_m2
    if isinstance(build, Melter):
        return build.box.largest_mirror_m2
    if isinstance(build, Dish):
        return build.opening_m2
    return build.opening_m2 if isinstance(build, Funnel) and build.shape != "flat" else 0.0


def _eyes(seen: Seen) -> list[Flag]:
    if _mirror_m2(seen.build) == 0.0:
        return []
    return _flag(
        "warn", "mirror",
        "Eyes: never look at the sun or its image in the mirror. Wear dark glasses, aim by the bright patch on the pot, "
        "and turn or cover the mirror when nobody is there.",
    )  # fmt: skip


def focus_suns(build: Dish) -> tuple[float, float]:
    """Suns at a dish's focus, mean over the spot that holds nine tenths of the light, and that spot's width, m."""
    radius = spot_radius_m(shape_of(build), SPOT_SHARE)
    thrown = SPOT_SHARE * build.opening_m2 * build.mirror_row.reflectance
    return thrown / (math.pi * radius**2), 2 * radius


def _focus(seen: Seen) -> list[Flag]:
    assert isinstance(seen.build, Dish)
    suns, wide = focus_suns(seen.build)
    return _flag(
        "stop", "mirror",
        f"Focus: about {suns:.0f} suns on a spot {wide * 100:.0f} cm across; it blinds, burns skin and sets card and cloth alight "
        "within moments. Dark goggles for everyone near, nobody between dish and pot, and the dish turned away or covered "
        "whenever it is left or not cooking.",
    )  # fmt: skip


def _turning(seen: Seen) -> list[Flag]:
    build = seen.build
    assert isinstance(build, Dish)
    if build.turned_minutes is None:
        return _flag(
            "stop",
            "mirror",
            "Left as it stands, its spot wanders off the pot and over whatever is beside it. Cover it, or stay and turn it.",
        )
    lost = float(spill(build, seen.load, np.array([build.turned_minutes / 4.0]))[0])
    return _flag(
        "note", "mirror",
        f"Turning: {build.turned_minutes:.0f} min after it was turned {lost * 100:.0f} of 100 W spill past the pot onto what "
        "stands behind it. Keep that place clear of anything that burns, and turn it by the indicator, not by the light.",
    )  # fmt: skip


def _wind(seen: Seen) -> list[Flag]:
    area = _mirror_m2(seen.build)
    if area == 0.0:
        return []
    force = 0.5 * AIR_KG_M3 * GALE_M_S**2 * FLAT_PLATE_FORCE * area
    return _flag(
        "note", "mirror",
        f"Wind: a gale of {GALE_M_S:g} m/s pushes the largest mirror with about {force:.0f} N ({force / 9.81:.0f} kg). "
        "Lock the stays and weigh it down.",
    )  # fmt: skip


def _glass(seen: Seen) -> list[Flag]:
    build = seen.build
    panes = [skin.row.name for skin in build.skins] if isinstance(build, BoxOven | Melter | Coupons) else []
    if seen.load is not None and seen.load.under is not None:
        panes.append(seen.load.under.row.name)
    if not any("glass" in name for name in panes):
        return []
    return _flag(
        "note", "cover",
        "Glass: no cold water on hot panes; tape or frame sharp edges; tempered glass where it can fall.",
    )  # fmt: skip


def _samples(seen: Seen) -> list[Flag]:
    """Paints, edges and weight of a set of samples."""
    build = seen.build
    assert isinstance(build, Coupons)
    found = _flag(
        "warn", "board",
        "Fumes: spray and cure the samples outdoors, away from flames, and let them air for the days the maker names. "
        "Old paint under the primer may hold lead: do not sand it dry.",
    )  # fmt: skip
    found += _flag(
        "note", "sample-0",
        "Edges: cut sheet and lids are sharp; file them, and wear gloves. An adult does the cutting.",
    )  # fmt: skip
    whole = build.sample_kg * len(build.samples)
    if whole > HEAVY_KG:
        found += _flag(
            "warn", "board",
            f"Weight: the samples come to {whole:.0f} kg. Carry them one by one and brace the board before it is tilted.",
        )  # fmt: skip
    return found


def _fumes(seen: Seen) -> list[Flag]:
    build = seen.build
    if isinstance(build, BoxOven):
        named = [absorber(build.tray), absorber(build.lining)] + [part.row for part in build.wall]
    else:
        assert isinstance(build, Funnel)
        named = [absorber(build.base), build.sheet.row]
    doubtful = list(dict.fromkeys(row.title for row in named if not row.food_safe))
    if not doubtful:
        return _flag("note", "lining", "Fumes: bake the empty oven in full sun for a day before food goes in.")
    return _flag(
        "warn", "lining",
        f"Fumes: {', '.join(doubtful)} may give off fumes when hot or is not meant for food. "
        "Keep it behind foil or card, cure and air it out in the sun for days before food goes in.",
    )  # fmt: skip


def _too_cool(seen: Seen) -> list[Flag]:
    load, day = seen.load, seen.day
    if not isinstance(load, PotLoad) or day is None or day.enough is not False:
        return []
    short = "does not reach" if day.target_reached_at is None else "does not hold long enough at"
    return _flag(
        "stop", "load",
        f"{load.contents.title} {short} {load.wanted_c:.0f} °C on this day (peak {day.peak_c:.0f} °C). "
        "Take less food, start earlier, or plan another way to cook it before you start.",
    )  # fmt: skip


def _danger(seen: Seen) -> list[Flag]:
    if not isinstance(seen.load, PotLoad):
        return []
    hours = danger_hours(seen.load, seen.run)
    most = DANGER_HOURS_HOT if float(seen.run.weather.air_c.max()) > HOT_DAY_C else DANGER_HOURS
    if hours <= most:
        return []
    return _flag(
        "warn", "load",
        f"Food: it spends {hours:.1f} h between 5 and 60 °C before it is hot (advice is under {most:g} h on such a day). "
        "Start with hot water, less food or a preheated box; check the thickest part with a probe.",
    )  # fmt: skip


def danger_hours(load: PotLoad, run: Run) -> float:
    """Hours from going in until what is judged first passes the danger zone."""
    series = run.temperature_c[load.judged]
    inside = np.flatnonzero(~np.isnan(series))
    if len(inside) == 0:
        return 0.0
    rising = series[inside][: int(np.argmax(series[inside])) + 1]
    return float(np.sum((rising > DANGER_LOW_C) & (rising < DANGER_HIGH_C)) * run.weather.dt_s / 3600.0)


def _meat_and_eggs(seen: Seen) -> list[Flag]:
    load = seen.load
    if not isinstance(load, PotLoad) or load.contents.safe_core_c == 0:
        return []
    safe, series = load.contents.safe_core_c, seen.run.temperature_c[load.judged]
    reaches = float(np.nanmax(series)) >= safe
    said = f"{load.contents.title}: {safe:.0f} °C in the thickest part, read with a probe, before anyone eats (USDA FSIS). "
    if reaches:
        return _flag("warn", "load", said + "The twin gets there on this day; your probe decides, not the twin.")
    return _flag(
        "stop", "load",
        said + f"The twin says {float(np.nanmax(series)):.0f} °C on this day: do not cook it here. Take something that needs no safe core.",
    )  # fmt: skip


HANDLED = {
    "stir": "wants stirring: each time the lid is lifted costs heat and minutes, and steam burns. Cook it on another fire, or accept that it cooks unstirred",
    "flip": "wants turning over half-way: in a slow oven it dries before it browns. Make it thicker and bake it like a loaf, or take another fire",
    "all-in": "goes in all at once, in its water, and stays shut until it is done: measure the water beforehand",
}


def _handling(seen: Seen) -> list[Flag]:
    load = seen.load
    if not isinstance(load, PotLoad) or load.contents.handling is None:
        return []
    level: Literal["note", "warn"] = "note" if load.contents.handling == "all-in" else "warn"
    return _flag(level, "load", f"{load.contents.title} {HANDLED[load.contents.handling]}.")


def _leaning_pot(seen: Seen) -> list[Flag]:
    build, load = seen.build, seen.load
    if (
        not isinstance(build, BoxOven)
        or not isinstance(load, PotLoad)
        or build.pot_tilt_deg <= LEANS_DEG
        or load.has_core
    ):
        return []
    level_m = load.food_kg / load.contents.density_kg_m3 / load.top_m2
    climbs = load.pot_diameter_m / 2 * math.tan(math.radians(build.pot_tilt_deg))
    over = level_m + climbs > load.pot_height_m
    said = f"Level: the tray leans {build.pot_tilt_deg:.0f}°, so the {load.title} stands {climbs * 100:.0f} cm higher on one side"
    ends = " and runs over the rim. " if over else ". "
    return _flag(
        "warn" if over else "note",
        "load",
        said + ends + "A level shelf, a wedge under the pot or a wedge-shaped box keeps it upright.",
    )


def _pressure(seen: Seen) -> list[Flag]:
    if not isinstance(seen.load, PotLoad) or not seen.load.is_tight:
        return []
    return _flag(
        "stop", "load",
        "Pressure: follow the maker's own rules for this pot. Its valve clean and free, at most two thirds full, never opened "
        "before it has rested in the shade and the pin has dropped by itself; never a closed vessel without a valve.",
    )  # fmt: skip


def _steam(seen: Seen) -> list[Flag]:
    if not isinstance(seen.load, PotLoad):
        return []
    return _flag("note", "load", "Steam: open cover and lid away from your face, gloves on.")


def _wax_fire(seen: Seen) -> list[Flag]:
    load = seen.load
    if not isinstance(load, WaxBatch):
        return []
    hottest = max(float(np.nanmax(seen.run.temperature_c[node])) for node in ("wax", "catch"))
    found = []
    if hottest > load.row.discolours_c:
        found += _flag(
            "warn", "load",
            f"Wax: {hottest:.0f} °C on this day; {load.row.title.lower()} darkens above {load.row.discolours_c:.0f} °C and nothing "
            "is gained above its melting. Shade half the glass, tilt it away from the noon sun, or take it out once it has run.",
        )  # fmt: skip
    room = load.row.flash_c - hottest
    level: Literal["stop", "note"] = "stop" if room < 60 else "note"
    return found + _flag(
        level, "load",
        f"Fire: its vapour can catch near {load.row.flash_c:.0f} °C, {room:.0f} K above this day's hottest. No flame or spark near; "
        "smother burning wax with a lid or a blanket, never with water.",
    )  # fmt: skip


def _bees(seen: Seen) -> list[Flag]:
    return _flag(
        "note",
        "box",
        "Bees and wasps smell the comb: keep the box tight and away from paths. Look inside before closing; animals shelter in warm boxes.",
    )


def _shelter(seen: Seen) -> list[Flag]:
    return _flag(
        "note", "box", "Look inside before closing: animals shelter in warm boxes. An adult handles hot parts."
    )


def _cook(seen: Seen) -> list[Flag]:
    return _flag(
        "note",
        "aim",
        "The cook needs shade, a hat and water too. An adult handles hot parts and mirrors; children watch from the shady side.",
    )


OVENS = ("box-oven", "funnel", "dish")
EVERY = (*OVENS, "melter", "coupons")
CAUTIONS: tuple[Caution, ...] = (
    Caution("focus", ("dish",), _focus),
    Caution("hot-parts", EVERY, _hot_parts),
    Caution("eyes", ("box-oven", "funnel", "melter"), _eyes),
    Caution("turning", ("dish",), _turning),
    Caution("wind", (*OVENS, "melter"), _wind),
    Caution("glass", EVERY, _glass),
    Caution("samples", ("coupons",), _samples),
    Caution("fumes", ("box-oven", "funnel"), _fumes),
    Caution("pressure", OVENS, _pressure),
    Caution("too-cool", OVENS, _too_cool),
    Caution("meat-and-eggs", OVENS, _meat_and_eggs),
    Caution("danger-zone", OVENS, _danger),
    Caution("handling", OVENS, _handling),
    Caution("leaning-pot", ("box-oven",), _leaning_pot),
    Caution("steam", OVENS, _steam),
    Caution("wax-fire", ("melter",), _wax_fire),
    Caution("bees", ("melter",), _bees),
    Caution("shelter", ("box-oven",), _shelter),
    Caution("cook", ("funnel", "dish"), _cook),
)
