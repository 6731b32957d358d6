"""The shelf over the wire."""
