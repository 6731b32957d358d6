"""How rows of tubes are tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import FREE_LOG
from drylamp.core.builds.protocol import ProtocolRow

PROTOCOLS: tuple[ProtocolRow, ...] = (FREE_LOG,)
