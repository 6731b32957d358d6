"""What is said of hose coils."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import (
    BuildAdvice,
    Burns,
    Caution,
    Change,
    Found,
    LimitWords,
    Option,
    Rule,
    Saying,
    School,
    Seen,
    flag,
)
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.hose_coil.spec import MOST_COILS, HoseCoil, Mesh
from drylamp.core.common.coil import LONGEST_M
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.text import amount, counted, degrees, kilograms, metres

CLEAR_FILM = GlazedCover(material="pe-film", thickness_m=0.0002)
MESH_PRICE_M2 = 6.0
"""Wire mesh and a can of paint by the square metre; from memory."""
REFLECTOR_DEG = 110.0
GAPS_M = (0.01, 0.03, 0.1)
"""Places under the cover that are tried."""
FILM_SHEET, FOIL, PAINT = "black-polyethylene", "aluminium-foil", "flat-black-paint"


def _covered(build: HoseCoil) -> HoseCoil:
    return build.with_(cover=CLEAR_FILM, cover_gap_m=0.03, sheet=None)


def _covers(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    if build.cover is None:
        price = CLEAR_FILM.row.price_m2 * build.plan_m2
        yield Change("clear film over it", "cover", _covered(build), load, price)
    else:
        yield Change("no cover", "cover", build.with_(cover=None), load, 0.0)


def _beds(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    if build.bed is not None and build.sheet is None:
        for name in (FOIL, PAINT):
            row = tables.absorbers()[name]
            if row is not tables.absorber(build.bed):
                yield Change(
                    f"bed in {row.title.lower()}", "bed", build.with_(bed=name), load, row.price_m2 * build.plan_m2
                )


def _meshes(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    """Wire mesh, blackened, over a bed under glass."""
    if build.mesh is None and build.bed is not None and build.cover is not None and build.sheet is None:
        price = MESH_PRICE_M2 * build.plan_m2
        yield Change("a blackened mesh under the hose", "mesh", build.with_(mesh=Mesh()), load, price)


def _reflectors(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    """A flat reflector as long as the frame on its upper edge; other angles where there is one."""
    if build.mirror is None:
        made = FlapMirror(length_m=build.length_m, angle_deg=REFLECTOR_DEG, material="mirror-film")
        price = made.row.price_m2 * build.width_m * made.length_m
        yield Change("a flat reflector on its upper edge", "mirror", build.with_(mirror=made), load, price)
        return
    for by in (-10.0, 10.0):
        turned = build.with_flap_at(build.mirror.angle_deg + by)
        yield Change(f"reflector at {degrees(build.mirror.angle_deg + by)}", "mirror", turned, load, 0.0)


def _hoses(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    if build.row.absorptance < 0.9 and build.sheet is None:
        row = tables.absorbers()[PAINT]
        yield Change(
            "hose painted black",
            "hose",
            build.with_(finish=PAINT, clamps=PAINT),
            load,
            row.price_m2 * build.hose_m * build.coil.outer_m2_m,
        )
    if build.coils < 6 and (build.coils + 1) * build.coil.pipe_m * build.pitch_m <= build.frame_m2:
        more = build.with_(coils=build.coils + 1)
        yield Change("one more coil", "hose", more, load, build.coil.row.price_m * build.coil.pipe_m)


def _lengths(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    """A quarter more hose, and a quarter less."""
    for share, words in ((1.25, "a quarter more hose"), (0.75, "a quarter less hose")):
        coil = build.coil.model_copy(update={"pipe_m": build.coil.pipe_m * share})
        price = max(share - 1.0, 0.0) * build.hose_m * coil.row.price_m
        yield Change(words, "hose", build.with_(coil=coil), load, price)


def _places(build: HoseCoil, load: Load | None) -> Iterator[Change]:
    """Higher or lower in its box, under the cover."""
    if build.cover is not None and build.sheet is None:
        for gap in GAPS_M:
            if abs(gap - build.cover_gap_m) > 0.5 * gap:
                yield Change(f"hose {metres(gap)} under the cover", "cover", build.with_(cover_gap_m=gap), load, 0.0)


def _joints(context: AdviceContext, build: HoseCoil, load: Load | None) -> list[Option]:
    if build.coils < 2:
        return []
    return [
        Option("one after the other", build.with_(joined="series"), load),
        Option("side by side", build.with_(joined="parallel"), load),
    ]


def _lays(context: AdviceContext, build: HoseCoil, load: Load | None) -> list[Option]:
    """The same hose in one coil or in several side by side."""
    made = [
        build.with_(coils=count, coil=build.coil.model_copy(update={"pipe_m": build.hose_m / count}), joined="parallel")
        for count in range(1, MOST_COILS + 1)
    ]
    return [
        Option(f"{counted(m.coils, 'coil')} of {amount(m.coil.pipe_m, 'distance')}", m, load)
        for m in made
        if m.coil.pipe_m <= LONGEST_M
    ]


def _films(context: AdviceContext, build: HoseCoil, load: Load | None) -> list[Option]:
    return [
        Option("bare", build.with_(cover=None, sheet=None), load),
        Option("clear film over it", _covered(build), load),
        Option("dark film on it", build.with_(cover=None, sheet=FILM_SHEET), load),
    ]


def _foil_under_black(context: AdviceContext, build: HoseCoil, load: Load | None) -> Found | None:
    if load is None or build.bed is None:
        return None
    on_foil = build.with_(bed=FOIL)
    gain = context.between((on_foil.with_(cover=None, sheet=FILM_SHEET), load), (_covered(on_foil), load))
    words = f"Dark film over a hose on foil is {measure_of(load).signed(gain)} against clear film: under the dark one the foil gets no sun to throw on."
    return Found(gain, words)


def _painted(context: AdviceContext, build: HoseCoil, load: Load | None) -> Found | None:
    if load is None or build.sheet is not None:
        return None
    gain = context.between((build.with_(finish=PAINT, clamps=PAINT), load), (build, load))
    return Found(gain, f"Painting hose and clamps black is worth {measure_of(load).signed(gain)} here.")


def _never_shut(seen: Seen, build: HoseCoil, load: Load | None) -> list[Flag]:
    return flag(
        "warn", "hose",
        "Pressure: a hose that is shut at both ends in the sun bursts or spits. Leave one end open, or fit a relief valve; on the mains a licensed "
        "plumber decides.",
    )  # fmt: skip


def _weight(seen: Seen, build: HoseCoil, load: Load | None) -> list[Flag]:
    whole = build.coils * build.coil.filled_kg
    return flag(
        "note",
        "frame",
        f"Weight: {kilograms(whole)} of hose and water, beside frame and cover. On a roof a qualified person decides.",
    )


ADVICE: BuildAdvice[HoseCoil] = BuildAdvice(
    burns=Burns("hose", "A dry hose in the sun burns the hand; lift it by its cool side."),
    limits=LimitWords("dry in full sun", "Keep water in it or shade it", " or take the cover off when it stands dry"),
    get_ready="lay the hose out, let the air out of it",
    changes=(Rule("cover", _covers), Rule("bed", _beds), Rule("mesh", _meshes), Rule("mirror", _reflectors), Rule("hose", _hoses), Rule("hose", _lengths), Rule("cover", _places), turning.turns_every(60.0), turning.TILTED),
    schools=(
        turning.TILTS, School("joined", "Coils one after the other, or side by side?", _joints), School("over", "What goes over the hose?", _films), School("lay", "In how many coils is this hose laid?", _lays),
    ),
    sayings=(
        Saying("foil-under-black", "Black film over foil uses the foil", _foil_under_black), Saying("paint-the-hose", "Paint the hose and its clamps black", _painted),
        heating.EFFICIENT, heating.RATED,
    ),
    cautions=(mirror.EYES, mirror.WIND, Caution("never-shut", _never_shut), Caution("hose-weight", _weight)),
)  # fmt: skip
