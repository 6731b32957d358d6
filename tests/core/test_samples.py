"""Samples as a build: spec, optics, network, drawing, and what must be true of every run."""

from __future__ import annotations

import json
from datetime import datetime

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.advice.patch import bright_patch
from drylamp.core.builds.common.cover.spec import GlazedCover, Sheet
from drylamp.core.builds.common.side_by_side import Sample
from drylamp.core.builds.registry import BUILD, kind_of
from drylamp.core.builds.samples.optics import SamplesOptics
from drylamp.core.builds.samples.section import section_of
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.checks import InputProblem, explain
from drylamp.core.common.wall import WallLayer
from drylamp.core.engine import run_case
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.weather import ClearDay, clear_days
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import BLOCKS, LIDS, STEW, TERRACE, example_samples
from tests.posing import forecasted, simulated

FLAT = LIDS.model_copy(update={"tilt_deg": 0.0})


def changed(build: Samples, **update: object) -> Samples:
    return build.model_copy(update=update)


@pytest.mark.parametrize("build", [LIDS, BLOCKS, FLAT])
def test_energy_closes_and_accounts_add_up(build: Samples, june):
    run = simulated(TERRACE, "flat roof", build, None, june)
    assert run.energy_closure < 1e-9
    total = sum(run.account_w[name] for name in kind_of(build).accounts)
    assert total == pytest.approx(run.opening_w, abs=1e-6)


@pytest.mark.parametrize("build", [LIDS, BLOCKS])
def test_nothing_is_colder_than_the_sky_or_hotter_than_the_sun_allows(build: Samples, june):
    run = simulated(TERRACE, "flat roof", build, None, june)
    for series in run.temperature_c.values():
        assert series.min() >= june.sky_c.min() - 0.5
        assert series.max() < 130


def test_equal_samples_run_alike_wherever_they_lie(june):
    twins = changed(LIDS, samples=[s.model_copy(update={"finish": "flat-black-paint"}) for s in LIDS.samples])
    run = simulated(TERRACE, "flat roof", twins, None, june)
    first = run.temperature_c[twins.samples[0].node]
    assert all(run.temperature_c[s.node] == pytest.approx(first, abs=1e-6) for s in twins.samples)


def test_blacker_is_hotter_and_shinier_holds_its_heat(june):
    run = simulated(TERRACE, "flat roof", LIDS, None, june)
    peak = {s.name: run.temperature_c[s.node].max() for s in LIDS.samples}
    assert peak["optical"] > peak["stove"] > peak["bare"]
    selective = changed(
        LIDS, samples=[*LIDS.samples[:5], LIDS.samples[5].model_copy(update={"finish": "black-chrome"})]
    )
    assert (
        simulated(TERRACE, "flat roof", selective, None, june).temperature_c["sample-optical"].max() > peak["stove"] + 3
    )


@pytest.mark.parametrize(("update", "warmer"), [
    ({"contact": "stood-off"}, True), ({"board_finish": "aluminium-foil"}, False), ({"cover": GlazedCover()}, True),
])  # fmt: skip
def test_what_board_and_cover_do(update: dict, warmer: bool, june):
    node = LIDS.samples[1].node
    base, other = (
        simulated(TERRACE, "flat roof", b, None, june).temperature_c[node].max()
        for b in (LIDS, changed(LIDS, **update))
    )
    assert (other > base + 1) == warmer


def test_thin_film_lets_long_waves_out(june):
    """Polyethylene over the samples keeps them cooler than glass."""
    glass, film = (
        changed(LIDS, cover=GlazedCover(material=m, thickness_m=t))
        for m, t in (("window-glass", 0.003), ("pe-film", 0.0001))
    )
    hot, cool = (
        simulated(TERRACE, "flat roof", b, None, june).temperature_c["sample-stove"].max() for b in (glass, film)
    )
    assert hot > cool + 2


def test_two_unlike_sheets_close_too(june):
    build = changed(BLOCKS, cover=GlazedCover(more=[Sheet(material="fep-film", thickness_m=0.00005)]))
    run = simulated(TERRACE, "terrace", build, None, june)
    assert run.energy_closure < 1e-9
    assert {"cover-1", "cover-2"} <= set(run.temperature_c)


def test_a_thick_block_is_warmer_in_front_by_day_and_behind_at_night(june):
    run = simulated(TERRACE, "terrace", BLOCKS, None, june)
    face, back = run.temperature_c["sample-dark"], run.temperature_c["sample-dark-4"]
    assert face[13 * 60] > back[13 * 60] + 2
    assert back[23 * 60] > face[23 * 60]
    assert sum(BLOCKS.slices_of(BLOCKS.samples[0])) == pytest.approx(BLOCKS.sheet.thickness_m)
    assert LIDS.slices_of(LIDS.samples[0]) == [LIDS.sheet.thickness_m]


def test_doubled_mass_warms_at_half_the_rate():
    """Laid out cold at noon, with nothing else to warm."""
    free = {"contact": "stood-off", "edges": "wrapped"}
    noon = datetime(2025, 6, 12, 14, tzinfo=TERRACE.zone).timestamp()
    weather = clear_days(TERRACE, ClearDay(tmin_c=14, tmax_c=25), noon, noon + 1200)
    rise = []
    for thickness in (0.004, 0.008):
        build = changed(LIDS, sheet=WallLayer(material="sheet-steel", thickness_m=thickness), **free)
        series = simulated(TERRACE, "flat roof", build, None, weather).temperature_c["sample-stove"]
        rise.append(series[1] - series[0])
    assert rise[0] / rise[1] == pytest.approx(2.0, rel=0.05)


