"""Wishes over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, RootModel

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Day, Model, RowId
from drylamp.core.common.drawing import Section
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.quantities import Quantity
from drylamp.core.text import Sentence
from drylamp.core.wish.could import Could
from drylamp.core.wish.propose import Proposal
from drylamp.core.wish.sentence import MOST_LETTERS
from drylamp.web.shared import TITLE


class WishText(Model):
    """A wish as it is said, and where."""

    site_id: RowId
    text: Annotated[str, Field(max_length=MOST_LETTERS)]


class WishOn(WishText):
    """The same, and the day that it is said on."""

    day: Day


class BeginWish(WishText):
    """A proposal that is to become a build."""

    name: TITLE
    spec: BuildSpec
    load: LoadSpec | None


class PileOn(Model):
    """A site's pile, on a day."""

    site_id: RowId
    day: Day


class DrawnProposal(Model):
    """A proposal cut open."""

    proposal: Proposal
    drawn: Section


class ProposalsView(Model):
    """What is proposed, each drawn."""

    said: Sentence
    month: int
    proposals: list[DrawnProposal]
    words: list[Sentence]


class DrawnCould(Model):
    """Something that the pile allows, cut open."""

    could: Could
    drawn: Section


class CouldView(Model):
    """What the pile allows, each drawn."""

    found: list[DrawnCould]
    words: list[Sentence]


class WordOf(Model):
    """A good that may be picked."""

    name: str
    title: str
    quantity: Quantity
    usual: float


class VerbWords(Model):
    """A verb, and what it may be done to."""

    verb: str
    goods: list[WordOf]


class WishWords(RootModel[list[VerbWords]]):
    """Words to pick a wish from."""
