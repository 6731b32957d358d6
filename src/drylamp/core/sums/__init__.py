"""Quick sums: every hand calculation of the trade as one typed function."""

from drylamp.core.sums import air, buying, cooking, heat, household, sky, water, wood
from drylamp.core.sums.registry import SUMS, QuickSum, find_sum

__all__ = ["SUMS", "QuickSum", "air", "buying", "cooking", "find_sum", "heat", "household", "sky", "water", "wood"]
