"""The registry of kinds: adding one means one spec, one recipe, one optics, one drawing, and a row here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.box_oven_optics import BoxOptics
from drylamp.core.builds.box_oven_recipe import check_fit, network_of
from drylamp.core.builds.box_oven_section import section_of
from drylamp.core.builds.drawing import Section
from drylamp.core.heat.network import Network
from drylamp.core.loads.pot import PotLoad
from drylamp.core.sky.sun import Array

BuildSpec = BoxOven


@dataclass(frozen=True)
class Kind:
    """What the twin and the drawing board need to know of a kind of build."""

    title: str
    optics: Callable[[BoxOven, PotLoad | None], BoxOptics]
    network: Callable[[BoxOven, PotLoad | None, BoxOptics], Network]
    check_fit: Callable[[BoxOven, PotLoad | None], None]
    section: Callable[[BoxOven, PotLoad | None, Array | None], Section]
    useful_nodes: tuple[str, ...]
    hot_node: str


KINDS: dict[str, Kind] = {
    "box-oven": Kind(
        title="Box oven",
        optics=BoxOptics.of,
        network=network_of,
        check_fit=check_fit,
        section=section_of,
        useful_nodes=("contents", "pot"),
        hot_node="tray",
    )
}


def kind_of(build: BuildSpec) -> Kind:
    """Return the kind's row."""
    return KINDS[build.kind]
