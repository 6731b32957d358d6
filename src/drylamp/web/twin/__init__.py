"""The twin over the wire."""
