"""Material limits: the hottest each part gets, with nothing in the build, against what its stuff lasts at."""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.registry import advice_of
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.common.body import BOWL
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import celsius
from drylamp.core.twin.case import Case
from drylamp.core.twin.run import Run

NEAR_K = 10.0


def material_flags(case: Case, empty: Run, run: Run) -> list[Flag]:
    """Compare each part's highest temperature of an empty run with its material's top service temperature; the bag or bowl
    over a load with that of the run it is in.
    """
    build, words = case.build, advice_of(case.build).limits
    hottest = {node: float(np.nanmax(series)) for node, series in empty.temperature_c.items()}
    flags = [*_bowl(case.load, run)]
    for stuff in kind_of(build).stuffs(build):
        row, top = stuff.row, hottest[stuff.node]
        where = f"{row.title} of the {empty.titles[stuff.node]} reaches {celsius(top)} {words.standing}"
        if top > row.top_service_c:
            text = (
                f"{where}; it lasts to about {celsius(row.top_service_c)}. Choose another material{words.if_too_hot}."
            )
            flags.append(Flag(level="warn", part=stuff.part, text=text))
        elif top > row.top_service_c - NEAR_K:
            text = f"{where}, close to its limit of about {celsius(row.top_service_c)}. {words.if_near}."
            flags.append(Flag(level="note", part=stuff.part, text=text))
    return flags


def _bowl(load: Load | None, run: Run) -> list[Flag]:
    if load is None or load.envelope is None:
        return []
    row, touching = load.envelope.row, [BOWL, *(body.node for body in load.bodies_on((1.0, 1.0)) if body.stands)]
    touched = max(float(np.nanmax(run.temperature_c[node])) for node in touching)
    if touched <= row.top_service_c - NEAR_K:
        return []
    text = f"{row.title} gets to {celsius(touched)} where it touches the pot; it lasts to about {celsius(row.top_service_c)}. "
    return [Flag(level="warn", part="load", text=text + "Keep it off the pot on a wire, or take a bowl.")]
