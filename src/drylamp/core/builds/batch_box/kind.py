"""The batch box's row."""

from __future__ import annotations

from drylamp.core.builds.batch_box import bill, recipe, section
from drylamp.core.builds.batch_box.optics import BatchOptics, lit_nodes, patch_on_water
from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.box import pattern
from drylamp.core.builds.common.box.doubt import OF_THE_BOX
from drylamp.core.builds.common.box.look import BOX_ACCOUNTS, glance
from drylamp.core.builds.common.box.recipe import surfaces
from drylamp.core.builds.kind import Kind
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import FILLING

KIND: Kind[BatchBox, BatchOptics] = Kind(
    spec=BatchBox,
    title="Batch water heater",
    wish="warm water",
    holds=("water", "heat"),
    parts={
        "cover": "cover", "mirror": "mirror lid", "behind": "mirror behind", "lid": "night lid", "water": "on the water", "tray": "trough", "lining": "upper walls",
        "wall": "wall", "floor": "floor", "frame": "frame of the lid", "seal": "seal", "coil": "coil", "load": "water", "aim": "how it stands", "box": "the box",
    },
    offers=frozenset((FILLING,)),
    refusal="a batch box takes water",
    check_size=recipe.check_size,
    check_build=recipe.check_build,
    optics=BatchOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    pattern=pattern.pieces_of,
    stuffs=recipe.stuffs,
    surfaces=surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#1F4E6B", dusk="#9CCBE8"),
    made=glance,
    empty="It stands dry.",
    names_stagnation=True,
    notes={
        "lid": "Shut by the hour; while it is shut no sun gets in.",
        "coil": "What runs through it takes heat from the water round it; the water itself stays.",
    },
    accounts={
        **BOX_ACCOUNTS,
        "water": Account("into the water", "into water", "accent", "the warm water"),
        "tap": Account("drawn at the tap", "drawn", "twin"),
    },
    useful_account="water",
    patch=patch_on_water,
    stagnation_node=lambda build: "tray",
    open_nodes=frozenset(("inside-air",)),
    doubtful=lambda build: OF_THE_BOX,
    drives=recipe.drives,
    sun_gate=recipe.LID,
)  # fmt: skip
