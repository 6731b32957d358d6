"""Turning after the sun."""
