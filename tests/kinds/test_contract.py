"""What every kind of build must do, from its specimen alone. Nothing here knows which kinds there are."""

from __future__ import annotations

import json
from datetime import date, datetime, timedelta

import numpy as np
import pytest
from click.testing import CliRunner

from drylamp.cli import main
from drylamp.core.advice.cautions import OF_EVERY_BUILD
from drylamp.core.advice.changes import changes_of
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.plan import day_plan
from drylamp.core.advice.registry import advice_of, advice_of_load
from drylamp.core.advice.sayings import sayings_of
from drylamp.core.advice.schools import asked_of, schools_of
from drylamp.core.advice.weakest import weakest_link
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.pattern import laid_out
from drylamp.core.builds.registry import BUILD, accounts_of, kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.checks import InputProblem
from drylamp.core.engine import forecast, weather_for
from drylamp.core.heat.parts import BOUNDARIES
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LOADS
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.trials.channels import places, usual_channels
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.instruments import BASE_UNIT, INSTRUMENTS
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case, usual_case
from drylamp.core.twin.light import traced
from drylamp.core.twin.placements import placements_of
from drylamp.core.twin.prepared import simulate
from drylamp.demo.scenario import TERRACE
from drylamp.instruments.logger import Truth, read_plan
from tests.kinds.specimens import NAMES, loads, specimen

JUNE = date(2025, 6, 12)
DAY = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26), Span(start=JUNE, step_s=300))
NOON = np.array([0.0, -0.35, 0.94]) / np.hypot(0.35, 0.94)
every_kind = pytest.mark.parametrize("kind", NAMES)


def case_of(kind: str) -> Case:
    build, load = specimen(kind)
    return usual_case(TERRACE, None, build, load, JUNE)


def context_of(kind: str) -> AdviceContext:
    return AdviceContext(case_of(kind), DAY)


# --- what it is ---


@every_kind
def test_every_starter_can_be_built_and_goes_to_a_file_and_back(kind):
    for starter in starters()[kind]:
        build = starter.spec
        assert build.kind == kind
        assert BUILD.validate_json(build.model_dump_json()) == build
        kind_of(build).check_fit(build, starter.load)
    assert f'"{kind}"' in json.dumps(BUILD.json_schema())


@every_kind
@pytest.mark.parametrize(
    "change", [{"facing_deg": 400.0}, {"tilt_deg": "steep"}, {"no_such_field": 1}, {"kind": "balloon"}]
)
def test_bad_input_is_refused_at_its_field(kind, change, client):
    spec = specimen(kind)[0].model_dump(mode="json") | change
    answer = client.post("/api/builds", json={"site_id": 1, "name": "x", "spec": spec})
    assert answer.status_code == 422
    fields = [error["field"] for error in answer.get_json()["errors"]]
    assert fields == ["spec" if "kind" in change else f"spec.{next(iter(change))}"]
    assert client.get("/api/builds").get_json() == []


@every_kind
def test_it_says_of_every_load_whether_it_takes_it(kind):
    build, _ = specimen(kind)
    row = kind_of(build)
    assert set(LOADS) == set(loads())
    for name, load in loads().items():
        if load.sits not in row.offers:
            with pytest.raises(InputProblem, match=load.called):
                row.check_fit(build, load)
        assert name == load.kind


# --- its network ---


