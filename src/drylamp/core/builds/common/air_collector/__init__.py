"""Collectors that warm air."""
