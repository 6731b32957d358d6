"""What speaks against a change or a school's answer, so that no advice runs ahead of safety: stuff that does not stand the heat, loads that slip."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.kept import Kept
from drylamp.core.loads.load import Load
from drylamp.core.text import celsius


@dataclass(frozen=True)
class HotParts:
    """How hot each part of the build gets on the day when it stands empty, and what it is made of now.

    Another sheet or finish gets about as hot as what it takes the place of: so one empty run speaks for all changes.
    """

    celsius: dict[str, float]
    made_of: frozenset[tuple[str, str]]

    @classmethod
    def of(cls, context: AdviceContext) -> HotParts:
        """Those of the day and build, kept."""
        empty = context.of(context.build, None)
        return _HOT.get(empty.key, lambda: cls._run(empty))

    @classmethod
    def _run(cls, context: AdviceContext) -> HotParts:
        """Run the empty build."""
        run, build = context.run(context.build, None), context.build
        hottest = {node: float(np.nanmax(series)) for node, series in run.temperature_c.items()}
        return cls(hottest, frozenset((stuff.node, stuff.row.name) for stuff in kind_of(build).stuffs(build)))

    def against(self, build: Build, load: Load | None) -> str:
        """What speaks against a build with a load; empty where nothing is known."""
        for stuff in kind_of(build).stuffs(build):
            hot = self.celsius.get(stuff.node)
            if hot is not None and hot > stuff.row.top_service_c and (stuff.node, stuff.row.name) not in self.made_of:
                return f"{stuff.row.title} lasts to {celsius(stuff.row.top_service_c)}, and it would get to about {celsius(hot)} standing empty"
        return build.lets_go_of(load)

    def stands(self, node: str, top_service_c: float) -> bool:
        """Whether something that lasts to a temperature may be put in a part's place."""
        return self.celsius.get(node, -273.0) <= top_service_c


_HOT: Kept[str, HotParts] = Kept(64)
