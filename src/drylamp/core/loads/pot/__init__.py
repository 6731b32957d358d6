"""Pots of food."""
