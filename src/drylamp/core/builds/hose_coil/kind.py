"""The hose coil's row."""

from __future__ import annotations

from drylamp.core.builds.common.coil.upkeep import PLUMBING
from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.builds.hose_coil import bill, recipe, section
from drylamp.core.builds.hose_coil.optics import HoseOptics, hose_nodes, lit_nodes
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.builds.kind import Kind
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import FLOWING
from drylamp.core.text import amount, counted

LOSS = Doubtful(
    "loss", "losses", 0.2, "wind and sky take more than the twin thinks", "it keeps its heat better than the twin thinks",
    "a film over it, or a calmer place", True,
)  # fmt: skip

KIND: Kind[HoseCoil, HoseOptics] = Kind(
    spec=HoseCoil,
    title="Hose coil",
    wish="warm water",
    holds=("water", "heat"),
    parts={
        "hose": "hose", "bed": "bed", "under": "under the bed", "mesh": "mesh", "mirror": "reflector", "sheet": "dark sheet", "cover": "cover", "frame": "frame", "load": "water",
        "aim": "how it stands", "box": "the coil",
    },
    offers=frozenset((FLOWING,)),
    refusal="a hose coil takes running water",
    check_build=recipe.check_build,
    check_size=recipe.check_size,
    passes_l_min=recipe.passes_l_min,
    optics=HoseOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#125C57", dusk="#8ED6CF"),
    made=lambda build: f"{amount(build.hose_m, 'distance')} of hose, {counted(build.turns, 'turn')}",
    opening="coil",
    drawn="Cut up the slope; turns that lie too close to tell apart are drawn as fewer",
    empty="It lies dry.",
    names_stagnation=True,
    notes={
        "hose": "Turns come out of its length, the pitch and the frame. Sun makes hose brittle: bend it each spring, and replace what shows cracks or whitens.",
        "load": PLUMBING,
    },
    accounts={
        "mirrored": Account("thrown back before it could heat", "thrown back", "sky"),
        "cover": Account("lost upward", "upward", "glass"),
        "under": Account("lost through the bed", "bed", "wood"),
        "box": Account("stored in hose, bed and cover", "stored", "foam", "the warm coil"),
        "water": Account("into the water in it", "into water", "accent", "the warm water"),
        "tap": Account("carried off by the water", "carried off", "twin"),
    },
    useful_account="water",
    stagnation_node=lambda build: hose_nodes()[-1],
    doubtful=lambda build: [OPTICAL, LOSS],
)  # fmt: skip
