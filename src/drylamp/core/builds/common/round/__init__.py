"""Cylinders inside one another."""
