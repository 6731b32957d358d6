"""Funnels, panels and bare sheets."""
