"""How a tub or pool on a loop is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import OUTDOORS, SUN, WIND
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.loads.common.loop.protocols import LOOP_POWER, PRIMED

TUB = Wanted(node="water", title="water, stirred")
WARM_UP = ProtocolRow(
    name="warm-up",
    title="Warm-up",
    purpose="How much a day warms a tub or pool, and what the night takes again.",
    reading_minutes=[0, 60, 120, 180, 240, 300, 360, 420, 480, 540, 600, 1440],
    needs_load=True,
    checklist=[
        *PRIMED[:2],
        "Stir before each reading; read an arm's length down, away from the return.",
        "Write down when the cover went off and on, who bathed, and what was filled up.",
    ],
    cautions=["Electricity by water: a residual-current device, plugs high and dry, hands dry."],
    channels=[TUB, OUTDOORS, SUN, WIND],
    events=list(IN_THE_FIELD),
    end_rule="After a day, or when the sun has left it.",
    end_minutes=1440.0,
    figures=["tub-gain", "minutes-to-target", "hottest", "over-control", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (LOOP_POWER, WARM_UP)
