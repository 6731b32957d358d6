"""Walls."""
