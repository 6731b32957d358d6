"""A wish as somebody says it: *dry 8 kg of figs a week in September, I have two panes 60 × 110, up to 60 €, a Saturday of work*.

A small grammar over the words of the goods, units and months, nothing guessed: each rule takes words off the front of what is left, the
longest first; what no rule takes and is no filler is given back as not understood.
"""

from __future__ import annotations

import calendar
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from functools import cache
from typing import Literal

from pydantic import Field

from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.checks import Celsius, Model, NotNegative, Positive, require
from drylamp.core.quantities import Quantity
from drylamp.core.text import Sentence, amount, capital, counted, listed_months
from drylamp.core.units import UNITS
from drylamp.core.wish import goods
from drylamp.core.wish.goods import by_name, by_word, singular
from drylamp.core.wish.have import Having, have

MOST_LETTERS = 600
Every = Literal["once", "day", "week", "month", "year"]
DAYS_OF: dict[Every, int] = {"once": 0, "day": 1, "week": 7, "month": 30, "year": 365}
Part = Literal["verb", "good", "amount", "every", "months", "have", "budget", "hours", "celsius"]


class Heard(Model):
    """One thing that was understood: which part of the wish, the words for it, and what they mean."""

    part: Part
    words: str
    meaning: Sentence


class Wish(Model):
    """What somebody wants.

    Attributes:
        verb: what is to be done
        good: to what; none where nothing that the sun can do was named
        quantity, amount: how much of it, in the quantity's base
        every: how often
        months: in which; none: from now on
        have: what there is to build it from
        budget, hours: most that it may cost, and take to build
        celsius: how warm
        heard, not_understood: what was taken for what, and words that were not
        ask: what has to be said before anything can be proposed; empty where nothing
    """

    text: str
    verb: str | None = None
    good: str | None = None
    quantity: Quantity | None = None
    amount: Positive | None = None
    every: Every = "once"
    months: list[int] = Field(default_factory=list)
    have: list[Salvaged] = Field(default_factory=list)
    budget: NotNegative | None = None
    hours: NotNegative | None = None
    celsius: Celsius | None = None
    heard: list[Heard] = Field(default_factory=list)
    not_understood: list[str] = Field(default_factory=list)
    ask: Sentence = ""


NUMBERS = {
    "a": 1.0, "an": 1.0, "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0, "five": 5.0, "six": 6.0, "seven": 7.0, "eight": 8.0, "nine": 9.0, "ten": 10.0, "eleven": 11.0, "twelve": 12.0,
    "fifteen": 15.0, "twenty": 20.0, "thirty": 30.0, "forty": 40.0, "fifty": 50.0, "hundred": 100.0, "half": 0.5, "dozen": 12.0, "couple": 2.0, "½": 0.5, "¼": 0.25, "¾": 0.75,
}  # fmt: skip
_FILLERS = """i we want would like to wish need love please of the for and with in on my our us me some fresh old ripe raw have has got there is are it that this at by from up most be able can could should will about
    around roughly each also only just left over lying spare used a an one who so much many do not more than money work working time people's him her them their cold own good any every only make it's into out then
    spend use using build something which let dried cooked baked melted warmed ready when where or as enough family friends home house garden during month months whole all year's maximum max budget within
    under less most costing cost costs euros worth 'd i'd sun solar box children kids"""
FILLERS = frozenset(_FILLERS.split())
SEASONS = {"spring": (3, 4, 5), "summer": (6, 7, 8), "autumn": (9, 10, 11), "fall": (9, 10, 11), "winter": (12, 1, 2)}
EVERY: dict[str, Every] = {"day": "day", "daily": "day", "evening": "day", "week": "week", "weekly": "week", "month": "month", "monthly": "month", "year": "year", "yearly": "year"}  # fmt: skip
SPELLS_H = {"hour": 1.0, "hours": 1.0, "h": 1.0, "day": 8.0, "days": 8.0, "afternoon": 4.0, "afternoons": 4.0, "morning": 4.0, "mornings": 4.0, "evening": 3.0, "evenings": 3.0, "saturday": 8.0, "saturdays": 8.0, "sunday": 8.0, "sundays": 8.0, "weekend": 16.0, "weekends": 16.0}  # fmt: skip
"""Hours of work that people mean; common practice, no source."""
FREE_STANDING = frozenset(
    ("saturday", "saturdays", "sunday", "sundays", "weekend", "weekends", "afternoon", "afternoons")
)
MONEY = {"€", "$", "£", "euro", "euros", "eur", "dollar", "dollars", "usd", "gbp", "quid"}
WARMTH = {"°c": 0, "°": 0, "c": 0, "celsius": 0, "degree": 0, "degrees": 0, "°f": 1, "f": 1, "fahrenheit": 1}
MASS: Quantity = "mass"
VOLUME: Quantity = "volume"
TIMBER: Quantity = "timber"
HYPHENATED = re.compile(r"([^\W\d_]+)-([^\W\d_]+)")
TOKEN = re.compile(
    r"board-feet|\d+(?:[.,]\d+)?(?:/\d+)?|°[cfCF]?|[€$£×½¼¾/–-]|m[³3²2](?![a-z])|[^\W\d_]+(?:['’][^\W\d_]+)?"
)


