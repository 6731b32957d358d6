"""Finding builds, parts, trials, sums, sayings and materials by a few letters."""
