"""Water in a hose in the sun: what must come out right, and what is refused with a sentence."""

from __future__ import annotations

from datetime import date, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.builds.hose_coil.advice import ADVICE
from drylamp.core.builds.hose_coil.optics import HoseOptics, Under, cylinders_in_view
from drylamp.core.builds.hose_coil.spec import HoseCoil, Mesh
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.checks import InputProblem
from drylamp.core.common.coil import Coil
from drylamp.core.engine import weather_for
from drylamp.core.loads.common.draws import Draw, Running, drawn_kg_s, running_kg_s
from drylamp.core.loads.running.outcome import worth_l
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.optics.geometry import Geometry, rectangle
from drylamp.core.optics.shapes import hinged_flap
from drylamp.core.optics.sun_table import received_m2
from drylamp.core.outcome.registry import results_of
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.weather import Span
from drylamp.core.tables import absorber
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import TERRACE

COIL: HoseCoil = starters()["hose-coil"][0].spec
WIDE = COIL.with_(width_m=2.0, length_m=2.0)
CLEAR = GlazedCover(material="pe-film", thickness_m=0.0002)
JUNE = date(2025, 6, 12)
STANDS = RunningWater(running=[], start_c=17.0)


def runs(l_min: float) -> RunningWater:
    return RunningWater(running=[Running(begins="10:00", ends="16:00", l_min=l_min)], mains_c=15.0)


def day(build: HoseCoil, load: RunningWater, step_s: float = 60.0) -> Run:
    case = usual_case(TERRACE, None, build, load, JUNE).with_(span=Span(start=JUNE, step_s=step_s))
    return simulate(case, weather_for(case))


def litres(build: HoseCoil, load: RunningWater) -> float:
    return float(worth_l(load, day(build, load))[-1])


def test_watts_rise_with_flow_while_the_outlet_cools():
    found = [day(COIL, runs(flow)) for flow in (0.1, 0.3, 1.0, 3.0)]
    heat = [float(worth_l(runs(1.0), run)[-1]) for run in found]
    noon = [run.drawn["water"].celsius[13 * 60] for run in found]
    assert heat == sorted(heat)
    assert noon == sorted(noon, reverse=True)
    assert heat[3] < 1.4 * heat[2], "it levels off"


def test_two_coils_in_series_give_less_than_double():
    pair = COIL.with_(coils=2, width_m=1.6)
    one, two = litres(COIL, runs(1.0)), litres(pair, runs(1.0))
    assert 1.5 * one < two < 1.95 * one
    assert litres(pair.with_(joined="parallel"), runs(1.0)) == pytest.approx(two, rel=0.02)


def test_dark_film_over_foil_loses_most_of_what_the_foil_is_worth():
    """Open-wound: under clear film foil beats black card clearly, under a dark sheet it hardly can."""
    wide = WIDE.with_(pitch_mm=40.0)
    worth = {}
    for over, change in (("clear", {"cover": CLEAR}), ("dark", {"sheet": "black-polyethylene"})):
        foil, card = (litres(wide.with_(bed=bed, **change), runs(1.0)) for bed in ("aluminium-foil", "black-card"))
        worth[over] = foil - card
    assert worth["clear"] > 8.0
    assert worth["dark"] < 0.3 * worth["clear"]


def test_close_wound_clear_film_over_black_leads_black_film_over_pale():
    """By 10 to 40 % of the warming after half an hour of standing."""
    close = COIL.with_(pitch_mm=16.0)
    begun = datetime(2025, 6, 12, 12, 0, tzinfo=TERRACE.zone)

    def warmed(build: HoseCoil) -> float:
        case = usual_case(TERRACE, None, build, STANDS, JUNE).with_(span=Span(start=JUNE, step_s=60.0))
        weather = weather_for(case)
        from drylamp.core.twin.prepared import prepare

        ready = prepare(case, weather).uncovered(begun.timestamp())
        run = ready.run()
        at = run.at("water", np.array([begun.timestamp(), (begun + timedelta(minutes=30)).timestamp()]))
        return float(at[1] - at[0])

    clear = warmed(close.with_(cover=CLEAR, cover_gap_m=0.0))
    dark = warmed(close.with_(finish="pale-paint", sheet="black-polyethylene"))
    assert 1.10 < clear / dark < 1.40, clear / dark


