"""Vents."""
