"""The lumber kiln's row."""

from __future__ import annotations

from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.builds.kiln import bill, recipe, section
from drylamp.core.builds.kiln.faults import FAULTS
from drylamp.core.builds.kiln.optics import BAFFLE, WALLS, KilnOptics, lit_nodes
from drylamp.core.builds.kiln.spec import LumberKiln
from drylamp.core.builds.kind import Kind
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import STACKED
from drylamp.core.text import counted, square_metres

LOSS = Doubtful(
    "loss", "losses", 0.25, "roof and walls lose more than the twin thinks", "it keeps its heat better than the twin thinks",
    "tight joints, dry insulation", True,
)  # fmt: skip
LEAK = Doubtful(
    "leak",
    "gaps",
    0.5,
    "more air comes in by gaps than the twin thinks",
    "it is tighter than the twin thinks",
    "door, ridge and eaves",
    True,
)


def _made(build: LumberKiln) -> str:
    return f"{square_metres(build.roof_m2)} of roof, {counted(len(build.skins), 'sheet')}"


KIND: Kind[LumberKiln, KilnOptics] = Kind(
    spec=LumberKiln,
    title="Lumber kiln",
    wish="dry wood",
    holds=("wood", "air"),
    parts={
        "cover": "roof", "baffle": "baffle", "chamber": "chamber", "wall": "walls", "floor": "floor", "vents": "vents", "fan": "fans", "seal": "gaps", "heater": "back-up heat",
        "load": "boards", "aim": "how it stands", "box": "the kiln",
    },
    offers=frozenset((STACKED,)),
    refusal="a lumber kiln takes boards stacked on sticks",
    check_size=recipe.check_size,
    optics=KilnOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#7A5230", dusk="#E2B48C"),
    made=_made,
    opening="roof",
    drawn="Cut along the way it faces",
    empty="It stands empty.",
    notes={
        "vents": "Shut them for heat, open them to let damp air out; what is best changes as the boards dry.",
        "load": "Mean, shell and core of each group, what a meter reads, and how near the daily loss comes to the safe rate.",
        "fan": "Air must get to every face; along a wide stack it cools and has less left to give.",
    },
    accounts={
        "mirrored": Account("thrown back before it could heat", "thrown back", "sky"),
        "cover": Account("lost by the roof", "roof", "glass"),
        "walls": Account("lost through walls and floor", "walls", "wood"),
        "air": Account("carried off by the vents", "vents", "water"),
        "leak": Account("lost with leaking air", "leak", "rust"),
        "box": Account("stored in the kiln", "stored", "foam", "the warm kiln"),
        "vapour": Account("into water driven out", "driven out", "accent", "dew and warm boards"),
        "backup": Account("from the back-up heat", "back-up", "honey", "the back-up heat"),
    },
    useful_account="vapour",
    stagnation_node=lambda build: WALLS if build.baffle is None else BAFFLE,
    open_nodes=frozenset(("chamber",)),
    doubtful=lambda build: [OPTICAL, LOSS, LEAK],
    drives=recipe.drives,
    vents=recipe.vents,
    faults=FAULTS,
)  # fmt: skip
