"""Readings over the wire."""
