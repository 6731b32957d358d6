"""The models at the edge: what goes out comes back, schemas say what is checked, errors stay readable."""

from __future__ import annotations

import json
from datetime import date, timedelta

import pytest
from pydantic import BaseModel, ValidationError

from drylamp.core import tables
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.registry import KINDS, kind_of
from drylamp.core.checks import InputProblem, explain, require, unknown_name
from drylamp.core.engine import run_case
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.outcome.summary import Outcome
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span, span_edges_s, step_length_s
from drylamp.core.twin.case import Case
from drylamp.demo.scenario import FIRST_OVEN, OVEN, SOUTHERN, STEW, TERRACE, WATER, example_case


@pytest.mark.parametrize("model", [TERRACE, SOUTHERN, OVEN, FIRST_OVEN, STEW, WATER, example_case()])
def test_what_goes_out_comes_back(model: BaseModel):
    assert type(model).model_validate_json(model.model_dump_json()) == model
    assert type(model).model_validate(json.loads(model.model_dump_json())) == model


def test_outcome_is_plain_json():
    outcome, _ = run_case(example_case())
    text = outcome.model_dump_json()
    assert "NaN" not in text
    assert "Infinity" not in text
    assert Outcome.model_validate_json(text).days == outcome.days


@pytest.mark.parametrize("model", [Site, BoxOven, PotLoad, ClearDay, Case])
def test_schemas_forbid_what_they_do_not_know(model: type[BaseModel]):
    schema = model.model_json_schema()
    assert schema["additionalProperties"] is False
    assert schema["properties"]


def test_models_cannot_be_changed_in_place():
    with pytest.raises(ValidationError, match="frozen"):
        OVEN.tilt_deg = 3.0


def test_kinds_are_a_registry():
    assert kind_of(OVEN) is KINDS["box-oven"]
    assert kind_of(OVEN).stagnation_node(OVEN) == "tray"
    assert all(kind.useful_account in kind.accounts for kind in KINDS.values())


def test_require_and_unknown_name():
    require(True, "x", "fine")
    with pytest.raises(InputProblem, match="x: too small"):
        require(False, "x", "too small")
    problem = unknown_name("cover", "glas", ["glass", "grass", "film"])
    assert explain(problem)[0].field == "cover"
    assert problem.message.index("glass") < problem.message.index("grass")
    assert "film" in unknown_name("cover", "zzz", ["film"]).message


def test_every_wrong_field_is_told_at_once():
    with pytest.raises(ValidationError) as caught:
        BoxOven.model_validate(
            {"facing_deg": 400, "tilt_deg": -1, "wall": [{"material": "plywood", "thickness_m": 0.01}]}
        )
    assert {p.field for p in explain(caught.value)} == {"facing_deg", "tilt_deg"}


@pytest.mark.parametrize(("days", "step"), [(1, 60.0), (14, 60.0), (15, 300.0), (366, 300.0)])
def test_long_spans_take_longer_steps(days: int, step: float):
    assert step_length_s(Span(start=date(2025, 1, 1), days=days)) == step


@pytest.mark.parametrize("days", [1, 7, 365])
def test_spans_run_from_midnight_to_midnight(days: int):
    from datetime import datetime

    first = date(2025, 1, 1)
    start, end = span_edges_s(TERRACE, Span(start=first, days=days))
    for edge, day in ((start, first), (end, first + timedelta(days=days))):
        local = datetime.fromtimestamp(edge, TERRACE.zone)
        assert (local.date(), local.hour, local.minute) == (day, 0, 0)


@pytest.mark.parametrize(
    "span", [{"start": "2025-02-30"}, {"start": "2025-01-01", "days": 400}, {"start": "2025-01-01", "step_s": 7}]
)
def test_impossible_spans(span: dict):
    with pytest.raises(ValidationError):
        Span.model_validate(span)


def test_properties_of_materials_are_physical():
    for row in tables.absorbers().values():
        assert 0 < row.absorptance <= 1
        assert 0 < row.emittance <= 1
    for sheet in tables.covers().values():
        assert sheet.emittance + sheet.longwave_transmittance <= 1
        assert 1.2 < sheet.index < 1.8
    for layer in tables.layers().values():
        assert layer.density_kg_m3 > 1
        assert 0.01 < layer.conductivity_w_mk < 400
    heavy = {"sheet-steel", "sheet-aluminium", "sheet-copper", "tinplate", "brick-layer"}
    insulation = [r for name, r in tables.layers().items() if name not in heavy]
    assert all(r.conductivity_w_mk < 0.2 for r in insulation)


def test_pot_of_water_has_the_heat_of_its_water():
    load = PotLoad(food="water", food_kg=2.0, pot_diameter_m=0.24)
    assert load.food_capacity_j_k == pytest.approx(2 * 4186)
    assert load.wetted_m2 > load.top_m2
    assert load.wanted_c == 95
    assert load.model_copy(update={"target_c": 70.0}).wanted_c == 70
    assert load.model_copy(update={"lid": "none"}).free_share == 1.0
    assert load.model_copy(update={"lid": "clear"}).absorptance < load.absorptance


def test_same_case_same_outcome():
    """No clock and no chance in the core: two runs agree to the last digit."""
    first, second = (run_case(example_case())[0] for _ in range(2))
    assert first == second


@pytest.mark.parametrize(("hour", "minute"), [("05", "00"), ("12", "30"), ("21", "45")])
def test_pot_may_go_in_at_any_hour(hour: str, minute: str):
    case = example_case()
    load = STEW.model_copy(update={"goes_in": f"{hour}:{minute}"})
    outcome, run = run_case(case.model_copy(update={"load": load}))
    contents = run.temperature_c["contents"]
    first = int(hour) * 60 + int(minute)
    assert contents[first] == pytest.approx(load.start_c)
    assert contents[first - 1] != contents[first - 1], "not there before"
    assert outcome.energy_closure < 1e-3


def test_evening_pot_does_not_get_hot():
    load = STEW.model_copy(update={"goes_in": "20:30"})
    outcome, _ = run_case(example_case().model_copy(update={"load": load}))
    assert outcome.days[0].enough is False
    assert outcome.days[0].peak_c < 60


def test_tables_are_as_large_as_the_trade_needs():
    sizes = {"absorbers": 20, "covers": 15, "mirrors": 12, "layers": 20}
    for name, least in sizes.items():
        table = getattr(tables, name)()
        assert len(table) >= least
        assert all(row.source and row.name == key for key, row in table.items())
        assert len({row.title for row in table.values()}) == len(table)
