"""The melter's recipe and optics: those of a box, with heap and catch tray lying on its floor."""

from __future__ import annotations

from drylamp.core.builds import box_oven_recipe
from drylamp.core.builds.box_oven_optics import BoxOptics
from drylamp.core.builds.box_oven_optics import part_names as box_parts
from drylamp.core.builds.melter import Melter
from drylamp.core.checks import InputProblem, require
from drylamp.core.heat.network import Network
from drylamp.core.loads.load import AnyLoad
from drylamp.core.tables import Row


def optics_of(build: Melter, load: AnyLoad | None) -> BoxOptics:
    """Its optics."""
    return BoxOptics.of(build.box, load)


def part_names(build: Melter, load: AnyLoad | None) -> list[str]:
    """Parts that take up sun."""
    return box_parts(build.box, load)


def check_fit(build: Melter, load: AnyLoad | None) -> None:
    """Refuse what is no batch of wax, or a heap that touches the glass.

    Raises:
        InputProblem: another load, or too much of it.
    """
    if load is None:
        return
    if load.kind != "wax":
        raise InputProblem("load", "a pot or portions were given; a melter takes a batch of wax")
    deep = load.heap_m(build.opening_m2)
    most = 0.8 * build.height_m
    fits = load.batch_kg * most / deep
    require(
        deep <= most, "load.batch_kg",
        f"{load.batch_kg:g} kg was given; they would lie {deep * 100:.0f} cm deep in a box of {build.height_m * 100:.0f} cm, "
        f"lay in up to {fits:.1f} kg at once",
    )  # fmt: skip


def network_of(build: Melter, load: AnyLoad | None, optics: BoxOptics) -> Network:
    """The network of a melter, with or without a batch.

    Raises:
        InputProblem: the batch does not fit.
    """
    check_fit(build, load)
    return box_oven_recipe.network_inside(build.box, load, optics)


def materials(build: Melter) -> list[tuple[str, str, Row]]:
    """(part, node, material) of everything that can spoil with heat."""
    return box_oven_recipe.materials(build.box)
