"""Debian's headless Chromium, and how it is started here."""

from __future__ import annotations

from pathlib import Path

SMALL, WHOLE = Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")
CHROMIUM = str(SMALL if SMALL.exists() else WHOLE)
"""The one without a window's trappings takes two thirds of the time."""
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip
