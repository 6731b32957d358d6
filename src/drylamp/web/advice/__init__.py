"""Advice over the wire, beside the core's own models."""
