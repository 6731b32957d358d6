"""The tube row's row."""

from __future__ import annotations

from drylamp.core.builds.common.coil.upkeep import PLUMBING
from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.builds.kind import Kind
from drylamp.core.builds.tube_row import bill, recipe, section
from drylamp.core.builds.tube_row.optics import RowOptics, coat_nodes, lit_nodes
from drylamp.core.builds.tube_row.spec import TubeRow
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import FLOWING
from drylamp.core.text import counted, metres

LOSS = Doubtful(
    "loss", "losses", 0.2, "it loses more than the twin thinks: look for a white spot at a closed end", "it keeps its heat better than the twin thinks",
    "more wool round the header, and a look at every tube's spot", True,
)  # fmt: skip
CONTACT = Doubtful(
    "contact", "way into the header", 0.3, "heat gets into the header better than the twin thinks", "heat gets into the header worse than the twin thinks",
    "paste between heat pipe and header, fins pressed to the glass", True,
)  # fmt: skip

KIND: Kind[TubeRow, RowOptics] = Kind(
    spec=TubeRow,
    title="Row of vacuum tubes",
    wish="warm water",
    holds=("water", "heat"),
    parts={"tube": "tubes", "mirror": "mirrors", "header": "header", "load": "water", "aim": "how it stands", "box": "the tubes", "cover": "the glass"},
    offers=frozenset((FLOWING,)),
    refusal="a row of tubes takes running water, or a loop",
    check_size=recipe.check_size,
    passes_l_min=recipe.passes_l_min,
    optics=RowOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#5A3A8A", dusk="#C9B3F2"),
    made=lambda build: f"{counted(build.count, 'tube')} of {metres(build.tube.lit_m)}",
    opening="tubes",
    drawn="Seen from the side, up the slope",
    empty="They stand dry.",
    names_stagnation=True,
    notes={
        "tube": "Look at every spot at a closed end once a year: silver holds, white is a jar. Dust and leaves off in spring.",
        "load": PLUMBING,
        "header": "Wool that got wet insulates nothing; look under its cover, and for drips at the joints.",
    },
    accounts={
        "mirrored": Account("missed the tubes or thrown back", "thrown back", "sky"),
        "cover": Account("lost through vacuum, glass and mouths", "lost", "glass"),
        "header": Account("lost by the header", "header", "soft", "the warm air"),
        "box": Account("stored in tubes and header", "stored", "foam", "the warm tubes"),
        "water": Account("into the water in it", "into water", "accent", "the warm water"),
        "tap": Account("carried off by the water", "carried off", "twin"),
    },
    useful_account="water",
    stagnation_node=lambda build: coat_nodes(build)[-1],
    doubtful=lambda build: [OPTICAL, LOSS, CONTACT],
)  # fmt: skip
