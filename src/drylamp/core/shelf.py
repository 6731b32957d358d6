"""What a row of the shelf says of itself in a sentence, with its source."""

from __future__ import annotations

from collections.abc import Iterator
from functools import singledispatch

from drylamp.core import tables
from drylamp.core.checks import Model
from drylamp.core.optics.covers import normal_transmittance
from drylamp.core.tables import Absorber, Cover, Food, Layer, Mirror, Row, Sweet, Vessel, Wax
from drylamp.core.text import amount, celsius, metres, minutes

TABLES = ("foods", "vessels", "sweets", "waxes")
"""Tables beside the families that a user may add to."""


@singledispatch
def says(row: Model) -> str:
    """A sentence on a row, with its source."""
    raise TypeError(f"nothing is said of {type(row).__name__}")


def _of_source(row: Row | Food | Vessel | Sweet | Wax, *words: str) -> str:
    return " ".join((*words, f"Source: {row.source}."))


@says.register
def _(row: Absorber) -> str:
    near = "" if row.food_safe else "; not for food nearby"
    return _of_source(
        row, f"Takes up {_parts(row)} of the sun, gives off {row.emittance * 100:.0f} % of what a black body would.",
        f"Lasts to about {celsius(row.top_service_c)}{near}.",
    )  # fmt: skip


def _parts(row: Absorber) -> str:
    doubt = f" ± {row.absorptance_doubt * 100:.0f}" if row.absorptance_doubt > 0.0 else ""
    return f"{row.absorptance * 100:.0f}{doubt} of 100 parts"


@says.register
def _(row: Cover) -> str:
    through = normal_transmittance(row) * 100
    return _of_source(
        row,
        f"One sheet lets {through:.0f} of 100 parts through square on.",
        f"Lasts to about {celsius(row.top_service_c)}.",
    )


@says.register
def _(row: Mirror) -> str:
    return _of_source(
        row, f"Throws on {row.reflectance * 100:.0f} of 100 parts.", f"Lasts to about {celsius(row.top_service_c)}."
    )


@says.register
def _(row: Layer) -> str:
    return _of_source(
        row, f"Conducts {amount(row.conductivity_w_mk, 'conductivity')}, usually {metres(row.usual_thickness_m)} thick.",
        f"Lasts to about {celsius(row.top_service_c)}.",
    )  # fmt: skip


@says.register
def _(row: Food) -> str:
    held = f", held for {minutes(row.hold_minutes)}" if row.hold_minutes else ""
    return _of_source(row, f"Wants {celsius(row.target_c)}{held}.")


@says.register
def _(row: Vessel) -> str:
    return _of_source(row, f"{row.title}: {amount(row.wall_kg_m2, 'mass_area')} of wall.")


@says.register
def _(row: Sweet) -> str:
    return _of_source(
        row, f"Soft from {celsius(row.soft_c)}, melts from {celsius(row.melting_low_c)} to {celsius(row.melting_high_c)}, "
        f"browns from {celsius(row.browns_c)}.",
    )  # fmt: skip


@says.register
def _(row: Wax) -> str:
    return _of_source(
        row,
        f"Melts from {celsius(row.melting_low_c)} to {celsius(row.melting_high_c)}, darkens above {celsius(row.discolours_c)}.",
    )


def listed() -> Iterator[tuple[str, Row | Food | Vessel | Sweet | Wax]]:
    """Every listed row, with its family or table."""
    for name, family in tables.FAMILIES.items():
        for row in family.table().values():
            yield name, row
    for name in TABLES:
        for row in getattr(tables, name)().values():
            yield name, row
