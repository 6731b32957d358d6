"""The registry of kinds: adding one means one spec, one recipe, one optics, one drawing, and a row here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any, Protocol

from pydantic import Discriminator, Tag, TypeAdapter

from drylamp.core.builds import box_oven_recipe, coupons_recipe, dish_recipe, funnel_recipe, melter_recipe
from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.box_oven_optics import BoxOptics
from drylamp.core.builds.box_oven_optics import part_names as box_parts
from drylamp.core.builds.box_oven_section import section_of as box_section
from drylamp.core.builds.coupons import Coupons
from drylamp.core.builds.coupons_optics import CouponOptics
from drylamp.core.builds.coupons_optics import part_names as coupon_parts
from drylamp.core.builds.coupons_section import section_of as coupon_section
from drylamp.core.builds.dish import Dish
from drylamp.core.builds.dish_optics import DishOptics
from drylamp.core.builds.dish_optics import part_names as dish_parts
from drylamp.core.builds.dish_section import section_of as dish_section
from drylamp.core.builds.drawing import Section
from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.funnel_optics import FunnelOptics
from drylamp.core.builds.funnel_optics import part_names as funnel_parts
from drylamp.core.builds.funnel_section import section_of as funnel_section
from drylamp.core.builds.melter import Melter
from drylamp.core.builds.melter_section import section_of as melter_section
from drylamp.core.heat.network import Network
from drylamp.core.loads.load import AnyLoad
from drylamp.core.optics.spread import Even
from drylamp.core.sky.sun import Array
from drylamp.core.tables import Row


def _kind_given(value: object) -> str:
    """A spec that does not say what it is, is a box oven, as in the first files."""
    if isinstance(value, dict):
        return str(value.get("kind", "box-oven"))
    return str(getattr(value, "kind", "box-oven"))


BuildSpec = Annotated[
    Annotated[BoxOven, Tag("box-oven")]
    | Annotated[Funnel, Tag("funnel")]
    | Annotated[Dish, Tag("dish")]
    | Annotated[Melter, Tag("melter")]
    | Annotated[Coupons, Tag("coupons")],
    Discriminator(
        _kind_given,
        custom_error_type="unknown_kind",
        custom_error_message="no such kind; allowed are box-oven, funnel, dish, melter and coupons",
    ),
]
AnyBuild = BoxOven | Funnel | Dish | Melter | Coupons
BUILD: TypeAdapter[AnyBuild] = TypeAdapter(BuildSpec)


class Optics(Protocol):
    """What every kind's optics can do."""

    def even(self, skyline_deg: Array) -> Even:
        """Areas for the even sky over a skyline, and for the ground."""

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Areas by part, shape (n, parts), and area met, shape (n,), for directions along the sun's path, m²."""


@dataclass(frozen=True)
class Doubtful:
    """A parameter of the twin that trials may correct: a factor on what the textbook says.

    Attributes:
        prior: spread of its natural logarithm that a careful builder's work leaves open; from memory
        more, less: what a factor above or below 1 means
        cure: what to do when it is on the bad side
        bad_above: whether more of it is worse
    """

    name: str
    title: str
    prior: float
    more: str
    less: str
    cure: str
    bad_above: bool


@dataclass(frozen=True)
class Kind:
    """What the twin, the drawing board and the trials need to know of a kind of build."""

    title: str
    optics: Callable[[Any, AnyLoad | None], Optics]
    parts: Callable[[Any, AnyLoad | None], list[str]]
    network: Callable[[Any, AnyLoad | None, Any], Network]
    check_fit: Callable[[Any, AnyLoad | None], None]
    section: Callable[[Any, AnyLoad | None, Array | None], Section]
    materials: Callable[[Any], list[tuple[str, str, Row]]]
    useful: Callable[[str], bool]
    hot_node: Callable[[Any], str]
    accounts: dict[str, str]
    useful_account: str
    doubtful: Callable[[Any], list[Doubtful]]


LOSS = Doubtful(
    "loss", "losses", 0.15, "cover and walls lose more than the twin thinks", "cover and walls hold heat better than the twin thinks",
    "add a cover layer or dry, thicker insulation", True,
)  # fmt: skip
BOX_DOUBTFUL = [
    Doubtful(
        "optical", "sun taken in", 0.12, "more sun gets in than the twin thinks", "less sun gets in than the twin thinks",
        "wash cover and mirror, check aim and shade", False,
    ),
    LOSS,
    Doubtful(
        "leak", "leak", 1.2, "more air leaks than the twin thinks", "the seal is tighter than the twin thinks",
        "renew the seal round the cover", True,
    ),
    Doubtful(
        "mass", "heat capacity", 0.12, "the box is heavier to heat than the twin thinks", "the box is quicker to heat than the twin thinks",
        "nothing: a heavier box only warms later and cools later", False,
    ),
]  # fmt: skip
COUPON_LOSS = Doubtful(
    "loss", "heat lost to wind", 0.25, "the wind takes more than the twin thinks", "the wind takes less than the twin thinks",
    "shelter the board, or measure the wind beside it", True,
)  # fmt: skip


