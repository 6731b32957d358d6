"""Rays in the box, exchange between faces, and the oven's optics as a whole."""

import itertools

import numpy as np
import pytest

from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.box.optics import BoxOptics, box_faces, lit_inside
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.optics.cavity import Cavity, view_factors
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.optics.exchange import Faces, absorbed_of_arriving, absorbed_shares, exchange_areas
from drylamp.core.optics.rays import FLOOR, OPENING, POT, WALLS, first_hit
from drylamp.core.sky.dome import hemisphere
from tests.posing import forecasted, simulated


def parallel_plates(a: float, b: float, apart: float) -> float:
    """View factor of two like rectangles facing each other (any heat-transfer book; closed form)."""
    x, y = a / apart, b / apart
    return 2 / (np.pi * x * y) * (
        np.log(np.sqrt((1 + x * x) * (1 + y * y) / (1 + x * x + y * y)))
        + x * np.sqrt(1 + y * y) * np.arctan(x / np.sqrt(1 + y * y))
        + y * np.sqrt(1 + x * x) * np.arctan(y / np.sqrt(1 + x * x))
        - x * np.arctan(x)
        - y * np.arctan(y)
    )  # fmt: skip


@pytest.mark.parametrize(("width", "length", "height"), [(0.5, 0.5, 0.25), (0.9, 0.4, 0.3), (0.3, 0.3, 0.5)])
def test_view_factors_of_an_empty_box(width: float, length: float, height: float):
    view = view_factors(Cavity(width, length, height))
    assert view[FLOOR, OPENING] == pytest.approx(parallel_plates(width, length, height), abs=0.01)


@pytest.mark.parametrize("pot", [(0.0, 0.0), (0.1, 0.12), (0.14, 0.2)])
def test_view_factors_close_and_obey_reciprocity(pot: tuple[float, float]):
    cavity = Cavity(0.5, 0.45, 0.25, *pot)
    view, areas = view_factors(cavity), cavity.areas_m2
    present = areas > 0
    assert view[present].sum(axis=1) == pytest.approx(np.ones(present.sum()), abs=1e-6)
    flux = areas[:, None] * view
    assert flux == pytest.approx(flux.T, abs=1e-9)
    assert view[POT, POT] == 0


def test_rays_meet_what_stands_in_their_way():
    box, pot = np.array([0.5, 0.5, 0.3]), np.array([0.0, 0.25, 0.1, 0.12])
    assert first_hit(0.0, 0.25, 0.29, 0.0, 0.0, -1.0, box, pot) == POT
    assert first_hit(0.2, 0.05, 0.29, 0.0, 0.0, -1.0, box, pot) == FLOOR
    assert first_hit(0.2, 0.05, 0.1, 1.0, 0.0, 0.0, box, pot) == WALLS
    assert first_hit(0.2, 0.05, 0.1, 0.0, 0.0, 1.0, box, pot) == OPENING
    assert first_hit(-0.2, 0.25, 0.06, 1.0, 0.0, 0.0, box, pot) == POT
    assert first_hit(-0.2, 0.25, 0.06, 1.0, 0.0, 0.0, box, np.zeros(4)) == WALLS


def two_faces(alpha: float, beta: float) -> Faces:
    return Faces(
        ["a", "b"], np.array([1.0, 1.0]), np.array([[0.0, 1.0], [1.0, 0.0]]), np.array([alpha, beta]), np.zeros(2),
        np.array([0, 1]),
    )  # fmt: skip


@pytest.mark.parametrize(("alpha", "beta"), [(0.9, 0.9), (0.05, 0.9), (0.3, 0.6)])
def test_exchange_of_two_parallel_faces(alpha: float, beta: float):
    """Closed form: 1 / (1/ε₁ + 1/ε₂ − 1)."""
    faces = two_faces(alpha, beta)
    area = exchange_areas(faces, absorbed_shares(faces), np.array([0, 1]), 2)
    assert area[0, 1] == pytest.approx(1 / (1 / alpha + 1 / beta - 1), rel=1e-9)


@pytest.mark.parametrize("band", ["sun", "longwave"])
@pytest.mark.parametrize(
    "cover", [None, GlazedCover(layers=1), GlazedCover(material="pe-film", thickness_m=0.0002, layers=2)]
)
def test_nothing_is_lost_in_the_bounces(oven, stew, band: str, cover: GlazedCover | None):
    faces = box_faces(oven.model_copy(update={"cover": cover}), stew, band)
    shares = absorbed_shares(faces)
    assert shares.sum(axis=1) == pytest.approx(np.ones(len(shares)), abs=1e-9)
    assert absorbed_of_arriving(faces, shares).sum(axis=1) == pytest.approx(np.ones(len(shares)), abs=1e-9)


