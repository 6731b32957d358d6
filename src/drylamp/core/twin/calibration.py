"""What trials may correct in the twin: factors on its doubtful parameters."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Model, Positive
from drylamp.core.loads.load import Load
from drylamp.core.twin.light import LitNetwork

_PLAIN = ("optical", "loss", "leak", "mass", "contact")


class Calibration(Model):
    """Factors on the twin's doubtful parameters; ``parts`` by the parameter's own name."""

    optical: Positive = 1.0
    loss: Positive = 1.0
    leak: Positive = 1.0
    mass: Positive = 1.0
    contact: Positive = 1.0
    parts: dict[str, Positive] = Field(default_factory=dict, description="Such as absorptance:sample-a")

    def of(self, name: str) -> float:
        """The factor of that name; 1 where nothing is said."""
        return float(getattr(self, name)) if name in _PLAIN else self.parts.get(name, 1.0)

    def with_factor(self, name: str, factor: float) -> Calibration:
        """The same with another factor."""
        if name in _PLAIN:
            return self.model_copy(update={name: factor})
        return self.model_copy(update={"parts": {**self.parts, name: factor}})

    @staticmethod
    def made(factors: dict[str, float]) -> Calibration:
        """A calibration from factors by name."""
        plain = {name: value for name, value in factors.items() if name in _PLAIN}
        return Calibration(**plain, parts={name: value for name, value in factors.items() if name not in _PLAIN})


TEXTBOOK = Calibration()
"""Nothing corrected."""


def calibrated(lit: LitNetwork, calibration: Calibration, build: Build, load: Load | None) -> LitNetwork:
    """Scale sun, losses and heat capacities by a calibration's factors; what is useful keeps its own mass."""
    if calibration == TEXTBOOK:
        return lit
    network, useful = lit.network, kind_of(build).useful(build, load)
    moved = {name: factor for name in {x.calibrated_by for x in network.links} if (factor := calibration.of(name)) != 1}
    links = tuple(
        replace(link, params=(link.params[0] * moved[link.calibrated_by], *link.params[1:]))
        if link.calibrated_by in moved
        else link
        for link in network.links
    )
    nodes = tuple(
        node
        if node.name in useful or calibration.mass == 1
        else replace(node, capacity_j_k=node.capacity_j_k * calibration.mass)
        for node in network.nodes
    )
    nodes = tuple(
        replace(node, wet=node.wet.quicker(calibration.of(node.wet.calibrated_by)))
        if node.wet is not None and node.wet.calibrated_by
        else node
        for node in nodes
    )
    share = np.array([calibration.optical * calibration.of(f"absorptance:{node.name}") for node in network.nodes])
    return LitNetwork(replace(network, nodes=nodes, links=links), lit.source_w * share, lit.intercepted_w)