@dataclass(frozen=True)
class _Sofar:
    """What was understood so far."""

    verb: str | None = None
    phrases: tuple[frozenset[str], ...] = ()
    amounts: tuple[tuple[float, str], ...] = ()
    every: Every = "once"
    months: tuple[int, ...] = ()
    have: tuple[Having, ...] = ()
    budget: float | None = None
    hours: float | None = None
    celsius: float | None = None
    heard: tuple[Heard, ...] = field(default=())

    def plus(self, part: Part, words: list[str], meaning: str, **change: object) -> _Sofar:
        """One thing more."""
        return replace(self, heard=(*self.heard, Heard(part=part, words=" ".join(words), meaning=meaning)), **change)  # type: ignore[arg-type]


Rule = Callable[[list[str], _Sofar], "tuple[int, _Sofar] | None"]


def words_of(text: str) -> list[str]:
    """A text in words, numbers and signs, lower case."""
    plain = HYPHENATED.sub(_apart, text.lower().replace("board feet", "board-feet"))
    return [found.replace("’", "'") for found in TOKEN.findall(plain)]


def _apart(found: re.Match[str]) -> str:
    """Two words for a hyphenated one, save where it is a unit, or from one month to another."""
    first, last = found.groups()
    return found.group() if found.group() == "board-feet" or first in _month_names() else f"{first} {last}"


def number_of(word: str) -> float | None:
    """A number in digits, with a comma or a point, as a fraction, or in words."""
    if word in NUMBERS:
        return NUMBERS[word]
    whole, _, below = word.replace(",", ".").partition("/")
    try:
        return float(whole) / float(below) if below else float(whole)
    except (ValueError, ZeroDivisionError):
        return None


def read_wish(text: str, south: bool = False) -> Wish:
    """Read a wish.

    Parameters
    ----------
    text
        as it was said
    south
        whether summer is in January where it is said

    Raises
    ------
    InputProblem
        it is longer than MOST_LETTERS.
    """
    require(
        len(text) <= MOST_LETTERS,
        "text",
        f"{len(text)} letters were given; allowed are {MOST_LETTERS}, so say the wish alone",
    )
    left, sofar, strange = words_of(text), _Sofar(), list[str]()
    while left:
        taken = next((found for rule in RULES if (found := rule(left, sofar)) is not None), None)
        if taken is not None:
            left, sofar = left[taken[0] :], taken[1]
            continue
        if left[0] not in FILLERS and left[0] not in "/–-×":
            strange.append(left[0])
        left = left[1:]
    return _meant(text, sofar, strange, south)


# --- rules, each on what is left of the words ---


