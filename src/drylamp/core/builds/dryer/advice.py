"""What is said of food dryers."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import (
    BuildAdvice,
    Burns,
    Caution,
    Change,
    Found,
    LimitWords,
    Option,
    Rule,
    Saying,
    School,
    Seen,
    flag,
)
from drylamp.core.air.constants import GRAVITY
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Chimney, Fan
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.dryer.questions import NEARLY_SHUT, differences, explained, vent_curve
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.common.shelves import INTO
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import celsius, metres_per_second

GLASS_PRICE_M2, BOX_PRICE_M2, MESH_PRICE, SCREEN_PRICE_M2, CHIMNEY_PRICE, FAN_PRICE, FOAM_PRICE = (
    15.0,
    20.0,
    6.0,
    9.0,
    18.0,
    25.0,
    8.0,
)
"""From memory."""
OFFICE_FAN = Fan(shut_off_pa=25.0, free_m3_h=120.0)
HALF = 0.5
WEIGHS_KG_M2, LEAST_KG, WIND_PRESSURE = 12.0, 8.0, 0.6
"""Weight of a cabinet by the face that the wind meets, of the least of them, and ½ρ of air; from memory."""


def _formed(build: FoodDryer, **change: object) -> FoodDryer:
    """With its collector's absorber in another form."""
    assert build.collector is not None
    made = AirCollector.model_validate(build.collector.model_dump() | change)
    return build.with_(collector=made.settled("absorber"))


def _absorbers(build: FoodDryer, load: Load | None) -> Iterator[Change]:
    made = build.collector
    if made is None:
        return
    if made.absorber != "mesh":
        yield Change(
            "three layers of black fly screen, air drawn through",
            "collector",
            _formed(build, absorber="mesh"),
            load,
            MESH_PRICE * made.area_m2,
        )
    if made.absorber == "plate" and made.air != "both":
        yield Change("air on both sides of the plate", "collector", _formed(build, air="both"), load, 0.0)
    if made.dirt_share > 0.0:
        yield Change(
            "its glass wiped",
            "collector",
            build.with_(collector=made.model_copy(update={"dirt_share": 0.0})),
            load,
            0.0,
        )
    longer = min(made.length_m * 1.5, 12.0)
    if longer > made.length_m:
        yield Change("half as much collector again", "collector", build.with_(collector=made.model_copy(update={"length_m": longer})), load, (GLASS_PRICE_M2 + BOX_PRICE_M2) * made.area_m2 * 0.5)  # fmt: skip


def _vents(build: FoodDryer, load: Load | None) -> Iterator[Change]:
    vent = build.vent
    for share in (0.3, 0.6, 1.0):
        if vent.hours or abs(share - vent.open_share) > 0.05:
            yield Change(
                f"its vent {100 * share:.0f} % open",
                "vent",
                build.opened(share),
                load,
                0.0,
            )


def _draws(build: FoodDryer, load: Load | None) -> Iterator[Change]:
    if build.chimney is None:
        yield Change("a chimney of a metre on it", "chimney", build.with_(chimney=Chimney()), load, CHIMNEY_PRICE)
    if build.fan is None:
        yield Change(
            "a small fan on a panel of its own",
            "fan",
            build.with_(fan=OFFICE_FAN.model_copy(update={"driven": "panel"})),
            load,
            FAN_PRICE,
        )
    past = build.trays.bypass_share
    if past > 0.1:
        yield Change(
            "trays that fill the cabinet: little air past them",
            "trays",
            build.with_(trays=build.trays.model_copy(update={"bypass_share": 0.1})),
            load,
            3.0,
        )


def _walls(build: FoodDryer, load: Load | None) -> Iterator[Change]:
    if not any(layer.is_foam_like for layer in build.wall) and len(build.wall) < 6:
        foam = WallLayer(material="eps-foam", thickness_m=0.02)
        yield Change(
            "two centimetres of foam outside its walls",
            "wall",
            build.with_(wall=[*build.wall, foam]),
            load,
            FOAM_PRICE * build.sides_m2,
        )
    if build.leak_cm2 > 5.0:
        yield Change("felt round door and lid", "seal", build.with_(leak_cm2=5.0), load, 4.0)


def _shade(build: FoodDryer, load: Load | None) -> Iterator[Change]:
    if build.cover is not None and build.collector is not None:
        yield Change(
            "a cloth over the glass" if not build.shaded else "no cloth over the glass",
            "cover",
            build.with_(shaded=not build.shaded),
            load,
            0.0,
        )


def _forms(context: AdviceContext, build: FoodDryer, load: Load | None) -> list[Option]:
    made = build.collector
    if made is None:
        return []
    ducts = max(1, math.floor(made.width_m / 0.085))
    wanted = (("black fly screen", {"absorber": "mesh"}), ("blackened ducts", {"absorber": "ducts", "ducts": min(ducts, 40), "duct_mm": 80.0}), ("a plate, air under it", {"absorber": "plate", "air": "under"}), ("metal screens", {"absorber": "screens"}))  # fmt: skip
    return [Option(title, _formed(build, **change), load) for title, change in wanted]


def _sides(context: AdviceContext, build: FoodDryer, load: Load | None) -> list[Option]:
    if build.collector is None:
        return []
    words = {"over": "air over the plate", "under": "air under it", "both": "on both sides"}
    return [Option(words[side], _formed(build, absorber="plate", air=side), load) for side in ("over", "under", "both")]


def _openings(context: AdviceContext, build: FoodDryer, load: Load | None) -> list[Option]:
    return [
        Option("nearly shut, for heat", build.opened(NEARLY_SHUT), load),
        Option("half open", build.opened(HALF), load),
        Option("wide open, for air", build.opened(1.0), load),
    ]


