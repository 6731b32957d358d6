"""What a run did, as CSV: every part's temperature, the ledger's watts, what was drawn, what was damp, step by step."""

from __future__ import annotations

import csv
from datetime import datetime, tzinfo
from typing import TextIO

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.heat.cells import SHARES
from drylamp.core.loads.common.wood import equilibrium_mcs, shell_mc
from drylamp.core.twin.run import Drawn, Run
from drylamp.formats.cells import inert

QUARTER_L = 0.25
BOARDS_EVERY_S = 600.0
"""Runs with boards are written every ten minutes: months of them."""
MOST_QUARTERS = 20_000
"""Rows of a quarter litre each, at most, beside the steps' own: some two megabytes."""


def write_run_csv(file: TextIO, zone: tzinfo, run: Run) -> None:
    """Write a run.

    A row stands for an edge between two steps (with boards: every ten minutes); watts, flows and outlets are means of the step before it. Where a pipe is drawn from, each quarter litre
    has a row of its own between them, at the time at which it had all come, with its own mean temperature.
    """
    writer = csv.writer(file)
    nodes, accounts = list(run.temperature_c), list(run.account_w)
    drawn = {name: out for name, out in run.drawn.items() if out.kg.any()}
    damp = _damp(run)
    heads = [*damp, *(f"{name}_{what}" for name in drawn for what in ("l_min", "out_c"))]
    names = ["time", *(f"{name}_c" for name in nodes), "opening_w", *(f"{name}_w" for name in accounts), *heads]
    writer.writerow([inert(name) for name in names])
    every = max(1, round(BOARDS_EVERY_S / run.weather.dt_s)) if run.damp is not None and run.damp.cells else 1
    rows = [
        (float(run.edge_s[i]), _edge(run, nodes, accounts, drawn, damp, i)) for i in range(0, len(run.edge_s), every)
    ]
    for k, out in enumerate(drawn.values()):
        came = quarters(out)
        at = np.array([second for second, _ in came])
        parts = np.array([run.at(node, at) for node in nodes]).T
        blank = [""] * (1 + len(accounts) + len(damp) + 2 * k + 1)
        rows += [
            (second, [*map(_number, cells.tolist()), *blank, f"{warm:.3f}"])
            for (second, warm), cells in zip(came, parts, strict=True)
        ]
    for second, cells in sorted(rows, key=lambda row: row[0]):
        writer.writerow([datetime.fromtimestamp(second, zone).isoformat(), *cells])


def _damp(run: Run) -> dict[str, Array]:
    """What is damp, by column: air that each path moves, humidity by its air, water and weight of what dries, water on panes; at the edges."""
    damp = run.damp
    if damp is None:
        return {}
    before = {f"{name}_kg_s": (moved - damp.back_kg[name]) / run.weather.dt_s for name, moved in damp.moved_kg.items()}
    out = {name: np.concatenate(([np.nan], values)) for name, values in before.items()}
    out |= {f"{name}_g_kg": values for name, values in damp.gram_kg.items()}
    out |= {f"{name}_water_kg": values for name, values in damp.held_kg.items()}
    out |= {f"{name}_mass_kg": run.mass_kg[name] for name in damp.held_kg if name in run.mass_kg}
    for name, series in damp.cells.items():
        out |= _boards(name, series, run)
    if damp.cells:
        out |= _airs(run) | {
            f"{path}_fan": np.concatenate(([np.nan], ran / run.weather.dt_s)) for path, ran in run.ran_s.items()
        }
    return out | {f"{name}_activity": damp.activity[name] for name in damp.held_kg if name in run.mass_kg}


def _boards(name: str, series: Array, run: Run) -> dict[str, Array]:
    """Mean, shell (outer twelfth of the half thickness), core, and loss over the day before, of boards."""
    mean = series @ SHARES
    day = round(86400.0 / run.weather.dt_s)
    loss = np.full(len(mean), np.nan)
    loss[day:] = mean[:-day] - mean[day:]
    return {
        f"{name}_mean_mc": mean, f"{name}_shell_mc": shell_mc(series), f"{name}_core_mc": series[:, 0], f"{name}_loss_per_day": loss,
    }  # fmt: skip


def _airs(run: Run) -> dict[str, Array]:
    """Relative humidity and EMC of the air beside each vapour node that has one of its own name."""
    out = dict[str, Array]()
    for vapour in run.damp.gram_kg if run.damp is not None else ():
        air = vapour.removesuffix("-vapour")
        if air in run.temperature_c:
            rh = run.relative_humidity(air)
            out |= {f"{air}_rh": rh, f"{air}_emc": equilibrium_mcs(run.temperature_c[air], rh)}
    return out


def _edge(
    run: Run, nodes: list[str], accounts: list[str], drawn: dict[str, Drawn], damp: dict[str, Array], i: int
) -> list[str]:
    before = i - 1
    watts = (
        [run.opening_w[before], *(run.account_w[name][before] for name in accounts)]
        if i
        else [np.nan] * (len(accounts) + 1)
    )
    flows = [
        cell
        for out in drawn.values()
        for cell in ((out.kg[before] / run.weather.dt_s * 60.0, out.celsius[before]) if i else (np.nan, np.nan))
    ]
    plain = [_number(float(value)) for value in (*(run.temperature_c[name][i] for name in nodes), *watts)]
    wet = [_fine(float(values[i])) for values in damp.values()]
    return [*plain, *wet, *(_number(float(value)) for value in flows)]


def _number(value: float) -> str:
    return "" if value != value else f"{value:.3f}"


def _fine(value: float) -> str:
    return "" if value != value else f"{value:.5f}"


def quarters(out: Drawn) -> list[tuple[float, float]]:
    """When each quarter litre had come, s since 1970, and its mean temperature; none where what came is too much to list."""
    ends: Array = np.cumsum(out.lot_kg)
    whole = int(ends[-1] / QUARTER_L + 1e-9) if len(ends) else 0
    if not 0 < whole <= MOST_QUARTERS:
        return []
    heat = np.concatenate(([0.0], np.cumsum(out.lot_kg * out.lot_c)))
    at = QUARTER_L * np.arange(whole + 1)
    taken = np.interp(at, np.concatenate(([0.0], ends)), heat)
    times = np.interp(at[1:], ends, out.time_s)
    return list(zip(times.tolist(), (np.diff(taken) / QUARTER_L).tolist(), strict=True))
