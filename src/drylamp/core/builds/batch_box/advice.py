"""What is said of batch boxes."""

from __future__ import annotations

from collections.abc import Iterator

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
from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.box import advice as box
from drylamp.core.builds.common.cover import advice as cover
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.lid.spec import NightLid
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.mirror.spec import StandingMirror
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.text import degrees, metres

SETTINGS = 4
"""So many settings of a mirror are tried for a time of the year."""
LOWEST_M = 0.4
"""A mirror behind a box is at least so high."""
LEAN_BY_DEG = (-10.0, 10.0)
FILM_PRICE_M2 = 1.0
"""Clear film by the square metre; from memory."""


def _lid(build: BatchBox, load: Load | None) -> Iterator[Change]:
    if build.lid is None:
        lid = NightLid()
        price = lid.row.price_m2 * lid.thickness_m / lid.row.usual_thickness_m * build.opening_m2
        yield Change(
            f"a night lid of {metres(lid.thickness_m)} {lid.row.title.lower()}",
            "lid",
            build.with_(lid=lid),
            load,
            price,
        )


def _film(build: BatchBox, load: Load | None) -> Iterator[Change]:
    if build.water_film:
        yield Change("no film on the water", "water", build.with_(water_film=False, bubbles_share=0.0), load, 0.0)
        if build.bubbles_share > 0.2:
            yield Change("bubbles stroked out from under the film", "water", build.with_(bubbles_share=0.0), load, 0.0)
    else:
        yield Change(
            "clear film on the water", "water", build.with_(water_film=True), load, FILM_PRICE_M2 * build.floor_m2
        )
    if build.scale_mm > 0.5:
        yield Change("scale off the trough", "water", build.with_(scale_mm=0.0), load, 0.0)


def _lids(context: AdviceContext, build: BatchBox, load: Load | None) -> list[Option]:
    lid = build.lid or NightLid()
    return [
        Option("open day and night", build.with_(lid=None), load),
        Option(f"shut from {lid.shut_at} to {lid.open_at}", build.with_(lid=lid), load),
    ]


def _mirror_angles(context: AdviceContext, build: BatchBox, load: Load | None) -> list[Option]:
    """Left where it stands, or set for this time of the year."""
    now = build.flap_angle_deg
    if now is None:
        return []
    low, high = build.flap_range_deg
    tried = [low + (high - low) * (k + 1) / (SETTINGS + 1) for k in range(SETTINGS)]
    return [
        Option(f"left at {degrees(now)}", build, load),
        *(Option(f"set at {degrees(angle)} now", build.with_flap_at(angle), load) for angle in tried),
    ]


def _behind(build: BatchBox, load: Load | None) -> Iterator[Change]:
    """A mirror on what stands behind it, as wide as the box, where there is none; another lean where there is."""
    if build.behind is None:
        behind = StandingMirror(width_m=build.width_m, height_m=max(build.length_m, LOWEST_M))
        price = behind.row.price_m2 * behind.width_m * behind.height_m
        yield Change("a mirror behind it", "behind", build.with_(behind=behind), load, price)
        return
    for by in LEAN_BY_DEG:
        leant = build.behind.model_copy(update={"lean_deg": build.behind.lean_deg + by})
        yield Change(f"mirror behind leaning {degrees(leant.lean_deg)}", "behind", build.with_(behind=leant), load, 0.0)


def _films(context: AdviceContext, build: BatchBox, load: Load | None) -> list[Option]:
    return [
        Option("open water under the glass", build.with_(water_film=False), load),
        Option("film on the water", build.with_(water_film=True, bubbles_share=0.0), load),
    ]


def _film_keeps(context: AdviceContext, build: BatchBox, load: Load | None) -> Found | None:
    if load is None or build.cover is None:
        return None
    gain = context.between(
        (build.with_(water_film=True, bubbles_share=0.0), load), (build.with_(water_film=False), load)
    )
    words = f"A film on the water is worth {measure_of(load).signed(gain)} here: it keeps the vapour down and takes a little of the light."
    return Found(gain, words)


def _dry(seen: Seen, build: BatchBox, load: Load | None) -> list[Flag]:
    if load is not None:
        return []
    return flag(
        "warn",
        "box",
        "Dry: without water the trough gets far hotter than it ever does filled. Fill it before the sun is on it, or cover the glass.",
    )


def _relief(seen: Seen, build: BatchBox, load: Load | None) -> list[Flag]:
    if build.coil is None:
        return []
    return flag(
        "warn", "coil",
        "Pressure: a coil on the mains that is shut at both ends bursts when it warms. It needs an open end or a relief valve with expansion, and a "
        "backflow preventer; a licensed plumber decides how.",
    )  # fmt: skip


ADVICE: BuildAdvice[BatchBox] = BuildAdvice(
    burns=Burns("tray", "Gloves for the trough and the glass when it has stood dry in the sun."),
    limits=LimitWords("dry in full sun", "Keep it filled or covered", " or keep water in it"),
    get_ready="open the lid, wipe the glass",
    tuned=(box.FLAP_SET,),
    changes=(
        cover.CHANGES, box.INSULATION, box.FINISHES, box.FLAP, box.SEAL, Rule("lid", _lid), Rule("water", _film), box.MIRROR_LID, Rule("behind", _behind),
    ),
    schools=(cover.SHEETS, School("lid", "A lid for the night, or none?", _lids), School("film", "A film on the water, or open water?", _films),
        School("mirror", "Leave the mirror where it is, or set it by the month?", _mirror_angles)),
    sayings=(
        box.BLACKER, cover.TWO_COVERS, cover.GLASS, Saying("film-keeps", "A film on the water keeps it warm", _film_keeps), heating.EFFICIENT, heating.RATED,
    ),
    cautions=(mirror.EYES, mirror.WIND, Caution("dry", _dry), Caution("relief", _relief)),
)  # fmt: skip
