"""The row of sleeved tubes."""

from __future__ import annotations

from drylamp.core.builds.common.coil.upkeep import PLUMBING
from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.builds.kind import Kind
from drylamp.core.builds.sleeved_tubes import bill, recipe, section
from drylamp.core.builds.sleeved_tubes.optics import SleeveOptics, lit_nodes, tube_nodes
from drylamp.core.builds.sleeved_tubes.spec import SleevedTubes
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import FLOWING
from drylamp.core.text import counted

LOSS = Doubtful(
    "loss", "losses", 0.2, "wind and sky take more than the twin thinks", "it keeps its heat better than the twin thinks",
    "bottles pushed tighter together, or a calmer place", True,
)  # fmt: skip


KIND: Kind[SleevedTubes, SleeveOptics] = Kind(
    spec=SleevedTubes,
    title="Tubes in bottle sleeves",
    wish="warm water",
    holds=("water", "heat"),
    parts={
        "tubes": "tubes", "bottles": "bottles", "pre_heat": "coil before", "load": "water", "aim": "how it stands", "box": "the tubes", "cover": "the bottles",
    },
    offers=frozenset((FLOWING,)),
    refusal="sleeved tubes take running water, or a loop",
    check_size=recipe.check_size,
    passes_l_min=recipe.passes_l_min,
    optics=SleeveOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#2F5B1E", dusk="#A9D58C"),
    made=lambda build: f"{counted(build.rows, 'tube')}, {counted(build.bottles_needed, 'bottle')}",
    opening="bottles",
    drawn="Cut up the slope",
    empty="They lie dry.",
    names_stagnation=True,
    notes={
        "tubes": "Bottles, elbows and the lengths to cut come out of the lit length and the rows.",
        "bottles": "Bottles that cloud or go yellow take light; they last two or three summers (common practice, no source).",
        "load": PLUMBING,
    },
    accounts={
        "mirrored": Account("thrown back before it could heat", "thrown back", "sky"),
        "cover": Account("lost by bottles and bare pipe", "lost", "glass"),
        "box": Account("stored in tubes and bottles", "stored", "foam", "the warm tubes"),
        "water": Account("into the water in it", "into water", "accent", "the warm water"),
        "tap": Account("carried off by the water", "carried off", "twin"),
    },
    useful_account="water",
    stagnation_node=lambda build: tube_nodes()[-1],
    doubtful=lambda build: [OPTICAL, LOSS],
)  # fmt: skip
