"""What a number must satisfy before the core will compute with it, and how it says so when it does not.

DryLampError
 └─ InputProblem     a value given from outside is out of range, unknown or contradictory
     └─ GapInWeather the weather does not cover the span asked for
"""

from collections.abc import Iterable, Mapping
from datetime import date, datetime
from difflib import get_close_matches
from functools import reduce
from operator import or_
from typing import Annotated, Any, ClassVar, Self, TypeVar, get_args

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Discriminator,
    Field,
    Tag,
    ValidationError,
)
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

    model_config = ConfigDict(
        extra="forbid",
        frozen=True,
        allow_inf_nan=False,
        json_schema_serialization_defaults_required=True,
        defer_build=True,  # validators are built when first used: half a second less to start
    )

    settling: ClassVar[frozenset[str]] = frozenset()
    """Fields whose change changes others too."""

    def settled(self, path: str) -> Self:
        """A copy with what follows from a change of one field, named by its path from here; the field itself stays."""
        return self

    def fresh(self, field: str) -> BaseModel:
        """What comes into a field when one more is added to it: of a list, another like its last; of a record, the usual one."""
        here = getattr(self, field)
        if isinstance(here, list):
            last: BaseModel = here[-1]
            return last
        usual = type(self).model_fields[field].default
        if isinstance(usual, BaseModel):
            return usual
        parts = get_args(type(self).model_fields[field].annotation)
        model = next(part for part in parts if isinstance(part, type) and issubclass(part, BaseModel))
        return model()


Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
Count = Annotated[int, Field(strict=True)]
YesNo = Annotated[bool, Field(strict=True)]
"""True or false; no 1 and no "on"."""
Fraction = Annotated[Number, Field(ge=0, le=1)]
Positive = Annotated[Number, Field(gt=0)]
NotNegative = Annotated[Number, Field(ge=0)]
Latitude = Annotated[Number, Field(ge=-90, le=90)]
Longitude = Annotated[Number, Field(ge=-180, le=180)]
Azimuth = Annotated[Number, Field(ge=0, le=360)]
Tilt = Annotated[Number, Field(ge=0, le=90)]
Elevation = Annotated[Number, Field(ge=-430, le=9000)]
Celsius = Annotated[Number, Field(ge=-90, le=600)]

FIRST_DAY, LAST_DAY = date(1970, 1, 2), date(2199, 12, 30)
"""Days that the tool computes with: a time zone's offset and a run of a year stay within what clocks and tables can hold."""
MOST_ID = 2**63 - 1
LONGEST_NAME = 40
"""Letters of the name of a channel, device or part."""
HHMM = r"^([01]\d|2[0-3]):[0-5]\d$"
Hour = Annotated[str, Field(pattern=HHMM)]
"""An hour of the day, as 19:30."""
MOST_VALUE = 1e9
"""No sensor of this trade sends a larger number."""

When = TypeVar("When", date, datetime)


def within_days(given: When) -> When:
    """Return a day or an instant unless it lies beyond FIRST_DAY to LAST_DAY.

    Raises
    ------
    ValueError
        it does; the sentence says what is allowed.
    """
    day = given.date() if isinstance(given, datetime) else given
    if not FIRST_DAY <= day <= LAST_DAY:
        raise ValueError(f"{given.isoformat()} was given; allowed is {FIRST_DAY:%Y-%m-%d} to {LAST_DAY:%Y-%m-%d}")
    return given


Day = Annotated[date, AfterValidator(within_days)]
Moment = Annotated[AwareDatetime, AfterValidator(within_days)]
RowId = Annotated[int, Field(ge=0, le=MOST_ID)]
Name = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]
Reading = Annotated[Number, Field(ge=-MOST_VALUE, le=MOST_VALUE)]


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
        path = ".".join(str(part) for part in item["loc"] if not _is_variant(part))
        out.append(FieldProblem(field=path, message=_sentence(item)))
    return out


_VARIANTS = {"clear-day", "epw", "csv", "json", "tmy", "stored", "file", "listed", "own"}
"""Names of variants that pydantic puts into paths and no person typed; those of collected unions carry a mark instead."""
_TAG_MARK = "~"


