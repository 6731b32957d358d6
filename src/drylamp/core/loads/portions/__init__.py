"""Portions on a tray."""
