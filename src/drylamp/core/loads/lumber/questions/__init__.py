"""What is asked of a charge of boards."""

from __future__ import annotations

from drylamp.core.loads.lumber.questions.ahead import charge
from drylamp.core.loads.lumber.questions.sizes import links, saw, sizes
from drylamp.core.loads.lumber.questions.vents import today, weeks

__all__ = ["charge", "links", "saw", "sizes", "today", "weeks"]
