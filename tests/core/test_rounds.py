"""Rounds over samples: drift taken out, spoilt rounds left out, differences with their doubt, fading over weeks."""

from datetime import timedelta

import pytest

from drylamp.core.builds.samples.spec import shuffled
from drylamp.core.tables import Absorber
from drylamp.core.trials.facts import EventFacts
from drylamp.core.trials.rounds import fading, find_rounds, next_in_round, rank
from drylamp.core.trials.verdict import judge
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import LIDS, LIDS_TRUTH, TERRACE
from drylamp.instruments.logger import Truth
from tests.core.making import ROUNDS, START, filled, minutes_after, walked, with_event
from tests.wording import read

STILL = Truth(calibration=Calibration(), noise_k=0.0, seed=1)
QUIET = Truth(calibration=Calibration(), noise_k=0.1, seed=1)


def test_a_round_stamps_each_sample_and_reads_the_first_again():
    facts = walked(STILL, [30.0, 40.0])
    first, second = find_rounds(facts, LIDS)
    assert set(first.readings) == {s.name for s in LIDS.samples}
    bare = next(c for c in facts.channels if c.channel == "bare")
    assert len(bare.times) == 4
    assert bare.times[1] - bare.times[0] == timedelta(seconds=7 * 12)
    assert first.moved_k == pytest.approx(bare.values[1] - bare.values[0], abs=0.01)
    assert second.number == 2


def test_drift_within_a_round_is_taken_off():
    """Two equal samples read a minute apart while all warms: their difference is not the warming."""
    facts = walked(STILL, [3.0])
    held = find_rounds(facts, LIDS)[0].readings
    raw = {c.channel: c.values[0] for c in facts.channels if c.channel in held}
    middle = 3.0 + 3.5 * 12 / 60
    true = {
        c.channel: c.values[0]
        for c in filled(facts, STILL, [(middle, name) for name in held], LIDS).channels
        if c.times
    }
    off = abs((held["optical"] - held["stove"]) - (true["optical"] - true["stove"]))
    assert abs((raw["optical"] - raw["stove"]) - (true["optical"] - true["stove"])) > 1.0
    assert off < 0.5


@pytest.mark.parametrize(("kind", "minute", "spoilt"), [("gust", 40.5, 2), ("cloud", 49.0, 3), ("note", 40.5, None)])
def test_rounds_with_a_gust_or_a_cloud_do_not_count(kind: str, minute: float, spoilt: int | None):
    facts = with_event(walked(QUIET, ROUNDS), kind, minute)
    left = [r.number for r in find_rounds(facts, LIDS) if r.left_out]
    assert left == ([] if spoilt is None else [spoilt])
    assert rank(facts, LIDS).rounds_used == 4 - len(left)


def test_the_black_ones_beat_the_bare_one_and_not_each_other():
    ranking = rank(walked(QUIET, ROUNDS), LIDS)
    lines = {line.sample: line for line in ranking.lines}
    assert all(lines[s.name].real for s in LIDS.samples if s.name != "bare")
    assert lines["bare"].over_control_k is None
    assert "does not pay" in ranking.pays
    assert read(ranking.pays).startswith("optical black costs 34.80 €")


def test_a_real_lead_of_a_dear_coating_is_priced():
    truth = Truth(
        calibration=Calibration(parts={"absorptance:sample-optical": 1.0, "emittance:sample-optical": 0.2}),
        noise_k=0.05,
        seed=2,
    )
    ranking = rank(walked(truth, [25.0, 30.0, 35.0, 40.0, 45.0, 50.0, 55.0, 60.0]), LIDS)
    assert ranking.lines[0].sample == "optical"
    assert "€ for 1 m² and 1 K" in read(ranking.pays)
    top = ranking.lines[0]
    assert top.price_per_k == pytest.approx(38.0 / top.over_control_k, abs=0.01)


@pytest.mark.parametrize("seed", range(6))
def test_alike_samples_are_not_told_apart(seed: int):
    """Six lids of one finish: no difference is called real."""
    alike = LIDS.model_copy(
        update={"samples": [s.model_copy(update={"finish": "flat-black-paint"}) for s in LIDS.samples]}
    )
    ranking = rank(walked(Truth(calibration=Calibration(), noise_k=0.3, seed=seed), ROUNDS, alike), alike)
    assert not any(line.real for line in ranking.lines)


def test_small_differences_say_what_it_would_take():
    lines = rank(walked(Truth(calibration=Calibration(), noise_k=1.5, seed=3), ROUNDS), LIDS).lines
    small = [line for line in lines if line.real is False]
    assert all(
        "pairs like these" in line.to_tell or "alike" in line.to_tell or "hundreds" in line.to_tell for line in small
    )