def test_longwave_exchange_is_symmetric_and_film_reaches_the_sky(oven, stew):
    film = oven.model_copy(update={"cover": GlazedCover(material="pe-film", thickness_m=0.0002, layers=1)})
    for build, reaches in ((oven, False), (film, True)):
        names, area = BoxOptics.of(build, stew).exchange()
        assert area == pytest.approx(area.T)
        assert bool(area[names.index("tray"), names.index("sky")] > 1e-6) is reaches


def test_sun_absorbed_never_exceeds_sun_met(oven, stew):
    for load in (None, stew):
        optics = BoxOptics.of(oven, load)
        parts, met = optics.absorbed_m2(hemisphere(400))
        assert (parts >= -1e-12).all()
        assert (parts.sum(axis=1) <= met + 1e-9).all()
        assert parts.shape[1] == len(lit_inside(oven, load))


def test_light_from_behind_the_opening_gives_nothing(oven):
    parts, met = BoxOptics.of(oven, None).absorbed_m2(-BoxOptics.of(oven, None).axes[2][None, :])
    assert met[0] == 0
    assert parts.sum() == 0


def test_closed_mirror_shades_the_opening():
    box = BoxOven(facing_deg=180, tilt_deg=0, wall=[WallLayer(material="plywood", thickness_m=0.01)],
                  mirror=FlapMirror(length_m=0.45, angle_deg=45))  # fmt: skip
    _, met = BoxOptics.of(box, None).absorbed_m2(np.array([[0.0, 0.0, 1.0]]))
    # At 45° over a level box a mirror as long as the box hides cos 45° of it from a zenith sun.
    assert met[0] / box.opening_m2 == pytest.approx(1 - np.cos(np.pi / 4), abs=1e-9)


def test_stack_of_unlike_sheets_keeps_its_energy():
    panes = [Pane(1.526, 30.0, 0.004), Pane(1.34, 60.0, 0.0005), Pane(1.586, 20.0, 0.003)]
    optics = stack(panes, np.cos(np.radians([0.0, 40.0, 75.0])))
    total = optics.transmittance + optics.reflectance + optics.absorptance.sum(axis=0)
    assert total == pytest.approx(np.ones(3), abs=1e-12)
    other = stack(panes[::-1], np.cos(np.radians([0.0, 40.0, 75.0])))
    assert optics.transmittance == pytest.approx(other.transmittance, abs=1e-12)


def test_no_cover_passes_everything():
    assert stack([], 0.5).transmittance == pytest.approx(1)


def test_foil_lined_walls_send_more_to_the_tray(oven):
    foil = BoxOptics.of(oven, None).shares
    black = BoxOptics.of(oven.model_copy(update={"lining": "flat-black-paint"}), None).shares
    assert foil[WALLS, 0] > black[WALLS, 0] + 0.2


def test_pot_that_does_not_fit_is_refused(oven, site, june):
    from drylamp.core.checks import InputProblem

    with pytest.raises(InputProblem, match="take a smaller one"):
        simulated(site, None, oven, PotLoad(pot_diameter_m=0.5, pot_height_m=0.05), june)
    with pytest.raises(InputProblem, match="take a lower one"):
        simulated(site, None, oven, PotLoad(pot_height_m=0.3), june)


def test_wider_knots_of_long_spans_change_little(oven, site, stew):
    """A day on 300 s steps (traced every quarter of an hour) against the same on 60 s steps."""
    from datetime import date

    from drylamp.core.sky.of_span import weather_of
    from drylamp.core.sky.weather import ClearDay, Span

    peaks, minutes = [], []
    for step in (60, 300):
        weather = weather_of(site, ClearDay(tmin_c=15, tmax_c=26), Span(start=date(2025, 6, 12), step_s=step))
        outcome, run = forecasted(site, "terrace", oven, stew, weather)
        minutes.append(outcome.days[0].minutes_to_target)
        peaks.append(float(run.opening_w.sum() * weather.dt_s))
    assert peaks[1] == pytest.approx(peaks[0], rel=0.005)
    assert minutes[1] == pytest.approx(minutes[0], abs=4)


FLAP = FlapMirror(length_m=0.45, angle_deg=110)


