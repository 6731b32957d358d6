"""What is said of food dryers."""

from __future__ import annotations

from drylamp.core.advice.entries import BuildAdvice, Burns, LimitWords
from drylamp.core.builds.dryer.spec import FoodDryer

ADVICE: BuildAdvice[FoodDryer] = BuildAdvice(
    burns=Burns("collector", "The absorber and the glass over it stay hot for a while after sun; open the door from the shady side."),
    limits=LimitWords("with its vent shut and nothing in it", "Look at it after the first hot day", " or open the vent whenever it stands empty"),
    get_ready="wipe the glass, check the screens for holes, face it to the noon sun",
)  # fmt: skip
