"""From a wish to two or three builds that bring it off: sized, priced, run through the twin, what the pile gives counted off.

Each starter whose kind takes the wished load is tried as it is, and as it is made to fit what lies there. It grows until a go of the wished
amount (or one of several goes, where a period is long enough for them) gets done in a usual spell of the month; then days that could equally
well be tell the chance. A wish that nothing brings off says so, with the best there is.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

from pydantic import Field

from drylamp.core.advice.made_of import MadeOf, made_of
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import BuildSpec, kind_of
from drylamp.core.builds.starters import Starter, starters_at
from drylamp.core.checks import Count, Fraction, Model, require
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.long import Long, Step
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount, capital, month_name
from drylamp.core.threads import two_at_a_time
from drylamp.core.wish import fitting
from drylamp.core.wish.goods import Offer, by_name
from drylamp.core.wish.sentence import DAYS_OF, Wish, said
from drylamp.core.wish.tried import MID_MONTH, Ends, Spell, days_until_done, ends_of, load_of, run_of

MOST, TRIED_WHOLE = 3, 4
SIZES = (0.5, 1.0, 1.7, 3.0, 5.0)
"""Areas of the opening against the starter's, as it is grown."""
MOST_CANDIDATES = 9
LARGER = (1.7, 3.0)
"""By how much what is too rarely done is grown once more."""
GOES: dict[int, tuple[int, ...]] = {0: (1,), 1: (1,), 7: (1, 2, 4), 30: (1, 2, 4, 10), 365: (1, 4, 12, 40)}
"""In how many goes an amount is brought in a period of so many days."""
GOOD_CHANCE = 0.5


class ToBuy(Model):
    """Something that is left to buy: what, how many, its price in all."""

    title: str
    of: str
    count: Count
    price: float


class Proposal(Model):
    """A build that brings the wish off, or comes nearest.

    Attributes:
        title, name: what it is, and what it is called at first
        spec, load: as it would begin
        goes: in how many goes the amount comes, in the period
        works: whether it brings it off on a usual spell
        chance: share of likely spells in which a go gets done; none where none could be made up
        low_days, likely_days, high_days: from putting in until done
        price, buy, hours, kg: new; what is left to buy with what the pile gives; work; weight
        uses, to_buy: of the pile, and what else
        beyond: why it is more than was allowed; empty where it is not
        words: what it will do, what it is made to fit
    """

    title: str
    name: str
    spec: BuildSpec
    load: LoadSpec
    goes: Count
    works: bool
    chance: Fraction | None
    low_days: float | None
    likely_days: float | None
    high_days: float | None
    price: float
    buy: float
    hours: float
    kg: float
    uses: list[Sentence]
    to_buy: list[ToBuy]
    beyond: list[Sentence]
    words: list[Sentence]


class Proposals(Model):
    """What is proposed for a wish.

    Attributes:
        said: the wish in the tool's words
        month: in which it was tried
        proposals: the best first
        words: what to know of all of them, as where nothing brings it off
    """

    said: Sentence
    month: int = Field(ge=1, le=12)
    proposals: list[Proposal]
    words: list[Sentence]


@dataclass(frozen=True)
class _Candidate:
    """A starter with the good that it is to hold, as it is or made to fit something."""

    starter: Starter
    offer: Offer
    fitted: fitting.Fitting
    costs: float


@dataclass(frozen=True)
class _Sized:
    """A candidate at a size, with its load, what it comes to, and how it did."""

    of: _Candidate
    build: Build
    load: Load
    goes: int
    taken: float | None
    made: MadeOf
    ends: Ends | None = None
    best: Sentence = ""