def _coupon_doubtful(build: Coupons) -> list[Doubtful]:
    """The wind's hold, and each finish's absorptance and emittance."""
    out = [COUPON_LOSS]
    for sample in build.samples:
        for prop, title in (("absorptance", "takes up"), ("emittance", "gives off")):
            spread = 0.10 if prop == "absorptance" and sample.row.absorptance > 0.8 else 0.3
            out.append(
                Doubtful(
                    f"{prop}:{sample.node}",
                    f"{prop} of {sample.title}",
                    spread,
                    f"{sample.title} {title} more than listed",
                    f"{sample.title} {title} less than listed",
                    "measure it again on another day",
                    False,
                )
            )
    return out


OPEN_DOUBTFUL = [
    BOX_DOUBTFUL[0],
    Doubtful(
        "loss", "losses", 0.25, "wind and sky take more than the twin thinks", "it stands more sheltered than the twin thinks",
        "shelter it from the wind, or put a bag or bowl over the pot", True,
    ),
]  # fmt: skip


def is_food(node: str) -> bool:
    """Whether a node belongs to what is cooked, melted or warmed on a tray."""
    return node in ("contents", "core", "pot") or node.startswith("portion-")


KINDS: dict[str, Kind] = {
    "box-oven": Kind(
        title="Box oven",
        optics=BoxOptics.of,
        parts=box_parts,
        network=box_oven_recipe.network_of,
        check_fit=box_oven_recipe.check_fit,
        section=box_section,
        materials=box_oven_recipe.materials,
        useful=is_food,
        hot_node=lambda build: "tray",
        accounts={
            "mirrored": "thrown back before it could heat",
            "cover": "lost through the cover",
            "walls": "lost through walls and floor",
            "leak": "lost with leaking air",
            "vent": "carried off through the vent",
            "steam": "gone as steam",
            "box": "stored in the box itself",
            "food": "into pot and food",
        },
        useful_account="food",
        doubtful=lambda build: BOX_DOUBTFUL,
    ),
    "funnel": Kind(
        title="Funnel",
        optics=FunnelOptics.of,
        parts=funnel_parts,
        network=funnel_recipe.network_of,
        check_fit=funnel_recipe.check_fit,
        section=funnel_section,
        materials=funnel_recipe.materials,
        useful=is_food,
        hot_node=lambda build: "base",
        accounts={
            "mirrored": "missed the pot or thrown back",
            "air": "carried off by the wind",
            "sky": "shone back to sky and surroundings",
            "leak": "lost with air from under bag or bowl",
            "steam": "gone as steam",
            "box": "stored in bottom, bag or bowl",
            "food": "into pot and food",
        },
        useful_account="food",
        doubtful=lambda build: OPEN_DOUBTFUL,
    ),
    "dish": Kind(
        title="Dish",
        optics=DishOptics.of,
        parts=dish_parts,
        network=dish_recipe.network_of,
        check_fit=dish_recipe.check_fit,
        section=dish_section,
        materials=dish_recipe.materials,
        useful=is_food,
        hot_node=lambda build: "holder",
        accounts={
            "mirrored": "swallowed by the mirror or spilt past the pot",
            "air": "carried off by the wind",
            "sky": "shone back to sky and surroundings",
            "leak": "lost with air from under bag or bowl",
            "steam": "gone as steam",
            "box": "stored in the ring",
            "food": "into pot and food",
        },
        useful_account="food",
        doubtful=lambda build: OPEN_DOUBTFUL,
    ),
    "melter": Kind(
        title="Wax melter",
        optics=melter_recipe.optics_of,
        parts=melter_recipe.part_names,
        network=melter_recipe.network_of,
        check_fit=melter_recipe.check_fit,
        section=melter_section,
        materials=melter_recipe.materials,
        useful=lambda node: node in ("wax", "catch"),
        hot_node=lambda build: "tray",
        accounts={
            "mirrored": "thrown back before it could heat",
            "cover": "lost through the glass",
            "walls": "lost through walls and floor",
            "leak": "lost with leaking air",
            "box": "stored in the box itself",
            "wax": "into comb and wax",
        },
        useful_account="wax",
        doubtful=lambda build: BOX_DOUBTFUL,
    ),
    "coupons": Kind(
        title="Samples side by side",
        optics=CouponOptics.of,
        parts=coupon_parts,
        network=coupons_recipe.network_of,
        check_fit=coupons_recipe.check_fit,
        section=coupon_section,
        materials=coupons_recipe.materials,
        useful=lambda node: node.startswith("sample-"),
        hot_node=lambda build: next((s for s in build.samples if s is not build.control), build.samples[0]).node,
        accounts={
            "mirrored": "thrown back before it could heat",
            "air": "carried off by the wind",
            "sky": "shone back to sky and surroundings",
            "cover": "lost through the cover",
            "walls": "lost through the board's back",
            "leak": "lost with leaking air",
            "box": "stored in board and cover",
            "samples": "stored in the samples",
        },
        useful_account="samples",
        doubtful=_coupon_doubtful,
    ),
}


def kind_of(build: AnyBuild) -> Kind:
    """Return the kind's row."""
    return KINDS[build.kind]
