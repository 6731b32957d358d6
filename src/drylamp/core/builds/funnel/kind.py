"""The funnel's row."""

from __future__ import annotations

from dataclasses import replace

from drylamp.core.builds.common.open_air.links import DOUBTFUL
from drylamp.core.builds.funnel import bill, pattern, recipe, section
from drylamp.core.builds.funnel.optics import BASE, FunnelOptics, lit_nodes
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.builds.kind import Kind, over
from drylamp.core.common.look import FOOD, LEAK, OVEN, SKY, STEAM, WIND, Account
from drylamp.core.loads.common.places import LYING, STANDING

KIND: Kind[Funnel, FunnelOptics] = Kind(
    spec=Funnel,
    title="Funnel",
    wish="cook",
    holds=("food", "sun", "heat"),
    parts={
        "mirror": "mirror sheet", "base": "bottom", "sheet": "sheet", "lining": "finishes near food", "cover": "bag or bowl",
        "load": "what goes in", "aim": "how it stands",
    },
    offers=frozenset((STANDING, LYING)),
    refusal="it belongs into a melter, take a pot or portions",
    check_size=recipe.check_size,
    optics=FunnelOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    pattern=pattern.pieces_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=OVEN,
    made=lambda build: {"cone": "cone of one sheet", "panels": "folded panels", "flat": "black sheet"}[build.shape],
    aimed=over,
    empty="Nothing stands in it.",
    control=lambda build: build.with_(shape="flat", base="concrete", trivet_m=0.0),
    accounts={
        "mirrored": Account("missed the pot or thrown back", "thrown back", "sky"),
        "air": WIND,
        "sky": SKY,
        "leak": replace(LEAK, title="lost with air from under bag or bowl"),
        "steam": STEAM,
        "box": Account("stored in bottom, bag or bowl", "stored", "foam"),
        "food": FOOD,
    },
    useful_account="food",
    stagnation_node=lambda build: BASE,
    doubtful=lambda build: DOUBTFUL,
)  # fmt: skip
