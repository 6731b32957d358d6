"""The lumber kiln and its charge: what each part does, alone; what is refused, and how."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.builds.common.cover.glow import glow_links
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.kiln.spec import AirChanges, Heater, KilnFan, KilnVents, LumberKiln, Measured, VentSetting
from drylamp.core.builds.registry import BUILD, kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.heat.cells import SHARES
from drylamp.core.heat.law import Law
from drylamp.core.loads.common.stacked import CHAMBER, CHAMBER_VAPOUR, ROOF, ROUND
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.outcome import chamber_rh, kept_of
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.loads.registry import LOAD
from drylamp.core.twin.light import traced
from drylamp.core.twin.stood import stood
from drylamp.demo.scenario import TERRACE
from tests.core.kilns import THIN, TIGHT, boards, case_of, charge, clear, found, ran, usual

JUNE = date(2025, 6, 10)
GREEN = charge(boards("poplar", 27.0, 0.5, start="green-heart"))
FORTNIGHT = clear(JUNE, 14)


def mean_end(build: LumberKiln, load: LumberCharge = GREEN, weather=FORTNIGHT) -> float:
    return found(load, ran(build, load, weather)).groups[0].end_mc


def top_c(build: LumberKiln, load: LumberCharge | None = None, weather=FORTNIGHT) -> float:
    return float(ran(build, load, weather).temperature_c[CHAMBER][-289:].max())


# --- parts, each alone ---


def test_more_skins_foam_and_tightness_make_it_hotter_and_vents_cooler():
    base = top_c(THIN)
    assert top_c(THIN.with_(cover=THIN.cover.model_copy(update={"layers": 1}))) < base - 2.0
    assert top_c(THIN.with_(wall=TIGHT.wall, floor=TIGHT.floor)) > base + 3.0
    assert top_c(THIN.with_(changes=AirChanges(calm_per_h=20.0))) < base - 3.0
    assert top_c(THIN.opened(1.0)) < base - 1.0
    assert top_c(THIN.with_(baffle=THIN.baffle.model_copy(update={"finish": "pale-paint"}))) < base - 8.0
    assert top_c(THIN.with_(dirt_share=0.4)) < base - 4.0


def test_gaps_by_area_and_gaps_as_measured_both_change_its_air():
    by_area = THIN.with_(changes=None, leak_cm2=400.0)
    assert top_c(by_area) < top_c(by_area.with_(leak_cm2=40.0)) - 2.0
    calm, windy = (
        ran(THIN.with_(changes=AirChanges(calm_per_h=0.0, per_m_s=4.0)), None, w)
        for w in (FORTNIGHT, replace(FORTNIGHT, wind_m_s=np.full(FORTNIGHT.steps, 6.0)))
    )
    assert windy.account_w["leak"].sum() > 1.5 * calm.account_w["leak"].sum()


def test_a_heater_gives_what_it_is_and_stops_at_its_temperature():
    winter = clear(date(2025, 1, 10), 6)
    warm = ran(TIGHT.with_(heater=Heater(power_w=800.0, until_c=25.0)), GREEN, winter)
    cold = ran(TIGHT, GREEN, winter)
    assert warm.energy_closure < 1e-12
    assert -810.0 <= warm.account_w["backup"].min() < -700.0
    assert warm.temperature_c[CHAMBER][288:].min() > cold.temperature_c[CHAMBER][288:].min() + 5.0
    celsius = warm.temperature_c[CHAMBER]
    hot = (celsius[1:] > 27.0) & (celsius[:-1] > 27.0)
    assert hot.any()
    assert abs(warm.account_w["backup"][hot]).mean() < 8.0


def test_a_fan_moves_air_and_dries_faster_and_its_speed_follows_what_drives_it():
    still, panel, mains = (mean_end(TIGHT.with_(fan=fan)) for fan in (None, KilnFan(), KilnFan(driven="mains")))
    assert panel < still - 0.02
    run = ran(TIGHT.with_(fan=KilnFan(driven="timer", on="10:00", off="16:00")), GREEN, FORTNIGHT)
    assert run.ran_s[ROUND][:288].sum() == pytest.approx(6 * 3600.0, abs=1.0)
    sun = ran(TIGHT.with_(fan=KilnFan(driven="sun", full_w_m2=500.0)), GREEN, FORTNIGHT).ran_s[ROUND] / 300.0
    assert sun.max() == 1.0
    assert 0.0 < sun[12 * 9] < 1.0
    assert 0.0 < mains < 1.6


def test_air_between_the_boards_as_it_was_typed():
    kiln = TIGHT.with_(fan=KilnFan(driven="mains", stack_m_s=0.8))
    network = traced(kiln, GREEN).network
    wet = next(node.wet for node in network.nodes if node.name == "boards-1")
    stack = GREEN.stacked()
    full = 1.0 / wet.pile.per_flow / (1.1 * 1007.0)
    assert full * (1.0 - stack.past_share) / stack.open_m2 == pytest.approx(0.8, rel=0.01)
    assert wet.pile.blown_w_m2k == pytest.approx(13.0 * 0.8**0.7, rel=0.01)
    moved = ran(kiln, GREEN, FORTNIGHT).damp.moved_kg[ROUND][100:] / 300.0 / 1.1
    assert moved.mean() == pytest.approx(full, rel=0.15)


def test_spent_air_is_switched_off_and_films_are_typed():
    spent, fresh = (mean_end(TIGHT, GREEN.model_copy(update={"spends": on})) for on in (True, False))
    assert fresh < spent - 0.005
    assert mean_end(TIGHT, GREEN.model_copy(update={"still_w_m2k": 25.0})) < spent - 0.005
    assert mean_end(TIGHT, GREEN.model_copy(update={"blown_w_m2k": 0.0, "still_w_m2k": 0.5})) > spent + 0.02


def test_vents_are_set_by_day_and_hour():
    made = KilnVents(
        open_share=0.2,
        settings=[
            VentSetting(hour="09:00", open_share=0.8),
            VentSetting(hour="18:00", open_share=0.1),
            VentSetting(from_day=date(2025, 6, 13), hour="12:00", open_share=0.0),
        ],
    )
    share = made.ceiling(TERRACE, FORTNIGHT)
    day = share.reshape(14, 288)
    assert day[0, 0] == pytest.approx(0.1), "as on every night"
    assert day[0, 12 * 10] == pytest.approx(0.8)
    assert day[1, 0] == pytest.approx(0.1), "the last of the evening holds over night"
    assert day[3, 0] == pytest.approx(0.1)
    assert (day[3, 12 * 12 :] == 0.0).all()
    assert (day[5:] == 0.0).all(), "shut from that day on"
    with pytest.raises(ValidationError, match="earliest first"):
        KilnVents(settings=[VentSetting(hour="18:00"), VentSetting(hour="09:00")])


def test_dew_comes_on_the_roof_runs_out_or_drips_back_and_makes_the_film_opaque():
    wet = charge(boards("scots-pine", 25.0, 1.2, start="green-sap"))
    out, back = (ran(THIN.with_(drips=way), wet, FORTNIGHT) for way in ("out", "back"))
    assert float(np.nanmax(out.damp.held_kg[ROOF])) > 0.05
    assert out.damp.away_kg.sum() > back.damp.away_kg.sum()
    assert back.damp.held_kg["floor"].max() > out.damp.held_kg["floor"].max()
    assert out.damp.closure < 1e-10
    inside = {"baffle": (8.0, 0.9)}
    links = {
        link.end: link.params
        for link in glow_links(
            inside, GlazedCover(material="pe-film", thickness_m=0.0002, layers=1).skins, 8.64, 40.0, "cover", "cover"
        )
        if link.start == "baffle"
    }
    dry, dewed = links["sky"]
    assert dewed < 0.02 * dry, "a wet film lets no long-wave through"
    assert links["cover-1"][1] > 3.0 * links["cover-1"][0], "and takes it up instead"


def test_long_wave_through_dry_sheets_is_the_closed_form():
    """One grey face, one sheet that passes τ: share to the sky ε τ'/(1 − (1 − ε) ρ'), by hand (Duffie & Beckman 3.8 in form)."""
    skins = GlazedCover(material="pe-film", thickness_m=0.0002, layers=1).skins
    row, emittance = skins[0].row, 0.9
    links = {
        (x.start, x.end): x.params[0]
        for x in glow_links({"plate": (1.0, emittance)}, skins, 1.0, 0.0, "cover", "cover")
    }
    through, thrown = row.longwave_transmittance, 1.0 - row.longwave_transmittance - row.emittance
    again = 1.0 / (1.0 - (1.0 - emittance) * thrown)
    assert links["plate", "sky"] == pytest.approx(emittance * through * again, rel=1e-6)
    assert links["plate", "cover-1"] == pytest.approx(emittance * row.emittance * again, rel=1e-6)
    assert links["cover-1", "sky"] == pytest.approx(
        row.emittance * (1.0 + (1.0 - emittance) * again * through), rel=1e-6
    )


def test_sun_on_bare_walls_comes_in_and_on_insulated_ones_hardly():
    bare, foam = (traced(kiln, None).areas(np.array([[0.0, -0.8, 0.6]]))[0] for kiln in (THIN, TIGHT))
    dark = traced(THIN.with_(outer="flat-black-paint"), None).areas(np.array([[0.0, -0.8, 0.6]]))[0]
    walls = THIN.outer_faces()
    assert sum(m2 for m2, _, _ in walls) == pytest.approx(THIN.walls_m2)
    assert dark[1] > bare[1]
    assert foam[-1] < bare[-1]


def test_what_was_measured_goes_before_what_follows_from_sizes():
    kiln = THIN.with_(
        measured=Measured(
            roof_m2=5.0,
            walls_m2=20.0,
            floor_m2=6.0,
            chamber_m3=9.0,
            walls_u_w_m2k=2.0,
            walls_j_m2k=9000.0,
            floor_u_w_m2k=1.0,
            floor_j_m2k=8000.0,
            stored_j_k=50000.0,
        )
    )
    assert (kiln.roof_m2, kiln.walls_m2, kiln.floor_m2, kiln.chamber_m3, kiln.walls_u) == (5.0, 20.0, 6.0, 9.0, 2.0)
    wall = next(node for node in traced(kiln, None).network.nodes if node.name == "inner-walls")
    assert wall.capacity_j_k == pytest.approx(20.0 * 9000.0 + 50000.0)


def test_halving_the_step_moves_nothing_by_a_fifth_of_a_kelvin():
    coarse = ran(THIN, GREEN, clear(JUNE, 3))
    case = case_of(THIN, GREEN, JUNE, 3)
    from drylamp.core.sky.of_span import weather_of
    from drylamp.core.twin.prepared import simulate

    span = case.span.model_copy(update={"step_s": 60})
    fine = simulate(case.with_(span=span), weather_of(TERRACE, case.weather, span))
    for node in (CHAMBER, "boards-1"):
        apart = np.abs(coarse.temperature_c[node] - fine.temperature_c[node][::5])
        assert np.nanmax(apart[12 * 9 :]) < 0.5 if node == CHAMBER else np.nanmax(apart[12 * 9 :]) < 0.2
    assert kept_of(GREEN.numbered[0], coarse).mean[-1] == pytest.approx(
        kept_of(GREEN.numbered[0], fine).mean[-1], abs=0.003
    )


# --- the charge ---


def test_groups_go_in_and_come_out_on_their_days_and_keep_what_they_hold():
    load = charge(
        boards("poplar", 27.0, 0.3, out_on=date(2025, 6, 18)),
        boards("sweet-chestnut", 54.0, 0.3, in_on=date(2025, 6, 12)),
    )
    run = ran(TIGHT, load, FORTNIGHT)
    poplar, chestnut = (kept_of(group, run) for group in load.numbered)
    assert (poplar.first, poplar.last) == (8 * 12, 8 * 288 + 8 * 12)
    assert chestnut.first == 2 * 288 + 8 * 12
    assert chestnut.last == len(run.edge_s) - 1
    assert np.abs(np.diff(chestnut.mean)).max() < 0.02, "nothing jumps when the other comes out"
    assert run.damp.closure < 1e-10
    with pytest.raises(InputProblem, match="the run begins on"):
        ran(TIGHT, charge(boards("poplar", 27.0, 0.3, in_on=date(2025, 5, 1))), FORTNIGHT)


def test_a_charge_that_has_stood_for_weeks_is_looked_at_as_it_stands():
    load = charge(
        boards("poplar", 27.0, 0.5, in_on=date(2025, 5, 20)),
        boards("sweet-chestnut", 54.0, 0.2, in_on=date(2025, 6, 20)),
    )
    case = stood(case_of(TIGHT, load, JUNE, 1))
    first, later = case.load.groups
    assert case.load.already_in
    assert first.in_on is None
    assert first.mean_mc < 0.8 * load.groups[0].mean_mc
    assert first.outside_cells @ SHARES > first.mean_mc, "the stack outside is behind"
    assert later == load.numbered[1]
    run = ran(TIGHT, case.load, clear(JUNE, 12))
    assert kept_of(case.load.numbered[0], run).first == 0, "in it from midnight on"
    whole = stood(case_of(TIGHT, GREEN, JUNE, 1))
    assert whole.load == GREEN, "what goes in on the day is left as it is"


def test_a_profile_is_laid_over_the_cells_and_as_left_is_taken_as_it_is():
    group = BoardGroup(species="poplar", profile=[0.5, 0.3, 0.1], wood_m3=0.1)
    assert group.cells[0] > 0.45
    assert group.cells[-1] < 0.12
    assert group.mean_mc == pytest.approx(0.3, abs=0.01)
    left = group.model_copy(update={"as_left": [0.2] * 10})
    assert left.mean_mc == pytest.approx(0.2)


def test_board_feet_are_read_as_cubic_metres():
    group = BoardGroup.model_validate({"species": "poplar", "board_feet": 424.0})
    assert group.wood_m3 == pytest.approx(1.0005, abs=0.001)
    assert BoardGroup.model_validate(group.model_dump()) == group
    with pytest.raises(ValidationError, match="give one of them"):
        BoardGroup.model_validate({"species": "poplar", "board_feet": 100.0, "wood_m3": 0.2})


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"start": "measured", "start_mc": 3.0}, "less than or equal to 2.6"),
        ({"start": "measured"}, "nothing was given for boards that go in as measured"),
        (
            {"species": "shagbark-hickory"},
            "how fast water goes through shagbark hickory is not known; choose a wood like it",
        ),
        ({"species": "popler"}, "poplar"),
        ({"in_on": "2025-06-20", "out_on": "2025-06-10"}, "allowed is a day after 2025-06-20"),
        ({"thickness_mm": 500}, "less than or equal to 150"),
    ],
)
def test_bad_boards_are_refused_in_a_sentence(change, said):
    with pytest.raises((ValidationError, InputProblem), match=said):
        BoardGroup.model_validate({"species": "poplar", "wood_m3": 0.2} | change)


def test_what_does_not_fit_is_refused_with_what_would():
    row = kind_of(THIN)
    with pytest.raises(InputProblem, match=r"the kiln is .* long inside"):
        row.check_fit(THIN, charge(boards("poplar", 27.0, 0.3, length_m=5.0)))
    with pytest.raises(InputProblem, match=r"so up to .* fits"):
        row.check_fit(THIN, charge(boards("poplar", 27.0, 9.0)))
    with pytest.raises(InputProblem, match="from front to back"):
        row.check_fit(THIN, charge(boards("poplar", 27.0, 0.3), stack_deep_m=3.0))
    with pytest.raises(ValidationError, match="back wall is"):
        LumberKiln.model_validate({"facing_deg": 180, "length_m": 1.0, "vents": {"low_cm2": 30000.0}})
    with pytest.raises(ValidationError, match="does not stand on wheels"):
        LumberKiln.model_validate({"facing_deg": 180, "turned_minutes": 60})
    kiln = BUILD.validate_json(LumberKiln(facing_deg=180, form="trailer", turned_minutes=60).model_dump_json())
    assert kiln.turned_minutes == 60.0
    assert LOAD.validate_json(GREEN.model_dump_json()) == GREEN


def test_every_link_between_pane_and_sky_names_the_pane_whose_dew_it_minds():
    network = traced(THIN, GREEN).network
    glows = [link for link in network.links if link.law == Law.GLOW]
    assert glows
    assert {link.beside for link in glows} == {ROOF}
    assert CHAMBER_VAPOUR in network.names


def test_a_wetter_day_is_damper_inside():
    dry, wet = (ran(THIN, GREEN, replace(FORTNIGHT, rh=np.full(FORTNIGHT.steps, rh))) for rh in (0.3, 0.9))
    assert chamber_rh(wet)[-288:].mean() > chamber_rh(dry)[-288:].mean() + 0.05
    usual_days = usual(JUNE, 14)
    assert usual_days.steps == FORTNIGHT.steps


def test_a_charge_that_goes_in_after_the_run_is_refused_in_a_sentence():
    late = charge(boards("poplar", 27.0, 0.3, in_on=date(2025, 8, 1)))
    with pytest.raises(InputProblem, match="goes in on 2025-08-01, and 2025-06-23 is the last day that is run"):
        ran(TIGHT, late, FORTNIGHT)
    assert stood(case_of(TIGHT, late, JUNE, 14)).load is None
