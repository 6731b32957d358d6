"""Sheets over the wire."""
