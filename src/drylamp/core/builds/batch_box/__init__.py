"""Batch boxes: water in a black trough under glass."""
