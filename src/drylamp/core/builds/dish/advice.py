"""What is said of dishes: their focus above all."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.entries import BuildAdvice, Burns, Caution, Change, LimitWords, Rule, Seen, flag
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.open_air import advice as open_air
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.dish.optics import shape_of, spill
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.loads.load import Load
from drylamp.core.optics.dish_light import spot_radius_m
from drylamp.core.outcome.flag import Flag
from drylamp.core.sky.sun import EARTH_TURNS_DEG_MIN
from drylamp.core.text import metres

SPOT_SHARE = 0.9
WIDER, CUT_SHARE = 1.2, 1.15


def _shape(build: Dish, load: Load | None) -> Iterator[Change]:
    bigger = build.with_(diameter_m=build.diameter_m * WIDER)
    price = build.mirror_row.price_m2 * build.opening_m2 * (WIDER**2 - 1) * CUT_SHARE
    yield Change("a dish a fifth wider", "mirror", bigger, load, price)
    if build.surface != "smooth":
        yield Change("a truer curve", "mirror", build.with_(surface="smooth"), load, 0.0)


def focus_suns(build: Dish) -> tuple[float, float]:
    """Suns at a dish's focus, mean over the spot that holds nine tenths of the light, and that spot's width, m."""
    radius = spot_radius_m(shape_of(build), SPOT_SHARE)
    thrown = SPOT_SHARE * build.opening_m2 * build.mirror_row.reflectance
    return thrown / (math.pi * radius**2), 2 * radius


def _focus(seen: Seen, build: Dish, load: Load | None) -> list[Flag]:
    suns, wide = focus_suns(build)
    return flag(
        "stop", "mirror",
        f"Focus: about {suns:.0f} suns on a spot {metres(wide)} across; it blinds, burns skin and sets card and cloth alight "
        "within moments. Dark goggles for everyone near, nobody between dish and pot, and the dish turned away or covered "
        "whenever it is left or not cooking.",
    )  # fmt: skip


def _turning(seen: Seen, build: Dish, load: Load | None) -> list[Flag]:
    if build.turned_minutes is None:
        return flag(
            "stop", "mirror",
            "Left as it stands, its spot wanders off the pot and over whatever is beside it. Cover it, or stay and turn it.",
        )  # fmt: skip
    lost = float(spill(build, load, np.array([build.turned_minutes * EARTH_TURNS_DEG_MIN]))[0])
    return flag(
        "note", "mirror",
        f"Turning: {build.turned_minutes:.0f} min after it was turned {lost * 100:.0f} of 100 parts spill past the pot onto what "
        "stands behind it. Keep that place clear of anything that burns, and turn it by the indicator, not by the light.",
    )  # fmt: skip


ADVICE: BuildAdvice[Dish] = BuildAdvice(
    burns=Burns("load", "Turn the dish away or cover it before you reach for the pot, and wear dry oven gloves."),
    limits=LimitWords("with nothing at the focus", "Look at it often"),
    get_ready="dark goggles on; wash the mirror, keep it covered until the pot is on",
    turn="turn the dish to the sun, until its indicator throws no shadow",
    changes=(mirror.BRIGHTER, turning.turns_every(10.0), Rule("mirror", _shape, 8.0), open_air.ENVELOPED),
    schools=(mirror.SURFACES,),
    sayings=(heating.OUTSIDE,),
    cautions=(Caution("focus", _focus), Caution("turning", _turning), mirror.WIND, open_air.COOK),
)
