"""How a charge of boards is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import OUTDOORS, SUN, WIND
from drylamp.core.builds.protocol import IN_THE_FIELD, PUMP, ProtocolRow, Wanted
from drylamp.core.loads.common.stacked import CHAMBER

DAY = 1440

CHARGE_CHECK = ProtocolRow(
    name="charge-check",
    title="Charge, read twice a week",
    purpose="A charge from stacking to pulling: the meter on each group, the chamber's air and humidity, when it will be dry.",
    reading_minutes=[0, *(DAY * day for day in (1, 2, 4, 7, 11, 14, 18, 21, 25, 28, 35, 42))],
    needs_load=True,
    checklist=[
        "Cut a sample board and two sections of an inch from each group before you stack; weigh the sections, dry them in an oven at 103 °C until they lose no more, weigh them again.",
        "Read the meter at the same boards, the same depth, about the same hour; write its setting down.",
        "Begin with the wettest board of each group: it says when you may go on.",
    ],
    cautions=["Hot, damp air and mould spores: let the chamber air out, stay in for minutes, not alone.", "Stacks and weights fall: two people, shoes with caps.", "Sections dry at 103 °C in an oven that nobody cooks in meanwhile: air the room, no gas flame, never leave it alone; above 110 °C wood scorches."],
    channels=[
        Wanted(node="boards", title="meter on each group", instrument="moisture-meter"), Wanted(node=CHAMBER, title="chamber air", instrument="wired-probe"),
        Wanted(node=CHAMBER, title="chamber humidity", instrument="humidity-probe", optional=True), Wanted(node=PUMP, title="hours of the fan", instrument="hour-meter", optional=True), OUTDOORS, SUN, WIND,
    ],
    events=list(IN_THE_FIELD),
    end_rule="When the wettest board of each group shows its target.",
    end_minutes=42.0 * DAY,
    figures=["boards-dry-by", "boards-now", "wettest-board", "meter-setting", "end-paint", "kiln-against-stack", "climb-back", "fan-hours", "goal"],
)  # fmt: skip

PROTOCOLS: tuple[ProtocolRow, ...] = (CHARGE_CHECK,)
