"""The batch box: a black trough of water in an insulated box, level, its glass level or sloping."""

from __future__ import annotations

import math
from typing import Annotated, Literal, Self

from pydantic import BaseModel, Field

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.box.spec import INSIDE, Box
from drylamp.core.builds.common.lid.spec import NightLid
from drylamp.core.builds.common.mirror.spec import WIDEST_MIRROR_M, FlapMirror, StandingMirror
from drylamp.core.checks import Azimuth, Fraction, Number, Tilt, YesNo
from drylamp.core.common.coil import Coil
from drylamp.core.common.wall import WallLayer
from drylamp.core.forms import asked
from drylamp.core.loads.load import Load
from drylamp.core.tables import Absorber, FinishChoice, absorber

LITRES_M3 = 1000.0
REFLECTED, RETURNED = 0.03, 0.48
"""What water throws back of light that falls on it, and of even light that comes up from its bed (Fresnel, n = 1.33; the first is a mean
over a day's angles, from memory)."""
FILM_SHARE, BUBBLE_SHARE = 0.08, 0.10
"""Light that a film on the water, and bubbles all over under it take away; from memory (5–10 %)."""
WATER_EMITTANCE = 0.95
LEANS_DEG = (-30.0, 45.0)
"""How far what stands behind a box is tried."""