def test_a_standing_hose_gives_hot_litres_and_then_cold_ones():
    load = STANDS.model_copy(update={"draws": [Draw(at="13:00", take_l=8.0, l_min=4.0)], "mains_c": 15.0})
    run = day(COIL, load)
    (draw,) = results_of(TERRACE, load, run).flow.draws
    warm = [one.celsius_c for one in draw.litres]
    assert len(warm) == 8
    assert min(warm[:4]) > 45.0
    assert warm[7] < 30.0
    assert run.energy_closure < 1e-9


def test_row_of_cylinders_in_the_view_of_a_plane():
    """Hottel's strings: touching cylinders fill the view, thin ones take π/2 of their share."""
    assert cylinders_in_view(1.0) == 1.0
    assert cylinders_in_view(0.02) == pytest.approx(np.pi / 2 * 0.02, rel=0.02)
    assert cylinders_in_view(0.5) == pytest.approx(1 - np.sqrt(0.75) + 0.5 * np.arctan(np.sqrt(3)), rel=1e-9)


@pytest.mark.parametrize("bed", ["aluminium-foil", "black-card", None])
@pytest.mark.parametrize("pitch", [16.0, 25.0, 60.0])
def test_light_on_a_coil_adds_up(bed, pitch):
    """What is absorbed and thrown up again is all there was; nothing but what passes a coil on slats is lost."""
    optics = HoseOptics.of(WIDE.with_(bed=bed, pitch_mm=pitch), None)
    hose, on_bed, up = optics.shares(optics.beam_share(np.array([1.0, 0.7, 0.3])))
    assert hose + on_bed + up == pytest.approx(np.ones(3), abs=1e-9)
    assert (np.diff(optics.beam_share(np.array([1.0, 0.7, 0.3]))) >= 0).all()


def test_draws_hold_their_litres_whatever_the_step():
    for step in (60.0, 300.0):
        case = usual_case(TERRACE, None, COIL, STANDS, JUNE).with_(span=Span(start=JUNE, days=2, step_s=step))
        weather = weather_for(case)
        drawn = drawn_kg_s(
            TERRACE, weather, [Draw(at="07:13", take_l=7.3, l_min=4.1), Draw(at="19:00", take_l=50, l_min=6)]
        )
        assert drawn.sum() * step == pytest.approx(2 * 57.3, rel=1e-9)
        ran = running_kg_s(TERRACE, weather, [Running(begins="22:00", ends="02:00", l_min=1.0)])
        assert ran.sum() * step == pytest.approx(60.0 * (2 + 4 + 2), rel=1e-9)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (
            {"coil": Coil(material="black-pe", pipe_m=80.0, bore_mm=13.0, outer_mm=16.0)},
            "holds 50 m at 20 mm from turn to turn",
        ),
        ({"coils": 2}, "80 m of hose were given"),
    ],
)
def test_more_hose_than_the_frame_holds_is_refused(change, words):
    with pytest.raises(InputProblem, match=words):
        kind_of(COIL).check_fit(COIL.with_(**change), None)


def test_turns_closer_than_the_hose_is_thick_are_refused():
    with pytest.raises((ValidationError, InputProblem), match="16 or more"):
        HoseCoil.model_validate(COIL.model_dump() | {"pitch_mm": 10.0})


# --- a mesh over the bed ---

GLAZED = COIL.with_(cover=GlazedCover(), cover_gap_m=0.08, bed="aluminium-foil", coil=COIL.coil.model_copy(update={"pipe_m": 14.0}), pitch_mm=60.0)  # fmt: skip


