"""How food dryers are tried."""

from __future__ import annotations

from drylamp.core.builds.common.air_collector.links import air_nodes
from drylamp.core.builds.common.protocols import FREE_LOG, OUTDOORS, SUN, WIND
from drylamp.core.builds.dryer.spec import OVER_TRAYS
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.loads.common.shelves import INTO

AIR_TEST = ProtocolRow(
    name="air-test",
    title="Air test, empty",
    purpose="How warm the collector makes its air at one setting of the vent, with bare trays.",
    reading_minutes=[0, 15, 30, 45, 60, 75, 90, 105, 120],
    checklist=[
        "Bare trays; vent as you mean to use it; start about an hour before solar noon under a clear sky.",
        "Probe in the air as it leaves the collector, out of the sun; another under the lowest tray.",
        "Wind meter at the inlet, or a bag of known size held over the vent and timed, for the flow.",
    ],
    cautions=["The absorber stays hot after the sun has gone; fresh paint gives off fumes: let it stand in the sun for three days before food goes in."],
    channels=[
        Wanted(node=air_nodes()[-1], title="air out of the collector", instrument="wired-probe"), Wanted(node=INTO, title="air under the trays", instrument="wired-probe"),
        Wanted(node=OVER_TRAYS, title="air speed in the vent", instrument="anemometer", optional=True), OUTDOORS.model_copy(update={"optional": False}), SUN, WIND,
    ],
    events=list(IN_THE_FIELD),
    end_rule="When it changes by less than two kelvin in a quarter of an hour, or after two hours.",
    end_minutes=120.0,
    figures=["collector-efficiency", "hottest", "over-control", "goal"],
)  # fmt: skip

PROTOCOLS: tuple[ProtocolRow, ...] = (AIR_TEST, FREE_LOG)
