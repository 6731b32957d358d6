"""What an event that is noted in a trial must say."""

from __future__ import annotations

from collections.abc import Collection

from drylamp.core.builds.protocol import EVENTS, EventKind
from drylamp.core.checks import InputProblem
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import SKY_INDEX
from drylamp.core.trials.facts import pair_noted


def check_event(kind: EventKind, note: str, site: Site, channels: Collection[str]) -> None:
    """Refuse an event whose note does not hold what its kind asks for.

    Raises
    ------
    InputProblem
        no such spot, sky or pair of channels is known.
    """
    asks, pair = EVENTS[kind].asks, pair_noted(note)
    if asks == "spot":
        site.spot(note.strip() or None)
    if asks == "sky" and note.strip().lower() not in SKY_INDEX:
        raise InputProblem("note", f"'{note}' was given; allowed: {', '.join(SKY_INDEX)}")
    if asks == "channels" and (pair is None or not set(pair) <= set(channels)):
        raise InputProblem("note", f"'{note}' was given; name two channels as one|other, of {', '.join(channels)}")
