"""The row of samples side by side."""

from __future__ import annotations

from drylamp.core.builds.common.box.look import panes
from drylamp.core.builds.kind import Action, Kind
from drylamp.core.builds.samples import bill, recipe, section
from drylamp.core.builds.samples.optics import SamplesOptics, lit_nodes
from drylamp.core.builds.samples.spec import Samples, shuffled
from drylamp.core.common.look import LEAK, SKY, WIND, Accent, Account
from drylamp.core.text import counted

KIND: Kind[Samples, SamplesOptics] = Kind(
    spec=Samples,
    title="Samples side by side",
    wish="compare coatings",
    holds=("heat", "money"),
    parts={"sample": "samples", "board": "board", "cover": "cover", "size": "sample size", "aim": "how it stands"},
    offers=frozenset(),
    refusal="a set of samples holds nothing; leave the load out",
    optics=SamplesOptics.of,
    lit_nodes=lit_nodes,
    network=recipe.network_of,
    section=section.section_of,
    stuffs=recipe.stuffs,
    surfaces=recipe.surfaces,
    bill=bill.pieces_of,
    accent=Accent(day="#5B3F6C", dusk="#D9BCEB"),
    made=lambda build: (
        f"{counted(len(build.samples), 'sample')}, "
        f"{panes(build.cover, 'in the open' if build.over is None else f'under a {build.over.title} each')}"
    ),
    notes={"board": "A sunlit board heats the samples from below, and so hides their differences."},
    actions={
        "draw-lots": Action(
            "sample",
            "Draw the places by lot",
            "Equal places are not equal: an edge cools, a middle does not. Drawing lots keeps a habit from helping one finish.",
            "places drawn by lot",
            lambda build, seed: build.with_(samples=shuffled(build.samples, seed)),
        )
    },
    drawn="Cut along the way it faces, and beside it the board square on",
    opening="board",
    empty="Samples only want reading; start a trial.",
    side_by_side=True,
    accounts={
        "mirrored": Account("thrown back before it could heat", "thrown back", "sky"),
        "air": WIND,
        "sky": SKY,
        "cover": Account("lost through the cover", "cover", "glass"),
        "walls": Account("lost through the board's back", "board's back", "wood"),
        "leak": LEAK,
        "box": Account("stored in board and cover", "stored in board", "foam", "the warm board"),
        "samples": Account("stored in the samples", "stored in samples", "accent", "the warm samples"),
    },
    useful_account="samples",
    useful=recipe.useful,
    stagnation_node=recipe.stagnation_node,
    headline=recipe.headline,
    open_nodes=frozenset(("inside-air",)),
    doubtful=recipe.doubtful,
)
