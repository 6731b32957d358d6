"""What is said of lumber kilns."""

from __future__ import annotations

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
    Scored,
    Seen,
    flag,
)
from drylamp.core.builds.common.cover.spec import GlazedCover, Sheet
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.kiln.questions import backup, building
from drylamp.core.builds.kiln.spec import WAYS, KilnFan, LumberKiln
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.common.stacked import CHAMBER, ROOF
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.of_load import Measure
from drylamp.core.tables import Cover, cover
from drylamp.core.text import amount, celsius, metres_per_second

FOAM_PRICE_M2, FAN_PRICE, SEAL_PRICE, PAINT_PRICE_M2 = 8.0, 35.0, 12.0, 3.0
"""From memory."""
NEARLY_SHUT, WIDE = 0.05, 1.0
FILM = Sheet(material="thermic-pe-film", thickness_m=0.0002)
HOT_C, EXHAUSTING_C, SCALDING_C = 60.0, 35.0, 80.0
WIND_PA_M2, GALE_M_S = 0.6, 25.0
"""½ρ of air, and a gale to hold it against."""
UPLIFT = 1.3
"""Pressure coefficient of a leaning roof with the wind under it; from memory."""
OLD_GLASS = frozenset(("old-window-glass",))


def _with_skins(build: LumberKiln, layers: int) -> LumberKiln:
    return build.with_(cover=build.cover.model_copy(update={"layers": layers, "more": []}))


def opaque(build: LumberKiln) -> LumberKiln:
    """The same under an opaque dark roof: a sheet that takes all the sun itself, and a second under it."""
    dark = Cover.model_validate(
        cover("corrugated-grp").model_dump()
        | {
            "name": "dark-sheet",
            "title": "Dark roof sheet",
            "extinction_per_m": 1e5,
            "longwave_transmittance": 0.0,
            "emittance": 0.9,
            "source": "a sheet that lets nothing through",
        }
    )
    return build.with_(cover=GlazedCover(material=dark, thickness_m=0.001, layers=1), frame_share=0.0, dirt_share=0.0)


def insulated(build: LumberKiln) -> LumberKiln:
    """The same with four centimetres of foam between boards in walls and floor."""
    foam, board = WallLayer(material="eps-foam", thickness_m=0.04), WallLayer(material="plywood", thickness_m=0.009)
    return build.with_(wall=[board, foam, board], floor=[WallLayer(material="plywood", thickness_m=0.018), foam])


def bare(build: LumberKiln) -> LumberKiln:
    """The same with boards alone for walls and floor, and what comes in between them."""
    return build.with_(
        wall=[WallLayer(material="pine-board", thickness_m=0.02)],
        floor=[WallLayer(material="pine-board", thickness_m=0.025)],
        leak_cm2=max(build.leak_cm2, 300.0),
    )


# --- changes ---


def _roofs(build: LumberKiln, load: Load | None) -> Iterator[Change]:
    made = build.cover
    count = made.layers + len(made.more)
    if count < 3:
        yield Change(
            "one more film over the roof",
            "cover",
            build.with_(cover=made.model_copy(update={"more": [*made.more, FILM]})),
            load,
            2.0 * build.roof_m2,
        )
    if count > 1:
        yield Change("one sheet less", "cover", _with_skins(build, max(made.layers - 1, 1)), load, 0.0)
    if build.dirt_share > 0.0:
        yield Change("roof wiped", "cover", build.with_(dirt_share=0.0), load, 0.0)
    for turn, word in ((10.0, "steeper"), (-10.0, "flatter")):
        tilt = min(max(build.tilt_deg + turn, 5.0), 80.0)
        if tilt != build.tilt_deg:
            yield Change(f"roof ten degrees {word}", "aim", build.with_(tilt_deg=tilt), load, 0.0)


def _walls(build: LumberKiln, load: Load | None) -> Iterator[Change]:
    foam = WallLayer(material="eps-foam", thickness_m=0.04)
    if len(build.wall) < 6 and build.walls_u > 0.4:
        yield Change(
            "four centimetres of foam on the walls",
            "wall",
            build.with_(wall=[*build.wall, foam]),
            load,
            FOAM_PRICE_M2 * build.walls_m2,
        )
    if len(build.floor) < 6 and build.floor_u > 0.4:
        yield Change(
            "four centimetres of foam under the floor",
            "floor",
            build.with_(floor=[*build.floor, foam]),
            load,
            FOAM_PRICE_M2 * build.floor_m2,
        )
    if build.changes is None and build.leak_cm2 > 20.0:
        yield Change("half of the gaps closed", "seal", build.with_(leak_cm2=build.leak_cm2 / 2.0), load, SEAL_PRICE)
    if build.baffle is not None and build.baffle.row.absorptance < 0.9:
        yield Change(
            "baffle painted black",
            "baffle",
            build.with_(baffle=build.baffle.model_copy(update={"finish": "flat-black-paint"})),
            load,
            PAINT_PRICE_M2 * build.baffle_m2,
        )


