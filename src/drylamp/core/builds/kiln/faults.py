"""What breaks on a lumber kiln."""

from __future__ import annotations

from drylamp.core.builds.fault import Fault
from drylamp.core.builds.kiln.spec import LumberKiln

TORN_CM2, SWOLLEN_CM2 = 600.0, 250.0
"""Gaps by a torn film's flap, and by a door that no longer shuts; from memory."""
FILM_PRICE_M2 = 2.0


def _torn(build: LumberKiln) -> LumberKiln | None:
    """Its outer sheet no longer keeps air: one skin less; of a single one a hole."""
    made = build.cover
    if made.more:
        made = made.model_copy(update={"more": made.more[:-1]})
    elif made.layers > 1:
        made = made.model_copy(update={"layers": made.layers - 1})
    else:
        return build.with_(leak_cm2=build.leak_cm2 + TORN_CM2)
    return build.with_(cover=made)


def _still(build: LumberKiln) -> LumberKiln | None:
    return None if build.fan is None else build.with_(fan=None)


def _stuck_open(build: LumberKiln) -> LumberKiln | None:
    return None if build.vents.most_open > 0.8 else build.opened(1.0)


def _stuck_shut(build: LumberKiln) -> LumberKiln | None:
    return None if build.vents.most_open < 0.1 else build.opened(0.0)


def _swollen(build: LumberKiln) -> LumberKiln:
    return build.with_(leak_cm2=build.leak_cm2 + SWOLLEN_CM2)


FAULTS: tuple[Fault[LumberKiln], ...] = (
    Fault("torn-film", "cover", "the outer sheet of the roof is torn or gone", "it peaks lower, and cools faster at night", "a new sheet over the frame, battens at every rafter", 40.0, 4.0, _torn),
    Fault("stuck-fan", "fan", "the fan stands still", "the air under the roof gets hotter and the stack's stays behind", "free it, look at its bearings, its fuse and the panel's plug", 15.0, 1.0, _still),
    Fault("vents-open", "vents", "the vents stick open", "it stays cool and dry by day, near the air outside at night", "free the flaps, oil their hinges", 0.0, 0.5, _stuck_open),
    Fault("vents-shut", "vents", "the vents stick shut", "damp air stays in, dew runs from the roof", "free the flaps, clean the screens", 0.0, 0.5, _stuck_shut),
    Fault("swollen-door", "chamber", "the door no longer shuts", "more air comes in with every gust", "plane its edge when it is dry, then paint it; a new seal", 12.0, 2.0, _swollen),
)  # fmt: skip
"""Prices and hours from memory."""
