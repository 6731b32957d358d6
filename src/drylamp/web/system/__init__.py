"""Health, clock and quick sums over the wire."""
