"""Schools side by side: where builders disagree, every school is run on this build and this day. Each is an entry."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from drylamp.core import tables
from drylamp.core.advice.bench import Bench, doubt_of, unit_of
from drylamp.core.builds.box_oven import BoxOven, GlazedCover
from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.kinds import AnyBuild, BuildSpec
from drylamp.core.builds.melter import Melter
from drylamp.core.checks import Model
from drylamp.core.loads.body import Envelope
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.pot import PotLoad, in_vessel
from drylamp.core.sky.site import Site

SUMMER_MARK, EQUINOX_MARK, WINTER_MARK = 20.0, 45.0, 60.0
NOT_OF_A_FLAT_SHEET = ("tilt", "mirror", "turning")
Option = tuple[str, AnyBuild, AnyLoad | None]


@dataclass(frozen=True)
class School:
    """A question that builders disagree on, the kinds of build it concerns, and the answers as builds and loads."""

    name: str
    question: str
    kinds: tuple[str, ...]
    options: Callable[[Bench, AnyBuild, AnyLoad | None], list[Option]]


class SchoolLine(Model):
    """One school's answer: how well it does, against the best of them."""

    title: str
    score: float
    behind: float
    minutes: float | None
    peak_c: float
    is_mine: bool


class SchoolAnswer(Model):
    """One question with every school's answer; ``worth`` is what choosing right is worth, ``doubt`` how sure that is."""

    name: str
    question: str
    unit: str
    lines: list[SchoolLine]
    worth: float
    doubt: float
    words: str


def schools_of(bench: Bench, build: BuildSpec, load: AnyLoad | None) -> list[SchoolAnswer]:
    """Run every school that concerns this build."""
    flat = isinstance(build, Funnel) and build.shape == "flat"
    asked = [s for s in SCHOOLS if build.kind in s.kinds and not (flat and s.name in NOT_OF_A_FLAT_SHEET)]
    found = [(school, school.options(bench, build, load)) for school in asked]
    found = [(school, options) for school, options in found if len(options) > 1]
    tunes = bench.doubtful(build)
    scores = iter(bench.scores([(b, goods) for _, options in found for _, b, goods in options], tunes))
    out = []
    for school, options in found:
        mine = [next(scores) for _ in options]
        best = max(range(len(options)), key=lambda k: mine[k][0].value)
        worst = min(range(len(options)), key=lambda k: mine[k][0].value)
        gains = [a.value - b.value for a, b in zip(mine[best], mine[worst], strict=True)]
        doubt = doubt_of(gains, load)
        lines = [
            SchoolLine(
                title=title, score=round(s[0].value, 2), behind=round(mine[best][0].value - s[0].value, 2), minutes=s[0].minutes,
                peak_c=round(s[0].peak_c, 1), is_mine=_same(b, goods, build, load),
            )
            for (title, b, goods), s in zip(options, mine, strict=True)
        ]  # fmt: skip
        words = _words(options[best][0], options[worst][0], gains[0], doubt, unit_of(load))
        out.append(
            SchoolAnswer(
                name=school.name, question=school.question, unit=unit_of(load), lines=lines, worth=round(gains[0], 2),
                doubt=round(doubt, 2), words=words,
            )
        )  # fmt: skip
    return out


def _same(build: AnyBuild, load: AnyLoad | None, mine: BuildSpec, my_load: AnyLoad | None) -> bool:
    return build.model_dump() == mine.model_dump() and load == my_load


def _words(best: str, worst: str, worth: float, doubt: float, unit: str) -> str:
    digits = 2 if unit == "kg/h" else 1
    if worth <= doubt:
        return (
            f"Here it does not matter: {worth:.{digits}f} {unit} between them, within the doubt of {doubt:.{digits}f}."
        )
    return f"Here {best} is ahead of {worst} by {worth:.{digits}f} ± {doubt:.{digits}f} {unit}."


