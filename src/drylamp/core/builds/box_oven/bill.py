"""What a box oven is made of."""

from __future__ import annotations

from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box import bill
from drylamp.core.common.bill import Piece, thing


def pieces_of(build: BoxOven) -> list[Piece]:
    """A box, with a flap over its vent where it has one."""
    return [*bill.pieces_of(build), *([thing("vent", "vent-flap")] if build.vent_cm2 > 0.0 else [])]
