"""Floor, walls and lid frame of a box, each by itself, against hand balances and the shape of conduction round a corner."""

from datetime import date

import numpy as np
import pytest

from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box.frame import LidFrame
from drylamp.core.builds.common.box.recipe import open_top, through_w_k
from drylamp.core.common.wall import EDGE_SHAPE, WallLayer, gap_w_m2k, wall_w_m2k
from drylamp.core.heat.laws import leak_w_k
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.tables import layers
from tests.posing import simulated

PLACE = Site(name="middle", latitude_deg=40.0, longitude_deg=0.0, elevation_m=200.0, time_zone="UTC")
DAY = weather_of(PLACE, ClearDay(tmin_c=15, tmax_c=25), Span(start=date(2025, 6, 21)))
CARD = [WallLayer(material="corrugated-card", thickness_m=0.006)]
FOAM = WallLayer(material="pir-foam", thickness_m=0.05)


def box(**more) -> BoxOven:
    return BoxOven(
        facing_deg=180.0,
        tilt_deg=10.0,
        width_m=0.35,
        length_m=0.35,
        height_m=0.18,
        mirror=None,
        **{"wall": CARD, **more},
    )


def peak(build: BoxOven, node: str = "tray") -> float:
    return float(simulated(PLACE, None, build, None, DAY).temperature_c[node].max())


def corner_by_relaxation(cells: int, thick: int) -> float:
    """Conduction round a right-angled corner of two walls, by finite differences, in units of k per metre, less what goes straight through."""
    size = cells + thick
    t, solid = np.zeros((size + 1, size + 1)), np.ones((size + 1, size + 1), dtype=bool)
    t[: cells + 1, : cells + 1], solid[: cells + 1, : cells + 1] = 1.0, False  # the hollow, hot
    solid[size, :] = solid[:, size] = False  # outside, cold
    for _ in range(4000):
        new = t.copy()
        mean = np.zeros_like(t)
        padded = np.pad(t, 1, mode="edge")  # symmetry at both far ends
        mean = (padded[:-2, 1:-1] + padded[2:, 1:-1] + padded[1:-1, :-2] + padded[1:-1, 2:]) / 4
        new[solid] = mean[solid]
        t = new
    row = cells + thick // 2
    weights = np.ones(row + 1)
    weights[0] = 0.5
    one_wall = float(((t[row, : row + 1] - t[row + 1, : row + 1]) * weights).sum())
    return 2 * one_wall - 2 * (cells / thick)


def test_a_corner_adds_what_langmuir_says():
    """0.54 k for each metre of edge (Langmuir, Adams & Meikle 1913); two dimensions exactly give 0.559 (conformal mapping)."""
    assert corner_by_relaxation(24, 12) == pytest.approx(EDGE_SHAPE, abs=0.04)


def test_floor_takes_what_one_dimension_and_its_edges_give():
    build = box(tray_sheet=WallLayer(material="sheet-steel", thickness_m=0.0007))
    run = simulated(PLACE, None, build, None, DAY)
    noon = int(np.argmax(run.temperature_c["tray"]))
    tray, under = (run.temperature_c[node][noon] for node in ("tray", "underside"))
    flat = 0.35**2 * 0.055 / 0.006
    edges = 0.54 * 4 * 0.35 / 2 * 0.055
    by_hand = (flat + edges + 4 * 0.15 * 0.006 * 0.055 / 3) * (tray - under)
    lost = run.account_w["floor"][noon - 5 : noon + 5].mean()
    assert lost == pytest.approx(by_hand, rel=0.03)
    walls, floor = through_w_k(build)
    assert floor * (tray - under) == pytest.approx(by_hand, rel=0.01)
    assert run.temperature_c["walls"][noon] < tray - 15, "cool walls no longer drain the tray"
    assert walls == pytest.approx(4 * 0.35 * 0.18 * 0.055 / 0.006, rel=0.1)


@pytest.mark.parametrize("change", [{"under_tray": [FOAM]}, {"tray_sheet": FOAM}, {"floor": [FOAM, *CARD]}])
def test_foam_under_the_tray_counts_wherever_it_is_put(change):
    assert peak(box(**change)) > peak(box()) + 15


def test_a_floor_of_its_own_leaves_the_walls_alone():
    thick = box(floor=[FOAM])
    assert thick.floor_thickness_m == pytest.approx(0.05)
    assert through_w_k(thick)[0] == pytest.approx(through_w_k(box())[0], rel=0.1)
    assert through_w_k(thick)[1] < 0.2 * through_w_k(box())[1]


def test_sun_on_dark_walls_warms_them_and_is_booked_there():
    runs = {name: simulated(PLACE, None, box(outside=name), None, DAY) for name in ("flat-black-paint", "pale-paint")}
    black, pale = (runs[name].temperature_c["shell"].max() for name in ("flat-black-paint", "pale-paint"))
    assert black > pale + 8
    assert runs["flat-black-paint"].account_w["walls"].sum() < runs["pale-paint"].account_w["walls"].sum()
    for run in runs.values():
        assert run.energy_closure < 1e-12
        assert np.allclose(sum(run.account_w.values()), run.opening_w, atol=1e-6 * run.opening_w.max())


def test_a_lids_frame_has_its_own_heat_and_line():
    frame = LidFrame(height_m=0.05, layers=[WallLayer(material="pine-board", thickness_m=0.03)])
    framed = simulated(PLACE, None, box(frame=frame), None, DAY)
    plain = simulated(PLACE, None, box(), None, DAY)
    assert framed.account_w["frame"].sum() > 0
    assert plain.account_w["frame"].sum() == 0
    assert framed.temperature_c["frame"].max() > framed.temperature_c["frame-outside"].max()
    assert framed.energy_closure < 1e-12
    assert framed.account_w["walls"].sum() < plain.account_w["walls"].sum()
    with pytest.raises(ValueError, match="lower frame"):
        box(frame=LidFrame(height_m=0.2))


def test_an_air_gap_is_a_cavity_of_its_two_faces():
    """20 mm upright with one bright face: 0.4–0.6 m²K/W; plain: 0.15–0.19 (ASHRAE Handbook Fundamentals, plane air spaces, from memory)."""
    foil, plain = (layers()[name] for name in ("still-air-gap", "plain-air-gap"))
    assert 0.4 < 1 / gap_w_m2k(0.02, foil, "aside") < 0.6
    assert 0.12 < 1 / gap_w_m2k(0.02, plain, "aside") < 0.19
    down = [WallLayer(material="still-air-gap", thickness_m=0.05)]
    assert wall_w_m2k(down, "down") < 0.75 * wall_w_m2k(down, "aside")


def test_an_open_top_changes_its_air_as_epstein_says():
    """0.055 √(D⁵ g ΔT/T) of air through a hole without wind (Epstein 1988), here 40 K over 20 °C through 0.4 m."""
    area = np.pi / 4 * 0.4**2
    by_hand = 0.055 * (0.4**5 * 9.81 * 40 / 333.15) ** 0.5
    carried = leak_w_k(*open_top(area), 60.0, 20.0, 0.0, 101325.0)
    assert carried / (1.204 * 1006) == pytest.approx(by_hand, rel=0.02)
    blown = leak_w_k(*open_top(area), 20.0, 20.0, 3.0, 101325.0)
    assert blown / (1.204 * 1006) == pytest.approx(0.02 * 3.0 * area, rel=0.02)
