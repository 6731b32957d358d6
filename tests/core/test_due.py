"""When the next reading is due: rounds are done when every wanted channel was read, and no early value silences an alarm."""

from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.trials.due import begins, due, wanted_of

PLANNED = [0.0, 5.0, 10.0, 30.0, 60.0]
BOTH = ["tray", "inside-air"]


def test_a_round_waits_for_every_channel():
    assert due(PLANNED, 0, {}, BOTH).missing == BOTH
    half = due(PLANNED, 1, {"tray": 0.5}, BOTH)
    assert (half.done, half.minute, half.missing) == (0, 0, ["inside-air"])
    whole = due(PLANNED, 1, {"tray": 0.5, "inside-air": 0.8}, BOTH)
    assert (whole.done, whole.minute, whole.missing) == (1, 5, [])


def test_an_early_value_does_not_eat_the_next_alarm():
    """Read at 0 and, curious, at 20: the reading at 30 is due all the same."""
    early = due(PLANNED, 20, {"tray": 20, "inside-air": 20}, BOTH)
    assert early.minute == 30
    assert due(PLANNED, 30, {"tray": 20, "inside-air": 20}, BOTH).missing == BOTH
    a_little = due(PLANNED, 29, {"tray": 27, "inside-air": 28}, BOTH)
    assert (a_little.minute, a_little.done) == (60, 4), "a few minutes before it is that reading"


def test_a_missed_round_is_over_when_the_next_begins_and_the_last_stays_due():
    assert due(PLANNED, 26, {"tray": 0, "inside-air": 0}, BOTH).minute == 30
    assert due(PLANNED, 400, {"tray": 31, "inside-air": 31}, BOTH).minute == 60
    assert due(PLANNED, 400, {"tray": 61, "inside-air": 62}, BOTH).minute is None


def test_without_planned_times_nothing_is_missing():
    free = due([], 17, {"tray": 3}, BOTH)
    assert (free.minute, free.missing) == (17, [])


def test_channels_wanted_are_those_asked_for_and_those_begun():
    channels = [("tray", "tray"), ("inside", "inside-air"), ("sun", "sun")]
    assert wanted_of(channels, ["tray", "inside-air"], {}) == ["tray", "inside"]
    assert wanted_of(channels, ["tray", "inside-air"], {"sun": 2.0}) == ["tray", "inside", "sun"]
    assert wanted_of(channels, ["pot"], {}) == ["tray", "inside", "sun"]


@given(st.lists(st.floats(0.5, 100), min_size=1, max_size=12), st.floats(0, 2000))
def test_each_instant_belongs_to_one_round_and_later_never_to_an_earlier(gaps: list[float], minute: float):
    planned = [0.0]
    for gap in gaps:
        planned.append(planned[-1] + gap)
    starts = begins(planned)
    assert starts == sorted(starts)
    assert all(start <= at for start, at in zip(starts, planned, strict=True))
    now, later = due(planned, minute, {}, BOTH), due(planned, minute + 1, {}, BOTH)
    assert now.done <= later.done
    assert now.minute == planned[now.done]