def _movers(context: AdviceContext, build: FoodDryer, load: Load | None) -> list[Option]:
    bare = build.with_(fan=None, chimney=None)
    return [
        Option("neither", bare, load), Option("a chimney of 1.2 m", bare.with_(chimney=Chimney(height_m=1.2)), load), Option("a fan", bare.with_(fan=OFFICE_FAN), load),
    ]  # fmt: skip


def _light(context: AdviceContext, build: FoodDryer, load: Load | None) -> list[Option]:
    if build.cover is None:
        return []
    return [
        Option("light on the food", build.with_(shaded=False), load),
        Option("in the shade of a cloth", build.with_(shaded=True), load),
    ]


def _hotter_is_faster(context: AdviceContext, build: FoodDryer, load: Load | None) -> Found | None:
    if load is None:
        return None
    shut, open_ = build.opened(NEARLY_SHUT), build.opened(1.0)
    effect = context.between((shut, load), (open_, load))
    hot, cool = (float(np.nanmax(context.run(b, load).temperature_c[INTO])) for b in (shut, open_))
    return Found(
        effect,
        f"With the vent nearly shut it gets {celsius(hot)} in place of {celsius(cool)}, and that makes {context.measure.signed(effect)} of water: heat without air dries slowly.",
    )


def _stack(context: AdviceContext, build: FoodDryer, load: Load | None) -> Found | None:
    if build.chimney is not None:
        return None
    effect = context.between((build.with_(chimney=Chimney(height_m=1.2)), load), (build, load))
    return Found(
        effect, f"A chimney of 1.2 m makes {context.measure.signed(effect)}; more air passes, and it is cooler."
    )


def _mesh(seen: Seen, build: FoodDryer, load: Load | None) -> list[Flag]:
    if build.trays.mesh == "galvanised":
        return flag(
            "stop",
            "trays",
            "Galvanised mesh: acid fruit takes zinc from it. Use stainless steel or food-grade plastic.",
        )
    if build.trays.mesh == "glass-fibre":
        return flag(
            "warn",
            "trays",
            "Glass-fibre screen sheds splinters into food: lay a cotton net over it, or use another mesh.",
        )
    return []


def _foam(seen: Seen, build: FoodDryer, load: Load | None) -> list[Flag]:
    bare = [layer.row.title for layer in build.wall[:1] if layer.is_foam_like]
    bare += (
        [] if build.collector is None else [layer.row.title for layer in build.collector.back[:1] if layer.is_foam_like]
    )
    if not bare:
        return []
    return flag(
        "warn",
        "wall",
        f"{bare[0]} lies bare in the air that goes to the food: it sheds and smells when hot. Face it with board, sheet or foil.",
    )


def _fumes(seen: Seen, build: FoodDryer, load: Load | None) -> list[Flag]:
    return flag(
        "note",
        "collector",
        "Fumes: let new paint and glue bake out in full sun for three days, vent open, before food goes in; never treated or unknown painted timber.",
    )


def _tips(seen: Seen, build: FoodDryer, load: Load | None) -> list[Flag]:
    """When the wind tips it over its back edge, by its weight and its face."""
    face = build.width_m * (build.cabinet_m + build.foot_m)
    weight = max(
        WEIGHS_KG_M2 * (build.sides_m2 + (0.0 if build.collector is None else build.collector.area_m2)), LEAST_KG
    )
    foot = build.wheels.track_m if build.wheels is not None else build.depth_m
    arm = 0.5 * (build.cabinet_m + build.foot_m)
    speed = math.sqrt(weight * GRAVITY * foot / 2.0 / (WIND_PRESSURE * 1.3 * face * arm))
    on = "Chock the wheels and tie it down" if build.wheels is not None else "Tie it down"
    if speed > 25.0:
        return []
    return flag(
        "warn" if speed < 14.0 else "note",
        "aim",
        f"Wind tips it from about {metres_per_second(speed)} on, loosely reckoned from its size: {on[0].lower()}{on[1:]}, or lay it down before a storm.",
    )


def _insects(seen: Seen, build: FoodDryer, load: Load | None) -> list[Flag]:
    return flag(
        "note",
        "inlet",
        "Insects: screen inlet and vent with mesh of a millimetre or less; freeze dried fruit at −18 °C for two days against eggs before it is stored.",
    )


ADVICE: BuildAdvice[FoodDryer] = BuildAdvice(
    burns=Burns("collector", "The absorber and its glass stay hot for a while after sun; open the door from the shady side."),
    limits=LimitWords("with nothing in it", "Look at it after the first hot day", " or open the vent whenever it stands empty"),
    get_ready="wipe the glass, look at the screens for holes, face it to the noon sun",
    changes=(
        Rule("collector", _absorbers), Rule("vent", _vents), Rule("fan", _draws), Rule("wall", _walls), Rule("cover", _shade),
        turning.turns_every(120.0), turning.TILTED,
    ),
    schools=(
        School("absorber", "Mesh, ducts, screens or a plate?", _forms), School("side", "Air over or under the plate?", _sides),
        School("vent", "Vent shut for heat, or open for air?", _openings), School("mover", "A fan or a chimney?", _movers),
        School("light", "Dry in the shade or in the light?", _light), turning.TILTS, turning.TURNS,
    ),
    sayings=(
        Saying("hotter-is-faster", "Hotter is faster.", _hotter_is_faster), Saying("tall-stack", "The taller the stack, the better it dries.", _stack),
    ),
    cautions=(
        Caution("mesh", _mesh), Caution("foam", _foam), Caution("paint-fumes", _fumes), Caution("tips", _tips), Caution("insects", _insects),
    ),
    vents=vent_curve,
    apart=explained,
    differences=differences,
)  # fmt: skip
