"""Figures of a trial with portions."""

from __future__ import annotations

from collections.abc import Callable
from typing import cast

import numpy as np

from drylamp.core.loads.portions.spec import Portions, state_of
from drylamp.core.trials.figure import Figure, Found


def portion_states(found: Found) -> Figure | None:
    """How far each portion got by its probe: how many melted, and which the twin has otherwise."""
    at, load = found.at, cast(Portions, found.at.facts.load)
    said, melted, agree = [], 0, 0
    for portion in load.portions:
        channel = at.facts.of_node(portion.node)
        twin = state_of(portion.row, at.likely.temperature_c[portion.node])
        if channel is None:
            said.append(f"{portion.title}: no probe, the twin says {twin}")
            continue
        state = state_of(portion.row, np.array(channel.values))
        melted += state in ("melted", "browned")
        agree += state == twin
        said.append(f"{portion.title} {state}" + ("" if state == twin else f" (the twin: {twin})"))
    return Figure(
        name="portion-states", needs_words=True, title="Portions melted", value=float(melted), doubt=None, quantity="count", twin=None,
        grade=f"twin right on {agree} of {len(load.portions)}", words="; ".join(said) + ".",
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {"portion-states": portion_states}
