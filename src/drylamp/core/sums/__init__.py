"""Quick sums: every hand calculation of the trade as one typed function."""

from drylamp.core.sums import air, cooking, heat, household, sky, water, wood
from drylamp.core.sums.registry import SUMS, QuickSum, find_sum

__all__ = ["SUMS", "QuickSum", "air", "cooking", "find_sum", "heat", "household", "sky", "water", "wood"]