@given(wire=st.floats(0.01, 0.99), bed=st.sampled_from(["aluminium-foil", "flat-black-paint", "bare-wood"]))
def test_light_between_turns_ends_in_bed_mesh_or_goes_up_again(wire, bed):
    """The three shares are one, and are those of light followed from bounce to bounce."""
    mesh = Mesh(covers_share=wire, finish="bare-wood")
    found = Under.of(absorber(bed), mesh)
    assert found.bed + found.mesh + found.thrown == pytest.approx(1.0)
    down, taken_bed, taken_mesh, up = 1.0, 0.0, 0.0, 0.0
    alpha, rho = mesh.row.absorptance, 1.0 - absorber(bed).absorptance
    taken_mesh, up, on_bed = wire * alpha, wire * (1 - alpha), down * (1 - wire)
    for _ in range(200):
        taken_bed += on_bed * (1 - rho)
        back = on_bed * rho
        up += back * (1 - wire)
        taken_mesh += back * wire * alpha
        on_bed = back * wire * (1 - alpha)
    assert (found.bed, found.mesh, found.thrown) == pytest.approx((taken_bed, taken_mesh, up), abs=1e-9)


def test_without_bed_or_mesh_nothing_is_thrown_by_them():
    assert Under.of(None, None) == Under(0.0, 0.0, 0.0)
    assert Under.of(absorber("flat-black-paint"), None).mesh == 0.0


def test_a_blackened_mesh_over_foil_pays_where_the_hose_lies_well_on_it():
    bare, loose, tied = (
        day(GLAZED.with_(mesh=m), runs(1.0)) for m in (None, Mesh(contact_w_m2k=5.0), Mesh(contact_w_m2k=80.0))
    )
    heat = [float(run.account_w["tap"].sum()) for run in (bare, loose, tied)]
    assert heat[2] > 1.1 * heat[0]
    assert heat[2] > heat[1]
    assert max(abs(run.energy_closure) for run in (bare, loose, tied)) < 1e-9
    assert np.nanmax(loose.temperature_c["mesh"]) > np.nanmax(tied.temperature_c["mesh"])


@pytest.mark.parametrize("over", [{"cover": None}, {"cover": None, "sheet": "black-polyethylene"}])
def test_a_mesh_under_the_sky_or_under_a_dark_sheet_closes_too(over):
    run = day(GLAZED.with_(mesh=Mesh(), **over), runs(1.0))
    assert abs(run.energy_closure) < 1e-9


def test_a_mesh_needs_a_bed_to_lie_over():
    with pytest.raises(ValidationError, match="a mesh was given and no bed"):
        HoseCoil.model_validate({**GLAZED.model_dump(), "bed": None, "mesh": {}})
    assert GLAZED.fresh("mesh") == Mesh()


def test_a_mesh_is_drawn_is_a_stuff_and_is_proposed_under_glass():
    kind = kind_of(GLAZED)
    meshed = GLAZED.with_(mesh=Mesh())
    assert "mesh" in [shape.part for shape in kind.section(meshed, STANDS, None).shapes]
    assert "mesh" in [stuff.part for stuff in kind.stuffs(meshed)]
    titles = {change.title for rule in ADVICE.changes for change in rule.changes(GLAZED, runs(1.0))}
    assert "a blackened mesh under the hose" in titles


# --- a reflector on its upper edge ---

REFLECTED = COIL.with_(mirror=FlapMirror(length_m=0.8, angle_deg=105.0, material="mirror-film"))


@pytest.mark.parametrize(("altitude", "azimuth"), [(60.0, 180.0), (45.0, 150.0), (30.0, 210.0), (15.0, 350.0)])
def test_a_reflector_sends_what_traced_rays_send(altitude, azimuth):
    """Closed form of the hinged mirror against the tracer on the same two facets."""
    a, b = np.radians(altitude), np.radians(azimuth)
    sun = np.array([[np.sin(b) * np.cos(a), np.cos(b) * np.cos(a), np.sin(a)]])
    wide, long = REFLECTED.width_m, REFLECTED.length_m
    x, y, z = np.eye(3)
    cover = rectangle("cover", np.zeros(3), wide * x, long * y, "receiver")
    hinge = (long * y, long * y + wide * x)
    flap = hinged_flap("flap", hinge, -y, z, 0.8, 105.0, REFLECTED.mirror.row.reflectance)
    toward = np.ascontiguousarray(sun @ plane_axes(REFLECTED.tilt_deg, REFLECTED.facing_deg).T)
    traced = received_m2(Geometry((cover, flap)), toward, 16384).sum()
    _, met = HoseOptics.of(REFLECTED, None).absorbed_m2(sun)
    assert met[0] * REFLECTED.frame_m2 / REFLECTED.plan_m2 == pytest.approx(traced, rel=0.02, abs=0.005)


