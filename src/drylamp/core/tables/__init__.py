"""Materials and substances: one CSV per family, one row per entry, each row with its source."""

from __future__ import annotations

import csv
from functools import cache
from importlib import resources
from typing import TypeVar

from pydantic import Field

from drylamp.core.checks import Fraction, Model, NotNegative, Number, Positive, unknown_name


class Row(Model):
    """What every row of every table carries."""

    name: str
    title: str
    top_service_c: Number = Field(description="Highest temperature it lasts at, °C")
    food_safe: bool = Field(description="May stand near food in a hot box once cured and aired out")
    price_m2: NotNegative = Field(description="Indicative price new, money per m²")
    source: str


class Absorber(Row):
    """A surface that takes up sun and gives off long-wave heat."""

    absorptance: Fraction
    emittance: Fraction


class Cover(Row):
    """A sheet that lets the sun in; the price is for the usual thickness."""

    index: Positive
    extinction_per_m: NotNegative
    longwave_transmittance: Fraction
    emittance: Fraction
    density_kg_m3: Positive
    cp_j_kgk: Positive
    conductivity_w_mk: Positive
    usual_thickness_m: Positive


class Mirror(Row):
    """A surface that throws the sun on."""

    reflectance: Fraction


class Layer(Row):
    """Something a wall is made of; the price is for the usual thickness."""

    conductivity_w_mk: Positive
    density_kg_m3: Positive
    cp_j_kgk: Positive
    usual_thickness_m: Positive


class Food(Model):
    """Something that goes into the pot."""

    name: str
    title: str
    cp_j_kgk: Positive
    density_kg_m3: Positive
    target_c: Number
    hold_minutes: NotNegative
    source: str


R = TypeVar("R", bound=Model)


def _read(file_name: str, model: type[R]) -> dict[str, R]:
    text = resources.files(__package__).joinpath(file_name).read_text(encoding="utf-8")
    rows = {}
    for raw in csv.DictReader(text.splitlines()):
        values: dict[str, object] = {key: _typed(value) for key, value in raw.items()}
        row = model.model_validate(values)
        rows[raw["name"]] = row
    return rows


def _typed(text: str) -> object:
    if text in ("yes", "no"):
        return text == "yes"
    try:
        return float(text)
    except ValueError:
        return text


@cache
def absorbers() -> dict[str, Absorber]:
    """Absorber finishes by name."""
    return _read("absorbers.csv", Absorber)


@cache
def covers() -> dict[str, Cover]:
    """Cover sheets by name."""
    return _read("covers.csv", Cover)


@cache
def mirrors() -> dict[str, Mirror]:
    """Mirror surfaces by name."""
    return _read("mirrors.csv", Mirror)


@cache
def layers() -> dict[str, Layer]:
    """Insulation and structural layers by name."""
    return _read("layers.csv", Layer)


@cache
def foods() -> dict[str, Food]:
    """Pot contents by name."""
    return _read("foods.csv", Food)


def find(table: dict[str, R], name: str, field: str) -> R:
    """Return the row of that name, or say which names come nearest.

    Raises:
        InputProblem: no row has this name.
    """
    try:
        return table[name]
    except KeyError:
        raise unknown_name(field, name, table) from None
