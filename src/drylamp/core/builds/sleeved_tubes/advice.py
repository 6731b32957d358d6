"""What is said of tubes in bottle sleeves."""

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
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.sleeved_tubes.spec import PreHeat, SleevedTubes
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.text import counted, kilograms, metres

PAINT, FOIL, CARD = "flat-black-paint", "aluminium-foil", "black-card"
ELBOW_PRICE = 1.5
"""Of a tee or elbow; from memory."""


def _rows(build: SleevedTubes, load: Load | None) -> Iterator[Change]:
    more = build.larger()
    if more is not None:
        price = (more.rows - build.rows) * (build.cut_m * build.pipe.row.price_m + 2 * ELBOW_PRICE)
        yield Change(f"{more.rows - build.rows} more tubes", "tubes", more, load, price)
    if build.row.absorptance < 0.92:
        row = tables.absorbers()[PAINT]
        yield Change(
            "tubes painted black",
            "tubes",
            build.with_(finish=PAINT),
            load,
            row.price_m2 * build.all_m * build.pipe.outer_m2_m,
        )
    closer = build.bottles.diameter_mm
    if build.pitch_mm > closer * 1.05:
        yield Change("bottles side by side without a gap", "tubes", build.with_(pitch_mm=closer), load, 0.0)


def _cards(build: SleevedTubes, load: Load | None) -> Iterator[Change]:
    for name, title in (
        (CARD, "black card in the bottles"),
        (FOIL, "foil in the bottles"),
        (None, "no card in the bottles"),
    ):
        if build.bottles.card != name:
            yield Change(
                title, "bottles", build.with_(bottles=build.bottles.model_copy(update={"card": name})), load, 0.0
            )


def _pre_heats(build: SleevedTubes, load: Load | None) -> Iterator[Change]:
    if build.pre_heat is None:
        coil = PreHeat().coil
        yield Change(
            "a bare coil on the ground before them",
            "pre_heat",
            build.with_(pre_heat=PreHeat()),
            load,
            coil.pipe_m * coil.row.price_m,
        )
    else:
        yield Change("no coil before them", "pre_heat", build.with_(pre_heat=None), load, 0.0)


def _cards_tried(context: AdviceContext, build: SleevedTubes, load: Load | None) -> list[Option]:
    titles = ((CARD, "black card"), (FOIL, "foil"), (None, "nothing"))
    return [
        Option(title, build.with_(bottles=build.bottles.model_copy(update={"card": name})), load)
        for name, title in titles
    ]


def _joints(context: AdviceContext, build: SleevedTubes, load: Load | None) -> list[Option]:
    if build.rows < 2:
        return []
    return [
        Option("side by side", build.with_(joined="parallel"), load),
        Option("one after the other", build.with_(joined="series"), load),
    ]


def _foil_behind(context: AdviceContext, build: SleevedTubes, load: Load | None) -> Found | None:
    if load is None:
        return None
    foil, black = (build.with_(bottles=build.bottles.model_copy(update={"card": name})) for name in (FOIL, CARD))
    gain = context.between((foil, load), (black, load))
    return Found(
        gain,
        f"Foil behind the tube is {measure_of(load).signed(gain)} against black card: it throws on the tube only what the tube's width catches.",
    )


def _never_shut(seen: Seen, build: SleevedTubes, load: Load | None) -> list[Flag]:
    return flag(
        "warn", "tubes",
        "Pressure: tubes that are shut at both ends in the sun burst or spit. Leave one end open, or fit a relief valve; on the mains a licensed "
        "plumber decides.",
    )  # fmt: skip


def _weight(seen: Seen, build: SleevedTubes, load: Load | None) -> list[Flag]:
    whole = build.pipe.model_copy(update={"pipe_m": build.all_m}).filled_kg
    return flag(
        "note", "tubes",
        f"Weight: {kilograms(whole)} of tubes and water, beside frame and bottles. On a roof or a pergola a qualified person decides; tie the bottles against wind.",
    )  # fmt: skip


def _to_cut(seen: Seen, build: SleevedTubes, load: Load | None) -> list[Flag]:
    corners = "elbows" if build.joined == "series" else "elbows and tees"
    return flag(
        "note", "tubes",
        f"To cut and collect: {counted(build.rows, 'tube')} of {metres(build.cut_m)}, {counted(build.bottles_needed, 'bottle')}, {build.elbows_needed} {corners}. Gloves for cut bottles.",
    )  # fmt: skip


ADVICE: BuildAdvice[SleevedTubes] = BuildAdvice(
    burns=Burns("tubes", "Dry tubes in the sun burn the hand; shade them before you work on them."),
    limits=LimitWords("dry in full sun", "Keep water in them or shade them", " or shade them while they stand dry"),
    get_ready="fill the tubes, let the air out of them",
    changes=(Rule("tubes", _rows), Rule("bottles", _cards), Rule("pre_heat", _pre_heats), turning.turns_every(60.0), turning.TILTED),
    schools=(turning.TILTS, School("behind", "What goes behind the tube?", _cards_tried), School("tubes-joined", "Tubes side by side, or one after the other?", _joints)),
    sayings=(Saying("foil-behind", "Foil behind the tube heats it more than black", _foil_behind), heating.EFFICIENT, heating.RATED),
    cautions=(Caution("tubes-never-shut", _never_shut), Caution("tubes-weight", _weight), Caution("tubes-list", _to_cut)),
)  # fmt: skip
