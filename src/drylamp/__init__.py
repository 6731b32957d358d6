"""Dry Lamp: a workbench for people who build things that the sun heats."""

import os

from platformdirs import user_cache_path

__version__ = "0.1.0"

# numba reads this when it is first imported, and its own default (beside the source) may be read-only.
os.environ.setdefault("NUMBA_CACHE_DIR", str(user_cache_path("drylamp") / "compiled"))
