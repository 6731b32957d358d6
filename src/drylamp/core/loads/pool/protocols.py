"""How a tub or pool on a loop is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import OUTDOORS, SUN, WIND
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.loads.common.loop.protocols import LOOP_POWER, METER, PRIMED, PUMP_HOURS, WET_HANDS

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
    cautions=[f"{WET_HANDS}."],
    channels=[TUB, OUTDOORS, SUN, WIND],
    events=list(IN_THE_FIELD),
    end_rule="After a day, or when the sun has left it.",
    end_minutes=1440.0,
    figures=["tub-gain", "minutes-to-target", "hottest", "over-control", "goal"],
)

SEASON_LOG = ProtocolRow(
    name="season-log",
    title="A season's log",
    purpose="Days that the loop won in fact: the water each evening, held against the same weather without the loop.",
    reading_minutes=[1440.0 * k for k in range(61)],
    needs_load=True,
    checklist=[
        *PRIMED[:2],
        "Read the water at the hour at which it is wanted, an arm's length down; a logger's probe hangs there.",
        "Let a logger read the air in the shade and, where there is one, the sun on level ground; else note the sky of each day.",
        "Read the pump's hour meter at the first and the last reading.",
    ],
    cautions=[f"{WET_HANDS}."],
    channels=[TUB, OUTDOORS, SUN, METER.model_copy(update={"optional": True})],
    events=["sky", "refilled", "opened"],
    end_rule="When the season is over, or after two months.",
    end_minutes=60 * 1440.0,
    figures=["days-won", "pump-hours", "hottest", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (LOOP_POWER, PUMP_HOURS, WARM_UP, SEASON_LOG)
