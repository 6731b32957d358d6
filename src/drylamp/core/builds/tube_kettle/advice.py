"""What is said of tube kettles."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import BuildAdvice, Burns, Caution, Change, LimitWords, Option, Rule, School, Seen
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.common.vacuum_tube import advice as tubes
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import degrees, metres

LONGER, TUBE_PRICE_M = 1.5, 12.0
"""A longer tube; price of a metre from memory."""
OPEN_BY_DEG = (-20.0, -10.0, 10.0, 20.0)
SAME_DEG = 3.0
LOW_M = 0.05


def _longer(build: TubeKettle, load: Load | None) -> Iterator[Change]:
    lit = round(build.tube.lit_m * LONGER, 2)
    made = build.tube.model_copy(update={"lit_m": lit, "heat_j_k": None})
    yield Change(f"a tube lit over {metres(lit)}", "tube", build.with_(tube=made), load, TUBE_PRICE_M * lit)


def _opened(build: TubeKettle, load: Load | None) -> Iterator[Change]:
    if build.wings is None:
        return
    low, high = build.flap_range_deg
    for by in OPEN_BY_DEG:
        angle = build.wings.open_deg + by
        if low <= angle <= high:
            yield Change(f"wings opened {degrees(angle)}", "mirror", build.with_flap_at(angle), load, 0.0)


def _notched(build: TubeKettle, load: Load | None) -> Iterator[Change]:
    for mark in build.marks_deg:
        if abs(mark - build.tilt_deg) > SAME_DEG:
            yield Change(f"set to the notch at {degrees(mark)}", "aim", build.with_(tilt_deg=mark), load, 0.0)


def _notches(context: AdviceContext, build: TubeKettle, load: Load | None) -> list[Option]:
    """Its notches against the latitude and today's noon."""
    if not build.marks_deg:
        return []
    around, noon = abs(context.case.site.latitude_deg), 90.0 - float(np.max(context.weather.sun.altitude_deg))
    wanted = [
        *(("notch", mark) for mark in build.marks_deg),
        ("tilt = latitude", around),
        ("square to today's noon", min(max(noon, 0.0), 90.0)),
    ]
    return [Option(f"{title} ({degrees(tilt)})", build.with_(tilt_deg=tilt), load) for title, tilt in wanted]


def _tips(seen: Seen, build: TubeKettle, load: Load | None) -> list[Flag]:
    high = LOW_M + build.tube.length_m * math.sin(math.radians(build.tilt_deg)) / 2.0
    return tubes.tipping(
        build.opening_m2, high, build.feet_m, build.weighs_kg + (0.0 if load is None else load.amount_kg)
    )


ADVICE: BuildAdvice[TubeKettle] = BuildAdvice(
    burns=Burns("tube", "The outer glass stays cool while the inner one scalds: judge by the steam, not by the hand."),
    limits=LimitWords("empty in full sun", "Fold the wings shut or cover it while it stands empty", " or keep it out of the sun while it is empty"),
    get_ready="rinse the tube, look at the spot at its closed end, set the notch and open the wings",
    turn="turn it until the tube's shadow lies in the middle between the wings",
    changes=(tubes.WINGS, Rule("mirror", _opened, 0.1), Rule("tube", _longer), Rule("aim", _notched, 0.1), turning.turns_every(30.0, 60.0)),
    schools=(School("notch", "Which notch?", _notches), tubes.SHAPES, tubes.SURFACES, turning.TURNS),
    sayings=(tubes.WINTER, heating.EFFICIENT, heating.OUTSIDE),
    cautions=(tubes.VACUUM, tubes.SHOCK, mirror.EYES, Caution("tipping", _tips)),
)  # fmt: skip
