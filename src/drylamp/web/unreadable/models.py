"""What cannot be read any more, over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, RootModel

from drylamp.core.checks import Model


class UnreadableView(Model):
    """A document that cannot be read: what and whose it is, why, as it stands, and another that may do instead."""

    what: str
    key: str
    name: str
    why: str
    text: str
    better: str = Field(description="A readable document to put in its place; empty where there is none")


class UnreadableList(RootModel[list[UnreadableView]]):
    """All that cannot be read."""


class UnreadablePath(Model):
    """Which document."""

    what: Annotated[str, Field(max_length=40)]
    key: Annotated[str, Field(max_length=40)]


class Mended(Model):
    """The document as it should stand: JSON."""

    text: Annotated[str, Field(min_length=2, max_length=1_000_000)]
