"""Every saying and every school can come out both ways: two cases for each, on days that a builder may have, in which the twin rules otherwise.

What each runs and measures, and what would make it false, stands in ``docs/twin/advice.md``.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date
from pathlib import Path

import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.registry import said_of
from drylamp.core.advice.sayings import ruling_by_size, sayings_of
from drylamp.core.advice.schools import asked_of, schools_of
from drylamp.core.builds.box_oven import advice as of_boxes
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.loads.common.draws import Running
from drylamp.core.loads.load import Load
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.text import marked
from drylamp.demo.scenario import (
    BISCUITS,
    CREW_POT,
    DISH,
    FIG_DRYER,
    FIGS,
    FUNNEL,
    GLASS_CABINET,
    MELTER,
    OVEN,
    PLUNGE_TUB,
    SKETCH_DRYER,
    STEW,
    TERRACE,
    TUB_FRAME,
    WORKSHOP,
)
from tests.core import dryers, kilns
from tests.core.advised import JUNE, KETTLE, PAIRS, ROW, ROW_TANK, TEA, TWO_COILS, names_of
from tests.posing import posed

On = Callable[[Build, Load | None], AdviceContext]
DOCS = Path(__file__).parents[2] / "docs" / "twin" / "advice.md"


def day(at: date = JUNE, **more: object) -> On:
    weather = weather_of(
        TERRACE,
        ClearDay.model_validate({"tmin_c": 15, "tmax_c": 26, "wind_m_s": 2.0, **more}),
        Span(start=at, step_s=300),
    )
    return lambda build, load: AdviceContext(posed(TERRACE, None, build, load, day=at), weather)


WINTER = date(2025, 12, 12)
CLEAR, SHORT, GREY, WINDY = day(), day(WINTER, tmin_c=2, tmax_c=9), day(sky="grey"), day(wind_m_s=8.0)
DARK = day(WINTER, tmin_c=2, tmax_c=6, sky="grey", wind_m_s=1.0)
HOT = day(tmin_c=34, tmax_c=44, wind_m_s=0.5)
SULTRY = day(tmin_c=36, tmax_c=44, wind_m_s=0.5, sky="grey")
DAMP = day(WINTER, tmin_c=3, tmax_c=4, sky="grey", wind_m_s=0.5, rh=0.99)
WARM_WIND = day(WINTER, tmin_c=24, tmax_c=44, wind_m_s=12.0, sky="grey")
FROST = day(WINTER, tmin_c=-8, tmax_c=2, sky="grey")

ALWAYS = RunningWater(running=[Running(begins="00:00", ends="23:55", l_min=1.0)])
COOL_TUB = PLUNGE_TUB.model_copy(update={"warm_c": 20.0, "start_c": 18.0})
BLACKEST = OVEN.with_(cover=GlazedCover(layers=1), tray="selective-foil")
SMALL_STEW = STEW.model_copy(update={"food_kg": 0.5, "pot_diameter_m": 0.14, "pot_height_m": 0.09})
assert ROW_TANK.pump is not None
PUMPED_ON = ROW_TANK.model_copy(update={"pump": ROW_TANK.pump.model_copy(update={"how": "always"})})
FOLDED = KETTLE.with_wings(KETTLE.wings.model_copy(update={"open_deg": 15.0}))
LAID_FLAT, STEEP = KETTLE.with_(tilt_deg=15.0), KETTLE.with_(tilt_deg=64.0)


def kiln(name: str) -> tuple[Build, Load | None]:
    return {
        "vented": (kilns.VENTED, kilns.MIXED), "thin": (kilns.THIN, kilns.POPLAR), "tight": (kilns.TIGHT, kilns.FEW_OAK), "shaded": (kilns.SHADED, kilns.DRY_PINE),
        "thinnest": (kilns.THIN, kilns.charge(kilns.boards("poplar", 8.0, 0.1, start="green-heart"))), "begun": (kilns.THIN, kilns.POPLAR.model_copy(update={"already_in": True})),
    }[name]  # fmt: skip


def pine_and(thick: str, start: str, of_pine: str) -> tuple[Build, Load | None]:
    """Thin pine and thick boards of another sort, one of them wet."""
    return kilns.THIN, kilns.charge(
        kilns.boards("eastern-white-pine", 25.4, 0.3, start=of_pine), kilns.boards(thick, 50.8, 0.3, start=start)
    )


Cases = dict[str, tuple[AdviceContext, AdviceContext]]
SAYINGS: Cases = {
    "black-over-foil": (CLEAR(WORKSHOP, None), CLEAR(WORKSHOP, None)),
    "blacker": (CLEAR(OVEN, STEW), CLEAR(OVEN, None)),
    "clear-lid": (CLEAR(OVEN, STEW), CLEAR(WORKSHOP, SMALL_STEW)),
    "cloudy-days": (CLEAR(FIG_DRYER, FIGS), SHORT(dryers.SHUT_HOT, dryers.THIN)),
    "cover-first": (CLEAR(TUB_FRAME, PLUNGE_TUB), HOT(TUB_FRAME, COOL_TUB)),
    "denser": (CLEAR(WORKSHOP, BISCUITS), CLEAR(OVEN, BISCUITS)),
    "efficient": (CLEAR(*PAIRS["hose"]), SULTRY(*PAIRS["hose"])),
    "feels-dry": (GREY(FIG_DRYER, FIGS), GREY(SKETCH_DRYER, dryers.THIN)),
    "film-keeps": (CLEAR(*PAIRS["heater"]), WINDY(*PAIRS["heater"])),
    "foil-behind": (CLEAR(*PAIRS["bottles"]), DARK(*PAIRS["bottles"])),
    "foil-under-black": (CLEAR(*PAIRS["hose"]), SULTRY(*PAIRS["hose"])),
    "gaps-are-vents": (GREY(*kiln("vented")), WINDY(*kiln("vented"))),
    "glass": (CLEAR(*PAIRS["heater"]), SULTRY(*PAIRS["heater"])),
    "heat-pipe-valve": (CLEAR(ROW, ROW_TANK), FROST(ROW, PUMPED_ON)),
    "hotter-is-faster": (CLEAR(SKETCH_DRYER, dryers.THIN), CLEAR(dryers.SHUT_HOT, dryers.THIN)),
    "humid-air": (CLEAR(FIG_DRYER, FIGS), GREY(FIG_DRYER, FIGS)),
    "inch-a-year": (CLEAR(*kiln("vented")), CLEAR(*kiln("thin"))),
    "kiln-halves": (CLEAR(*kiln("vented")), CLEAR(*kiln("thin"))),
    "latex-ends": (CLEAR(*kiln("thin")), CLEAR(*kiln("thinnest"))),
    "outside": (CLEAR(OVEN, STEW), CLEAR(DISH, CREW_POT)),
    "overcook": (CLEAR(OVEN, STEW), SHORT(OVEN, STEW)),
    "paint-the-hose": (CLEAR(*PAIRS["hose"]), CLEAR(*PAIRS["barrel"])),
    "pot-colour": (CLEAR(OVEN, STEW), SHORT(OVEN, STEW)),
    "preheat": (CLEAR(OVEN, STEW), CLEAR(WORKSHOP, SMALL_STEW)),
    "pump-eats": (CLEAR(*PAIRS["row"]), GREY(*PAIRS["row"])),
    "rated": (CLEAR(TWO_COILS, ALWAYS), SULTRY(TWO_COILS, ALWAYS)),
    "says-eight": (CLEAR(*kiln("vented")), CLEAR(*kiln("tight"))),
    "seal": (CLEAR(OVEN, STEW), GREY(OVEN, STEW)),
    "shiny-side": (CLEAR(OVEN, STEW), CLEAR(FUNNEL, STEW)),
    "slow-water": (CLEAR(*PAIRS["row"]), SHORT(*PAIRS["row"])),
    "steadier": (CLEAR(OVEN, STEW), CLEAR(FUNNEL, STEW)),
    "tall-stack": (CLEAR(GLASS_CABINET.opened(1.0), PAIRS["glass-cabinet"][1]), SULTRY(GLASS_CABINET.opened(1.0), PAIRS["glass-cabinet"][1])),
    "tubes-winter": (CLEAR(LAID_FLAT, TEA), CLEAR(STEEP, TEA)),
    "two-covers": (CLEAR(OVEN, None), CLEAR(BLACKEST, None)),
    "two-kelvin": (CLEAR(*kiln("vented")), CLEAR(*kiln("shaded"))),
}  # fmt: skip
SCHOOLS: Cases = {
    "absorber": (CLEAR(FIG_DRYER, FIGS), SHORT(SKETCH_DRYER, dryers.THIN)),
    "air-first": (CLEAR(*kiln("thin")), CLEAR(*kiln("begun"))),
    "behind": (CLEAR(*PAIRS["bottles"]), DARK(*PAIRS["bottles"])),
    "breathing": (CLEAR(*kiln("vented")), GREY(*kiln("vented"))),
    "clear-roof": (CLEAR(*kiln("vented")), CLEAR(*kiln("shaded"))),
    "cover": (CLEAR(*PAIRS["heater"]), GREY(*PAIRS["heater"])),
    "cover-first": (CLEAR(TUB_FRAME, PLUNGE_TUB), HOT(TUB_FRAME, COOL_TUB)),
    "depth": (CLEAR(*PAIRS["row"]), SHORT(*PAIRS["row"])),
    "early-vents": (CLEAR(*kiln("vented")), SHORT(*kiln("vented"))),
    "envelope": (CLEAR(FUNNEL, STEW), WARM_WIND(FUNNEL, STEW)),
    "film": (CLEAR(*PAIRS["heater"]), GREY(*PAIRS["heater"])),
    "flow": (CLEAR(*PAIRS["hose"]), SHORT(*PAIRS["hose"])),
    "inside-colour": (CLEAR(*kiln("vented")), SHORT(*kiln("vented"))),
    "joined": (CLEAR(*PAIRS["hose"]), CLEAR(TUB_FRAME.with_(coils=2, width_m=2.6), PLUNGE_TUB)),
    "kettle-fill": (CLEAR(KETTLE, TEA), DARK(KETTLE, TEA)),
    "lay": (CLEAR(*PAIRS["tub"]), SHORT(*PAIRS["tub"])),
    "lid": (CLEAR(*PAIRS["heater"]), SHORT(*PAIRS["heater"])),
    "light": (CLEAR(*PAIRS["glass-cabinet"]), DARK(*PAIRS["glass-cabinet"])),
    "lining": (CLEAR(OVEN, STEW), SHORT(OVEN, STEW)),
    "loading": (CLEAR(*kiln("vented")), CLEAR(*kiln("tight"))),
    "loop-control": (CLEAR(*PAIRS["tub"]), GREY(*PAIRS["tub"])),
    "loop-flow": (CLEAR(*PAIRS["tub"]), DARK(*PAIRS["tub"])),
    "mirror": (CLEAR(FUNNEL, STEW), DARK(FUNNEL, STEW)),
    "mixed": (CLEAR(*pine_and("white-oak", "air-dried", "green-sap")), CLEAR(*pine_and("scots-pine", "green-sap", "air-dried"))),
    "mover": (CLEAR(FIG_DRYER, FIGS), SHORT(*PAIRS["glass-cabinet"])),
    "night-fans": (CLEAR(*kiln("vented")), CLEAR(*kiln("thin"))),
    "notch": (CLEAR(KETTLE, TEA), SHORT(KETTLE, TEA)),
    "over": (CLEAR(*PAIRS["hose"]), GREY(*PAIRS["hose"])),
    "pool-cover": (CLEAR(*PAIRS["tub"]), SULTRY(*PAIRS["tub"])),
    "pot": (CLEAR(OVEN, STEW), WINDY(OVEN, STEW)),
    "side": (CLEAR(FIG_DRYER, FIGS), CLEAR(SKETCH_DRYER, dryers.THIN)),
    "skins": (CLEAR(*kiln("vented")), GREY(*kiln("vented"))),
    "slices": (CLEAR(FIG_DRYER, FIGS), DAMP(FIG_DRYER, FIGS)),
    "tilt": (CLEAR(OVEN, STEW), SHORT(OVEN, STEW)),
    "tube-inside": (CLEAR(ROW, ROW_TANK), FROST(ROW, PUMPED_ON)),
    "tube-sheet": (CLEAR(ROW, ROW_TANK), DARK(ROW, ROW_TANK)),
    "tubes-joined": (CLEAR(*PAIRS["bottles"]), SHORT(*PAIRS["bottles"])),
    "turning": (CLEAR(MELTER, PAIRS["melter"][1]), GREY(MELTER, PAIRS["melter"][1])),
    "vent": (CLEAR(FIG_DRYER, FIGS), GREY(FIG_DRYER, FIGS)),
    "wing-shape": (CLEAR(KETTLE, TEA), GREY(KETTLE, TEA)),
    "wing-sheet": (CLEAR(KETTLE, TEA), CLEAR(FOLDED, TEA)),
}  # fmt: skip


def ruled(name: str, context: AdviceContext) -> str:
    saying = next(entry for entry in said_of(context.build, context.load).sayings if entry.name == name)
    found = saying.test(context, context.build, context.load)
    assert found is not None, f"{name} is not asked here"
    assert marked(found.words)
    return found.ruling or ruling_by_size(found.effect, context.measure)


def answered(name: str, context: AdviceContext) -> tuple[str, bool] | None:
    """What is ahead among what is safe, and whether it matters; none where the question does not arise."""
    answer = next(iter(schools_of(context, name)), None)
    if answer is None:
        return None
    sound = [line for line in answer.lines if not marked(line.unsafe)] or answer.lines
    best = min(sound, key=lambda line: line.behind)
    return marked(best.title), "does not matter" in marked(answer.words)


@pytest.mark.parametrize("name", sorted(set(SAYINGS) - {"black-over-foil"}))
def test_a_saying_comes_out_both_ways(name: str):
    one, other = SAYINGS[name]
    assert ruled(name, one) != ruled(name, other)


def test_a_thin_veil_uses_the_foil_and_a_black_film_does_not(monkeypatch):
    """What the film lets by is the twin's own number: a veil that lets four fifths by does use the foil."""
    assert ruled("black-over-foil", SAYINGS["black-over-foil"][0]) == "wrong"
    monkeypatch.setattr(of_boxes, "FILM_PASSES", 0.8)
    assert ruled("black-over-foil", SAYINGS["black-over-foil"][1]) == "holds partly"


