"""A place on earth as people write it: ``50° 27' N, 30° 31' E``, ``50,5 N 30 E``, ``41.2, 1.1``."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

from drylamp.core.checks import InputProblem

FIELD = "q"
EXAMPLES = "write it as 50.45, 30.52 or as 50° 27' N, 30° 31' E"
Axis = Literal["latitude", "longitude"]
_SIDES: dict[str, tuple[Axis, int]] = {
    "n": ("latitude", 1),
    "s": ("latitude", -1),
    "e": ("longitude", 1),
    "w": ("longitude", -1),
}
_MOST: dict[Axis, float] = {"latitude": 90.0, "longitude": 180.0}
_WORDS = {
    "north": "n", "south": "s", "east": "e", "west": "w", "nord": "n", "norte": "n", "sud": "s", "süd": "s", "sur": "s", "est": "e", "ost": "e",
    "este": "e", "ouest": "w", "oeste": "w", "latitude": "", "longitude": "", "lat": "", "lon": "", "lng": "", "long": "", "degrees": "°", "degree": "°", "deg": "°",
}  # fmt: skip
_SAME = str.maketrans(
    {
        "−": "-",
        "–": "-",
        "º": "°",
        "˚": "°",
        "′": "'",
        "’": "'",
        "‘": "'",
        "´": "'",
        "″": '"',
        "”": '"',
        "“": '"',
        ":": "°",
    }
)
_TOKEN = re.compile(
    r"(?P<number>\d+(?:\.\d+)?)|(?P<minus>-)|(?P<mark>[°'\"])|(?P<side>[nsew])|(?P<stop>;)|(?P<blank>[\s,()]+)"
)


class Coordinates(NamedTuple):
    """Degrees, north and east positive."""

    latitude_deg: float
    longitude_deg: float


@dataclass
class _Angle:
    """Degrees, minutes and seconds as they come, and the side of the earth where it is named."""

    parts: list[float] = field(default_factory=list)
    minus: bool = False
    side: str = ""


def looks_like_coordinates(text: str) -> bool:
    """Whether a text is numbers, marks and sides of the earth rather than a name."""
    plain = _plain(text)
    return any(c.isdigit() for c in plain) and not re.sub(r"[nsewo]", "", re.sub(r"[^a-zà-ÿ]", "", plain))


def read_coordinates(text: str) -> Coordinates:
    """Read a latitude and a longitude; sides of the earth may stand before or behind, minutes and seconds may follow.

    Raises
    ------
    InputProblem
        it cannot be read in one way only, one of the two is missing, or they lie beyond the poles or the date line.
    """
    plain = _plain(text)
    if re.search(r"\d\s*[°'\"]?\s*o\b|\bo\s*\d", plain):
        raise InputProblem(FIELD, f"“{text}”: O is west in some languages and east in others; write W or E")
    angles = _angles(_decimals(plain, text), text)
    if len(angles) != 2:
        raise InputProblem(
            FIELD, f"“{text}” gives {_count(len(angles))} where a latitude and a longitude are wanted; {EXAMPLES}"
        )
    first, second = (_read(angle, text) for angle in angles)
    axes = [_SIDES[a.side][0] if a.side else None for a in angles]
    if axes[0] is not None and axes[0] == axes[1]:
        raise InputProblem(FIELD, f"“{text}” names two {axes[0]}s; {EXAMPLES}")
    if axes[0] == "longitude" or axes[1] == "latitude":
        first, second = second, first
    _within("latitude", first)
    _within("longitude", second)
    return Coordinates(round(first, 6), round(second, 6))


def _within(axis: Axis, value: float) -> None:
    most = _MOST[axis]
    if abs(value) > most:
        raise InputProblem(FIELD, f"a {axis} of {value:g}° was given; allowed is −{most:g}° to {most:g}°")


def _plain(text: str) -> str:
    same = text.strip().lower().translate(_SAME).replace("''", '"')
    return re.sub(r"[a-zà-ÿ]{2,}", lambda word: _WORDS.get(word[0], word[0]), same)


def _decimals(plain: str, text: str) -> str:
    """With points for decimal commas: a comma between two digits is one unless points are written, or blanks follow commas."""
    tight = re.findall(r"\d,\d", plain)
    if not tight or "." in plain:
        return plain
    if len(tight) > 2 or (len(tight) == 1 and len(re.findall(r"\d+", plain)) == 2):
        raise InputProblem(FIELD, f"“{text}” can be read in more than one way; put a blank behind the comma between the two, and points before decimals: 50.5, 30.2")  # fmt: skip
    return re.sub(r"(?<=\d),(?=\d)", ".", plain)


def _angles(plain: str, text: str) -> list[_Angle]:
    found: list[_Angle] = []
    before, at = "", 0
    while at < len(plain):
        token = _TOKEN.match(plain, at)
        if token is None:
            raise InputProblem(FIELD, f"“{text}” is not understood from “{plain[at:][:12]}” on; {EXAMPLES}")
        at = token.end()
        kind, said = str(token.lastgroup), token.group()
        if kind == "number":
            if not found or _begins(found[-1], before, plain):
                found.append(_Angle())
            found[-1].parts.append(float(said))
        elif kind == "minus":
            found.append(_Angle(minus=True))
        elif kind == "side":
            _place(found, said, before)
        if kind != "blank" or "," in said:
            before = "comma" if kind in ("blank", "stop") else f"{kind}{said if kind == 'mark' else ''}"
    return found


def _begins(last: _Angle, before: str, plain: str) -> bool:
    """Whether a number is the first of the next angle."""
    if not last.parts:
        return False
    if last.side and before in ("side", "comma"):
        return True
    bare = not re.search(r"[nsew]", plain)
    marked = "°" in plain
    return (
        before in ("comma", 'mark"', "side")
        or len(last.parts) == 3
        or (bare and not marked)
        or (marked and before == "mark'" and '"' not in plain)
    )


def _place(found: list[_Angle], side: str, before: str) -> None:
    """A side belongs to the number before it, or to the one behind where that one has its side already or none came yet."""
    if found and found[-1].parts and not found[-1].side and before != "comma":
        found[-1].side = side
    else:
        found.append(_Angle(side=side))


def _read(angle: _Angle, text: str) -> float:
    degrees, arc, second = (*angle.parts, 0.0, 0.0, 0.0)[:3]
    if not angle.parts or len(angle.parts) > 3 or arc >= 60.0 or second >= 60.0:
        raise InputProblem(FIELD, f"“{text}” is not understood: minutes and seconds lie below 60, and every side has its number; {EXAMPLES}")  # fmt: skip
    value = degrees + arc / 60.0 + second / 3600.0
    if angle.minus and angle.side:
        raise InputProblem(FIELD, f"“{text}” has a minus and a side of the earth on one number; leave one of them out")
    below = angle.minus or (bool(angle.side) and _SIDES[angle.side][1] < 0)
    return -value if below else value


def _count(number: int) -> str:
    return {0: "no number", 1: "one number only"}.get(number, f"{number} numbers")