def _tilts(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    around, season = abs(bench.site.latitude_deg), _season(bench.site, bench)
    by_season = {"summer": around - 15, "spring or autumn": around, "winter": around + 15}[season]
    mark = {"summer": SUMMER_MARK, "spring or autumn": EQUINOX_MARK, "winter": WINTER_MARK}[season]
    noon = 90.0 - float(np.max(bench.weather.sun.altitude_deg))
    wanted = [
        ("tilt = latitude", around), ("a stock 45°", 45.0), (f"latitude set for {season}", by_season),
        (f"fixed mark for {season}", mark), ("square to today's noon", noon), ("as it is", getattr(build, "tilt_deg", 0.0)),
    ]  # fmt: skip
    return [
        (f"{title} ({_kept(tilt):.0f}°)", build.model_copy(update={"tilt_deg": _kept(tilt)}), load)
        for title, tilt in wanted
    ]


def _kept(tilt: float) -> float:
    return min(max(tilt, 0.0), 90.0)


def _season(site: Site, bench: Bench) -> str:
    noon = float(np.max(bench.weather.sun.altitude_deg))
    middle = 90.0 - abs(site.latitude_deg)
    return "summer" if noon > middle + 12 else "winter" if noon < middle - 12 else "spring or autumn"


def _linings(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    names = {"aluminium-foil": "foil-lined", "flat-black-paint": "black-lined", "bare-wood": "bare wood"}
    return [(title, build.model_copy(update={"lining": name}), load) for name, title in names.items()]


def _sheets(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    assert isinstance(build, BoxOven | Melter)
    cover = build.cover or GlazedCover()
    options: list[tuple[str, GlazedCover]] = [
        (
            f"{'one cover' if n == 1 else 'two covers'} of {cover.row.title.lower()}",
            GlazedCover(material=cover.material, thickness_m=cover.thickness_m, layers=n, gap_m=cover.gap_m),
        )
        for n in (1, 2)
    ]
    for name in ("window-glass", "twin-wall-10", "polyester-film"):
        row = tables.covers()[name]
        if row is not cover.row:
            options.append(
                (f"one cover of {row.title.lower()}", GlazedCover(material=name, thickness_m=row.usual_thickness_m))
            )
    return [(title, build.model_copy(update={"cover": sheet}), load) for title, sheet in options]


def _lids(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    if not isinstance(load, PotLoad) or load.is_tight:
        return []
    return [
        (f"{lid} lid" if lid != "none" else "no lid", build, load.model_copy(update={"lid": lid}))
        for lid in ("black", "clear", "none")
    ]


def _pots(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    if not isinstance(load, PotLoad) or load.is_tight:
        return []
    rows = {name: tables.vessels()[name] for name in ("thin-enamel", "bright-steel-pot", "cast-iron", "stoneware")}
    return [(row.title.lower(), build, in_vessel(load, name)) for name, row in rows.items()]


def _turns(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    wanted = [
        ("left as it stands", None),
        ("turned every 2 h", 120.0),
        ("turned every hour", 60.0),
        ("turned every half hour", 30.0),
    ]
    return [(title, build.model_copy(update={"turned_minutes": every}), load) for title, every in wanted]


def _envelopes(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    if not isinstance(load, PotLoad) or not isinstance(build, Funnel):
        return []
    wide, high = load.pot_diameter_m + 0.03, load.pot_height_m + 0.04
    bag = Envelope(material="oven-bag", thickness_m=0.000025, diameter_m=wide, height_m=high)
    bowl = Envelope(diameter_m=wide, height_m=high)
    return [
        (title, build, load.model_copy(update={"under": under}))
        for title, under in (("nothing over the pot", None), ("an oven bag", bag), ("a glass bowl", bowl))
    ]


def _surfaces(bench: Bench, build: AnyBuild, load: AnyLoad | None) -> list[Option]:
    names = ("kitchen-foil", "smooth-foil", "mylar", "anodised-sheet", "mirror-film")
    return [(tables.mirrors()[name].title.lower(), build.model_copy(update={"mirror": name}), load) for name in names]


SCHOOLS: tuple[School, ...] = (
    School("tilt", "How steep?", ("box-oven", "funnel", "melter"), _tilts),
    School("lining", "Foil-lined or black-lined?", ("box-oven", "melter"), _linings),
    School("cover", "One cover or two; glass, twin-wall or film?", ("box-oven", "melter"), _sheets),
    School("lid", "Clear lid or black lid?", ("box-oven", "funnel"), _lids),
    School("pot", "Thin pot or heavy pot?", ("box-oven", "funnel"), _pots),
    School("envelope", "Bag, bowl or bare?", ("funnel",), _envelopes),
    School("mirror", "Which mirror sheet?", ("funnel", "dish"), _surfaces),
    School("turning", "Turn it or leave it?", ("box-oven", "funnel", "melter"), _turns),
)
