"""What a load adds to a pipe in the sun: where its water comes from, and where it goes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from drylamp.core.heat.parts import Link, Node
from drylamp.core.heat.pipes import Stream

if TYPE_CHECKING:
    from drylamp.core.air.draught import FlowPath


@dataclass(frozen=True)
class Plumbed:
    """A stream with all that hangs on it: pipes to and fro, a store and what it loses, the paths through it."""

    stream: Stream
    nodes: tuple[Node, ...] = ()
    links: tuple[Link, ...] = ()
    paths: tuple[FlowPath, ...] = ()