def union_by_kind(
    variants: Mapping[str, type[BaseModel]], what: str, unnamed: str, former: Mapping[str, str] | None = None
) -> Any:
    """Type of a union of collected models, told apart by their ``kind``; its tags are marked so that error paths leave them out.

    Parameters
    ----------
    variants
        models by the kind they are
    what
        what they are in a person's words, for the error
    unnamed
        kind of what does not say its kind, as in the first files
    former
        kinds of today by the names of older files
    """
    renamed = former or {}

    def kind_given(value: object) -> str:
        given = str(value.get("kind", unnamed) if isinstance(value, dict) else getattr(value, "kind", unnamed))
        return _TAG_MARK + renamed.get(given, given)

    parts = [Annotated[model, Tag(_TAG_MARK + name)] for name, model in variants.items()]
    message = f"no such {what}; allowed are {listed(variants)}"
    return Annotated[
        reduce(or_, parts[1:], parts[0]),
        Discriminator(kind_given, custom_error_type="unknown_kind", custom_error_message=message),
    ]


def listed(names: Iterable[str]) -> str:
    """Names as a sentence lists them: a, b and c."""
    *first, last = sorted(names)
    return f"{', '.join(first)} and {last}" if first else last


def _is_variant(part: int | str) -> bool:
    return isinstance(part, str) and (part.startswith(_TAG_MARK) or part in _VARIANTS)


ALLOWED_WORDS = {
    "greater_than": "allowed is greater than {gt}",
    "greater_than_equal": "allowed is greater than or equal to {ge}",
    "less_than": "allowed is less than {lt}",
    "less_than_equal": "allowed is less than or equal to {le}",
    "finite_number": "allowed is a finite number",
    "float_parsing": "allowed is a valid number",
    "float_type": "allowed is a valid number",
    "int_parsing": "allowed is a valid integer",
    "int_type": "allowed is a valid integer",
    "int_from_float": "allowed is a valid integer, without a fraction",
    "bool_parsing": "allowed is true or false",
    "bool_type": "allowed is true or false",
    "string_type": "allowed is a text",
    "string_pattern_mismatch": "text should match pattern '{pattern}'",
    "string_too_short": "text should have at least {min_length} characters",
    "string_too_long": "text should have at most {max_length} characters",
    "too_short": "allowed is a list of at least {min_length} items, not of {actual_length}",
    "too_long": "allowed is a list of at most {max_length} items, not of {actual_length}",
    "list_type": "allowed is a list",
    "tuple_type": "allowed is a list",
    "literal_error": "allowed is {expected}",
    "date_parsing": "allowed is a valid date, such as 2025-06-12",
    "date_from_datetime_parsing": "allowed is a valid date, such as 2025-06-12",
    "date_type": "allowed is a valid date, such as 2025-06-12",
    "datetime_parsing": "allowed is a valid datetime, such as 2025-06-12T12:30:00+02:00",
    "datetime_from_date_parsing": "allowed is a valid datetime, such as 2025-06-12T12:30:00+02:00",
    "datetime_type": "allowed is a valid datetime, such as 2025-06-12T12:30:00+02:00",
    "timezone_aware": "a time needs its distance to UTC, such as +02:00",
}
"""What is allowed, by pydantic's names of errors; of one that is not here it is said in pydantic's own words."""


def _allowed(item: ErrorDetails) -> str | None:
    known = ALLOWED_WORDS.get(item["type"])
    limits = {name: str(limit).removesuffix(".0") for name, limit in item.get("ctx", {}).items()}
    return None if known is None else known.format(**limits)


def _sentence(item: ErrorDetails) -> str:
    message, given = item["msg"], item.get("input")
    if item["type"] == "missing":
        return "is missing; give it"
    if item["type"] == "extra_forbidden":
        return "is not a known field; remove it or check its spelling"
    if item["type"] == "value_error":
        return message.removeprefix("Value error, ")
    allowed = _allowed(item) or message[:1].lower() + message[1:]
    allowed = allowed.replace("input should be", "allowed is").replace("string should", "text should")
    shown = repr(given) if isinstance(given, str) else f"{given}"
    return f"{shown[:60]} was given; {allowed}" if isinstance(given, str | int | float | bool) else allowed
