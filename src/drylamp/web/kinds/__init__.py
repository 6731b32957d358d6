"""Kinds of build and of load over the wire."""
