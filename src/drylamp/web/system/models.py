"""Health, clock and quick sums over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import Field, RootModel

from drylamp.core.checks import FieldProblem, Model, YesNo
from drylamp.core.common.curve import SumCurve, SumField
from drylamp.core.common.held import Held
from drylamp.core.quantities import Quantity


class Health(Model):
    """Whether the server is well."""

    status: Literal["ok"] = "ok"
    version: str
    schema_version: int
    warm: YesNo
    state: Literal["loading", "warming", "ready"] = Field(
        description="What the server is busy with before it answers at full speed"
    )
    compiles: YesNo = Field(description="The first run after an install: the twin is compiled, once")


class NowView(Model):
    """The server's time."""

    now: datetime
    is_demo: YesNo
    weather_service: YesNo = Field(description="A weather service was named when the server was started")


class ProblemView(Model):
    """An error (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[FieldProblem]
    current_revision: int | str | None = Field(default=None, description="With 412: the revision or mark that stands")


class SumView(Model):
    """A quick sum as a form can be made of it."""

    name: str
    title: str
    words: list[str]
    holds: Held = Field(description="What one holds in hand who does it: its group")
    stations: list[str] = Field(description="Stations of a build at which it is likely to be wanted")
    formula: str
    source: str
    quantities: dict[str, Quantity] = Field(
        description="Of inputs and results that have a unit of a person's own choice"
    )
    called: dict[str, SumField]
    inputs_schema: dict[str, Any]
    result_schema: dict[str, Any]
    figure: SumCurve = Field(description="How it goes in an everyday example")


class SumAnswer(Model):
    """What a sum gives."""

    sum: str
    inputs: dict[str, Any]
    result: dict[str, Any]
    source: str


class SumList(RootModel[list[SumView]]):
    """Quick sums."""


class SumPath(Model):
    """Path of a sum."""

    name: str


class SumInputs(RootModel[dict[str, Any]]):
    """Inputs of a sum by name; the sum's own model checks them."""
