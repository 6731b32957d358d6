"""How water that runs through a pipe is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import OUTDOORS, SUN
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted

PIPE = Wanted(node="water", title="water in the pipe")

STANDING_COIL = ProtocolRow(
    name="standing-coil",
    title="Standing coil",
    purpose="How fast the water in a hose warms while nothing runs, and where it levels off.",
    reading_minutes=[0, 5, 10, 15, 20, 30, 45, 60],
    needs_load=True,
    checklist=[
        "Fill it with cold water until no bubble comes, then shut both ends loosely: never tight.",
        "Shade it while you fill; the trial begins when the shade comes off.",
        "Probe under tape on the hose near its outlet, shaded by the tape.",
    ],
    cautions=["A hose that is shut tight at both ends bursts when it warms.", "The first litres may scald."],
    channels=[PIPE, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule="After an hour, or when it no longer warms.",
    end_minutes=60.0,
    figures=["hottest", "minutes-to-target", "over-control", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (STANDING_COIL,)
