"""A trial with water that runs: what was read at its tap leads the twin, and what the twin lets out is read as any part is."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.coil.rows import row_number
from drylamp.core.builds.protocol import FLOW, INLET, OUTLET
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.load import Load
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.twin.run import Run

MAINS_DOUBT_K = 2.0
"""Of mains whose temperature nobody read; from memory."""


def rows_read(facts: TrialFacts) -> dict[int, ChannelFacts]:
    """Channels of the rows' own flows that have readings, by number."""
    read = {row_number(c.node): c for c in facts.channels if c.quantity == "flow" and c.times}
    return {number: read[number] for number in sorted(n for n in read if n is not None)}


def flow_read(facts: TrialFacts) -> tuple[Array, Array, float] | None:
    """Seconds, litres a minute and their doubt as a share: of the whole, or of all rows together; none where nobody read it."""
    whole = facts.of_node(FLOW, "flow")
    if whole is not None:
        return whole.seconds, np.array(whole.values), whole.doubt
    rows = list(rows_read(facts).values())
    if not rows:
        return None
    at = rows[0].seconds
    total = np.sum([np.interp(at, row.seconds, row.values) for row in rows], axis=0)
    return at, total, rows[0].doubt / float(np.sqrt(len(rows)))


def led_by_tap(facts: TrialFacts) -> TrialFacts:
    """The trial with its load's flow and inlet as they were read, where they were."""
    load, inlet, flow = facts.load, facts.of_node(INLET), flow_read(facts)
    if load is None or not load.tap or flow is None:
        return facts
    out = facts.of_node(OUTLET)
    ran = flow[0] if out is None else np.concatenate((flow[0], out.seconds))
    as_read = Fed(
        time_s=tuple(map(float, flow[0])),
        l_min=tuple(map(float, flow[1])),
        begins_s=float(ran.min()),
        ends_s=float(ran.max()),
        inlet_s=() if inlet is None else tuple(map(float, inlet.seconds)),
        inlet_c=() if inlet is None else tuple(inlet.values),
    )
    return facts.model_copy(update={"load": load.fed(as_read)})


def not_told(one: TrialFacts, other: TrialFacts) -> str:
    """What two trials with running water cannot tell of a change; nothing where flow was read in both."""
    runs = any(facts.load is not None and facts.load.tap for facts in (one, other))
    if not runs or (flow_read(one) is not None and flow_read(other) is not None):
        return ""
    return "Flow was not read in both trials: what a change did to the heat that the water carried off cannot be told from degrees alone."


def with_outlet(run: Run, load: Load | None) -> Run:
    """The run with what left by the tap as one more temperature, NaN while nothing did."""
    out = None if load is None else run.went_round or run.drawn.get(load.tap)
    if out is None:
        return run
    before, after = np.append(np.nan, out.celsius), np.append(out.celsius, np.nan)
    at_edges = np.where(np.isnan(before), after, np.where(np.isnan(after), before, (before + after) / 2.0))
    return replace(
        run,
        temperature_c=run.temperature_c | {OUTLET: at_edges},
        titles=run.titles | {OUTLET: "water coming out"},
        roles=run.roles | {OUTLET: "wanted"},
    )
