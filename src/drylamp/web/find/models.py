"""What is found over the wire."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, RootModel

from drylamp.core.checks import Model, RowId

What = Literal["build", "part", "trial", "sum", "saying", "material"]


class FindQuery(Model):
    """What was typed, and at which site."""

    site_id: RowId
    q: Annotated[str, Field(max_length=80)]


class Found(Model):
    """Something that was meant.

    Attributes:
        what: which sort of thing
        title, hint: what it is called, and where it belongs
        build_id, trial_id: where it stands
        name: of the part, sum or material
    """

    what: What
    title: str
    hint: str = ""
    build_id: RowId | None = None
    trial_id: RowId | None = None
    name: str = ""


class FoundList(RootModel[list[Found]]):
    """All that was meant, the likeliest first."""
