"""How water that runs through a pipe is tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import BUCKET, EACH_ROW, IN, OUT, OUTDOORS, SUN
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.text import watts_m2

PIPE = Wanted(node="water", title="water in the pipe")

STANDING_COIL = ProtocolRow(
    name="standing-coil",
    title="Standing coil",
    purpose="How fast the water in a hose warms while nothing runs, and where it levels off.",
    reading_minutes=[0, 5, 10, 15, 20, 30, 45, 60],
    needs_load=True,
    checklist=[
        "Fill it with cold water until no bubble comes, then shut both ends loosely: never tight.",
        "Shade it while you fill; the trial begins when the shade comes off.",
        "Probe under tape on the hose near its outlet, shaded by the tape.",
    ],
    cautions=["A hose that is shut tight at both ends bursts when it warms.", "The first litres may scald."],
    channels=[PIPE, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule="After an hour, or when it no longer warms.",
    end_minutes=60.0,
    figures=["hottest", "minutes-to-target", "over-control", "goal"],
)
POUR = [
    "Let it run until no bubble comes and the outlet no longer changes.",
    "One thermometer for in and out, moved from one to the other: its error drops out.",
    "Litres by scale or mark, seconds by stopwatch: at least 30 of them.",
]

BUCKET_POWER = ProtocolRow(
    name="bucket-power",
    title="Bucket and stopwatch",
    purpose="How many watts the water carries off: litres a minute times how much warmer it comes out.",
    reading_minutes=[0, 10, 20, 30],
    needs_load=True,
    one_thermometer=True,
    runs_before=True,
    checklist=[*POUR, "Rows side by side: hold the bucket under each row on its own as well."],
    cautions=["The first litres may scald."],
    channels=[OUT, IN, BUCKET, EACH_ROW, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule="After four rounds of readings.",
    end_minutes=30.0,
    figures=["tap-power", "rows", "over-control", "goal"],
)
COLLECTOR_POINTS = ProtocolRow(
    name="collector-points",
    title="Collector points",
    purpose="What share of the sun it takes with cold water and with warm: the line that makers print (the form of ISO 9806).",
    reading_minutes=[10, 15, 20, 45, 50, 55, 80, 85, 90, 115, 120, 125],
    needs_load=True,
    one_thermometer=True,
    runs_before=True,
    checklist=[
        *POUR,
        "A steady flow all through, about a litre a minute for each square metre.",
        "From a barrel: four warmths of water coming in, from cold to as hot as you have; three readings with each, once it is steady.",
        f"Around noon, the sun over {watts_m2(700)} and steady for each reading.",
    ],
    cautions=["Water from a hot barrel scalds."],
    channels=[OUT, IN, BUCKET, OUTDOORS, SUN.model_copy(update={"optional": False})],
    events=list(IN_THE_FIELD),
    end_rule="After three readings with each of four warmths.",
    end_minutes=125.0,
    figures=["collector-share", "collector-loss", "tap-power"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (BUCKET_POWER, STANDING_COIL, COLLECTOR_POINTS)
