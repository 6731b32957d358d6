"""How water in a box is tried."""

from __future__ import annotations

from drylamp.core.loads.common.kept.protocols import PROTOCOLS

__all__ = ["PROTOCOLS"]
