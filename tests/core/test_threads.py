"""Work done two at a time."""

from __future__ import annotations

import threading

import pytest

from drylamp.core.threads import two_at_a_time


def test_results_stand_in_the_order_of_the_items_whoever_is_done_first():
    second_done = threading.Event()

    def work(item: int) -> int:
        if item == 0:
            assert second_done.wait(20.0), "the second was never begun beside the first"
        second_done.set()
        return 10 * item

    assert two_at_a_time(work, range(5)) == [0, 10, 20, 30, 40]
    assert two_at_a_time(work, []) == []


def test_what_one_of_them_raises_is_raised():
    def work(item: int) -> int:
        if item == 2:
            raise ValueError("of the third")
        return item

    with pytest.raises(ValueError, match="of the third"):
        two_at_a_time(work, range(4))