@pytest.mark.parametrize("name", sorted(SCHOOLS))
def test_a_school_comes_out_both_ways(name: str):
    one, other = SCHOOLS[name]
    assert answered(name, one) != answered(name, other)


def test_every_saying_and_school_is_tried_and_written_down():
    """The page has a row for each: what is run, what is measured, what would make it false."""
    assert set(SAYINGS) == names_of("sayings")
    assert set(SCHOOLS) == names_of("schools")
    rows = [line.split("|") for line in DOCS.read_text("utf-8").splitlines() if line.startswith("| `")]
    for what, names in (("sayings", set(SAYINGS)), ("schools", set(SCHOOLS))):
        mine = [row for row in rows if row[2].strip() == what[:-1]]
        assert {re.sub("`", "", row[1]).strip() for row in mine} == names, what
        assert all(len(row) == 7 and all(cell.strip() for cell in row[1:6]) for row in mine), "an empty cell"


def test_colder_air_is_judged_by_the_measure_of_the_day():
    """The colder day may boil nothing: counted each by its own, watts would be set against kelvins."""
    context = CLEAR(OVEN, STEW)
    colder = context.on(air_c=context.weather.air_c - 60.0)
    assert colder.measure.quantity != context.measure.quantity
    found = next(line for line in sayings_of(context) if line.name == "outside")
    assert found.quantity == context.measure.quantity
    assert abs(found.effect) < abs(context.score(OVEN, STEW).value)


def test_a_lid_keeps_what_an_open_pot_steams_off():
    """Vapour that leaves under the boil is lost, and an open pot is not ahead by it."""
    lines = {marked(line.title): line.score for line in schools_of(CLEAR(OVEN, STEW), "lid")[0].lines}
    assert lines["no lid"] < 0.7 * lines["black lid"]


def test_questions_that_do_not_arise_are_not_asked():
    assert "air-first" not in {school.name for school, _ in asked_of(CLEAR(*kiln("begun")))}
