"""Rules of thumb, put to the twin: each saying is an entry with its test on this build, this load and this day."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from drylamp.core.advice.bench import PROPERTY_SHARE, Bench, noise_of, put_in, score_of, unit_of
from drylamp.core.builds.box_oven import BoxOven, GlazedCover
from drylamp.core.builds.kinds import AnyBuild, BuildSpec, kind_of
from drylamp.core.builds.melter import Melter
from drylamp.core.checks import Model
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.portions import Portions
from drylamp.core.loads.pot import PotLoad, in_vessel

Ruling = Literal["holds", "holds partly", "does not matter here", "wrong"]
DULL_SIDE_MRAD = 60.0
"""The dull side of foil throws back as much as the shiny one but scatters it: a slope error of this size; from memory."""
SCORCH_C = 130.0
WORTH = {"K": 0.7, "kg/h": 0.01}
PREHEAT_S, CLOUD_S = 1800.0, 1800.0
COLD_K = 15.0


@dataclass(frozen=True)
class Found:
    """What a test found: its effect in the score's unit (positive when the saying is right), and its words."""

    effect: float
    words: str
    ruling: Ruling | None = None


@dataclass(frozen=True)
class Saying:
    """A saying, the kinds of build it is said of, and its test; a test that does not apply gives none."""

    name: str
    words: str
    kinds: tuple[str, ...]
    test: Callable[[Bench, AnyBuild, AnyLoad | None], Found | None]


class SayingLine(Model):
    """One saying, ruled on."""

    name: str
    saying: str
    ruling: Ruling
    effect: float
    unit: str
    words: str


def sayings_of(bench: Bench, build: BuildSpec, load: AnyLoad | None) -> list[SayingLine]:
    """Put every saying that is said of this build to the test."""
    out, unit = [], unit_of(load)
    for saying in SAYINGS:
        if build.kind not in saying.kinds:
            continue
        found = saying.test(bench, build, load)
        if found is not None:
            ruling = found.ruling or _ruling(found.effect, unit, load)
            out.append(
                SayingLine(
                    name=saying.name,
                    saying=saying.words,
                    ruling=ruling,
                    effect=round(found.effect, 2),
                    unit=unit,
                    words=found.words,
                )
            )
    return out


def _ruling(effect: float, unit: str, load: AnyLoad | None) -> Ruling:
    """By the size of the effect: nothing, a little, or enough to be seen on a thermometer."""
    small = max(WORTH[unit], noise_of(load) + PROPERTY_SHARE * abs(effect))
    if abs(effect) < small:
        return "does not matter here"
    if effect < 0:
        return "wrong"
    return "holds" if effect > 3 * WORTH[unit] else "holds partly"


def _between(bench: Bench, mine: tuple[AnyBuild, AnyLoad | None], other: tuple[AnyBuild, AnyLoad | None]) -> float:
    return bench.score(*mine).value - bench.score(*other).value


def _signed(value: float, load: AnyLoad | None) -> str:
    sign = "+" if value >= 0 else "−"
    return f"{sign}{abs(value):.2f} kg/h" if unit_of(load) == "kg/h" else f"{sign}{abs(value):.1f} K"


