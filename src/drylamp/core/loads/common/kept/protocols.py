"""How water that is heated to be drawn is tried, in whatever holds it."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import BUCKET, IN, OUT, OUTDOORS, SUN
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted

WATER = Wanted(node="water", title="water at the top")
SCALDS = "Feel hot water with a drop, not with the hand; keep children away while it is drawn."

DAY_GAIN = ProtocolRow(
    name="day-gain",
    title="Day gain",
    purpose="How much a day of sun warms all the water, nothing drawn (the form of ISO 9459-2).",
    reading_minutes=[0, 60, 120, 180, 240, 300, 360, 420, 480, 540, 600],
    needs_load=True,
    checklist=[
        "Fill it before the sun is on it and stir; write down litres and temperature.",
        "Draw nothing all day; stir once before the last reading.",
        "Air in the shade beside it, sun by a pyranometer where there is one.",
    ],
    cautions=[SCALDS],
    channels=[WATER, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule="When the sun has left it.",
    end_minutes=660.0,
    figures=["day-gain", "hottest", "minutes-to-target", "over-control", "goal"],
)
NIGHT_LOSS = ProtocolRow(
    name="night-loss",
    title="Night loss",
    purpose="How fast all the water cools in the dark (the form of ISO 9459-2): lid, seal and walls.",
    reading_minutes=[0, 60, 120, 240, 360, 480, 600],
    needs_load=True,
    starts_hot=True,
    checklist=[
        "Begin when the sun is off it, lid as on any night; stir before the first and the last reading.",
        "Air in the shade beside it all night.",
    ],
    cautions=[SCALDS],
    channels=[WATER, OUTDOORS.model_copy(update={"optional": False})],
    events=["gust", "opened", "moved"],
    end_rule="Before the sun comes back to it.",
    end_minutes=600.0,
    figures=["night-loss", "cooling-hours", "hottest"],
)
DRAW_OFF = ProtocolRow(
    name="draw-off",
    title="Draw-off",
    purpose="Heat at the tap held against what the water in the tank lost: what is there to have, and whether the thermometers agree.",
    reading_minutes=[0, 1, 2, 3, 4, 6, 8, 10, 12],
    needs_load=True,
    starts_hot=True,
    checklist=[
        "Sun off it, lid shut. Stir, read the water, and only then open the tap.",
        "Read what comes out each minute into a bucket on a scale; note litres a minute at the beginning and at the end.",
        "Shut the tap after half of what it holds, stir again, and read the water last of all.",
    ],
    cautions=[SCALDS],
    channels=[WATER, OUT, IN, BUCKET, OUTDOORS],
    events=["opened", "moved"],
    end_rule="When the water was stirred and read again.",
    end_minutes=15.0,
    figures=["draw-off", "hottest"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (DAY_GAIN, NIGHT_LOSS, DRAW_OFF)
