"""Pages that open anywhere: one HTML file without script, nothing fetched, made to be printed; their templates stand beside this module."""

from __future__ import annotations

from functools import cache
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined

from drylamp.core.quantities import Quantity
from drylamp.core.text import amount, capital, metres, plain

NONE = "–"


def _said(value: float | None, quantity: Quantity, doubt: float | None = None, signed: bool = False) -> str:
    return NONE if value is None else plain(amount(value, quantity, doubt, signed=signed))


def _sides(*lengths: float) -> str:
    return " × ".join(plain(metres(one)) for one in lengths if one > 0.0)


@cache
def _environment() -> Environment:
    made = Environment(
        loader=PackageLoader("drylamp", "formats"), autoescape=True, undefined=StrictUndefined, trim_blocks=True, lstrip_blocks=True
    )  # fmt: skip
    made.filters.update(said=_said, plain=plain, capital=capital)
    made.globals.update(sides=_sides)
    return made


def page(template: str, **what: Any) -> str:
    """A page from its template: quantities are said in metric units, sentences written out, drawings put in as they are."""
    return _environment().get_template(template).render(**what)
