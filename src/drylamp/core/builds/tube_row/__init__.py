"""Evacuated tubes side by side on one header."""
