"""How lumber kilns are tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import FREE_LOG, OUTDOORS, SUN, WIND
from drylamp.core.builds.kiln.optics import BAFFLE
from drylamp.core.builds.kiln.recipe import OVER
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.loads.common.stacked import CHAMBER

CHAMBER_AIR = Wanted(node=CHAMBER, title="chamber air", instrument="wired-probe")

EMPTY_DAY = ProtocolRow(
    name="kiln-empty",
    title="Empty kiln, one day",
    purpose="How warm the empty chamber gets at one setting of its vents: the peak that a wet charge will pull down.",
    reading_minutes=[0, 30, 60, 90, 120, 150, 180, 210, 240, 300, 360],
    checklist=[
        "Chamber empty, door shut, vents as you mean to use them; begin two to three hours before solar noon under a clear sky.",
        "Probe in the chamber's air under the baffle, out of the sun; another on the baffle's lower side.",
        "Read the thermometer and the hygrometer from outside where you can: an open door spoils half an hour.",
    ],
    cautions=["The chamber is hot enough to harm: do not stay in it, and see that its door opens from within."],
    channels=[CHAMBER_AIR, Wanted(node=BAFFLE, title="baffle", instrument="wired-probe", optional=True), OUTDOORS.model_copy(update={"optional": False}), SUN, WIND],
    events=list(IN_THE_FIELD),
    end_rule="When the chamber has cooled by five kelvin from its peak, or after six hours.",
    end_minutes=360.0,
    figures=["hottest", "what-broke", "over-control", "goal"],
)  # fmt: skip

NIGHT = ProtocolRow(
    name="kiln-night",
    title="Empty kiln, a day and its night",
    purpose="A day of warming and a night of cooling by a logger: by day what the sun and the fan do, by night what roof, walls and gaps lose. It tells a torn film from a stuck fan, a door that no longer shuts from vents that stick.",
    reading_minutes=[30.0 * k for k in range(53)],
    checklist=[
        "Chamber empty, door shut, vents as you mean to use them; begin in the morning of a day that will be clear, leave it until the next.",
        "A logger every half an hour: chamber air out of the sun, the air close under the roof, the baffle's lower side, the air outside in the shade.",
        "Write down how far the vents stand open; touch nothing until it is over.",
    ],
    cautions=["The chamber is hot enough to harm by day: do not stay in it, and see that its door opens from within."],
    channels=[CHAMBER_AIR, Wanted(node=BAFFLE, title="baffle", instrument="wired-probe", optional=True), Wanted(node=OVER, title="air under the roof", instrument="wired-probe", optional=True), OUTDOORS.model_copy(update={"optional": False}), SUN, WIND],
    events=list(IN_THE_FIELD),
    end_rule="The next morning, when the sun is on it again.",
    end_minutes=1560.0,
    figures=["what-broke", "hottest", "cooling-hours", "goal"],
)  # fmt: skip

PROTOCOLS: tuple[ProtocolRow, ...] = (EMPTY_DAY, NIGHT, FREE_LOG)
