"""Specs, recipes, drawings, tables, outcomes and advice."""

from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core import tables
from drylamp.core.advice.plan import day_plan
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box.optics import BoxOptics
from drylamp.core.builds.common.box.recipe import network_of
from drylamp.core.builds.common.box.section import section_of
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, explain
from drylamp.core.common.wall import WallLayer, wall_w_m2k
from drylamp.core.engine import run_case
from drylamp.core.heat.parts import BOUNDARIES
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.outcome.ledger import ledger_between
from drylamp.core.outcome.of_load import reached
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.case import Case
from drylamp.demo.scenario import example_case
from tests.posing import forecasted
from tests.wording import read

NOON = np.array([0.0, -0.31, 0.95])


@pytest.mark.parametrize("table", [tables.absorbers, tables.covers, tables.mirrors, tables.layers, tables.foods])
def test_every_row_names_its_source(table):
    rows = table()
    assert len(rows) >= 6
    for name, row in rows.items():
        assert row.name == name
        assert row.source


def test_finding_a_material_suggests_near_names():
    with pytest.raises(InputProblem, match="window-glass"):
        tables.find(tables.covers(), "windowglass", "cover")


OWN_TIN = {
    "name": "tea-tin", "title": "Inside of a tea tin", "absorptance": 0.45, "emittance": 0.12, "top_service_c": 180.0,
    "food_safe": True, "price_m2": 0.0, "source": "measured at home with a clear day's comparison",
}  # fmt: skip


@pytest.mark.parametrize(("field", "value", "says"), [
    ("width_m", -0.4, "greater than or equal to 0.05"),
    ("tilt_deg", 120, "less than or equal to 90"),
    ("wall", [], "at least 1 item"),
    ("wall", [{"material": "plywood", "thickness_m": -0.01}], "greater than or equal to"),
    ("tray", "shiny-black", "nearest known"),
    ("seal_gap_mm", float("inf"), "finite"),
    ("colour", "red", "Extra inputs"),
    ("cover", {"material": "window-glass", "layers": 5}, "less than or equal to 3"),
    ("mirror", {"material": "tinsel"}, "nearest known"),
    ("cover", {"layers": 2, "more": [{"material": "pe-film", "thickness_m": 0.0002}] * 2}, "4 sheets were given"),
    ("flaps", {"left": {"material": "tinsel"}}, "nearest known"),
    ("vent_open", 1.2, "less than or equal to 1"),
    ("lining", {"name": "My tin", "title": "x"}, "should match pattern"),
    ("lining", {**OWN_TIN, "absorptance": 1.3}, "less than or equal to 1"),
])  # fmt: skip
def test_impossible_ovens_are_refused(oven, field: str, value: object, says: str):
    with pytest.raises(ValidationError, match=says):
        BoxOven.model_validate({**oven.model_dump(), field: value})


@pytest.mark.parametrize(("change", "says"), [
    ({"food_kg": 9.0}, "does not fit a pot"),
    ({"goes_in": "25:00"}, "pattern"),
    ({"food": "stone-soup"}, "nearest known"),
    ({"start_c": 120}, "less than or equal to 95"),
    ({"pot_finish": "gold"}, "nearest known"),
])  # fmt: skip
def test_impossible_loads_are_refused(change: dict, says: str):
    with pytest.raises(ValidationError, match=says):
        PotLoad.model_validate(change)


def test_errors_say_what_was_given_where():
    with pytest.raises(ValidationError) as caught:
        Case.model_validate(
            {
                **example_case().model_dump(mode="json"),
                "site": {**example_case().site.model_dump(mode="json"), "latitude_deg": 95},
            }
        )
    problems = explain(caught.value)
    assert problems[0].field == "site.latitude_deg"
    assert problems[0].message == "95 was given; allowed is less than or equal to 90"


def test_wall_of_layers_in_a_row():
    oven = BoxOven(
        facing_deg=180,
        wall=[WallLayer(material="plywood", thickness_m=0.012), WallLayer(material="glass-wool", thickness_m=0.04)],
    )
    assert 1 / wall_w_m2k(oven.wall) == pytest.approx(0.012 / 0.12 + 0.04 / 0.040)


@pytest.mark.parametrize("layers", [0, 1, 2])
@pytest.mark.parametrize("loaded", [False, True])
def test_recipe_is_whole(oven, stew, layers: int, loaded: bool):
    cover = None if layers == 0 else GlazedCover(layers=layers)
    build, load = oven.model_copy(update={"cover": cover}), stew if loaded else None
    network = network_of(build, load, BoxOptics.of(build, load))
    assert len([n for n in network.names if n.startswith("cover")]) == layers
    assert ("contents" in network.names) is loaded
    touched = {end for link in network.links for end in (link.start, link.end)}
    assert set(network.names) <= touched
    outward = [link for link in network.links if link.end in ("air", "sky", "steam")]
    assert all(link.account for link in outward), "every way out is in the ledger"
    assert not any(link.account for link in network.links if link not in outward and link.start not in BOUNDARIES)


