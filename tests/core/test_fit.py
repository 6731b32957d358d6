"""The fit finds what the stand-ins hide, says how sure it is, and says when it cannot tell."""

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.trials.beside import beside
from drylamp.core.trials.fit import fit
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import OVEN, STEW, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import blank, channel, filled, logged

THREE = ["optical", "loss", "leak"]


def fitted(facts, names=None):
    return fit(beside(TERRACE, OVEN, facts), names)


@pytest.mark.parametrize(
    "hidden", [{"leak": 4.0}, {"optical": 0.8}, {"loss": 1.3}, {"optical": 0.94, "loss": 1.05, "leak": 4.0}]
)
def test_hidden_parameters_lie_in_their_interval_for_most_seeds(hidden: dict[str, float]):
    """All three lie in intervals that hold each in 19 cases of 20; the bench runs a hundred seeds and counts both ways."""
    hits = 0
    for seed in range(10):
        truth = Truth(calibration=Calibration(**hidden), noise_k=0.4, bias=1.0, seed=seed)
        found = fitted(logged(truth), THREE)
        hits += all(found.of(name).low <= hidden.get(name, 1.0) <= found.of(name).high for name in THREE)
    assert hits >= 8


@pytest.mark.parametrize(("hidden", "cause"), [({"leak": 5.0}, "leak"), ({"optical": 0.75}, "optical"), ({}, "")])
def test_the_cause_is_named(hidden: dict[str, float], cause: str):
    found = fitted(logged(Truth(calibration=Calibration(**hidden), noise_k=0.3, seed=3)))
    assert found.cause == cause
    assert found.rms_after_k < 2.5
    assert found.rms_after_k <= found.rms_before_k + 0.2


def test_a_leaky_seal_says_what_to_do():
    words = fitted(logged(Truth(calibration=Calibration(leak=5.0), noise_k=0.3, seed=3))).words
    assert "more air leaks than the twin thinks" in words
    assert "renew the seal" in words


def test_what_the_readings_do_not_tell_is_said():
    """An hour of warming says nothing of losses that have not begun."""
    short = logged(Truth(calibration=Calibration(), noise_k=0.5, seed=1), ("contents",), hours=0.7, load=STEW)
    found = fitted(short, ["optical", "loss", "leak"])
    assert any("do not tell" in w for w in found.warnings)
    assert not found.of("loss").told


def test_parameters_that_push_alike_are_told_apart_by_another_trial():
    facts = logged(Truth(calibration=Calibration(), noise_k=0.5, seed=1), ("tray",), hours=1.0)
    warnings = " ".join(fitted(facts, THREE).warnings)
    assert "push these readings the same way" in warnings
    assert "tell them apart" in warnings


def test_four_parameters_at_once():
    found = fitted(logged(Truth(calibration=Calibration(mass=1.3), noise_k=0.3, seed=2), hours=7), [*THREE, "mass"])
    assert found.of("mass").low <= 1.3 <= found.of("mass").high
    assert found.calibration.mass == found.of("mass").value


def test_the_channels_own_error_is_not_blamed_on_the_oven():
    """Probes that all read 2 K high, within their doubt, leave the parameters within theirs."""
    facts = logged(Truth(calibration=Calibration(), noise_k=0.2, seed=5))
    high = [c.model_copy(update={"values": [v + 2 for v in c.values], "doubt": 3.0}) for c in facts.channels]
    found = fitted(facts.model_copy(update={"channels": high}))
    assert found.cause == ""


def test_cooling_tells_losses_from_sun():
    """With the sun kept off, the loss is found and the sun's share stays open."""
    facts = blank([channel("tray"), channel("inside-air"), channel("air")], "cool-down")
    plan = [(float(m), n) for m in (0, 5, 10, 15, 20, 30, 45, 60, 90, 120) for n in ("tray", "inside-air", "air")]
    facts = filled(facts, Truth(calibration=Calibration(loss=1.5), noise_k=0.2, seed=4), plan)
    found = fit(beside(TERRACE, OVEN, facts), ["loss", "leak"])
    assert found.of("loss").value > 1.15
    assert found.of("loss").departs


def test_wrong_names_and_too_few_readings():
    facts = logged(Truth(seed=1), hours=0.3)
    with pytest.raises(InputProblem, match="'colour' is not known; allowed: optical, loss, leak, mass"):
        fitted(facts, ["colour"])
    few = logged(Truth(seed=1), ("tray",), hours=0.2)
    with pytest.raises(InputProblem, match="fitting 3 parameters needs at least 4"):
        fitted(few, THREE)


def test_the_same_readings_give_the_same_fit():
    facts = logged(Truth(seed=9))
    assert fitted(facts) == fitted(facts)
