"""How water for tea is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import OUTDOORS, SUN
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.text import celsius

WATER = Wanted(node="water", title="water in the tube", instrument="wired-probe")
SCALDS = "A full tube spits when it boils: never look into its mouth or point it at anybody, and pour with gloves on."

TO_THE_BOIL = ProtocolRow(
    name="to-the-boil",
    title="Kettle to the boil",
    purpose="Minutes from putting it out until the water is hot, and what the wings add.",
    reading_minutes=[0, 10, 20, 30, 40, 50, 60, 75, 90, 105, 120, 150, 180],
    needs_load=True,
    checklist=[
        "Weigh the water, note its temperature, and pour it in; stopper laid on, never pressed in.",
        "Put it out at the notch and with the wings as drawn; note the minute.",
        "Turn it to the sun when you read, or leave it as you would; say which.",
    ],
    cautions=[SCALDS, "Dark glasses before the wings are opened."],
    channels=[WATER, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule=f"When it boils, or stays within {celsius(1)} of itself for twenty minutes.",
    end_minutes=180.0,
    figures=["water-power", "minutes-to-target", "hottest", "over-control", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (TO_THE_BOIL,)
