r"""Mirrors that fold out beside a tube: pipes cut in half, strips bent to a parabola, or flat ones; the left one is the right one's image.

Cut square to the tube, its axis at (0, 0) and the side that looks at the sky up. A wing begins at its hinge and is folded shut while the
chord from there to its tip stands straight up; opening turns it outward::

              tip                      half-pipe: chord = 2 r sin(arc / 2), folded shut the two make a pipe round the tube
      (       |                        parabola: z = x²/(4 f) from one x to another
       ( tube |)  wing
        `--o--'                        o hinge, ``below`` the axis and so far ``apart`` from the middle
"""

from __future__ import annotations

import itertools
import math
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from drylamp.core import tables
from drylamp.core.arrays import Array
from drylamp.core.checks import Model, Number, require
from drylamp.core.forms import asked
from drylamp.core.optics.geometry import Facet
from drylamp.core.tables import Layer, LayerChoice, Mirror, MirrorChoice

STRIPS = 32
"""Flat strips of a curved wing: at a single angle of the sun they are off by up to a twentieth, over a morning by less than a hundredth (a test holds them
against the circle itself)."""
LENGTH = Annotated[Number, Field(gt=0, le=1.5)]
CURVED_MRAD = {"true": 2.0, "fair": 10.0, "rough": 25.0}
"""How far the normal of a sheet strays that was bent by hand, beside the sheet's own error; from memory."""


