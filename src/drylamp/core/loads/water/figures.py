"""Figures of a trial with water in a box."""

from __future__ import annotations

from drylamp.core.loads.common.kept.figures import FIGURES

__all__ = ["FIGURES"]