def test_a_reflector_brings_heat_and_closes():
    plain, more = day(COIL, runs(1.0)), day(REFLECTED, runs(1.0))
    assert more.account_w["tap"].sum() > 1.03 * plain.account_w["tap"].sum()
    assert abs(more.energy_closure) < 1e-9
    assert REFLECTED.flap_angle_deg == 105.0
    assert REFLECTED.with_flap_at(90.0).mirror.angle_deg == 90.0
    assert REFLECTED.without_mirrors().mirror is None
    assert COIL.fresh("mirror") == FlapMirror()


def test_a_reflector_is_drawn_with_a_grip_and_proposed_once():
    kind = kind_of(COIL)
    noon = np.array([0.0, -0.5, np.sqrt(0.75)])
    sheet = kind.section(REFLECTED, STANDS, noon)
    assert "mirror" in [shape.part for shape in sheet.shapes]
    assert any(ray.by_mirror for ray in sheet.rays)
    assert [h.field for h in sheet.handles] == ["tilt_deg", "mirror.angle_deg"]
    plain, has = (
        [c.title for rule in ADVICE.changes for c in rule.changes(build, runs(1.0))] for build in (COIL, REFLECTED)
    )
    assert "a flat reflector on its upper edge" in plain
    assert "a flat reflector on its upper edge" not in has
    assert sum("reflector at" in title for title in has) == 2


# --- layers ---


def test_layers_take_less_of_the_frame_and_catch_less_of_the_sun():
    """Twice as deep on half the area: under the same sky less heat, and the shaded hose gets it from the one on top of it."""
    flat, deep = COIL, COIL.with_(layers=2)
    assert deep.plan_m2 == pytest.approx(flat.plan_m2 / 2)
    assert deep.stack_m == pytest.approx(2 * flat.diameter_m)
    one, two = (day(build, runs(1.0)) for build in (flat, deep))
    assert 0.4 < two.account_w["tap"].sum() / one.account_w["tap"].sum() < 0.8
    assert abs(two.energy_closure) < 1e-9
    noon = int(np.argmax(two.opening_w))
    assert two.temperature_c["hose-12"][noon] > two.temperature_c["hose-1"][noon]


def test_more_hose_fits_in_layers():
    long = COIL.with_(coil=COIL.coil.model_copy(update={"pipe_m": 100.0}), width_m=1.2, length_m=1.2)
    with pytest.raises(InputProblem, match="holds"):
        kind_of(long).check_fit(long, runs(1.0))
    kind_of(long).check_fit(long.with_(layers=2), runs(1.0))


@pytest.mark.parametrize("layers", [2, 3])
@pytest.mark.parametrize("bed", ["black-card", None])
def test_every_layer_is_tied_to_the_next_and_drawn_over_it(layers, bed):
    build = COIL.with_(layers=layers, bed=bed)
    kind = kind_of(build)
    network = kind.network(build, runs(1.0), HoseOptics.of(build, None))
    ties = [(link.start, link.end) for link in network.links if " under hose" in link.name]
    assert len(ties) == 12 - 12 // layers
    assert ("hose-6", "hose-7") in ties or layers == 3
    assert {name for pair in ties for name in pair} == {f"hose-{k + 1}" for k in range(12)}
    rings = [shape for shape in kind.section(build, STANDS, None).shapes if shape.part == "hose"]
    assert {shape.node for shape in rings} <= {f"hose-{k + 1}" for k in range(12)}
    assert len(rings) % layers == 0
    assert abs(day(build, runs(1.0)).energy_closure) < 1e-9


def test_length_and_place_in_the_box_are_tried():
    titles = {change.title for rule in ADVICE.changes for change in rule.changes(GLAZED, runs(1.0))}
    assert {"a quarter more hose", "a quarter less hose"} <= titles
    places = [title for title in titles if "under the cover" in title]
    assert len(places) == 2, "it lies at 8 cm: nearer, and nearest"