def test_rays_and_closed_form_agree_on_one_mirror(oven):
    """The same box by the two methods: tray, walls, pot and panes, sun from all over the sky."""
    optics = BoxOptics.of(oven, PotLoad())
    toward = np.ascontiguousarray(hemisphere(150))
    closed, met = optics.absorbed_m2(toward @ optics.axes)
    traced, traced_met = optics._traced(toward)
    assert np.abs(traced_met - met).max() < 0.03 * met.max()
    assert traced_met.sum() == pytest.approx(met.sum(), rel=0.004)
    assert traced.sum(axis=0) == pytest.approx(closed.sum(axis=0), rel=0.03)


def test_table_over_the_sky_gives_the_days_energy(oven):
    """A day's path read from the table against the path itself: what matters is the sum over the day."""
    from datetime import date

    from drylamp.core.sky.of_span import weather_of
    from drylamp.core.sky.weather import ClearDay, Span
    from drylamp.demo.scenario import TERRACE

    weather = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26), Span(start=date(2025, 6, 12)))
    optics = BoxOptics.of(oven, None)
    up = weather.sun.direction[weather.sun.direction[:, 2] > 0.0]
    exact, read = optics.absorbed_m2(up)[0].sum(axis=0), optics._by_table(up)[0].sum(axis=0)
    assert read == pytest.approx(exact, rel=0.01)


def test_a_turned_box_reads_the_same_table(oven, monkeypatch):
    """The table belongs to the box, not to how it stands: made once, read for every tilt and facing."""
    from drylamp.core.builds.common.box import optics as of_boxes

    made = []
    of_boxes._SKY_VALUES.clear()
    real = of_boxes._sky_values
    monkeypatch.setattr(of_boxes, "_sky_values", lambda *asked: made.append(asked) or real(*asked))
    for tilt, facing in ((10.0, 180.0), (45.0, 120.0)):
        optics = BoxOptics.of(oven.model_copy(update={"tilt_deg": tilt, "facing_deg": facing}), None)
        toward = optics.axes[2][None, :]
        assert optics._by_table(toward)[0] == pytest.approx(optics.absorbed_m2(toward)[0], rel=0.01)
    assert len(made) == 1


def test_each_flap_adds_when_the_sun_stands_before_the_box(oven):
    normal = BoxOptics.of(oven, None).axes[2][None, :]
    met = []
    for flaps in (
        MoreFlaps(),
        MoreFlaps(left=FLAP),
        MoreFlaps(left=FLAP, right=FLAP),
        MoreFlaps(lower=FLAP, left=FLAP, right=FLAP),
    ):
        met.append(BoxOptics.of(oven.model_copy(update={"flaps": flaps}), None).absorbed_m2(normal)[1][0])
    assert all(later > before * 1.05 for before, later in itertools.pairwise(met))


def test_left_flap_catches_the_sun_on_the_right(oven):
    """Left and right as seen by somebody who stands at the lower edge: a mirror image gives a mirrored result."""
    axes = BoxOptics.of(oven, None).axes
    aside = (axes[2] + 0.4 * axes[0]) / np.linalg.norm(axes[2] + 0.4 * axes[0])
    other = (axes[2] - 0.4 * axes[0]) / np.linalg.norm(axes[2] - 0.4 * axes[0])
    left, right = (
        BoxOptics.of(oven.model_copy(update={"flaps": f}), None) for f in (MoreFlaps(left=FLAP), MoreFlaps(right=FLAP))
    )
    assert left.absorbed_m2(aside[None, :])[1] > right.absorbed_m2(aside[None, :])[1]
    assert left.absorbed_m2(aside[None, :])[1] == pytest.approx(right.absorbed_m2(other[None, :])[1], rel=0.03)


@pytest.mark.parametrize("cover", [
    GlazedCover(layers=3), GlazedCover(material="twin-wall-10", thickness_m=0.0007),
    GlazedCover(more=[{"material": "fep-film", "thickness_m": 0.00005}]),
])  # fmt: skip
def test_more_skins_pass_less_and_keep_more(oven, cover):
    """Every stack: shares of sun add up to what meets it, and exchange areas stay symmetric."""
    build = oven.model_copy(update={"cover": cover})
    optics = BoxOptics.of(build, None)
    parts, met = optics.absorbed_m2(optics.axes[2][None, :])
    assert 0 < parts.sum() < met[0]
    single = BoxOptics.of(oven.model_copy(update={"cover": GlazedCover()}), None)
    inside = [single.absorbed_m2(single.axes[2][None, :])[0][0, :2].sum(), parts[0, :2].sum()]
    assert inside[1] < inside[0]
    names, exchange = optics.exchange()
    assert exchange == pytest.approx(exchange.T)
    assert f"cover-{len(cover.skins)}" in names
