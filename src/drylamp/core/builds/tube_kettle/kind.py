"""The tube kettle's row."""

from __future__ import annotations

from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.builds.kind import Kind, steep
from drylamp.core.builds.tube_kettle import bill, pattern, recipe, section
from drylamp.core.builds.tube_kettle.optics import COAT, KettleOptics, lit_nodes
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.common.look import STEAM, Accent, Account
from drylamp.core.loads.common.places import POURED
from drylamp.core.text import metres

LOSS = Doubtful(
    "loss", "losses", 0.2, "it loses more than the twin thinks: look at the spot at the closed end, and at the stopper", "it keeps its heat better than the twin thinks",
    "a better stopper, or a tube whose spot is silver", True,
)  # fmt: skip


def made(build: TubeKettle) -> str:
    """Length and wings."""
    return f"{metres(build.tube.lit_m)} of tube" + ("" if build.wings is None else ", with wings")


KIND: Kind[TubeKettle, KettleOptics] = Kind(
    spec=TubeKettle,
    title="Tube kettle",
    wish="warm water",
    holds=("water", "heat"),
    parts={
        "tube": "tube", "mirror": "wings", "holder": "stopper and holder", "feet": "feet", "load": "water", "aim": "how it stands", "box": "the tube", "cover": "the glass",
    },
    offers=frozenset((POURED,)),
    refusal="a tube kettle takes water for a kettle",
    check_size=recipe.check_size,
    optics=KettleOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    pattern=pattern.pieces_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#6A2E6B", dusk="#E3A5E4"),
    made=made,
    aimed=steep,
    drawn="From the side, and cut across the tube",
    opening="mouth of the wings",
    empty="It stands empty.",
    names_stagnation=True,
    notes={
        "tube": "A silver spot at the closed end means that the vacuum holds; white, and the tube is a jar. Rinse lime out with vinegar.",
        "mirror": "Wipe dust off before each use; foil that creases and mirror paint that chalks are glued or sprayed anew.",
        "holder": "What touches the neck gets warm with the water; look for softening and cracks.",
    },
    accounts={
        "mirrored": Account("missed the tube or thrown back", "thrown back", "sky"),
        "cover": Account("lost through vacuum and glass", "lost", "glass"),
        "wings": Account("swallowed by the wings", "wings", "soft", "the warm wings"),
        "leak": Account("lost at the mouth", "mouth", "water"),
        "steam": STEAM,
        "box": Account("stored in glass and wings", "stored", "foam", "the warm glass"),
        "water": Account("into the water", "into water", "accent", "the warm water"),
    },
    useful_account="water",
    stagnation_node=lambda build: COAT,
    doubtful=lambda build: [OPTICAL, LOSS],
)  # fmt: skip
