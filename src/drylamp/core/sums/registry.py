"""The registry of quick sums: one typed function each, served by command line, API and screen without code of their own."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import BaseModel

from drylamp.core.checks import Model, unknown_name
from drylamp.core.common.curve import SumField
from drylamp.core.common.held import Held
from drylamp.core.quantities import Quantity, quantity_of, without_unit
from drylamp.languages import in_words

I = TypeVar("I", bound=Model)  # noqa: E741
O = TypeVar("O", bound=Model)  # noqa: E741


@dataclass(frozen=True)
class QuickSum:
    """One sum: its name, words, formula, source, models and function."""

    name: str
    title: str
    words: tuple[str, ...]
    formula: str
    source: str
    inputs: type[Model]
    result: type[Model]
    function: Callable[[Any], Model]
    source_for: Callable[[Any], str] | None = None

    @property
    def holds(self) -> Held:
        """What one holds in hand who does it: that of the room it stands in."""
        return BY_ROOM[self.function.__module__.rsplit(".", 1)[-1]]

    @property
    def file_fields(self) -> list[str]:
        """Inputs that are the text of a file; the command line reads the file whose path is given."""
        extras = {name: field.json_schema_extra for name, field in self.inputs.model_fields.items()}
        return [name for name, extra in extras.items() if isinstance(extra, dict) and extra.get("format") == "csv-file"]

    def run(self, inputs: dict[str, object]) -> dict[str, object]:
        """Check the inputs, do the sum and return the answer in the shape that all three doors print.

        Raises
        ------
        pydantic.ValidationError, InputProblem
            an input is missing, unknown or out of range.
        """
        given = self.inputs.model_validate(inputs)
        result = self.function(given)
        return {
            "sum": self.name,
            "inputs": given.model_dump(mode="json", exclude=set(self.file_fields)),
            "result": result.model_dump(mode="json"),
            "source": self.source if self.source_for is None else self.source_for(given),
        }


BY_ROOM: dict[str, Held] = {
    "sky": "sun", "heat": "heat", "water": "water", "air": "air", "wood": "wood", "cooking": "food", "buying": "money", "household": "water",
}  # fmt: skip
STATIONS: dict[Held, tuple[str, ...]] = {
    "sun": ("aim", "forecast"), "heat": ("make", "verdict"), "water": ("forecast", "trials"), "air": ("make", "forecast"),
    "wood": ("trials", "verdict"), "food": ("forecast", "trials"), "money": ("make", "next"),
}  # fmt: skip
"""Stations of a build at which each group is asked for; common practice, no source."""
SUMS: dict[str, QuickSum] = {}


def quick_sum(
    name: str,
    title: str,
    words: str,
    formula: str,
    source: str,
    inputs: type[I],
    result: type[O],
    source_for: Callable[[I], str] | None = None,
) -> Callable[[Callable[[I], O]], Callable[[I], O]]:
    """Register a function as a quick sum; ``source_for`` names the source where it depends on the inputs."""

    def register(function: Callable[[I], O]) -> Callable[[I], O]:
        SUMS[name] = QuickSum(name, title, tuple(words.split()), formula, source, inputs, result, function, source_for)
        return function

    return register


def find_sum(name: str) -> QuickSum:
    """Return the sum of that name.

    Raises
    ------
    InputProblem
        there is none; the nearest names are given.
    """
    if name not in SUMS:
        raise unknown_name("sum", name, SUMS)
    return SUMS[name]


def quantities_of(*models: type[BaseModel]) -> dict[str, Quantity]:
    """The quantity of each field that has one, by the unit in its name."""
    named = ((name, quantity_of(name)) for model in models for name in model.model_fields)
    return {name: quantity for name, quantity in named if quantity is not None}


KEPT_UNITS = {
    "_w_m2k": "W/m²K", "_m2k_w": "m²K/W", "_j_kgk": "J/kg·K", "_j_kg": "J/kg", "_w_k": "W/K", "_l_min": "L/min", "_per_m": "1/m", "_per_kwh": "per kWh",
    "_per_year": "a year", "_m3": "m³", "_mj": "MJ", "_pa": "Pa", "_in": "in", "_ft": "ft",
}  # fmt: skip
"""Units at the end of a name that stay as they are in every setting; the others are a person's own."""


SPOKEN = ("_mc", "_price")
"""Ends of names that tell the unit and are said all the same."""


def called(name: str) -> SumField:
    """A field by its name, which ends in its unit; in the language that is spoken."""
    end = next((end for end in KEPT_UNITS if name.endswith(end)), "")
    is_whole = end or name.endswith(SPOKEN) or quantity_of(name) is None
    words = name.removesuffix(end).replace("_", " ") if is_whole else without_unit(name)
    return SumField(words=in_words(words[:1].lower() + words[1:]), unit=in_words(KEPT_UNITS[end]) if end else "")
