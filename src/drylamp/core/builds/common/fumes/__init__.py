"""Fumes near food."""
