"""Proposals: each kind of load wished for, and the build that is proposed put to the twin once more."""

from __future__ import annotations

from datetime import date

import pytest

from drylamp.core.builds.common.pile.claims import Claim, unclaimed
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import KINDS, kind_of
from drylamp.core.builds.starters import starters
from drylamp.core.checks import InputProblem
from drylamp.core.long import whole
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.of_span import usual_weather_of, weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span
from drylamp.core.text import plain
from drylamp.core.twin.case import climate_day, usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.wish.could import could_build
from drylamp.core.wish.fitting import fittings
from drylamp.core.wish.propose import Proposals, propose
from drylamp.core.wish.sentence import read_wish
from drylamp.core.wish.tried import ends_of
from drylamp.demo.scenario import TERRACE

JUNE = date(2025, 6, 12)
PANES = Salvaged(name="old window", sort="pane", of="window-glass", count=2, long_m=1.1, wide_m=0.6)


def proposed(text: str, site: Site = TERRACE, pile: tuple[Salvaged, ...] = ()) -> Proposals:
    wish = read_wish(text)
    assert wish.good is not None, wish.ask
    return whole(propose(site, wish, pile, JUNE))


@pytest.mark.parametrize(
    ("text", "days"),
    [
        ("cook stew for 4 people", 1), ("melt 2 kg of cappings", 1), ("melt chocolate", 1), ("boil tea for two people", 1), ("warm water for three showers a day", 1),
        ("dry 3 kg of figs a week", 9), ("warm a tub to 30 °C", 7),
    ],
)  # fmt: skip
def test_what_is_proposed_meets_its_goal_in_the_twin(text: str, days: int):
    """Re-run apart from the search: on a clear day, or on a spell of another seed."""
    first = proposed(text).proposals[0]
    assert first.works
    span = Span(start=JUNE, days=days, step_s=300)
    weather = (
        weather_of(TERRACE, climate_day(TERRACE, JUNE), span) if days == 1 else usual_weather_of(TERRACE, span, 77)
    )
    run = simulate(usual_case(TERRACE, TERRACE.spots[0].name, first.spec, first.load, JUNE).with_(span=span), weather)
    assert outcome_of(first.load).done_at(first.load, run) is not None
    assert first.chance is not None
    assert first.chance >= 0.5
    assert first.low_days <= first.likely_days <= first.high_days
    assert first.buy == pytest.approx(first.price)


def test_panes_that_one_has_go_into_the_proposal_and_off_its_price():
    found = proposed("dry 3 kg of figs a week in September, I have two panes 60 × 110, up to 120 €")
    first = found.proposals[0]
    assert first.works
    assert first.beyond == []
    assert any("pane" in plain(words).lower() for words in first.uses)
    assert first.buy < first.price
    assert plain(found.said).startswith("Dry 3 kg of fig a week in September")


def test_what_is_dearer_than_allowed_says_so():
    found = proposed("cook stew for 4 people, up to 1 €, 1 hour of work")
    assert all(one.beyond for one in found.proposals if one.buy > 1.0)


def test_an_impossible_wish_says_so_with_the_best_there_is():
    north = TERRACE.model_copy(update={"latitude_deg": 64.0, "climate": None})
    found = proposed("bake bread in December", north)
    assert not any(one.works for one in found.proposals)
    told = plain(found.words[0])
    assert "In December nothing that is built here brings that off" in told
    assert "The best, " in told
    assert "It would work in" in told or "It works in no month" in told


def test_a_wish_without_a_good_is_refused():
    with pytest.raises(InputProblem, match="Say what it is to do"):
        whole(propose(TERRACE, read_wish("sing"), [], JUNE))


def test_the_first_proposal_comes_before_the_last():
    steps = list(propose(TERRACE, read_wish("melt 1 kg of cappings"), [], JUNE))
    shares = [step.share for step in steps]
    assert shares == sorted(shares)
    assert shares[-1] == 1.0
    assert steps[0].answer.proposals
    assert all(step.answer.words == [] for step in steps[:-1]), "nothing is called impossible before all is tried"


@pytest.mark.parametrize("kind", KINDS)
def test_a_kind_grows_and_shrinks_with_what_follows_from_it(kind: str):
    """Stretched by a half each way a build has 2.25 times the opening, or is not its builder's to choose; it can still be drawn and billed."""
    for starter in starters()[kind]:
        larger = starter.spec.stretched(1.5, 1.5)
        if larger is None or larger == starter.spec:
            continue
        assert 1.5 < larger.opening_m2 / starter.spec.opening_m2 < 3.5
        assert kind_of(larger).bill(larger)
        assert type(larger).model_validate(larger.model_dump()) == larger


@pytest.mark.parametrize("kind", KINDS)
def test_a_build_made_to_fit_panes_needs_panes_of_that_size(kind: str):
    """What is glazed to fit is closed by those panes, none bought."""
    for starter in starters()[kind]:
        for one in (fit for fit in fittings(starter.spec, [PANES]) if fit.is_fixed):
            assert one.layout is not None
            assert one.build.glazed_m == (
                pytest.approx(one.layout.wide_m, abs=0.002),
                pytest.approx(one.layout.long_m, abs=0.002),
            )


def test_the_pile_tells_what_could_be_built():
    hose = Salvaged(name="old hose", sort="pipe", of="black-pe", long_m=60.0)
    found = could_build(TERRACE, [PANES, hose], JUNE)
    assert found.found
    assert all(one.saved > 0.0 for one in found.found)
    assert any("60 m of hose" in plain(words) for one in found.found for words in one.words)
    works = [one.works for one in found.found]
    assert works == sorted(works, reverse=True)


def test_an_empty_pile_and_a_useless_one_say_what_is_missing():
    assert "Measure what lies about" in plain(could_build(TERRACE, [], JUNE).words[0])
    drum = Salvaged(name="oil drum", sort="drum", litres=200.0)
    told = plain(could_build(TERRACE, [drum], JUNE).words[0])
    assert "nothing fits" in told
    assert "What would:" in told


def test_what_is_set_aside_is_no_longer_there_for_others():
    assert unclaimed([PANES], [Claim(name="old window", count=1)])[0].count == 1
    assert unclaimed([PANES], [Claim(name="old window", count=5)]) == []
    assert unclaimed([PANES], [Claim(name="something else", count=1)]) == [PANES]


def test_ends_leave_out_what_never_came():
    ends = ends_of([1.0, None, 3.0, 2.0])
    assert (ends.likely, ends.chance) == (2.0, 0.75)
    assert ends_of([None, None]).likely is None


def test_more_than_anything_holds_is_said():
    found = proposed("bake 90 kg of bread")
    assert found.proposals == []
    assert "more than anything here holds" in plain(found.words[0])
