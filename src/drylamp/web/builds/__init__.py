"""Builds over the wire."""
