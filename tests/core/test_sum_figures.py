"""Small figures of the sums: every sum has one, it is what the sum says, and it is that of the case in hand."""

from __future__ import annotations

import json
import runpy
import sys
from pathlib import Path

import pytest
from pydantic import ValidationError

from drylamp.core.checks import InputProblem
from drylamp.core.sums import SUMS, find_sum
from drylamp.core.sums.figures import FIGURES, curve_of, example_of

ROOT = Path(__file__).parents[2]


def test_every_sum_has_a_figure_of_an_input_and_an_answer_of_its_own():
    assert set(FIGURES) == set(SUMS)
    for name, figure in FIGURES.items():
        assert figure.over in SUMS[name].inputs.model_fields, name
        assert figure.shows in SUMS[name].result.model_fields, name
        assert set(figure.given) <= set(SUMS[name].inputs.model_fields) - {figure.over}, name


def test_kept_figures_are_what_the_sums_say(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(sys, "argv", ["write_sum_figures", str(tmp_path / "made.json")])
    runpy.run_path(str(ROOT / "scripts" / "write_sum_figures"))
    made = json.loads((tmp_path / "made.json").read_text(encoding="utf-8"))
    for name, answers in made.items():
        kept = example_of(SUMS[name]).answers
        assert [None if a is None else pytest.approx(a, rel=1e-3, abs=1e-6) for a in answers] == kept, (
            f"{name}: run scripts/write_sum_figures"
        )


@pytest.mark.parametrize("name", sorted(FIGURES))
def test_a_figure_can_be_seen(name: str):
    """All along it there is an answer, and it goes somewhere."""
    curve = example_of(SUMS[name])
    told = [answer for answer in curve.answers if answer is not None]
    assert len(told) == len(curve.at) >= 7
    assert max(told) - min(told) > 0.05 * max(abs(answer) for answer in told)


def test_what_is_typed_stands_in_place_of_the_example():
    quick = find_sum("heat-up")
    curve = curve_of(quick, {"mass_kg": 10.0, "power_w": 450.0})
    assert [a and a / 2 for a in curve.answers] == pytest.approx(example_of(quick).answers, rel=1e-4)
    assert curve.here == pytest.approx(0.25)
    exact = quick.run({"mass_kg": 10, "from_c": 15, "to_c": 95, "power_w": 450})["result"]
    assert curve.answers[6] == pytest.approx(exact["hours"], rel=1e-6)


@pytest.mark.parametrize("typed", [{"power_w": 5000.0}, {"power_w": "much"}, {}])
def test_what_lies_beside_the_figure_has_no_place_on_it(typed: dict[str, object]):
    assert curve_of(find_sum("heat-up"), typed).here is None


def test_where_the_sum_has_no_answer_there_is_a_gap():
    curve = curve_of(find_sum("mix"), {"want_c": 60.0})
    assert curve.answers[0] is None
    assert curve.answers[-1] is not None


def test_a_sum_that_has_no_answer_at_all_says_why():
    with pytest.raises((InputProblem, ValidationError), match="want_c"):
        curve_of(find_sum("mix"), {"want_c": 95.0})


def test_what_takes_long_is_shown_as_in_the_example():
    curve = curve_of(find_sum("tilt-schools"), {"latitude": 30.0, "longitude": 100.0})
    assert curve.answers == example_of(find_sum("tilt-schools")).answers
    assert curve.here == 0.5
