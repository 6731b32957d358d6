"""Protocols as data: what to prepare, what to read and when, which events count, when it ends, which figures it yields.

A new kind of build adds its protocols here as rows, and a figure that no protocol has yet as one function in ``yields``.
"""

from __future__ import annotations

from typing import Literal, get_args

from pydantic import Field

from drylamp.core.checks import InputProblem, Model

EventKind = Literal[
    "cloud",
    "gust",
    "opened",
    "turned",
    "shaded",
    "refilled",
    "moved",
    "sky",
    "swapped",
    "fade",
    "flake",
    "leak",
    "note",
]
KindName = Literal["box-oven", "funnel", "dish", "melter", "coupons"]


class EventRow(Model):
    """A kind of event: what it asks for beside its time, and for how long after it a reading is not held against anything."""

    name: EventKind
    title: str
    disturbs_minutes: float
    asks: Literal["", "spot", "facing", "sky", "channels", "sample"] = ""


EVENTS: dict[EventKind, EventRow] = {
    row.name: row
    for row in (
        EventRow(name="cloud", title="cloud", disturbs_minutes=10.0),
        EventRow(name="gust", title="gust", disturbs_minutes=5.0),
        EventRow(name="opened", title="opened", disturbs_minutes=15.0),
        EventRow(name="turned", title="turned", disturbs_minutes=5.0, asks="facing"),
        EventRow(name="shaded", title="shaded", disturbs_minutes=15.0),
        EventRow(name="refilled", title="refilled", disturbs_minutes=15.0),
        EventRow(name="moved", title="moved", disturbs_minutes=5.0, asks="spot"),
        EventRow(name="sky", title="sky is now", disturbs_minutes=0.0, asks="sky"),
        EventRow(name="swapped", title="leads swapped", disturbs_minutes=2.0, asks="channels"),
        EventRow(name="fade", title="faded", disturbs_minutes=0.0, asks="sample"),
        EventRow(name="flake", title="flaking", disturbs_minutes=0.0, asks="sample"),
        EventRow(name="leak", title="leaking", disturbs_minutes=0.0, asks="sample"),
        EventRow(name="note", title="note", disturbs_minutes=0.0),
    )
}
"""How long a reading is spoilt: common practice, no source."""
assert set(EVENTS) == set(get_args(EventKind))

IN_THE_FIELD: tuple[EventKind, ...] = ("cloud", "gust", "opened", "turned", "shaded", "refilled", "moved", "sky")
OF_SAMPLES: tuple[EventKind, ...] = ("cloud", "gust", "shaded", "moved", "sky", "fade", "flake", "leak")


class Wanted(Model):
    """A channel that a protocol wants: the part it reads (``samples`` stands for every sample, ``portions`` for every portion), and with what."""

    node: str
    title: str
    instrument: str = "probe"
    is_control: bool = False
    optional: bool = False


class Protocol(Model):
    """How to run one kind of trial."""

    name: str
    title: str
    purpose: str
    kinds: list[KindName]
    reading_minutes: list[float]
    needs_load: bool = False
    in_rounds: bool = False
    starts_hot: bool = False
    checklist: list[str]
    cautions: list[str] = Field(default_factory=list)
    channels: list[Wanted]
    events: list[EventKind]
    end_rule: str
    end_minutes: float | None = None
    figures: list[str]


_PREPARE = [
    "Put the box on its spot, level across, facing as drawn.",
    "Place each probe and tape its lead through the seal; keep tips off metal unless the tray is meant.",
    "Put the control beside the box, in the same sun and wind.",
    "Write down the sky: clear, hazy, broken or grey.",
]
_LAY_OUT = [
    "Cut the samples equal, from one sheet; file the edges.",
    "Clean and prime them all the same, and give each the coats its line says; leave the control as it is.",
    "Let the paint cure in the sun for as long as its maker says.",
    "Put them in the places drawn by lot, all flat on the board, and let the board come to the sun with them.",
    "Read with one probe, pressed on the same way each time, always in the same order.",
]
_EYES = "Dark glasses on before a mirror is opened; never look at the sun or its image."
_GLOVES = "Gloves for the box, the pot and its steam."
_PAINT = "Spray outdoors, away from flames; wear gloves and do not breathe the mist."

