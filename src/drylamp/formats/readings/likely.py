"""Which part of a build a column of readings seems to speak of, by the words in its name."""

from __future__ import annotations

import re
from collections.abc import Mapping

from drylamp.core.builds.protocol import FLOW, PUMP
from drylamp.core.heat.parts import Role
from drylamp.core.loads.load import Load
from drylamp.core.trials.channels import ON_SCALE, OUTSIDE
from drylamp.core.trials.instruments import Quantity
from drylamp.formats.readings.preview import Column

BESIDE = frozenset(("control", "beside"))
OUTDOORS = frozenset(("out", "outside", "ambient", "shade", "outdoor"))
ROLE_WORDS: tuple[tuple[frozenset[str], Role], ...] = (
    (frozenset(("tray", "plate", "absorber", "floor", "bottom")), "absorber"),
    (frozenset(("wall", "lining", "board")), "wall"),
    (frozenset(("cover", "glass", "pane")), "pane"),
    (frozenset(("inside", "oven", "chamber", "box", "air", "in")), "air"),
)
"""Words for what a part is there for, the surer ones first."""
NODE_OF_QUANTITY: dict[Quantity, str] = {
    "sun": "sun",
    "wind": "wind",
    "humidity": "air",
    "mass": ON_SCALE,
    "moisture": ON_SCALE,
    "flow": FLOW,
    "hours": PUMP,
}


def likely_node(column: Column, roles: Mapping[str, Role], load: Load | None) -> str:
    """The part that a column's name seems to speak of; empty when it says nothing of what is there.

    Parameters
    ----------
    roles
        what each node of the build and its load is there for
    """
    if column.quantity != "temperature":
        return NODE_OF_QUANTITY[column.quantity]
    words = set(re.findall(r"[a-z]+", column.name.lower()))
    if words & BESIDE:
        return OUTSIDE
    if load is not None and words & load.spoken_of:
        return load.judged
    if words & OUTDOORS and not words & ROLE_WORDS[0][0]:
        return "air"
    said = (role for names, role in ROLE_WORDS if words & names)
    return next((node for role in said for node, has in roles.items() if has == role), "")