def _shiny_side(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if isinstance(build, BoxOven) and build.mirror is not None:
        dull_row = build.mirror.row.model_copy(update={"name": "dull-side", "slope_error_mrad": DULL_SIDE_MRAD})
        flaps = {edge: None if flap is None else flap.model_copy(update={"material": dull_row}) for edge, flap in
                 (("lower", build.flaps.lower), ("left", build.flaps.left), ("right", build.flaps.right))}  # fmt: skip
        # an unused flap that is as good as none makes both runs go the same traced way
        dull = build.model_copy(
            update={
                "mirror": build.mirror.model_copy(update={"material": dull_row}),
                "flaps": build.flaps.model_copy(update=flaps),
                "shelf": "level",
            }
        )
        effect = _between(bench, (build.model_copy(update={"shelf": "level"}), load), (dull, load))
    elif build.kind == "funnel":
        row = build.mirror_row
        dull_row = row.model_copy(update={"name": "dull-side", "slope_error_mrad": DULL_SIDE_MRAD})
        effect = _between(bench, (build, load), (build.model_copy(update={"mirror": dull_row}), load))
    else:
        return None
    return Found(
        effect,
        f"Dull side out instead of shiny: {_signed(-effect, load)}. On a mirror it blurs the patch; as a lining, which scatters anyway, it changes nothing.",
    )


def _blacker(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(build, BoxOven | Melter):
        return None
    plain, super_black = (build.model_copy(update={"tray": name}) for name in ("chalkboard-paint", "super-black-paint"))
    effect = _between(bench, (super_black, load), (plain, load))
    return Found(effect, f"Optical black (0.98) over chalkboard paint (0.94) on the tray: {_signed(effect, load)}.")


def _two_covers(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(build, BoxOven | Melter):
        return None
    cover = build.cover or GlazedCover()
    one, two = (cover.model_copy(update={"layers": n, "more": []}) for n in (1, 2))
    effect = _between(
        bench, (build.model_copy(update={"cover": two}), load), (build.model_copy(update={"cover": one}), load)
    )
    return Found(
        effect,
        f"Second sheet of {cover.row.title.lower()}: {_signed(effect, load)}; it keeps heat in and some sun out.",
    )


def _preheat(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if load is None or build.kind == "dish":
        return None
    begun, ready = put_in(bench.site, load, bench.weather), bench.ready(build, load)
    warm, cold = (
        score_of(bench.site, build, load, ready.uncovered(at).run(bench.adjustments))
        for at in (begun - PREHEAT_S, begun)
    )
    effect = warm.value - cold.value
    sooner = (
        "" if warm.minutes is None or cold.minutes is None else f", target {cold.minutes - warm.minutes:.0f} min sooner"
    )
    return Found(effect, f"Half an hour of sun on it before the load goes in: {_signed(effect, load)}{sooner}.")


def _overcook(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(load, PotLoad):
        return None
    run = bench.run(build, load)
    food, pot = (float(np.nanmax(run.temperature_c[node])) for node in ("contents", "pot"))
    steam_kg = float(run.account_w["steam"].sum()) * run.weather.dt_s / 2.35e6
    share = steam_kg / load.food_kg
    ruling: Ruling = "wrong" if pot > SCORCH_C or share > 0.5 else "holds partly" if share > 0.1 else "holds"
    words = f"The pot gets to {pot:.0f} °C, the food to {food:.0f} °C, and {steam_kg * 1000:.0f} g of water boil off by evening"
    ends = {
        "holds": ": it does not burn.",
        "holds partly": ": it does not burn, but dries.",
        "wrong": ": it can scorch or boil dry.",
    }[ruling]
    return Found(0.0, words + ends, ruling)


def _glass_mirrors_heat(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(build, BoxOven | Melter) or build.cover is None:
        return None
    glass = GlazedCover(material="clear-float-glass", thickness_m=0.004, layers=1)
    row = glass.row.model_copy(update={"name": "clear-to-heat", "longwave_transmittance": 0.8, "emittance": 0.15})
    clear = glass.model_copy(update={"material": row})
    effect = _between(
        bench, (build.model_copy(update={"cover": glass}), load), (build.model_copy(update={"cover": clear}), load)
    )
    words = f"Glass takes heat rays up and gives half of them back; a sheet as clear to sun but open to heat rays (as thin film is): {_signed(-effect, load)}."
    small = abs(effect) < WORTH[unit_of(load)]
    return Found(effect, words, "does not matter here" if small else "holds partly" if effect > 0 else "wrong")


def _outside_air(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    colder = bench.on(air_c=bench.weather.air_c - COLD_K)
    effect = bench.score(build, load).value - colder.score(build, load).value
    small = effect < WORTH[unit_of(load)]
    return Found(
        -effect,
        f"The same sun with {COLD_K:.0f} K colder air: {_signed(-effect, load)}.",
        "does not matter here" if small else "holds partly" if effect < 4 and unit_of(load) == "K" else "wrong",
    )


def _pot_colour(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(load, PotLoad):
        return None
    black, bright = (
        load.model_copy(update={"pot_finish": name, "lid": "black"}) for name in ("flat-black-paint", "bright-steel")
    )
    effect = _between(bench, (build, black), (build, bright))
    return Found(effect, f"Black pot and lid over bright steel: {_signed(effect, load)}.")


def _clear_lid(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(load, PotLoad) or load.is_tight:
        return None
    clear, black = (load.model_copy(update={"lid": lid}) for lid in ("clear", "black"))
    effect = _between(bench, (build, clear), (build, black))
    return Found(effect, f"Clear lid over black lid: {_signed(effect, load)}.")


def _seal(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(build, BoxOven | Melter):
        return None
    tight, loose = (build.model_copy(update={"seal_gap_mm": gap}) for gap in (0.1, 3.0))
    lost = _between(bench, (tight, load), (loose, load))
    small = lost < WORTH[unit_of(load)]
    words = f"A gap of 3 mm all round instead of a tight seal: {_signed(-lost, load)}."
    return Found(-lost, words, "does not matter here" if small else "wrong")


def _steadier(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(load, PotLoad) or load.is_tight:
        return None
    at = put_in(bench.site, load, bench.weather) + 3.0 * 3600
    falls, later = [], []
    for name in ("thin-enamel", "cast-iron"):
        ready = bench.ready(build, in_vessel(load, name))
        run, shaded = ready.run(bench.adjustments), ready.in_the_dark(at).run(bench.adjustments)
        ends = shaded.at("contents", np.array([at, at + CLOUD_S]))
        falls.append(float(ends[0] - ends[1]) / max(float(ends[0] - 25.0), 1.0))
        later.append(score_of(bench.site, build, load, run).value)
    steadier, slower = (falls[0] - falls[1]) * 100, later[0] - later[1]
    ruling: Ruling = "holds" if steadier > 0.3 else "does not matter here"
    return Found(
        steadier,
        f"Half an hour of cloud takes {falls[0] * 100:.1f} % of its warmth from a thin pot, {falls[1] * 100:.1f} % from cast iron; cast iron lags by {slower:.1f} K on the way up.",
        ruling,
    )


def _efficient(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if load is None or build.kind not in ("box-oven", "melter", "funnel"):
        return None
    run = bench.run(build, load)
    lit = run.opening_w > 1.0
    useful = float(np.maximum(run.account_w[kind_of(build).useful_account][lit], 0.0).sum() / run.opening_w[lit].sum())
    return Found(
        0.0,
        f"Of 100 W on the opening {useful * 100:.0f} end in the load here, however black it is: cover, walls and mirrors take the rest.",
        "wrong",
    )


def _denser(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(load, Portions):
        return None
    run = bench.run(build, load)
    rows = {
        p.title: (p.row.density_kg_m3, p.row.melting_high_c, float(np.nanmax(run.temperature_c[p.node])))
        for p in load.portions
    }
    if len({row[0] for row in rows.values()}) < 2:
        return None
    by_density = sorted(rows, key=lambda k: rows[k][0])
    by_melting = sorted(rows, key=lambda k: rows[k][1])
    words = f"By density: {', '.join(by_density)}. By melting point: {', '.join(by_melting)}. Melting point, colour and place in the light decide; density does not."
    return Found(0.0, words, "holds partly" if by_density == by_melting else "wrong")


def _black_over_foil(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> Found | None:
    if not isinstance(build, BoxOven):
        return None
    foil, black = (build.model_copy(update={"lining": name}) for name in ("aluminium-foil", "black-card"))
    effect = _between(bench, (black, load), (foil, load))
    return Found(
        effect,
        f"Black over the foil of the walls instead of bare foil: {_signed(effect, load)}. Foil under black throws nothing on: the black has taken it.",
    )


OVENS = ("box-oven", "funnel", "dish")
BOXES = ("box-oven", "melter")
SAYINGS: tuple[Saying, ...] = (
    Saying("shiny-side", "Shiny side of the foil out.", ("box-oven", "funnel"), _shiny_side),
    Saying("blacker", "The blacker the paint the hotter.", BOXES, _blacker),
    Saying("two-covers", "Two covers are hotter than one.", BOXES, _two_covers),
    Saying("preheat", "Preheat half an hour.", ("box-oven", "funnel", "melter"), _preheat),
    Saying("overcook", "You can't overcook.", OVENS, _overcook),
    Saying("clear-lid", "A clear lid lets the sun onto the food, so it is quicker.", OVENS, _clear_lid),
    Saying("pot-colour", "The pot must be black.", OVENS, _pot_colour),
    Saying("seal", "A small gap at the lid does not matter.", BOXES, _seal),
    Saying("steadier", "A heavy pot is slower but steadier.", ("box-oven", "funnel"), _steadier),
    Saying("glass", "Glass mirrors the heat back.", BOXES, _glass_mirrors_heat),
    Saying("outside", "The outside temperature does not matter.", (*OVENS, "melter"), _outside_air),
    Saying(
        "efficient",
        "A coating that absorbs 95 % makes it 95 % efficient.",
        ("box-oven", "melter", "funnel"),
        _efficient,
    ),
    Saying("black-over-foil", "Black film over foil uses the foil.", ("box-oven",), _black_over_foil),
    Saying("denser", "Denser things melt later.", ("box-oven", "funnel"), _denser),
)