def propose(site: Site, wish: Wish, pile: Sequence[Salvaged], today: date) -> Long[Proposals]:
    """Propose builds, the first after a moment, then better ones.

    Parameters
    ----------
    site
        where it is to stand
    wish
        with a good named
    pile
        of the site; what the wish says to have comes before it
    today
        for the month where the wish names none

    Raises
    ------
    InputProblem
        the wish names nothing, or nothing that is built here takes it.
    """
    require(wish.good is not None, "good", wish.ask or "say what it is to do")
    assert wish.good is not None
    rows = [*wish.have, *pile]
    month = wish.months[len(wish.months) // 2] if wish.months else today.month
    offered = by_name()[wish.good]
    days = max(offer.good.days for offer in offered)
    spell = Spell(site, None, date(today.year, month, MID_MONTH), days)
    candidates = sorted(_candidates(site, offered, rows), key=lambda one: one.costs)[:MOST_CANDIDATES]
    require(bool(candidates), "good", f"nothing that is built here takes {offered[0].good.title}")
    sized = list[_Sized]()
    for k, found in enumerate(_sized(spell, wish, candidates, rows)):
        sized.append(found)
        yield Step((k + 1) / (len(candidates) + TRIED_WHOLE), _answer(wish, month, _best(sized, wish)))
    whole = list[_Sized]()
    for one in _best(sized, wish)[:TRIED_WHOLE]:
        whole.append(_likely_enough(spell, wish, one, rows))
        rest = [other for other in _best(sized, wish) if other.build is not one.build]
        yield Step(
            min(0.99, (len(candidates) + len(whole)) / (len(candidates) + TRIED_WHOLE)),
            _answer(wish, month, _best([*whole, *rest], wish)[:MOST]),
        )
    yield Step(1.0, _answer(wish, month, _best(whole, wish)[:MOST], spell))


def _candidates(site: Site, offered: Sequence[Offer], rows: Sequence[Salvaged]) -> Iterator[_Candidate]:
    """Starters whose kind takes the load: as they are, under panes that there are, and made to fit those."""
    for starter in starters_at(site):
        kind = kind_of(starter.spec)
        for offer in offered:
            if offer.made.sits not in kind.offers or not offer.is_of(starter.load):
                continue
            fits = fitting.fittings(starter.spec, rows)
            fixed = [one for one in fits if one.is_fixed]
            fixed.sort(key=lambda one: (0.0 if one.layout is None else one.layout.joint_m, -one.times))
            cut = [one for one in fits[1:] if not one.is_fixed]
            for one in [*fixed[:1], *cut[:1], fits[0]]:
                yield _Candidate(starter, offer, one, made_of(one.build, rows).pile.buy)


def _sized(spell: Spell, wish: Wish, candidates: Sequence[_Candidate], rows: Sequence[Salvaged]) -> Iterator[_Sized]:
    for first in range(0, len(candidates), 2):
        for found in two_at_a_time(lambda one: _size(spell, wish, one, rows), candidates[first : first + 2]):
            if found is not None:
                yield found


def _size(spell: Spell, wish: Wish, candidate: _Candidate, rows: Sequence[Salvaged]) -> _Sized | None:
    """The smallest size at which it is done; where none is, the one that came nearest. What fits the pile is not grown."""
    nearest: _Sized | None = None
    for times in (1.0,) if candidate.fitted.is_fixed else SIZES:
        build = candidate.fitted.build.stretched(times**0.5, times**0.5)
        if build is None or (times > 1.0 and build == candidate.fitted.build):
            break
        for found in _goes(spell, wish, candidate, build, rows):
            if found.taken is not None:
                return found
            nearest = found
    return nearest


def _goes(spell: Spell, wish: Wish, candidate: _Candidate, build: Build, rows: Sequence[Salvaged]) -> Iterator[_Sized]:
    """A size in one go, in two … as the period allows, each with its run."""
    assert wish.amount is not None
    period = DAYS_OF[wish.every]
    for goes in GOES[period]:
        load = load_of(candidate.offer, candidate.starter.load, build, wish.amount / goes, wish.celsius)
        run = None if load is None else run_of(spell, build, load, spell.first_try)
        if load is None or run is None:
            continue
        taken = days_until_done(spell, load, run)
        if taken is not None and period and taken * goes > period:
            taken = None
        best = (
            ""
            if taken is not None
            else outcome_of(load).short(load, run)
            or _gets_to(load, run.temperature_c[load.judged].max() if load.has_target else None)
        )
        made = made_of(build, rows)
        yield _Sized(candidate, build, load, goes, taken, made, best=best)
        if taken is None and period <= 1:
            return


def _gets_to(load: Load, most_c: float | None) -> Sentence:
    return (
        ""
        if most_c is None
        else f"It gets to {amount(float(most_c), 'temperature')} of {amount(load.wanted_c, 'temperature')}."
    )


def _likely_enough(spell: Spell, wish: Wish, one: _Sized, rows: Sequence[Salvaged]) -> _Sized:
    """With its chance; what a usual spell allows and most spells do not is made larger, as far as that helps."""
    found = _chanced(spell, one)
    for times in LARGER:
        if found.ends is None or found.ends.chance >= GOOD_CHANCE or one.taken is None or one.of.fitted.is_fixed:
            break
        build = one.build.stretched(times**0.5, times**0.5)
        same = load_of(
            one.of.offer,
            one.of.starter.load,
            one.build if build is None else build,
            (wish.amount or 0.0) / one.goes,
            wish.celsius,
        )
        if build is None or same is None or build == one.build:
            break
        larger = _chanced(spell, replace(one, build=build, load=same, made=made_of(build, rows)))
        if larger.ends is None or larger.ends.chance <= found.ends.chance:
            break
        found = larger
    return found


def _chanced(spell: Spell, sized: _Sized) -> _Sized:
    """With its chance, over spells that could equally well be."""
    if not spell.likely:
        return sized
    runs = two_at_a_time(lambda weather: run_of(spell, sized.build, sized.load, weather), spell.likely)
    return replace(sized, ends=ends_of([days_until_done(spell, sized.load, run) for run in runs]))


def _best(sized: Sequence[_Sized], wish: Wish) -> list[_Sized]:
    """The best first: what works, within money and hours, likely, cheap; one of each starter."""

    def rank(one: _Sized) -> tuple[object, ...]:
        chance = 1.0 if one.ends is None else one.ends.chance
        return (
            one.taken is None,
            len(_beyond(one, wish)),
            chance < GOOD_CHANCE,
            one.made.pile.buy + 5.0 * one.made.hours,
            one.of.starter.title,
        )

    first = dict[str, _Sized]()
    for one in sorted(sized, key=rank):
        first.setdefault(one.of.starter.title, one)
    return list(first.values())


def _beyond(one: _Sized, wish: Wish) -> list[Sentence]:
    out = list[Sentence]()
    if wish.budget is not None and one.made.pile.buy > wish.budget:
        out.append(
            f"{amount(one.made.pile.buy, 'price')} is left to buy, and up to {amount(wish.budget, 'price')} were said."
        )
    if wish.hours is not None and one.made.hours > wish.hours:
        out.append(
            f"It takes some {amount(one.made.hours, 'hours')} of work, and {amount(wish.hours, 'hours')} were said."
        )
    return out


def _answer(wish: Wish, month: int, best: Sequence[_Sized], spell: Spell | None = None) -> Proposals:
    works = [one for one in best if one.taken is not None]
    is_whole = spell is not None
    words = [] if works or not is_whole else [_impossible(wish, month, best[0], spell) if best else _too_much(wish)]
    return Proposals(
        said=said(wish), month=month, proposals=[_proposal(one, wish, month) for one in best[:MOST]], words=words
    )


def _too_much(wish: Wish) -> Sentence:
    """That nothing holds it."""
    assert wish.good is not None
    good = by_name()[wish.good][0].good
    most = f"{max(SIZES):g} times as large as it is usually built"
    return f"{amount(wish.amount, good.quantity)} of {good.title} in one go is more than anything here holds, even {most}: wish for less, or for so much a week or a month, in several goes."


def _impossible(wish: Wish, month: int, best: _Sized, spell: Spell | None) -> Sentence:
    """That nothing brings it off, with the best there is, and when it would work."""
    said_best = (
        f"The best, {best.of.starter.title.lower()}: {best.best[:1].lower()}{best.best[1:]}"
        if best.best
        else f"The best is {best.of.starter.title.lower()}."
    )
    when = "" if spell is None else _when(spell, best)
    return f"In {month_name(month)} nothing that is built here brings that off at this place, even in a usual spell. {said_best}{when}"


def _when(spell: Spell, best: _Sized) -> Sentence:
    """Months in which a clear spell does it."""
    able = list[int]()
    for month in range(1, 13):
        there = replace(spell, first=spell.first.replace(month=month))
        if days_until_done(there, best.load, run_of(there, best.build, best.load, there.first_try)) is not None:
            able.append(month)
    if not able:
        return " It works in no month here; wish for less, or for less warmth."
    return f" It would work in {', '.join(month_name(month) for month in able)}."


def _proposal(one: _Sized, wish: Wish, month: int) -> Proposal:
    made, ends = one.made, one.ends
    return Proposal(
        title=one.of.starter.title, name=one.of.starter.name, spec=one.build, load=one.load, goes=one.goes, works=one.taken is not None,
        chance=None if ends is None else round(ends.chance, 3), low_days=ends.low if ends else None, likely_days=one.taken if ends is None else ends.likely,
        high_days=ends.high if ends else None, price=made.price, buy=made.pile.buy, hours=made.hours, kg=made.kg, uses=uses(made), to_buy=to_buy(made), beyond=_beyond(one, wish),
        words=[_does(one, wish, month), *([one.of.fitted.words] if one.of.fitted.words else [])],
    )  # fmt: skip


def uses(made: MadeOf) -> list[Sentence]:
    """What of the pile goes into what."""
    out = list[Sentence]()
    for taken in made.pile.taken:
        if taken.count:
            piece = made.pieces[taken.piece]
            what = f"{taken.count} × {piece.title.lower()}" if taken.count > 1 else f"the {piece.title.lower()}"
            out.append(f"{capital(', '.join(taken.names))} for {what}.")
    return list(dict.fromkeys(out))


def to_buy(made: MadeOf) -> list[ToBuy]:
    """What is left to buy, the dearest first."""
    left = [(made.pieces[one.piece], made.pieces[one.piece].count - one.count, one.price) for one in made.pile.taken]
    lines = [
        ToBuy(title=piece.title, of=piece.of, count=count, price=price) for piece, count, price in left if count > 0
    ]
    return sorted(lines, key=lambda line: -line.price)


def _does(one: _Sized, wish: Wish, month: int) -> Sentence:
    """What it will do, in a sentence with its doubt."""
    good = one.of.offer.good
    assert wish.amount is not None
    each = amount(wish.amount / one.goes, good.quantity)
    what = f"{each} of {good.title}" if one.goes == 1 else f"{each} of {good.title} in each of {one.goes} goes"
    if one.taken is None:
        return f"{capital(what)} is not done in a usual {month_name(month)} spell. {one.best}".strip()
    before, told = ("at", _hour_of(one.load)) if good.days == 1 else ("after", spelled)
    if one.ends is None or one.ends.likely is None:
        return f"{capital(what)}: done {before} {told(one.taken)} in a usual {month_name(month)}."
    spells = "days" if good.days == 1 else f"spells of {good.days} days"
    ends = f"{told(one.ends.low or 0.0)} to {told(one.ends.high or 0.0)} in eight of ten"
    return f"{capital(what)}: done {before} {told(one.ends.likely)} ({ends}); it gets done in {100 * one.ends.chance:.0f} of 100 {spells} in {month_name(month)}."


def _hour_of(load: Load) -> Callable[[float], Sentence]:
    """Of what goes in at an hour, the hour at which it is done."""
    hour, minute = (int(part) for part in load.first_in.split(":"))

    def at(days: float) -> Sentence:
        total = round((hour * 60 + minute + days * 1440.0) / 5.0) * 5
        return f"{total // 60 % 24:02d}:{total % 60:02d}"

    return at


def spelled(days: float) -> Sentence:
    """A time in days, of less than one in hours."""
    return amount(24.0 * days, "hours") if days < 1.0 else f"{days:.1f} days"