def test_drawing_is_to_scale(oven, stew):
    section = section_of(oven, stew, NOON)
    tray = next(s for s in section.shapes if s.part == "tray")
    low, high = np.array(tray.outline[0]), np.array(tray.outline[1])
    assert np.hypot(*(high - low)) == pytest.approx(oven.length_m)
    slope = np.degrees(np.arctan2(high[1] - low[1], abs(high[0] - low[0])))
    assert slope == pytest.approx(oven.tilt_deg)
    assert min(p[1] for s in section.shapes for p in s.outline) == pytest.approx(0, abs=1e-9)
    assert {s.part for s in section.shapes} >= {"cover", "mirror", "tray", "lining", "load", "wall-0", "wall-2"}
    assert {d.label: d.value_m for d in section.dimensions}["mirror"] == oven.mirror.length_m


def test_rays_land_on_parts_inside(oven, stew):
    section = section_of(oven, stew, NOON)
    assert any(r.by_mirror for r in section.rays)
    assert {r.lands_on for r in section.rays} <= {"tray", "walls", "load", "missed"}
    assert any(r.lands_on == "load" for r in section.rays)
    direct = [np.subtract(r.points[1], r.points[0]) for r in section.rays if not r.by_mirror]
    angles = [np.arctan2(d[1], d[0]) for d in direct]
    assert np.ptp(angles) < 1e-9, "the sun's rays are parallel"


def test_reflection_in_the_drawing_obeys_the_mirror(oven):
    section = section_of(oven, None, NOON)
    mirror = next(s for s in section.shapes if s.ink == "mirror")
    along = np.subtract(mirror.outline[1], mirror.outline[0])
    along /= np.hypot(*along)
    for ray in section.rays:
        if ray.by_mirror:
            comes, goes = (np.subtract(ray.points[k + 1], ray.points[k]) for k in (0, 1))
            comes, goes = comes / np.hypot(*comes), goes / np.hypot(*goes)
            assert comes @ along == pytest.approx(goes @ along, abs=1e-9)


@pytest.mark.parametrize("sun", [None, np.array([0.0, -0.9, -0.2])])
def test_no_rays_at_night(oven, sun):
    section = section_of(oven, None, sun)
    assert section.rays == []
    assert section.sun_toward is None


def test_low_sun_behind_the_mirror_is_shaded(oven):
    section = section_of(
        oven.model_copy(update={"mirror": FlapMirror(length_m=0.9, angle_deg=60)}), None, np.array([0.0, 0.6, 0.8])
    )
    assert not any(r.by_mirror for r in section.rays)


def test_level_box_has_no_prop(oven):
    assert not any(s.label == "prop" for s in section_of(oven.model_copy(update={"tilt_deg": 0.0}), None, None).shapes)
    assert any(s.label == "prop" for s in section_of(oven, None, None).shapes)


def test_crossing_a_target_between_samples():
    times, series = np.array([0.0, 60.0, 120.0]), np.array([80.0, 88.0, 96.0])
    assert reached(times, series, 90.0) == pytest.approx(75.0)
    assert reached(times, series, 99.0) is None
    assert reached(times, series, 70.0) == 0.0


def test_outcome_of_the_example():
    outcome, run = run_case(example_case())
    day = outcome.days[0]
    assert day.enough is True
    assert day.target_reached_at.hour == 13
    assert outcome.target_c == 90
    assert outcome.boiling_c == pytest.approx(98.4, abs=0.1)
    assert outcome.stagnation_c > 130
    assert outcome.energy_closure < 1e-3
    assert len(outcome.times) == len(outcome.curves[0].temperature_c) == len(outcome.of_hundred["food"])
    contents = next(c for c in outcome.curves if c.node == "contents")
    assert contents.temperature_c[0] is None
    assert max(v for v in contents.temperature_c if v is not None) <= outcome.boiling_c + 0.3
    assert run.titles["contents"] == "chickpea stew"


def test_ledger_of_a_window_sums_to_a_hundred(site):
    _, run = run_case(example_case())
    start = run.edge_s[0] + 11 * 3600
    ledger = ledger_between(example_case(), run, start, start + 3600)
    assert sum(line.of_hundred for line in ledger.lines) == pytest.approx(100, abs=1e-6)
    assert ledger.opening_wh == pytest.approx(ledger.opening_w, rel=1e-9)
    night = ledger_between(example_case(), run, run.edge_s[0], run.edge_s[0] + 3600)
    assert all(line.of_hundred == 0 for line in night.lines)


