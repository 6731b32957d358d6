"""The food dryer's row."""

from __future__ import annotations

from drylamp.core.builds.common.air_collector.links import absorber_nodes
from drylamp.core.builds.doubt import OPTICAL, Doubtful
from drylamp.core.builds.dryer import bill, recipe, section
from drylamp.core.builds.dryer.optics import WALLS, DryerOptics, lit_nodes
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.builds.kind import Kind
from drylamp.core.common.look import Accent, Account
from drylamp.core.loads.common.places import LAID
from drylamp.core.text import counted, square_metres

LOSS = Doubtful(
    "loss", "losses", 0.25, "glass and walls lose more than the twin thinks", "it keeps its heat better than the twin thinks",
    "tight joints, dry insulation", True,
)  # fmt: skip


def _made(build: FoodDryer) -> str:
    collector = "" if build.collector is None else f", {square_metres(build.collector.area_m2)} of collector"
    return counted(build.trays.count, "tray") + collector


KIND: Kind[FoodDryer, DryerOptics] = Kind(
    spec=FoodDryer,
    title="Food dryer",
    wish="dry food",
    holds=("air", "food"),
    parts={
        "collector": "collector", "cabinet": "cabinet", "wall": "walls", "cover": "glass over the trays", "trays": "trays", "inlet": "inlet", "vent": "vent",
        "chimney": "chimney", "fan": "fan", "seal": "gaps", "load": "food", "aim": "how it stands", "box": "the dryer",
    },
    offers=frozenset((LAID,)),
    refusal="a food dryer takes food on trays",
    check_size=recipe.check_size,
    optics=DryerOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#8A3B12", dusk="#F0B48A"),
    made=_made,
    opening="glass",
    drawn="Cut along the way it faces",
    empty="Its trays are bare.",
    notes={
        "vent": "Open it for more air, shut it for hotter air; what dries fastest lies between.",
        "trays": "Tray 1 is the one that the warm air meets first.",
        "load": "Weigh a tray before it goes in: the twin says what it weighs when it is done.",
    },
    accounts={
        "mirrored": Account("thrown back before it could heat", "thrown back", "sky"),
        "cover": Account("lost by the glass", "glass", "glass"),
        "walls": Account("lost through back and walls", "walls", "wood"),
        "air": Account("carried off as warm air", "warm air", "water"),
        "leak": Account("lost with leaking air", "leak", "rust"),
        "box": Account("stored in the dryer", "stored", "foam", "the warm dryer"),
        "vapour": Account("into water driven out", "driven out", "accent", "dew and warm food"),
    },
    useful_account="vapour",
    stagnation_node=lambda build: WALLS if build.collector is None else absorber_nodes()[-1],
    doubtful=lambda build: [OPTICAL, LOSS],
    drives=recipe.drives,
    vents=recipe.vents,
)  # fmt: skip
