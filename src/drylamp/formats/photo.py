"""Photos as they come from a phone: checked to be pictures, turned upright, made smaller, and stripped of where they were taken."""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import TYPE_CHECKING

from drylamp.core.checks import InputProblem

if TYPE_CHECKING:
    from PIL import Image

LONGEST_PX, QUALITY = 1600, 82
MOST_PIXELS = 60_000_000
ALLOWED = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True)
class Photo:
    """A picture ready to keep: JPEG, upright, no longer than LONGEST_PX."""

    content: bytes
    width: int
    height: int


def read_photo(data: bytes) -> Photo:
    """Check a photo and make it ready to keep.

    Raises:
        InputProblem: it is empty, no picture, of a kind that is not taken, cut short, or has too many pixels.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError

    if not data:
        raise InputProblem("photo", "the file is empty; take the picture again")
    try:
        with Image.open(io.BytesIO(data), formats=ALLOWED) as image:
            _check_size(image)
            whole = ImageOps.exif_transpose(image).convert("RGB")
            _check_end(data, image.format or "")
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        if isinstance(error, InputProblem):
            raise
        raise InputProblem(
            "photo", "this is no picture that can be read, or it was cut short; send a JPEG, PNG or WebP"
        ) from None
    upright = Image.frombytes("RGB", whole.size, whole.tobytes())  # the picture alone: no comment, place or profile
    upright.thumbnail((LONGEST_PX, LONGEST_PX))
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=QUALITY)
    return Photo(out.getvalue(), upright.width, upright.height)


ENDS = {"JPEG": b"\xff\xd9", "PNG": b"IEND\xaeB`\x82"}
"""What the last bytes of a whole picture hold; a camera may write more behind them."""
TAIL = 65_536


def _check_end(data: bytes, kind: str) -> None:
    """Refuse a picture that was cut short, even where all its points came through.

    Raises:
        InputProblem: it was.
    """
    end = ENDS.get(kind, b"")
    cut = end not in data[-TAIL:] if end else len(data) < 8 + int.from_bytes(data[4:8], "little")
    if cut:
        raise InputProblem("photo", "this picture was cut short; send it again")


def _check_size(image: Image.Image) -> None:
    pixels = image.width * image.height
    if pixels > MOST_PIXELS:
        raise InputProblem(
            "photo",
            f"{pixels / 1e6:.0f} million pixels were sent; allowed are {MOST_PIXELS / 1e6:.0f} million: make it smaller",
        )
