"""From the sun on the place to watts in each part of a build."""
