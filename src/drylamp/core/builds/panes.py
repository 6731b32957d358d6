"""Skins of a cover as optics sees them: the same for every kind of build."""

from __future__ import annotations

from drylamp.core.builds.box_oven import Skin
from drylamp.core.optics.covers import Pane


def panes_of(skins: list[Skin]) -> list[Pane]:
    """Panes from the outermost in; skins come from the innermost out."""
    return [Pane(skin.row.index, skin.row.extinction_per_m, skin.thickness_m) for skin in reversed(skins)]
