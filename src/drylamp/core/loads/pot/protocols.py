"""How pots of food are tried, in whatever build they stand."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import BESIDE, EYES, FOOD, GLOVES, INSIDE, OUTDOORS, PREPARE, SUN, WIND
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow, Wanted
from drylamp.core.text import amount, celsius, kelvin, metres_per_second, watts_m2

HEAT_UP = ProtocolRow(
    name="heat-up",
    title="Heat up to a target",
    purpose="How long a pot of food or water takes to reach its target.",
    reading_minutes=[0, 5, 10, 20, 30, 45, 60, 75, 90, 105, 120, 150, 180, 210, 240],
    needs_load=True,
    checklist=[
        *PREPARE,
        "Weigh what goes into the pot and note its temperature.",
        "Lid on before the clock starts.",
    ],
    cautions=[EYES, GLOVES, "Meat and eggs: a probe in the thickest part before anything is eaten."],
    channels=[FOOD, INSIDE, BESIDE, OUTDOORS],
    events=list(IN_THE_FIELD),
    end_rule="When the contents have held the target, or after 4 hours.",
    end_minutes=240.0,
    figures=["f1", "minutes-to-target", "f2", "portion-states", "clean-wax", "hottest", "over-control", "goal"],
)

COOKING_POWER = ProtocolRow(
    name="cooking-power",
    title="Cooking power, standard",
    purpose=f"Power into water at {kelvin(50)} over the air, scaled to {watts_m2(700)} (ASAE/ASABE S580.1).",
    reading_minutes=[10.0 * k for k in range(31)],
    needs_load=True,
    checklist=[
        *PREPARE,
        f"Fill with {amount(7, 'mass_area')} of water by opening, at air temperature.",
        f"Wind under {metres_per_second(1)}, air {celsius(20)} to {celsius(35)}, sun {watts_m2(450)} to {watts_m2(1100)}; begin between 10 and 14 hours solar time.",
        "Turn the box to the sun as often as its user would, and note each turn.",
    ],
    cautions=[EYES, GLOVES],
    channels=[
        FOOD,
        OUTDOORS.model_copy(update={"optional": False}),
        SUN.model_copy(update={"optional": False}),
        WIND,
    ],
    events=list(IN_THE_FIELD),
    end_rule=f"When the water is within {kelvin(5)} of boiling; repeat on other days until there are 30 points.",
    end_minutes=300.0,
    figures=["cooking-power", "minutes-to-target", "goal"],
)

LOAF = ProtocolRow(
    name="loaf",
    title="Bake a loaf",
    purpose="From dough to a done core, opened as seldom as can be.",
    reading_minutes=[0, 30, 60, 90, 120, 150, 180],
    needs_load=True,
    for_concentrators=False,
    checklist=[
        *PREPARE,
        "Probe through the side of the tin into the middle of the dough, lead out under the lid.",
        "First look when the day's plan says, not before: each look costs minutes.",
    ],
    cautions=[EYES, GLOVES],
    channels=[
        Wanted(node="core", title="core of the loaf"),
        INSIDE.model_copy(update={"optional": True}),
        OUTDOORS,
    ],
    events=list(IN_THE_FIELD),
    end_rule="When the core has held its target for ten minutes.",
    end_minutes=240.0,
    figures=["minutes-to-target", "hottest", "over-control", "goal"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (
    HEAT_UP,
    COOKING_POWER,
    LOAF,
)
