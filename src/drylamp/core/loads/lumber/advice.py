"""What is said of boards."""

from __future__ import annotations

from drylamp.core.advice.entries import LoadAdvice
from drylamp.core.loads.lumber.spec import LumberCharge

ADVICE: LoadAdvice[LumberCharge] = LoadAdvice()
