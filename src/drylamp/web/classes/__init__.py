"""Trials over many boxes: a class or a workshop."""
