"""Batches of wax."""
