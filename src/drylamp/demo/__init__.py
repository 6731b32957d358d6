"""The made-up scenario that a new person meets."""
