"""Dishes with a pot at the focus."""
