"""Upkeep of every build: what is looked at how often, what was found, and how the twin drifted meanwhile."""
