"""What a wax melter is made of."""

from __future__ import annotations

from drylamp.core.builds.common.box import bill
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.common.bill import Piece


def pieces_of(build: Melter) -> list[Piece]:
    """A box; what the wax runs into is its load's."""
    return bill.pieces_of(build)
