"""What every build is, whatever its kind: it stands, looks some way, and can say what others may ask of it.

A kind's spec adds fields; what differs between builds is answered by the build itself through the properties below, so
that nobody outside a kind's rooms has to ask who it is.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import TYPE_CHECKING, Any, ClassVar, Literal, Self

from pydantic import Field, field_validator

from drylamp.core.builds.common.cover.spec import Skin
from drylamp.core.checks import Azimuth, Model, Tilt
from drylamp.core.forms import asked
from drylamp.core.loads.load import Reader

if TYPE_CHECKING:
    from drylamp.core.builds.common.side_by_side import SideBySide
    from drylamp.core.loads.load import Load

Tracking = Literal["none", "upright", "both"]
"""How a build is turned after the sun: not at all, about the upright, or after the sun's height too."""


def faces(what: str, **more: Any) -> Any:
    """The field that says which way something looks."""
    return Field(title="Faces", description=f"{what}, clockwise from north", json_schema_extra=asked("aim"), **more)


class Build(Model, ABC):
    """A build: its kind, the way it looks, and what may be asked of every one."""

    former_kinds: ClassVar[tuple[str, ...]] = ()
    """Names by which older files call the kind."""
    unnamed_in_old_files: ClassVar[bool] = False
    """Whether a spec that does not say what it is, as in the first files, is this one."""
    tracking: ClassVar[Tracking] = "none"
    axis_leans: ClassVar[bool] = False
    """Whether one sets the lean of an axis by hand when pointing it, as with a dish, or leaves a box's tilt as it is."""

    kind: str
    facing_deg: Azimuth = faces("The way it looks", default=180.0)
    tilt_deg: Tilt = Field(
        default=0.0, title="Leans from level", description="How far it leans from level", json_schema_extra=asked("aim")
    )

    @field_validator("kind", mode="before")
    @classmethod
    def _by_its_name_of_today(cls, given: object) -> object:
        return cls.model_fields["kind"].default if given in cls.former_kinds else given

    @property
    @abstractmethod
    def opening_m2(self) -> float:
        """Area that the sun meets when it stands square to it."""

    @property
    def hours_m3(self) -> float:
        """People's hours to fill and empty it, for each m³ of goods."""
        return 0.0

    @property
    def bought_w(self) -> float:
        """Electricity that it takes from the mains while it runs."""
        return 0.0

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and length of what a load stands on."""
        return (1.0, 1.0)

    @property
    def across_m(self) -> float:
        """How far it reaches across its drawing, outside; 0 where nobody knows."""
        return 0.0

    @property
    def is_round(self) -> bool:
        """Whether its mirror is as wide as high, seen along its axis."""
        return False

    @property
    def lean_deg(self) -> float:
        """How far what looks at the sun really leans from level."""
        return self.tilt_deg

    @property
    def skins(self) -> list[Skin]:
        """Skins of its cover from the innermost out; none where it has no cover."""
        return []

    @property
    def blown_m2(self) -> dict[str, tuple[str, float]]:
        """Where a wind meter may be held in its own air, by the node there: the flow path, and the free area that it blows through."""
        return {}

    @property
    def shelves_m2(self) -> list[float]:
        """Areas of the levels that something is laid out on in it; none where there are none."""
        return []

    def larger(self) -> Self | None:
        """The same with one more of what it is counted in, and room for it; none where it is not."""
        return None

    def stretched(self, wide: float, long: float) -> Self | None:
        """The same so many times as wide and as long, with what follows from that; itself where its size is not its builder's to choose, none where it cannot be so large or small."""
        return self

    @property
    def glazed_m(self) -> tuple[float, float] | None:
        """Width, and length up the slope, of the opening that its panes close, where those are cut for it; none where no pane is."""
        return None

    def glazed_with(self, material: str, layers: int) -> Self | None:
        """The same under other panes; none where it has no place for any."""
        return None

    @property
    def hose_m(self) -> float | None:
        """Length of the hose or pipe that it is wound of in one piece; none where it has none."""
        return None

    def with_hose(self, long_m: float) -> Self | None:
        """The same wound of so much, its frame following; none where that cannot be."""
        return None

    def resized(self, **fields: object) -> Self | None:
        """A copy with other sizes, checked; none where they cannot be."""
        try:
            return type(self).model_validate({**self.model_dump(), **fields})
        except ValueError:
            return None

    def fewest(self) -> Self:
        """The same with one of what it is counted in."""
        return self

    @property
    def amount(self) -> str:
        """How much of it there is, by what it is counted in; empty where it is not."""
        return ""

    @property
    def largest_mirror_m2(self) -> float:
        """Area of its largest mirror; 0 without any."""
        return 0.0

    def without_mirrors(self) -> Self:
        """A copy with none of them."""
        return self

    @property
    def side_by_side(self) -> SideBySide | None:
        """The samples that it is, where it is a set of them."""
        return None

    def readers(self) -> dict[str, list[Reader]]:
        """Several like things in it that a protocol reads one by one, by the word that the protocol has for them."""
        return {}

    @property
    def walk(self) -> list[str]:
        """Nodes along which one probe walks in a round, as they lie; none where nothing is read in rounds."""
        return []

    @property
    def flap_angle_deg(self) -> float | None:
        """Angle of a mirror that is set by hand while it stands; none without one."""
        return None

    @property
    def flap_path(self) -> str:
        """Path of the field that holds that angle."""
        return ""

    @property
    def flap_range_deg(self) -> tuple[float, float]:
        """Angles between which it is tried."""
        return 60.0, 160.0

    def without_flap(self) -> Self:
        """A copy without that mirror."""
        return self

    def lets_go_of(self, load: Load | None) -> str:
        """Why what is in it would not stay where it is, as it stands; empty where it does."""
        return ""

    def with_flap_at(self, angle_deg: float) -> Self:
        """A copy with that mirror at another angle."""
        return self

    @property
    def marks_deg(self) -> list[float]:
        """Tilts that its feet can be set to; none where it may lean any way."""
        return []

    @property
    def turns_every_minutes(self) -> float | None:
        """How often it is turned to the sun; none where nobody does."""
        return None

    def is_kin_of(self, other: Build) -> bool:
        """Whether the two are of one kind, so that a part of one fits into the other."""
        return type(self) is type(other)

    def turned_to(self, facing_deg: float | None, tilt_deg: float | None) -> Self:
        """The build as it stands after it was turned; None leaves that angle."""
        change: dict[str, float] = {}
        if facing_deg is not None:
            change["facing_deg"] = facing_deg % 360.0
        if tilt_deg is not None:
            change["tilt_deg"] = min(max(tilt_deg, 0.0), 90.0)
        return self.model_copy(update=change) if change else self

    def with_(self, **fields: object) -> Self:
        """A copy with other values in some fields, unchecked: for changes whose values come from the shelf."""
        return self.model_copy(update=fields)
