"""The wax melter's row."""

from __future__ import annotations

from drylamp.core.builds.common.box import recipe
from drylamp.core.builds.common.box.bright_patch import bright_patch
from drylamp.core.builds.common.box.doubt import DOUBTFUL
from drylamp.core.builds.common.box.look import BOX_ACCOUNTS, glance
from drylamp.core.builds.common.box.optics import BoxOptics, lit_nodes
from drylamp.core.builds.kind import Kind
from drylamp.core.builds.melter import bill, pattern, section
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import DRAINING

KIND: Kind[Melter, BoxOptics] = Kind(
    spec=Melter,
    title="Wax melter",
    wish="melt wax",
    holds=("heat", "sun"),
    parts={
        "cover": "glass", "mirror": "mirror lid", "tray": "sloped floor", "lining": "lining", "wall": "wall", "floor": "floor", "frame": "frame of the lid", "seal": "seal",
        "load": "comb and wax", "aim": "how it stands", "box": "the box",
    },
    offers=frozenset((DRAINING,)),
    refusal="a melter takes a batch of wax",
    check_size=recipe.check_size,
    patch=bright_patch,
    optics=BoxOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    pattern=pattern.pieces_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#6E5200", dusk="#F2CC5E"),
    made=glance,
    empty="Nothing is laid in.",
    names_stagnation=True,
    accounts={
        **BOX_ACCOUNTS,
        "cover": Account("lost through the glass", "glass", "glass"),
        "wax": Account("into comb and wax", "into comb and wax", "accent", "the warm comb"),
    },
    useful_account="wax",
    stagnation_node=lambda build: "tray",
    open_nodes=frozenset(("inside-air",)),
    doubtful=lambda build: DOUBTFUL,
)  # fmt: skip
