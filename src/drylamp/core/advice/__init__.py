"""Judgement: what a build's own numbers say about its parts, its place and its dangers."""
