"""How portions are tried, in whatever build they lie."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import BESIDE, EYES, GLOVES, INSIDE, OUTDOORS, PREPARE
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted

EACH = Wanted(node="portions", title="each portion")

PORTIONS_AND_CONTROL = ProtocolRow(
    name="portions",
    title="Portions and a control",
    purpose="Two or more equal portions in one box and one outside: which melts, when, and why not the other.",
    reading_minutes=[0, 5, 10, 15, 20, 25, 30, 40, 50, 60],
    needs_load=True,
    checklist=[
        *PREPARE,
        "Portions equal, from one packet; one stays outside in the shade of nothing as the control.",
        "Note which portion lies in the bright patch; turn the flap until the patch lies on all of them, or leave it to see the difference.",
    ],
    cautions=[
        EYES,
        GLOVES,
        "An adult cuts card and glass and handles hot parts.",
        "No eggs and no meat in a first box.",
    ],
    channels=[EACH, INSIDE, BESIDE, OUTDOORS],
    events=list(IN_THE_FIELD),
    end_rule="When all are melted, or after an hour.",
    end_minutes=60.0,
    figures=["portion-states", "minutes-to-target", "hottest", "over-control", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (PORTIONS_AND_CONTROL,)
