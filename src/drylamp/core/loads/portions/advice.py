"""What is said of portions on a tray."""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Found, LoadAdvice, Saying
from drylamp.core.builds.build import Build
from drylamp.core.loads.portions.spec import Portions


def _denser(context: AdviceContext, build: Build, load: Portions) -> Found | None:
    run = context.run(build, load)
    rows = {
        p.title: (p.row.density_kg_m3, p.row.melting_high_c, float(np.nanmax(run.temperature_c[p.node])))
        for p in load.portions
    }
    if len({row[0] for row in rows.values()}) < 2:
        return None
    by_density = sorted(rows, key=lambda k: rows[k][0])
    by_melting = sorted(rows, key=lambda k: rows[k][1])
    words = (
        f"By density: {', '.join(by_density)}. By melting point: {', '.join(by_melting)}. Melting point, colour and place in "
        "the light decide; density does not."
    )
    return Found(0.0, words, "holds partly" if by_density == by_melting else "wrong")


ADVICE: LoadAdvice[Portions] = LoadAdvice(sayings=(Saying("denser", "Denser things melt later.", _denser),))
