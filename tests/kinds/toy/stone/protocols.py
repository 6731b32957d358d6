"""How stones are tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import FREE_LOG, OUTDOORS
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted

WARM_STONE = ProtocolRow(
    name="warm-stone",
    title="Warm stone",
    purpose="How warm a stone gets by noon.",
    reading_minutes=[0, 15, 30, 45, 60],
    checklist=["Lay it on bare soil, in the sun since dawn."],
    channels=[Wanted(node="stone", title="stone"), OUTDOORS],
    events=list(IN_THE_FIELD),
    end_rule="After an hour.",
    end_minutes=60.0,
    figures=["hottest", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (WARM_STONE, FREE_LOG)