@every_kind
@pytest.mark.parametrize("loaded", [False, True])
def test_its_rows_name_what_is_there(kind, loaded):
    build, load = specimen(kind)
    load, row = load if loaded else None, kind_of(build)
    network = row.network(build, load, row.optics(build, load))
    names = set(network.names)
    assert set(row.lit_nodes(build, load)) <= names
    assert {stuff.node for stuff in row.stuffs(build)} <= names
    assert set(row.surfaces(build)) <= names
    assert row.useful(build, load) & {node.name for node in network.readable} or load is None
    assert row.stagnation_node(build) in names
    assert {"mirrored", row.stored_account, row.useful_account} <= set(accounts_of(build, load))
    assert {link.account for link in network.links if link.account} <= set(accounts_of(build, load))
    crossing = [link for link in network.links if (link.start in BOUNDARIES) or (link.end in BOUNDARIES)]
    assert all(link.account for link in crossing), "heat that leaves stands in the ledger"
    assert set(row.drives(build)) <= {path.name for path in network.paths}
    areas, intercepted = row.optics(build, load).along_path(NOON[None])
    assert areas.shape == (1, len(row.lit_nodes(build, load)))
    assert 0 < areas.sum() <= intercepted[0] * 1.001


# --- its drawing ---


@every_kind
@pytest.mark.parametrize("sun", [NOON, None], ids=["noon", "night"])
def test_its_drawing_is_whole_and_every_part_is_named(kind, sun):
    build, load = specimen(kind)
    row = kind_of(build)
    section = row.section(build, load, sun)
    assert bool(section.rays) == (sun is not None)
    parts = {shape.part for shape in section.shapes} | {stuff.part for stuff in row.stuffs(build)}
    assert {part.rsplit("-", 1)[0] if part[-1].isdigit() else part for part in parts} <= set(row.parts)
    assert {arrow.account for arrow in section.arrows} <= set(accounts_of(build, load))
    told = {node.name for node in traced(build, load).network.readable} | {""}
    assert {shape.node for shape in section.shapes} <= told, "what is tinted by its warmth is in the network"
    fields = build.model_dump()
    for handle in section.handles:
        assert handle.field.split(".")[0] in fields


@every_kind
def test_its_flat_pattern_is_laid_out_or_refused_with_a_word(kind):
    build, _ = specimen(kind)
    pieces = kind_of(build).pattern(build)
    if pieces:
        assert laid_out("x", pieces).width_mm > 0
    else:
        with pytest.raises(InputProblem, match="no pattern"):
            laid_out("x", pieces)


# --- what it does ---


@every_kind
def test_a_day_is_forecast_planned_and_cautioned(kind):
    case = case_of(kind)
    outcome, run = forecast(case, DAY)
    assert run.energy_closure < 1e-6
    assert len(outcome.days) == 1
    assert outcome.stagnation_c > 30
    taken = sum(w.sum() for w in run.account_w.values())
    assert taken == pytest.approx(run.opening_w.sum(), rel=1e-6), "the ledger's accounts add up to the sun intercepted"
    parts = set(kind_of(case.build).parts)
    for flag in outcome.flags:
        assert (flag.part.rsplit("-", 1)[0] if flag.part[-1].isdigit() else flag.part) in parts, flag
        assert flag.text.endswith(".")
    levels = [["stop", "warn", "note"].index(f.level) for f in outcome.flags if f.part != "limits"]
    assert levels
    plan = day_plan(case.build, case.load, outcome)
    assert bool(plan) == (case.load is not None)
    assert [step.time for step in plan] == sorted(step.time for step in plan)


@every_kind
def test_sixteen_days_are_run_with_nothing_switched_off(kind):
    """Loads go in every day, and what somebody turns is turned to the last day."""
    case = case_of(kind).with_(span=Span(start=JUNE, days=16))
    weather = weather_for(case)
    outcome, run = forecast(case, weather, 3600.0)
    assert len(outcome.days) == 16
    assert run.energy_closure < 1e-6
    peaks = np.array([day.peak_c for day in outcome.days])
    if case.load is None or case.load.looked_days == 1:  # what dries for weeks lets the peak climb
        assert peaks[-1] == pytest.approx(peaks[8], abs=3.0, rel=0.1)  # what has boiled dry is as hot as the day has it
    if case.build.turns_every_minutes is not None:
        turned = {
            datetime.fromtimestamp(at.from_s, TERRACE.zone).date()
            for at in placements_of(None, case.build, weather)[1:]
        }
        assert len(turned) == 16
        one = simulate(case, weather_of(TERRACE, case.weather, Span(start=JUNE, step_s=300)))
        assert run.opening_w[: one.weather.steps].sum() == pytest.approx(one.opening_w.sum(), rel=0.02)


