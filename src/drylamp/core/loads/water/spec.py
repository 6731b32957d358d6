"""Water in a box in the sun."""

from __future__ import annotations

from typing import ClassVar, Literal

from drylamp.core.loads.common.kept.spec import KeptWater
from drylamp.core.loads.common.places import FILLING


class HotWater(KeptWater):
    """Water that stands in a box in the sun and is drawn by the hour."""

    called: ClassVar[str] = "water"
    sits: ClassVar[str] = FILLING
    door: ClassVar[str] = "Fill it with water"

    kind: Literal["hot-water"] = "hot-water"


LOAD = HotWater
