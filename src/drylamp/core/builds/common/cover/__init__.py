"""Covers."""
