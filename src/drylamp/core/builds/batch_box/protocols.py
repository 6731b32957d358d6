"""How batch boxes are tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import COOL_DOWN, FREE_LOG, QUICK_LOOK, STAGNATION
from drylamp.core.builds.protocol import ProtocolRow

PROTOCOLS: tuple[ProtocolRow, ...] = (QUICK_LOOK, STAGNATION, COOL_DOWN, FREE_LOG)
