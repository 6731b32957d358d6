"""Kinds of build and of load over the wire: all that a page needs to show and to ask for one that it has never heard of."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, JsonValue

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Count, Model, YesNo
from drylamp.core.common.held import Held
from drylamp.core.common.look import Accent, Ink
from drylamp.core.forms import FieldForm
from drylamp.core.loads.registry import LoadSpec

PATH = Annotated[str, Field(min_length=1, max_length=120, description="Steps to a field, such as wall.0.material")]


class PartView(Model):
    """A part of the drawing and its card."""

    part: str
    title: str
    note: str


class AccountView(Model):
    """A line of the ledger: in whole words, in short, where heat comes from when it runs backwards, and its ink."""

    name: str
    title: str
    short: str
    back: str
    ink: Ink


class ActionView(Model):
    """Something that can be done to a build beside changing its fields."""

    name: str
    part: str
    title: str
    why: str
    note: str


class KindView(Model):
    """A kind of build.

    Attributes:
        loads: names of the loads that it takes
        side_by_side: several like things compared with one another: there is nothing to point, and no next change to make
    """

    name: str
    title: str
    wish: str = Field(description="What somebody wants to do who builds one")
    holds: list[Held] = Field(description="What somebody holds in hand who uses it: quick sums about that come first")
    accent: Accent
    parts: list[PartView]
    loads: list[str]
    accounts: list[AccountView]
    actions: list[ActionView]
    drawn: str
    opening: str
    empty: str
    has_patch: YesNo
    has_pattern: YesNo
    names_stagnation: YesNo
    side_by_side: YesNo


class LoadView(Model):
    """A kind of load: the words of the button that puts it in, what it is then, and long questions that may be asked of it."""

    name: str
    door: str
    planned: str
    wanted_by: str
    is_stock: YesNo
    begun: LoadSpec
    accounts: list[AccountView]
    also_lit: str
    longer: list[str]


class Kinds(Model):
    """Every kind of build and of load."""

    builds: list[KindView]
    loads: list[LoadView]


class Form(Model):
    """What may be typed into a build or a load of a kind, by part."""

    name: str
    fields: list[FieldForm]


class Forms(Model):
    """The forms of every kind: ten times as long as the rest of it, and wanted only where something is changed."""

    builds: list[Form]
    loads: list[Form]


class Changed(Model):
    """A build and its load, one field of which is to be changed with all that follows, or to get one more or one less."""

    spec: BuildSpec
    load: LoadSpec | None = None
    of: Literal["spec", "load"]
    path: PATH
    how: Literal["set", "add", "remove"]
    value: JsonValue = None


class Done(Model):
    """A build and what is to be done to it; the same seed draws the same lots."""

    spec: BuildSpec
    action: str
    seed: Annotated[Count, Field(ge=0)] = 0


class Made(Model):
    """A build and its load after a change."""

    spec: BuildSpec
    load: LoadSpec | None
