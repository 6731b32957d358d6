"""What is said of food on trays."""

from __future__ import annotations

from drylamp.core.advice.entries import LoadAdvice
from drylamp.core.loads.food_trays.spec import FoodTrays

ADVICE: LoadAdvice[FoodTrays] = LoadAdvice()
