"""The dish's row."""

from __future__ import annotations

from dataclasses import replace

from drylamp.core.builds.common.open_air.links import DOUBTFUL
from drylamp.core.builds.dish import bill, pattern, recipe, section
from drylamp.core.builds.dish.optics import HOLDER, DishOptics, lit_nodes, spill
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.builds.kind import Kind, over
from drylamp.core.common.look import FOOD, LEAK, OVEN, SKY, STEAM, WIND, Account
from drylamp.core.loads.common.places import STANDING
from drylamp.core.text import metres, minutes


def followed(build: Dish) -> str:
    """How often it is turned, or the way it leans where it is left."""
    return f"turned every {minutes(build.turned_minutes)}" if build.turned_minutes else over(build)


KIND: Kind[Dish, DishOptics] = Kind(
    spec=Dish,
    title="Dish",
    wish="cook",
    holds=("food", "sun", "heat"),
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
    bill=bill.pieces_of,
    accent=OVEN,
    notes={
        "mirror": "Wash it before each use: dust and fingers cost a tenth (common practice, no source). Repaint the pot when it greys."
    },
    made=lambda build: f"{metres(build.diameter_m)} across",
    aimed=followed,
    empty="Nothing stands at the focus.",
    accounts={
        "mirrored": Account("swallowed by the mirror or spilt past the pot", "spilt", "sky"),
        "air": WIND,
        "sky": SKY,
        "leak": replace(LEAK, title="lost with air from under bag or bowl"),
        "steam": STEAM,
        "box": Account("stored in the ring", "stored in ring", "foam", "the warm ring"),
        "food": FOOD,
    },
    useful_account="food",
    stagnation_node=lambda build: HOLDER,
    doubtful=lambda build: DOUBTFUL,
    spill=spill,
    concentrates=True,
    control=lambda build: build.with_(mirror=build.mirror_row.model_copy(update={"name": "no-mirror", "reflectance": 0.0})),
)  # fmt: skip
