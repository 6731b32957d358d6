"""What is said of water in a box: what is said of all water that is kept."""

from __future__ import annotations

from drylamp.core.loads.common.kept.advice import ADVICE

__all__ = ["ADVICE"]
