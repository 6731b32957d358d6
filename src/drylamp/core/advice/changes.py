"""Sensible single changes to a build, made from its own fields and the shelf. Adding one is adding a function to RULES."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from pydantic import ValidationError

from drylamp.core import tables
from drylamp.core.builds.box_oven import BoxOven, FlapMirror, GlazedCover, WallLayer
from drylamp.core.builds.dish import Dish
from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.kinds import BUILD, AnyBuild, BuildSpec, kind_of
from drylamp.core.builds.melter import Melter
from drylamp.core.checks import InputProblem
from drylamp.core.loads.body import Envelope
from drylamp.core.loads.load import LOAD, AnyLoad
from drylamp.core.loads.pot import PotLoad, in_vessel
from drylamp.core.loads.wax import WaxBatch

STRIP_PRICE_M = 0.6
"""Sealing strip by the metre; from memory."""
MORE_INSULATION_M = 0.025
FOAM_LIKE_BELOW_W_MK = 0.08
BLACK_ENOUGH, TIGHT_MM = 0.93, 0.3


@dataclass(frozen=True)
class Change:
    """One change: what it is called, the part it is about, the build and load with it, and what it costs new."""

    title: str
    part: str
    build: BuildSpec
    load: AnyLoad | None
    price: float


Rule = Callable[[AnyBuild, AnyLoad | None], Iterator[Change]]
Boxed = BoxOven | Melter


def changes_of(build: BuildSpec, load: AnyLoad | None) -> list[Change]:
    """Every change that makes sense for this build and load, those that do not fit left out."""
    out = []
    for rule in RULES:
        for change in rule(build, load):
            try:
                made = BUILD.validate_python(change.build.model_dump())
                goods = None if change.load is None else LOAD.validate_python(change.load.model_dump())
                kind_of(made).check_fit(made, goods)
            except (ValidationError, InputProblem):
                continue
            out.append(Change(change.title, change.part, made, goods, round(change.price, 2)))
    return out


def _with(build: AnyBuild, **fields: object) -> AnyBuild:
    return build.model_copy(update=fields)


def _covers(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if not isinstance(build, Boxed):
        return
    area, cover = build.opening_m2, build.cover
    if cover is None:
        glass = GlazedCover()
        yield Change("a pane of glass over it", "cover", _with(build, cover=glass), load, glass.row.price_m2 * area)
        return
    if cover.layers + len(cover.more) < 3:
        more = cover.model_copy(update={"layers": cover.layers + 1})
        yield Change(
            "one more sheet of the same cover", "cover", _with(build, cover=more), load, cover.row.price_m2 * area
        )
    for name in ("low-iron-glass", "twin-wall-10", "polyester-film"):
        row = tables.covers()[name]
        if row is not cover.row:
            other = GlazedCover(material=name, thickness_m=row.usual_thickness_m, layers=1, gap_m=cover.gap_m)
            yield Change(f"{row.title.lower()} instead", "cover", _with(build, cover=other), load, row.price_m2 * area)


def _insulation(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if not isinstance(build, Boxed):
        return
    floor, sides = build.opening_m2, 2 * (build.width_m + build.length_m) * build.height_m
    wall = list(build.wall)
    soft = [k for k, layer in enumerate(wall) if layer.row.conductivity_w_mk < FOAM_LIKE_BELOW_W_MK]
    if soft:
        k = max(soft, key=lambda i: wall[i].thickness_m)
        layer = wall[k]
        wall[k] = layer.model_copy(update={"thickness_m": layer.thickness_m + MORE_INSULATION_M})
        price = layer.row.price_m2 * MORE_INSULATION_M / layer.row.usual_thickness_m
        title = f"25 mm more {layer.row.title.lower()}"
    else:
        row = tables.layers()["glass-wool"]
        wall.append(WallLayer(material="glass-wool", thickness_m=MORE_INSULATION_M))
        price, title = row.price_m2 * MORE_INSULATION_M / row.usual_thickness_m, "25 mm of glass wool round it"
    yield Change(title, "wall", _with(build, wall=wall), load, price * (floor + sides))


def _blacker(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if isinstance(build, Boxed):
        area = build.opening_m2
        for name in ("flat-black-paint", "selective-foil"):
            row = tables.absorbers()[name]
            now = tables.absorber(build.tray)
            if row is not now and (name != "flat-black-paint" or now.absorptance < BLACK_ENOUGH):
                yield Change(f"tray in {row.title.lower()}", "tray", _with(build, tray=name), load, row.price_m2 * area)
        sides = 2 * (build.width_m + build.length_m) * build.height_m
        for name, words in (("aluminium-foil", "foil on the inner walls"), ("flat-black-paint", "inner walls black")):
            row = tables.absorbers()[name]
            if row is not tables.absorber(build.lining):
                yield Change(words, "lining", _with(build, lining=name), load, row.price_m2 * sides)
    if isinstance(build, Funnel):
        row = tables.absorbers()["flat-black-paint"]
        if tables.absorber(build.base).absorptance < BLACK_ENOUGH - 0.02:
            yield Change(
                "bottom painted black",
                "base",
                _with(build, base="flat-black-paint"),
                load,
                row.price_m2 * build.base_m2,
            )


def _mirrors(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if isinstance(build, BoxOven):
        sample = build.mirror or FlapMirror(length_m=build.length_m)
        each = sample.row.price_m2 * sample.length_m
        if build.mirror is None:
            yield Change(
                "a mirror on the upper edge", "mirror", _with(build, mirror=sample), load, each * build.width_m
            )
        missing = [edge for edge in ("left", "right", "lower") if getattr(build.flaps, edge) is None]
        if missing:
            one = build.flaps.model_copy(update={missing[0]: sample})
            yield Change(
                f"one more mirror, {missing[0]}", "mirror", _with(build, flaps=one), load, each * build.length_m
            )
        if len(missing) > 1:
            every = build.flaps.model_copy(update=dict.fromkeys(missing, sample))
            full = _with(build, flaps=every, mirror=sample)
            yield Change("mirrors on all four edges", "mirror", full, load, each * (len(missing) * build.length_m))
    if isinstance(build, Melter) and build.mirror is None:
        lid = FlapMirror(length_m=build.length_m, angle_deg=105)
        yield Change(
            "a mirror lid on the upper edge",
            "mirror",
            _with(build, mirror=lid),
            load,
            lid.row.price_m2 * build.opening_m2,
        )
    if isinstance(build, Boxed) and build.mirror is not None:
        for by in (-10.0, 10.0):
            turned = build.mirror.model_copy(update={"angle_deg": build.mirror.angle_deg + by})
            yield Change(f"mirror at {turned.angle_deg:.0f}°", "mirror", _with(build, mirror=turned), load, 0.0)
        yield from _other_mirror(build, load, build.mirror.row, build.width_m * build.mirror.length_m)
    if isinstance(build, Dish) or (isinstance(build, Funnel) and build.shape != "flat"):
        yield from _other_mirror(build, load, build.mirror_row, 1.3 * build.opening_m2)


def _other_mirror(build: AnyBuild, load: AnyLoad | None, now: tables.Mirror, area_m2: float) -> Iterator[Change]:
    """A mirror that throws back more, of the sheets that can be had."""
    for name in ("mylar", "glass-mirror", "mirror-film"):
        row = tables.mirrors()[name]
        if row.reflectance <= now.reflectance + 0.02 or (name == "glass-mirror" and not isinstance(build, Boxed)):
            continue
        better: object = name
        if isinstance(build, Boxed):
            assert build.mirror is not None
            better = build.mirror.model_copy(update={"material": name})
        yield Change(
            f"mirror of {row.title.lower()}", "mirror", _with(build, mirror=better), load, row.price_m2 * area_m2
        )


def _seal(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if isinstance(build, Boxed) and build.seal_gap_mm > TIGHT_MM:
        rim = 2 * (build.width_m + build.length_m)
        yield Change("a tighter seal round the cover", "seal", _with(build, seal_gap_mm=0.1), load, STRIP_PRICE_M * rim)
    if isinstance(build, BoxOven) and build.vent_m2 > 0:
        yield Change("vent shut", "seal", _with(build, vent_open=0.0), load, 0.0)


def _stance(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if not isinstance(build, Dish | BoxOven | Funnel | Melter) or (isinstance(build, Funnel) and build.shape == "flat"):
        return
    every = build.turned_minutes
    for minutes in (30.0, 60.0) if not isinstance(build, Dish) else (10.0,):
        if every is None or every > minutes:
            yield Change(
                f"turned to the sun every {minutes:.0f} min", "aim", _with(build, turned_minutes=minutes), load, 0.0
            )
    if not isinstance(build, Dish):
        for by in (-10.0, 10.0):
            tilt = min(max(build.tilt_deg + by, 0.0), 90.0)
            if tilt != build.tilt_deg:
                yield Change(f"tilted {tilt:.0f}° from level", "aim", _with(build, tilt_deg=tilt), load, 0.0)


def _shape(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if isinstance(build, Funnel) and build.shape != "flat":
        wide, high = build.sheet_width_m * 1.25, build.sheet_height_m * 1.25
        price = build.mirror_row.price_m2 * (wide * high - build.sheet_width_m * build.sheet_height_m)
        yield Change(
            "a sheet a quarter longer and wider",
            "mirror",
            _with(build, sheet_width_m=wide, sheet_height_m=high),
            load,
            price,
        )
        for by in (-8.0, 8.0):
            flare = min(max(build.flare_deg + by, 15.0), 70.0)
            yield Change(f"walls flared {flare:.0f}°", "mirror", _with(build, flare_deg=flare), load, 0.0)
    if isinstance(build, Dish):
        bigger = _with(build, diameter_m=build.diameter_m * 1.2)
        price = build.mirror_row.price_m2 * build.opening_m2 * 0.44 * 1.15
        yield Change("a dish a fifth wider", "mirror", bigger, load, price)
        if build.surface != "smooth":
            yield Change("a truer curve", "mirror", _with(build, surface="smooth"), load, 0.0)


def _pots(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if not isinstance(load, PotLoad):
        return
    if load.vessel not in ("thin-enamel", "pressure-pot"):
        yield Change("a thin black pot", "load", build, in_vessel(load, "thin-enamel"), 12.0)
    if load.finish.absorptance < BLACK_ENOUGH - 0.03:
        yield Change(
            "pot blackened outside", "load", build, load.model_copy(update={"pot_finish": "flat-black-paint"}), 1.0
        )
    if not load.is_tight:
        for lid in ("black", "clear"):
            if lid != load.lid:
                yield Change(f"a {lid} lid", "load", build, load.model_copy(update={"lid": lid}), 3.0)
    if load.under is None and isinstance(build, Funnel | Dish):
        wide, high = load.pot_diameter_m + 0.04, load.pot_height_m + 0.05
        for name, thick, words in (
            ("oven-bag", 0.000025, "an oven bag over the pot"),
            ("borosilicate-bowl", 0.005, "a glass bowl over the pot"),
        ):
            row = tables.covers()[name]
            over = Envelope(material=name, thickness_m=thick, diameter_m=wide, height_m=high)
            yield Change(words, "load", build, load.model_copy(update={"under": over}), row.price_m2 * over.hull_m2)
    yield Change("half as much food", "load", build, load.model_copy(update={"food_kg": load.food_kg / 2}), 0.0)


def _batches(build: AnyBuild, load: AnyLoad | None) -> Iterator[Change]:
    if not isinstance(load, WaxBatch):
        return
    for share in (0.5, 1.5):
        words = "half the batch at once" if share < 1 else "half as much again at once"
        yield Change(words, "load", build, load.model_copy(update={"batch_kg": load.batch_kg * share}), 0.0)
    if load.strainer != "mesh":
        yield Change("strained through mesh", "load", build, load.model_copy(update={"strainer": "mesh"}), 2.0)
    hours = int(load.goes_in[:2])
    if hours > 8:
        yield Change("laid in at 08:00", "load", build, load.model_copy(update={"goes_in": "08:00"}), 0.0)


RULES: tuple[Rule, ...] = (
    _covers, _insulation, _blacker, _mirrors, _seal, _stance, _shape, _pots, _batches,
)  # fmt: skip
