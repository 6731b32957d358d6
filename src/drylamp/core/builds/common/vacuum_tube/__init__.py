"""Evacuated tubes: one glass inside another, coated, and what mirrors beside them add."""
