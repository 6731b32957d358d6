"""Wax melters."""
