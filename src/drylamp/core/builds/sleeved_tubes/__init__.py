"""Tubes in bottle sleeves: dark pipes on a frame, each in a row of clear bottles."""
