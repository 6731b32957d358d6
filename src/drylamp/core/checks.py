"""What a number must satisfy before the core will compute with it, and how it says so when it does not.

DryLampError
 └─ InputProblem     a value given from outside is out of range, unknown or contradictory
     └─ GapInWeather the weather does not cover the span asked for
"""

from collections.abc import Iterable
from difflib import get_close_matches
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from pydantic_core import ErrorDetails


class DryLampError(Exception):
    """Anything Dry Lamp can explain to a person."""


class InputProblem(DryLampError, ValueError):
    """A value from outside cannot be used; says what was given, what is allowed and where it stands."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(f"{field}: {message}" if field else message)
        self.field = field
        self.message = message


class GapInWeather(InputProblem):
    """The weather has a hole inside the span asked for."""


class Model(BaseModel):
    """A typed record at the edge: no unknown fields, numbers finite, changed only by making a new one."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
Count = Annotated[int, Field(strict=True)]
Fraction = Annotated[Number, Field(ge=0, le=1)]
Positive = Annotated[Number, Field(gt=0)]
NotNegative = Annotated[Number, Field(ge=0)]
Latitude = Annotated[Number, Field(ge=-90, le=90)]
Longitude = Annotated[Number, Field(ge=-180, le=180)]
Azimuth = Annotated[Number, Field(ge=0, le=360)]
Tilt = Annotated[Number, Field(ge=0, le=90)]
Elevation = Annotated[Number, Field(ge=-430, le=9000)]
Celsius = Annotated[Number, Field(ge=-90, le=600)]


def require(condition: bool, field: str, message: str) -> None:
    """Raise InputProblem with the field's name unless the condition holds."""
    if not condition:
        raise InputProblem(field, message)


def unknown_name(field: str, given: str, known: Iterable[str]) -> InputProblem:
    """Return the error for a name that is in no table, with the nearest valid names."""
    names = sorted(known)
    near = get_close_matches(given, names, n=4, cutoff=0.4) or names[:8]
    return InputProblem(field, f"'{given}' is not known; nearest known: {', '.join(near)}")


class FieldProblem(Model):
    """One thing wrong with what was given: where, and a plain sentence."""

    field: str
    message: str


def explain(error: ValidationError | InputProblem) -> list[FieldProblem]:
    """Say in plain words what was given, what is allowed and where."""
    if isinstance(error, InputProblem):
        return [FieldProblem(field=error.field, message=error.message)]
    out = []
    for item in error.errors(include_url=False):
        path = ".".join(str(part) for part in item["loc"] if part not in _VARIANTS)
        out.append(FieldProblem(field=path, message=_sentence(item)))
    return out


_VARIANTS = {
    "clear-day",
    "epw",
    "csv",
    "file",
    "box-oven",
    "funnel",
    "dish",
    "melter",
    "coupons",
    "pot",
    "portions",
    "wax",
    "listed",
    "own",
}
"""Names of variants that pydantic puts into paths and no person typed."""


def _sentence(item: ErrorDetails) -> str:
    message, given = item["msg"], item.get("input")
    if item["type"] == "missing":
        return "is missing; give it"
    if item["type"] == "extra_forbidden":
        return "is not a known field; remove it or check its spelling"
    if item["type"] == "value_error":
        return message.removeprefix("Value error, ")
    allowed = message[:1].lower() + message[1:]
    allowed = allowed.replace("input should be", "allowed is").replace("string should", "text should")
    shown = repr(given) if isinstance(given, str) else f"{given}"
    return f"{shown[:60]} was given; {allowed}" if isinstance(given, str | int | float | bool) else allowed
