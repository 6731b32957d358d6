"""What is asked of a charge of boards."""

from __future__ import annotations

from drylamp.core.loads.lumber.questions.ahead import charge
from drylamp.core.loads.lumber.questions.dried import until_dry_by_chance
from drylamp.core.loads.lumber.questions.money import money
from drylamp.core.loads.lumber.questions.queue import queue
from drylamp.core.loads.lumber.questions.sizes import links, saw, sizes
from drylamp.core.loads.lumber.questions.vents import today, weeks

__all__ = ["charge", "links", "money", "queue", "saw", "sizes", "today", "until_dry_by_chance", "weeks"]
