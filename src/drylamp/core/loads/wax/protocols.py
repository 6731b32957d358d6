"""How batches of wax are tried, in whatever build they drain."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import GLOVES, INSIDE, OUTDOORS
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted

MELT_RUN = ProtocolRow(
    name="melt-run",
    title="Melt run",
    purpose="One batch from cold to clean wax on the scale.",
    reading_minutes=[0, 30, 60, 90, 120, 150, 180, 210, 240, 300, 360],
    needs_load=True,
    checklist=[
        "Set the melter level across and sloping to its tray; water on the floor runs straight down the middle.",
        "Weigh the batch, spread it flat, strainer in place, clean tray weighed empty.",
        "Probe in the heap, a second in the air; do not open it while wax drips.",
    ],
    cautions=[
        GLOVES,
        "No flame or spark near; never heat wax unattended on a fire afterwards.",
        "Bees smell it: keep it shut.",
    ],
    channels=[
        Wanted(node="wax", title="heap"),
        INSIDE,
        Wanted(node="catch", title="clean wax on the scale", instrument="scale", optional=True),
        OUTDOORS,
    ],
    events=list(IN_THE_FIELD),
    end_rule="When nothing has dripped for half an hour; weigh the tray when it has set.",
    end_minutes=420.0,
    figures=["clean-wax", "minutes-to-target", "hottest", "over-control", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (MELT_RUN,)
