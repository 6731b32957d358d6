"""Samples side by side."""
