"""What is said of every box: its insulation, finishes, seal, vent and mirrors."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, Option, Rule, Ruling, Saying, School, Seen, Tuned, flag
from drylamp.core.advice.flap import best_flap_deg
from drylamp.core.builds.common.box.spec import FALLS_DEG, Box
from drylamp.core.builds.common.mirror.advice import brighter_sheets
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import degrees, metres

STRIP_PRICE_M = 0.6
"""Sealing strip by the metre; from memory."""
MORE_INSULATION_M = 0.025
BLACK_ENOUGH, TIGHT_MM = 0.93, 0.3
TIGHTEST_MM, GAPS_MM = 0.05, (0.2, 1.0, 3.0)
"""A felt strip pressed home; a cut that light shows through, a coin's thickness, a finger's tip; from memory."""
LEAST_TURN_DEG = 2.5
"""Nobody sets a mirror closer than this."""
LID_DEG = 105.0


def _sides_m2(build: Box) -> float:
    return 2 * (build.width_m + build.length_m) * build.height_m


def _insulation(build: Box, load: Load | None) -> Iterator[Change]:
    wall = list(build.wall)
    soft = [k for k, layer in enumerate(wall) if layer.is_foam_like]
    if soft:
        k = max(soft, key=lambda i: wall[i].thickness_m)
        layer = wall[k]
        wall[k] = layer.model_copy(update={"thickness_m": layer.thickness_m + MORE_INSULATION_M})
        row, title = layer.row, f"{metres(MORE_INSULATION_M)} more {layer.row.title.lower()}"
    else:
        row, title = tables.layers()["glass-wool"], f"{metres(MORE_INSULATION_M)} of glass wool round it"
        wall.append(WallLayer(material="glass-wool", thickness_m=MORE_INSULATION_M))
    price = row.price_m2 * MORE_INSULATION_M / row.usual_thickness_m * (build.opening_m2 + _sides_m2(build))
    yield Change(title, "wall", build.with_(wall=wall), load, price)


def _finishes(build: Box, load: Load | None) -> Iterator[Change]:
    area, now = build.opening_m2, tables.absorber(build.tray)
    for name in ("flat-black-paint", "selective-foil"):
        row = tables.absorbers()[name]
        if row is not now and (name != "flat-black-paint" or now.absorptance < BLACK_ENOUGH):
            yield Change(f"tray in {row.title.lower()}", "tray", build.with_(tray=name), load, row.price_m2 * area)
    for name, words in (("aluminium-foil", "foil on the inner walls"), ("flat-black-paint", "inner walls black")):
        row = tables.absorbers()[name]
        if row is not tables.absorber(build.lining):
            yield Change(words, "lining", build.with_(lining=name), load, row.price_m2 * _sides_m2(build))


def _flap_set(context: AdviceContext, build: Box, load: Load | None) -> Iterator[Change]:
    """The mirror that is set by hand, at the angle that aims say is best for as long as it is wanted."""
    now, best = build.flap_angle_deg, best_flap_deg(context.of(build, load))
    if now is not None and best is not None and abs(best - now) >= LEAST_TURN_DEG:
        yield Change(f"mirror at {degrees(best)}", "mirror", build.with_flap_at(best), load, 0.0)


def _flap(build: Box, load: Load | None) -> Iterator[Change]:
    """The mirror that hangs on its upper edge: brighter sheets."""
    if build.mirror is None:
        return
    area = build.width_m * build.mirror.length_m
    for row in brighter_sheets(build.mirror.row, stiff=True):
        better = build.mirror.model_copy(update={"material": row.name})
        yield Change(f"mirror of {row.title.lower()}", "mirror", build.with_(mirror=better), load, row.price_m2 * area)


def _mirror_lid(build: Box, load: Load | None) -> Iterator[Change]:
    """A mirror as large as the opening, hinged on its upper edge, where there is none."""
    if build.mirror is None:
        lid = FlapMirror(length_m=build.length_m, angle_deg=LID_DEG)
        price = lid.row.price_m2 * build.opening_m2
        yield Change("a mirror lid on the upper edge", "mirror", build.with_(mirror=lid), load, price)


def _seal(build: Box, load: Load | None) -> Iterator[Change]:
    if build.seal_gap_mm > TIGHT_MM:
        price = STRIP_PRICE_M * build.rim_m
        yield Change("a tighter seal round the cover", "seal", build.with_(seal_gap_mm=0.1), load, price)


LINING_WORDS = {"aluminium-foil": "foil-lined", "flat-black-paint": "black-lined", "bare-wood": "bare wood"}


def _linings(context: AdviceContext, build: Box, load: Load | None) -> list[Option]:
    return [Option(title, build.with_(lining=name), load) for name, title in LINING_WORDS.items()]


def _blacker(context: AdviceContext, build: Box, load: Load | None) -> Found | None:
    plain, super_black = (build.with_(tray=name) for name in ("chalkboard-paint", "super-black-paint"))
    effect = context.between((super_black, load), (plain, load))
    said = context.measure.signed(effect)
    return Found(effect, f"Optical black (0.98) over chalkboard paint (0.94) on the tray makes {said}.")


def _small_gap(context: AdviceContext, build: Box, load: Load | None) -> Found | None:
    measure = context.measure
    tight, *open_ = (context.score(build.with_(seal_gap_mm=gap), load).value for gap in (TIGHTEST_MM, *GAPS_MM))
    lost = [tight - value for value in open_]
    said = ", ".join(f"{metres(gap / 1000)} {measure.signed(-by)}" for gap, by in zip(GAPS_MM, lost, strict=True))
    harmless = [gap for gap, by in zip(GAPS_MM, lost, strict=True) if by < measure.least_worth]
    ends = f"; up to {metres(harmless[-1] / 1000)} it is not worth a strip" if harmless else ""
    ruling: Ruling = "holds" if len(harmless) == len(GAPS_MM) else "holds partly" if harmless else "wrong"
    return Found(-lost[-1], f"A gap all round against a tight seal makes: {said}{ends}.", ruling)


def _slides(seen: Seen, build: Box, load: Load | None) -> list[Flag]:
    """A steep floor lets go of what stands or lies on it."""
    said = build.lets_go_of(load)
    return flag("stop" if build.pot_tilt_deg > FALLS_DEG else "warn", "load", f"Sliding: {said}.") if said else []


INSULATION: Rule[Box, Load | None] = Rule("wall", _insulation, 4.0)
FINISHES: Rule[Box, Load | None] = Rule("tray", _finishes, 1.0)
FLAP: Rule[Box, Load | None] = Rule("mirror", _flap, 2.0)
FLAP_SET: Tuned[Box, Load | None] = Tuned("mirror", _flap_set)
MIRROR_LID: Rule[Box, Load | None] = Rule("mirror", _mirror_lid, 3.0)
SEAL: Rule[Box, Load | None] = Rule("seal", _seal, 0.5)
LININGS: School[Box, Load | None] = School("lining", "Foil-lined or black-lined?", _linings)
BLACKER: Saying[Box, Load | None] = Saying("blacker", "The blacker the paint the hotter.", _blacker)
SLIDES: Caution[Box, Load | None] = Caution("slides", _slides)
SMALL_GAP: Saying[Box, Load | None] = Saying("seal", "A small gap at the lid does not matter.", _small_gap)
