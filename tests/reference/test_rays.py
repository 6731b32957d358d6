"""The ray tracer against closed forms, and its own convergence."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core.checks import InputProblem
from drylamp.core.optics import sun_table
from drylamp.core.optics.booster import HingedMirror, image, patch
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.optics.geometry import Cylinder, Facet, Geometry, rectangle
from drylamp.core.optics.shapes import box_inside, dish, hinged_flap, trough
from drylamp.core.optics.sun_table import SUN_HALF_RAD, received_m2
from drylamp.core.sky.dome import hemisphere

UP = np.array([0.0, 0.0, 1.0])
WIDTH, LENGTH, MIRROR = 0.5, 0.45, 0.45
CORNERS = [
    np.array([x, y, 0.0]) for x, y in ((-WIDTH / 2, 0), (WIDTH / 2, 0), (WIDTH / 2, LENGTH), (-WIDTH / 2, LENGTH))
]
EDGES = {
    "upper": (2, 3, [0, -1, 0]),
    "lower": (0, 1, [0, 1, 0]),
    "left": (3, 0, [1, 0, 0]),
    "right": (1, 2, [-1, 0, 0]),
}


def unit(*vector: float) -> np.ndarray:
    return np.array(vector) / np.linalg.norm(vector)


def flaps(names: list[str], angle: float = 110.0, reflectance: float = 0.85, length: float = MIRROR) -> list[Facet]:
    return [
        hinged_flap(name, (CORNERS[a], CORNERS[b]), np.array(inward, float), UP, length, angle, reflectance)
        for name, (a, b, inward) in EDGES.items()
        if name in names
    ]


def opening() -> Facet:
    return rectangle("opening", CORNERS[0], CORNERS[1] - CORNERS[0], CORNERS[3] - CORNERS[0], "receiver")


def gathered(geometry: Geometry, toward: np.ndarray, rays: int = 16384, sun_half_rad: float = 0.0) -> float:
    return float(received_m2(geometry, toward, rays, sun_half_rad).sum())


# Geometry: the closed form of a hinged mirror (itself checked against thrown rays and crossed strings).
@pytest.mark.parametrize("toward", [unit(0, 0.2, 1), unit(0.3, -0.4, 1), unit(-0.5, 0.1, 0.8), unit(0.1, 0.9, 0.4)])
@pytest.mark.parametrize("angle", [70.0, 95.0, 120.0])
def test_one_mirror_meets_the_closed_form(toward, angle):
    mirror = HingedMirror(MIRROR, angle, 0.85)
    seen = image(mirror, toward[None, :])
    behind = float(toward @ mirror.normal) < 0
    bright = 0.0 if behind else 0.85 * float(patch(mirror, WIDTH, LENGTH, seen).area_m2[0]) * max(seen[0, 2], 0.0)
    shade = float(patch(mirror, WIDTH, LENGTH, toward[None, :]).area_m2[0]) if behind else 0.0
    closed = (WIDTH * LENGTH - shade) * toward[2] + bright
    geometry = Geometry((opening(), *flaps(["upper"], angle)))
    assert gathered(geometry, toward) == pytest.approx(closed, abs=0.0015)


def test_rays_converge():
    """Quasi-random points: the spread between sizes falls much faster than the root of their number."""
    geometry = Geometry((opening(), *flaps(list(EDGES))))
    toward = unit(0.2, 0.3, 1)
    best = gathered(geometry, toward, 2**18)
    off = [abs(gathered(geometry, toward, 2**k) - best) / best for k in (8, 11, 14)]
    assert off[0] < 0.04
    assert off[1] < 0.008
    assert off[2] < 0.0015


def test_same_rays_every_time():
    geometry = Geometry((opening(), *flaps(["upper", "left"])))
    assert (received_m2(geometry, unit(0.1, 0.2, 1)) == received_m2(geometry, unit(0.1, 0.2, 1))).all()


def test_mirror_of_no_reflectance_is_a_board():
    toward = hemisphere(60)
    mirrors, boards = flaps(list(EDGES), reflectance=0.0), [Facet(f.name, f.corners) for f in flaps(list(EDGES))]
    as_mirror = received_m2(Geometry((opening(), *mirrors)), toward)
    as_board = received_m2(Geometry((opening(), *boards)), toward)
    assert np.abs(as_mirror - as_board).max() == 0.0


def test_four_flaps_beat_one_beats_none():
    toward = unit(0, 0.1, 1)
    none, one, four = (gathered(Geometry((opening(), *flaps(names))), toward) for names in ([], ["upper"], list(EDGES)))
    assert none == pytest.approx(WIDTH * LENGTH * toward[2], rel=1e-3)
    assert none < one < four
    assert four < none + 4 * 0.85 * MIRROR * WIDTH  # no more than falls on the mirrors


# Crossed strings, long opening and board: the board's view factor from the opening is (L + M − D)/(2 L).
@pytest.mark.parametrize("angle", [60.0, 90.0, 120.0])
def test_share_of_the_dome_that_a_board_hides(angle):
    length, board = 0.5, 0.6
    ends = np.array([15.0, length, 0.0]), np.array([-15.0, length, 0.0])
    hole = rectangle("opening", [-15.0, 0, 0], [30.0, 0, 0], [0, length, 0], "receiver")
    flap = hinged_flap("board", ends, np.array([0.0, -1, 0]), UP, board, angle, 0.0)
    around = hemisphere(1500)
    seen = [received_m2(s, around, 4096, 0.0).sum() for s in (Geometry((hole, flap)), Geometry((hole,)))]
    free = np.hypot(length - board * np.cos(np.radians(angle)), board * np.sin(np.radians(angle)))
    assert 1 - seen[0] / seen[1] == pytest.approx((length + board - free) / (2 * length), abs=0.012)


def test_perfect_parabola_puts_all_rays_on_its_focus():
    """A trough of narrow strips: every strip sends its own width to the focal line, whatever its place."""
    focal, strips, width = 0.25, 200, 0.8
    bright = trough("trough", width, focal, 1.0, 1.0, strips=strips)
    tube = Cylinder("focus", [0, -0.6, focal], [0, 1.2, 0], 1.1 * width / strips)
    caught = gathered(Geometry(bright, (tube,)), UP, 65536)
    assert caught == pytest.approx(width * 1.0, rel=0.01)


# Geometry: at its focus a paraboloid images a sun of half width θ as a spot of f·θ round; D&B ch. 7.
def test_dish_with_a_real_sun_and_with_a_rough_surface():
    smooth = dish("dish", 1.0, 0.5, 0.9, rings=24, sectors=72)
    far = 2.5 * 0.5 * SUN_HALF_RAD
    pot = Cylinder("pot", [0, 0, 0.5 - 0.06], [0, 0, 0.12], far + 0.025)
    aperture = np.pi * 0.25 - np.pi * (far + 0.025) ** 2
    caught = gathered(Geometry(smooth, (pot,)), UP, 16384, SUN_HALF_RAD) - np.pi * (far + 0.025) ** 2
    assert caught == pytest.approx(0.9 * aperture, rel=0.02)
    rough = dish("dish", 1.0, 0.5, 0.9, slope_error_mrad=30.0, rings=24, sectors=72)
    spilt = gathered(Geometry(rough, (pot,)), UP, 16384, SUN_HALF_RAD) - np.pi * (far + 0.025) ** 2
    assert spilt < 0.8 * caught


def test_dish_turned_away_spills_its_light():
    mirror = dish("dish", 1.2, 0.45, 0.9)
    pot = Cylinder("pot", [0, 0, 0.40], [0, 0, 0.12], 0.10)
    away = [gathered(Geometry(mirror, (pot,)), unit(0, np.tan(np.radians(a)), 1)) for a in (0, 5, 10, 20)]
    assert away[0] > away[1] > away[2] > away[3]
    assert away[3] < 0.35 * away[0]


# D&B ch. 5 through the tracer: light behind a cover is its transmittance at that incidence.
def test_cover_in_the_scene_takes_its_share():
    panes = (Pane(1.526, 16.0, 0.004), Pane(1.526, 16.0, 0.004))
    cover = Facet("cover", np.array(CORNERS) + 0.2 * UP, "cover", panes=panes)
    toward = unit(0.0, 0.5, 1.0)
    ground = rectangle("floor", [-3, -3, 0], [6, 0, 0], [0, 6, 0], "receiver")
    parts = received_m2(Geometry((cover, ground)), toward, 65536, 0.0)[0].sum(axis=1)
    bare = 36.0 * toward[2] - parts[0]
    through = (parts[1] - bare) / parts[0]
    assert through == pytest.approx(float(stack(list(panes), toward[2]).transmittance), abs=0.03)


def test_bins_hold_the_angle_of_incidence():
    for degrees in (2.0, 33.0, 71.0):
        toward = unit(0, np.tan(np.radians(degrees)), 1)
        area = received_m2(Geometry((opening(),)), toward, 1024, 0.0)[0, 0]
        assert np.flatnonzero(area).tolist() == [int(toward[2] * sun_table.INCIDENCE_BINS)]


@settings(max_examples=40, deadline=None)
@given(st.floats(0, 360), st.floats(-89, 89))
def test_grid_reads_back_its_own_directions(azimuth, altitude):
    a, h = np.radians(azimuth), np.radians(altitude)
    toward = np.array([[np.cos(h) * np.sin(a), np.cos(h) * np.cos(a), np.sin(h)]])
    nodes = 33
    smooth = sun_table.SunTable(("x",), (sun_table.grid_directions(nodes) + 2.0)[..., None, :])
    assert np.abs(smooth.at(toward)[0, 0] - 2.0 - toward[0]).max() < 0.02


def test_table_stands_for_rays_traced_afresh():
    geometry = Geometry((opening(), *flaps(list(EDGES))))
    table = sun_table.table_of(geometry, rays=512)
    toward = hemisphere(200)[:180]
    fresh, read = received_m2(geometry, toward, 4096).sum(axis=(1, 2)), table.at(toward).sum(axis=(1, 2))
    assert np.abs(read - fresh).max() < 0.06 * fresh.max()
    assert read.sum() == pytest.approx(fresh.sum(), rel=0.01)


def test_uniform_sky_on_a_bare_opening_is_its_area():
    table = sun_table.table_of(Geometry((opening(),)), rays=512)
    around = hemisphere(600)
    area = table.from_uniform_sky(around, 2 * np.pi / 600, np.ones(600)).sum()
    assert area == pytest.approx(WIDTH * LENGTH, rel=0.02)


def test_bright_patch_lies_where_the_mirror_sends_it():
    """Sun straight above, mirror at 120°: the patch reaches a mirror's length down from the hinge."""
    geometry = Geometry((opening(), *flaps(["upper"], 120.0, 1.0, length=0.4)))
    found = sun_table.flux_map(geometry, "opening", UP, 20, 45)
    # The beam leaves at 60° from upright: the tip's ray falls 0.4·sin 60° and lands that times tan 60° from the tip.
    depth = 0.4 * np.sin(np.radians(60)) * np.tan(np.radians(60)) - 0.4 * np.cos(np.radians(60))
    lit = np.flatnonzero(found.suns.mean(axis=0) > 1.25) * 0.01
    assert LENGTH - lit.min() == pytest.approx(depth, abs=0.02)
    assert found.received_m2 == pytest.approx(WIDTH * LENGTH + 0.4 * np.cos(np.radians(60)) * WIDTH, rel=0.02)
    assert found.peak == pytest.approx(1.5, abs=0.15)
    assert found.centre[0] == pytest.approx(0.5, abs=0.01)


