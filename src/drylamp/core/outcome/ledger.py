"""Where the sun at the opening went."""

from __future__ import annotations

from datetime import datetime

import numpy as np

from drylamp.core.builds.registry import accounts_of
from drylamp.core.checks import Model
from drylamp.core.sky.clock import local_time
from drylamp.core.twin.case import Case
from drylamp.core.twin.run import Run


class LedgerLine(Model):
    """One line of the ledger: watts as a mean, and its share of each 100 W of sun at the opening."""

    account: str
    title: str
    watts: float
    of_hundred: float


class Ledger(Model):
    """Where the sun at the opening went between two times."""

    start: datetime
    end: datetime
    opening_w: float
    opening_wh: float
    lines: list[LedgerLine]


def ledger_between(case: Case, run: Run, start_s: float, end_s: float) -> Ledger:
    """Mean watts by account over a time, and of each hundred watts of sun at the opening."""
    dt, zone = run.weather.dt_s, case.site.zone
    first = int(np.clip(np.floor((start_s - run.weather.start_s) / dt), 0, run.weather.steps - 1))
    last = int(np.clip(np.ceil((end_s - run.weather.start_s) / dt), first + 1, run.weather.steps))
    opening = float(run.opening_w[first:last].mean())
    lines = []
    for account, line in accounts_of(case.build, case.load).items():
        watts = float(run.account_w[account][first:last].mean())
        share = 100.0 * watts / opening if opening > 1.0 else 0.0
        lines.append(LedgerLine(account=account, title=line.title, watts=watts, of_hundred=share))
    return Ledger(
        start=local_time(zone, run.edge_s[first]),
        end=local_time(zone, run.edge_s[last]),
        opening_w=opening,
        opening_wh=opening * (last - first) * dt / 3600.0,
        lines=lines,
    )


def sunlit_ledger(case: Case, run: Run) -> Ledger:
    """The ledger from the first sun on the opening to the last (the whole run when there is none)."""
    lit = np.flatnonzero(run.opening_w > 1.0)
    if len(lit) == 0:
        return ledger_between(case, run, run.edge_s[0], run.edge_s[-1])
    return ledger_between(case, run, run.edge_s[lit[0]], run.edge_s[lit[-1] + 1])
