"""Seals."""