def test_map_wants_a_rectangle_that_receives():
    geometry = Geometry((opening(), *flaps(["upper"])))
    with pytest.raises(InputProblem, match="'tray' is not in the geometry; known: opening"):
        sun_table.flux_map(geometry, "tray", UP)
    with pytest.raises(InputProblem, match="no single rectangle"):
        sun_table.flux_map(Geometry(box_inside(0.4, 0.4, 0.2)), "walls", UP)


SQUARE = np.array([[0.0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]])


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Geometry(()), "geometry: is empty"),
        (lambda: Geometry((Facet("board", SQUARE),)), "nothing in it receives light"),
        (lambda: Facet("bow", SQUARE[[0, 2, 1, 3]]), "facet.bow: its edges cross"),
        (lambda: Facet("line", np.array([[0.0, 0, 0], [1, 0, 0], [2, 0, 0]])), "facet.line: has no area"),
        (lambda: Facet("two", SQUARE[:2]), "three or more corners"),
        (lambda: Facet("bent", SQUARE + np.array([[0.0], [0.0], [0.1], [0.0]]) * UP), "facet.bent: is not flat"),
        (lambda: Facet("dart", np.array([[0.0, 0, 0], [2, 1, 0], [0, 2, 0], [0.5, 1, 0]])), "facet.dart: has a dent"),
        (lambda: Facet("m", SQUARE, "mirror", 1.2), "facet.m.reflectance: 1.2 was given; allowed is 0 to 1"),
        (lambda: Facet("m", SQUARE, "mirror", 0.9, -1.0), "facet.m.slope_error_mrad"),
        (lambda: Facet("m", SQUARE * np.nan), "finite numbers"),
        (lambda: Cylinder("pot", [0, 0, 0], [0, 0, 0.1], 0.0), "cylinder.pot.radius_m"),
        (lambda: Cylinder("pot", [0, 0, 0], [0, 0, 0], 0.1), "cylinder.pot.axis"),
        (lambda: dish("d", 1.0, 0.0, 0.9), "dish.focal_m"),
        (
            lambda: Geometry((Facet("a", SQUARE, "receiver"), Facet("b", SQUARE[:, [0, 2, 1]] + [0, 0.5, -0.5]))),
            "cuts through facet",
        ),
    ],
)
def test_impossible_scenes_are_refused_by_name(make, words):
    with pytest.raises(InputProblem) as caught:
        make()
    assert words in str(caught.value)


def test_facets_may_touch_along_their_edges():
    Geometry((*box_inside(0.4, 0.4, 0.2), *flaps(["upper"])))
