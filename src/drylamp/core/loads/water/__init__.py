"""Water that is heated to be drawn."""