@pytest.mark.parametrize("angle", [0, 30, 60, 80])
def test_light_taken_is_the_cosine_and_the_finish(angle: float):
    optics = SamplesOptics.of(FLAT, None)
    toward = np.array([[0.0, -np.sin(np.radians(angle)), np.cos(np.radians(angle))]])
    parts, met = optics.absorbed_m2(toward)
    cosine = np.cos(np.radians(angle))
    assert met[0] == pytest.approx(FLAT.opening_m2 * cosine)
    assert parts[0, 1] == pytest.approx(FLAT.sample_m2 * 0.95 * cosine)
    assert parts.sum() < met[0]


def test_light_from_behind_lands_nowhere():
    parts, met = SamplesOptics.of(BLOCKS, None).absorbed_m2(-plane_axes(BLOCKS.tilt_deg, BLOCKS.facing_deg)[2][None])
    assert parts.sum() == met.sum() == 0.0


def test_under_glass_a_sample_gets_less_and_the_glass_takes_some():
    up = np.array([[0.0, 0.0, 1.0]])
    bare, _ = SamplesOptics.of(FLAT, None).absorbed_m2(up)
    under, met = SamplesOptics.of(changed(FLAT, cover=GlazedCover()), None).absorbed_m2(up)
    assert under[0, 1] < bare[0, 1]
    assert under[0, -1] > 0
    assert under.sum() < met[0]


@pytest.mark.parametrize("calibration", [{"absorptance:sample-stove": 0.8}, {"emittance:sample-stove": 1.5}])
def test_a_factor_on_one_sample_leaves_the_others_be(calibration: dict[str, float], june):
    plain = simulated(TERRACE, "flat roof", LIDS, None, june)
    calibrated = simulated(TERRACE, "flat roof", LIDS, None, june, Calibration(parts=calibration))
    off = {s.name: calibrated.temperature_c[s.node].max() - plain.temperature_c[s.node].max() for s in LIDS.samples}
    assert off["stove"] < -1.0
    assert all(abs(off[s.name]) < 0.5 for s in LIDS.samples if s.name != "stove")


@pytest.mark.parametrize(("update", "says"), [
    ({"samples": [LIDS.samples[0]]}, "at least 2"), ({"samples": [LIDS.samples[0]] * 2}, "'bare' names two samples"),
    ({"samples": [s.model_copy(update={"is_control": True}) for s in LIDS.samples]}, "two samples are marked"),
    ({"width_m": 0.001}, "greater than or equal to 0.02"), ({"board": []}, "at least 1"), ({"shape": "star"}, "'plate' or 'disc'"),
])  # fmt: skip
def test_what_cannot_be_is_refused(update: dict, says: str):
    raw = {**json.loads(LIDS.model_dump_json()), **json.loads(json.dumps(update, default=lambda m: m.model_dump()))}
    with pytest.raises(ValidationError) as caught:
        Samples.model_validate(raw)
    assert says in explain(caught.value)[0].message


def test_kinds_are_told_apart_by_name():
    assert BUILD.validate_json(BLOCKS.model_dump_json()) == BLOCKS
    with pytest.raises(ValidationError, match="no such kind"):
        BUILD.validate_python({"kind": "balloon"})
    with pytest.raises(InputProblem, match="a pot was given; a set of samples holds nothing"):
        kind_of(LIDS).check_fit(LIDS, STEW)
    with pytest.raises(InputProblem, match="boxes with a tray"):
        bright_patch(LIDS, None, np.array([0.0, 0.0, 1.0]))


def test_sizes_of_boards():
    assert LIDS.rows == 2
    assert LIDS.board_size_m == pytest.approx((0.46, 0.32))
    assert LIDS.sample_m2 == pytest.approx(np.pi / 4 * 0.01)
    assert BLOCKS.samples_kg == pytest.approx(len(BLOCKS.samples) * 0.22 * 0.11 * 0.06 * BLOCKS.sheet.row.density_kg_m3)
    assert LIDS.place_of("satin") == "row 2, place 2"
    assert LIDS.control.name == "bare"
    assert changed(LIDS, samples=LIDS.samples[1:]).control.name == "stove"


@pytest.mark.parametrize("build", [LIDS, BLOCKS])
def test_the_drawing_shows_every_sample_in_its_place(build: Samples):
    section = section_of(build, None, np.array([0.0, -0.6, 0.8]))
    captions = [s.caption for s in section.shapes if s.caption]
    assert captions == [s.name for s in build.samples]
    assert len(section.rays) == 5
    assert {r.lands_on for r in section.rays} <= {"sample", "board"}
    (low, _), (high, top) = section.extent
    xs = [p[0] for s in section.shapes for p in s.outline]
    assert low <= min(xs[2:]) + 0.2
    assert high >= max(p[0] for s in section.shapes if s.caption for p in s.outline)
    assert top > 0
    assert section_of(build, None, np.array([0.0, 0.6, -0.8])).rays == []


def test_cautions_are_about_paint_edges_and_weight(june):
    heavy = changed(BLOCKS, samples=[Sample(name=f"b{k}", title=f"block {k}", finish="red-brick") for k in range(12)])
    flags = forecasted(TERRACE, "terrace", heavy, None, june)[0].flags
    words = " ".join(f.text for f in flags)
    assert "Fumes" in words
    assert "Weight: the samples come to" in words
    assert "food" not in words.lower()
    plain = " ".join(f.text for f in forecasted(TERRACE, "flat roof", LIDS, None, june)[0].flags)
    assert "Weight" not in plain


def test_the_example_runs():
    outcome, run = run_case(example_samples())
    assert outcome.judged == "sample-optical"
    assert outcome.useful_account == "samples"
    assert run.energy_closure < 1e-9
