"""Mirrors."""
