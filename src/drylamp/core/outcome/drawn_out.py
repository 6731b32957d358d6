"""What a draw gave, litre by litre, out of a tank or a pipe."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.loads.common.draws import Draw
from drylamp.core.sky.clock import instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.twin.run import Run

MOST_LITRES = 60


class LitreOut(Model):
    """One litre of a draw, in the order in which they come."""

    litre: int
    celsius_c: float


class DrawOut(Model):
    """What one draw gave, litre by litre.

    Attributes:
        fall_k: how much all the water fell that it came from; none of a pipe
    """

    time: datetime
    litres: list[LitreOut]
    mean_c: float
    fall_k: float | None = None


def litre_by_litre(run: Run, tap: str, begin: float, end: float) -> list[LitreOut]:
    """What left by a tap between two instants, litre by litre; a last part of a litre is left out unless it is all there is."""
    out = run.drawn[tap]
    time_s, lot_kg, lot_c = out.time_s, out.lot_kg, out.lot_c
    if not len(time_s):  # out of a tank: step by step
        time_s, lot_kg, lot_c = run.edge_s[:-1], out.kg, out.celsius
    mine = (time_s >= begin) & (time_s < end) & (lot_kg > 0)
    kg, warm = lot_kg[mine], lot_c[mine]
    ends = np.cumsum(kg)
    whole = min(max(int(ends[-1] + 0.01), 1), MOST_LITRES) if len(ends) else 0
    found = []
    for litre in range(whole):
        part = np.clip(np.minimum(ends, litre + 1) - np.maximum(ends - kg, litre), 0.0, None)
        found.append(LitreOut(litre=litre + 1, celsius_c=round(float((part * warm).sum() / part.sum()), 1)))
    return found


def draws_out(
    site: Site, day: date, draws: Sequence[Draw], run: Run, tap: str, held_c: Array | None = None
) -> list[DrawOut]:
    """Each draw of a day that came; ``held_c`` is the mean of the water that it came from, shape (steps + 1,)."""
    found = []
    for draw in sorted(draws, key=lambda d: d.at):
        begin = instant_s(site.zone, day, draw.at)
        end = begin + 60.0 * draw.take_l / draw.l_min
        made = litre_by_litre(run, tap, begin, end + 1.0)
        if not made:
            continue
        fall = (
            None if held_c is None else float(np.interp(begin, run.edge_s, held_c) - np.interp(end, run.edge_s, held_c))
        )
        mean = sum(one.celsius_c for one in made) / len(made)
        found.append(DrawOut(time=local_time(site.zone, begin), litres=made, mean_c=mean, fall_k=fall))
    return found
