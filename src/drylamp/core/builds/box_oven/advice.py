"""What is said of box ovens."""

from __future__ import annotations

import math
from collections.abc import Iterator

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import BuildAdvice, Burns, Caution, Change, Found, LimitWords, Rule, Saying, Seen, flag
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box import advice as box
from drylamp.core.builds.common.cover import advice as cover
from drylamp.core.builds.common.fumes.advice import fumes
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.tables import Absorber, Row, absorber
from drylamp.core.text import degrees, metres

FILM_PASSES, FILM_THROWS, FILM_EMITTANCE = 0.05, 0.05, 0.85
"""A black refuse bag over something: what it lets by, throws back and gives off; from memory."""
LEANS_DEG = 8.0
"""Above this a pot of liquid no longer stands well; from memory."""


def _more_mirrors(build: BoxOven, load: Load | None) -> Iterator[Change]:
    sample = build.mirror or FlapMirror(length_m=build.length_m)
    each = sample.row.price_m2 * sample.length_m
    if build.mirror is None:
        yield Change("a mirror on the upper edge", "mirror", build.with_(mirror=sample), load, each * build.width_m)
    missing = [edge for edge in ("left", "right", "lower") if edge not in build.mirrors]
    if missing:
        one = build.flaps.model_copy(update={missing[0]: sample})
        yield Change(f"one more mirror, {missing[0]}", "mirror", build.with_(flaps=one), load, each * build.length_m)
    if len(missing) > 1:
        every = build.flaps.model_copy(update=dict.fromkeys(missing, sample))
        full = build.with_(flaps=every, mirror=sample)
        yield Change("mirrors on all four edges", "mirror", full, load, each * (len(missing) * build.length_m))


def _vent_shut(build: BoxOven, load: Load | None) -> Iterator[Change]:
    if build.vent_m2 > 0:
        yield Change("vent shut", "seal", build.with_(vent_open=0.0), load, 0.0)


def _shiny_side(context: AdviceContext, build: BoxOven, load: Load | None) -> Found | None:
    if build.mirror is None:
        return None

    def dulled(flap: FlapMirror | None) -> FlapMirror | None:
        return None if flap is None else flap.model_copy(update={"material": mirror.dull(flap.row)})

    flaps = MoreFlaps.model_construct(
        lower=dulled(build.flaps.lower), left=dulled(build.flaps.left), right=dulled(build.flaps.right)
    )
    # a level shelf, harmless here, makes both runs go the same traced way
    shiny = build.with_(shelf="level")
    dull = shiny.with_(mirror=dulled(build.mirror), flaps=flaps)
    return mirror.dull_side_words(context, context.between((shiny, load), (dull, load)))


def _black_over_foil(context: AdviceContext, build: BoxOven, load: Load | None) -> Found | None:
    foil, black, plain = (build.with_(lining=row) for row in ("aluminium-foil", "black-card", _film_over("bare-wood")))
    veiled = build.with_(lining=_film_over("aluminium-foil"))
    over_foil, over_wood, bare, card = (context.score(one, load).value for one in (veiled, plain, foil, black))
    still = over_foil - over_wood
    used = still > context.measure.least_worth
    thrown = 100.0 * _film_over("aluminium-foil").absorptance
    words = (
        f"Under a black film that lets {100 * FILM_PASSES:.0f} % by, foil is worth {context.measure.signed(still)} against bare wood under the same film: the two take up "
        f"{thrown:.0f} of 100 parts between them, and little is left for the foil to throw on. Bare foil is {context.measure.signed(bare - over_foil)}, plain black card {context.measure.signed(card - over_foil)}."
    )
    return Found(still, words, "holds partly" if used else "wrong")


def _film_over(name: str) -> Absorber:
    """A thin black film over a finish, as one surface: what the film lets by twice and the finish throws back leaves it again (two sheets in a row, Duffie & Beckman 5.3)."""
    below = absorber(name)
    thrown = FILM_THROWS + FILM_PASSES**2 * (1.0 - below.absorptance) / (1.0 - (1.0 - below.absorptance) * FILM_THROWS)
    return below.model_copy(
        update={"name": f"black-film-over-{name}", "absorptance": round(1.0 - thrown, 4), "emittance": FILM_EMITTANCE}
    )


def _leaning_pot(seen: Seen, build: BoxOven, load: Load | None) -> list[Flag]:
    liquid = None if load is None else load.liquid()
    if liquid is None or build.pot_tilt_deg <= LEANS_DEG:
        return []
    climbs = liquid.diameter_m / 2 * math.tan(math.radians(build.pot_tilt_deg))
    over = liquid.level_m + climbs > liquid.rim_m
    said = f"Level: the tray leans {degrees(build.pot_tilt_deg)}, so the {liquid.title} stands {metres(round(climbs, 3))} higher on one side"
    ends = " and runs over the rim. " if over else ". "
    return flag(
        "warn" if over else "note",
        "load",
        said + ends + "A level shelf, a wedge under the pot or a wedge-shaped box keeps it upright.",
    )


def _shelter(seen: Seen, build: BoxOven, load: Load | None) -> list[Flag]:
    return flag("note", "box", "Look inside before closing: animals shelter in warm boxes. An adult handles hot parts.")


def _near_food(build: BoxOven) -> list[Row]:
    return [absorber(build.tray), absorber(build.lining), *(part.row for part in build.wall)]


ADVICE: BuildAdvice[BoxOven] = BuildAdvice(
    burns=Burns("tray", "Wear dry oven gloves and set the pot on something firm."),
    limits=LimitWords(
        "with nothing in the box", "Do not leave it empty in full sun", " or cover the box when empty"
    ),
    get_ready="open the mirror and let the empty box warm",
    tuned=(box.FLAP_SET,),
    changes=(
        cover.CHANGES, box.INSULATION, box.FINISHES, Rule("mirror", _more_mirrors, 3.0), box.FLAP, box.SEAL, Rule("seal", _vent_shut, 0.1),
        turning.turns_every(30.0, 60.0), turning.TILTED,
    ),
    schools=(turning.TILTS, box.LININGS, cover.SHEETS, turning.TURNS),
    sayings=(
        Saying("shiny-side", "Shiny side of the foil out.", _shiny_side), box.BLACKER, cover.TWO_COVERS, heating.PREHEAT,
        box.SMALL_GAP, cover.GLASS, heating.OUTSIDE, heating.EFFICIENT,
        Saying("black-over-foil", "Black film over foil uses the foil.", _black_over_foil),
    ),
    cautions=(
        mirror.EYES, mirror.WIND, fumes(_near_food), Caution("leaning-pot", _leaning_pot), box.SLIDES, Caution("shelter", _shelter),
    ),
)  # fmt: skip
