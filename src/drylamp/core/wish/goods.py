"""All that may be wished, collected from the loads' rooms, by name, by verb and by word."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from typing import cast

from drylamp.core import loads
from drylamp.core.collect import modules
from drylamp.core.loads.goods import Good
from drylamp.core.loads.load import Load


@dataclass(frozen=True)
class Offer:
    """A good, and the class of load that it becomes."""

    made: type[Load]
    good: Good[Load]

    def is_of(self, load: Load | None) -> bool:
        """Whether a load is of the sort that it becomes."""
        return isinstance(load, self.made)


@cache
def offers() -> tuple[Offer, ...]:
    """Every good of every load."""
    return tuple(
        Offer(cast(type[Load], spec.LOAD), cast(Good[Load], good))
        for spec, goods in modules(loads, "spec", "goods")
        for good in goods.GOODS
    )


@cache
def by_name() -> dict[str, tuple[Offer, ...]]:
    """Goods by their name: warm water is warm water, whatever holds it."""
    out = dict[str, tuple[Offer, ...]]()
    for offer in offers():
        out[offer.good.name] = (*out.get(offer.good.name, ()), offer)
    return out


@cache
def by_word() -> dict[str, frozenset[str]]:
    """Names of goods by what they are called, each in the singular."""
    out = dict[str, frozenset[str]]()
    for offer in offers():
        for word in offer.good.words:
            key = singular(word.replace("-", " "))
            out[key] = out.get(key, frozenset()) | {offer.good.name}
    return out


@cache
def verbs() -> frozenset[str]:
    """All that is done to goods."""
    return frozenset(verb for offer in offers() for verb in offer.good.verbs)


@cache
def amount_words() -> frozenset[str]:
    """Words for amounts that are no units: showers, people."""
    return frozenset(word for offer in offers() for word in offer.good.each)


ENDS = (
    ("ies", "y"),
    ("oes", "o"),
    ("ches", "ch"),
    ("shes", "sh"),
    ("sses", "ss"),
    ("xes", "x"),
    ("eaves", "eaf"),
    ("oaves", "oaf"),
)
KEPT = ("ss", "us", "is")


def singular(words: str) -> str:
    """Its last word in the singular, by the common endings."""
    first, _, last = words.lower().rpartition(" ")
    return f"{first} {_single(last)}".strip()


def _single(word: str) -> str:
    for end, one in ENDS:
        if word.endswith(end) and len(word) > len(end):
            return word.removesuffix(end) + one
    return word[:-1] if word.endswith("s") and not word.endswith(KEPT) and len(word) > 2 else word


def titles(names: Iterable[str]) -> list[str]:
    """Goods in words."""
    return [by_name()[name][0].good.title for name in names]