INSIDE = Wanted(node="inside-air", title="air inside", instrument="wired-probe")
TRAY = Wanted(node="tray", title="tray", instrument="wired-probe")
FOOD = Wanted(node="contents", title="food or water in the pot")
BESIDE = Wanted(node="outside", title="control beside the box", is_control=True)
OUTDOORS = Wanted(node="air", title="air outside", optional=True)
SUN = Wanted(node="sun", title="sun on level ground", instrument="pyranometer", optional=True)
WIND = Wanted(node="wind", title="wind", instrument="anemometer", optional=True)
PORTIONS = Wanted(node="portions", title="each portion")
SAMPLES = Wanted(node="samples", title="each sample")
BOARD = Wanted(node="board", title="board")

PROTOCOLS: dict[str, Protocol] = {
    row.name: row
    for row in (
        Protocol(
            name="quick-look",
            title="Quick look",
            purpose="One hour of readings to see whether the oven behaves as its twin.",
            kinds=["box-oven", "melter"],
            reading_minutes=[0, 5, 10, 30, 60],
            checklist=_PREPARE,
            cautions=[_EYES, _GLOVES],
            channels=[INSIDE, TRAY, BESIDE, OUTDOORS],
            events=list(IN_THE_FIELD),
            end_rule="After the reading at 60 minutes.",
            end_minutes=60.0,
            figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
        ),
        Protocol(
            name="heat-up",
            title="Heat up to a target",
            purpose="How long a pot of food or water takes to reach its target.",
            kinds=["box-oven", "funnel", "dish"],
            reading_minutes=[0, 5, 10, 20, 30, 45, 60, 75, 90, 105, 120, 150, 180, 210, 240],
            needs_load=True,
            checklist=[
                *_PREPARE,
                "Weigh what goes into the pot and note its temperature.",
                "Lid on before the clock starts.",
            ],
            cautions=[_EYES, _GLOVES, "Meat and eggs: a probe in the thickest part before anything is eaten."],
            channels=[FOOD, INSIDE, BESIDE, OUTDOORS],
            events=list(IN_THE_FIELD),
            end_rule="When the contents have held the target, or after 4 hours.",
            end_minutes=240.0,
            figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
        ),
        Protocol(
            name="stagnation",
            title="Stagnation, empty",
            purpose="How hot the empty box gets around noon; gives the first figure of merit.",
            kinds=["box-oven", "melter"],
            reading_minutes=[0, 10, 20, 30, 40, 50, 60, 75, 90, 105, 120],
            checklist=[*_PREPARE, "Leave the box empty.", "Start about two hours before solar noon under a clear sky."],
            cautions=[_EYES, _GLOVES, "Card, foam and tape are at their hottest empty: stay near, look and smell."],
            channels=[TRAY, INSIDE, BESIDE, OUTDOORS, SUN],
            events=list(IN_THE_FIELD),
            end_rule="When the tray changes by less than 1 K in 10 minutes, or after 2 hours.",
            end_minutes=120.0,
            figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
        ),
        Protocol(
            name="cooking-power",
            title="Cooking power, standard",
            purpose="Watts into water at 50 K over the air, scaled to 700 W/m² (ASAE/ASABE S580.1).",
            kinds=["box-oven", "funnel", "dish"],
            reading_minutes=[10.0 * k for k in range(31)],
            needs_load=True,
            checklist=[
                *_PREPARE,
                "Fill with 7 kg of water for each square metre of opening, at air temperature.",
                "Wind under 1 m/s, air 20 to 35 °C, sun 450 to 1100 W/m²; begin between 10 and 14 hours solar time.",
                "Turn the box to the sun as often as its user would, and note each turn.",
            ],
            cautions=[_EYES, _GLOVES],
            channels=[
                FOOD,
                OUTDOORS.model_copy(update={"optional": False}),
                SUN.model_copy(update={"optional": False}),
                WIND,
            ],
            events=list(IN_THE_FIELD),
            end_rule="When the water is within 5 K of boiling; repeat on other days until there are 30 points.",
            end_minutes=300.0,
            figures=["cooking-power", "minutes-to-target", "goal"],
        ),
        Protocol(
            name="two-figures",
            title="Box test by two figures",
            purpose="F1 with the box empty, then F2 with water (Mullick et al. 1987; IS 13429).",
            kinds=["box-oven"],
            reading_minutes=[0, 10, 20, 30, 40, 50, 60, 75, 90, 105, 120],
            checklist=[
                *_PREPARE,
                "First day: empty, tray probe, until it stands still near noon; sun above 600 W/m², wind under 1 m/s.",
                "Second day: 8 kg of water for each square metre, from below 60 °C to above 90 °C.",
                "No mirror: fold it away, the figures are for the box alone.",
            ],
            cautions=[_EYES, _GLOVES],
            channels=[TRAY, FOOD.model_copy(update={"optional": True}), OUTDOORS, SUN],
            events=list(IN_THE_FIELD),
            end_rule="Empty: when the tray stands still. With water: above 95 °C.",
            end_minutes=240.0,
            figures=["f1", "f2", "boil-minutes", "hottest"],
        ),
        Protocol(
            name="cool-down",
            title="Cool down",
            purpose="How fast the hot box or pot loses its heat with the sun kept off: tells losses from sun taken in.",
            kinds=["box-oven", "melter"],
            reading_minutes=[0, 5, 10, 15, 20, 30, 45, 60, 90, 120],
            starts_hot=True,
            checklist=[
                "Heat the box up first; the trial begins when the sun is kept off it.",
                "Fold the mirror down and lay a pale cloth over the glass, an inch above it, or begin after sunset.",
                "Do not open it between readings.",
            ],
            cautions=[_GLOVES],
            channels=[
                INSIDE,
                TRAY,
                FOOD.model_copy(update={"optional": True}),
                OUTDOORS.model_copy(update={"optional": False}),
            ],
            events=["gust", "opened", "moved"],
            end_rule="When it is within 10 K of the air, or after 2 hours.",
            end_minutes=120.0,
            figures=["cooling-hours", "hottest"],
        ),
        Protocol(
            name="coating-comparison",
            title="Coatings side by side, with control",
            purpose="Which finish runs hotter, by how much, whether that is real, and what a kelvin costs.",
            kinds=["coupons"],
            reading_minutes=[5, 10, 30, 60],
            in_rounds=True,
            checklist=_LAY_OUT,
            cautions=[_PAINT, "Dark metal in the sun burns: hold the probe, not the sample."],
            channels=[SAMPLES, BOARD, OUTDOORS, SUN],
            events=list(OF_SAMPLES),
            end_rule="After the round at 60 minutes; more rounds narrow the doubt.",
            end_minutes=60.0,
            figures=["best-sample", "ranking-doubt", "hottest"],
        ),
        Protocol(
            name="blocks-under-glass",
            title="Blocks under glass into dusk",
            purpose="How warm pale, natural and dark blocks get in an afternoon, and how they give it back after sunset.",
            kinds=["coupons"],
            reading_minutes=[0, 30, 60, 90, 120, 150, 180, 210, 240, 270, 300, 330, 360],
            in_rounds=True,
            checklist=[
                "Stand the blocks on insulation under one pane, faces even, all dry.",
                "Drill each face 10 mm deep for the probe, or tape it to the face under a chip of foam.",
                "Go on reading for three hours after the sun has left them.",
            ],
            cautions=[
                "Wet blocks are heavy and panes slide: brace both before the board is tilted.",
                "Glass: gloves, and nothing leaning on it.",
            ],
            channels=[SAMPLES, BOARD, OUTDOORS, SUN],
            events=list(OF_SAMPLES),
            end_rule="Three hours after the sun has left the blocks.",
            end_minutes=360.0,
            figures=["best-sample", "ranking-doubt", "cooling-hours", "wall", "hottest"],
        ),
        Protocol(
            name="endurance",
            title="Endurance outdoors",
            purpose="Weeks outside: does a coating keep its lead, and does it fade, flake or leak?",
            kinds=["coupons", "box-oven"],
            reading_minutes=[1440.0 * 7 * k for k in range(6)],
            in_rounds=True,
            checklist=[
                "Leave the samples where they will live; note rain, hail and heat as remarks.",
                "Once a week, on a clear hour near noon: one round of readings, one look at every sample, one photo.",
                "Wash nothing that the weather would not wash.",
            ],
            cautions=["Look under the board before you lift it: animals shelter there."],
            channels=[SAMPLES, BOARD, OUTDOORS],
            events=["fade", "flake", "leak", "cloud", "gust", "sky"],
            end_rule="After five weeks, or when a sample has failed.",
            end_minutes=1440.0 * 35,
            figures=["best-sample", "endurance", "hottest"],
        ),
        Protocol(
            name="portions",
            title="Portions and a control",
            purpose="Two or more equal portions in one box and one outside: which melts, when, and why not the other.",
            kinds=["box-oven", "funnel"],
            reading_minutes=[0, 5, 10, 15, 20, 25, 30, 40, 50, 60],
            needs_load=True,
            checklist=[
                *_PREPARE,
                "Portions equal, from one packet; one stays outside in the shade of nothing as the control.",
                "Note which portion lies in the bright patch; turn the flap until the patch lies on all of them, or leave it to see the difference.",
            ],
            cautions=[
                _EYES,
                _GLOVES,
                "An adult cuts card and glass and handles hot parts.",
                "No eggs and no meat in a first box.",
            ],
            channels=[PORTIONS, INSIDE, BESIDE, OUTDOORS],
            events=list(IN_THE_FIELD),
            end_rule="When all are melted, or after an hour.",
            end_minutes=60.0,
            figures=["portion-states", "minutes-to-target", "hottest", "over-control", "goal"],
        ),
        Protocol(
            name="loaf",
            title="Bake a loaf",
            purpose="From dough to a done core, opened as seldom as can be.",
            kinds=["box-oven", "funnel"],
            reading_minutes=[0, 30, 60, 90, 120, 150, 180],
            needs_load=True,
            checklist=[
                *_PREPARE,
                "Probe through the side of the tin into the middle of the dough, lead out under the lid.",
                "First look when the day's plan says, not before: each look costs minutes.",
            ],
            cautions=[_EYES, _GLOVES],
            channels=[
                Wanted(node="core", title="core of the loaf"),
                INSIDE.model_copy(update={"optional": True}),
                OUTDOORS,
            ],
            events=list(IN_THE_FIELD),
            end_rule="When the core has held its target for ten minutes.",
            end_minutes=240.0,
            figures=["minutes-to-target", "hottest", "over-control", "goal"],
        ),
        Protocol(
            name="melt-run",
            title="Melt run",
            purpose="One batch from cold to clean wax on the scale.",
            kinds=["melter"],
            reading_minutes=[0, 30, 60, 90, 120, 150, 180, 210, 240, 300, 360],
            needs_load=True,
            checklist=[
                "Set the melter level across and sloping to its tray; water on the floor runs straight down the middle.",
                "Weigh the batch, spread it flat, strainer in place, clean tray weighed empty.",
                "Probe in the heap, a second in the air; do not open it while wax drips.",
            ],
            cautions=[
                _GLOVES,
                "No flame or spark near; never heat wax unattended on a fire afterwards.",
                "Bees smell it: keep it shut.",
            ],
            channels=[
                Wanted(node="wax", title="heap"),
                INSIDE,
                Wanted(node="catch", title="clean wax on the scale", instrument="scale", optional=True),
                OUTDOORS,
            ],
            events=list(IN_THE_FIELD),
            end_rule="When nothing has dripped for half an hour; weigh the tray when it has set.",
            end_minutes=420.0,
            figures=["clean-wax", "minutes-to-target", "hottest", "over-control", "goal"],
        ),
        Protocol(
            name="free-log",
            title="Free log",
            purpose="A logger's file or readings at any time.",
            kinds=["box-oven", "funnel", "dish", "melter", "coupons"],
            reading_minutes=[],
            checklist=_PREPARE[:2],
            cautions=[_EYES, _GLOVES],
            channels=[INSIDE.model_copy(update={"instrument": "logger"}), OUTDOORS, SUN, WIND],
            events=list(IN_THE_FIELD),
            end_rule="When you end it.",
            figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
        ),
    )
}


def find_protocol(name: str, kind: str | None = None) -> Protocol:
    """Return the protocol of that name.

    Raises:
        InputProblem: there is none, or it is not for this kind of build.
    """
    fitting = [row.name for row in PROTOCOLS.values() if kind is None or kind in row.kinds]
    if name not in PROTOCOLS:
        raise InputProblem("protocol", f"'{name}' is not known; known: {', '.join(fitting)}")
    if name not in fitting:
        raise InputProblem("protocol", f"'{name}' is not for this kind of build; allowed: {', '.join(fitting)}")
    return PROTOCOLS[name]


def next_reading_minute(protocol: Protocol, elapsed_minutes: float, done: int) -> float | None:
    """Minute of the next planned reading, given how many rounds are done; None when none is left."""
    planned = protocol.reading_minutes
    if not planned:
        return elapsed_minutes
    return planned[done] if done < len(planned) else None