class BatchBox(Box):
    """Water in a trough under glass; sizes are inside."""

    kind: Literal["batch-box"] = "batch-box"
    facing_deg: Azimuth = faces("The way its glass leans, or its mirror throws")
    tilt_deg: Annotated[Tilt, Field(le=60)] = Field(
        default=0.0, title="Slope of the glass", description="The water stays level", json_schema_extra=asked("aim")
    )
    width_m: INSIDE = Field(default=1.0, json_schema_extra=asked("box"))
    length_m: INSIDE = Field(
        default=0.6, title="Length, front to back", description="Along the glass", json_schema_extra=asked("box")
    )
    height_m: INSIDE = Field(
        default=0.22,
        title="Height, bed to cover",
        description="At the low side where the glass slopes",
        json_schema_extra=asked("box"),
    )
    lining: FinishChoice = Field(
        default="pale-paint",
        title="Finish",
        description="Of the walls above the water",
        json_schema_extra=asked("lining"),
    )
    tray: FinishChoice = Field(
        default="flat-black-paint",
        title="Finish",
        description="Bed and sides under water",
        json_schema_extra=asked("tray"),
    )
    tray_sheet: WallLayer = Field(
        default=WallLayer(material="sheet-steel", thickness_m=0.0008), title="Sheet", description="What the trough is made of",
        json_schema_extra=asked("tray"),
    )  # fmt: skip
    mirror: FlapMirror | None = Field(
        default=None, title="Mirror lid", description="Hinged on the upper edge", json_schema_extra=asked("mirror")
    )
    behind: StandingMirror | None = Field(
        default=None, title="Mirror behind it", description="On a wall, a fence or a frame of its own",
        json_schema_extra=asked("behind"),
    )  # fmt: skip
    lid: NightLid | None = Field(
        default=None, title="Night lid", description="Foam over the glass", json_schema_extra=asked("lid")
    )
    coil: Coil | None = Field(
        default=None, title="Coil in the water",
        description="Mains run through it and take the heat; none: the water itself is drawn", json_schema_extra=asked("coil"),
    )  # fmt: skip
    water_film: YesNo = Field(
        default=False,
        title="film on the water",
        description="Clear film that floats: no vapour",
        json_schema_extra=asked("water"),
    )
    plate: FinishChoice | None = Field(
        default=None, title="Plate on the water", description="Dark, floating or held just under the surface: no vapour", json_schema_extra=asked("water")
    )  # fmt: skip
    plate_w_m2k: Annotated[Number, Field(gt=0, le=2000)] = Field(
        default=150.0, title="From plate to water, W/m²K", description="Wet underneath about 150; with air under it 10", json_schema_extra=asked("water")
    )  # fmt: skip
    seals_vapour: YesNo = Field(
        default=False, title="Gasket all round", description="Keeps vapour in: it drips back from the cover",
        json_schema_extra=asked("seal"),
    )  # fmt: skip
    bubbles_share: Fraction = Field(
        default=0.0,
        title="Bubbles under the film",
        description="Share of it",
        json_schema_extra=asked("water", only_with={"water_film": [True]}),
    )
    fog_share: Fraction = Field(
        default=0.0, title="Fog on the cover", description="Share of it, in the sun", json_schema_extra=asked("water")
    )
    scale_mm: Annotated[Number, Field(ge=0, le=20)] = Field(
        default=0.0, title="Scale on the trough", description="Lime from hard water", json_schema_extra=asked("water")
    )

    @property
    def is_wedge(self) -> bool:
        """Its water is level whatever its glass does."""
        return True

    @property
    def mirror_behind(self) -> StandingMirror | None:
        """What stands behind it."""
        return self.behind

    def without_mirrors(self) -> Self:
        """A copy with neither lid nor fence that mirrors."""
        return super().without_mirrors().with_(behind=None)

    @property
    def flap_angle_deg(self) -> float | None:
        """Angle of the mirror lid; without one, the lean of what stands behind it."""
        return super().flap_angle_deg if self._sets_lid or self.behind is None else self.behind.lean_deg

    @property
    def flap_path(self) -> str:
        """Where that stands."""
        return super().flap_path if self._sets_lid else "behind.lean_deg"

    @property
    def flap_range_deg(self) -> tuple[float, float]:
        """How far it goes."""
        return super().flap_range_deg if self._sets_lid else LEANS_DEG

    def without_flap(self) -> Self:
        """A copy without that mirror."""
        return super().without_flap() if self._sets_lid else self.with_(behind=None)

    def with_flap_at(self, angle_deg: float) -> Self:
        """A copy with that mirror at another angle."""
        if self._sets_lid or self.behind is None:
            return super().with_flap_at(angle_deg)
        return self.with_(behind=self.behind.model_copy(update={"lean_deg": angle_deg}))

    @property
    def _sets_lid(self) -> bool:
        return self.mirror is not None

    def fresh(self, field: str) -> BaseModel:
        """A lid and a coil as they usually are."""
        usual: dict[str, type[BaseModel]] = {
            "lid": NightLid,
            "coil": Coil,
            "mirror": FlapMirror,
            "behind": StandingMirror,
        }
        return usual[field]() if field in usual else super().fresh(field)

    def depth_m(self, load: Load | None) -> float:
        """How deep the water stands; 0 when dry."""
        filling = None if load is None else load.filling
        return 0.0 if filling is None else filling.litres / LITRES_M3 / self.floor_m2

    @property
    def holds_l(self) -> float:
        """Litres to a hand's breadth of a finger under the low edge."""
        return max(self.height_m - FREEBOARD_M, 0.0) * self.floor_m2 * LITRES_M3

    @property
    def longest_coil_m(self) -> float:
        """Longest coil that lies in one layer on the bed, its turns half a diameter apart."""
        return math.inf if self.coil is None else self.floor_m2 / (1.5 * self.coil.outer_mm / 1000.0)

    def stretched(self, wide: float, long: float) -> BatchBox | None:
        """What stands behind it grows as wide."""
        behind = self.behind
        if behind is not None:
            behind = behind.model_copy(update={"width_m": min(behind.width_m * wide, WIDEST_MIRROR_M)})
        larger = super().stretched(wide, long)
        return None if larger is None else larger.with_(behind=behind)

    def as_light_meets_it(self) -> BatchBox:
        """The same with whatever light does not mind made alike."""
        return super().as_light_meets_it().with_(lid=None, coil=None)

    def filled(self, load: Load | None) -> BatchBox:
        """The box as sun and long-wave see it when water stands in it: shallower, its bed seen through the water."""
        depth = self.depth_m(load)
        if depth <= 0.0:
            return self
        if self.plate is not None:
            return self.with_(tray=self.plate, height_m=self.height_m - depth)
        bed = absorber(self.tray)
        lost = 1.0 - (1.0 - REFLECTED) * bed.absorptance / (1.0 - (1.0 - bed.absorptance) * RETURNED)
        if self.water_film:
            lost = 1.0 - (1.0 - lost) * (1.0 - FILM_SHARE) * (1.0 - BUBBLE_SHARE * self.bubbles_share)
        under = Absorber(
            name="under-water", title="bed under water", top_service_c=bed.top_service_c, food_safe=bed.food_safe, price_m2=0,
            source="Fresnel at n 1.33", absorptance=1.0 - lost, emittance=WATER_EMITTANCE,
        )  # fmt: skip
        return self.with_(tray=under, height_m=self.height_m - depth)


FREEBOARD_M = 0.02
"""What water stands below the rim at least; common practice, no source."""