@every_kind
def test_each_parameter_it_calls_doubtful_moves_the_run(kind):
    build, _ = specimen(kind)
    case = case_of(kind)
    base = simulate(case, DAY)
    for parameter in kind_of(build).doubtful(build):
        moved = simulate(case.with_(calibration=Calibration.made({parameter.name: 1.4})), DAY)
        apart = max(np.nanmax(np.abs(moved.temperature_c[n] - base.temperature_c[n])) for n in base.temperature_c)
        assert apart > 0.01, f"{parameter.name} moves nothing"


# --- what is said of it ---


@every_kind
def test_every_change_can_be_built_and_is_ranked(kind):
    context = context_of(kind)
    offered = changes_of(context.build, context.load, context=context)
    found = weakest_link(context)
    assert {line.title for line in found.lines} == {change.title for change in offered}
    parts = set(kind_of(context.build).parts)
    assert {line.part for line in found.lines} <= parts
    ranks = [line.rank for line in found.lines if line.rank is not None]
    assert ranks == sorted(ranks)
    best_of = [max(line.gain for line in found.lines if line.rank == rank) for rank in dict.fromkeys(ranks)]
    assert best_of == sorted(best_of, reverse=True)
    assert found.counts


@every_kind
def test_schools_and_sayings_are_answered(kind):
    context = context_of(kind)
    asked = [school.name for school, _ in asked_of(context)]
    assert [answer.name for answer in schools_of(context)] == asked
    for line in sayings_of(context):
        assert line.words.endswith(".")
        assert line.ruling in ("holds", "holds partly", "does not matter here", "wrong")


@every_kind
def test_names_of_what_is_said_are_not_used_twice(kind):
    build, load = specimen(kind)
    for what in ("schools", "sayings", "cautions"):
        mine = getattr(advice_of(build), what)
        names = [entry.name for entry in (*mine, *getattr(advice_of_load(load), what))]
        names += [entry.name for entry in OF_EVERY_BUILD] if what == "cautions" else []
        assert len(set(names)) == len(names)


# --- how it is tried ---


def protocols_of(kind: str) -> list[str]:
    return [name for name, row in PROTOCOLS.items() if kind in row.kinds]


TRIED = [(kind, name) for kind in NAMES for name in protocols_of(kind)]


def _served(build: Build, load: Load, wanted: set[str]) -> int:
    """How many of the wanted channels a load has."""
    there = {place.channel.node for place in places(build, load)}
    return len(wanted & (there | set(load.readers())))


def read_by_stand_ins(kind: str, protocol: str) -> tuple[TrialFacts, list[ChannelFacts]]:
    """A trial of the specimen with a load that the protocol asks for, read by the stand-in instruments."""
    build, load = specimen(kind)
    row = PROTOCOLS[protocol]
    fitting = [one for one in loads().values() if one.sits in kind_of(build).offers]
    fitting = [load, *(one for one in fitting if one.kind != load.kind)] if load else fitting
    wanted = {channel.node for channel in row.channels}
    load = max(fitting, key=lambda one: _served(build, one, wanted), default=None) if row.needs_load else None
    begun = datetime(2025, 6, 12, 11, 0, tzinfo=TERRACE.zone)
    channels = [
        ChannelFacts(
            channel=c.name, title=c.title, node=c.node, is_control=c.is_control, doubt=INSTRUMENTS[c.instrument].doubt,
            quantity=INSTRUMENTS[c.instrument].quantity, times=[], values=[],
        )
        for c in usual_channels(row, build, load)
    ]  # fmt: skip
    facts = TrialFacts(
        name="t", protocol=protocol, started=begun, spot=None, weather=ClearDay(tmin_c=15, tmax_c=26), load=load,
        preheated=False, channels=channels, events=[],
    )  # fmt: skip
    return facts, channels


