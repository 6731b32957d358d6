"""Every load by its kind, and what all of them can say of themselves."""

from __future__ import annotations

from typing import Annotated

from pydantic import Discriminator, Tag, TypeAdapter

from drylamp.core.loads.portions import Portions
from drylamp.core.loads.pot import PotLoad
from drylamp.core.loads.wax import WaxBatch


def _kind_given(value: object) -> str:
    """A load that does not say what it is, is a pot, as in the first files."""
    if isinstance(value, dict):
        return str(value.get("kind", "pot"))
    return str(getattr(value, "kind", "pot"))


Load = Annotated[
    Annotated[PotLoad, Tag("pot")] | Annotated[Portions, Tag("portions")] | Annotated[WaxBatch, Tag("wax")],
    Discriminator(
        _kind_given,
        custom_error_type="unknown_kind",
        custom_error_message="no such load; allowed are pot, portions and wax",
    ),
]
LOAD: TypeAdapter[PotLoad | Portions | WaxBatch] = TypeAdapter(Load)
AnyLoad = PotLoad | Portions | WaxBatch


def standing_on(load: AnyLoad | None, floor_m: tuple[float, float]) -> tuple[float, float] | None:
    """Diameter and height of what stands: the bowl or bag where there is one, else the pot; none where things only lie."""
    if load is None:
        return None
    if load.under is not None:
        return load.under.diameter_m, load.under.height_m
    return next(((b.diameter_m, b.height_m) for b in load.bodies_on(floor_m) if b.stands), None)


def read_load(text: str | None) -> AnyLoad | None:
    """A load from its JSON text; none from none."""
    return LOAD.validate_json(text) if text else None
