"""Pots in the open air."""
