"""What is said of lumber kilns."""

from __future__ import annotations

from drylamp.core.advice.entries import BuildAdvice, Burns, LimitWords
from drylamp.core.builds.kiln.spec import LumberKiln

ADVICE: BuildAdvice[LumberKiln] = BuildAdvice(
    burns=Burns("baffle", "The baffle and the air over it stay hot for an hour after sun; open the door and let it cool before you reach in."),
    limits=LimitWords("with nothing in it", "Look at it after the first hot day", " or open the vents whenever it stands empty"),
    get_ready="look at roof, fan and vents; read the chamber's thermometer and hygrometer",
)
