"""A pipe that water is heated in."""
