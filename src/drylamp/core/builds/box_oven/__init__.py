"""Box ovens."""
