"""What somebody says to have: *two panes 60 × 110*, *40 m of black hose*, *a 200 litre drum*."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from drylamp.core.builds.common.pile.sheet import Salvaged, Sort
from drylamp.core.text import Sentence, amount, litres, metres
from drylamp.core.units import UNITS
from drylamp.core.wish.goods import singular

ReadNumber = Callable[[str], float | None]
TIMES = ("×", "x", "by")
GLASS = "window-glass"
"""A pane of which nothing is said."""
PIECES: dict[str, tuple[Sort, str]] = {
    "pane": ("pane", GLASS), "window": ("pane", GLASS), "sash": ("pane", GLASS), "window pane": ("pane", GLASS), "glass pane": ("pane", GLASS), "pane of glass": ("pane", GLASS), "glass door": ("pane", GLASS), "door": ("pane", GLASS),
    "polycarbonate sheet": ("pane", "polycarbonate"), "film": ("pane", "pe-film"), "sheet of film": ("pane", "pe-film"), "acrylic sheet": ("pane", "acrylic"),
    "plywood sheet": ("sheet", "plywood"), "sheet of plywood": ("sheet", "plywood"), "plywood board": ("sheet", "plywood"), "foam board": ("sheet", "eps-foam"), "board of foam": ("sheet", "eps-foam"),
    "sheet of foam": ("sheet", "eps-foam"), "steel sheet": ("sheet", "sheet-steel"), "sheet of steel": ("sheet", "sheet-steel"), "aluminium sheet": ("sheet", "sheet-aluminium"),
    "sheet of aluminium": ("sheet", "sheet-aluminium"), "osb board": ("sheet", "osb"), "mirror": ("mirror", "glass-mirror"), "foil board": ("mirror", "foil-board"),
}  # fmt: skip
PIPES = {"hose": "garden-hose", "garden hose": "garden-hose", "black hose": "black-pe", "black pipe": "black-pe", "black polyethylene pipe": "black-pe", "copper pipe": "copper", "copper tube": "copper", "rubber hose": "black-rubber"}  # fmt: skip
DRUMS = ("drum", "tub", "barrel", "tank")
ADJECTIVES = ("old", "used", "large", "small", "spare", "clean", "sound", "big")
CM_FROM = 5.0
"""A bare number from here on is centimetres, below it metres: nobody has a pane of 60 m or of 3 cm."""


@dataclass(frozen=True)
class Having:
    """One row of what there is, and what it was taken for."""

    row: Salvaged
    meaning: Sentence


def have(left: list[str], number: ReadNumber) -> tuple[int, Having] | None:
    """What stands at the front of some words, and how many of them it takes; none where it is no piece with its size."""
    return _flat(left, number) or _pipe(left, number) or _drum(left, number)


def _flat(left: list[str], number: ReadNumber) -> tuple[int, Having] | None:
    at, count = _count(left, number)
    for size in (3, 2, 1):
        noun = singular(" ".join(left[at : at + size])) if len(left) >= at + size else ""
        key = noun if noun in PIECES else noun.replace("panes of", "pane of").replace("sheets of", "sheet of")
        if key in PIECES and (sides := _sides(left, at + size, number)) is not None:
            end, long, wide, thick = sides
            sort, of = PIECES[key]
            row = Salvaged(
                name=noun[:40],
                sort=sort,
                of=of,
                count=count,
                long_m=max(long, wide),
                wide_m=min(long, wide),
                thick_m=thick,
            )
            return end, Having(row, f"{count} × {noun}, {metres(row.sides_m[0])} × {metres(row.sides_m[1])}")
    return None


def _count(left: list[str], number: ReadNumber) -> tuple[int, int]:
    """Where the noun begins, and how many."""
    found = number(left[0]) if left else None
    whole = found is not None and found == int(found) and 1 <= found <= 1000
    at = 1 if whole else 0
    while at < len(left) and left[at] in ADJECTIVES:
        at += 1
    return at, int(found) if whole and found is not None else 1


def _sides(left: list[str], at: int, number: ReadNumber) -> tuple[int, float, float, float | None] | None:
    """Two sides, and how thick where a third is said, m, and where they end."""
    while at < len(left) and left[at] in ("of", "that", "are", "is", "each"):
        at += 1
    found, unit, sizes = at, None, list[float]()
    while found < len(left) and (value := number(left[found])) is not None and left[found] not in ("a", "an"):
        sizes.append(value)
        found += 1
        if found < len(left) and left[found] in _LENGTHS:
            unit = _LENGTHS[left[found]]
            found += 1
        if found < len(left) and left[found] in TIMES and len(sizes) < 3:
            found += 1
            continue
        break
    if len(sizes) < 2:
        return None
    factor = unit or (0.01 if max(sizes[:2]) >= CM_FROM else 1.0)
    return found, sizes[0] * factor, sizes[1] * factor, sizes[2] * factor if len(sizes) > 2 else None


_LENGTHS = {word: unit.factor for unit in UNITS["length"] for word in unit.words if word.isalpha()}


def _pipe(left: list[str], number: ReadNumber) -> tuple[int, Having] | None:
    if len(left) < 3 or (long := number(left[0])) is None or left[1] not in ("m", "metre", "metres", "ft", "feet"):
        return None
    at = 3 if left[2] == "of" else 2
    while at < len(left) and left[at] in ADJECTIVES:
        at += 1
    for size in (3, 2, 1):
        noun = singular(" ".join(left[at : at + size]))
        if len(left) >= at + size and noun in PIPES:
            long_m = long * _LENGTHS[left[1]]
            row = Salvaged(name=noun[:40], sort="pipe", of=PIPES[noun], long_m=long_m)
            return at + size, Having(row, f"{amount(long_m, 'distance')} of {noun}")
    return None


def _drum(left: list[str], number: ReadNumber) -> tuple[int, Having] | None:
    at = 1 if left[0] in ("a", "an", "one") and len(left) > 3 else 0
    if (
        len(left) < at + 3
        or (holds := number(left[at])) is None
        or left[at + 1] not in ("l", "litre", "litres", "liter", "liters")
    ):
        return None
    noun = at + 2
    while noun < len(left) and left[noun] in (*ADJECTIVES, "steel", "plastic", "oil"):
        noun += 1
    if noun >= len(left) or singular(left[noun]) not in DRUMS:
        return None
    row = Salvaged(name=singular(left[noun]), sort="drum", litres=holds)
    return noun + 1, Having(row, f"a {singular(left[noun])} of {litres(holds)}")