def test_probes_of_their_own_put_their_doubt_on_the_difference():
    one = rank(walked(QUIET, ROUNDS), LIDS).lines[0].doubt_k
    own = rank(walked(QUIET, ROUNDS, device=""), LIDS).lines[0].doubt_k
    assert own > 1.4 > one


def test_nothing_to_rank_without_the_control():
    facts = walked(QUIET, ROUNDS)
    without = [c for c in facts.channels if c.channel != "bare"]
    assert rank(facts.model_copy(update={"channels": without}), LIDS) is None


def test_places_are_drawn_by_lot_and_the_same_for_one_seed():
    names = [[s.name for s in shuffled(LIDS.samples, seed)] for seed in (1, 1, 2, 3)]
    assert names[0] == names[1]
    assert names[0] != names[2] or names[0] != names[3]
    assert sorted(names[2]) == sorted(s.name for s in LIDS.samples)


def test_which_sample_comes_next():
    order = ["a", "b", "board"]
    assert next_in_round(order, [], 0) == "a"
    assert next_in_round(order, [(0, "a")], 10) == "b"
    assert next_in_round(order, [(0, "b"), (12, "a")], 20) == "board"
    assert next_in_round(order, [(0, "a"), (12, "b"), (24, "board")], 30) == "a"
    assert next_in_round(order, [(0, "a"), (12, "b"), (24, "board"), (36, "a")], 40) is None
    assert next_in_round(order, [(0, "a"), (12, "b"), (24, "board"), (36, "a")], 900) == "a"
    assert next_in_round([], [], 0) is None


def weeks(loss_per_week: float):
    """Five rounds a week apart; satin takes up less from week to week."""
    whole = None
    for week in range(5):
        truth = Truth(
            calibration=Calibration(parts={"absorptance:sample-satin": 1.0 - loss_per_week * week}),
            noise_k=0.1,
            seed=week,
        )
        start = START + timedelta(weeks=week)
        part = walked(truth, [45.0], protocol="endurance", start=start)
        if whole is None:
            whole = part
        else:
            joined = [
                a.model_copy(update={"times": a.times + b.times, "values": a.values + b.values})
                for a, b in zip(whole.channels, part.channels, strict=True)
            ]
            whole = whole.model_copy(update={"channels": joined})
    return whole


def test_a_coating_that_fades_is_found_and_one_that_holds_is_not_blamed():
    found = {f.sample: f for f in fading(weeks(0.06), LIDS)}
    assert found["satin"].real
    assert found["satin"].per_week_k < -0.3
    assert "losing its lead" in found["satin"].words
    assert not found["stove"].real
    assert "holds its lead" in found["stove"].words


def test_remarks_stand_beside_the_numbers():
    facts = weeks(0.0)
    event = EventFacts(kind="flake", time=minutes_after(20000), note="at the rim", channel="sample-chalk")
    found = {f.sample: f for f in fading(facts.model_copy(update={"events": [event]}), LIDS)}
    assert "flake (at the rim)" in found["chalk"].words
    assert found["stove"].remarks == []


def test_endurance_verdict_names_the_worst():
    figures = {f.name: f for f in judge(TERRACE, LIDS, weeks(0.06)).figures}
    assert figures["endurance"].passed is False
    assert figures["endurance"].title.startswith("satin black")


def test_the_demo_lids_find_what_is_hidden():
    """The dull bare lid takes up more than listed; the dear black does not."""
    verdict = judge(TERRACE, LIDS, walked(LIDS_TRUTH, [5, 10, 30, 45, 60]))
    finishes = {f.sample: f for f in verdict.finishes}
    hidden = {"bare": 0.40 * 1.12, "chalk": 0.94 * 0.985, "optical": 0.98 * 0.985, "stove": 0.95}
    for name, true in hidden.items():
        assert finishes[name].absorptance.low <= true <= finishes[name].absorptance.high + 1e-9, name
    assert all(f.emittance is None for f in finishes.values())
    for found in finishes.values():  # ready for the shelf, doubt and all
        row = Absorber.model_validate(found.row.model_dump())
        assert row.absorptance == found.absorptance.value
        assert row.absorptance_doubt == pytest.approx((found.absorptance.high - found.absorptance.low) / 3.92, abs=1e-3)
        assert row.title.endswith(", as measured")
    assert "only readings of warm samples after dark" in " ".join(verdict.sentences)
