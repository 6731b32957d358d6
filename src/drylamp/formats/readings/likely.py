"""Which part of a build a column of readings seems to speak of, by the words in its name."""

from __future__ import annotations

import re

from drylamp.core.trials.instruments import Quantity
from drylamp.formats.readings.preview import Column

NODE_WORDS: tuple[tuple[tuple[str, ...], str], ...] = (
    (("control", "beside"), "outside"),
    (("tray", "plate", "absorber", "floor"), "tray"),
    (("wax", "heap", "comb", "cappings"), "wax"),
    (("pot", "food", "water", "core", "stew", "contents"), "contents"),
    (("out", "outside", "ambient", "shade", "outdoor"), "air"),
    (("wall", "lining"), "walls"),
    (("cover", "glass", "pane"), "cover-1"),
    (("board",), "board"),
    (("inside", "oven", "chamber", "box", "air", "in"), "inside-air"),
)
NODE_OF_QUANTITY: dict[Quantity, str] = {
    "sun": "sun",
    "wind": "wind",
    "humidity": "air",
    "mass": "load",
    "moisture": "load",
    "flow": "loop",
}


def likely_node(column: Column) -> str:
    """The part that a column's name seems to speak of; empty when it says nothing."""
    if column.quantity != "temperature":
        return NODE_OF_QUANTITY[column.quantity]
    words = set(re.findall(r"[a-z]+", column.name.lower()))
    return next((node for names, node in NODE_WORDS if words & set(names)), "")
