"""Boards that dry: in a kiln, and beside it in the open."""
