"""What trials, draws and grey days of water say, against sums done by hand."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np
import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.flow import flow_curve
from drylamp.core.advice.grey import grey_runs
from drylamp.core.advice.registry import advice_of_load
from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.builds.common.cover.links import between_plates, sheets, sky_share
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.heat.drive import draw_parts
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import MAINS, Link, Node
from drylamp.core.heat.pipes import Piece, Stream
from drylamp.core.loads.common.kept.outcome import heat_litres, warm_litres
from drylamp.core.loads.common.outcome import at_hour
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.outcome.drawn_out import litre_by_litre
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Drawn, Run
from drylamp.demo.scenario import BASIN_HOSE, HEATER, SHOWERS, STEW, TERRACE
from drylamp.formats.run_csv import quarters
from tests.core.making import blank, channel

JUNE = date(2025, 6, 12)
STILL = SHOWERS.model_copy(update={"draws": [], "layers": 1, "mains_c": 13.0})
SEALED = HEATER.with_(seals_vapour=True)
CASE = usual_case(TERRACE, None, SEALED, STILL, JUNE).with_(span=Span(start=JUNE, step_s=300))


@pytest.fixture(scope="module")
def day() -> Run:
    return simulate(CASE, weather_for(CASE))


def trial(protocol: str, begun: str, minutes: list[float], water: list[float], air: list[float]) -> TrialFacts:
    started = datetime.fromisoformat(begun)
    times = [started + timedelta(minutes=m) for m in minutes]
    read = [
        channel(node).model_copy(update={"times": times, "values": values})
        for node, values in (("water", water), ("air", air))
    ]
    return blank(read, protocol, started, None, ClearDay(tmin_c=9, tmax_c=20), STILL)


def figure(facts: TrialFacts, name: str):
    return next((f for f in judge(TERRACE, HEATER, facts).figures if f.name == name), None)


def test_night_loss_is_the_logarithm_of_how_it_cools():
    """m cp/Δt · ln(ΔT₀/ΔT₁), the form of ISO 9459-2, on a night cooled by exactly 3 W/K."""
    minutes = [0.0, 120.0, 300.0, 600.0]
    rate = 3.0 / (STILL.fill_l * CP_WATER_J_KGK)
    water = [10.0 + 40.0 * math.exp(-rate * 60.0 * m) for m in minutes]
    found = figure(trial("night-loss", "2025-04-29T20:30:00+02:00", minutes, water, [10.0] * 4), "night-loss")
    assert found.value == pytest.approx(3.0, rel=1e-6)
    assert 0.05 < found.doubt < 1.0
    assert found.twin == pytest.approx(2.1, abs=0.6)


def test_a_night_too_short_or_too_cool_gives_no_loss():
    short = trial("night-loss", "2025-04-29T20:30:00+02:00", [0.0, 60.0], [50.0, 49.0], [10.0, 10.0])
    warming = trial("night-loss", "2025-04-29T20:30:00+02:00", [0.0, 300.0], [40.0, 41.0], [10.0, 10.0])
    cool = trial("night-loss", "2025-04-29T20:30:00+02:00", [0.0, 300.0], [14.0, 12.0], [10.0, 10.0])
    assert [figure(facts, "night-loss") for facts in (short, warming, cool)] == [None, None, None]


def test_day_gain_is_mass_times_heat_times_rise_to_the_warmest():
    minutes, water = [0.0, 240.0, 480.0, 540.0], [17.0, 30.0, 44.0, 43.0]
    found = figure(trial("day-gain", "2025-06-12T09:00:00+02:00", minutes, water, [18.0] * 4), "day-gain")
    assert found.value == pytest.approx(STILL.fill_l * CP_WATER_J_KGK * 27.0 / 3.6e6, rel=1e-9)
    assert found.twin > 0.5


def test_heat_and_litres_agree_where_all_is_warm(day):
    """One layer over the wanted warmth: litres at the tap are all its heat is worth; under it they are none though heat is there."""
    warm, heat, top = warm_litres(STILL, day), heat_litres(STILL, day), day.temperature_c["water"]
    hot = top >= STILL.warm_c
    assert hot.any()
    assert warm[hot] == pytest.approx(heat[hot], rel=1e-9)
    assert (warm[~hot] == 0).all()
    assert heat[~hot].max() > 50.0


def test_an_hour_is_read_between_edges_and_held_at_the_end(day):
    ramp = day.edge_s - day.edge_s[0]
    assert at_hour(day, ramp, "19:02") == pytest.approx(19 * 3600 + 120)
    assert at_hour(day, ramp, "23:59") == pytest.approx(23 * 3600 + 59 * 60)


OUT = Drawn(
    kg=np.array([0.0, 1.5]), celsius=np.array([np.nan, 40.0]), time_s=np.array([10.0, 20.0, 30.0]), lot_kg=np.array([0.5, 0.75, 0.25]),
    lot_c=np.array([50.0, 30.0, 20.0]),
)  # fmt: skip


def test_litres_and_quarters_share_out_the_lots(day):
    (litre,) = litre_by_litre(replace(day, drawn={"tap": OUT}), "tap", 0.0, 60.0)
    assert litre.celsius_c == pytest.approx(40.0)  # half a litre at 50, half at 30
    assert [round(warm, 6) for _, warm in quarters(OUT)] == [50.0, 50.0, 30.0, 30.0, 30.0, 20.0]
    assert [at for at, _ in quarters(OUT)] == sorted(at for at, _ in quarters(OUT))
    assert quarters(Drawn(OUT.kg, OUT.celsius, np.zeros(0), np.zeros(0), np.zeros(0))) == []
    assert OUT.over(np.array([13.0, 10.0])).tolist() == [0.0, 45.0]


def test_a_draw_is_cut_finer_while_it_flushes_its_pipe():
    parts = tuple(Piece(f"w{k}", 2.0) for k in range(5))
    nodes = tuple(Node(f"w{k}", 500.0, "") for k in range(5))
    pipe = Network(nodes, (), (), (Stream("pipe", parts, 0.013, 0.002, 0.4, MAINS),))
    flow = np.zeros((60, 1))
    flow[20:24] = 3.0 / 60.0
    found = draw_parts(pipe, None, flow, 60.0, 60)
    assert (found[:20] == 1).all()
    assert (found[20:24] > 5).all()
    assert (found[30:] == 1).all()


def test_streams_name_what_is_there():
    stream = Stream("pipe", (Piece("w", 1.0),), 0.013, 0.002, 0.4, MAINS)
    with pytest.raises(InputProblem, match="'w' is no node"):
        Network((Node("x", 1.0, ""),), (), (), (stream,))
    with pytest.raises(InputProblem, match="bore of 0 m"):
        Stream("pipe", (Piece("w", 1.0),), 0.0, 0.002, 0.4, MAINS)
    with pytest.raises(InputProblem, match="length above 0"):
        Stream("pipe", (Piece("w", 0.0),), 0.013, 0.002, 0.4, MAINS)


def test_sheets_of_a_cover_see_each_other_and_the_outside():
    """Duffie & Beckman 3.8: 1/(1/0.84 + 1/0.84 − 1) = 0.724 between panes; a level pane sees all of the sky, an upright one half."""
    assert between_plates(0.84, 0.84) == pytest.approx(0.7241, abs=5e-4)
    assert (sky_share(0.0), sky_share(90.0)) == pytest.approx((1.0, 0.5))
    skins = GlazedCover(layers=2).skins
    nodes, links = sheets(skins, 0.5, 90.0, "cover", 5.0)
    assert [node.name for node in nodes] == ["cover-1", "cover-2"]
    by_name: dict[str, Link] = {link.name: link for link in links}
    assert by_name["cover 1 shines out"].params[0] == pytest.approx(0.5 * 0.7241, abs=1e-3)
    assert by_name["cover to sky"].params[0] == pytest.approx(by_name["cover to surroundings"].params[0])
    assert sheets([], 0.5, 0.0, "cover", 5.0) == ([], [])


def test_a_grey_run_goes_on_where_the_sun_left_off():
    context = AdviceContext(CASE, weather_for(CASE))
    fair, grey = grey_runs(context)
    assert grey.edge_s[0] == fair.edge_s[-1]
    assert grey.temperature_c["water"][0] == pytest.approx(fair.temperature_c["water"][-1])
    assert grey.opening_w.max() < 0.5 * fair.opening_w.max()


def test_only_what_stands_over_nights_is_asked_for_grey_days_and_only_what_runs_for_flows():
    assert advice_of_load(STILL).grey_days is not None
    assert advice_of_load(RunningWater()).grey_days is None
    assert advice_of_load(STEW).grey_days is None
    assert (STILL.at_flow(1.0), STEW.at_flow(1.0)) == (None, None)


def test_the_flow_that_runs_now_lies_on_its_curve():
    load = RunningWater(mains_c=15.0, running=[{"begins": "10:00", "ends": "16:00", "l_min": 1.2}])
    case = usual_case(TERRACE, None, BASIN_HOSE, load, JUNE).with_(span=Span(start=JUNE, step_s=300))
    found = flow_curve(
        AdviceContext(case, weather_for(case)), datetime(2025, 6, 12, 13, tzinfo=TERRACE.zone).timestamp()
    )
    assert found.now == next(point for point in found.points if point.l_min == 1.2)
    most = max(point.gain_w for point in found.points)
    assert next(p for p in found.points if p.l_min == found.enough_l_min).gain_w >= 0.9 * most
