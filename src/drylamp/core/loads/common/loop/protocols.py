"""How a loop is tried: watts by flow and two temperatures."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import BUCKET, IN, LET_AIR_OUT, OUT, OUTDOORS, SUN
from drylamp.core.builds.protocol import IN_THE_FIELD, PUMP, ProtocolRow, Wanted

STORE = Wanted(node="water", title="water in the store", optional=True)
METER = Wanted(node=PUMP, title="hours of the pump", instrument="hour-meter")
WET_HANDS = "Electricity by water: a residual-current device, plugs high and dry, hands dry"
PRIMED = [
    f"Prime it: {LET_AIR_OUT}. A bend that is higher than both its ends holds air: bleed it there.",
    "Pump below the water's surface, its strainer clean; both ends of the loop under water, or air is drawn in.",
    "Half an hour of steady running before the first reading.",
]

PUMP_HOURS = ProtocolRow(
    name="pump-hours",
    title="Hours of the pump",
    purpose="Whether the pump runs as long as its switch should let it: an hour meter on its cord, a week long.",
    reading_minutes=[1440.0 * k for k in range(8)],
    needs_load=True,
    checklist=[
        "Fit the hour meter to the pump's cord, behind its switch; read it as it stands.",
        "Read it at the same hour each day; note when somebody switched the pump by hand.",
    ],
    cautions=[f"{WET_HANDS}; a licensed electrician fits what is not plugged in."],
    channels=[METER, STORE.model_copy(update={"optional": False}), OUTDOORS, SUN],
    events=["opened", "sky", "refilled"],
    end_rule="After a week.",
    end_minutes=7 * 1440.0,
    figures=["pump-hours", "hottest", "goal"],
)  # fmt: skip
LOOP_POWER = ProtocolRow(
    name="loop-power",
    title="Loop power",
    purpose="How many watts the loop carries: litres a minute times how much warmer it comes back.",
    reading_minutes=[0, 10, 20, 30],
    needs_load=True,
    one_thermometer=True,
    runs_before=True,
    checklist=[
        *PRIMED,
        "Hold the return over a bucket for the flow, then put it back under water.",
        "One thermometer at the pump's intake and in the return, moved to and fro: its error drops out.",
    ],
    cautions=[f"{WET_HANDS}.", "What comes back may scald."],
    channels=[OUT, IN, BUCKET, STORE, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule="After four rounds of readings.",
    end_minutes=30.0,
    figures=["tap-power", "over-control", "goal"],
)  # fmt: skip
