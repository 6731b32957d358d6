"""Flat mirrors hinged on the edges of an opening."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core import tables
from drylamp.core.checks import Model, Number
from drylamp.core.tables import Mirror, MirrorChoice

LEAST_FLAP_M, LONGEST_FLAP_M, WIDEST_MIRROR_M = 0.05, 3.0, 12.0


class FlapMirror(Model):
    """A flat mirror hinged on an edge of the opening, as wide as that edge."""

    material: MirrorChoice = Field(default="kitchen-foil", title="Surface")
    angle_deg: Annotated[Number, Field(ge=45, le=175)] = Field(
        default=110,
        title="Angle to the opening",
        description="90° stands square on the opening, 180° lies in its plane",
    )
    length_m: Annotated[Number, Field(ge=LEAST_FLAP_M, le=LONGEST_FLAP_M)] = 0.45

    def longer(self, times: float) -> FlapMirror:
        """The same so many times as long, as far as a flap may be."""
        return self.model_copy(
            update={"length_m": round(min(max(self.length_m * times, LEAST_FLAP_M), LONGEST_FLAP_M), 3)}
        )

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)


class StandingMirror(Model):
    """A flat mirror that stands behind the opening by itself, on a wall, a fence or a stretched film, and looks the way the build does."""

    material: MirrorChoice = Field(default="mirror-film", title="Surface")
    lean_deg: Annotated[Number, Field(ge=-45, le=60)] = Field(
        default=0.0, title="Leans back", description="From upright; below 0 it hangs over what it lights"
    )
    width_m: Annotated[Number, Field(ge=0.05, le=WIDEST_MIRROR_M)] = Field(default=1.2, title="Width")
    height_m: Annotated[Number, Field(ge=0.05, le=4)] = Field(default=1.0, title="Height", description="Along it")
    away_m: Annotated[Number, Field(ge=0.001, le=5)] = Field(
        default=0.1, title="Behind the upper edge", description="Level, to its foot"
    )
    foot_m: Annotated[Number, Field(ge=-3, le=3)] = Field(
        default=0.0, title="Foot over the upper edge", description="Below 0: it begins lower"
    )

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)


class MoreFlaps(Model):
    """Mirrors on the other three edges; left and right as seen by somebody who stands at the lower edge."""

    lower: FlapMirror | None = Field(default=None, title="Lower edge")
    left: FlapMirror | None = Field(default=None, title="Left edge")
    right: FlapMirror | None = Field(default=None, title="Right edge")

    def stretched(self, wide: float, long: float) -> MoreFlaps:
        """As an opening grows so many times wider and longer: each as long as before against what it shines across."""
        by = {"lower": long, "left": wide, "right": wide}
        flaps = {edge: getattr(self, edge) for edge in by}
        return MoreFlaps(**{edge: None if flap is None else flap.longer(by[edge]) for edge, flap in flaps.items()})

    @property
    def any(self) -> bool:
        """Whether there is one."""
        return not (self.lower is None and self.left is None and self.right is None)
