"""How box ovens are tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import (
    COOL_DOWN,
    ENDURANCE,
    EYES,
    FOOD,
    FREE_LOG,
    GLOVES,
    OUTDOORS,
    PREPARE,
    QUICK_LOOK,
    STAGNATION,
    SUN,
    TRAY,
)
from drylamp.core.builds.protocol import IN_THE_FIELD, ProtocolRow
from drylamp.core.text import amount, celsius, metres_per_second, watts_m2

TWO_FIGURES = ProtocolRow(
    name="two-figures",
    title="Box test by two figures",
    purpose="F1 with the box empty, then F2 with water (Mullick et al. 1987; IS 13429).",
    reading_minutes=[0, 10, 20, 30, 40, 50, 60, 75, 90, 105, 120],
    checklist=[
        *PREPARE,
        f"First day: empty, tray probe, until it stands still near noon; sun above {watts_m2(600)}, wind under {metres_per_second(1)}.",
        f"Second day: {amount(8, 'mass_area')} of water by opening, from below {celsius(60)} to above {celsius(90)}.",
        "No mirror: fold it away, the figures are for the box alone.",
    ],
    cautions=[EYES, GLOVES],
    channels=[TRAY, FOOD.model_copy(update={"optional": True}), OUTDOORS, SUN],
    events=list(IN_THE_FIELD),
    end_rule=f"Empty: when the tray stands still. With water: above {celsius(95)}.",
    end_minutes=240.0,
    figures=["f1", "f2", "boil-minutes", "hottest"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (
    QUICK_LOOK,
    STAGNATION,
    TWO_FIGURES,
    COOL_DOWN,
    ENDURANCE,
    FREE_LOG,
)
