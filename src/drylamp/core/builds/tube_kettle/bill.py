"""What a tube kettle is made of."""

from __future__ import annotations

from drylamp.core.builds.common.vacuum_tube import bill
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.common.bill import Piece, thing


def pieces_of(build: TubeKettle) -> list[Piece]:
    """Tube and wings, the stopper at its mouth, its feet."""
    return [*bill.pieces_of(build), thing("holder", "stopper"), thing("feet", "feet")]
