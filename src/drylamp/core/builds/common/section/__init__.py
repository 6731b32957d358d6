"""The drawing board."""
