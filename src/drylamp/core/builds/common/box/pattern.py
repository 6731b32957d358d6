"""A box's flat pattern: its net, and its flaps."""

from __future__ import annotations

from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.pattern import TAB_MM, Dot, PatternPiece, piece_of


def pieces_of(build: Box) -> list[PatternPiece]:
    """The net and every mirror."""
    return [_box_net(build), *_flaps(build), *_behind(build)]


def _box_net(build: Box) -> PatternPiece:
    """Floor with four sides folded up, tabs on front and back; inside measures, as for the lining or a single-walled box."""
    wide, long = 1000 * build.width_m, 1000 * build.floor_length_m
    front, back = 1000 * build.height_m, 1000 * build.back_height_m
    tab = TAB_MM
    # floor from (0, 0) to (wide, long); front below it, back above it, sides left and right
    outline: list[Dot] = [
        (0, 0), (-tab, -min(tab, front / 4)), (-tab, -front + min(tab, front / 4)), (0, -front), (wide, -front),
        (wide + tab, -front + min(tab, front / 4)), (wide + tab, -min(tab, front / 4)), (wide, 0),
        (wide + front, 0), (wide + back, long), (wide, long), (wide + tab, long + min(tab, back / 4)),
        (wide + tab, long + back - min(tab, back / 4)), (wide, long + back), (0, long + back), (-tab, long + back - min(tab, back / 4)),
        (-tab, long + min(tab, back / 4)), (0, long), (-back, long), (-front, 0),
    ]  # fmt: skip
    folds: list[list[Dot]] = [
        [(0, 0), (wide, 0)], [(0, long), (wide, long)], [(0, 0), (0, long)], [(wide, 0), (wide, long)],
        [(0, 0), (0, -front)], [(wide, 0), (wide, -front)], [(0, long), (0, long + back)], [(wide, long), (wide, long + back)],
    ]  # fmt: skip
    return piece_of("box", 1, [outline], folds, "inside measures; add the wall's thickness for each layer outside it")


def _behind(build: Box) -> list[PatternPiece]:
    """The mirror that stands behind it."""
    mirror = build.mirror_behind
    if mirror is None:
        return []
    wide, high = 1000 * mirror.width_m, 1000 * mirror.height_m
    outline: list[Dot] = [(0, 0), (wide, 0), (wide, high), (0, high)]
    return [piece_of("mirror behind", 1, [outline], [], "flat on its wall, fence or frame; mirror side out")]


def _flaps(build: Box) -> list[PatternPiece]:
    """Mirrors with a hinge strip along their foot."""
    out = []
    for edge, flap in build.mirrors.items():
        wide = 1000 * (build.width_m if edge in ("upper", "lower") else build.length_m)
        high = 1000 * flap.length_m
        outline: list[Dot] = [(0, -TAB_MM), (wide, -TAB_MM), (wide, high), (0, high)]
        out.append(
            piece_of(f"{edge} flap", 1, [outline], [[(0, 0), (wide, 0)]], "hinge strip at the foot; mirror side up")
        )
    return out
