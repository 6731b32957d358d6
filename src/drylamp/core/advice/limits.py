"""Material limits: the hottest each part gets, with nothing in the box, against what its stuff lasts at."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.kinds import BuildSpec, kind_of
from drylamp.core.loads.body import BOWL
from drylamp.core.loads.load import AnyLoad
from drylamp.core.outcome import Flag
from drylamp.core.twin import Run

NEAR_K = 10.0
IF_TOO_HOT = {
    "box-oven": " or cover the box when empty", "melter": " or cover the glass when empty", "coupons": "",
    "funnel": " or fold the mirror away when nothing stands in it", "dish": "",
}  # fmt: skip
IF_NEAR = {
    "box-oven": "Do not leave it empty in full sun", "melter": "Do not leave it empty in full sun",
    "coupons": "Look at it after the first hot day", "funnel": "Look at it after the first hot day", "dish": "Look at it often",
}  # fmt: skip
STANDING = {
    "box-oven": "with nothing in the box", "melter": "with nothing in the box", "coupons": "in this sun",
    "funnel": "with nothing in it", "dish": "with nothing at the focus",
}  # fmt: skip


def material_flags(build: BuildSpec, load: AnyLoad | None, empty: Run, run: Run) -> list[Flag]:
    """Compare each part's highest temperature of an empty run with its material's top service temperature; the bag or bowl
    over a load with that of the run it is in.
    """
    hottest = {node: float(np.nanmax(series)) for node, series in empty.temperature_c.items()}
    flags = [*_bowl(load, run)]
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


def _bowl(load: AnyLoad | None, run: Run) -> list[Flag]:
    if load is None or load.under is None:
        return []
    row, hottest = load.under.row, float(np.nanmax(run.temperature_c[BOWL]))
    touched = max(hottest, float(np.nanmax(run.temperature_c["pot"])) if "pot" in run.temperature_c else hottest)
    if touched <= row.top_service_c - NEAR_K:
        return []
    text = (
        f"{row.title} gets to {touched:.0f} °C where it touches the pot; it lasts to about {row.top_service_c:g} °C. "
    )
    return [Flag(level="warn", part="load", text=text + "Keep it off the pot on a wire, or take a bowl.")]
