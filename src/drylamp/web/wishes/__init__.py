"""Wishes, proposals and what the pile allows, over the wire."""
