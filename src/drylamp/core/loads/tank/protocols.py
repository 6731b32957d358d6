"""How a tank on a loop is tried."""

from __future__ import annotations

from drylamp.core.builds.protocol import ProtocolRow
from drylamp.core.loads.common.kept.protocols import DAY_GAIN, NIGHT_LOSS
from drylamp.core.loads.common.loop.protocols import LOOP_POWER, PUMP_HOURS

PROTOCOLS: tuple[ProtocolRow, ...] = (LOOP_POWER, PUMP_HOURS, DAY_GAIN, NIGHT_LOSS)
