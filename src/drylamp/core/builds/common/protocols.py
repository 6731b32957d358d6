"""Protocols that several kinds share, and the words and channels that protocols are made of."""

from __future__ import annotations

from drylamp.core.builds.common.coil.rows import ROWS
from drylamp.core.builds.common.side_by_side import SAMPLES
from drylamp.core.builds.protocol import FLOW, IN_THE_FIELD, INLET, OUTLET, ProtocolRow, Wanted
from drylamp.core.text import kelvin

PREPARE = [
    "Put the box on its spot, level across, facing as drawn.",
    "Place each probe and tape its lead through the seal; keep tips off metal unless the tray is meant.",
    "Put the control beside the box, in the same sun and wind.",
    "Write down the sky: clear, hazy, broken or grey.",
]
LAY_OUT = [
    "Cut the samples equal, from one sheet; file the edges.",
    "Clean and prime them all the same, and give each the coats its line says; leave the control as it is.",
    "Let the paint cure in the sun for as long as its maker says.",
    "Put them in the places drawn by lot, all flat on the board, and let the board come to the sun with them.",
    "Read with one probe, pressed on the same way each time, always in the same order.",
]
EYES = "Dark glasses on before a mirror is opened; never look at the sun or its image."
GLOVES = "Gloves for the box, the pot and its steam."
LET_AIR_OUT = "let the air out: full flow from below, the outlet held high, until no bubble comes; lay the pipe so that it rises all the way"
PAINT = "Spray outdoors, away from flames; wear gloves and do not breathe the mist."

INSIDE = Wanted(node="inside-air", title="air inside", instrument="wired-probe")
TRAY = Wanted(node="tray", title="tray", instrument="wired-probe")
FOOD = Wanted(node="contents", title="food or water in the pot")
BESIDE = Wanted(node="outside", title="control beside the box", is_control=True)
OUTDOORS = Wanted(node="air", title="air outside", optional=True)
SUN = Wanted(node="sun", title="sun on level ground", instrument="pyranometer", optional=True)
WIND = Wanted(node="wind", title="wind", instrument="anemometer", optional=True)
EACH_SAMPLE = Wanted(node=SAMPLES, title="each sample")
OUT = Wanted(node=OUTLET, title="water coming out")
IN = Wanted(node=INLET, title="water coming in")
BUCKET = Wanted(node=FLOW, title="flow", instrument="bucket")
EACH_ROW = Wanted(node=ROWS, title="each row", instrument="bucket", optional=True)
BOARD = Wanted(node="board", title="board")

QUICK_LOOK = ProtocolRow(
    name="quick-look",
    title="Quick look",
    purpose="One hour of readings to see whether the oven behaves as its twin.",
    reading_minutes=[0, 5, 10, 30, 60],
    checklist=PREPARE,
    cautions=[EYES, GLOVES],
    channels=[INSIDE, TRAY, BESIDE, OUTDOORS],
    events=list(IN_THE_FIELD),
    end_rule="After the reading at 60 minutes.",
    end_minutes=60.0,
    figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
)
STAGNATION = ProtocolRow(
    name="stagnation",
    title="Stagnation, empty",
    purpose="How hot the empty box gets around noon; gives the first figure of merit.",
    reading_minutes=[0, 10, 20, 30, 40, 50, 60, 75, 90, 105, 120],
    checklist=[*PREPARE, "Leave the box empty.", "Start about two hours before solar noon under a clear sky."],
    cautions=[EYES, GLOVES, "Card, foam and tape are at their hottest empty: stay near, look and smell."],
    channels=[TRAY, INSIDE, BESIDE, OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule=f"When the tray changes by less than {kelvin(1)} in 10 minutes, or after 2 hours.",
    end_minutes=120.0,
    figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
)
COOL_DOWN = ProtocolRow(
    name="cool-down",
    title="Cool down",
    purpose="How fast the hot box or pot loses its heat with the sun kept off: tells losses from sun taken in.",
    reading_minutes=[0, 5, 10, 15, 20, 30, 45, 60, 90, 120],
    starts_hot=True,
    checklist=[
        "Heat the box up first; the trial begins when the sun is kept off it.",
        "Fold the mirror down and lay a pale cloth over the glass, an inch above it, or begin after sunset.",
        "Do not open it between readings.",
    ],
    cautions=[GLOVES],
    channels=[
        INSIDE,
        TRAY,
        FOOD.model_copy(update={"optional": True}),
        OUTDOORS.model_copy(update={"optional": False}),
    ],
    events=["gust", "opened", "moved"],
    end_rule=f"When it is within {kelvin(10)} of the air, or after 2 hours.",
    end_minutes=120.0,
    figures=["cooling-hours", "hottest"],
)
ENDURANCE = ProtocolRow(
    name="endurance",
    title="Endurance outdoors",
    purpose="Weeks outside: does a coating keep its lead, and does it fade, flake or leak?",
    reading_minutes=[1440.0 * 7 * k for k in range(6)],
    in_rounds=True,
    checklist=[
        "Leave the samples where they will live; note rain, hail and heat as remarks.",
        "Once a week, on a clear hour near noon: one round of readings, one look at every sample, one photo.",
        "Wash nothing that the weather would not wash.",
    ],
    cautions=["Look under the board before you lift it: animals shelter there."],
    channels=[EACH_SAMPLE, BOARD, OUTDOORS],
    events=["fade", "flake", "leak", "cloud", "gust", "sky"],
    end_rule="After five weeks, or when a sample has failed.",
    end_minutes=1440.0 * 35,
    figures=["best-sample", "endurance", "hottest"],
)
FREE_LOG = ProtocolRow(
    name="free-log",
    title="Free log",
    purpose="A logger's file or readings at any time.",
    reading_minutes=[],
    checklist=PREPARE[:2],
    cautions=[EYES, GLOVES],
    channels=[INSIDE.model_copy(update={"instrument": "logger"}), OUTDOORS, SUN, WIND],
    events=list(IN_THE_FIELD),
    end_rule="When you end it.",
    figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
)
