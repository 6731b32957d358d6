"""Sums about what is bought: a tin or bottle by what it covers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.checks import Count, Model, NotNegative, Positive
from drylamp.core.sums.registry import quick_sum


class CoatPriceIn(Model):
    """A tin or bottle, what its label says that it covers once, and how many coats are laid on."""

    tin_price: NotNegative
    covers_m2: Positive
    coats: Annotated[Count, Field(ge=1, le=12)] = 2


class CoatPrice(Model):
    """What the coats cost."""

    price_m2: float
    painted_m2: float


@quick_sum(
    "coat-price", "What a square metre of paint costs", "paint tin bottle can spray coverage coats price cost covers",
    "price = coats · tin / covers", "common practice, no source", CoatPriceIn, CoatPrice,
)  # fmt: skip
def coat_price(given: CoatPriceIn) -> CoatPrice:
    """Price of a square metre at these coats, and how much one tin paints so."""
    return CoatPrice(price_m2=given.coats * given.tin_price / given.covers_m2, painted_m2=given.covers_m2 / given.coats)