def _airs(build: LumberKiln, load: Load | None) -> Iterator[Change]:
    for share in (0.0, 0.1, 0.3, 0.6, 1.0):
        if build.vents.settings or abs(share - build.vents.open_share) > 0.04:
            title = "vents shut" if share == 0.0 else f"vents {100 * share:.0f} % open"
            yield Change(title, "vents", build.opened(share), load, 0.0)
    fan = build.fan
    if fan is None:
        yield Change("a fan on a panel", "fan", build.with_(fan=KilnFan()), load, FAN_PRICE)
        return
    yield Change(
        "one more fan", "fan", build.with_(fan=fan.model_copy(update={"count": fan.count + 1})), load, FAN_PRICE
    )
    if fan.driven != "mains" and fan.by is None:
        yield Change(
            "fans day and night", "fan", build.with_(fan=fan.model_copy(update={"driven": "mains"})), load, 0.0
        )
    yield Change("without fans", "fan", build.with_(fan=None), load, 0.0)


# --- schools ---


def _skins(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    return [Option(f"{count} skin{'s' if count > 1 else ''}", _with_skins(build, count), load) for count in (1, 2)]


def _breathing(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    return [
        Option("bare boards that breathe", bare(build), load),
        Option("insulated and tight", insulated(build), load),
    ]


def _early(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    return [
        Option("vents shut", build.opened(NEARLY_SHUT), load),
        Option("a third open", build.opened(0.33), load),
        Option("wide open", build.opened(WIDE), load),
    ]


def _nights(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    fan = build.fan or KilnFan()
    return [
        Option("by day only", build.with_(fan=fan.model_copy(update={"driven": "timer", "by": None})), load), Option("day and night", build.with_(fan=fan.model_copy(update={"driven": "mains", "by": None})), load),
        Option("no fan", build.with_(fan=None), load),
    ]  # fmt: skip


def _clear(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    return [Option("clear roof over a dark baffle", build, load), Option("opaque dark roof", opaque(build), load)]


def _inside(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    """Baffle and walls black or pale."""

    def painted(finish: str) -> LumberKiln:
        baffle = None if build.baffle is None else build.baffle.model_copy(update={"finish": finish})
        return build.with_(lining=finish, baffle=baffle)

    return [
        Option("black inside", painted("flat-black-paint"), load),
        Option("pale inside", painted("pale-paint"), load),
    ]


WORK = Measure("hours", 0.0, 0.5, 0.5)


def _loading(context: AdviceContext, build: LumberKiln, load: Load | None) -> list[Option]:
    """Ways in: work of one charge."""
    return [Option(WAYS[way], build.with_(door=build.door.model_copy(update={"way": way})), load) for way in WAYS]


def _work_hours(context: AdviceContext, option: Option) -> float | None:
    """People's hours for a charge, less is better; none where its boards do not go in that way."""
    stack = None if option.load is None else option.load.stacked()
    if stack is None:
        return None
    try:
        kind_of(option.build).check_fit(option.build, option.load)
    except InputProblem:
        return None
    return -option.build.hours_m3 * stack.m3


# --- sayings ---


def _gaps_are_vents(context: AdviceContext, build: LumberKiln, load: Load | None) -> Found | None:
    if load is None:
        return None
    shut, best = build.opened(0.0), build.opened(0.3)
    effect = context.between((shut, load), (best, load))
    held = context.score(shut, load).value
    words = f"With the vents shut, by its gaps alone, {context.measure.said(held)} of water go out in a day, {context.measure.signed(effect)} against vents a third open."
    return Found(
        effect,
        words,
        "holds"
        if effect >= -context.measure.least_worth
        else "wrong"
        if effect < -0.1 * max(held, 1e-9)
        else "holds partly",
    )


# --- cautions ---


def _heat(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    """How hot the chamber is for whoever goes in."""
    hot = float(np.nanmax(seen.empty.temperature_c[CHAMBER]))
    with_load = float(np.nanmax(seen.run.temperature_c[CHAMBER]))
    if max(hot, with_load) < EXHAUSTING_C:
        return []
    return flag(
        "stop" if with_load >= HOT_C else "warn", "chamber",
        f"{celsius(with_load)} in the chamber ({celsius(hot)} empty): heat exhaustion within minutes in damp heat. Read its instruments from outside, go in early in the morning or after airing it, never alone.",
    )  # fmt: skip


def _past_80(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    hot = float(np.nanmax(seen.empty.temperature_c[CHAMBER]))
    if hot < SCALDING_C:
        return []
    return flag(
        "stop",
        "chamber",
        f"Empty or nearly dry it passes {celsius(SCALDING_C)} ({celsius(hot)}): foam softens, film sags, panel leads and fan motors fail. Open the vents wide when it stands empty, and shade part of the roof.",
    )


def _door(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    return flag(
        "stop",
        "chamber",
        "The door must open from within, by a push, with no key: nobody may be shut into a hot chamber. Hang a sign while somebody is in.",
    )


def _propped(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    kg = build.roof_m2 * sum(skin.row.density_kg_m3 * skin.thickness_m for skin in build.skins) + 8.0 * build.roof_m2
    return flag(
        "warn",
        "cover",
        f"If the roof lifts, it weighs some {amount(kg, 'mass')}, frame and all: a locked stay on each side; nobody works under one that is only leaned.",
    )


def _wind(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    """What a gale pulls at the roof."""
    newton = UPLIFT * WIND_PA_M2 * GALE_M_S**2 * build.roof_m2
    return flag(
        "warn",
        "cover",
        f"A gale of {metres_per_second(GALE_M_S)} pulls at this roof with the weight of {amount(newton / 9.81, 'mass')}: bolt it through, and anchor the kiln to the ground; what your wind zone asks says the local code.",
    )


def _wires(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    if build.fan is None and build.heater is None:
        return []
    mains = build.heater is not None or (build.fan is not None and build.fan.driven in ("mains", "timer"))
    who = (
        "Mains in a damp, hot, dusty room: residual-current protection, closed motors, cable for 90 °C, by a licensed electrician"
        if mains
        else "Fuse the panel's and battery's leads, use cable for 90 °C and closed motors"
    )
    return flag("warn", "fan", f"{who}; brush dust off motors at every charge, sawdust near a hot motor burns.")


def _heater(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    if build.heater is None:
        return []
    return flag(
        "stop",
        "heater",
        f"A coil of {amount(build.heater.power_w, 'power')} among dry wood: thermal cut-out, guard of wire, a metre free of boards, and never a flame inside.",
    )


def _putty(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    rows = {skin.row.name for skin in build.skins}
    if not rows & OLD_GLASS:
        return []
    return flag(
        "stop",
        "cover",
        "Old sashes: putty and paint may hold lead. Do not sand or burn it off; damp it, scrape it with a mask on, bag the scrapings, and wash.",
    )


def _turns_over(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    if build.form != "trailer":
        return []
    stack = None if load is None else load.stacked()
    wet = "" if stack is None else f" The wet charge alone is {amount(stack.wet_kg, 'mass')}."
    return flag(
        "warn",
        "aim",
        f"A trailer: wheels chocked, jacks under its corners before it is loaded, the load low and over the axle; drive it only within what its plate and the road's rules allow.{wet}",
    )


def _drips(seen: Seen, build: LumberKiln, load: Load | None) -> list[Flag]:
    damp = seen.run.damp
    gone = 0.0 if damp is None else float(damp.ran_kg[ROOF].sum())
    if gone < 0.5 or build.drips == "out":
        return []
    return flag(
        "note",
        "cover",
        f"{amount(gone, 'mass')} of dew runs off the roof and drips back in: a gutter along the eaves would lead it out, and the sun would not have to dry it twice.",
    )


ADVICE: BuildAdvice[LumberKiln] = BuildAdvice(
    burns=Burns("baffle", "The baffle and the air over it stay hot for an hour after sun; open the door and let it cool before you reach in."),
    limits=LimitWords("with nothing in it", "Look at it after the first hot day", " or open the vents whenever it stands empty"),
    get_ready="look at roof, fan and vents; read the chamber's thermometer and hygrometer",
    backup=backup,
    building=building,
    changes=(Rule("cover", _roofs), Rule("wall", _walls), Rule("vents", _airs)),
    schools=(
        School("skins", "One skin or two?", _skins), School("breathing", "Bare walls that breathe, or insulated?", _breathing), School("early-vents", "Vents shut early, or open?", _early),
        School("night-fans", "Fans by day only, or at night too?", _nights), School("clear-roof", "A clear roof or an opaque one?", _clear), School("inside-colour", "Black inside, or pale?", _inside), turning.TILTS,
        School("loading", "Filled from the rear, by its end, from above, or with forks? Work of one charge.", _loading, Scored(WORK, _work_hours)),
    ),
    sayings=(Saying("gaps-are-vents", "The gaps are vents enough.", _gaps_are_vents),),
    cautions=(
        Caution("kiln-heat", _heat), Caution("past-80", _past_80), Caution("kiln-door", _door), Caution("propped-roof", _propped), Caution("roof-wind", _wind), Caution("kiln-wires", _wires),
        Caution("heater-fire", _heater), Caution("lead-putty", _putty), Caution("trailer", _turns_over), Caution("dew-drips", _drips),
    ),
)  # fmt: skip
