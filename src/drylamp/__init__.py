"""Dry Lamp: a workbench for people who build things that the sun heats."""

import hashlib
import os
from pathlib import Path

from platformdirs import user_cache_path

__version__ = "0.1.0"

COMPILED = (
    "compiled",
    "air/draught",
    "air/moist",
    "air/properties",
    "heat/assemble",
    "heat/boards",
    "heat/boil",
    "heat/cells",
    "heat/lanes",
    "heat/damp",
    "heat/drying",
    "heat/halves",
    "heat/laws",
    "heat/led",
    "heat/march",
    "heat/melt",
    "heat/siphon",
    "heat/sparse",
    "heat/streams",
    "heat/water",
    "loads/common/food/piece",
    "loads/lumber/stress",
    "optics/dish_light",
    "optics/rays",
    "optics/power",
    "optics/trace",
)
"""Files with compiled code, under core/."""


def _compiled_digest() -> str:
    """Name a state of the compiled code: numba looks only at a function's own file, not at those it calls."""
    core = Path(__file__).parent / "core"
    content = b"".join((core / f"{name}.py").read_bytes() for name in COMPILED)
    return hashlib.sha256(content).hexdigest()[:12]


# numba reads this when it is first imported; its own default (beside the source) may be read-only.
os.environ.setdefault("NUMBA_CACHE_DIR", str(user_cache_path("drylamp") / "compiled" / _compiled_digest()))


if os.environ.get("DRYLAMP_LANGUAGE"):
    from drylamp.languages import speak

    speak()


def compiles_first() -> bool:
    """Whether nothing compiled is kept yet, so that the first run takes a minute longer."""
    kept = Path(os.environ["NUMBA_CACHE_DIR"])
    return not any(kept.rglob("*.nbi"))
