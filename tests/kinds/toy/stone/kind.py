"""The stone's row."""

from __future__ import annotations

from drylamp.core.builds.stone import recipe, section
from drylamp.core.builds.stone.optics import STONE, StoneOptics, lit_nodes
from drylamp.core.builds.stone.spec import Stone

from drylamp.core.builds.doubt import OPTICAL
from drylamp.core.builds.kind import Kind
from drylamp.core.common.bill import thing
from drylamp.core.common.look import LEAK, SKY, WIND, Accent, Account
from drylamp.core.loads.common.places import LYING
from drylamp.core.text import metres

KIND: Kind[Stone, StoneOptics] = Kind(
    spec=Stone,
    title="Black stone",
    wish="keep warm",
    parts={"stone": "stone", "load": "what lies on it", "aim": "where it lies"},
    offers=frozenset((LYING,)),
    refusal="a stone takes what lies flat on it",
    check_size=recipe.check_size,
    optics=StoneOptics,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=lambda build: [thing("stone", "trivet", title="the stone itself, found")],
    accent=Accent(day="#3F4A3C", dusk="#C4D6BE"),
    made=lambda build: f"a stone {metres(build.diameter_m)} across",
    accounts={
        "mirrored": Account("thrown back", "thrown back", "sky"),
        "air": WIND,
        "sky": SKY,
        "ground": Account("gone into the ground", "ground", "wood", "the ground"),
        "leak": LEAK,
        "box": Account("stored in the stone", "stored in the stone", "foam", "the warm stone"),
        "food": Account("into what lies on it", "into the load", "accent", "what lies on it"),
    },
    useful_account="food",
    stagnation_node=lambda build: STONE,
    doubtful=lambda build: [OPTICAL],
)
