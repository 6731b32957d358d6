"""Kinds of build: for each one its typed spec, its recipe to a network, and its drawing."""
