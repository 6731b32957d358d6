"""The stone's row."""

from __future__ import annotations

from drylamp.core.builds.stone import recipe, section
from drylamp.core.builds.stone.optics import STONE, StoneOptics, lit_nodes
from drylamp.core.builds.stone.spec import Stone

from drylamp.core.builds.doubt import OPTICAL
from drylamp.core.builds.kind import Kind
from drylamp.core.loads.common.places import LYING

KIND: Kind[Stone, StoneOptics] = Kind(
    spec=Stone,
    title="Black stone",
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
    accounts={
        "mirrored": "thrown back",
        "air": "carried off by the wind",
        "sky": "shone back to sky and surroundings",
        "ground": "gone into the ground",
        "leak": "lost with leaking air",
        "box": "stored in the stone",
        "food": "into what lies on it",
    },
    useful_account="food",
    stagnation_node=lambda build: STONE,
    doubtful=lambda build: [OPTICAL],
)