class Wings(Model):
    """Two mirrors beside a tube."""

    settling: ClassVar[frozenset[str]] = frozenset()

    shape: Literal["half-pipe", "parabola", "flat"] = Field(
        default="half-pipe", title="Shape",
        json_schema_extra=asked(options={"half-pipe": "half a pipe", "parabola": "bent to a parabola", "flat": "flat"}),
    )  # fmt: skip
    material: MirrorChoice = Field(default="smooth-foil", title="Surface")
    backing: LayerChoice = Field(default="pvc-pipe", title="Made of")
    curve: Literal["true", "fair", "rough"] = Field(
        default="fair", title="Curve", description="How true it is",
        json_schema_extra=asked(options={"true": "true, a drawn pipe", "fair": "fair, bent round formers", "rough": "rough, by eye"}),
    )  # fmt: skip
    open_deg: Annotated[Number, Field(ge=0, le=150)] = Field(
        default=75.0, title="Opened", description="0: folded shut; 90: tips as low as hinges"
    )
    radius_m: LENGTH = Field(
        default=0.055, title="Radius", description="Inside of the pipe", json_schema_extra=asked(only_with={"shape": ["half-pipe"]})
    )  # fmt: skip
    arc_deg: Annotated[Number, Field(ge=10, le=300)] = Field(
        default=180.0, title="Of the circle", description="180: cut in half", json_schema_extra=asked(only_with={"shape": ["half-pipe"]})
    )  # fmt: skip
    focus_m: LENGTH = Field(
        default=0.04, title="Focal length", json_schema_extra=asked(only_with={"shape": ["parabola"]})
    )
    from_m: Annotated[Number, Field(ge=-1, le=1.5)] = Field(
        default=0.0, title="Curve begins", description="From the parabola's middle", json_schema_extra=asked(only_with={"shape": ["parabola"]})
    )  # fmt: skip
    to_m: LENGTH = Field(
        default=0.12, title="Curve ends", description="From the parabola's middle", json_schema_extra=asked(only_with={"shape": ["parabola"]})
    )  # fmt: skip
    wide_m: LENGTH = Field(default=0.12, title="Wide", json_schema_extra=asked(only_with={"shape": ["flat"]}))
    below_m: Annotated[Number, Field(ge=-0.5, le=1)] = Field(
        default=0.05, title="Hinge under the tube", description="Below its axis"
    )
    apart_m: Annotated[Number, Field(ge=0, le=1)] = Field(
        default=0.004, title="Hinge from the middle", description="To each side"
    )
    slope_error_mrad: Annotated[Number, Field(ge=0, le=100)] | None = Field(
        default=None, description="Of sheet and curve together, where that is known", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    reflectance: Annotated[Number, Field(ge=0, le=1)] | None = Field(
        default=None, description="Of its surface, where that is known better than by its row", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    @model_validator(mode="after")
    def _has_a_length(self) -> Wings:
        require(
            self.shape != "parabola" or self.to_m > self.from_m + 0.005, "to_m",
            f"a curve from {self.from_m:g} to {self.to_m:g} m was given; it has to end at least 5 mm beyond where it begins",
        )  # fmt: skip
        return self

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)

    @property
    def backing_row(self) -> Layer:
        """What it is made of."""
        return tables.layer(self.backing)

    @property
    def thrown_on(self) -> float:
        """Share of the light that it throws on."""
        return self.row.reflectance if self.reflectance is None else self.reflectance

    @property
    def error_mrad(self) -> float:
        """Slope error of sheet and curve together."""
        if self.slope_error_mrad is not None:
            return self.slope_error_mrad
        curved = 0.0 if self.shape == "flat" else CURVED_MRAD[self.curve]
        return math.hypot(self.row.slope_error_mrad, curved)

    def cut(self) -> Array:
        """The right wing square to the tube, from its hinge to its tip, metres, shape (STRIPS + 1, 2); one strip where it is flat."""
        own = self._shut()
        turn = math.radians(self.open_deg)
        outward = np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])
        return np.asarray(own @ outward + np.array([self.apart_m, -self.below_m]))

    def _shut(self) -> Array:
        """Folded shut, its hinge at (0, 0) and its tip straight over it."""
        if self.shape == "flat":
            return np.array([[0.0, 0.0], [0.0, self.wide_m]])
        if self.shape == "half-pipe":
            turn = np.linspace(0.0, math.radians(self.arc_deg), STRIPS + 1)
            points = self.radius_m * np.stack([np.sin(turn), 1.0 - np.cos(turn)], axis=1)
        else:
            across = np.linspace(self.from_m, self.to_m, STRIPS + 1)
            points = np.stack([across, across**2 / (4.0 * self.focus_m)], axis=1) - [
                self.from_m,
                self.from_m**2 / (4.0 * self.focus_m),
            ]
        up = math.pi / 2.0 - math.atan2(points[-1, 1], points[-1, 0])
        upright = np.array([[math.cos(up), math.sin(up)], [-math.sin(up), math.cos(up)]])
        return np.asarray(points @ upright)

    @property
    def chord_m(self) -> float:
        """From hinge to tip."""
        return float(np.linalg.norm(self._shut()[-1]))

    @property
    def sheet_m(self) -> float:
        """Along the curve, of one wing."""
        return float(np.linalg.norm(np.diff(self._shut(), axis=0), axis=1).sum())

    @property
    def level_deg(self) -> float:
        """Opening at which a parabola looks straight up."""
        return 90.0 - math.degrees(
            math.atan2((self.to_m**2 - self.from_m**2) / (4.0 * self.focus_m), self.to_m - self.from_m)
        )

    @property
    def spread_m(self) -> float:
        """From tip to tip, or hinge to hinge where that is wider."""
        return 2.0 * float(np.abs(self.cut()[:, 0]).max())

    def nearest_m(self) -> float:
        """How near it comes to the tube's axis."""
        points = self.cut()
        start, edge = points[:-1], np.diff(points, axis=0)
        share = np.clip(-(start * edge).sum(axis=1) / (edge**2).sum(axis=1), 0.0, 1.0)
        return float(np.linalg.norm(start + share[:, None] * edge, axis=1).min())

    def facets(self, first_m: float, last_m: float, across_m: float = 0.0) -> list[Facet]:
        """Both wings as strips along a tube whose axis lies at x = ``across_m``, z = 0 and runs along y between two places."""
        out, along = list[Facet](), np.array([0.0, last_m - first_m, 0.0])
        for a, b in itertools.pairwise(self.cut()):
            for side, (one, other) in ((1.0, (a, b)), (-1.0, (b, a))):
                low, high = (np.array([across_m + side * p[0], first_m, p[1]]) for p in (one, other))
                corners = np.array([low, high, high + along, low + along])
                out.append(Facet("wing", corners, "mirror", self.thrown_on, self.error_mrad))
        return out