def test_two_days_are_two_meals(site, oven, stew):
    weather = weather_of(site, ClearDay(tmin_c=15, tmax_c=26), Span(start=date(2025, 6, 12), days=2))
    outcome, run = forecasted(site, None, oven, stew, weather)
    assert [d.day.day for d in outcome.days] == [12, 13]
    assert outcome.days[1].minutes_to_target == pytest.approx(outcome.days[0].minutes_to_target, abs=8)
    assert run.temperature_c["contents"][1440 + 630] == pytest.approx(stew.start_c)


def test_plan_of_the_day(site, oven, stew, june):
    outcome, _ = forecasted(site, None, oven, stew, june)
    steps = day_plan(oven, stew, outcome)
    assert [s.text.split()[0] for s in steps] == ["open", "put", "chickpea", "chickpea"]
    assert steps == sorted(steps, key=lambda s: s.time)
    assert (steps[3].time - steps[2].time).total_seconds() == 3600
    assert day_plan(oven, None, outcome) == []


def flags(site, oven, load, june):
    return forecasted(site, None, oven, load, june)[0].flags


def test_cautions_come_with_the_builds_own_numbers(site, oven, stew, june):
    texts = " ".join(read(f.text) for f in flags(site, oven, stew, june))
    assert "Eyes:" in texts
    assert "Burns: on this day tray gets to 1" in texts
    assert "Steam:" in texts
    assert "safe" not in texts.lower().replace("food-safe", "")


def test_a_meal_that_will_not_be_hot_is_stopped_before_it_starts(site, oven, june):
    big = PotLoad(food="meat-stew", food_kg=5.0, pot_diameter_m=0.35, pot_height_m=0.15, goes_in="16:30")
    found = flags(site, oven, big, june)
    assert any(f.level == "stop" and "does not reach" in f.text for f in found)
    assert any("between 5 °C and 60 °C" in read(f.text) for f in found)
    assert any(read(f.text).startswith("Meat stew: 74 °C in the thickest part") for f in found)


def test_weak_materials_are_named(site, oven, june):
    weak = oven.model_copy(update={"cover": GlazedCover(material="acrylic", thickness_m=0.003, layers=2)})
    text = next(read(f.text) for f in flags(site, weak, None, june) if "Acrylic" in f.text)
    assert "lasts to about 80 °C" in text
    foam = oven.model_copy(update={"wall": [WallLayer(material="eps-foam", thickness_m=0.05)]})
    assert any("EPS foam" in f.text and f.part == "wall-0" for f in flags(site, foam, None, june))


def test_case_without_its_weather_file_says_so():
    raw = {**example_case().model_dump(mode="json"), "weather": {"kind": "epw", "path": "x.epw"}}
    with pytest.raises(InputProblem, match=r"weather\.path"):
        run_case(Case.model_validate(raw))


def test_own_material_goes_through_the_same_model_and_stays_with_the_build(oven):
    own = BoxOven.model_validate({**oven.model_dump(), "lining": OWN_TIN})
    assert tables.absorber(own.lining).absorptance == 0.45
    assert BoxOven.model_validate_json(own.model_dump_json()) == own
    assert "Inside of a tea tin" in [stuff.row.title for stuff in kind_of(own).stuffs(own)]


def test_errors_in_an_own_material_are_at_its_field(oven):
    with pytest.raises(ValidationError) as caught:
        BoxOven.model_validate({**oven.model_dump(), "lining": {**OWN_TIN, "emittance": 2.0}})
    (problem,) = explain(caught.value)
    assert problem.field == "lining.emittance"
    assert "2.0 was given" in problem.message


def test_cover_material_that_gives_and_passes_too_much_is_refused():
    row = tables.covers()["pe-film"].model_dump()
    with pytest.raises(ValidationError, match="come to more than 1"):
        tables.Cover.model_validate({**row, "emittance": 0.8})
    with pytest.raises(ValidationError, match="skin_gap_m"):
        tables.Cover.model_validate({**row, "skins": 2.0})


def test_skins_run_from_the_inside_out():
    cover = GlazedCover(material="twin-wall-10", thickness_m=0.0007, layers=1, gap_m=0.02,
                        more=[{"material": "pe-film", "thickness_m": 0.0002}])  # fmt: skip
    assert [(s.row.name, s.gap_m) for s in cover.skins] == [
        ("twin-wall-10", 0.009),
        ("twin-wall-10", 0.02),
        ("pe-film", 0.0),
    ]
