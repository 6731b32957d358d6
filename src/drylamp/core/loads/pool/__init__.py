"""Open water that one bathes in: a tub or a pool, warmed by a loop."""
