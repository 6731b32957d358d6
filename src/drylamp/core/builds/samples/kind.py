"""The row of samples side by side."""

from __future__ import annotations

from drylamp.core.builds.kind import Kind
from drylamp.core.builds.samples import recipe, section
from drylamp.core.builds.samples.optics import SamplesOptics, lit_nodes
from drylamp.core.builds.samples.spec import Samples

KIND: Kind[Samples, SamplesOptics] = Kind(
    spec=Samples,
    title="Samples side by side",
    parts={"sample": "sample", "board": "board", "cover": "cover", "aim": "how it stands"},
    offers=frozenset(),
    refusal="a set of samples holds nothing; leave the load out",
    optics=SamplesOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    accounts={
        "mirrored": "thrown back before it could heat",
        "air": "carried off by the wind",
        "sky": "shone back to sky and surroundings",
        "cover": "lost through the cover",
        "walls": "lost through the board's back",
        "leak": "lost with leaking air",
        "box": "stored in board and cover",
        "samples": "stored in the samples",
    },
    useful_account="samples",
    useful=recipe.useful,
    stagnation_node=recipe.stagnation_node,
    open_nodes=frozenset(("inside-air",)),
    doubtful=recipe.doubtful,
)
