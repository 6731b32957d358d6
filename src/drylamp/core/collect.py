"""Rooms found by looking: the folders of kinds and of loads, so that adding one is adding a folder."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator
from importlib.util import find_spec
from types import ModuleType

SHARED = "common"
"""The folder beside the rooms that holds what they share."""


def rooms(house: ModuleType) -> list[str]:
    """Full names of a house's rooms, by the alphabet."""
    found = pkgutil.iter_modules(house.__path__)
    return sorted(f"{house.__name__}.{room.name}" for room in found if room.ispkg and room.name != SHARED)


def modules(house: ModuleType, *names: str) -> Iterator[tuple[ModuleType, ...]]:
    """Modules of those names from each room."""
    for room in rooms(house):
        yield tuple(importlib.import_module(f"{room}.{name}") for name in names)


def module_if_any(room: str, name: str) -> ModuleType | None:
    """A room's module of that name; none where it has none."""
    full = f"{room}.{name}"
    return importlib.import_module(full) if find_spec(full) is not None else None
