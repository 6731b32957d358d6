"""Material limits: the hottest each part gets, with nothing in the box, against what its stuff lasts at."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.outcome import Flag
from drylamp.core.tables import Row, absorber
from drylamp.core.twin import Run

NEAR_K = 10.0


def material_flags(build: BuildSpec, empty: Run) -> list[Flag]:
    """Compare each part's highest temperature of an empty run with its material's top service temperature."""
    hottest = {node: float(np.nanmax(series)) for node, series in empty.temperature_c.items()}
    flags = []
    for part, node, row in _parts(build):
        room = row.top_service_c - hottest[node]
        where = f"{row.title} of the {empty.titles[node]} reaches {hottest[node]:.0f} °C with nothing in the box"
        if room < 0:
            text = f"{where}; it lasts to about {row.top_service_c:g} °C. Choose another material or cover the box when empty."
            flags.append(Flag(level="warn", part=part, text=text))
        elif room < NEAR_K:
            text = f"{where}, close to its limit of about {row.top_service_c:g} °C. Do not leave it empty in full sun."
            flags.append(Flag(level="note", part=part, text=text))
    return flags


def _parts(build: BuildSpec) -> list[tuple[str, str, Row]]:
    """(part, node, material) of everything that can spoil with heat."""
    out: list[tuple[str, str, Row]] = [
        ("tray", "tray", absorber(build.tray)),
        ("lining", "walls", absorber(build.lining)),
        ("wall-0", "walls", build.wall[0].row),
    ]
    out += [(f"wall-{k}", "insulation", part.row) for k, part in enumerate(build.wall[1:-1], start=1)]
    if len(build.wall) > 1:
        out.append((f"wall-{len(build.wall) - 1}", "shell", build.wall[-1].row))
    return out + [("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]
