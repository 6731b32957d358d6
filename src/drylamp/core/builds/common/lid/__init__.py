"""A lid that keeps the night out."""
