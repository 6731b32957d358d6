"""Which channels a trial of a build begins with: what its protocol wants read, as far as the build and its load have it."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.builds.build import Build
from drylamp.core.builds.protocol import Wanted
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.load import Load, Reader
from drylamp.core.trials.facts import WEATHER_NODES
from drylamp.core.trials.protocols import Protocol
from drylamp.core.twin.light import traced

OUTSIDE = "outside"
"""Where a control stands."""


@dataclass(frozen=True)
class Channel:
    """A channel to begin with."""

    name: str
    title: str
    node: str
    is_control: bool
    instrument: str


def readable_nodes(build: Build, load: Load | None) -> set[str]:
    """Nodes of a build and what is in it, the weather's and the control's place."""
    kind_of(build).check_fit(build, load)
    return {*traced(build, load).network.names, *WEATHER_NODES, OUTSIDE}


def usual_channels(protocol: Protocol, build: Build, load: Load | None) -> list[Channel]:
    """What a protocol wants read; optional channels, and those of parts that the build does not have, are left out.

    When nothing of the build itself is left, its hottest part is read.
    """
    there = readable_nodes(build, load)
    several = build.readers() | ({} if load is None else load.readers())
    out: list[Channel] = []
    for wanted in protocol.channels:
        if wanted.optional:
            continue
        if wanted.node in several:
            out += [_of_several(reader, wanted) for reader in several[wanted.node]]
        elif wanted.node in there:
            name = "control" if wanted.is_control else wanted.node
            out.append(Channel(name, wanted.title, wanted.node, wanted.is_control, wanted.instrument))
    if all(channel.node in (*WEATHER_NODES, OUTSIDE) for channel in out):
        out.insert(0, _hottest_part(build, protocol.channels[0].instrument))
    return out


def _hottest_part(build: Build, instrument: str) -> Channel:
    kind = kind_of(build)
    node = kind.stagnation_node(build)
    return Channel(node, kind.parts.get(node, node.replace("-", " ")), node, False, instrument)


def _of_several(reader: Reader, wanted: Wanted) -> Channel:
    return Channel(reader.name, reader.title, reader.node, False, wanted.instrument)
