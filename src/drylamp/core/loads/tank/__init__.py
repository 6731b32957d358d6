"""Water in a tank or barrel, warmed by a loop."""
