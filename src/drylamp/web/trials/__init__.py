"""Trials over the wire."""
