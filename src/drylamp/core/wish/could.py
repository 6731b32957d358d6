"""What could be built from what lies on the pile: every starter, made to fit it, by what it is worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from drylamp.core.advice.made_of import MadeOf, made_of
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import BuildSpec, kind_of
from drylamp.core.builds.starters import Starter, starters_at
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount, capital, metres, month_name
from drylamp.core.threads import two_at_a_time
from drylamp.core.wish.fitting import Fitting, fittings
from drylamp.core.wish.propose import ToBuy, spelled, to_buy, uses
from drylamp.core.wish.tried import Spell, days_until_done, run_of

MOST_SHOWN, MOST_FITS, FEW_FITS, LONG_PILE = 8, 24, 4, 150
"""Builds that are shown; ways to fit each that are billed, of a long pile fewer; rows from which on it is long."""
LOOKED_DAYS = {True: 1, False: 7}
"""Days over which something that goes in anew each day is looked at, and something that stays."""


class Could(Model):
    """A build that the pile allows.

    Attributes:
        title, name, spec, load: as it would begin
        works: whether it does what it is for in a usual spell of this month
        price, saved, buy, hours: new; what the pile saves of it; what is left to buy; work
        uses, to_buy, words: of the pile; what else; what it is made to fit and does
    """

    title: str
    name: str
    spec: BuildSpec
    load: LoadSpec | None
    works: YesNo
    price: float
    saved: float
    buy: float
    hours: float
    uses: list[Sentence]
    to_buy: list[ToBuy]
    words: list[Sentence]


class CouldBuild(Model):
    """What the pile allows, the most worth first, and what to know of all of it."""

    found: list[Could]
    words: list[Sentence]


@dataclass(frozen=True)
class _Fit:
    """A starter made to fit the pile as well as it goes."""

    starter: Starter
    fitted: Fitting
    made: MadeOf


def could_build(site: Site, pile: Sequence[Salvaged], today: date) -> CouldBuild:
    """Rank what a pile allows.

    Worth is what the pile saves, for what does its work here in this month before what does not; of one starter the fit whose saving is
    largest against what it makes one buy, then the one of least joint.
    """
    if not pile:
        return CouldBuild(
            found=[], words=["Nothing is on the pile. Measure what lies about: panes, boards, hose, foam, mirrors."]
        )
    fits = [fit for starter in starters_at(site) if (fit := _best_fit(starter, pile)) is not None]
    worth = sorted(fits, key=lambda one: (-one.made.pile.saved, one.starter.title))[:MOST_SHOWN]
    if not worth:
        return CouldBuild(found=[], words=[_missing(starters_at(site), pile)])
    found = two_at_a_time(lambda one: _could(site, one, today), worth)
    found.sort(key=lambda one: (not one.works, -one.saved, one.title))
    return CouldBuild(
        found=found,
        words=[
            f"{capital(amount(len(fits), 'count'))} of {len(starters_at(site))} kinds of build to begin with can use something of it; the most worth first."
        ],
    )


def _best_fit(starter: Starter, pile: Sequence[Salvaged]) -> _Fit | None:
    """Of all ways to make it fit, the one that saves most against what is left to buy; none where the pile gives nothing."""
    ways = fittings(starter.spec, pile)[: MOST_FITS if len(pile) < LONG_PILE else FEW_FITS]
    fits = [_Fit(starter, one, made_of(one.build, pile)) for one in ways]

    def rank(one: _Fit) -> tuple[float, float, float]:
        joint = 0.0 if one.fitted.layout is None else one.fitted.layout.joint_m
        return (round(one.made.pile.saved - one.made.pile.buy), -joint, one.fitted.times)

    return max((one for one in fits if one.made.pile.saved > 0.0), key=rank, default=None)


def _could(site: Site, fit: _Fit, today: date) -> Could:
    build, load = fit.fitted.build, fit.starter.load
    taken = None if load is None else _taken(site, build, load, today)
    said = [] if load is None else [_does(load, taken, today)]
    made = fit.made
    return Could(
        title=fit.starter.title, name=fit.starter.name, spec=build, load=load, works=taken is not None or load is None, price=made.price, saved=made.pile.saved, buy=made.pile.buy,
        hours=made.hours, uses=uses(made), to_buy=to_buy(made), words=[*said, *([fit.fitted.words] if fit.fitted.words else [])],
    )  # fmt: skip


def _taken(site: Site, build: Build, load: Load, today: date) -> float | None:
    spell = Spell(site, None, today, LOOKED_DAYS[load.calendar.daily])
    return days_until_done(spell, load, run_of(spell, build, load, spell.first_try))


def _does(load: Load, taken: float | None, today: date) -> Sentence:
    if taken is None:
        return f"With {load.title} in it, it is not done within {LOOKED_DAYS[load.calendar.daily]} days of {month_name(today.month)}."
    return f"With {load.title} in it: done after {spelled(taken)} in a usual {month_name(today.month)}."


def _missing(every: Sequence[Starter], pile: Sequence[Salvaged]) -> Sentence:
    """What the cheapest builds want that does not lie there."""
    wanted = dict[str, float]()
    for starter in every:
        pieces = kind_of(starter.spec).bill(starter.spec)
        for piece in pieces:
            if piece.family in ("pane", "pipe", "sheet"):
                wanted[piece.of] = max(wanted.get(piece.of, 0.0), piece.long_m)
    first = ", ".join(f"{of.lower()} from {metres(_least(every, of))} on" for of in list(wanted)[:3])
    return f"Of {len(pile)} rows on the pile nothing fits any build to begin with, or it is not said of what it is. What would: {first}."


def _least(every: Sequence[Starter], of: str) -> float:
    sizes = [piece.long_m for starter in every for piece in kind_of(starter.spec).bill(starter.spec) if piece.of == of]
    return min(sizes)
