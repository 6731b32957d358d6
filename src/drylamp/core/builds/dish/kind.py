"""The dish's row."""

from __future__ import annotations

from drylamp.core.builds.common.open_air.links import DOUBTFUL
from drylamp.core.builds.dish import pattern, recipe, section
from drylamp.core.builds.dish.optics import HOLDER, DishOptics, lit_nodes, spill
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.builds.kind import Kind
from drylamp.core.loads.common.places import STANDING

KIND: Kind[Dish, DishOptics] = Kind(
    spec=Dish,
    title="Dish",
    parts={"mirror": "mirror", "cover": "bag or bowl", "load": "what stands at the focus", "aim": "stand and turning"},
    offers=frozenset((STANDING,)),
    refusal="a dish heats a pot at its focus; give a pot, portions and wax belong into a box",
    check_size=recipe.check_size,
    optics=DishOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    pattern=pattern.pieces_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    accounts={
        "mirrored": "swallowed by the mirror or spilt past the pot",
        "air": "carried off by the wind",
        "sky": "shone back to sky and surroundings",
        "leak": "lost with air from under bag or bowl",
        "steam": "gone as steam",
        "box": "stored in the ring",
        "food": "into pot and food",
    },
    useful_account="food",
    stagnation_node=lambda build: HOLDER,
    doubtful=lambda build: DOUBTFUL,
    spill=spill,
    concentrates=True,
)  # fmt: skip
