"""Funnel, dish, melter, wedges and level shelves: geometry, light, heat, drawings."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.builds.common.box.optics import BoxOptics, views_of
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.builds.common.pattern import laid_out
from drylamp.core.builds.dish.optics import DishOptics, shape_of, spill, target_of
from drylamp.core.builds.dish.pattern import PETALS
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.builds.funnel.optics import FunnelOptics
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.builds.registry import BUILD, KINDS, kind_of
from drylamp.core.checks import InputProblem, explain
from drylamp.core.heat.parts import BOUNDARIES
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.loads.wax.spec import WaxBatch
from drylamp.core.optics.dish_light import on_target, spot_radius_m
from drylamp.core.optics.enclosure import enclosure_views
from drylamp.core.optics.geometry import Cylinder, Geometry
from drylamp.core.optics.shapes import box_inside, dish
from drylamp.core.optics.sun_table import received_m2
from drylamp.core.sky.dome import plane_axes
from drylamp.core.twin.light import Traced
from drylamp.core.twin.placements import Placement, between_turns, placements_of
from drylamp.demo.scenario import (
    BISCUITS,
    CAPPINGS,
    CREW_POT,
    DISH,
    FLAT_LOAF,
    FUNNEL,
    LIDS,
    MELTER,
    OVEN,
    STEW,
    WORKSHOP,
)
from tests.posing import prepared, simulated

NOON = np.array([0.0, -0.31, 0.95])
WEDGE = OVEN.model_copy(update={"shape": "wedge"})
LEVEL = OVEN.model_copy(update={"shelf": "level"})
CASES = [
    (WORKSHOP, BISCUITS), (WEDGE, STEW), (LEVEL, STEW), (FUNNEL, FLAT_LOAF), (FUNNEL, None), (DISH, CREW_POT), (DISH, None),
    (MELTER, CAPPINGS), (MELTER, None), (FUNNEL.model_copy(update={"shape": "panels", "sheet_height_m": 1.2}), STEW),
]  # fmt: skip
IDS = ["portions", "wedge", "level", "funnel", "bare funnel", "dish", "bare dish", "melter", "bare melter", "panels"]


@pytest.mark.parametrize(("build", "load"), CASES, ids=IDS)
def test_energy_closes_and_nothing_leaves_unbooked(build, load, site, june):
    run = simulated(site, None, build, load, june)
    assert run.energy_closure < 1e-9
    network = Traced(build, load).network
    outward = [link for link in network.links if link.end in ("air", "sky", "steam", "valve")]
    assert all(link.account in kind_of(build).accounts for link in outward)
    assert not any(link.account for link in network.links if link not in outward and link.start not in BOUNDARIES)
    total = sum(series for name, series in run.account_w.items())
    assert np.allclose(total, run.opening_w, atol=1e-6 * max(run.opening_w.max(), 1)), (
        "the ledger adds up to the sun met"
    )


@pytest.mark.parametrize(("build", "load"), CASES, ids=IDS)
def test_no_more_is_taken_up_than_met(build, load):
    optics = kind_of(build).optics(build, load)
    turn = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    around = np.stack([np.sin(turn) * 0.5, np.cos(turn) * 0.5, np.full(24, 0.75**0.5)], axis=1)
    areas, met = optics.along_path(around)
    assert (areas >= -1e-9).all()
    outside = {node.name for node in Traced(build, load).network.nodes if node.sun_account}
    through = [k for k, name in enumerate(kind_of(build).lit_nodes(build, load)) if name not in outside]
    assert (areas[:, through].sum(axis=1) <= met + 1e-6).all()
    assert areas.shape[1] == len(kind_of(build).lit_nodes(build, load))


@pytest.mark.parametrize(("build", "load"), CASES, ids=IDS)
def test_drawings_are_whole_and_on_the_paper(build, load):
    section = kind_of(build).section(build, load, NOON)
    (left, low), (right, high) = section.extent
    points = np.array([p for shape in section.shapes if shape.ink != "ground" for p in shape.outline])
    assert points[:, 0].min() >= left - 1e-6
    assert points[:, 0].max() <= right + 1e-6
    assert points[:, 1].max() <= high + 1e-6
    assert points[:, 1].min() >= low - 1e-6
    assert section.rays, "the noon sun is drawn"
    if load is not None:
        assert any(shape.part == "load" for shape in section.shapes)
    assert kind_of(build).section(build, load, None).rays == []


@pytest.mark.parametrize(("build", "load"), CASES, ids=IDS)
def test_specs_go_out_and_come_back(build, load):
    assert BUILD.validate_json(build.model_dump_json()) == build
    assert kind_of(build) is KINDS[build.kind]


def test_kinds_look_unlike_each_other():
    """Each drawing has a part or an ink that no other of the four has."""
    seen = {}
    for name, (build, load) in {
        "box": (OVEN, STEW),
        "funnel": (FUNNEL, STEW),
        "dish": (DISH, STEW),
        "melter": (MELTER, CAPPINGS),
    }.items():
        seen[name] = {shape.label for shape in kind_of(build).section(build, load, None).shapes}
    for name, labels in seen.items():
        others = set().union(*(more for other, more in seen.items() if other != name))
        assert labels - others, f"{name} has nothing of its own"


# --- the box ---


def test_a_wedge_has_a_level_floor_and_the_same_opening():
    assert WEDGE.opening_m2 == OVEN.opening_m2
    assert WEDGE.floor_m2 == pytest.approx(OVEN.opening_m2 * math.cos(math.radians(25)))
    assert WEDGE.back_height_m == pytest.approx(0.24 + 0.45 * math.sin(math.radians(25)))
    assert WEDGE.pot_tilt_deg == LEVEL.pot_tilt_deg == 0.0
    assert OVEN.pot_tilt_deg == 25.0


def test_general_view_factors_agree_with_those_of_a_plain_box():
    plain, areas = views_of(OVEN, STEW)
    level = OVEN.model_copy(update={"tilt_deg": 0.0, "shelf": "level"})
    from drylamp.core.builds.common.box.geometry import COVER, FLOOR, STANDING, WALLS, geometry_of

    bare = level.model_copy(update={"mirror": None})
    found, sizes = enclosure_views(geometry_of(bare, STEW), [FLOOR, WALLS, STANDING, COVER])
    assert sizes[1:] == pytest.approx(areas[1:], rel=1e-6)
    assert np.abs(found - plain).max() < 0.05
    assert found.sum(axis=1) == pytest.approx(np.ones(4), abs=1e-6)


def test_an_empty_cube_sees_itself_evenly():
    """Opposite faces of a cube: 0.1998 (Siegel & Howell); the four walls together take 0.8002 of what the floor sends out."""
    from drylamp.core.optics.geometry import rectangle

    lid = rectangle("cover", np.array([-0.5, 0, 1]), np.array([1, 0, 0]), np.array([0, 1, 0]), "cover")
    views, areas = enclosure_views(Geometry((lid, *box_inside(1.0, 1.0, 1.0))), ["floor", "walls", "cover"])
    assert views[0, 2] == pytest.approx(0.1998, abs=0.01)
    assert views[0, 1] == pytest.approx(0.8002, abs=0.01)
    exchange = areas[:, None] * views
    assert exchange == pytest.approx(exchange.T, abs=1e-9)


def test_portions_must_lie_on_the_tray():
    out = BISCUITS.model_copy(update={"portions": [BISCUITS.portions[0].model_copy(update={"across": 0.0})]})
    with pytest.raises(InputProblem, match="allowed is"):
        kind_of(WORKSHOP).check_fit(WORKSHOP, out)


def test_the_patch_moves_light_and_makes_none():
    optics = BoxOptics.of(WORKSHOP, BISCUITS)
    toward = plane_axes(40.0, WORKSHOP.facing_deg)[2][None]
    even, met = optics.absorbed_m2(toward)
    with_patch, same = optics.along_path(toward)
    assert same == pytest.approx(met)
    assert with_patch[:, : even.shape[1]].sum() == pytest.approx(even.sum(), rel=0.02)


# --- the funnel ---


@pytest.mark.parametrize("flare", [20.0, 32.0, 45.0, 60.0])
@pytest.mark.parametrize("sheet", [(1.2, 0.8), (0.9, 1.4)])
def test_a_funnel_is_as_large_as_its_sheet_allows(flare, sheet):
    made = Funnel(facing_deg=0.0, flare_deg=flare, sheet_width_m=sheet[0], sheet_height_m=sheet[1])
    piece = laid_out("", kind_of(made).pattern(made)).pieces[0]
    tab = 25.0
    assert piece.width_mm <= 1000 * sheet[0] + tab
    assert piece.height_mm <= 1000 * sheet[1] + tab
    assert max(piece.width_mm / sheet[0], piece.height_mm / sheet[1]) > 960, "it uses one side of the sheet up"


def test_a_sheet_that_is_too_small_says_what_to_do():
    with pytest.raises(ValidationError) as caught:
        Funnel(facing_deg=0.0, sheet_width_m=0.3, sheet_height_m=0.2, throat_m=0.3)
    assert "take a larger sheet" in explain(caught.value)[0].message


def test_mirror_walls_bring_more_light_to_the_pot_than_none():
    toward = plane_axes(FUNNEL.tilt_deg, 180.0)[2][None]
    pot = [
        FunnelOptics.of(FUNNEL.model_copy(update={"mirror": name}), STEW).along_path(toward)[0][0, 1]
        for name in ("white-paint", "mylar")
    ]
    assert pot[1] > 2 * pot[0]


def test_a_mirror_that_throws_nothing_back_is_an_opaque_wall():
    dead = FUNNEL.model_copy(update={"mirror": "white-paint", "tilt_deg": 0.0})
    straight, _ = FunnelOptics.of(dead, STEW).along_path(np.array([[0.0, 0.0, 1.0]]))
    assert straight[0, 1] == pytest.approx(STEW.absorptance * STEW.top_m2, rel=0.12)


def test_a_pot_in_a_funnel_sees_more_sky_than_its_upper_half():
    optics = FunnelOptics.of(FUNNEL, STEW)
    assert 0 < optics.sky_m2["standing"] <= STEW.side_m2 + STEW.top_m2 + 0.02


@pytest.mark.parametrize(
    ("load", "words"), [(PotLoad(pot_diameter_m=0.5, pot_height_m=0.05), "bottom is"), (WaxBatch(), "melter")]
)
def test_what_does_not_fit_a_funnel_is_refused(load, words):
    with pytest.raises(InputProblem, match=words):
        kind_of(FUNNEL).check_fit(FUNNEL, load)


# --- the dish ---


def test_the_true_curve_agrees_with_a_net_of_facets():
    build = Dish(facing_deg=180.0, tilt_deg=0.0, diameter_m=1.2, focal_m=0.5, mirror="glass-mirror", surface="smooth")
    load = in_vessel(STEW, "thin-enamel")
    target = target_of(build, load)
    shape = shape_of(build)
    net = dish("dish", build.diameter_m, build.focal_m, shape.reflectance, build.slope_error_mrad, rings=14, sectors=48)
    scene = Geometry(
        net, (Cylinder("pot", target.foot, target.height_m * target.axis, target.radius_m),), made_by_rule=True
    )
    for off in (0.0, 3.0):
        toward = np.array([[math.sin(math.radians(off)), 0.0, math.cos(math.radians(off))]])
        traced = received_m2(scene, toward, 16384)[0].sum()
        curve = on_target(shape, target, toward, 4096)[0] + target.shadow_m2(toward)[0]
        assert curve == pytest.approx(traced, rel=0.03)


def test_a_perfect_dish_puts_all_rays_on_its_focus():
    perfect = DISH.model_copy(update={"surface": "smooth", "mirror": "thin-glass-mirror"})
    assert spot_radius_m(shape_of(perfect), 0.9) < 0.02
    assert spot_radius_m(shape_of(DISH), 0.9) > spot_radius_m(shape_of(perfect), 0.9)


def test_spill_grows_with_the_time_since_turning():
    lost = spill(DISH, CREW_POT, np.array([0.0, 2.0, 5.0, 10.0, 20.0]))
    assert lost[0] < 0.15
    assert (np.diff(lost) > -0.02).all()
    assert lost[-1] > 0.9


def test_a_dish_left_alone_does_far_less(site, june):
    turned, left = (
        simulated(site, None, DISH.model_copy(update={"turned_minutes": every}), CREW_POT, june)
        for every in (20.0, None)
    )
    hours = [float((run.temperature_c["contents"] > 90).sum()) / 60 for run in (turned, left)]
    assert hours[0] > hours[1] + 4


def test_a_dish_is_turned_after_the_suns_height_too(site, june):
    stands = placements_of(None, DISH, june)
    assert len(stands) > 30
    tilts = [run_design.tilt_deg for run_design in stands[1:]]
    assert min(tilts) == pytest.approx(90 - float(june.sun.altitude_deg.max()), abs=1)
    assert all(at.tilt_deg is None for at in placements_of(None, FUNNEL, june)[1:])
    assert len(placements_of(None, OVEN, june)) == 1


def test_drawings_show_it_as_turned(site, june):
    at = float(june.sun.time_s[12 * 60])
    seen = between_turns(site, DISH, at)
    assert seen.tilt_deg == pytest.approx(90 - float(june.sun.altitude_deg[12 * 60]), abs=3)
    assert between_turns(site, OVEN, at) is OVEN
    assert between_turns(site, DISH, float(june.sun.time_s[0])) is DISH


@pytest.mark.parametrize(
    ("load", "words"), [(BISCUITS, "heats a pot"), (PotLoad(pot_diameter_m=0.9, pot_height_m=0.05), "shades the dish")]
)
def test_what_does_not_fit_a_dish_is_refused(load, words):
    with pytest.raises(InputProblem, match=words):
        kind_of(DISH).check_fit(DISH, load)


def test_a_dish_deeper_than_wide_is_refused():
    with pytest.raises(ValidationError, match="longer focus"):
        Dish(facing_deg=0.0, diameter_m=2.0, focal_m=0.2)


def test_nothing_comes_from_behind_a_dish():
    areas, met = DishOptics.of(DISH, CREW_POT).along_path(np.array([[0.0, 0.0, -1.0]]))
    assert areas.sum() <= target_of(DISH, CREW_POT).shadow_m2(np.array([[0.0, 0.0, -1.0]]))[0]
    assert met[0] > 0


# --- the melter ---


def test_a_melter_is_a_box_with_a_heap_on_its_floor():
    assert MELTER.opening_m2 == MELTER.width_m * MELTER.length_m
    assert kind_of(MELTER).lit_nodes(MELTER, CAPPINGS)[:4] == ["tray", "walls", "wax", "catch"]


@pytest.mark.parametrize(
    ("load", "words"), [(STEW, "batch of wax"), (CAPPINGS.model_copy(update={"batch_kg": 20.0}), "lay in up to")]
)
def test_what_does_not_belong_in_a_melter_is_refused(load, words):
    with pytest.raises(InputProblem, match=words):
        kind_of(MELTER).check_fit(MELTER, load)


# --- patterns ---


def test_a_net_folds_up_to_the_box():
    net = laid_out("x", kind_of(OVEN).pattern(OVEN)).pieces[0]
    assert net.width_mm == pytest.approx(1000 * (OVEN.width_m + 2 * OVEN.height_m), abs=0.1)
    assert net.height_mm == pytest.approx(1000 * (OVEN.length_m + 2 * OVEN.height_m), abs=0.1)
    assert sum(line.kind == "fold" for line in net.lines) == 8


def test_a_wedge_net_has_a_higher_back():
    plain, wedge = (
        laid_out("", kind_of(OVEN).pattern(OVEN)).pieces[0],
        laid_out("", kind_of(WEDGE).pattern(WEDGE)).pieces[0],
    )
    assert wedge.height_mm > plain.height_mm + 100


def test_a_petal_is_as_long_as_the_curve_and_all_of_them_go_round():
    petal = laid_out("", kind_of(DISH).pattern(DISH)).pieces[0]
    assert petal.count == PETALS
    assert petal.width_mm == pytest.approx(math.pi * 1400 / PETALS, rel=1e-3)
    slope = 0.7 / 1.2
    arc = 600 * (slope * math.sqrt(1 + slope**2) + math.asinh(slope))
    assert petal.height_mm == pytest.approx(arc, rel=0.06)  # the tip is cut off


def test_pieces_lie_beside_each_other():
    pieces = laid_out("", kind_of(OVEN).pattern(OVEN)).pieces
    ends = [
        (min(x for line in p.lines for x, _ in line.points), max(x for line in p.lines for x, _ in line.points))
        for p in pieces
    ]
    assert all(a[1] < b[0] for a, b in itertools.pairwise(ends))


def test_samples_have_no_pattern():
    with pytest.raises(InputProblem, match="no pattern"):
        laid_out("", kind_of(LIDS).pattern(LIDS))


def test_flaps_come_with_their_hinge():
    build = OVEN.model_copy(update={"flaps": OVEN.flaps.model_copy(update={"left": FlapMirror(length_m=0.4)})})
    left = next(p for p in laid_out("", kind_of(build).pattern(build)).pieces if p.name == "left flap")
    assert (left.width_mm, left.height_mm) == (pytest.approx(450), pytest.approx(420))


@pytest.mark.parametrize(("build", "load"), CASES, ids=IDS)
def test_a_turn_at_the_very_start_is_a_turn(build, load, site, june):
    """A stand that lasts no step costs nothing and changes nothing."""
    turned = [Placement(0.0, None), Placement(june.start_s, None, 150.0)]
    here = prepared(site, turned, build, load, june).run()
    there = prepared(site, [Placement(0.0, None)], build.model_copy(update={"facing_deg": 150.0}), load, june).run()
    assert here.opening_w == pytest.approx(there.opening_w, rel=0.03, abs=2.0)


def test_a_flat_sheet_lies_level_whatever_its_axis_says():
    """A glass bowl over food on a black sheet: the simplest oven of all."""
    from drylamp.core.advice.changes import changes_of
    from drylamp.core.loads.common.envelope import Envelope

    flat = Funnel(
        facing_deg=180.0, shape="flat", tilt_deg=40.0, sheet_width_m=0.45, sheet_height_m=0.4, trivet_m=0.0, stand_m=0.0
    )
    load = BISCUITS.model_copy(update={"under": Envelope(diameter_m=0.24, height_m=0.12)})
    toward = plane_axes(30.0, 200.0)[2][None]
    leaning, level = (
        FunnelOptics.of(b, load).along_path(toward)[0] for b in (flat, flat.model_copy(update={"tilt_deg": 0.0}))
    )
    assert leaning == pytest.approx(level)
    titles = {change.title for change in changes_of(flat, load)}
    assert not any("mirror" in title or "tilted" in title or "turned" in title for title in titles)
