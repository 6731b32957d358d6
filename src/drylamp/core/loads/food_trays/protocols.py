"""How food on trays is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import OUTDOORS, SUN, WIND
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.loads.common.shelves import INTO

EACH_FOOD = Wanted(node="food", title="each tray on the scale", instrument="scale")
INTO_TRAYS = Wanted(node=INTO, title="air to the trays", instrument="wired-probe")
EACH_TRAY = Wanted(node="tray", title="air at each tray", instrument="wired-probe", optional=True)
OVER_TRAYS = Wanted(node="over-trays", title="air leaving", instrument="humidity-probe", optional=True)
CLEAN = "Wash hands, knife and trays; throw away what is bruised or mouldy."

DRYING_RUN = ProtocolRow(
    name="drying-run",
    title="Drying run",
    purpose="A batch from fresh to dry, tray by tray on the scale: how fast, how evenly, when done.",
    reading_minutes=[0, 120, 240, 360, 480, 1440, 1560, 1680, 1800, 1920, 2880, 3000, 3120, 3240, 3360, 4320],
    needs_load=True,
    checklist=[
        "Weigh each tray empty, then laid; write down the food's weight alone.",
        "Cut all pieces alike; one layer, none touching.",
        "Weigh at the same hours each day, quickly, the door shut between.",
        "Probe in the air under the lowest tray, in the shade of a sheet where there is glass over the trays.",
    ],
    cautions=[f"{CLEAN}", "Meat for jerky is heated to 71 °C right through before or after drying; drying alone makes it no safer."],
    channels=[EACH_FOOD, INTO_TRAYS, EACH_TRAY, OVER_TRAYS, OUTDOORS, SUN, WIND],
    events=list(IN_THE_FIELD),
    end_rule="When the last tray weighs what the twin says it weighs dry.",
    end_minutes=4 * 1440.0,
    figures=["dry-by", "water-out", "evenness", "drying-curve", "drying-air", "mould-near", "over-control", "goal"],
)  # fmt: skip

PROTOCOLS: tuple[ProtocolRow, ...] = (DRYING_RUN,)
