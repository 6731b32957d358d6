"""What is said of portions on a tray."""

from __future__ import annotations

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Found, LoadAdvice, Ruling, Saying
from drylamp.core.builds.build import Build
from drylamp.core.loads.portions.spec import Portion, Portions, melted_through_c
from drylamp.core.outcome.of_load import reached

DENSER_TIMES = 1.5
"""How much denser than another a thing is made for the test."""
LATER_MIN = 3.0


def _denser(context: AdviceContext, build: Build, load: Portions) -> Found | None:
    """The first portion as it is and made denser, in the same place: once as large, so that it is heavier, once as heavy, so that it is smaller."""
    first = load.portions[0]
    packed = (
        first.thickness_m or first.row.thickness_m
    ) * DENSER_TIMES  # as much more lies over each square centimetre
    as_is = _minutes(context, build, load, first)
    heavier = _minutes(
        context, build, load, first.model_copy(update={"thickness_m": packed, "mass_kg": first.mass_kg * DENSER_TIMES})
    )
    smaller = _minutes(context, build, load, first.model_copy(update={"thickness_m": packed}))
    if as_is is None or heavier is None or smaller is None:
        return None
    later, no_later = heavier - as_is, smaller - as_is
    ruling: Ruling = "holds" if no_later > LATER_MIN else "holds partly" if later > LATER_MIN else "wrong"
    words = (
        f"{first.title} melts after {as_is:.0f} min; half as dense again and as large, so heavier, after {heavier:.0f}; "
        f"half as dense again and as heavy, so smaller, after {smaller:.0f}. Mass decides, and colour, melting point and place in the light; density by itself does not."
    )
    return Found(no_later, words, ruling, "minutes", "minutes until it is melted, of the same thing made denser")


def _minutes(context: AdviceContext, build: Build, load: Portions, portion: Portion) -> float | None:
    """Until the portion is melted in the place of the first, min; none where it never is."""
    only = load.model_copy(update={"portions": [portion, *load.portions[1:]]})
    run = context.run(build, only)
    when = reached(run.edge_s, run.temperature_c[portion.node], melted_through_c(portion.row))
    return None if when is None else (when - context.put_in_s()) / 60.0


ADVICE: LoadAdvice[Portions] = LoadAdvice(sayings=(Saying("denser", "Denser things melt later.", _denser),))
