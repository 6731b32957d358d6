"""Figures of a trial with running water."""

from __future__ import annotations

from drylamp.core.loads.common.tap.figures import FIGURES

__all__ = ["FIGURES"]
