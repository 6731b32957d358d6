"""Air that is changed through gaps, by weight."""

from __future__ import annotations

AIR_KG_M3 = 1.15
"""Of the air that changes, at about 35 °C."""


def leak_kg_s(m3_h: float) -> float:
    """Air that is changed, by weight."""
    return m3_h / 3600.0 * AIR_KG_M3
