"""What is read where water leaves: watts by bucket and stopwatch, rows apart, the collector's line, draw-offs, and who is wrong."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.builds.common.coil.rows import row_number
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.common.coil import Coil
from drylamp.core.loads.common.draws import Draw, Running
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.tap.figures import collector_line
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.sky.weather import ClearDay, clear_days
from drylamp.core.trials.at_tap import flow_read
from drylamp.core.trials.beside import beside
from drylamp.core.trials.channels import places, read_as, usual_channels
from drylamp.core.trials.culprit import Suspect, culprits
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.verdict import Verdict, judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import HEATER, SHOWERS, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled

NOON = datetime.fromisoformat("2025-06-12T12:30:00+02:00")
EVENING = datetime.fromisoformat("2025-06-12T20:40:00+02:00")
DAY = ClearDay(tmin_c=14, tmax_c=25, wind_m_s=1.5)
RUNS = RunningWater(running=[Running(begins="08:00", ends="18:00", l_min=2.0)], mains_c=15.0)
DAIRY = HoseCoil(
    facing_deg=180.0,
    width_m=1.3, length_m=2.0, coil=Coil(material="black-pe", pipe_m=60.0, bore_mm=13.0, outer_mm=16.0), coils=2, joined="parallel",
    cover=GlazedCover(material="clear-float-glass", thickness_m=0.004),
)  # fmt: skip
AS_TWIN = Truth(calibration=Calibration(), noise_k=0.05)
ROUNDS = [0.0, 10.0, 20.0, 30.0]


def bucket(build: HoseCoil = DAIRY, truth: Truth = AS_TWIN, load: RunningWater = RUNS, rows: int = 0) -> TrialFacts:
    flows = [channel(f"row-{k}", "bucket") for k in range(1, rows + 1)] or [channel("flow", "bucket")]
    read = [channel("outlet", device="one"), channel("inlet", device="one"), *flows]
    facts = blank(read, "bucket-power", NOON, None, DAY, load)
    return filled(facts, truth, [(m, c.channel) for m in ROUNDS for c in read], build)


def named(verdict: Verdict, name: str):
    return next((f for f in verdict.figures if f.name == name), None)


def test_watts_are_litres_a_minute_times_how_much_warmer():
    times = [NOON + timedelta(minutes=m) for m in (5, 15, 25)]
    values = {"outlet": [25.0, 26.0, 24.0], "inlet": [15.0, 15.0, 15.0], "flow": [2.0, 2.0, 2.0]}
    read = [
        channel(n, "bucket" if n == "flow" else "probe").model_copy(update={"times": times, "values": v})
        for n, v in values.items()
    ]
    found = named(judge(TERRACE, DAIRY, blank(read, "bucket-power", NOON, None, DAY, RUNS)), "tap-power")
    assert found.value == pytest.approx(2.0 / 60.0 * CP_WATER_J_KGK * 10.0, rel=1e-3)
    shared = found.value * np.hypot(0.04, np.hypot(1.0, 1.0) / 10.0)
    scatter = 2.0 * 2.0 / 60.0 * CP_WATER_J_KGK / np.sqrt(3)
    assert found.doubt == pytest.approx(np.hypot(shared, scatter), rel=1e-3)


def test_a_coil_as_good_as_its_twin_gives_what_the_twin_says():
    verdict = judge(TERRACE, DAIRY, bucket())
    found = named(verdict, "tap-power")
    assert abs(found.value - found.twin) < found.doubt
    assert verdict.headline.startswith("As good as its twin")
    assert {c.node for c in verdict.channels} == {"outlet"}


def test_the_twin_runs_at_the_flow_that_was_read_and_takes_in_what_was_read():
    planned_twice = RUNS.model_copy(
        update={"running": [Running(begins="08:00", ends="18:00", l_min=4.0)], "mains_c": 9.0}
    )
    as_read = bucket().model_copy(update={"load": planned_twice})
    run = beside(TERRACE, DAIRY, as_read).likely
    step = 60.0 / run.weather.dt_s
    assert run.drawn["water"].kg[-5] * step == pytest.approx(2.0, rel=0.03)
    assert run.cold_c[0] == pytest.approx(15.0, abs=0.1)


def test_air_in_one_of_two_rows_is_told_by_the_rows_apart_and_not_blamed_on_the_sun():
    one_row = DAIRY.with_(coils=1)
    facts = bucket(one_row, replace(AS_TWIN, rows=(1.9, 0.1)), rows=2)
    verdict = judge(TERRACE, DAIRY, facts)
    watts, rows = named(verdict, "tap-power"), named(verdict, "rows")
    assert watts.value < 0.7 * watts.twin
    assert (rows.passed, rows.value) == (False, pytest.approx(0.1, abs=0.02))
    assert verdict.headline.startswith("Row 2 passes")
    assert verdict.likely_cause == ""
    assert any("let the air out" in sentence for sentence in verdict.sentences)


def test_rows_that_share_alike_are_no_fault():
    verdict = judge(TERRACE, DAIRY, bucket(truth=replace(AS_TWIN, rows=(1.0, 0.9)), rows=2))
    assert named(verdict, "rows").passed
    assert not named(verdict, "rows").fault


def test_flow_of_all_rows_together_is_their_sum():
    _, l_min, doubt = flow_read(bucket(rows=2))
    assert l_min == pytest.approx(np.full(4, 2.0), rel=0.05)
    assert doubt == pytest.approx(0.04 / np.sqrt(2))


def test_nothing_read_of_flow_or_outlet_gives_no_watts():
    facts = bucket()
    without = facts.model_copy(update={"channels": [c for c in facts.channels if c.node != "flow"]})
    assert named(judge(TERRACE, DAIRY, without), "tap-power") is None
    assert flow_read(without) is None


@pytest.mark.parametrize(("eta", "loss"), [(0.78, 4.2), (0.55, 11.0), (0.9, 25.0)])
def test_a_collectors_line_is_found_from_its_own_points(eta: float, loss: float):
    x = np.array([0.0, 0.02, 0.04, 0.06])
    line = collector_line(eta - loss * x, x)
    assert (line.share, line.loss_w_m2k) == (pytest.approx(eta), pytest.approx(loss))


def test_a_line_needs_four_points_and_warm_ones():
    x = np.array([0.0, 0.02, 0.04])
    assert collector_line(0.8 - 4.0 * x, x) is None
    assert collector_line(np.full(6, 0.8), np.full(6, 0.01)) is None


def collector_trial(build: HoseCoil) -> TrialFacts:
    """Four warmths of water from a barrel, three readings each."""
    read = [
        channel(n, "bucket" if n == "flow" else "logger", device="one" if n != "flow" else "")
        for n in ("outlet", "inlet", "flow")
    ]
    at, out = PROTOCOLS["collector-points"].reading_minutes, {c.channel: ([], []) for c in read}
    for block, inlet in enumerate((15.0, 30.0, 45.0, 60.0)):
        runs = RunningWater(running=[Running(begins="08:00", ends="18:00", l_min=2.0)], mains_c=inlet, warm_c=80.0)
        facts = filled(
            blank(read, "collector-points", NOON, None, DAY, runs),
            replace(AS_TWIN, noise_k=0.0),
            [(m, c.channel) for m in at for c in read],
            build,
        )
        for c in facts.channels:
            out[c.channel][0].extend(c.times[3 * block : 3 * block + 3])
            out[c.channel][1].extend(c.values[3 * block : 3 * block + 3])
    channels = [c.model_copy(update={"times": out[c.channel][0], "values": out[c.channel][1]}) for c in read]
    return blank(channels, "collector-points", NOON, None, DAY, RUNS)


PLATE = HoseCoil(
    tilt_deg=30.0, facing_deg=180.0, width_m=1.0, length_m=2.0, coil=Coil(material="copper", pipe_m=110.0, bore_mm=16.0, outer_mm=18.0), pitch_mm=18.0,
    finish="flat-black-paint", bed="flat-black-paint", contact_w_m2k=200.0, cover=GlazedCover(material="low-iron-glass", thickness_m=0.004), cover_gap_m=0.025,
)  # fmt: skip


def test_a_glazed_plate_of_close_wound_pipe_has_the_line_of_glazed_collectors():
    """ISO 9806 lines of single-glazed black collectors: η₀ 0.70–0.82, a₁ 3–8 W/m²K (from memory of printed test reports)."""
    verdict = judge(TERRACE, PLATE, collector_trial(PLATE))
    share, loss = named(verdict, "collector-share"), named(verdict, "collector-loss")
    assert 0.70 <= share.value <= 0.82
    assert 3.0 <= loss.value <= 8.0
    assert share.twin == pytest.approx(share.value, abs=0.05)


def test_without_glass_it_loses_several_times_as_much():
    bare = named(judge(TERRACE, PLATE.with_(cover=None), collector_trial(PLATE.with_(cover=None))), "collector-loss")
    assert bare.value > 10.0


STORE = SHOWERS.model_copy(
    update={"draws": [Draw(at="20:41", take_l=30.0, l_min=3.0)], "start_c": 52.0, "mains_c": 14.0, "fill_l": 60.0}
)


def drawn_off(**off: float) -> TrialFacts:
    """A draw-off as its twin has it, with some instruments off by so much (the flow by a share)."""
    read = [
        channel(n, "bucket" if n == "flow" else "probe", **({"doubt": 0.04} if n == "flow" else {}))
        for n in ("water", "outlet", "inlet", "flow")
    ]
    facts = blank(read, "draw-off", EVENING, None, DAY, STORE)
    run = beside(TERRACE, HEATER, facts.model_copy(update={"channels": [read[0].model_copy(update={"times": [EVENING], "values": [52.0]}), *read[1:]]})).likely  # fmt: skip
    begun, ended = EVENING + timedelta(minutes=1), EVENING + timedelta(minutes=11)
    at = [begun + timedelta(minutes=k) for k in range(11)]
    out = run.at("outlet", np.array([t.timestamp() for t in at]))
    mean = np.mean([run.at(n, np.array([ended.timestamp() + 60.0]))[0] for n in STORE.filling.names])
    told = {
        "water": ([EVENING, ended + timedelta(minutes=1)], [52.0, float(mean)]),
        "outlet": (at, [float(v) for v in out]),
        "inlet": ([begun, ended], [14.0, 14.0]),
        "flow": ([begun, ended], [3.0, 3.0]),
    }
    channels = []
    for c in read:
        times, values = told[c.node]
        wrong = [v * (1 + off.get(c.node, 0.0)) if c.node == "flow" else v + off.get(c.node, 0.0) for v in values]
        channels.append(c.model_copy(update={"times": times, "values": wrong}))
    return facts.model_copy(update={"channels": channels})


def test_a_draw_off_whose_readings_agree_says_so_and_sums_its_heat():
    facts = drawn_off()
    found = named(judge(TERRACE, HEATER, facts), "draw-off")
    outlet = facts.of_node("outlet")
    by_hand = 30.0 * CP_WATER_J_KGK / 3.6e6 * (np.trapezoid(outlet.values, outlet.seconds) / 600.0 - 14.0)
    assert found.value == pytest.approx(by_hand, rel=0.01)
    assert found.twin == pytest.approx(found.value, rel=0.05)
    assert (found.passed, found.fault) == (True, "")


@pytest.mark.parametrize(
    ("off", "blamed", "side"),
    [({"outlet": -5.0}, "the thermometer at the tap", "low"), ({"water": 6.0}, "the thermometer in the tank", "high"), ({"flow": 0.3}, "the flow", "high")],
)  # fmt: skip
def test_the_reading_that_is_wrong_is_named(off: dict[str, float], blamed: str, side: str):
    verdict = judge(TERRACE, HEATER, drawn_off(**off))
    assert blamed in named(verdict, "draw-off").fault
    assert f"too {side}" in verdict.headline
    assert verdict.likely_cause == ""


def test_cold_water_read_wrong_cannot_be_told_from_a_wrong_flow():
    fault = named(judge(TERRACE, HEATER, drawn_off(inlet=8.0)), "draw-off").fault
    assert "the reading of the cold water" in fault


def test_a_sip_tells_nothing_of_the_tank():
    facts = drawn_off()
    sip = [c.model_copy(update={"values": [0.2, 0.2]}) if c.node == "flow" else c for c in facts.channels]
    assert named(judge(TERRACE, HEATER, facts.model_copy(update={"channels": sip})), "draw-off") is None


@given(st.integers(0, 2), st.floats(6.0, 40.0), st.booleans())
def test_who_alone_could_have_made_a_contradiction_is_the_culprit(who: int, much: float, low: bool):
    suspects = [
        Suspect("a", 1.0, (1.0, 0.0, 0.0)),
        Suspect("b", 1.0, (0.0, 1.0, 0.0)),
        Suspect("c", 1.0, (0.0, 0.0, 1.0)),
    ]
    off = np.zeros(3)
    off[who] = -much if low else much
    [story] = culprits(off, np.full(3, 0.5), suspects)
    assert (story.suspect.name, story.off_by) == ("abc"[who], pytest.approx(off[who]))


def test_agreement_within_the_doubts_accuses_nobody():
    suspects = [Suspect("a", 2.0, (1.0, 1.0)), Suspect("b", 2.0, (1.0, -1.0))]
    assert culprits(np.array([0.8, -0.5]), np.full(2, 1.0), suspects) == []


def test_water_read_at_a_tap_of_a_tank_ran_only_while_it_was_read():
    weather = clear_days(TERRACE, DAY, NOON.timestamp(), NOON.timestamp() + 3600.0, 60.0)
    fed = Fed((weather.start_s,), (6.0,), weather.start_s + 90.0, weather.start_s + 210.0)
    tank, pipe = STORE.fed(fed).flows(TERRACE, weather), RUNS.fed(fed).flows(TERRACE, weather)
    assert float(tank["drawn"].sum()) * 60.0 == pytest.approx(12.0)
    assert pipe["water"] == pytest.approx(np.full(60, 0.1))
    read = replace(fed, inlet_s=(weather.start_s + 600.0, weather.start_s + 1200.0), inlet_c=(11.0, 20.0))
    assert list(STORE.fed(read).inlet_c(weather)[[0, 9, 10, 19, 40]]) == [11.0, 11.0, 20.0, 20.0, 20.0]
    assert set(STORE.inlet_c(weather)) == {14.0}


def test_what_a_protocol_asks_follows_from_the_rows_and_one_thermometer():
    protocol = PROTOCOLS["bucket-power"]
    assert [c.node for c in usual_channels(protocol, DAIRY, RUNS)] == ["outlet", "inlet", "flow"]
    offered = {p.channel.node for p in places(DAIRY, RUNS)}
    assert {"outlet", "inlet", "flow", "row-1", "row-2"} <= offered
    assert not {"outlet", "flow"} & {p.channel.node for p in places(DAIRY, None)}
    assert "row-1" not in {p.channel.node for p in places(DAIRY.with_(joined="series"), RUNS)}
    nothing = (None, None, "")
    assert (
        read_as(protocol, DAIRY, "outlet", "probe", nothing).device
        == read_as(protocol, DAIRY, "inlet", "probe", nothing).device
        != ""
    )
    assert read_as(protocol, DAIRY, "flow", "bucket", nothing).quantity == "flow"
    assert [row_number(node) for node in ("row-12", "row-x", "rows", "water")] == [12, None, None, None]
