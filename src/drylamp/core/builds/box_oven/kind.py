"""The box oven's row."""

from __future__ import annotations

from drylamp.core.builds.box_oven import bill
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box import pattern, recipe, section
from drylamp.core.builds.common.box.bright_patch import bright_patch
from drylamp.core.builds.common.box.doubt import DOUBTFUL
from drylamp.core.builds.common.box.look import BOX_ACCOUNTS, glance
from drylamp.core.builds.common.box.optics import BoxOptics, lit_nodes
from drylamp.core.builds.kind import Kind
from drylamp.core.common.look import FOOD, OVEN, STEAM, Account
from drylamp.core.loads.common.places import LYING, STANDING

KIND: Kind[BoxOven, BoxOptics] = Kind(
    spec=BoxOven,
    title="Box oven",
    wish="cook",
    holds=("food", "sun", "heat"),
    parts={
        "cover": "cover", "mirror": "mirrors", "tray": "tray", "lining": "lining", "wall": "wall", "floor": "floor", "frame": "frame of the lid", "seal": "seal and vent",
        "load": "what goes in", "aim": "how it stands", "box": "the box",
    },
    offers=frozenset((STANDING, LYING)),
    refusal="it belongs into a melter, take a pot or portions",
    check_size=recipe.check_size,
    check_build=recipe.check_mirrors,
    patch=bright_patch,
    optics=BoxOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    pattern=pattern.pieces_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=OVEN,
    made=glance,
    empty="The box stands empty.",
    names_stagnation=True,
    accounts={
        **BOX_ACCOUNTS,
        "vent": Account("carried off through the vent", "vent", "soft"),
        "steam": STEAM,
        "food": FOOD,
    },
    useful_account="food",
    stagnation_node=lambda build: "tray",
    open_nodes=frozenset(("inside-air",)),
    doubtful=lambda build: DOUBTFUL,
    has_figures_of_merit=True,
)  # fmt: skip