def _money(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    pairs = [(0, 1), (1, 0)]
    for number, sign in pairs:
        if (
            len(left) > 1
            and left[sign] in MONEY
            and (price := number_of(left[number])) is not None
            and left[number] not in ("a", "an")
        ):
            return 2, sofar.plus("budget", left[:2], f"it may cost {amount(price, 'price')}", budget=price)
    return None


def _hours(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    if len(left) < 2 or (count := number_of(left[0])) is None or left[1] not in SPELLS_H:
        return None
    rest = left[2:4]
    of_work = rest == ["of", "work"] or rest[:1] == ["work"]
    if not of_work and left[1] not in FREE_STANDING:
        return None
    hours, size = count * SPELLS_H[left[1]], 2 + ((2 if rest[:1] == ["of"] else 1) if of_work else 0)
    return size, sofar.plus("hours", left[:size], f"some {amount(hours, 'hours')} of work", hours=hours)


def _every(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    size = 2 if len(left) > 1 and left[0] in ("a", "per", "each", "every", "/") and left[1] in EVERY else 1
    if size == 1 and left[0] not in ("daily", "weekly", "monthly", "yearly"):
        return None
    every = EVERY[left[size - 1]]
    return size, sofar.plus("every", left[:size], f"every {every}", every=every)


@cache
def _month_names() -> dict[str, int]:
    full = {name.lower(): k for k, name in enumerate(calendar.month_name) if name}
    short = {name.lower(): k for k, name in enumerate(calendar.month_abbr) if name and name != "May"}
    return {**full, **short, "sept": 9}


def _months(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    names = _month_names()
    if left[0] in SEASONS:
        return 1, sofar.plus(
            "months", left[:1], listed_months(SEASONS[left[0]]), months=(*sofar.months, *SEASONS[left[0]])
        )
    if left[:2] in (["all", "year"], ["whole", "year"]):
        return 2, sofar.plus("months", left[:2], "in every month", months=tuple(range(1, 13)))
    if left[0] not in names or (left[0] == "mar" and len(left) == 1):
        return None
    first, size, found = names[left[0]], 1, [names[left[0]]]
    if len(left) > 2 and left[1] in ("to", "till", "until", "through", "–", "-") and left[2] in names:
        size, last = 3, names[left[2]]
        found = [(first - 1 + k) % 12 + 1 for k in range((last - first) % 12 + 1)]
    return size, sofar.plus("months", left[:size], listed_months(found), months=(*sofar.months, *found))


def _warmth(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    if len(left) < 2 or left[1] not in WARMTH or (given := number_of(left[0])) is None:
        return None
    size = 3 if len(left) > 2 and left[2] in WARMTH else 2
    is_f = any(WARMTH[word] for word in left[1:size])
    celsius = (given - 32.0) / 1.8 if is_f else given
    return size, sofar.plus("celsius", left[:size], f"at {amount(celsius, 'temperature')}", celsius=celsius)


def _having(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    found = have(left, number_of)
    if found is None:
        return None
    size, one = found
    return size, sofar.plus("have", left[:size], one.meaning, have=(*sofar.have, one))


def _amount(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    first = number_of(left[0])
    if first is None or len(left) < 2:
        return None
    size, number = 1, first
    if left[0] in ("a", "half") and left[1] in ("dozen", "couple", "hundred", "half", "a"):
        size, number = 2, first * (number_of(left[1]) or 1.0)
    if len(left) > size + 1 and left[size] == "of" and left[size - 1] in ("couple", "dozen"):
        size += 1
    if len(left) <= size:
        return None
    unit = left[size]
    if _quantities_of(unit) or singular(unit) in goods.amount_words() or unit in goods.amount_words():
        is_good = singular(unit) in by_word() and not _quantities_of(unit)
        taken = size if is_good else size + 1
        return taken, sofar.plus(
            "amount", left[: size + 1], f"{number:g} {unit}", amounts=(*sofar.amounts, (number, unit))
        )
    return None


def _phrase(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    """The longest name of a good that stands here."""
    for size in (4, 3, 2, 1):
        if len(left) < size:
            continue
        said = " ".join(left[:size])
        names = by_word().get(said) or by_word().get(singular(said))
        if names:
            return size, sofar.plus(
                "good", left[:size], " or ".join(goods.titles(sorted(names))), phrases=(*sofar.phrases, names)
            )
    return None


def _verb(left: list[str], sofar: _Sofar) -> tuple[int, _Sofar] | None:
    if sofar.verb is not None:
        return None
    for verb in _stems(left[0]):
        if verb in goods.verbs():
            return 1, sofar.plus("verb", left[:1], verb, verb=verb)
    return None


def _stems(word: str) -> Iterator[str]:
    yield word
    if word.endswith("ing") and len(word) > 5:
        stem = word[:-3]
        yield from (stem, f"{stem}e", stem[:-1])


RULES: tuple[Rule, ...] = (_money, _having, _hours, _warmth, _every, _months, _amount, _phrase, _verb)


@cache
def _quantities_of(word: str) -> tuple[tuple[Quantity, float], ...]:
    """Quantities that a unit may be of, of those that goods are measured in, and its factor to the base."""
    kinds: tuple[Quantity, ...] = (MASS, VOLUME, TIMBER)
    return tuple(
        (kind, unit.factor)
        for kind in kinds
        for unit in UNITS[kind]
        if word in unit.words and not (kind == TIMBER and unit.symbol == "L")
    )


# --- what the words together mean ---


def _meant(text: str, sofar: _Sofar, strange: list[str], south: bool) -> Wish:
    names, ask = _named(sofar)
    good = names[0] if len(names) == 1 else None
    said, quantity, much = ask, None, None
    if good is not None:
        found = _much(good, sofar)
        if isinstance(found, str):
            said, good = found, None
        else:
            quantity, much = found
    months = [(month + 5) % 12 + 1 for month in sofar.months] if south and _by_season(sofar) else list(sofar.months)
    return Wish(
        text=text, verb=sofar.verb, good=good, quantity=quantity, amount=much, every=sofar.every, months=list(dict.fromkeys(months)), have=[one.row for one in sofar.have],
        budget=sofar.budget, hours=sofar.hours, celsius=sofar.celsius, heard=list(sofar.heard), not_understood=strange, ask=said,
    )  # fmt: skip


def _by_season(sofar: _Sofar) -> bool:
    return any(one.part == "months" and one.words in SEASONS for one in sofar.heard)


def _named(sofar: _Sofar) -> tuple[list[str], Sentence]:
    """Names of goods that fit all that was said, and what to ask where that is not one."""
    phrases = list(sofar.phrases)
    if not phrases and sofar.verb in ("shower", "bathe", "swim"):
        phrases = [
            frozenset(name for name, offers in by_name().items() if any(sofar.verb in one.good.verbs for one in offers))
        ]
    if not phrases:
        return [], "Say what it is to do: dry figs, cook a stew, melt wax, warm water, dry oak boards."
    able: list[frozenset[str]] = [frozenset(name for name in names if _fits(name, sofar)) for names in phrases]
    narrow = min((sorted(names) for names in able if names), key=len, default=[])
    others = sorted({name for names in able for name in names} - set(narrow))
    if not narrow:
        said = ", ".join(goods.titles(sorted(phrases[0])))
        return (
            [],
            f"{capital(said)}: nothing that is built here does that to it in that measure. Say another verb, or another unit.",
        )
    if len(narrow) > 1:
        return (
            narrow,
            f"Which one: {', or '.join(_with_verb(name) for name in narrow)}? Say what to do with it, or how much.",
        )
    if others and not set(others) <= set(narrow):
        return [], f"Say one thing at a time: {' or '.join(goods.titles([*narrow, *others]))}?"
    return narrow, ""


def _with_verb(name: str) -> str:
    good = by_name()[name][0].good
    return f"{good.verbs[0]} {good.title}"


def _fits(name: str, sofar: _Sofar) -> bool:
    """Whether what was said of verb and measure goes with a good."""
    good = by_name()[name][0].good
    if sofar.verb is not None and not any(sofar.verb in one.good.verbs for one in by_name()[name]):
        return False
    return all(_in_base(good.name, *given) is not None for given in sofar.amounts)


def _in_base(name: str, number: float, unit: str) -> float | None:
    """So much of a good in its own measure; none where the unit is not for it."""
    good = by_name()[name][0].good
    for quantity, factor in _quantities_of(unit):
        if quantity == good.quantity:
            return number * factor
        if quantity == VOLUME and "litre" in good.each:
            return number * factor * good.each["litre"]
    each = good.each.get(unit, good.each.get(singular(unit)))
    return None if each is None else number * each


def _much(name: str, sofar: _Sofar) -> tuple[Quantity, float] | Sentence:
    good = by_name()[name][0].good
    if not sofar.amounts:
        return good.quantity, good.usual
    found = [_in_base(name, *given) for given in sofar.amounts]
    values = [value for value in found if value is not None]
    if len(set(values)) > 1:
        both = " and ".join(amount(value, good.quantity) for value in values)
        return f"Two amounts were said, {both}; say one."
    return good.quantity, values[0]


def said(wish: Wish) -> Sentence:
    """A wish in the words of the tool."""
    if wish.good is None or wish.amount is None or wish.quantity is None:
        return ""
    good = by_name()[wish.good][0].good
    parts = [f"{wish.verb or good.verbs[0]} {amount(wish.amount, wish.quantity)} of {good.title}"]
    parts += [f"a {wish.every}"] if wish.every != "once" else []
    parts += [f"in {listed_months(wish.months)}"] if wish.months else []
    parts += [f"at {amount(wish.celsius, 'temperature')}"] if wish.celsius is not None else []
    rest = [f"with {counted(sum(one.count for one in wish.have), 'piece')} that you have"] if wish.have else []
    rest += [f"up to {amount(wish.budget, 'price')}"] if wish.budget is not None else []
    rest += [f"some {amount(wish.hours, 'hours')} of work"] if wish.hours is not None else []
    return capital(", ".join([" ".join(parts), *rest])) + "."
