"""Material limits: the hottest each part gets, with nothing in the box, against what its stuff lasts at."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.kinds import BuildSpec, kind_of
from drylamp.core.outcome import Flag
from drylamp.core.twin import Run

NEAR_K = 10.0
IF_TOO_HOT = {"box-oven": " or cover the box when empty", "coupons": ""}
IF_NEAR = {"box-oven": "Do not leave it empty in full sun", "coupons": "Look at it after the first hot day"}
STANDING = {"box-oven": "with nothing in the box", "coupons": "in this sun"}


def material_flags(build: BuildSpec, empty: Run) -> list[Flag]:
    """Compare each part's highest temperature of an empty run with its material's top service temperature."""
    hottest = {node: float(np.nanmax(series)) for node, series in empty.temperature_c.items()}
    flags = []
    for part, node, row in kind_of(build).materials(build):
        room = row.top_service_c - hottest[node]
        where = f"{row.title} of the {empty.titles[node]} reaches {hottest[node]:.0f} °C {STANDING[build.kind]}"
        if room < 0:
            text = (
                f"{where}; it lasts to about {row.top_service_c:g} °C. Choose another material{IF_TOO_HOT[build.kind]}."
            )
            flags.append(Flag(level="warn", part=part, text=text))
        elif room < NEAR_K:
            text = f"{where}, close to its limit of about {row.top_service_c:g} °C. {IF_NEAR[build.kind]}."
            flags.append(Flag(level="note", part=part, text=text))
    return flags
