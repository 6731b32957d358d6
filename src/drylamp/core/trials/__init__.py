"""Trials: how to run one, what its readings say, and how that compares with the twin."""