@pytest.mark.parametrize(("kind", "protocol"), TRIED, ids=[f"{k}-{p}" for k, p in TRIED])
def test_every_protocol_goes_through_to_its_verdict(kind, protocol, client):
    build, _ = specimen(kind)
    facts, channels = read_by_stand_ins(kind, protocol)
    minutes = [m for m in PROTOCOLS[protocol].reading_minutes if m <= 360.0] or [0.0, 10.0, 20.0, 30.0, 60.0]
    plan = [(float(m), c.channel) for m in minutes for c in channels]
    stored = client.post("/api/builds", json={"site_id": 1, "name": "x", "spec": build.model_dump(mode="json")})
    assert stored.status_code == 201, stored.text
    body = {
        "build_id": 1, "name": "t", "protocol": protocol, "started": facts.started.isoformat(),
        "weather": facts.weather.model_dump(mode="json"), "load": None if facts.load is None else facts.load.model_dump(mode="json"),
    }  # fmt: skip
    trial = client.post("/api/trials", json=body)
    assert trial.status_code == 201, trial.text
    assert [c["name"] for c in trial.get_json()["channels"]] == [c.channel for c in channels]
    quantities = {c.channel: c.quantity for c in channels}
    rows = [
        {"channel": s.channel, "value": s.value, "time": s.time.isoformat(), "unit": BASE_UNIT[quantities[s.channel]]}
        for s in read_plan(TERRACE, build, facts, Truth(noise_k=0.2, seed=5), plan)
    ]
    assert rows, "no channel of this protocol can be read of this kind"
    answer = client.post("/api/trials/1/readings", json={"source": "logger", "readings": rows})
    assert answer.status_code == 200, answer.text
    verdict = client.get("/api/trials/1/verdict")
    assert verdict.status_code == 200, verdict.text
    assert verdict.get_json()["headline"]
    assert verdict.get_json()["energy_closure"] < 1e-6


@every_kind
def test_it_has_a_way_to_be_tried(kind):
    assert "free-log" in protocols_of(kind)
    assert len(protocols_of(kind)) > 1


# --- over the wire and on the command line ---


@every_kind
def test_it_has_its_lane_in_the_yard_its_months_and_its_drawing(kind, client):
    build, load = specimen(kind)
    goods = None if load is None else load.model_dump(mode="json")
    spec = build.model_dump(mode="json")
    assert client.post("/api/builds", json={"site_id": 1, "name": "x", "spec": spec, "load": goods}).status_code == 201
    (line,) = client.get("/api/sites/1/yard?day=2025-06-12").get_json()["lines"]
    assert line["problem"] == []
    assert any(c is not None for c in line["outcome"]["temperature_c"])
    asked = {"site_id": 1, "spec": spec, "load": goods, "day": "2025-06-12"}
    assert client.post("/api/twin/day", json=asked).get_json()["outcome"]["energy_closure"] < 1e-6
    months = client.post("/api/twin/months", json=asked).get_json()["months"]
    assert months[5]["peak_c"] > months[11]["peak_c"] - 40
    at = (datetime(2025, 6, 12, 13, tzinfo=TERRACE.zone) + timedelta(hours=1)).isoformat()
    assert client.post("/api/twin/section", json={**asked, "at": at}).status_code == 200
    assert client.post("/api/advice/pointing", json={**asked, "at": at}).status_code == 200
    if load is not None:
        assert client.post("/api/advice/meal", json={**asked, "wanted": "15:00"}).status_code == 200


@every_kind
def test_it_runs_from_a_case_file(kind, tmp_path):
    path = tmp_path / "case.json"
    path.write_text(case_of(kind).model_dump_json())
    done = CliRunner().invoke(main, ["run", str(path)])
    assert done.exit_code == 0, done.output
    assert json.loads(done.output)["energy_closure"] < 1e-6
