"""Places on earth over the wire: found by name or by coordinates."""
