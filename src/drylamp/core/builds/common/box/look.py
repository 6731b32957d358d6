"""What glazed boxes have in common for the eye: lines of their ledger, and a few words on what they are made of."""

from __future__ import annotations

from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.common.look import LEAK, Account
from drylamp.core.text import counted

BOX_ACCOUNTS = {
    "mirrored": Account("thrown back before it could heat", "thrown back", "sky"),
    "cover": Account("lost through the cover", "cover", "glass"),
    "walls": Account("lost through the walls", "walls", "wood"),
    "floor": Account("lost through the floor", "floor", "foam"),
    "frame": Account("lost through the lid's frame", "frame", "rule"),
    "leak": LEAK,
    "box": Account("stored in the box itself", "stored in box", "foam", "the warm box"),
}


def glance(build: Box) -> str:
    """Panes and mirrors."""
    flaps = len(build.mirrors) + (build.mirror_behind is not None)
    return f"{panes(build.cover, 'open top')}, {counted(flaps, 'mirror') if flaps else 'no mirror'}"


def panes(cover: GlazedCover | None, none: str) -> str:
    """How many sheets a cover has."""
    return none if cover is None else counted(cover.layers + len(cover.more), "pane")
